import type { ReactNode } from "react";
import type { z } from "zod";
import { type Known, positiveOf } from "../../core/design/evidence";
import type { Dimension } from "../../core/design/units";
import { KnownField } from "./KnownField";
import { QuantityField } from "./QuantityField";
import { useDesk } from "../app/desk";

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

interface LineProps<T> {
  label: string;
  /** the field's own name, where the label alone would not tell it from another */
  name?: string;
  hint?: string;
  value: T;
  dimension: Dimension;
  schema?: z.ZodType<number>;
}

/** A figure with how it is known, on its line; anything positive where no schema says otherwise. */
export function KnownLine({
  label,
  name = label,
  hint,
  schema,
  ...field
}: LineProps<Known> & { onCommit: (known: Known) => unknown }) {
  return (
    <Line label={label} hint={hint}>
      <KnownField label={name} schema={schema ?? positiveOf(field.dimension)} {...field} />
    </Line>
  );
}

/** A number that is what it is, on its line; it cannot be left empty. */
export function NumberLine({
  label,
  name = label,
  hint,
  onCommit,
  ...field
}: LineProps<number> & { onCommit: (value: number) => unknown }) {
  return (
    <Line label={label} hint={hint}>
      <QuantityField boxed label={name} onCommit={(v) => v !== null && onCommit(v)} {...field} />
    </Line>
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

/** A small drawing with its word that is chosen: alone among others, or beside them. */
export function Picture({
  kind,
  name,
  word,
  drawing,
  chosen,
  onChoose,
}: {
  kind: "radio" | "checkbox";
  name?: string;
  word: string;
  drawing: readonly string[];
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <label
      className={
        "flex w-[66px] cursor-pointer flex-col items-center gap-1 border p-1 text-center text-[11px] " +
        "leading-[13px] focus-within:outline-2 focus-within:outline-pencil " +
        `${chosen ? "border-accent font-semibold text-accent" : "border-hair text-ink"}`
      }
    >
      <input type={kind} className="sr-only" name={name} checked={chosen} onChange={onChoose} />
      <svg width="50" height="40" viewBox="0 0 50 40" aria-hidden="true" fill="none" stroke="currentColor">
        {drawing.map((d) => (
          <path key={d} d={d} strokeWidth="1.4" />
        ))}
      </svg>
      {word}
    </label>
  );
}

/** One of several, chosen by a small drawing. */
export function Choices<T>({
  legend,
  care,
  name,
  options,
  chosen,
  onChoose,
  children,
  data,
}: {
  legend: string;
  /** the choice is still wanted */
  care?: boolean;
  name: string;
  options: readonly { value: T; word: string; drawing: readonly string[] }[];
  chosen: T | undefined;
  onChoose: (value: T) => void;
  children?: ReactNode;
  data?: Record<`data-${string}`, string>;
}) {
  return (
    <fieldset className="col-span-full" {...data}>
      <legend className={`mb-1 font-semibold ${care ? "text-care" : "text-ink"}`}>{legend}</legend>
      <div className="flex flex-wrap gap-1.5">
        {options.map((o) => (
          <Picture
            key={o.word}
            kind="radio"
            name={name}
            word={o.word}
            drawing={o.drawing}
            chosen={o.value === chosen}
            onChoose={() => onChoose(o.value)}
          />
        ))}
      </div>
      {children}
    </fieldset>
  );
}

/** The entry of the ledger that is this part; `empty` says what stands for none. */
export function EntryOf({
  label,
  value,
  empty,
  onChange,
}: {
  label: string;
  value: string | null;
  empty: string;
  onChange: (id: string | null) => void;
}) {
  const { design } = useDesk();
  return (
    <Line label="Part in the mass list">
      <select className="box" aria-label={label} value={value ?? ""} onChange={(e) => onChange(e.target.value || null)}>
        <option value="">{empty}</option>
        {design.items.map((i) => (
          <option key={i.id} value={i.id}>
            {i.name}
          </option>
        ))}
      </select>
    </Line>
  );
}
