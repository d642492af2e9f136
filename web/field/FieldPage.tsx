import { useState } from "react";
import type { FieldSheet } from "../../core/runs/sheetShape";
import { localIso } from "../app/dates";
import { Opening } from "../app/Opening";
import { keep, useOutbox } from "../app/outbox";
import { sayError } from "../app/request";
import { newKey } from "../stations/runs/blankRun";
import { After } from "./After";
import { Before } from "./Before";
import { Running } from "./Running";
import { begin, ended, newLog, useKeptLog } from "./log";
import { useSheet } from "./sheet";

/** Which version and state the address names, and which plan it asks for. Without a state: the first that it has. */
function asked(): { slug: string; label: string; state: string; plan: number | null } {
  const [, , slug = "", label = ""] = window.location.pathname.split("/");
  const search = new URLSearchParams(window.location.search);
  const plan = Number(search.get("plan"));
  const state = search.get("state") || "usual";
  return { slug: plainly(slug), label: plainly(label), state, plan: plan > 0 ? plan : null };
}
/** A part of the address as it is meant; as it stands where it cannot be read. */
function plainly(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/** Which state of the craft the run is about: its rungs, locks and endurance are its own. */
function StateChoice({ sheet: { state, states }, onChoose }: { sheet: FieldSheet; onChoose: (id: string) => void }) {
  return (
    <label className="flex items-center gap-2">
      State
      <select className="box" value={state.id} onChange={(e) => onChoose(e.target.value)}>
        {states.map((s) => (
          <option key={s.id} value={s.id}>
            {s.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Field mode: one run logged live with one thumb, in black and white for the sun. */
export function FieldPage() {
  const [{ slug, label, state, plan: wanted }, setAsked] = useState(asked);
  const { sheet, error, old } = useSheet(slug, label, state);
  const { log, ready, put, handOn } = useKeptLog(`${slug}/${label}`);
  const waiting = useOutbox();
  if (!sheet)
    return (
      <main className="p-6">
        {error === null ? (
          <Opening what={slug} />
        ) : (
          <>
            <title>No such craft · Ultraform</title>
            <h1>Not here</h1>
            <p className="mt-2">{sayError(error)}</p>
            <a className="link mt-4 inline-block" href="/">
              To the workshop
            </a>
          </>
        )}
      </main>
    );
  if (!ready) return null;
  const plan = sheet.plans.find((p) => p.number === wanted);
  // A log that was begun goes on, whatever the address asks for.
  const otherwise = (plan !== undefined && log?.run.plan !== plan.number) || log?.run.state !== sheet.state.id;
  const fresh = log === null || (log.startedAt === null && otherwise);
  const current = fresh ? newLog(plan?.begin ?? sheet.begin) : log;
  const rung = sheet.rungs[current.run.stage - 1];
  return (
    <main className="field" aria-label="Field mode">
      <title>{`${sheet.craft} ${label}, on the field · Ultraform`}</title>
      <header className="flex items-baseline justify-between">
        <h1 className="text-[20px]!">
          {sheet.craft} {label}
        </h1>
        {waiting.length > 0 && (
          <span className="text-[14px]" data-waiting={waiting.length}>
            <b className="num">{waiting.length}</b> waiting for the server
          </span>
        )}
        <span className="text-[13px]">
          {current.startedAt === null ? (
            <a className="link" href={`/craft/${encodeURIComponent(slug)}/${encodeURIComponent(label)}/runs`}>
              to the desk
            </a>
          ) : (
            current.run.place
          )}
        </span>
      </header>
      {old && <p className="text-[13px] text-care">Cannot reach the server: this is the craft as it was read last.</p>}
      {current.startedAt === null && sheet.states.length > 1 && (
        <StateChoice
          {...{ sheet }}
          onChoose={(id) => {
            window.history.replaceState(null, "", `${window.location.pathname}?state=${encodeURIComponent(id)}`);
            setAsked(asked());
          }}
        />
      )}
      {current.startedAt === null ? (
        <Before
          sheet={sheet}
          cautions={sheet.plans.find((p) => p.number === current.run.plan)?.cautions ?? sheet.cautions}
          run={current.run}
          onChange={(run) => put({ ...current, run })}
          onStart={() => put(begin(current, new Date()))}
        />
      ) : current.endedAt === null ? (
        <Running
          log={current}
          marks={sheet.marks}
          rung={rung}
          endurance={sheet.endurance}
          onChange={put}
          onEnd={() => put(ended(current, new Date()))}
        />
      ) : (
        <After
          log={current}
          rung={rung}
          drives={sheet.drives}
          onChange={put}
          onKeep={async () => {
            const { run } = current;
            const { outcome } = run;
            if (outcome === null) return;
            // Into the outbox and out of here in one step: at no moment is it nowhere, or in both.
            await handOn((stored) =>
              keep(
                {
                  key: run.key ?? newKey(),
                  slug,
                  label,
                  run: { ...run, outcome, measured: run.measured.filter((m) => m.measured) },
                  pictures: current.pictures,
                  at: localIso(new Date()),
                  refused: "",
                },
                stored,
              ),
            );
            window.history.replaceState(null, "", window.location.pathname);
            setAsked(asked());
          }}
        />
      )}
    </main>
  );
}
