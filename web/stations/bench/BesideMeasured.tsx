import type { ReactNode } from "react";

/** Rows of what was found on the bench beside what is predicted of it. */
export function BesideMeasured({ children }: { children: ReactNode }) {
  return (
    <table className="rows w-full max-w-[480px]">
      <thead>
        <tr>
          <th />
          <th>predicted</th>
          <th>measured</th>
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}
