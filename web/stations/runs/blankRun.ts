import { localIso } from "../../app/dates";
import type { NewRun } from "../../../api/contracts";
import { type Run, runSchema } from "../../../core/design/craftFile";

/** A name for an entry that is made here and nowhere else. It is no secret: it only tells entries apart. */
export const newKey = (): string =>
  `${Date.now().toString(36)}-${Array.from(crypto.getRandomValues(new Uint8Array(9)), (b) => b.toString(36)).join("")}`;

/** A run that is being written: how it went is said by a person, or not yet. */
export type RunDraft = Omit<NewRun, "outcome"> & { outcome: NewRun["outcome"] | null };

/** A run of which nothing is known yet but what is given. */
export const blankRun = (given: Partial<NewRun> = {}): RunDraft => ({
  date: localIso(new Date()),
  stage: 1,
  purpose: "",
  place: "",
  pilot: "",
  conditions: { airTemperature: null, wind: null, surface: "" },
  pack: { name: "", restingVoltage: null, loadedVoltage: null, endVoltage: null, temperature: null },
  outcome: null,
  cautionsRead: false,
  notes: "",
  course: "",
  laps: [],
  plan: null,
  seconds: null,
  moments: [],
  files: [],
  goneOn: "",
  crash: null,
  key: newKey(),
  measured: [],
  eye: {},
  live: false,
  ...given,
});

/** A run on record as it is sent to be saved again: what eyes said of its gates stays. */
export function asNewRun(run: Run): NewRun {
  const { number: _n, version: _v, metrics, gates, locks: _l, ...rest } = run;
  const eye = Object.fromEntries(
    gates.flatMap((g) =>
      g.gate.metric === "" && (g.result === "passed" || g.result === "failed") ? [[g.gate.id, g.result]] : [],
    ),
  );
  return { ...rest, eye, live: false, measured: metrics.map(({ predicted: _, ...m }) => m) };
}

/** A run as the server holds it, from its answer to a stale save. */
export function heldRun(current: unknown): { revision: number; value: NewRun } {
  const { revision, run } = current as { revision: number; run: unknown };
  return { revision, value: asNewRun(runSchema.parse(run)) };
}
