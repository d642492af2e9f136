import { useMemo } from "react";
import type { NewPlan } from "../../../api/contracts";
import { contracts } from "../../../api/contracts";
import type { Plan } from "../../../core/design/craftFile";
import { type BoardLine, board, mayBegin } from "../../../core/runs/board";
import type { CheckLine } from "../../../core/safety/checklist";
import { checklist } from "../../../core/safety/checklist";
import { gateText } from "../../../core/wording/ladder";
import { boardText } from "../../../core/wording/plan";
import { call } from "../../app/client";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useDelete } from "../../app/useDelete";
import { TextField } from "../../fields/TextField";
import { ClipboardSheet, printSheet } from "../bench/ClipboardSheet";
import { Cautions } from "./Cautions";
import { PlanFields, PlanPredictions } from "./PlanFields";
import { useLadder, useStops } from "./useLadder";
import { usePlanDraft } from "./usePlanDraft";

const STATE: Record<BoardLine["state"], { word: string; colour: string; sign: string }> = {
  go: { word: "go", colour: "text-clear", sign: "✓" },
  "not yet": { word: "not yet", colour: "text-stop", sign: "■" },
  "not looked at": { word: "not looked at", colour: "text-care", sign: "□" },
};

/** One planned run: what it asks, what is predicted, what must hold, and whether it may begin. */
export function PlanSheet({ plan, onLog, onGone }: { plan: Plan; onLog: () => void; onGone: () => void }) {
  const { slug, file, version, design, go } = useDesk();
  const { habit } = usePreferences();
  const { rungs } = useLadder();
  const remove = useDelete();
  const rung = rungs[plan.stage - 1];
  const run = file.runs.find((r) => r.plan === plan.number);
  const closed = plan.state !== "planned";
  const { draft, put, theirs, settleWith, settled } = usePlanDraft(plan);
  const stops = useStops();
  const checks = useMemo(
    () => checklist(file, { ...version, design }, stops, "at the site", draft.stage, habit),
    [file, version, design, stops, draft.stage, habit],
  );

  return (
    <article aria-label={`Plan ${plan.number}`}>
      <header className="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
        <h2 className="text-[18px]">Plan {plan.number}</h2>
        <b className="text-ink">{draft.question}</b>
        <span className="text-pencil">
          rung {draft.stage}, {rung?.name}
        </span>
        <span className="no-print ml-auto flex gap-3">
          <button type="button" className="link" onClick={printSheet}>
            print
          </button>
          <button
            type="button"
            className="link"
            onClick={async () => {
              if (
                await remove("Delete this plan?", `Plan ${plan.number} is deleted.`, () =>
                  call(contracts.deletePlan, { params: { slug, number: plan.number } }),
                )
              )
                onGone();
            }}
          >
            Delete
          </button>
        </span>
      </header>
      {theirs && (
        <div role="alert" className="mt-2 border-l-[3px] border-stop pl-3" data-conflict>
          <p className="text-stop">This plan was saved elsewhere in the meantime. Your entries are still here.</p>
          <p>
            There: “{theirs.plan.question}”, rung {theirs.plan.stage}, wind{" "}
            {theirs.plan.day.wind === null ? "not looked at" : `${theirs.plan.day.wind} m/s`},{" "}
            {theirs.plan.ticks.length} ticks.
          </p>
          <p className="mt-1 flex gap-2">
            <button type="button" className="act" onClick={() => settleWith(theirs, false)}>
              Take what is there
            </button>
            <button type="button" className="act" onClick={() => settleWith(theirs, true)}>
              Keep what stands here
            </button>
          </p>
        </div>
      )}
      {plan.state === "done" && (
        <p className="mt-2">
          Carried out{" "}
          {run ? (
            <button
              type="button"
              className="link"
              onClick={() => go({ label: run.version, station: "runs", search: { run: String(run.number) } })}
            >
              as run {run.number}
            </button>
          ) : (
            "in a run that is no longer there"
          )}
          .
        </p>
      )}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)_minmax(0,300px)] gap-6 max-[900px]:grid-cols-[minmax(0,1fr)]">
        <div>
          <h3>What it asks</h3>
          <p>{rung?.doing}.</p>
          <PlanPredictions rung={rung} />
          <PlanFields draft={draft} closed={closed} put={put} />
          <Cautions places={["plan", "power", "site"]} run={draft} />
        </div>
        <GoBoard draft={draft} plan={plan} checks={checks} closed={closed} put={put} settled={settled} onLog={onLog} />
      </div>
      <ClipboardSheet
        title={`Plan ${plan.number}, rung ${draft.stage}: ${draft.question}`}
        columns={["done", "note"]}
        rows={[
          ...draft.safety.map((s) => `Safety: ${s}`),
          ...draft.abort.map((a) => `Break off when ${a}`),
          ...(draft.success ? [`If it goes well: ${draft.success}`] : []),
          ...(rung?.gates ?? []).map((g) => `Gate: ${gateText(g, habit)}`),
        ]}
      />
    </article>
  );
}

/** Each line that must be settled before the first run. */
function GoBoard({
  draft,
  plan,
  checks,
  closed,
  put,
  settled,
  onLog,
}: {
  draft: NewPlan;
  plan: Plan;
  checks: CheckLine[];
  closed: boolean;
  put: (change: Partial<NewPlan>) => void;
  settled: () => Promise<unknown>;
  onLog: () => void;
}) {
  const { locks, say } = useLadder();
  const { habit } = usePreferences();
  const { go, slug, version, state } = useDesk();

  const held = locks(draft.stage);
  const lines = board({ ...plan, ...draft }, held, checks);
  const open = lines.filter((l) => l.state !== "go").length;
  const may = mayBegin(lines, draft.goneOn);
  return (
    <section aria-label="Go or not yet" className="self-start border border-ink bg-sheet p-3">
      <h3 className={open === 0 ? "text-clear" : may ? "text-care" : "text-stop"} data-may={may ? "go" : "not yet"}>
        {open === 0 ? "Go" : may ? "Goes on, with a reason" : `Not yet: ${open} ${open === 1 ? "line" : "lines"}`}
      </h3>
      <ul className="mt-1">
        {lines.map((l) => (
          <li key={l.id} data-board={l.state} className="flex gap-2 border-b border-hair py-1">
            <span className={`w-4 shrink-0 ${STATE[l.state].colour}`} aria-hidden="true">
              {STATE[l.state].sign}
            </span>
            <span className="min-w-0">
              <span className="text-ink">
                {boardText(l, habit, l.what.kind === "lock" ? say(l.what.lock) : undefined)}
              </span>{" "}
              <b className={`text-[11px] ${STATE[l.state].colour}`}>{STATE[l.state].word}</b>
              {l.what.kind === "checks" && (
                <button
                  type="button"
                  className="link block text-[12px]"
                  onClick={() => go({ station: "runs", search: { list: "at the site", plan: String(plan.number) } })}
                >
                  to the checklist
                </button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {open > 0 && !closed && (
        <label className="mt-2 block">
          To go on all the same, say why: it is kept with the run
          <TextField
            boxed
            label="Reason for running anyway"
            value={draft.goneOn}
            onCommit={(goneOn) => put({ goneOn: goneOn.trim() })}
          />
        </label>
      )}
      {!closed && (
        <p className="no-print mt-3 flex flex-col gap-2">
          {may ? (
            <a className="act act-first" href={`/field/${slug}/${version.label}?plan=${plan.number}&state=${state.id}`}>
              Start the log at the site
            </a>
          ) : (
            <button type="button" className="act act-first" disabled>
              Start the log at the site
            </button>
          )}
          <button type="button" className="act" onClick={() => void settled().then(onLog)}>
            Log it afterwards
          </button>
          <button type="button" className="link" onClick={() => put({ state: "dropped" })}>
            drop the plan
          </button>
        </p>
      )}
      {plan.state === "dropped" && (
        <p className="mt-2">
          Dropped.{" "}
          <button type="button" className="link" onClick={() => put({ state: "planned" })}>
            take it up again
          </button>
        </p>
      )}
    </section>
  );
}
