import { AXES, type Design } from "../design/schema";
import { isPlaced } from "../subjects/mass/placed";
import type { Dimension } from "../design/units";
import { measuredText } from "./measured";
import type { RootContent } from "mdast";
import type { CraftFile, Version } from "../design/craftFile";
import { METRICS, METRIC_KEYS } from "../design/metrics";
import type { UnitHabit } from "../design/units";
import type { Evaluation } from "../evaluate";
import { causeOf } from "../faults/costs";
import { type Status, type StatusReason, statusOf } from "../lineage/status";
import { thingsChanged } from "../lineage/things";
import { debts, tuneStates } from "../lineage/tune";
import { measuredIn, measuredOn } from "../runs/measured";
import { ladderOf, ladderState } from "../runs/ladder";
import { CAUTION_PLACES, cautionsFor } from "../safety/cautions";
import { CAUTION, CAUTION_PLACE } from "./cautions";
import { changeText } from "./changes";
import { evaluate, findingText, resultIn } from "../evaluate";
import { everyState, inState } from "../design/inState";
import { HELD_UP_WORD } from "./heldUp";
import { fastestTip, propulsion } from "../subjects/propulsion/node";
import { chance } from "../subjects/say";
import { propulsorText } from "./propulsor";
import { plain, rangeText, show } from "./format";
import { priceOf } from "../design/price";
import { RUNG_WORD, gateText } from "./ladder";
import { asMarkdown, heading, list, paragraph, table } from "./markdown";

export const STATUS_WORD: Record<Status["status"], string> = {
  works: "Works",
  "works with cautions": "Works, with cautions",
  "do not build": "Do not build",
};

const faultName = (n: number) => `F-${String(n).padStart(2, "0")}`;

/** A reason of the status as a sentence. */
export function statusText(
  r: StatusReason,
  file: CraftFile,
  evaluation: Evaluation,
  habit: UnitHabit = "metric",
): string {
  switch (r.kind) {
    case "stop":
    case "care": {
      const finding = evaluation.findings.find((f) => f.code === r.code && f.about === r.subject);
      return finding ? findingText(finding, habit) : r.code;
    }
    case "fault": {
      const fault = file.faults.find((f) => f.number === r.fault);
      const end =
        r.mendedIn !== null
          ? `mended in ${r.mendedIn}, not here`
          : r.state === "closed"
            ? "mended, but no run has proven it"
            : r.state === "open"
              ? "still open"
              : r.state;
      return `${faultName(r.fault)} ${fault?.title ?? ""}: ${end}${r.danger ? ", and it can hurt somebody" : ""}`;
    }
    case "rung":
      return `rung ${r.stage} of its ladder ${r.state === "failed" ? "failed" : "is unclear"}`;
    case "reached":
      return r.stage === 0 ? "it has passed no rung of its ladder" : `it has passed no rung above ${r.stage}`;
    case "debt":
      return `${r.setting} only hides a fault`;
    case "stale":
      return `the set-up of ${r.group || "the craft"} was made for another state of it`;
    case "stopped":
      return `this version is ${r.state}`;
  }
}

/** What the report is written from, and where its blocks go. */
interface Reported {
  file: CraftFile;
  version: Version;
  design: Design;
  evaluation: Evaluation;
  habit: UnitHabit;
  add: (...blocks: RootContent[]) => void;
}

/** A number with its ± and unit. */
function valueText(v: number, sd: number | null, dimension: Dimension, habit: UnitHabit): string {
  const s = show(v, sd, dimension, habit);
  return `${s.value}${s.sd ? ` ± ${s.sd}` : ""} ${s.unit}`.trim();
}

/** The status of the version first, and what it was made to find out. */
function headOf({ file, version, design, evaluation, habit, add }: Reported): void {
  const status = statusOf(file, { ...version, design }, evaluation.findings);
  add(heading(1, `${file.craft.name} ${version.label}`));
  if (file.craft.summary) add(paragraph(file.craft.summary));
  const against = status.reasons.map((r) => statusText(r, file, evaluation, habit));
  const good = " It ran in the open, nothing stands against it, and no fault is left.";
  add(paragraph(against.length > 0 ? "" : good, `${STATUS_WORD[status.status]}.`));
  if (against.length > 0) add(list(against));
  if (design.brief.purpose) add(heading(2, "What it is for"), paragraph(design.brief.purpose));
  if (version.question || version.finding)
    add(
      heading(2, "What this version was to find out"),
      ...(version.question ? [paragraph(version.question)] : []),
      paragraph(version.finding ? `It showed: ${version.finding}` : "It has not shown it yet."),
    );
}

/** What was predicted and measured, and what was wanted. */
/** The states of the craft beside one another; nothing where there is one. */
function statesOf({ version, design, habit, add }: Reported): void {
  if (version.design.states.length < 2) return;
  const [here] = design.states;
  add(
    heading(2, "States"),
    paragraph(`All below is told of ${here?.name ?? ""}. The others by themselves:`),
    table(
      ["state", "held up by", "weighs", "CG aft of datum", "stops", "worst"],
      everyState(version.design).map(({ state, design: own }) => {
        const { metrics, findings } = evaluate(own);
        const stops = findings.filter((f) => f.severity === "stop").length;
        const worst = findings.find((f) => f.severity === "stop" || f.severity === "care");
        return [
          state.id === here?.id ? `${state.name} (told here)` : state.name,
          state.heldUpBy.map((w) => HELD_UP_WORD[w]).join(", "),
          metrics.auw ? plain(metrics.auw.value, "mass", habit) : "open",
          metrics.cgX ? plain(metrics.cgX.value, "length", habit) : "open",
          String(stops),
          worst ? findingText(worst, habit) : "",
        ];
      }),
    ),
  );
}

function numbersOf({ file, version, design, evaluation, habit, add }: Reported): void {
  add(
    heading(2, "Numbers"),
    paragraph("Predicted from the design, measured on this very version; ± is one standard uncertainty."),
  );
  const rows = METRIC_KEYS.flatMap((k) => {
    const q = evaluation.metrics[k];
    const m = measuredOn(file, measuredIn({ ...version, design }, version.design), k);
    if (!q && !m) return [];
    const { dimension, label } = METRICS[k];
    return [
      [
        label,
        q ? valueText(q.value, q.sd, dimension, habit) : "",
        q?.evidence ?? "",
        m ? valueText(m.value, m.sd, dimension, habit) : "",
        m?.by ?? "",
      ],
    ];
  });
  add(table(["", "predicted", "known by", "measured", "in"], rows));
  if (design.brief.targets.length > 0)
    add(
      heading(3, "Targets"),
      table(
        ["", "wanted", "predicted", "odds"],
        evaluation.targets.map(({ target: t, predicted, odds }) => {
          const { dimension, label } = METRICS[t.metric];
          const limit =
            t.comparison === "between"
              ? `${plain(t.value, dimension, habit)} to ${plain(t.upper ?? t.value, dimension, habit)}`
              : `${t.comparison === "atMost" ? "at most" : "at least"} ${plain(t.value, dimension, habit)}`;
          return [
            `${label}${t.weight === "must" ? "" : " (wish)"}`,
            limit,
            predicted ? valueText(predicted.value, predicted.sd, dimension, habit) : "unknown",
            odds === null ? "" : chance(odds),
          ];
        }),
      ),
    );
}

/** The parts, the drives and the packs. */
function partsOf({ design, habit, add }: Reported): void {
  add(
    heading(2, "Parts"),
    table(
      ["part", "n", "mass each", "known by", "x aft", "y starboard", "z up", "price each"],
      design.items.map((i) => [
        i.name,
        String(i.quantity),
        i.mass ? plain(i.mass.value, "mass", habit, 1) : "not known",
        i.mass?.evidence ?? "",
        ...AXES.map((a) => (isPlaced(i, a) ? plain(i.place[a], "length", habit) : "not said")),
        rangeText(priceOf(i), "money", habit),
      ]),
    ),
  );
  if (design.units.length > 0)
    add(
      heading(2, "Drives and packs"),
      table(
        ["drive", "n", "Kv", "gear", "propeller or other", "motor at most", "throttle at most"],
        design.units.map((u) => [
          u.name,
          String(u.count),
          u.measured ? "" : `${Math.round(u.motor.kv.value)} rpm/V`,
          u.measured ? "" : String(u.gear.ratio),
          u.measured
            ? measuredText(u.measured, habit)
            : u.propulsor
              ? propulsorText(u.propulsor, habit)
              : `${plain(u.propeller.diameter.value, "length", habit)} × ` +
                `${plain(u.propeller.pitch.value, "length", habit)}, ${u.propeller.blades} blades`,
          u.measured ? "" : plain(u.motor.maxCurrent, "current", habit),
          `${Math.round(u.throttleLimit * 100)} %`,
        ]),
      ),
      table(
        ["pack", "chemistry", "cells", "capacity", "usable"],
        design.batteries.map((b) => [
          b.name,
          b.chemistry,
          `${b.series} in series`,
          plain(b.capacity.value, "capacity", habit),
          `${Math.round(b.usable * 100)} %`,
        ]),
      ),
    );
}

/** How it is set up, and what of that only hides a fault. */
function setupOf({ file, version, design, add }: Reported): void {
  if (design.setup.length > 0)
    add(
      heading(2, "Set-up"),
      table(
        ["of", "setting", "value", "since", "remark"],
        tuneStates(file, version).map((t) => [
          t.setting.group,
          t.setting.name,
          t.setting.value,
          t.since,
          [
            t.setting.hides ? `hides: ${t.setting.hides}` : "",
            t.stale.length > 0 ? `stale: ${t.stale.join(", ")} changed since` : "",
            t.tried === "both" ? "tried calm and rough" : "",
          ]
            .filter(Boolean)
            .join("; "),
        ]),
      ),
    );
  const owed = debts(file, version);
  if (owed.length > 0)
    add(
      heading(3, "Debts"),
      list(owed.map((d) => `${d.setting.name} ${d.setting.value} hides “${d.setting.hides}” since ${d.since}.`)),
    );
}

/** What was changed since its parent, thing by thing, with why. */
function changesOf({ file, version, habit, add }: Reported): void {
  const parent = file.versions.find((v) => v.label === version.parent);
  if (parent) {
    const { things, total } = thingsChanged(parent.design, version.design);
    add(heading(2, `Changed since ${parent.label}`));
    if (version.reason) add(paragraph(version.reason));
    const said = things.map((t) => {
      const why = version.whys.find((w) => w.change === t.key)?.why ?? "";
      return `${t.changes.map((c) => changeText(c, habit)).join("; ")}${why ? ` – ${why}` : ""}`;
    });
    if (said.length > 0)
      add(
        list(said),
        paragraph(
          `In all ${plain(total.mass, "mass", habit)}, CG ` +
            `${total.cg === null ? "open" : `${plain(total.cg, "length", habit)} aft`}.`,
        ),
      );
  }
}

/** The rungs it was tried on, the faults of it, and the advice it got. */
function testsOf({ file, version: whole, design, habit, add }: Reported): void {
  const version = { ...whole, design };
  add(heading(2, "Tests"));
  const state = ladderState(file, version);
  add(
    table(
      ["rung", "", "gates", "how far", "run"],
      ladderOf(version).map((r) => {
        const s = state[r.stage - 1];
        return [
          String(r.stage),
          r.name,
          r.gates.map((g) => gateText(g, habit)).join("; "),
          s ? RUNG_WORD[s.state] : "",
          s?.run ? String(s.run.number) : "",
        ];
      }),
    ),
  );
  const line = file.faults.filter(
    (f) => file.runs.find((r) => r.number === f.run)?.version === version.label || f.fixVersion === version.label,
  );
  if (line.length > 0)
    add(
      heading(2, "Faults"),
      table(
        ["", "seen", "cause", "fix", "state"],
        line.map((f) => [
          faultName(f.number),
          f.title,
          f.state === "open" ? "" : causeOf(f),
          f.fix,
          f.state === "closed" ? "mended, not proven" : f.state,
        ]),
      ),
    );
  if (version.advice.length > 0)
    add(
      heading(2, "Advice received"),
      list(
        version.advice.map((a) => `${a.from ? `${a.from}: ` : ""}${a.text} (${a.state}${a.made ? `: ${a.made}` : ""})`),
      ),
    );
}

/** What can hurt somebody. */
function cautionsOf({ design, evaluation, add }: Reported): void {
  const tip = fastestTip(design, resultIn(evaluation, propulsion));
  const cautions = cautionsFor(design, tip);
  for (const place of CAUTION_PLACES) {
    const here = cautions.filter((c) => c.place === place);
    if (here.length > 0)
      add(
        heading(2, place === "plan" ? "Where it may be run" : CAUTION_PLACE[place]),
        list(here.map((c) => CAUTION[c.code])),
      );
  }
}

/**
 * What a builder of this version has to know, as Markdown: its honest status first, then numbers, parts, set-up,
 * tests, faults and cautions. Of a craft with several states it is told in one of them, and of the others what they
 * are and what stands against them.
 * @param evaluation of the design in that state
 */
export function buildReport(
  file: CraftFile,
  version: Version,
  evaluation: Evaluation,
  habit: UnitHabit = "metric",
  stateId: string | null = null,
): string {
  const out: RootContent[] = [];
  const add = (...blocks: RootContent[]) => void out.push(...blocks);
  const reported = { file, version, design: inState(version.design, stateId), evaluation, habit, add };
  for (const write of [headOf, statesOf, numbersOf, partsOf, setupOf, changesOf, testsOf, cautionsOf]) write(reported);
  add(
    paragraph(
      "Predictions are calculations with the uncertainty shown, no promise. Rules on where such a craft " +
        "may run differ from place to place.",
    ),
  );
  return asMarkdown(out);
}
