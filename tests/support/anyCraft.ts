import { ANGLE_OF, ANGLE_SIDES } from "../../core/design/run";
import { FORMAT_VERSION } from "../../core/design/craftFile";
import fc from "fast-check";
import {
  ADVICE_STATES,
  type CraftFileInput,
  DIMENSIONS,
  EVIDENCE_STEPS,
  FAULT_STATES,
  MOMENT_KINDS,
  OUTCOMES,
  VERSION_STATES,
} from "../../core/design/craftFile";
import type { Attachment } from "../../core/design/bench";
import { EVIDENCE } from "../../core/design/evidence";
import { RISKS } from "../../core/design/risk";
import { HELD_UP_BY, SETTING_KINDS } from "../../core/design/schema";
import { GROUPS } from "../../core/design/symptom";
import { usualLadder } from "../../core/runs/ladders";
import { quietDesign } from "./designs";

/**
 * Words as people write them: quotes, commas, accents, signs of other scripts, and no blanks at the ends, which are
 * cut on entry.
 */
const words = (most: number, least = 0) =>
  fc
    .string({
      unit: fc.constantFrom(...("abcXYZ019 ,;:'\"<>&%|\\/äöéß°±µΩ漢字🙂\t".match(/./gsu) ?? [])),
      maxLength: Math.max(1, Math.floor(most / 4)),
    })
    .map((t) => t.trim())
    .filter((t) => t.length >= least);
const number = (min: number, max: number) =>
  fc.double({ min, max, noNaN: true }).map((x) => (Object.is(x, -0) ? 0 : x));
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { nil: null });
const stamp = fc.integer({ min: 0, max: 4e8 }).map((s) => new Date(1_600_000_000_000 + s * 1000).toISOString());
const id = fc.integer({ min: 1, max: 1e9 }).map((n) => `i${n}`);
const list = <T>(of: fc.Arbitrary<T>, maxLength = 3) => fc.array(of, { maxLength });
const volts = maybe(number(0.5, 60));
/** Pictures have tests of their own. */
const none: fc.Arbitrary<Attachment[]> = fc.constant([]);
const stage = fc.integer({ min: 1, max: 7 });

const gate = fc
  .record({
    id,
    metric: words(40),
    dimension: fc.constantFrom(...DIMENSIONS),
    value: number(-1e6, 1e6),
    text: words(80, 1),
  })
  .chain((g) =>
    fc.oneof(
      fc.constant({ ...g, comparison: "atMost" as const, upper: null }),
      fc.constant({ ...g, comparison: "atLeast" as const, upper: null }),
      number(0.001, 100).map((width) => ({ ...g, comparison: "between" as const, upper: g.value + width })),
    ),
  );
const ladder = fc
  .constantFrom(...HELD_UP_BY)
  .chain((kind) =>
    fc
      .tuple(list(gate), words(100), words(60))
      .map(([gates, skipped, doing]) =>
        usualLadder([kind]).map((r, i) => (i === 3 ? { ...r, gates, skipped, doing } : r)),
      ),
  );

const pack = fc.record({ name: words(60), resting: volts, loaded: volts });
const moment = fc.record({
  id,
  seconds: number(0, 1e5),
  kind: fc.constantFrom(...MOMENT_KINDS),
  mark: words(40),
  text: words(100),
  pack: maybe(pack),
  files: none,
});
const metric = fc.record({
  metric: words(40, 1),
  dimension: fc.constantFrom(...DIMENSIONS),
  predicted: maybe(fc.record({ value: number(-1e9, 1e9), sd: number(0, 1e6), evidence: fc.constantFrom(...EVIDENCE) })),
  measured: maybe(fc.record({ value: number(-1e9, 1e9), sd: number(0, 1e6), by: words(60) })),
});
const lap = fc.record({
  label: words(30, 1),
  values: fc.dictionary(fc.constantFrom("energyUsed", "lapTime", "own name"), number(-1e6, 1e6)),
  wind: maybe(number(0, 60)),
  pack: words(60),
  startVoltage: volts,
  pilot: words(60),
  remark: words(100),
  out: words(100),
});
const lock = fc.oneof(
  fc.record({ kind: fc.constant("verdict" as const), code: words(40), subject: words(80) }),
  fc.record({ kind: fc.constant("gate" as const), stage, run: fc.integer({ min: 1, max: 99 }), gate: words(80) }),
  fc.record({ kind: fc.constant("untried" as const), stage }),
  fc.record({
    kind: fc.constant("crash" as const),
    run: fc.integer({ min: 1, max: 99 }),
    why: fc.constantFrom("evidence" as const, "suspects" as const),
  }),
);
const crash = fc.record({
  steps: fc.record(
    Object.fromEntries(EVIDENCE_STEPS.map((s) => [s, fc.boolean()])) as Record<
      (typeof EVIDENCE_STEPS)[number],
      fc.Arbitrary<boolean>
    >,
  ),
  notes: words(200),
});
const run = fc.record({
  date: stamp,
  stage,
  purpose: words(100),
  place: words(100),
  pilot: words(60),
  conditions: fc.record({ airTemperature: maybe(number(-60, 60)), wind: maybe(number(0, 60)), surface: words(60) }),
  pack: fc.record({
    name: words(60),
    restingVoltage: volts,
    loadedVoltage: volts,
    endVoltage: volts,
    temperature: maybe(number(-40, 80)),
  }),
  outcome: fc.constantFrom(...OUTCOMES),
  cautionsRead: fc.boolean(),
  notes: words(400),
  metrics: list(metric, 4),
  perDrive: list(
    fc.record({
      unit: words(20).map((w) => w || "drive"),
      copy: fc.integer({ min: 1, max: 64 }),
      name: words(60),
      current: maybe(number(0, 1e4)),
      rpm: maybe(number(0, 1e6)),
      temperature: maybe(number(-60, 400)),
    }),
    3,
  ),
  angles: list(
    fc.record({
      what: words(60, 1),
      side: fc.constantFrom(...ANGLE_SIDES),
      of: fc.constantFrom(...ANGLE_OF),
      value: number(-1.5, 1.5),
      sd: number(0, 0.7),
    }),
    3,
  ),
  course: words(60),
  laps: list(lap),
  plan: fc.constant(null),
  seconds: maybe(number(0, 1e5)),
  moments: list(moment),
  files: none,
  gates: list(
    fc.record({
      gate,
      result: fc.constantFrom("passed" as const, "failed" as const, "unclear" as const, "not judged" as const),
      value: maybe(number(-1e6, 1e6)),
    }),
    2,
  ),
  locks: list(lock, 2),
  goneOn: words(100),
  crash: maybe(crash),
});
const suspect = fc.record({
  id,
  cause: words(100, 1),
  for: words(100),
  against: words(100),
  test: words(100),
  minutes: maybe(number(0, 1e4)),
  cost: number(0, 1e4),
  risk: fc.constantFrom(...RISKS),
  spentMinutes: number(0, 1e4),
  spentCost: number(0, 1e4),
  effect: maybe(
    fc.record({
      what: words(40),
      unit: words(10),
      without: list(number(-1e6, 1e6), 4),
      with: list(number(-1e6, 1e6), 4),
    }),
  ),
  result: words(100),
  state: fc.constantFrom("open" as const, "ruled in" as const, "ruled out" as const),
});
const fault = fc.record({
  title: words(100, 1),
  symptom: maybe(fc.constantFrom("resets", "own-one")),
  seen: words(200),
  severity: fc.constantFrom("harmless" as const, "damage" as const, "danger" as const),
  damage: words(100),
  suspects: list(suspect),
  cause: words(100),
  fix: words(100),
  state: fc.constantFrom(...FAULT_STATES),
  minutes: number(0, 1e4),
  cost: number(0, 1e4),
  mass: number(-10, 10),
  part: words(60),
  touched: list(words(60), 2),
  nextWeakest: words(100),
  pilotSwap: maybe(
    fc.record({
      how: fc.constantFrom("same pilot, another craft" as const, "another pilot, this craft" as const),
      shown: words(100, 1),
    }),
  ),
});
const plan = fc.record({
  createdAt: stamp,
  stage,
  question: words(100, 1),
  course: words(60),
  repeats: fc.integer({ min: 1, max: 100 }),
  abort: list(words(80)),
  success: words(100),
  people: list(fc.record({ name: words(40, 1), role: words(40) })),
  place: words(60),
  limits: fc.record({
    wind: maybe(number(0, 60)),
    waves: maybe(number(0, 10)),
    current: maybe(number(0, 10)),
    coldest: maybe(number(-60, 60)),
    warmest: maybe(number(-60, 60)),
    surface: words(60),
  }),
  day: fc.record({
    wind: maybe(number(0, 60)),
    waves: maybe(number(0, 10)),
    current: maybe(number(0, 10)),
    temperature: maybe(number(-60, 60)),
    surface: maybe(fc.constantFrom("yes" as const, "no" as const)),
  }),
  safety: list(words(80)),
  ticks: list(words(60)),
  goneOn: words(100),
  state: fc.constantFrom("planned" as const, "done" as const, "dropped" as const),
});
const said = fc.record({
  question: words(100),
  finding: words(100),
  reason: words(200),
  claims: list(
    fc.record({
      metric: words(40, 1),
      direction: fc.constantFrom("up" as const, "down" as const, "same" as const),
      amount: words(60),
      change: words(60),
    }),
  ),
  createdAt: stamp,
  ladder: maybe(ladder),
  whys: list(
    fc.record({
      change: words(60, 1),
      why: words(60),
      fault: maybe(fc.integer({ min: 1, max: 9 })),
      run: maybe(fc.integer({ min: 1, max: 9 })),
    }),
  ),
  advice: list(
    fc.record({
      id,
      date: stamp,
      from: words(40),
      text: words(100, 1),
      state: fc.constantFrom(...ADVICE_STATES),
      made: words(60),
    }),
  ),
  trials: list(
    fc.record({
      group: words(40),
      run: fc.integer({ min: 1, max: 9 }),
      air: fc.constantFrom("calm" as const, "rough" as const),
      good: fc.boolean(),
      note: words(60),
    }),
  ),
  fate: fc.record({
    state: fc.constantFrom(...VERSION_STATES),
    why: words(100),
    at: maybe(stamp),
    reused: list(words(30)),
    exit: words(80),
  }),
  setup: list(
    fc.record({
      group: words(40),
      name: words(60, 1),
      value: words(60),
      kind: fc.constantFrom(...SETTING_KINDS),
      hides: words(60),
    }),
  ),
});
const symptom = fc.record({
  text: words(100, 1),
  group: fc.constantFrom(...GROUPS),
  causes: fc.array(
    fc.record({
      id,
      text: words(100, 1),
      test: words(100, 1),
      minutes: number(0, 1e4),
      cost: number(0, 1e4),
      risk: fc.constantFrom(...RISKS),
      fix: words(100),
    }),
    {
      minLength: 1,
      maxLength: 3,
    },
  ),
});

const step = number(-1, 1);
/** A state that changes something, of parts and drives that may not be there. */
const state = fc.record({
  name: words(60, 1),
  heldUpBy: fc.uniqueArray(fc.constantFrom(...HELD_UP_BY), { minLength: 1, maxLength: 4 }),
  without: fc.uniqueArray(id, { maxLength: 2 }),
  moved: fc.uniqueArray(fc.record({ id, by: fc.record({ x: step, y: step, z: step }) }), {
    maxLength: 3,
    selector: (m) => m.id,
  }),
  units: fc.uniqueArray(
    fc.record({
      id: fc.constantFrom("u", "other"),
      resting: fc.boolean(),
      turned: number(-3, 3),
      works: maybe(fc.constantFrom("in air" as const, "in water" as const)),
      on: maybe(fc.constantFrom("mud" as const, "water" as const)),
    }),
    { maxLength: 2, selector: (u) => u.id },
  ),
  surfaces: fc.uniqueArray(
    fc.record({
      id,
      away: fc.boolean(),
      turned: number(-0.5, 0.5),
      works: fc.constantFrom(null, "air" as const, "water" as const),
    }),
    {
      maxLength: 2,
      selector: (s) => s.id,
    },
  ),
  dragArea: maybe(
    fc.record({ value: number(1e-4, 1), evidence: fc.constantFrom("guess" as const, "measured" as const) }),
  ),
});

/**
 * Any craft with all that can be on record of it: names, numbers and references that fit together, everything else as
 * it comes.
 */
export const anyCraft: fc.Arbitrary<CraftFileInput> = fc
  .record({
    name: words(60, 1),
    states: list(state, 3),
    versions: fc.array(fc.tuple(said, fc.nat(9), fc.boolean()), { minLength: 1, maxLength: 4 }),
    runs: list(fc.tuple(run, fc.nat(9), fc.boolean()), 4),
    faults: list(fc.tuple(fault, fc.nat(9), fc.nat(9)), 3),
    plans: list(fc.tuple(plan, fc.nat(9)), 3),
    symptom,
  })
  .map((a) => {
    const label = (i: number) => `v${(i % a.versions.length) + 1}`;
    const runs = a.runs.map(([r, v, keyed], i) => ({
      ...r,
      number: i + 1,
      version: label(v),
      key: keyed ? `field-${i}-00000` : null,
    }));
    const ran = new Set(runs.map((r) => r.version));
    const faults =
      runs.length === 0
        ? []
        : a.faults.map(([f, r, v], i) => ({
            ...f,
            number: i + 1,
            run: (r % runs.length) + 1,
            proofRun: v % 3 === 0 ? (v % runs.length) + 1 : null,
            fixVersion: v % 2 === 0 ? label(v) : null,
          }));
    return {
      format: "ultraform-craft" as const,
      formatVersion: FORMAT_VERSION,
      currency: "EUR",
      craft: { name: a.name, summary: "" },
      versions: a.versions.map(([{ setup, ...v }, parent, frozen], i) => ({
        ...v,
        label: label(i),
        parent: i === 0 ? null : label(parent % i),
        frozenAt: frozen || ran.has(label(i)) ? v.createdAt : null,
        design: {
          ...quietDesign(),
          setup: setup.map((s, k) => ({ ...s, id: `s${k}` })),
          states: [...quietDesign().states, ...a.states.map((s, k) => ({ ...s, id: `state${k}` }))],
          transitions: a.states.map((_, k) => ({
            id: `t${k}`,
            from: k === 0 ? "usual" : `state${k - 1}`,
            to: `state${k}`,
            wholeTurns: k % 2 === 0,
          })),
        },
      })),
      runs,
      faults,
      plans: a.plans.map(([p, v], i) => ({ ...p, number: i + 1, version: label(v) })),
      bench: [],
      symptoms: faults.some((f) => f.symptom === "own-one") ? [{ ...a.symptom, id: "own-one" }] : [],
      files: [],
    };
  });
