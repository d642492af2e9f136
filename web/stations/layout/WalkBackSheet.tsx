import type { ReactNode } from "react";
import { z } from "zod";
import {
  type Item,
  type WalkBack,
  type WalkBackRecord,
  newWalkBack,
  walkBackSchema,
} from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import type { WalkBackResult } from "../../../core/subjects/balance/walkBack";
import { MOST_TRAVEL, type WalkBackStep, goesOn, walkBack } from "../../../core/subjects/balance/walkBack";
import { moveItem, movingMass } from "../../../core/subjects/mass/tree";
import { plain } from "../../../core/wording/format";
import { SIDE_WORD, TRIM_LINE, TUNE_LINE } from "../../../core/wording/walkBack";
import { today } from "../../app/dates";
import { useDesk } from "../../app/desk";
import { useHalfState } from "../../app/halfWritten";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { QuantityField } from "../../fields/QuantityField";

const WHY: Record<string, string> = {
  noPart: "Choose the part that is slid or lightened.",
  noMass: "No part has a mass yet.",
  wrongWay: "The stop line must lie behind the CG; a part that is lightened must sit ahead of it.",
  noRange: "This part is fixed: allow it to move, or take mass out of it instead.",
};

const doubt = z.number().min(0, "0 or more").max(100);

/**
 * A plan to walk the CG back in steps, for a craft that is unstable on purpose: each step is kept before the next
 * opens.
 */
export function WalkBackSheet() {
  const { design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const cg = resultIn(evaluation, balance)?.cg.x ?? 0;
  // The part that moves the CG furthest by sliding is the first proposal.
  const strength = (i: Item) => (i.slide ? movingMass(design.items, i) * (i.slide.to - i.place.x) : 0);
  const first =
    design.items.length > 0 ? design.items.reduce((best, i) => (strength(i) > strength(best) ? i : best)) : undefined;
  const plan =
    design.walkBack ??
    newWalkBack({
      stop: Math.round((cg + 0.02) * 1000) / 1000,
      steps: 4,
      itemId: first?.id ?? null,
      by: first?.slide ? "slide" : "remove",
    });
  const put = (change: Partial<WalkBack>) => edit((d) => void (d.walkBack = { ...plan, ...change }));
  const computed = evaluation.metrics.neutralPoint;
  const own = computed && !computed.incomplete ? computed : null;
  const result = walkBack(design, {
    ...plan,
    neutral: plan.neutral ?? (own && { value: own.value, sd: own.sd, evidence: own.evidence }),
  });
  const item = design.items.find((i) => i.id === plan.itemId);
  return (
    <section aria-label="Move the CG back" className="px-4 py-3">
      <h2>Walk the CG back to a stop line</h2>
      <p className="max-w-[70ch]">
        For a craft held by its controller rather than by balance
        {design.schools.balance === "stable" ? " (the brief says this one is stable by balance)" : ""}: one step at a
        time, tuned again and trimmed before the next, and never past the stop line.
      </p>
      <Limits plan={plan} put={put} />
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <label className="w-40">
          Neutral point, x
          <QuantityField
            boxed
            label="Neutral point"
            value={plan.neutral?.value ?? null}
            dimension="length"
            empty={own ? `${plain(own.value, "length", habit)} computed` : "not known"}
            onCommit={(v) =>
              put({
                neutral:
                  v === null
                    ? null
                    : { value: v, sd: plan.neutral?.sd ?? 0.01, evidence: plan.neutral?.evidence ?? "guess" },
              })
            }
          />
        </label>
        {plan.neutral && (
          <>
            <label className="w-24">
              ±
              <QuantityField
                boxed
                label="Neutral point ±"
                value={plan.neutral.sd}
                dimension="length"
                schema={doubt}
                onCommit={(v) => v !== null && plan.neutral && put({ neutral: { ...plan.neutral, sd: v } })}
              />
            </label>
            <span>
              known by
              <EvidenceSelect
                label="Neutral point known by"
                value={plan.neutral.evidence}
                onChange={(evidence) => plan.neutral && put({ neutral: { ...plan.neutral, evidence } })}
              />
            </span>
          </>
        )}
      </div>
      {result.status !== "planned" ? (
        <p className="text-care">{result.status === "noPlace" ? `Open: ${result.open}.` : WHY[result.status]}</p>
      ) : (
        <>
          {result.endsAt !== null && (
            <p className="text-stop">
              Step {result.endsAt} is out of reach of {item?.name}:{" "}
              {plan.by === "slide" ? "its range ends before" : "it has no more mass to give"}.
            </p>
          )}
          <Steps plan={plan} result={result} item={item} put={put} />
          {plan.records.length > 0 && (
            <button type="button" className="link mt-2" onClick={() => put({ records: plan.records.slice(0, -1) })}>
              Take the last record back
            </button>
          )}
        </>
      )}
    </section>
  );
}

/** From where to where, and where to stop. */
function Limits({ plan, put }: { plan: WalkBack; put: (change: Partial<WalkBack>) => string | null }) {
  const { design } = useDesk();
  // What was kept belongs to these steps: another plan begins without it.
  const begun = plan.records.length > 0;
  return (
    <div className="my-2 flex flex-wrap items-end gap-3">
      <label className="w-32">
        Stop line, x
        <QuantityField
          boxed
          label="Stop line"
          disabled={begun}
          value={plan.stop}
          dimension="length"
          onCommit={(v) => v !== null && put({ stop: v })}
        />
      </label>
      <label className="w-20">
        Steps
        <QuantityField
          boxed
          label="Steps"
          disabled={begun}
          value={plan.steps}
          dimension="count"
          schema={walkBackSchema.shape.steps}
          onCommit={(v) => v !== null && put({ steps: v })}
        />
      </label>
      <label>
        By
        <select
          className="box"
          aria-label="By"
          disabled={begun}
          value={plan.by}
          onChange={(e) => put({ by: e.target.value as WalkBack["by"] })}
        >
          <option value="slide">sliding</option>
          <option value="remove">taking mass out of</option>
        </select>
      </label>
      <label className="min-w-44">
        Part
        <select
          className="box"
          aria-label="Part to walk with"
          disabled={begun}
          value={plan.itemId ?? ""}
          onChange={(e) => put({ itemId: e.target.value || null })}
        >
          <option value="">choose</option>
          {design.items.map((i) => (
            <option key={i.id} value={i.id}>
              {i.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** The steps of the plan, and what is moved for each. */
function Steps({
  plan,
  result,
  item,
  put,
}: {
  plan: WalkBack;
  result: Extract<WalkBackResult, { status: "planned" }>;
  item: Item | undefined;
  put: (change: Partial<WalkBack>) => string | null;
}) {
  const { habit } = usePreferences();
  const { edit } = useDesk();

  return (
    <table className="rows mt-1 w-full max-w-[900px]">
      <thead>
        <tr>
          <th>step</th>
          <th className="text-right!">CG x</th>
          <th className="text-right!">{plan.by === "slide" ? "slide by" : "take out"}</th>
          <th className="text-right!">{plan.by === "slide" ? "stands at" : "left"}</th>
          <th>what was kept of it</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td className="text-ink">start</td>
          <td className="num text-right">{plain(result.start, "length", habit)}</td>
          <td />
          <td className="num text-right">
            {item &&
              (plan.by === "slide"
                ? plain(item.place.x, "length", habit)
                : plain((item.mass?.value ?? 0) * item.quantity, "mass", habit))}{" "}
            now
          </td>
          <td />
        </tr>
        {result.steps.map((s) => (
          <StepRow key={s.number} step={s} last={s.number === result.steps.length} by={plan.by} stop={plan.stop}>
            {s.state === "next" && s.possible && (
              <RecordForm
                key={s.records.length}
                step={s}
                onKeep={(r) => put({ start: result.start, records: [...plan.records, r] })}
              />
            )}
            {s.state === "next" &&
              s.possible &&
              item &&
              plan.by === "slide" &&
              Math.abs(s.to - item.place.x) > 5e-5 && (
                <button
                  type="button"
                  className="link"
                  onClick={() =>
                    edit((d) => {
                      d.walkBack = { ...plan, start: result.start };
                      moveItem(d, item.id, { x: s.to - item.place.x });
                    })
                  }
                >
                  Move {item.name} there in the design
                </button>
              )}
          </StepRow>
        ))}
      </tbody>
    </table>
  );
}

/** One step: where the CG comes to, what moves, what was kept of it, and how to go about it. */
function StepRow({
  step: s,
  last,
  by,
  stop,
  children,
}: {
  step: WalkBackStep;
  last: boolean;
  by: WalkBack["by"];
  stop: number;
  children: ReactNode;
}) {
  const { habit } = usePreferences();
  const dimension = by === "slide" ? "length" : "mass";
  const number = `num text-right ${s.possible ? "" : "text-stop!"}`;
  return (
    <tr className="align-top" data-step={s.number} data-state={s.state}>
      <td className="text-ink">
        {last ? `${s.number}, the stop line` : s.number}
        <div className="text-[11px] text-pencil">{SIDE_WORD[s.side]}</div>
      </td>
      <td className="num text-right">{plain(s.cg, "length", habit)}</td>
      <td className={number}>{plain(s.by, dimension, habit)}</td>
      <td className={number}>{s.possible ? plain(s.to, dimension, habit) : "out of reach"}</td>
      <td className="border-l border-l-hair">
        {s.records.map((r, i) => (
          <div key={`${r.date}-${i}`} className="measured">
            {r.date}: {VERDICT[goesOn(r, stop) || r.verdict !== "go on" ? r.verdict : "stop"]}
            {r.cg !== null && (
              <>
                , CG {plain(r.cg, "length", habit)}
                {r.cg > stop && ": behind the stop line"}
              </>
            )}
            {r.travel !== null &&
              `, trim takes ${Math.round(100 * r.travel)} % of the travel${r.travel > MOST_TRAVEL ? ": too much" : ""}`}
            {r.trim && `, trim: ${r.trim}`}
            {r.tune && `, tune: ${r.tune}`}
          </div>
        ))}
        <details open={s.state === "next"} className="max-w-[70ch] text-[12px]">
          <summary className="text-pencil">how to go about it</summary>
          <p>{TUNE_LINE[s.side]}</p>
          <p>{TRIM_LINE}</p>
        </details>
        {s.state === "stopped" && <p className="text-stop">Stop here: go back one step and fly that one.</p>}
        {s.state === "ahead" && s.records.length === 0 && (
          <span className="text-[12px] text-pencil">after the step before</span>
        )}
        {children}
      </td>
    </tr>
  );
}
const VERDICT: Record<WalkBackRecord["verdict"], string> = { "go on": "go on", again: "fly it again", stop: "stop" };

/** What is kept of a step once it was flown. */
function RecordForm({ step, onKeep }: { step: WalkBackStep; onKeep: (r: WalkBackRecord) => void }) {
  const { slug, version } = useDesk();
  const {
    value: draft,
    set: setDraft,
    half,
  } = useHalfState<WalkBackRecord>(slug, version.label, `walk back ${step.number}`, {
    step: step.number,
    date: today(),
    cg: null,
    tune: "",
    trim: "",
    travel: null,
    verdict: "go on",
  });
  const change = (c: Partial<WalkBackRecord>) => setDraft((d) => ({ ...d, ...c }));
  const label = `Step ${step.number}`;
  return (
    <div className="mt-1 flex flex-wrap items-end gap-2">
      <label className="w-28 text-[12px]">
        CG measured
        <QuantityField
          boxed
          label={`${label}, CG measured`}
          value={draft.cg}
          dimension="length"
          onCommit={(cg) => change({ cg })}
        />
      </label>
      <label className="w-28 text-[12px]">
        trim takes
        <QuantityField
          boxed
          label={`${label}, travel taken`}
          value={draft.travel}
          dimension="percent"
          schema={share}
          onCommit={(travel) => change({ travel })}
        />
      </label>
      <label className="w-36 text-[12px]">
        trim or reflex
        <input
          className="box"
          aria-label={`${label}, trim`}
          value={draft.trim}
          maxLength={300}
          onChange={(e) => change({ trim: e.target.value })}
        />
      </label>
      <label className="w-44 text-[12px]">
        tuned again to
        <input
          className="box"
          aria-label={`${label}, tune`}
          value={draft.tune}
          maxLength={300}
          onChange={(e) => change({ tune: e.target.value })}
        />
      </label>
      <label className="text-[12px]">
        and then
        <select
          className="box"
          aria-label={`${label}, verdict`}
          value={draft.verdict}
          onChange={(e) => change({ verdict: e.target.value as WalkBackRecord["verdict"] })}
        >
          {Object.entries(VERDICT).map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => {
          half.done();
          onKeep(draft);
        }}
      >
        Keep step {step.number}
      </button>
    </div>
  );
}
const share = z.number().min(0, "between 0 and 100 %").max(1, "between 0 and 100 %");
