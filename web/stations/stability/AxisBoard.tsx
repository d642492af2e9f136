import { Fragment, useMemo, useState } from "react";
import { resultIn } from "../../../core/evaluate";
import { whyNone } from "../../../core/subject";
import type { AxisLine } from "../../../core/subjects/axes/inFlight";
import {
  type ByDrives as DriveAxes,
  type Unpushed as UnpushedAxes,
  lossOf,
} from "../../../core/subjects/axes/byDrives";
import { type AtSpeed, axes } from "../../../core/subjects/axes/node";
import { turning } from "../../../core/subjects/turning/node";
import {
  COMMANDED_WORD,
  MOMENT_WORD,
  SIX_WORD,
  TURN_WORD,
  WORD_COLOUR,
  answerText,
  flowedText,
  gustText,
  heldText,
  pieceText,
  shiftedText,
} from "../../../core/wording/axes";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useNarrow } from "../../app/useNarrow";

const COLOUR = { clear: "text-clear", care: "text-care", stop: "text-stop" } as const;

/** What turns the craft about each axis against what answers, and what commands each. */
export function AxisBoard() {
  const { evaluation } = useDesk();
  const result = resultIn(evaluation, axes);
  const outcome = evaluation.outcomes[axes.name];
  if (!result) {
    const why = outcome?.status === "missing" ? whyNone(outcome) : null;
    return why === null ? null : (
      <section aria-label="Axes" className="border-b border-hair px-4 py-3">
        <h2>What commands each axis</h2>
        <p className="text-care">Open: {why}.</p>
      </section>
    );
  }
  return (
    <>
      {result.kind === "wings" ? (
        <OnWings moments={result.moments} />
      ) : result.kind === "unpushed" ? (
        <Unpushed result={result} />
      ) : (
        <ByDrives result={result} />
      )}
      {result.otherDrives && (
        <p className="px-4 pb-2 text-care" data-other-drives>
          What was weighed was so with other drives or packs than these: it does not count. Weigh it again on the bench.
        </p>
      )}
    </>
  );
}

const W = 220;

/** A moment with its ±, in the digits that it deserves. */
function Moment({ value, sd }: { value: number; sd: number }) {
  const { habit } = usePreferences();
  const said = show(value, sd, "torque", habit);
  return (
    <span className="num whitespace-nowrap text-ink">
      {said.value}
      {said.sd && ` ± ${said.sd}`} {said.unit}
    </span>
  );
}

/** What is always there against what answers it, drawn on one scale. */
function Bars({ line, most }: { line: AxisLine; most: number }) {
  const { habit } = usePreferences();
  const turned = line.disturbs.reduce((s, p) => s + p.value, 0);
  const sd = Math.hypot(...line.disturbs.map((p) => p.sd));
  const x = (v: number) => (most > 0 ? (v / most) * W : 0);
  const answer = line.answer?.value ?? 0;
  return (
    <svg
      viewBox={`0 0 ${W} 24`}
      width={W}
      height="24"
      role="img"
      aria-label={
        `${TURN_WORD[line.axis]}: ${plain(Math.abs(turned), "torque", habit)} against ` +
        `${plain(answer, "torque", habit)}`
      }
    >
      <rect x="0" y="2" width={x(answer)} height="8" fill="var(--band)" stroke="var(--pencil)" />
      <rect
        x="0"
        y="14"
        width={x(Math.abs(turned))}
        height="8"
        fill={line.word === "lost" ? "var(--stop)" : "var(--ink2)"}
      />
      {sd > 0 && (
        <path
          d={`M${x(Math.max(0, Math.abs(turned) - sd))} 18H${x(Math.abs(turned) + sd)}`}
          stroke="var(--pencil)"
          strokeWidth="2"
        />
      )}
    </svg>
  );
}

/** The board of a craft on its wings, at a moment that is chosen. */
function OnWings({ moments }: { moments: AtSpeed[] }) {
  const { habit } = usePreferences();
  const [wanted, setWanted] = useState<AtSpeed["moment"]>("let go");
  const at = moments.find((m) => m.moment === wanted) ?? moments[0];
  if (!at) return null;
  const most = Math.max(
    ...at.lines.flatMap((l) => [
      l.answer?.value ?? 0,
      Math.abs(l.disturbs.reduce((s, p) => s + p.value, 0)) + Math.hypot(...l.disturbs.map((p) => p.sd)),
    ]),
  );
  return (
    <section aria-label="Axes" className="border-b border-hair px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2>What turns it, and what answers</h2>
        <span role="group" aria-label="Moment of flight" className="flex flex-wrap gap-1">
          {moments.map((m) => (
            <button
              key={m.moment}
              type="button"
              className={`chip ${m === at ? "chip-on" : ""}`}
              aria-pressed={m === at}
              onClick={() => setWanted(m.moment)}
            >
              {MOMENT_WORD[m.moment]}
            </button>
          ))}
        </span>
        <span className="text-pencil">at {plain(at.speed, "speed", habit)}</span>
      </div>
      <div className="overflow-x-auto">
        <table className="rows mt-1 w-auto">
          <thead>
            <tr>
              <th>axis</th>
              <th />
              <th>always there</th>
              <th>answers</th>
              <th>on one scale</th>
              <th className="text-right!">takes</th>
            </tr>
          </thead>
          <tbody>
            {at.lines.map((l) => (
              <tr key={l.axis} data-axis-line={l.axis} data-word={l.word}>
                <td className="text-ink">{TURN_WORD[l.axis]}</td>
                <td className={COLOUR[WORD_COLOUR[l.word]]}>
                  <span className="whitespace-nowrap">{l.word}</span>
                  {l.open.length > 0 && <span className="block text-[11px]">{l.open.join("; ")}</span>}
                </td>
                <td className="text-[12px]">
                  {l.disturbs
                    .filter((p) => Math.abs(p.value) + p.sd > 1e-4)
                    .map((p) => (
                      <span key={p.what} className="block">
                        {pieceText(p, l.axis)} <Moment value={Math.abs(p.value)} sd={p.sd} />
                      </span>
                    ))}
                </td>
                <td className="text-[12px]">
                  {answerText(l)} {l.answer && <Moment {...l.answer} />}
                </td>
                <td>
                  <Bars line={l} most={most} />
                </td>
                <td className="num whitespace-nowrap text-right">
                  {l.share === null ? "–" : `${Math.round(100 * l.share)} %`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-pencil">
        Upper bar: what the control has left. Lower: what it must hold, with its ±. It holds where that takes half of it
        at most; the other half is for gusts and hands. Propeller wash and what fins and dihedral do by themselves are
        not counted.
      </p>
      {at.left && (
        <p className="mt-1" data-left>
          With {Math.round(100 * at.left.charge)} % left in its pack full throttle pushes{" "}
          <span className="num">
            {plain(at.left.thrust.value, "force", habit)}
            {at.left.open.length > 0 && "?"}
          </span>
          ; level at that speed its {at.moment === "foils emptied" ? "foils and struts" : "wings and bodies"} alone take{" "}
          <span className="num">{plain(at.left.drag, "force", habit)}</span>
          {at.left.open.length === 0 && at.left.thrust.value + at.left.thrust.sd < at.left.drag && (
            <b className="text-stop">: it does not hold its height then</b>
          )}
          .{at.left.open.length > 0 && <span className="text-care"> Open: {at.left.open.slice(0, 2).join("; ")}.</span>}
        </p>
      )}
      {at.gust && (
        <p className="mt-1" data-gust>
          {gustText(at, habit)}
        </p>
      )}
    </section>
  );
}

/** What holds or turns an axis besides the drives. */
function Besides({ line, dead = false }: { line: UnpushedAxes["lines"][number]; dead?: boolean }) {
  const { habit } = usePreferences();
  return (
    <>
      {heldText(line, habit)}
      {line.shifted && (
        <span className="block text-[12px]" data-shifted>
          {shiftedText(line, habit)}
        </span>
      )}
      {line.flowed && (
        <span className="block" data-flowed>
          {flowedText(line.flowed, habit, dead).map((text) => (
            <span key={text} className="block text-[12px]">
              {text}
            </span>
          ))}
        </span>
      )}
    </>
  );
}

/** What is known of the axes while what the drives push is not. */
function Unpushed({ result: { open, lines } }: { result: UnpushedAxes }) {
  return (
    <section aria-label="Axes" className="border-b border-hair px-4 py-3">
      <h2>What turns it besides its drives</h2>
      <p className="text-care">What its drives command is open: {open}.</p>
      <table className="rows mt-1 w-auto">
        <tbody>
          {lines
            .filter((l) => l.flowed || l.hangs || l.rights || l.shifted)
            .map((l) => (
              <tr key={l.axis} data-axis-line={l.axis} data-word="open">
                <td className="text-ink">{SIX_WORD[l.axis]}</td>
                <td>
                  <Besides line={l} />
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}

/** How quickly its drives turn it on the spot. */
function OnTheSpot() {
  const { evaluation } = useDesk();
  const outcome = evaluation.outcomes[turning.name];
  const result = resultIn(evaluation, turning);
  if (!outcome || outcome.status === "not covered") return null;
  const degrees = (v: number) => Number(((v * 180) / Math.PI).toPrecision(2));
  return (
    <p className="mt-1" data-on-the-spot={outcome.status}>
      {result ? (
        <>
          Turns on the spot at up to{" "}
          <b className="num text-ink">
            {degrees(result.rate.value)} ± {degrees(result.rate.sd)}° a second
          </b>
          , where the drag of its sides holds what its drives do; wash, and what they lose as they swing, left out.
          {result.lacks.length > 0 && (
            <span className="text-care"> Less with {result.lacks.join(", ")}, which its outline lacks.</span>
          )}
        </>
      ) : (
        <span className="text-care">How quickly it turns on the spot is open: {whyNone(outcome)}.</span>
      )}
    </p>
  );
}

/** Six axes of a craft that something else holds up: what its drives command, with all of them and with one dead. */
function ByDrives({ result }: { result: DriveAxes }) {
  const { habit } = usePreferences();
  const [dead, setDead] = useState<number | null>(null);
  const narrow = useNarrow();
  const loss = useMemo(() => (dead === null ? null : lossOf(result, dead)), [result, dead]);
  return (
    <section aria-label="Axes" className="border-b border-hair px-4 py-3">
      <h2>What commands each axis</h2>
      <p className="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label="Dead drive">
        <button
          type="button"
          className={`chip ${dead === null ? "chip-on" : ""}`}
          aria-pressed={dead === null}
          onClick={() => setDead(null)}
        >
          all work
        </button>
        {result.drivers.map(({ name }, k) => (
          <button
            key={name}
            type="button"
            className={`chip ${dead === k ? "chip-on" : ""}`}
            aria-pressed={dead === k}
            onClick={() => setDead(k)}
          >
            {name} dead
          </button>
        ))}
      </p>
      <div className="overflow-x-auto">
        <table className="rows mt-1 w-auto">
          <thead>
            <tr>
              <th>axis</th>
              <th className="text-right!">one way</th>
              <th className="text-right!">the other</th>
              <th>by drives</th>
              {!narrow && <th>holds or turns it besides</th>}
            </tr>
          </thead>
          <tbody>
            {result.lines.map((l, i) => {
              const dimension = i < 3 ? "force" : "torque";
              const change = loss?.changed.find((c) => c.axis === l.axis);
              const word = change?.to ?? l.word;
              const besides = (
                <>
                  <Besides line={l} dead={loss !== null} />
                  {l.weighed && !loss && (
                    <span className="block" data-weighed>
                      weighed at full command: <Moment {...l.weighed} />
                    </span>
                  )}
                </>
              );
              return (
                <Fragment key={l.axis}>
                  <tr data-axis-line={l.axis} data-word={word}>
                    <td className="text-ink">{SIX_WORD[l.axis]}</td>
                    {(["plus", "minus"] as const).map((way) => {
                      const most = (loss ? loss.command : { [l.axis]: l.command })[l.axis]?.alone[way] ?? 0;
                      return (
                        <td key={way} className="num whitespace-nowrap text-right">
                          {most > l.least ? plain(most, dimension, habit) : "–"}
                        </td>
                      );
                    })}
                    <td className={change ? "text-stop" : word === "both ways" ? "text-clear" : "text-care"}>
                      {change
                        ? `${word === "never had" ? "gone" : COMMANDED_WORD[word]} (was ${COMMANDED_WORD[change.from]})`
                        : COMMANDED_WORD[word]}
                    </td>
                    {!narrow && <td>{besides}</td>}
                  </tr>
                  {narrow && (l.held !== null || l.flowed !== null || l.shifted !== null || l.weighed !== null) && (
                    <tr>
                      <td colSpan={4} className="pb-2! text-[12px]">
                        {besides}
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-pencil" data-loss={loss ? (loss.changed.length === 0 ? "unseen" : "seen") : "none"}>
        {loss
          ? loss.changed.length === 0
            ? "Nobody may notice: every axis is still " +
              `commanded${loss.surgeLeft < 0.99 ? `, with ${Math.round(100 * loss.surgeLeft)} % of the thrust ahead` : ""}. ` +
              "Look at each drive’s current before every run."
            : `What you would see: ${loss.changed.map((c) => SIX_WORD[c.axis].toLowerCase()).join(", ")} ` +
              `${loss.changed.length > 1 ? "go" : "goes"}${loss.surgeLeft < 0.99 ? `; ${Math.round(100 * loss.surgeLeft)} % of the thrust ahead is left` : ""}.`
          : "The most on each axis with nothing done on the others, standing, by a linear programme over " +
            `one-way units; each ± ${Math.round(100 * result.share)} %, as the thrusts are. A propeller ` +
            "turned backwards counts with 60 % of its thrust. Drives only: what the wind does is told " +
            "below, what current and hull do is not counted."}
      </p>
      {!loss && <OnTheSpot />}
    </section>
  );
}
