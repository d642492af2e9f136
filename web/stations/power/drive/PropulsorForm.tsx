import { z } from "zod";
import type { Unit } from "../../../../core/design/schema";
import type { Propulsor } from "../../../../core/subjects/propulsion/kinds/declares";
import { type KindField, kindFields, refusedWith } from "../../../../core/subjects/propulsion/kinds/fields";
import { kindOf } from "../../../../core/subjects/propulsion/kinds/models";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { Group, Line } from "../../../fields/FormParts";

/** The figures of what a drive turns: those of its kind and no others, each refused where the whole cannot be. */
export function PropulsorForm({
  propulsor,
  drive,
}: {
  propulsor: Propulsor;
  drive: (mutate: (u: Unit) => void) => void;
}) {
  const { word, range } = kindOf(propulsor);
  const put = (key: string, value: unknown) =>
    drive((u) => {
      if (u.propulsor) Object.assign(u.propulsor, { [key]: value });
    });
  return (
    <Group title={word.charAt(0).toUpperCase() + word.slice(1)}>
      {kindFields(propulsor).map((f) => (
        <FieldOf key={f.key} field={f} propulsor={propulsor} put={(v) => put(f.key, v)} />
      ))}
      <small className="mt-1 block text-[11px] text-pencil">{range}</small>
    </Group>
  );
}

function FieldOf({
  field: f,
  propulsor,
  put,
}: {
  field: KindField;
  propulsor: Propulsor;
  put: (value: unknown) => void;
}) {
  const schema = z.number().superRefine((v, ctx) => {
    const because = refusedWith(propulsor, f.key, v);
    if (because !== null) ctx.addIssue({ code: "custom", message: because });
  });
  if (f.options)
    return (
      <Line label={f.label}>
        <select className="box" aria-label={f.label} value={String(f.value)} onChange={(e) => put(e.target.value)}>
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
          <KnownField label={f.label} value={f.value} dimension={f.dimension} schema={schema} onCommit={put} />
          {f.optional && (
            <button type="button" className="link" aria-label={`${f.label}: not measured`} onClick={() => put(null)}>
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
        label={f.label}
        value={typeof f.value === "number" ? f.value : null}
        dimension={f.dimension}
        schema={schema}
        empty={f.optional ? "not measured" : undefined}
        onCommit={(v) => {
          if (v !== null) put(f.known ? { value: v, evidence: "measured" } : v);
          else if (f.optional) put(null);
        }}
      />
    </Line>
  );
}
