import { useSearchParams } from "react-router";
import { STAGES } from "../../../core/design/craftFile";
import { runsInState } from "../../../core/runs/ladder";
import { LISTS, type ListName, checklist } from "../../../core/safety/checklist";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { ClipboardSheet, printSheet } from "../bench/ClipboardSheet";
import { usePlanTicks } from "./usePlanTicks";
import { useStops } from "./useLadder";
import { useTicks } from "./useTicks";

/** Checklists that write themselves, from what is aboard, what was changed and what has gone wrong before. */
export function ChecklistSheet() {
  const { file, version, design, seen, slug, go } = useDesk();
  const { habit } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const list: ListName = LISTS.find((l) => l === search.get("list")) ?? "at the site";
  const reached = Math.max(
    0,
    ...runsInState(file.runs, { ...version, design: seen })
      .filter((r) => r.outcome === "passed")
      .map((r) => r.stage),
  );
  const plan = file.plans.find((p) => String(p.number) === search.get("plan") && p.state === "planned");
  const stage = plan?.stage ?? Math.min(7, Math.max(1, Number(search.get("stage")) || reached + 1));
  const stops = useStops();
  const lines = checklist(file, { ...version, design }, stops, list, stage, habit);
  const today = useTicks(`${slug}/${version.label}/${list}`);
  const ofPlan = usePlanTicks(plan);
  // The list of a planned run is kept with its plan; without one, ticks count for the day.
  const [ticks, tick, clear] = plan ? ofPlan : today;
  const open = lines.filter((l) => !ticks.has(l.id));
  const held = open.filter((l) => l.must);
  const put = (change: Record<string, string>) => {
    const next = new URLSearchParams(search);
    for (const [k, v] of Object.entries(change)) next.set(k, v);
    setSearch(next, { replace: true });
  };
  return (
    <section aria-label="Checklist" className="text-[13px]">
      <h2 className="border-b border-ink pb-1 text-[18px]">Checklists</h2>
      <div className="no-print mt-2 flex flex-wrap items-center gap-2">
        <span role="group" aria-label="List" className="flex flex-wrap gap-1">
          {LISTS.map((l) => (
            <button
              key={l}
              type="button"
              className={`chip ${l === list ? "chip-on" : ""}`}
              aria-pressed={l === list}
              onClick={() => put({ list: l })}
            >
              {l}
            </button>
          ))}
        </span>
        {plan && (
          <button
            type="button"
            className="link"
            onClick={() => go({ station: "runs", search: { plan: String(plan.number) } })}
          >
            kept with plan {plan.number}
          </button>
        )}
        {list === "at the site" && !plan && (
          <label className="flex items-center gap-1 text-[12px]">
            for rung
            <select
              className="box w-auto!"
              aria-label="Rung of the list"
              value={stage}
              onChange={(e) => put({ stage: e.target.value })}
            >
              {STAGES.map((s, i) => (
                <option key={s} value={i + 1}>
                  {i + 1} {s}
                </option>
              ))}
            </select>
          </label>
        )}
        <button type="button" className="link text-[12px]" onClick={printSheet}>
          print it
        </button>
        {ticks.size > 0 && (
          <button type="button" className="link text-[12px]" onClick={clear}>
            untick all
          </button>
        )}
      </div>
      <p
        className={
          "mt-3 text-[15px] font-semibold " +
          `${held.length > 0 ? "text-stop" : open.length > 0 ? "text-care" : "text-clear"}`
        }
        aria-live="polite"
        data-ready={held.length === 0 ? "go" : "not yet"}
      >
        {held.length > 0
          ? `Not yet: ${held.length} that must be done`
          : open.length > 0
            ? `Go, with ${open.length} left open`
            : "All done"}
      </p>
      <ul className="mt-1">
        {lines.map((l) => (
          <li key={l.id} className="border-b border-hair" data-check={l.id}>
            <label className="flex min-h-10 items-center gap-3 py-1">
              <input
                type="checkbox"
                className="h-5 w-5 shrink-0"
                checked={ticks.has(l.id)}
                onChange={() => tick(l.id)}
              />
              <span className={ticks.has(l.id) ? "text-pencil line-through" : "text-ink"}>
                {l.text}
                {l.must && !ticks.has(l.id) && <b className="ml-1 text-stop">must</b>}
                <span className="block text-[11px] text-pencil">from {l.from}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
      <p className="mt-2 text-[11px] text-pencil">
        Common practice, from what is aboard, what was changed and what has gone wrong. It does not replace local rules
        or your own eyes.
      </p>
      <ClipboardSheet
        title={`Checklist, ${list}`}
        columns={["done", "note"]}
        rows={lines.map((l) => `${l.must ? "• " : ""}${l.text}`)}
      />
    </section>
  );
}
