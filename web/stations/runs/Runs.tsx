import { useHotkeys } from "react-hotkeys-hook";
import { useSearchParams } from "react-router";
import type { Plan } from "../../../core/design/plan";
import type { Run } from "../../../core/design/run";
import { HalfList } from "../../app/HalfLine";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useKeptLog } from "../../field/log";
import { ChecklistSheet } from "./ChecklistSheet";
import { EvidenceOrder } from "./EvidenceOrder";
import { Ladder } from "./Ladder";
import { LADDER_FORM, LadderForm } from "./LadderForm";
import { NewPlanForm } from "./NewPlanForm";
import { PlanSheet } from "./PlanSheet";
import { ReadySheet } from "./ReadySheet";
import { RunDetail } from "./RunDetail";
import { RunForm, runFormName } from "./RunForm";
import { RunTimeline } from "./RunTimeline";
import { SeriesSheet } from "./SeriesSheet";
import { useLadder } from "./useLadder";

/** What the address asks for: one thing at a time. */
function useAsked() {
  const { file, version } = useDesk();
  const [search, setSearch] = useSearchParams();
  const number = (key: string) => (search.has(key) ? Number(search.get(key)) : null);
  const runs = file.runs.filter((r) => r.version === version.label);
  // A crash whose evidence is not secured comes before anything else that was not asked for by name.
  const crashed = runs.findLast((r) => r.crash && Object.values(r.crash.steps).some((done) => !done));
  const asked = runs.find((r) => r.number === number("run"));
  return {
    search,
    runs,
    show: (query: Record<string, string>) => setSearch(query),
    plan: file.plans.find((p) => p.number === number("plan")),
    evidence: runs.find((r) => r.number === number("evidence")) ?? (search.size === 0 ? crashed : undefined),
    run: asked ?? runs.at(-1),
  };
}

type Asked = ReturnType<typeof useAsked>;

/** What a half-written form is called in the list of them; null: it is none of this station's. */
const halfName = (form: string): string | null =>
  form === LADDER_FORM
    ? "The test ladder"
    : form === "plan new"
      ? "Plan"
      : form.startsWith("run new")
        ? "New run"
        : form.startsWith("run ")
          ? `Run ${form.slice(4)}`
          : null;

/** Where a half-written form is taken up again. */
function whereHalf(form: string, next: number): Record<string, string> {
  const [kind, which, plan] = form.split(" ");
  if (form === LADDER_FORM) return { ladder: "1" };
  if (kind === "plan") return { newplan: String(next) };
  return which === "new" ? { log: "new", ...(plan ? { plan } : {}) } : { edit: which ?? "" };
}

function OpenPlans({ open, plan, show }: { open: Plan[] } & Pick<Asked, "plan" | "show">) {
  if (open.length === 0) return null;
  return (
    <ul aria-label="Plans" className="mb-2">
      {open.map((p) => (
        <li key={p.number}>
          <button
            type="button"
            className={`link text-left ${plan?.number === p.number ? "font-semibold" : ""}`}
            onClick={() => show({ plan: String(p.number) })}
          >
            {p.question}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The one thing that is asked for: a form, a list, a plan, a run, or what to begin with. */
function Sheet({
  asked: { search, show, plan, evidence, run },
  edited,
  next,
  done,
}: {
  asked: Asked;
  edited: Run | undefined;
  next: number;
  done: (n: number | null) => void;
}) {
  const { version } = useDesk();
  const logging = search.get("log");
  if (search.has("list")) return <ChecklistSheet />;
  if (search.has("series")) return <SeriesSheet />;
  if (search.has("ready")) return <ReadySheet />;
  if (search.has("ladder")) return <LadderForm onDone={() => show({})} />;
  if (search.has("newplan"))
    return (
      <NewPlanForm
        key={search.get("newplan")}
        stage={Math.min(7, Math.max(1, Number(search.get("newplan")) || next))}
        onDone={(n) => show({ plan: String(n) })}
        onCancel={() => show({})}
      />
    );
  if (logging !== null || edited)
    return (
      <RunForm
        key={`${logging}${edited?.number}${plan?.number}`}
        run={edited}
        plan={logging === null ? undefined : plan}
        onDone={done}
      />
    );
  if (plan)
    return (
      <PlanSheet
        key={plan.number}
        plan={plan}
        onLog={() => show({ log: "new", plan: String(plan.number) })}
        onGone={() => show({})}
      />
    );
  if (evidence) return <EvidenceOrder run={evidence} onDone={() => show({ run: String(evidence.number) })} />;
  if (run) return <RunDetail run={run} onEdit={() => show({ edit: String(run.number) })} onGone={() => show({})} />;
  return (
    <>
      <h2 className="text-[18px]">No run of {version.label} yet</h2>
      <p className="mt-2 max-w-lg">
        Start on the lowest rung: power off, on the bench. Weigh it, balance it, check that every surface moves the
        right way, and log that as run one.
      </p>
      <button type="button" className="act act-first mt-4" onClick={() => show({ log: "new" })}>
        Log the first run
      </button>
      <button type="button" className="link mt-3 block" onClick={() => show({ newplan: String(next) })}>
        or plan it first: a question, and what must hold
      </button>
      <button type="button" className="link mt-2 block" onClick={() => show({ series: "1" })}>
        or read laps of a course from a file
      </button>
    </>
  );
}

export function RunsStation() {
  const { version, slug, file, design, state } = useDesk();
  const several = design.states.length > 1;
  const { keys } = usePreferences();
  const { next } = useLadder();
  const asked = useAsked();
  const { search, runs, show, plan, run } = asked;
  const logging = search.get("log");
  const edited = runs.find((r) => String(r.number) === search.get("edit"));
  useHotkeys("n", () => show({ log: "new" }), { enabled: keys && logging === null && !edited, preventDefault: true });
  const done = (n: number | null) => show(n === null ? {} : { run: String(n) });
  const { log } = useKeptLog(`${slug}/${version.label}`);
  const running = log !== null && log.startedAt !== null;
  const open = file.plans.filter((p) => p.version === version.label && p.state === "planned");

  const formOpen = search.has("newplan")
    ? "plan new"
    : logging !== null || edited
      ? runFormName(edited?.number, logging === null ? undefined : plan?.number)
      : null;

  return (
    <div className="grid h-full grid-cols-[212px_1fr] max-[640px]:h-auto max-[640px]:grid-cols-[minmax(0,1fr)]">
      <section className="border-r border-hair px-4 py-3 max-[640px]:border-b max-[640px]:border-r-0">
        <div className="no-print mb-3 flex flex-wrap gap-2">
          <button
            type="button"
            className="act act-first"
            disabled={logging !== null}
            onClick={() => show({ log: "new" })}
          >
            Log a run
          </button>
          <button type="button" className="act" onClick={() => show({ newplan: String(next) })}>
            Plan a run
          </button>
          <a
            className="act max-[640px]:min-h-11 max-[640px]:content-center"
            href={`/field/${slug}/${version.label}${several ? `?state=${state.id}` : ""}`}
          >
            {running ? "A log is running" : "At the site"}
          </a>
        </div>
        <HalfList
          slug={slug}
          version={version.label}
          open={formOpen}
          name={halfName}
          onOpen={(form) => show(whereHalf(form, next))}
        />
        <OpenPlans {...{ open, plan, show }} />
        <div className="max-[640px]:hidden">
          <div className="mb-2 flex items-baseline justify-between">
            <h2>Test ladder</h2>
            <button type="button" className="link no-print text-[12px]" onClick={() => show({ ladder: "1" })}>
              edit it
            </button>
          </div>
          <Ladder
            runs={runs.filter((r) => r.state === state.id)}
            current={!search.has("plan") && !search.has("newplan") && logging === null ? (run?.number ?? null) : null}
            onPick={(n) => show({ run: String(n) })}
            onPlan={(stage) => show({ newplan: String(stage) })}
          />
        </div>
        <p className="no-print mt-2 flex flex-col items-start gap-2 max-[640px]:flex-row max-[640px]:flex-wrap">
          <button type="button" className="link" onClick={() => show({ series: "1" })}>
            Compare series
          </button>
          <button type="button" className="link" onClick={() => show({ list: "at the site" })}>
            Checklists
          </button>
          <button type="button" className="link" onClick={() => show({ ready: "1" })}>
            Ready to travel?
          </button>
        </p>
      </section>
      <section className="min-w-0 px-4 py-3">
        {formOpen === null && <RunTimeline current={plan || search.size > 1 ? null : (run?.number ?? null)} />}
        <Sheet {...{ asked, edited, next, done }} />
      </section>
    </div>
  );
}
