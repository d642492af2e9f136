import { supportOf } from "../design/support";
import { LOST, SURE } from "../design/targets";
import type { CraftFile, Fault, Gate, GateResult, Ladder, Lock, Run, RunMetric, Version } from "../design/craftFile";
import { probabilityWithin } from "../numeric/normal";
import type { Finding } from "../subject";
import { usualLadder } from "./ladders";
import { dangersIn } from "./dangers";
import type { Mark } from "./marks";

/**
 * The ladder of a version in the state that its design is in: its own, or the usual one for what holds it up then. Each
 * state is climbed by itself.
 */
export const ladderOf = (version: Pick<Version, "ladder" | "design">): Ladder =>
  version.ladder ?? usualLadder([...supportOf(version.design).ways]);

/** Runs of a version in the state that its design is in: those of another state tell nothing of this one. */
export const runsInState = (runs: readonly Run[], { label, design }: Pick<Version, "label" | "design">): Run[] =>
  runs.filter((r) => r.version === label && r.state === design.states[0]?.id);

/** Odds (0 to 1) with which a number meets a gate. Its uncertainty is standard; with none it meets it or not. */
export function oddsOf(gate: Gate, value: number, sd: number): number {
  const low = gate.comparison === "atMost" ? -Infinity : gate.value;
  const high =
    gate.comparison === "atMost" ? gate.value : gate.comparison === "between" ? (gate.upper ?? Infinity) : Infinity;
  return probabilityWithin(value, sd, low, high);
}

/**
 * How a gate went: a number by what was measured, the rest by what eyes said. A number too near its limit for its ±
 * is unclear.
 */
export function judgeGate(
  gate: Gate,
  measured: RunMetric["measured"] | undefined,
  said: "passed" | "failed" | undefined,
): GateResult {
  if (gate.metric === "") return { gate, result: said ?? "not judged", value: null };
  if (!measured) return { gate, result: "not judged", value: null };
  const odds = oddsOf(gate, measured.value, measured.sd);
  return { gate, value: measured.value, result: odds >= SURE ? "passed" : odds <= LOST ? "failed" : "unclear" };
}

/** All gates of a rung, held against what a run measured and what eyes said. */
export const judgeGates = (
  gates: readonly Gate[],
  metrics: readonly Pick<RunMetric, "metric" | "measured">[],
  said: Record<string, "passed" | "failed">,
): GateResult[] =>
  gates.map((g) => judgeGate(g, metrics.find((m) => m.metric === g.metric)?.measured ?? undefined, said[g.id]));

export interface RungState {
  stage: number;
  state: "passed" | "failed" | "unclear" | "untried" | "left out";
  /** the run that decided it last */
  run: Run | null;
  /** gates that did not pass in it */
  held: GateResult[];
}

const later = (a: Run, b: Run) => Date.parse(a.date) - Date.parse(b.date) || a.number - b.number;

/** How far each rung of a version got: its last run that decided anything counts, with its gates. */
export function ladderState(file: Pick<CraftFile, "runs">, version: Version): RungState[] {
  const own = runsInState(file.runs, version).toSorted(later);
  return ladderOf(version).map((rung): RungState => {
    const run =
      own.filter((r) => r.stage === rung.stage && (r.outcome === "passed" || r.outcome === "failed")).at(-1) ?? null;
    const held = run?.gates.filter((g) => g.result === "failed" || g.result === "unclear") ?? [];
    if (!run) return { stage: rung.stage, state: rung.skipped === "" ? "untried" : "left out", run: null, held: [] };
    const failed = run.outcome === "failed" || held.some((g) => g.result === "failed");
    return { stage: rung.stage, state: failed ? "failed" : held.length > 0 ? "unclear" : "passed", run, held };
  });
}

/** Labels of a version and all that it grew from. */
export function lineOf(versions: readonly Pick<Version, "label" | "parent">[], label: string): string[] {
  const out: string[] = [];
  for (
    let at: string | null = label;
    at !== null && !out.includes(at);
    at = versions.find((v) => v.label === at)?.parent ?? null
  )
    out.push(at);
  return out;
}

const tested = (f: Fault) => f.state !== "open" || f.suspects.some((s) => s.result.trim() !== "");
/** The faults of a run that answer a mark: those of its symptom, else all. */
function faultsOfMark(faults: readonly Fault[], run: number, mark: Mark): Fault[] {
  const own = faults.filter((f) => f.run === run);
  const meant = own.filter((f) => mark.symptom !== null && f.symptom === mark.symptom);
  return meant.length > 0 ? meant : own;
}

/**
 * Whether a crash is understood as far as arming again needs: it has faults on record, and of each a suspect has been
 * tested or it came to an end.
 */
export const understood = (faults: readonly Fault[]): boolean => faults.length > 0 && faults.every(tested);

/**
 * What stands against a run on a rung: stop verdicts, rungs below that failed or were never tried, a mark of danger
 * that is not answered, and a crash that is not understood. Power off is never locked. A failure is over once
 * a run on that rung or above has passed since; an untried rung once one above it has passed.
 */
export function locksFor(
  file: Pick<CraftFile, "runs" | "faults" | "versions">,
  version: Version,
  findings: readonly Finding[],
  stage: number,
): Lock[] {
  if (stage <= 1) return [];
  // What it costs never locks a rung.
  const out: Lock[] = findings
    .filter((f) => f.severity === "stop" && f.code !== "cost-over")
    .map((f) => ({ kind: "verdict", code: f.code, subject: f.about.slice(0, 200) }));
  const line = lineOf(file.versions, version.label);
  for (const run of file.runs.filter((r) => r.crash && line.includes(r.version))) {
    const own = file.faults.filter((f) => f.run === run.number);
    if (run.crash && Object.values(run.crash.steps).some((done) => !done))
      out.push({ kind: "crash", run: run.number, why: "evidence" });
    else if (!understood(own)) out.push({ kind: "crash", run: run.number, why: "suspects" });
  }
  for (const run of file.runs.filter((r) => !r.crash && line.includes(r.version)))
    for (const { mark } of dangersIn(run))
      if (!understood(faultsOfMark(file.faults, run.number, mark)))
        out.push({ kind: "danger", run: run.number, mark: mark.code });
  const state = ladderState(file, version);
  for (const below of state.slice(0, stage - 1)) {
    const over = state.slice(below.stage).filter((s) => s.state === "passed" && s.run);
    if (below.state === "untried" && over.length === 0) out.push({ kind: "untried", stage: below.stage });
    const { run } = below;
    if (!run || below.state === "passed" || over.some((s) => s.run && later(s.run, run) > 0)) continue;
    if (below.held.length === 0) out.push({ kind: "failed", stage: below.stage, run: run.number });
    for (const g of below.held)
      out.push({
        kind: "gate",
        stage: below.stage,
        run: run.number,
        gate: (g.gate.text || g.gate.metric).slice(0, 200),
      });
  }
  return out;
}

/** The rung to try next: the lowest that has neither passed nor been left out, above the highest passed. */
export function nextStage(state: readonly RungState[]): number {
  const passed = Math.max(0, ...state.filter((s) => s.state === "passed").map((s) => s.stage));
  return state.find((s) => s.stage > passed && s.state !== "left out")?.stage ?? state.length;
}
