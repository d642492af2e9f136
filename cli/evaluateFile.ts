import { craftFileSchema } from "../core/design/craftFile";
import { METRICS, type MetricKey } from "../core/design/metrics";
import { SI } from "../core/design/units";
import { evaluate } from "../core/evaluate";
import { findingText, remedyText } from "../core/wording/findings";

export type Outcome = { ok: true; output: unknown } | { ok: false; why: string };

/** Every computed result (SI value, standard uncertainty, unit, evidence) and verdict of one version of a craft file. */
export function evaluateFile(text: string, label: string | undefined): Outcome {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return { ok: false, why: "is not JSON" };
  }
  const checked = craftFileSchema.safeParse(parsed);
  if (!checked.success) {
    const issue = checked.error.issues[0];
    return { ok: false, why: `${issue?.path.join(".") || "file"}: ${issue?.message ?? "not valid"}` };
  }
  const { versions, craft } = checked.data;
  const version = label === undefined ? versions.at(-1) : versions.find((v) => v.label === label);
  if (!version) return { ok: false, why: `has no version ${label}; it has ${versions.map((v) => v.label).join(", ")}` };
  const parent = versions.find((v) => v.label === version.parent);
  const parentAuw = parent && evaluate(parent.design).metrics.auw;
  const evaluation = evaluate(version.design, { parentMass: parent && parentAuw ? { label: parent.label, mass: parentAuw.value } : null });
  const results = Object.fromEntries(
    (Object.keys(METRICS) as MetricKey[]).flatMap((key) => {
      const q = evaluation.metrics[key];
      return q ? [[key, { value: q.value, uncertainty: q.sd, unit: SI[q.dimension], evidence: q.evidence, outside: q.working?.outside ?? [] }]] : [];
    }),
  );
  return {
    ok: true,
    output: {
      craft: craft.name,
      version: version.label,
      results,
      targets: evaluation.targets.map(({ target, status, margin, odds }) => ({ metric: target.metric, status, margin, odds, unit: SI[METRICS[target.metric].dimension] })),
      verdicts: evaluation.findings.map((f) => ({
        code: f.code,
        severity: f.severity,
        station: f.station,
        sentence: findingText(f),
        figure: f.figure && { label: f.figure.label, value: f.figure.value, uncertainty: f.figure.sd, unit: SI[f.figure.dimension], limit: f.figure.limit ?? null },
        remedies: f.remedies.map((r) => ({ sentence: remedyText(r), patch: r.patch })),
      })),
    },
  };
}
