import { differenceInCalendarDays, parseISO } from "date-fns";
import { useEffect, useRef } from "react";
import type { Run } from "../../../core/design/craftFile";
import { useDesk } from "../../app/desk";
import { OUTCOME } from "./words";

const RUNGS = 7;
const STEP = 9;
const HEIGHT = RUNGS * STEP + 12;
/** Room between two days of runs, px: more for a longer pause, and not in proportion. */
const roomFor = (days: number) => (days <= 0 ? 0 : Math.min(72, 14 + 9 * Math.sqrt(days)));

/** A run at its rung: filled when it passed, half when partly, hollow when aborted, crossed when it failed. */
function Mark({ outcome, y }: { outcome: Run["outcome"]; y: number }) {
  if (outcome === "failed")
    return <path d={`M7.5 ${y - 4.5}l9 9m0-9l-9 9`} stroke="var(--stop)" strokeWidth="2.4" fill="none" />;
  return (
    <>
      <rect
        x="8"
        y={y - 4}
        width="8"
        height="8"
        fill={outcome === "passed" ? "var(--ink)" : "var(--sheet)"}
        stroke={outcome === "passed" ? "var(--ink)" : "var(--care)"}
        strokeWidth="1.6"
      />
      {outcome === "partly" && <path d={`M8 ${y + 4}h8v-8z`} fill="var(--care)" />}
    </>
  );
}

/**
 * Every run of the craft in the order of time, at the rung that it was on: by version, with the pauses between days.
 */
export function RunTimeline({ current }: { current: number | null }) {
  const { file, version, go } = useDesk();
  const list = useRef<HTMLOListElement>(null);
  const runs = file.runs.toSorted((a, b) => a.date.localeCompare(b.date) || a.number - b.number);
  // The latest stand at the right: they are what one comes for.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new run moves it to its end
  useEffect(() => {
    if (list.current) list.current.scrollLeft = list.current.scrollWidth;
  }, [runs.length]);
  if (runs.length < 2) return null;
  return (
    <ol
      ref={list}
      aria-label="Runs in the order of time"
      className="no-print mb-3 flex items-end overflow-x-auto border-b border-hair bg-sheet pb-1 pl-2 pr-4"
    >
      {runs.map((r, k) => {
        const last = runs[k - 1];
        const days = last ? differenceInCalendarDays(parseISO(r.date), parseISO(last.date)) : 0;
        const first = last?.version !== r.version;
        const here = r.version === version.label;
        const y = HEIGHT - 6 - (r.stage - 0.5) * STEP;
        return (
          <li key={r.number} className="flex items-end" data-run-mark={r.number}>
            {days > 0 && (
              <span
                className="shrink-0 text-center text-[11px] leading-3 text-pencil"
                style={{ width: roomFor(days), paddingBottom: 16 }}
              >
                {days} d
              </span>
            )}
            <span className="relative flex w-6 shrink-0 flex-col items-center">
              <button
                type="button"
                className={`block w-6 ${r.number === current ? "bg-tint-accent" : ""}`}
                aria-current={r.number === current ? "true" : undefined}
                aria-label={
                  `Run ${r.number}, ${r.version}, ${r.date.slice(0, 10)}: rung ${r.stage}, ` +
                  `${OUTCOME[r.outcome].word}`
                }
                title={
                  `Run ${r.number}, ${r.date.slice(0, 10)}: rung ${r.stage}, ` +
                  `${OUTCOME[r.outcome].word.toLowerCase()}`
                }
                onClick={() => go({ label: r.version, station: "runs", search: { run: String(r.number) } })}
              >
                <svg width="24" height={HEIGHT} viewBox={`0 0 24 ${HEIGHT}`} aria-hidden="true">
                  {Array.from({ length: RUNGS }, (_, n) => (
                    <path
                      key={n}
                      d={`M0 ${HEIGHT - 6 - n * STEP - STEP / 2}h24`}
                      stroke={n < r.stage ? "var(--rule)" : "var(--hair)"}
                      strokeWidth="0.7"
                    />
                  ))}
                  <Mark outcome={r.outcome} y={y} />
                </svg>
              </button>
              <span
                className={`h-4 whitespace-nowrap text-[11px] leading-4 ${here ? "font-semibold text-accent" : "text-ink2"}`}
              >
                {first ? r.version : "\u00a0"}
              </span>
            </span>
          </li>
        );
      })}
    </ol>
  );
}
