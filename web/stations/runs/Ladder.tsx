import type { Run } from "../../../core/design/craftFile";
import type { RungState } from "../../../core/runs/ladder";
import { RUNG_WORD, gateText } from "../../../core/wording/ladder";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useLadder } from "./useLadder";
import { OUTCOME } from "./words";

const BAR: Record<RungState["state"], { height: number; colour: string; dash?: string }> = {
  passed: { height: 5, colour: "var(--ink)" },
  failed: { height: 5, colour: "var(--stop)" },
  unclear: { height: 5, colour: "var(--care)" },
  untried: { height: 2, colour: "var(--pencil)" },
  "left out": { height: 2, colour: "var(--rule)", dash: "3 3" },
};

/** One rung between two posts: thick when passed, crossed in red when it failed, in pencil when nobody tried it. */
function RungMark({ state, solid }: { state: RungState["state"]; solid: boolean }) {
  const bar = BAR[state];
  return (
    <svg
      width="30"
      height="100%"
      viewBox="0 0 30 60"
      preserveAspectRatio="none"
      aria-hidden="true"
      className="absolute bottom-0 left-0 top-0"
    >
      <path
        d="M5 0V60M25 0V60"
        stroke={solid ? "var(--ink)" : "var(--hair)"}
        strokeWidth={solid ? 3 : 2}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d="M0 10H30"
        stroke={bar.colour}
        strokeWidth={bar.height}
        strokeDasharray={bar.dash}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}

/**
 * The test ladder of the version in view, lowest rung at the bottom: what each asks, which runs were on it, and what
 * locks it.
 */
export function Ladder({
  runs,
  current,
  onPick,
  onPlan,
}: {
  runs: Run[];
  current: number | null;
  onPick: (n: number) => void;
  onPlan: (stage: number) => void;
}) {
  const { file, version } = useDesk();
  const { habit } = usePreferences();
  const { rungs, state, locks, say } = useLadder();
  const reached = Math.max(0, ...state.filter((s) => s.state === "passed").map((s) => s.stage));
  const plans = file.plans.filter((p) => p.version === version.label && p.state === "planned");
  return (
    <ol aria-label="Test ladder" className="flex flex-col-reverse">
      {rungs.map((rung) => {
        const own = state[rung.stage - 1]?.state ?? "untried";
        const here = runs.filter((r) => r.stage === rung.stage);
        const held = rung.stage === Math.max(reached, 0) + 1 ? locks(rung.stage) : [];
        const gate = rung.gates[0];
        return (
          <li key={rung.stage} data-rung={rung.stage} data-state={own} className="relative min-h-[58px] pb-2 pl-[38px]">
            <RungMark state={own} solid={rung.stage <= reached} />
            <button
              type="button"
              className="block text-left"
              title={`${rung.doing}. Plan a run of it`}
              aria-description={`Plan a run of rung ${rung.stage}`}
              onClick={() => onPlan(rung.stage)}
            >
              <span
                className={
                  "block leading-4 " +
                  `${own === "untried" || own === "left out" ? "text-pencil" : "font-semibold text-ink"}`
                }
              >
                <span className="num">{rung.stage}</span> {rung.name}
              </span>
              <span className="block text-[11px] leading-[13px] text-pencil">
                {own === "left out" ? (
                  `left out: ${rung.skipped}`
                ) : own === "failed" || own === "unclear" ? (
                  <b className="text-stop">{RUNG_WORD[own]}</b>
                ) : gate ? (
                  gateText(gate, habit)
                ) : (
                  ""
                )}
              </span>
            </button>
            {held.length > 0 && own !== "left out" && (
              <p className="text-[11px] leading-[13px] text-stop" title={held.map(say).join("\n")}>
                locked: {held[0] && say(held[0])}
                {held.length > 1 && `, and ${held.length - 1} more`}
              </p>
            )}
            <p className="flex flex-wrap gap-x-1">
              {here.map((r) => (
                <button
                  type="button"
                  key={r.number}
                  aria-current={r.number === current ? "true" : undefined}
                  aria-label={`Run ${r.number}, ${OUTCOME[r.outcome].word}`}
                  onClick={() => onPick(r.number)}
                  className={
                    "num min-h-6 px-1 " +
                    `${r.number === current ? "bg-accent text-on-accent" : OUTCOME[r.outcome].colour}`
                  }
                >
                  {r.outcome === "passed" ? "■" : r.outcome === "failed" ? "×" : "□"} {r.number}
                </button>
              ))}
              {plans.some((p) => p.stage === rung.stage) && (
                <span className="text-[11px] leading-6 text-accent">planned</span>
              )}
            </p>
          </li>
        );
      })}
    </ol>
  );
}
