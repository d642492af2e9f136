import { useMutation } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { z } from "zod";
import { type NewPlan, contracts, newPlanSchema } from "../../../api/contracts";
import { METRICS } from "../../../core/design/metrics";
import { type Plan, isMetricKey } from "../../../core/design/craftFile";
import { type BoardLine, board, mayBegin } from "../../../core/runs/board";
import { oddsOf } from "../../../core/runs/ladder";
import { checklist } from "../../../core/safety/checklist";
import { gateText } from "../../../core/wording/ladder";
import { boardText } from "../../../core/wording/plan";
import { Value } from "../../app/Computed";
import { ApiError, call, sayError } from "../../app/client";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useDelete } from "../../app/useDelete";
import { Lines } from "../../fields/Lines";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { ClipboardSheet, printSheet } from "../bench/ClipboardSheet";
import { Cautions } from "./Cautions";
import { RungSelect } from "./RungSelect";
import { useLadder, useStops } from "./useLadder";

const STATE: Record<BoardLine["state"], { word: string; colour: string; sign: string }> = {
  go: { word: "go", colour: "text-clear", sign: "✓" },
  "not yet": { word: "not yet", colour: "text-stop", sign: "■" },
  "not looked at": { word: "not looked at", colour: "text-care", sign: "□" },
};

/** Words of a day's condition that a limit is held against. */
const LIMITS = [
  ["wind", "Wind", "speed", "wind"],
  ["waves", "Waves, height", "length", "waves"],
  ["current", "Current of the water", "speed", "current"],
  ["coldest", "Air at least", "temperature", "temperature"],
  ["warmest", "Air at most", "temperature", null],
] as const;

/** What a plan begins with: the rung's own abort rules and safety plan, the brief's wind. */
export function usePlanStart(stage: number): NewPlan {
  const { design, file } = useDesk();
  const { rungs } = useLadder();
  const rung = rungs[stage - 1];
  const last = file.runs.at(-1);
  return {
    stage,
    question: "",
    course: "",
    repeats: 1,
    abort: rung?.abort ?? [],
    success: "",
    people: last?.pilot ? [{ name: last.pilot, role: "drives" }] : [],
    place: last?.place ?? "",
    limits: { wind: design.brief.environment.wind || null, waves: null, current: null, coldest: null, warmest: null, surface: "" },
    day: { wind: null, waves: null, current: null, temperature: null, surface: null },
    safety: rung?.safety ?? [],
    ticks: [],
    goneOn: "",
    state: "planned",
  };
}

/** Opens a plan: the question is all that is needed to begin. */
export function NewPlanForm({ stage, onDone, onCancel }: { stage: number; onDone: (n: number) => void; onCancel: () => void }) {
  const { slug, version, refresh, flush } = useDesk();
  const { rungs } = useLadder();
  const [rung, setRung] = useState(stage);
  const [question, setQuestion] = useState("");
  const [missing, setMissing] = useState(false);
  const begin = usePlanStart(rung);
  const make = useMutation({
    mutationFn: async () => {
      await flush();
      return call(contracts.createPlan, { params: { slug, label: version.label }, body: { ...begin, question: question.trim() } });
    },
    onSuccess: async ({ number }) => {
      await refresh();
      onDone(number);
    },
    onError: (e) => toast.error(sayError(e)),
  });
  return (
    <form
      aria-label="New plan"
      onSubmit={(e) => {
        e.preventDefault();
        setMissing(question.trim() === "");
        if (question.trim() !== "") make.mutate();
      }}
    >
      <h2 className="border-b border-ink pb-1 text-[18px]">Plan a run of {version.label}</h2>
      <div className="mt-3 grid max-w-2xl grid-cols-[1fr_220px] gap-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
        <label>
          The question that it answers
          <input
            className="box"
            maxLength={200}
            placeholder="such as: does the nose stay down to 17 m/s?"
            value={question}
            aria-invalid={missing}
            onChange={(e) => setQuestion(e.target.value)}
          />
          {missing && (
            <span role="alert" className="text-[11px] text-stop">
              A run answers a question: write it down.
            </span>
          )}
        </label>
        <RungSelect rungs={rungs} value={rung} onChange={setRung} />
      </div>
      <p className="mt-2 max-w-2xl">{rungs[rung - 1]?.doing}.</p>
      <p className="mt-3 flex gap-2">
        <button type="submit" className="act act-first" disabled={make.isPending}>
          Plan it
        </button>
        <button type="button" className="act" onClick={onCancel}>
          Cancel
        </button>
      </p>
    </form>
  );
}

/** A plan as the server holds it, in the answer to a stale save. */
const heldSchema = z.object({ revision: z.number(), plan: newPlanSchema });
type Held = z.infer<typeof heldSchema>;

/** One planned run: what it asks, what is predicted, what must hold, and whether it may begin. */
export function PlanSheet({ plan, onLog, onGone }: { plan: Plan; onLog: () => void; onGone: () => void }) {
  const desk = useDesk();
  const { slug, file, version, design, evaluation, revisions, refresh, go } = desk;
  const { habit } = usePreferences();
  const { rungs, locks, say } = useLadder();
  const remove = useDelete();
  const rung = rungs[plan.stage - 1];
  const run = file.runs.find((r) => r.plan === plan.number);
  const closed = plan.state !== "planned";

  // Edits are put together and saved one after the other, each against the revision that the last one left.
  const [draft, setDraft] = useState<NewPlan>(() => newPlanSchema.parse(plan));
  const revision = useRef(revisions.plans[plan.number] ?? 0);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const [theirs, setTheirs] = useState<Held | null>(null);
  useEffect(() => {
    const held = revisions.plans[plan.number] ?? 0;
    // Not while somebody chooses between two states: neither is merged in silence.
    if (held > revision.current && theirs === null) {
      revision.current = held;
      setDraft(newPlanSchema.parse(plan));
    }
  }, [plan, revisions.plans, theirs]);
  const put = (change: Partial<NewPlan>) => {
    const next = { ...draft, ...change };
    setDraft(next);
    queue.current = queue.current
      .then(async () => {
        const saved = await call(contracts.savePlan, { params: { slug, number: plan.number }, body: { revision: revision.current, plan: next } });
        revision.current = saved.revision;
        await refresh();
      })
      .catch((e) => {
        if (e instanceof ApiError && e.problem.type === "/problems/stale") setTheirs(heldSchema.parse(e.problem.current));
        else toast.error(sayError(e));
      });
  };
  /** What the server holds since somebody else saved it; nothing while nobody did. */
  const settleWith = (held: Held, mine: boolean) => {
    revision.current = held.revision;
    setTheirs(null);
    if (mine) put({});
    else {
      setDraft(held.plan);
      void refresh();
    }
  };

  const held = locks(draft.stage);
  const stops = useStops();
  const checks = useMemo(() => checklist(file, { ...version, design }, stops, "at the site", draft.stage), [file, version, design, stops, draft.stage]);
  const lines = board({ ...plan, ...draft }, held, checks);
  const open = lines.filter((l) => l.state !== "go").length;
  const may = mayBegin(lines, draft.goneOn);

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
              if (await remove("Delete this plan?", `Plan ${plan.number} is deleted.`, () => call(contracts.deletePlan, { params: { slug, number: plan.number } }))) onGone();
            }}
          >
            Delete
          </button>
        </span>
      </header>
      {theirs && (
        <div role="alert" className="mt-2 border-l-[3px] border-stop pl-3" data-conflict>
          <p className="text-stop">This plan was saved elsewhere in the meantime. What you entered stands here still.</p>
          <p>
            There: “{theirs.plan.question}”, rung {theirs.plan.stage}, wind {theirs.plan.day.wind === null ? "not looked at" : `${theirs.plan.day.wind} m/s`},{" "}
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
            <button type="button" className="link" onClick={() => go({ label: run.version, station: "runs", search: { run: String(run.number) } })}>
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
          <table className="rows mt-1 w-full" aria-label="Gates and predictions">
            <thead>
              <tr>
                <th>gate of rung {draft.stage}</th>
                <th className="text-right!">predicted</th>
                <th className="text-right!">odds to pass</th>
              </tr>
            </thead>
            <tbody>
              {(rung?.gates ?? []).map((g) => {
                const q = isMetricKey(g.metric) ? evaluation.metrics[g.metric] : undefined;
                return (
                  <tr key={g.id}>
                    <td className="text-ink">{gateText(g, habit)}</td>
                    <td className="text-right">{q ? <Value quantity={q} /> : <span className="text-pencil">{g.metric === "" ? "by eye" : "not predicted"}</span>}</td>
                    <td className="num text-right">{q ? `${Math.round(oddsOf(g, q.value, q.sd) * 100)} %` : ""}</td>
                  </tr>
                );
              })}
              {evaluation.targets
                .filter((t) => METRICS[t.target.metric].modelled)
                .slice(0, 6)
                .map((t) => {
                  const q = evaluation.metrics[t.target.metric];
                  return (
                    q && (
                      <tr key={t.target.id}>
                        <td>
                          {METRICS[t.target.metric].label} <span className="text-[11px] text-pencil">of the brief</span>
                        </td>
                        <td className="text-right">
                          <Value quantity={q} />
                        </td>
                        <td className="num text-right">{t.odds === null ? "" : `${Math.round(t.odds * 100)} %`}</td>
                      </tr>
                    )
                  );
                })}
            </tbody>
          </table>
          <fieldset disabled={closed} className="mt-3 grid grid-cols-2 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
            <label className="col-span-2 max-[640px]:col-span-1">
              Question
              <TextField boxed required label="Question" value={draft.question} onCommit={(question) => put({ question: question.trim() })} />
            </label>
            <div className="col-span-2 grid grid-cols-[1fr_90px] gap-2 max-[640px]:col-span-1">
              <label>
                Course
                <TextField boxed label="Course" value={draft.course} onCommit={(course) => put({ course })} placeholder="none" />
              </label>
              <label>
                Repeats
                <QuantityField
                  boxed
                  label="Repeats"
                  dimension="count"
                  value={draft.repeats}
                  schema={newPlanSchema.shape.repeats}
                  onCommit={(v) => v !== null && put({ repeats: v })}
                />
              </label>
            </div>
            <label>
              It is broken off when
              <Lines label="It is broken off when" most={12} value={draft.abort} onCommit={(abort) => put({ abort })} placeholder="one rule to a line" />
            </label>
            <label>
              Safety plan
              <Lines label="Safety plan" most={12} length={200} value={draft.safety} onCommit={(safety) => put({ safety })} placeholder="one line to a line" />
            </label>
            <label>
              If it goes better than expected
              <textarea
                className="box"
                rows={2}
                maxLength={300}
                aria-label="If it goes better than expected"
                placeholder="If it lifts: are the controls connected? Who ends it, and when?"
                defaultValue={draft.success}
                onBlur={(e) => e.target.value.trim() !== draft.success && put({ success: e.target.value.trim() })}
              />
            </label>
            <label>
              People, each with a role
              <Lines
                label="People, each with a role"
                most={12}
                rows={2}
                value={draft.people.map((p) => (p.role ? `${p.name}: ${p.role}` : p.name))}
                onCommit={(list) =>
                  put({
                    people: list.map((l) => {
                      const [name = "", ...role] = l.split(":");
                      return { name: name.trim().slice(0, 80) || "somebody", role: role.join(":").trim().slice(0, 80) };
                    }),
                  })
                }
                placeholder="name: role"
              />
            </label>
          </fieldset>
          <h3 className="mt-4">Place and limits</h3>
          <fieldset disabled={closed} className="grid grid-cols-2 gap-3 max-[640px]:grid-cols-[minmax(0,1fr)]">
            <label>
              Place
              <TextField boxed label="Place" value={draft.place} onCommit={(place) => put({ place })} />
            </label>
            <label>
              Surface must be
              <TextField boxed label="Surface must be" value={draft.limits.surface} onCommit={(surface) => put({ limits: { ...draft.limits, surface } })} placeholder="anything" />
            </label>
          </fieldset>
          <table className="rows mt-1 w-full max-w-xl">
            <thead>
              <tr>
                <th />
                <th>limit</th>
                <th>on the day</th>
              </tr>
            </thead>
            <tbody>
              {LIMITS.map(([key, label, dimension, now]) => (
                <tr key={key}>
                  <td>{label}</td>
                  <td className="w-36">
                    <QuantityField
                      boxed
                      label={`${label}, limit`}
                      dimension={dimension}
                      empty="no limit"
                      disabled={closed}
                      value={draft.limits[key]}
                      onCommit={(v) => put({ limits: { ...draft.limits, [key]: v } })}
                    />
                  </td>
                  <td className="w-36">
                    {now && (
                      <QuantityField
                        boxed
                        label={`${label}, on the day`}
                        dimension={dimension}
                        empty="not looked at"
                        disabled={closed}
                        value={draft.day[now]}
                        onCommit={(v) => put({ day: { ...draft.day, [now]: v } })}
                      />
                    )}
                  </td>
                </tr>
              ))}
              {draft.limits.surface !== "" && (
                <tr>
                  <td>Surface: {draft.limits.surface}</td>
                  <td />
                  <td>
                    <select
                      className="box"
                      aria-label="Surface, on the day"
                      disabled={closed}
                      value={draft.day.surface ?? ""}
                      onChange={(e) => put({ day: { ...draft.day, surface: e.target.value === "" ? null : (e.target.value as "yes" | "no") } })}
                    >
                      <option value="">not looked at</option>
                      <option value="yes">it is</option>
                      <option value="no">it is not</option>
                    </select>
                  </td>
                </tr>
              )}
            </tbody>
          </table>
          <Cautions />
        </div>
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
                  <span className="text-ink">{boardText(l, habit, l.what.kind === "lock" ? say(l.what.lock) : undefined)}</span>{" "}
                  <b className={`text-[11px] ${STATE[l.state].colour}`}>{STATE[l.state].word}</b>
                  {l.what.kind === "checks" && (
                    <button type="button" className="link block text-[12px]" onClick={() => go({ station: "runs", search: { list: "at the site", plan: String(plan.number) } })}>
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
              <TextField boxed label="Why it goes on all the same" value={draft.goneOn} onCommit={(goneOn) => put({ goneOn: goneOn.trim() })} />
            </label>
          )}
          {!closed && (
            <p className="no-print mt-3 flex flex-col gap-2">
              {may ? (
                <Link className="act act-first" to={`/field/${slug}/${version.label}?plan=${plan.number}`}>
                  Start the log at the site
                </Link>
              ) : (
                <button type="button" className="act act-first" disabled>
                  Start the log at the site
                </button>
              )}
              <button type="button" className="act" onClick={onLog}>
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
