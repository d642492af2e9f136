import type { MetricKey } from "./design/metrics";
import type { Quantity, WorkingInput } from "./design/quantity";
import type { Design } from "./design/schema";
import { type TargetResult, judgeTargets } from "./design/targets";
import type { UnitHabit } from "./design/units";
import { sameData } from "./numeric/sameData";
import {
  type AnySubject,
  type Finding,
  type Of,
  type Outcome,
  type Remedy,
  type See,
  bySeverity,
  whyNone,
} from "./subject";
import { SUBJECTS } from "./subjects";
import { rollUp } from "./subjects/mass/rollup";

/** Everything that the application says about one version comes from one of these. Plain data. */
export interface Evaluation {
  /** How each subject ended, by its name. */
  outcomes: Readonly<Record<string, Outcome<unknown>>>;
  metrics: Partial<Record<MetricKey, Quantity>>;
  targets: TargetResult[];
  findings: Finding[];
  /** Subjects whose results are those of before the last change, or rest on such: they are being worked out. */
  waiting: readonly string[];
}

/** Results of slow subjects, by name, as they were worked out elsewhere. Plain data. */
export type Answers = Readonly<Record<string, Omit<Remembered, "keys">>>;
/**
 * What is done about slow subjects that are not remembered: what stood before goes on standing, marked as waiting; or
 * answers from elsewhere are taken over.
 */
export type Slowly =
  | {
      standing: { design: Design; evaluation: Evaluation };
      /**
       * A step of a drag: but for what follows at every step all that would have to be computed stands as it is, not
       * named, with its verdicts. Whoever asks for this asks for the rest within a sixth of a second.
       */
      step?: boolean;
      /** Rough answers of a design a little before this one: they stand in the place of what stood, marked as that. */
      rough?: { design: Design; answers: Answers } | null;
    }
  | { answers: Answers };

export interface EvaluationContext {
  /** Label and predicted mass (kg) of the version that this one grew from. */
  parentMass?: { label: string; mass: number } | null;
}

/** What a version is held against of the one that it grew from: its mass alone, so nothing else of it is computed. */
export function parentMassOf(
  parent: { label: string; design: Pick<Design, "items"> } | undefined,
): EvaluationContext["parentMass"] {
  const mass = parent && rollUp(parent.design)?.mass;
  return parent && mass !== undefined ? { label: parent.label, mass } : null;
}

type Part = Record<string, unknown>;
const partOf = (design: Design, key: string): unknown =>
  key.startsWith("brief.") ? (design.brief as Part)[key.slice(6)] : (design as Part)[key];

/** The design with only what a subject reads. */
function viewOf(subject: AnySubject<unknown>, design: Design): Design {
  const view: Part = {};
  const brief: Part = {};
  for (const key of subject.reads) {
    if (key.startsWith("brief.")) brief[key.slice(6)] = partOf(design, key);
    else view[key] = partOf(design, key);
  }
  view.brief = brief;
  return view as Design;
}

interface Remembered {
  keys: readonly unknown[];
  outcome: Outcome<unknown>;
  quantities: Partial<Record<MetricKey, Quantity>>;
}
/** Results of one subject that are kept: enough for undo, a preview and the parent beside the version in view. */
const KEPT = 24;

/** Results by the identity of what they were computed from: the one way in which a result is remembered. */
export class Memo {
  private readonly held = new Map<string, Remembered[]>();

  /** Whether there is a result of exactly these inputs. */
  has(name: string, keys: readonly unknown[]): boolean {
    return (
      this.held.get(name)?.some((r) => r.keys.length === keys.length && r.keys.every((k, i) => k === keys[i])) ?? false
    );
  }

  /** A result of exactly these inputs, made when there is none. */
  get(name: string, keys: readonly unknown[], make: () => Omit<Remembered, "keys">): Remembered {
    const list = this.held.get(name) ?? [];
    this.held.set(name, list);
    const at = list.findIndex((r) => r.keys.length === keys.length && r.keys.every((k, i) => k === keys[i]));
    const known = list[at];
    if (known) {
      if (at > 0) list.unshift(...list.splice(at, 1));
      return known;
    }
    const made = make();
    // The same numbers from other inputs: whoever needs them is not computed again.
    const alike = list[0];
    const outcome = alike && sameData(alike.outcome, made.outcome) ? alike.outcome : made.outcome;
    const kept = { keys, outcome, quantities: made.quantities };
    list.unshift(kept);
    if (list.length > KEPT) list.pop();
    return kept;
  }
}

const shared = new Memo();

function ofIn(
  outcomes: Readonly<Record<string, Outcome<unknown>>>,
  allowed: readonly AnySubject<unknown>[] | null,
): Of {
  return <R>(wanted: AnySubject<R>): Outcome<R> => {
    if (allowed && !allowed.some((s) => s.name === wanted.name))
      throw new Error(`${wanted.name} is asked for and not named as needed`);
    const outcome = outcomes[wanted.name];
    if (!outcome) throw new Error(`${wanted.name} is not computed before it is needed`);
    return outcome as Outcome<R>;
  };
}

/** All that a rule, a remedy or a working may look at. */
function seeOf(design: Design, e: Omit<Evaluation, "findings" | "waiting">, context: EvaluationContext): See {
  const of = ofIn(e.outcomes, null);
  return {
    design,
    of,
    result: (subject) => {
      const outcome = of(subject);
      return outcome.status === "solved" ? outcome.result : null;
    },
    metrics: e.metrics,
    targets: e.targets,
    parentMass: context.parentMass ?? null,
  };
}

/**
 * Lists of which entries came, went or changed places: what was worked out for one of them is not shown for another.
 */
const LISTS = [
  "units",
  "batteries",
  "duty",
  "regulators",
  "conductors",
  "items",
  "surfaces",
  "bodies",
  "feet",
] as const;
const sameEntries = (a: Design, b: Design): boolean =>
  LISTS.every((l) => a[l] === b[l] || (a[l].length === b[l].length && a[l].every((e, k) => e.id === b[l][k]?.id)));

/** Whether what stood for one design may go on standing, marked, while another is worked out. */
export const mayStand = (before: { design: Design } | null, design: Design): boolean =>
  before !== null && sameEntries(before.design, design);

/**
 * All computed results and verdicts of one design. Returns what can be computed and says of the rest why not; never
 * throws on a design that the schema accepts.
 *
 * @param memo where results are remembered; null: everything is computed
 * @param slowly what is done about what takes longer than a frame; left out: it is computed here
 */
export function evaluate(
  design: Design,
  context: EvaluationContext = {},
  memo: Memo | null = shared,
  slowly: Slowly | null = null,
): Evaluation {
  const before = slowly && "standing" in slowly && mayStand(slowly.standing, design) ? slowly : null;
  const standing = before?.standing.evaluation ?? null;
  const step = before?.step === true;
  const rough = before?.rough && mayStand(before.rough, design) ? before.rough.answers : null;
  const answers = slowly && "answers" in slowly ? slowly.answers : null;
  const waiting: string[] = [];
  const outcomes: Record<string, Outcome<unknown>> = {};
  const metrics: Partial<Record<MetricKey, Quantity>> = {};
  for (const subject of SUBJECTS) {
    const keys = [...subject.reads.map((k) => partOf(design, k)), ...subject.needs.map((n) => outcomes[n.name])];
    const rests = subject.needs.some((n) => waiting.includes(n.name));
    const stands =
      standing &&
      (subject.cost === "slow" || (step && subject.cost !== "frame")) &&
      (rests || !memo?.has(subject.name, keys));
    if (rests || (stands && subject.cost === "slow")) waiting.push(subject.name);
    if (stands) {
      const held = rough?.[subject.name];
      outcomes[subject.name] = held?.outcome ?? (standing.outcomes[subject.name] as Outcome<unknown>);
      const numbers = held?.quantities ?? standing.metrics;
      for (const key of subject.gives) if (numbers[key]) metrics[key] = numbers[key];
      continue;
    }
    const make = () => {
      const answer = answers?.[subject.name];
      if (answer) return answer;
      const view = viewOf(subject, design);
      const of = ofIn(outcomes, subject.needs);
      const outcome = subject.compute(view, of);
      return { outcome, quantities: outcome.status === "solved" ? subject.quantities(outcome.result, view, of) : {} };
    };
    const { outcome, quantities } = memo ? memo.get(subject.name, keys, make) : make();
    outcomes[subject.name] = outcome;
    Object.assign(metrics, quantities);
  }
  const judged = judgeTargets(design.brief.targets, metrics, (key) => {
    const subject = SUBJECTS.find((s) => s.gives.includes(key));
    const outcome = subject && outcomes[subject.name];
    if (!outcome) return null;
    return outcome.status === "solved" ? (subject.lacks?.(key, outcome.result, design) ?? null) : whyNone(outcome);
  });
  const targets = heldByStopLine(design, judged);
  if (standing && step) return { outcomes, metrics, targets, findings: standing.findings, waiting };
  const see = seeOf(design, { outcomes, metrics, targets }, context);
  const findings: Finding[] = [];
  for (const { verdicts } of SUBJECTS)
    for (const code in verdicts) for (const found of verdicts[code]?.find(see) ?? []) findings.push({ ...found, code });
  return { outcomes, metrics, targets, findings: findings.sort(bySeverity), waiting };
}

/** The slow results of an evaluation, to be taken over where it was not computed. */
export const answersOf = ({ outcomes, metrics }: Evaluation): Answers =>
  Object.fromEntries(
    SUBJECTS.filter((s) => s.cost === "slow").map((s) => [
      s.name,
      {
        outcome: outcomes[s.name] as Outcome<unknown>,
        quantities: Object.fromEntries(s.gives.flatMap((k) => (metrics[k] ? [[k, metrics[k]]] : []))),
      },
    ]),
  );

/** Whether a rough answer can be had of what is being worked out. */
export const hasRough = ({ waiting }: Pick<Evaluation, "waiting">): boolean =>
  waiting.length > 0 && SUBJECTS.some((s) => s.roughly && waiting.includes(s.name));

/** Rough answers of a design, of the subjects that have such and need no other. */
export const roughOf = (design: Design): Answers =>
  Object.fromEntries(
    SUBJECTS.flatMap((subject) => {
      const view = viewOf(subject, design);
      const of = ofIn({}, subject.needs);
      const outcome = subject.roughly?.(view, of);
      if (!outcome) return [];
      const quantities = outcome.status === "solved" ? subject.quantities(outcome.result, view, of) : {};
      return [[subject.name, { outcome, quantities }]];
    }),
  );

/** Whether a number is that of before the last change. */
export const isWaiting = ({ waiting }: Pick<Evaluation, "waiting">, key: MetricKey): boolean =>
  waiting.length > 0 && SUBJECTS.some((s) => waiting.includes(s.name) && s.gives.includes(key));

/**
 * A craft that is unstable on purpose is held against its stop line: what a stable one would need of the CG stays
 * open.
 */
const heldByStopLine = ({ schools, walkBack }: Design, targets: TargetResult[]): TargetResult[] =>
  schools.balance === "unstable on purpose" && walkBack
    ? targets.map((t) =>
        t.target.metric === "cgX" && t.status !== "met"
          ? {
              ...t,
              status: "open",
              odds: null,
              because: "unstable on purpose: the stop line of the walk-back holds instead",
            }
          : t,
      )
    : targets;

/** The result of a subject in an evaluation; null when it has none. */
export function resultIn<R>({ outcomes }: Pick<Evaluation, "outcomes">, subject: AnySubject<R>): R | null {
  const outcome = outcomes[subject.name] as Outcome<R> | undefined;
  return outcome?.status === "solved" ? outcome.result : null;
}

const VERDICTS = new Map(SUBJECTS.flatMap((s) => Object.entries(s.verdicts)));

/** The sentence of a finding. */
export const findingText = (finding: Pick<Finding, "code" | "params">, habit: UnitHabit): string =>
  VERDICTS.get(finding.code)?.says(finding.params, habit) ?? finding.code;

/** What would answer a finding. May search and solve: asked for only what is looked at. */
export function remediesFor(
  design: Design,
  evaluation: Evaluation,
  finding: Finding,
  habit: UnitHabit = "metric",
  context: EvaluationContext = {},
): Remedy[] {
  return VERDICTS.get(finding.code)?.remedies?.(seeOf(design, evaluation, context), finding, habit) ?? [];
}

/** What a computed number came from, the largest share of its doubt first; empty when the design has no such number. */
export function workingOf(design: Design, evaluation: Evaluation, key: MetricKey): WorkingInput[] {
  if (!evaluation.metrics[key]) return [];
  for (const subject of SUBJECTS) {
    const outcome = evaluation.outcomes[subject.name];
    if (outcome?.status !== "solved") continue;
    if (subject.gives.includes(key))
      return subject.working(key, outcome.result, viewOf(subject, design), ofIn(evaluation.outcomes, subject.needs));
  }
  return [];
}

/** One thing whose measurement would take the most doubt out of a number that decides. */
export interface NextMeasurement {
  metric: MetricKey;
  /** Ledger entry, or input of the drive. */
  of: NonNullable<WorkingInput["source"]>;
  sdNow: number;
  sdAfter: number;
}

const NEXT = 4;

/**
 * What to measure next: for the CG, and for thrust to weight when there is a drive. Best first; only what removes a
 * twentieth of the doubt.
 */
export function measureNext(design: Design, evaluation: Evaluation): NextMeasurement[] {
  return (["cgX", "thrustToWeight"] as const)
    .flatMap((metric) => {
      const sdNow = evaluation.metrics[metric]?.sd ?? 0;
      return workingOf(design, evaluation, metric).flatMap((i): NextMeasurement[] =>
        i.source && !(i.source.kind !== "input" && i.evidence === "measured")
          ? [{ metric, of: i.source, sdNow, sdAfter: sdNow * Math.sqrt(Math.max(0, 1 - i.share)) }]
          : [],
      );
    })
    .filter((n) => n.sdNow > 0 && n.sdAfter < 0.95 * n.sdNow)
    .sort((p, q) => p.sdAfter / p.sdNow - q.sdAfter / q.sdNow)
    .slice(0, NEXT);
}
