import type { CraftFile, Version } from "../core/design/craftFile";
import { inState } from "../core/design/inState";
import type { Design } from "../core/design/schema";
import { openCraftFile } from "../core/design/openFile";
import { METRICS, type MetricKey } from "../core/design/metrics";
import { storedUnit, takeMoney } from "../core/design/money";
import { type Evaluation, evaluate, parentMassOf } from "../core/evaluate";
import { findingText, remediesFor } from "../core/evaluate";
import { whyNone } from "../core/subject";
import { buildReport } from "../core/wording/report";

export type Outcome = { ok: true; output: unknown } | { ok: false; why: string };

interface Opened {
  file: CraftFile;
  version: Version;
  /** as it is in the state that was asked for */
  design: Design;
  evaluation: Evaluation;
}

/** Reads a craft file and evaluates one version of it as the application does; or why that cannot be. */
function openFile(
  text: string,
  label: string | undefined,
  state: string | undefined,
): { ok: true; opened: Opened } | { ok: false; why: string } {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return { ok: false, why: "is not JSON" };
  }
  const read = openCraftFile(parsed);
  if (!read.ok) {
    const [problem] = read.problems;
    return { ok: false, why: `${problem?.path.join(".") || "file"}: ${problem?.message ?? "not valid"}` };
  }
  // What it says of money is in the currency of the file.
  takeMoney({ currency: read.file.currency, perEuro: null });
  const { versions } = read.file;
  const version = label === undefined ? versions.at(-1) : versions.find((v) => v.label === label);
  if (!version) return { ok: false, why: `has no version ${label}; it has ${versions.map((v) => v.label).join(", ")}` };
  const parent = versions.find((v) => v.label === version.parent);
  const { states } = version.design;
  const named = states.find((s) => s.id === state || s.name === state);
  if (state !== undefined && !named)
    return { ok: false, why: `has no state ${state}; it has ${states.map((s) => s.name).join(", ")}` };
  const design = inState(version.design, named?.id);
  const evaluation = evaluate(design, { parentMass: parentMassOf(parent) });
  return { ok: true, opened: { file: read.file, version, design, evaluation } };
}

/** The build report of one version of a craft file, as Markdown. */
export function reportFile(text: string, label: string | undefined, state?: string): Outcome {
  const read = openFile(text, label, state);
  return read.ok
    ? {
        ok: true,
        output: buildReport(
          read.opened.file,
          read.opened.version,
          read.opened.evaluation,
          "metric",
          read.opened.design.states[0]?.id,
        ),
      }
    : read;
}

/**
 * Every computed result (SI value, standard uncertainty, unit, evidence) and verdict of one version of a craft file.
 */
export function evaluateFile(text: string, label: string | undefined, state?: string): Outcome {
  const read = openFile(text, label, state);
  if (!read.ok) return read;
  const { file, version, design, evaluation } = read.opened;
  const results = Object.fromEntries(
    (Object.keys(METRICS) as MetricKey[]).flatMap((key) => {
      const q = evaluation.metrics[key];
      return q
        ? [
            [
              key,
              {
                value: q.value,
                uncertainty: q.sd,
                unit: storedUnit(q.dimension),
                evidence: q.evidence,
                outside: q.outside ?? [],
                incomplete: q.incomplete ?? [],
                unknown: q.unknown ?? [],
              },
            ],
          ]
        : [];
    }),
  );
  return {
    ok: true,
    output: {
      craft: file.craft.name,
      version: version.label,
      state: design.states[0]?.name ?? null,
      states: version.design.states.map((s) => s.name),
      results,
      /** How each subject ended that has no numbers: missing, not covered or failed, and why. */
      without: Object.fromEntries(
        Object.entries(evaluation.outcomes).flatMap(([name, o]) =>
          o.status === "solved" ? [] : [[name, { status: o.status, because: whyNone(o) }]],
        ),
      ),
      targets: evaluation.targets.map(({ target, status, margin, odds, because }) => ({
        metric: target.metric,
        status,
        margin,
        odds,
        because,
        unit: storedUnit(METRICS[target.metric].dimension),
      })),
      verdicts: evaluation.findings.map((f) => ({
        code: f.code,
        severity: f.severity,
        page: f.page,
        sentence: findingText(f, "metric"),
        figure: f.figure && {
          label: f.figure.label,
          value: f.figure.value,
          uncertainty: f.figure.sd,
          unit: storedUnit(f.figure.dimension),
          limit: f.figure.limit ?? null,
        },
        remedies: remediesFor(design, evaluation, f).map((r) => ({ sentence: r.text, patch: r.patch })),
      })),
    },
  };
}
