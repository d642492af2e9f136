import { z } from "zod";
import { type TaggedField, refusedWith, taggedFields } from "../../core/design/taggedFields";
import { KnownField } from "./KnownField";
import { QuantityField } from "./QuantityField";
import { Line } from "./FormParts";

type Kinds = Parameters<typeof refusedWith>[0];
type Thing = Parameters<typeof refusedWith>[1];

/**
 * The figures of a thing that is of one of several kinds: those of its kind and no others, each refused where the
 * whole cannot be.
 */
export function TaggedForm({
  kinds,
  thing,
  put,
  named = (label) => label,
  empty = "not measured",
  also = () => null,
}: {
  kinds: Kinds;
  thing: Thing;
  put: (key: string, value: unknown) => void;
  /** a field's own name, where its label alone would not tell it from another's */
  named?: (label: string) => string;
  /** what stands in a field that may be left empty */
  empty?: string;
  /** why a number cannot be for what the thing itself does not know; null: it can */
  also?: (key: string, value: number) => string | null;
}) {
  return taggedFields(kinds, thing).map((f) => (
    <FieldOf
      key={f.key}
      field={f}
      name={named(f.label)}
      empty={empty}
      put={(v) => put(f.key, v)}
      schema={z.number().superRefine((v, ctx) => {
        const because = refusedWith(kinds, thing, f.key, v) ?? also(f.key, v);
        if (because !== null) ctx.addIssue({ code: "custom", message: because });
      })}
    />
  ));
}

function FieldOf({
  field: f,
  name,
  schema,
  put,
  empty,
}: {
  field: TaggedField;
  name: string;
  schema: z.ZodType<number>;
  put: (value: unknown) => void;
  empty: string;
}) {
  if (f.options)
    return (
      <Line label={f.label}>
        <select className="box" aria-label={name} value={String(f.value)} onChange={(e) => put(e.target.value)}>
          {f.options.map((o) => (
            <option key={o}>{o}</option>
          ))}
        </select>
      </Line>
    );
  if (f.known && typeof f.value === "object" && f.value !== null)
    return (
      <Line label={f.label} hint={f.hint}>
        <span className="flex items-center gap-1">
          <KnownField label={name} value={f.value} dimension={f.dimension} schema={schema} onCommit={put} />
          {f.optional && (
            <button type="button" className="link" aria-label={`${name}: ${empty}`} onClick={() => put(null)}>
              ×
            </button>
          )}
        </span>
      </Line>
    );
  return (
    <Line label={f.label} hint={f.hint}>
      <QuantityField
        boxed
        label={name}
        value={typeof f.value === "number" ? f.value : null}
        dimension={f.dimension}
        schema={schema}
        empty={f.optional || f.known ? empty : undefined}
        onCommit={(v) => {
          if (v !== null) put(f.known ? { value: v, evidence: "measured" } : v);
          else if (f.optional) put(null);
        }}
      />
    </Line>
  );
}
