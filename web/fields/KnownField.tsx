import type { z } from "zod";
import type { Known } from "../../core/design/evidence";
import type { Dimension } from "../../core/design/units";
import { EvidenceSelect } from "./EvidenceSelect";
import { QuantityField } from "./QuantityField";

/** A number with how it is known. A newly typed value drops the old ±; its evidence stays as chosen. */
export function KnownField({
  label,
  value,
  dimension,
  schema,
  onCommit,
  disabled,
}: {
  label: string;
  value: Known;
  dimension: Dimension;
  schema?: z.ZodType<number>;
  onCommit: (known: Known) => unknown;
  disabled?: boolean;
}) {
  return (
    <span className="flex items-center gap-1">
      <QuantityField
        boxed
        label={label}
        value={value.value}
        dimension={dimension}
        schema={schema}
        disabled={disabled}
        onCommit={(v) => v !== null && onCommit(renewed(value, v))}
      />
      <EvidenceSelect
        label={`${label}, known by`}
        value={value.evidence}
        disabled={disabled}
        onChange={(evidence) => onCommit({ value: value.value, evidence, note: value.note })}
      />
    </span>
  );
}

/** The known value with another number. A calculated one becomes a guess: what was typed was not computed. */
export function renewed(known: Known, value: number): Known {
  return {
    value,
    evidence: known.evidence === "calculated" || known.evidence === "proven" ? "guess" : known.evidence,
    note: known.note,
  };
}
