import { DISPLAY } from "../../../core/design/units";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** Prints the sheet of the open test, and nothing else. */
export function printSheet(): void {
  document.documentElement.dataset.print = "sheet";
  window.addEventListener("afterprint", () => delete document.documentElement.dataset.print, { once: true });
  window.print();
}

/** A sheet for the clipboard: what to read, with boxes to fill in by hand. On paper only. */
export function ClipboardSheet({
  title,
  columns,
  rows,
  checks = [],
}: {
  title: string;
  columns: readonly string[];
  rows: readonly string[];
  checks?: readonly string[];
}) {
  const { file, version } = useDesk();
  const { habit } = usePreferences();
  return (
    <section className="print-only" aria-hidden="true">
      <h2>
        {file.craft.name} {version.label}: {title}
      </h2>
      <p className="clip-head">
        Date ____________ Place ____________________ Air ______ {DISPLAY[habit].temperature} Pack ____________ By
        ____________________
      </p>
      {checks.length > 0 && (
        <ul className="clip-checks">
          {checks.map((c) => (
            <li key={c}>☐ {c}</li>
          ))}
        </ul>
      )}
      <table className="clip">
        <thead>
          <tr>
            <th />
            {columns.map((c) => (
              <th key={c}>{c}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((r, k) => (
            <tr key={`${r}${k}`}>
              <th>{r}</th>
              {columns.map((c) => (
                <td key={c} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="clip-head">Notes</p>
    </section>
  );
}
