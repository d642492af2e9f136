import { waysOf } from "../../core/design/support";
import { localIso } from "../app/dates";
import { get, set } from "idb-keyval";
import { useEffect, useMemo, useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { type CraftRecord, craftRecordSchema } from "../../api/contracts";
import { evaluate } from "../../core/evaluate";
import { fromPlan } from "../../core/runs/board";
import { ladderOf, ladderState, nextStage } from "../../core/runs/ladder";
import { Missing } from "../app/Missing";
import { sayError } from "../app/client";
import { useCraft } from "../app/desk";
import { keep, useOutbox } from "../app/outbox";
import { newKey } from "../stations/runs/blankRun";
import { After } from "./After";
import { Before } from "./Before";
import { Running } from "./Running";
import { type FieldLog, begin, ended, newLog, useKeptLog } from "./log";

/** The craft as the server has it, or as it was when it last answered: at the site there may be none. */
function useCraftAnyway(slug: string): { record: CraftRecord | undefined; error: unknown; old: boolean } {
  const { data, error } = useCraft(slug);
  const [held, setHeld] = useState<CraftRecord>();
  useEffect(() => {
    if (data) void set(`craft/${slug}`, data);
    else void get<unknown>(`craft/${slug}`).then((found) => setHeld(craftRecordSchema.safeParse(found).data));
  }, [data, slug]);
  return { record: data ?? held, error, old: !data || error !== null };
}

/** Field mode: one run logged live with one thumb, in black and white for the sun. */
export function FieldPage() {
  const { slug = "", label = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const { record, error, old } = useCraftAnyway(slug);
  const { log, ready, put } = useKeptLog(`${slug}/${label}`);
  const waiting = useOutbox();
  const version = record?.file.versions.find((v) => v.label === label);
  const evaluation = useMemo(() => (version ? evaluate(version.design) : null), [version]);
  const plan = record?.file.plans.find((p) => String(p.number) === search.get("plan") && p.state === "planned");
  if (!record || !version || !evaluation)
    return error ? <Missing what="craft" detail={sayError(error)} /> : <main className="p-6">Opening {slug} …</main>;
  if (!ready) return null;
  const { file } = record;
  const start = (): FieldLog => {
    const last = file.runs.findLast((r) => r.version === label) ?? file.runs.at(-1);
    return newLog(
      plan
        ? fromPlan(plan)
        : {
            stage: nextStage(ladderState(file, version)),
            place: last?.place ?? "",
            pilot: last?.pilot ?? "",
            conditions: {
              airTemperature: version.design.brief.environment.airTemperature,
              wind: null,
              surface: last?.conditions.surface ?? "",
            },
          },
    );
  };
  // A log that was begun goes on, whatever the address asks for.
  const fresh = log === null || (log.startedAt === null && plan !== undefined && log.run.plan !== plan.number);
  const current = fresh ? start() : log;
  const rung = ladderOf(version)[current.run.stage - 1];
  return (
    <main className="field" aria-label="Field mode">
      <title>{`${file.craft.name} ${label}, on the field · Ultraform`}</title>
      <header className="flex items-baseline justify-between">
        <h1 className="text-[20px]!">
          {file.craft.name} {label}
        </h1>
        {waiting.length > 0 && (
          <span className="text-[14px]" data-waiting={waiting.length}>
            <b className="num">{waiting.length}</b> waiting for the server
          </span>
        )}
        <span className="text-[13px]">
          {current.startedAt === null ? (
            <Link className="link" to={`/craft/${slug}/${label}/runs`}>
              to the desk
            </Link>
          ) : (
            current.run.place
          )}
        </span>
      </header>
      {old && <p className="text-[13px] text-care">Cannot reach the server: this is the craft as it was read last.</p>}
      {current.startedAt === null ? (
        <Before
          file={file}
          version={version}
          evaluation={evaluation}
          run={current.run}
          onChange={(run) => put({ ...current, run })}
          onStart={() => put(begin(current, new Date()))}
        />
      ) : current.endedAt === null ? (
        <Running
          log={current}
          ways={waysOf(version.design)}
          rung={rung}
          endurance={evaluation.metrics.endurance}
          onChange={put}
          onEnd={() => put(ended(current, new Date()))}
        />
      ) : (
        <After
          log={current}
          rung={rung}
          onChange={put}
          onKeep={async () => {
            const { run } = current;
            const { outcome } = run;
            if (outcome === null) return;
            // First into the outbox, then out of here: at no moment is it nowhere.
            await keep({
              key: run.key ?? newKey(),
              slug,
              label,
              run: { ...run, outcome, measured: run.measured.filter((m) => m.measured) },
              pictures: current.pictures,
              at: localIso(new Date()),
              refused: "",
            });
            put(null);
            setSearch({}, { replace: true });
          }}
        />
      )}
    </main>
  );
}
