import { localIso } from "../../app/dates";
import type { NewRun } from "../../../api/contracts";

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
  perDrive: [],
  angles: [],
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
