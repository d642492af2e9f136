import type { NewPlan, NewRun } from "../../api/contracts";

/** A run as a client logs it. */
export const newRun = (change: Partial<NewRun> = {}): NewRun => ({
  date: "2026-02-01T10:00:00+01:00",
  stage: 2,
  purpose: "pull",
  place: "",
  pilot: "",
  conditions: { airTemperature: null, wind: null, surface: "" },
  pack: { name: "", restingVoltage: null, loadedVoltage: null, endVoltage: null, temperature: null },
  outcome: "passed",
  cautionsRead: true,
  notes: "",
  course: "",
  laps: [],
  plan: null,
  seconds: null,
  moments: [],
  files: [],
  goneOn: "tried at home",
  crash: null,
  key: null,
  measured: [],
  eye: {},
  live: false,
  ...change,
});

/** A plan as a client makes it. */
export const newPlan = (change: Partial<NewPlan> = {}): NewPlan => ({
  stage: 2,
  question: "what does it pull?",
  course: "",
  repeats: 1,
  abort: [],
  success: "",
  people: [],
  place: "",
  around: [],
  alone: false,
  limits: { wind: null, waves: null, current: null, coldest: null, warmest: null, surface: "" },
  day: { wind: null, waves: null, current: null, temperature: null, surface: null },
  safety: [],
  ticks: [],
  goneOn: "",
  state: "planned",
  ...change,
});
