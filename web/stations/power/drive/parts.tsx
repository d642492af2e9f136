import type { ReactNode } from "react";
import { useDesk } from "../../../app/desk";

/** A field with what it is. */
export function Line({ label, hint, children }: { label: string; hint?: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[118px_1fr] items-center gap-2">
      <span>{label}</span>
      <div className="min-w-0">
        {children}
        {hint && <small className="block text-[11px] text-pencil">{hint}</small>}
      </div>
    </div>
  );
}

/** Fields that belong together. */
export function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="mb-1 font-semibold text-ink">{title}</legend>
      {children}
    </fieldset>
  );
}

/** Entries of the ledger, to choose from. */
export const useEntries = () => {
  const { design } = useDesk();
  return design.items.map((i) => (
    <option key={i.id} value={i.id}>
      {i.name}
    </option>
  ));
};
