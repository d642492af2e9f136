import { scaleLinear } from "d3-scale";
import { useMemo } from "react";
import { type TurnAt, aroundPoint } from "../../../core/subjects/flight/turning";
import { resultIn } from "../../../core/evaluate";
import { whyNone } from "../../../core/subject";
import type { AxisLine } from "../../../core/subjects/axes/inFlight";
import { balance } from "../../../core/subjects/balance/node";
import { type Held, type WindResult, wind } from "../../../core/subjects/wind/node";
import { shapesAlong } from "../../../core/subjects/wind/silhouette";
import { TURN_WORD, WORD_COLOUR, answersText, levelText } from "../../../core/wording/axes";
import { plain, show } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { TightTurn } from "./TightTurn";

const COLOUR = { clear: "text-clear", care: "text-care", stop: "text-stop" } as const;

/**
 * What the worst wind does to the craft: what holding against it takes, what it turns; on wings, how it turns in it.
 */
export function InWind() {
  const { design, evaluation, go } = useDesk();
  const outcome = evaluation.outcomes[wind.name];
  const result = resultIn(evaluation, wind);
  if (!result) {
    const why = outcome ? whyNone(outcome) : null;
    return design.items.length === 0 || why === null ? null : (
      <section aria-label="In the wind" className="border-b border-hair px-4 py-3">
        <h2>In the wind</h2>
        <p className="text-care">Open: {why}.</p>
      </section>
    );
  }
  const { held, because, flow } = result;
  return (
    <section aria-label="In the wind" className="border-b border-hair px-4 py-3" data-held={held?.kind ?? "open"}>
      <h2>
        {held?.kind === "wings" ? "Turning, and in the wind" : flow === "current" ? "In the current" : "In the wind"}
      </h2>
      <div className="mt-1 grid grid-cols-[1fr_minmax(0,340px)] gap-6 max-[760px]:grid-cols-1">
        <div className="min-w-0">
          {result.wind === 0 && (
            <p className="text-care">
              No worst {flow} is named: what it does is open.{" "}
              <button type="button" className="link" onClick={() => go({ station: "brief" })}>
                name it in Brief
              </button>
            </p>
          )}
          {held && <Answers held={held} wind={result.wind} />}
          {because !== null && result.wind > 0 && <p className="text-care">What it holds is open: {because}.</p>}
          {held && held.kind !== "wings" && held.lines.length > 0 && <Lines lines={held.lines} flow={flow} />}
          {held?.kind === "wings" && <Turns held={held} wind={result.wind} />}
        </div>
        <Side result={result} />
      </div>
    </section>
  );
}

/** The number that matters first, in large figures. */
function Answers({ held, wind: worst }: { held: Held; wind: number }) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  const { windShare, madeGood, turnRadius } = evaluation.metrics;
  const against = plain(worst, "speed", habit, 1);
  return (
    <div className="flex flex-wrap gap-x-8 gap-y-1 [&_.num]:text-[22px]!">
      {worst > 0 && held.kind !== "hover" && (madeGood || held.kind === "wings") && (
        <div>
          <p className="leading-8">
            <Computed metric="madeGood" quantity={madeGood} />
          </p>
          <p className="text-pencil">made good into {against}, at full throttle</p>
        </div>
      )}
      {held.kind === "wings" && held.touches === null && (
        <div>
          <p className="leading-8">
            <Computed metric="turnRadius" quantity={turnRadius} />
          </p>
          <p className="text-pencil">radius of a turn at 45° of bank</p>
        </div>
      )}
      {held.kind !== "wings" && !madeGood && (
        <div>
          <p className="leading-8">
            <Computed metric="windShare" quantity={windShare} />
          </p>
          <p className="max-w-[44ch] text-pencil">
            {held.kind === "hover"
              ? `of the hardest unit holds it in ${against}, leaning ${plain(held.lean, "angle", habit)} into it`
              : "of its thrust ahead holds it against " +
                `${against}${held.beside === "water" ? "; what the water takes comes to that" : held.beside === "ground" ? "; what the ground takes comes to that" : ", standing"}`}
          </p>
        </div>
      )}
    </div>
  );
}

/** What the wind turns, and what answers. */
function Lines({ lines, flow }: { lines: AxisLine[]; flow: WindResult["flow"] }) {
  const { habit } = usePreferences();
  const said = ({ value, sd }: { value: number; sd: number }) => {
    const s = show(Math.abs(value), sd, "torque", habit);
    return `${s.value} ± ${s.sd} ${s.unit}`;
  };
  return (
    <div className="overflow-x-auto">
      <table className="rows mt-2 w-auto">
        <thead>
          <tr>
            <th>axis</th>
            <th className="text-right!">the {flow} turns it with</th>
            <th className="text-right!">answers with</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {lines.map((l) => (
            <tr key={l.axis} data-wind-line={l.axis} data-word={l.word}>
              <td className="text-ink">{TURN_WORD[l.axis]}</td>
              <td className="text-right whitespace-nowrap">
                <span className="num">{l.disturbs[0] ? said(l.disturbs[0]) : "–"}</span>
                {l.disturbs[0]?.what === "body" && <span className="block text-[11px]">at a slant of 45°</span>}
              </td>
              <td className="num text-right whitespace-nowrap">{l.answer ? said(l.answer) : "–"}</td>
              <td className={COLOUR[WORD_COLOUR[l.word]]}>{answersText(l)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Radius of the smallest circle that it keeps around a point in the worst wind. */
function OverPoint({ turn, wind: worst }: { turn: TurnAt; wind: number }) {
  const { habit } = usePreferences();
  const radius = aroundPoint(turn, worst);
  return radius === null ? (
    <td className="text-right text-stop">carried off</td>
  ) : (
    <td className="num text-right whitespace-nowrap">{plain(radius, "distance", habit)}</td>
  );
}

/** Level turns by their bank, and how far the wind carries it in a circle. */
function Turns({ held, wind: worst }: { held: Extract<Held, { kind: "wings" }>; wind: number }) {
  const { habit } = usePreferences();
  return (
    <>
      {held.touches !== null && held.flat && <TightTurn flat={held.flat} touches={held.touches} />}
      {held.turns.length > 0 && (
        <div className="overflow-x-auto">
          <table className="rows mt-2 w-auto">
            <thead>
              <tr>
                <th className="text-right!">bank</th>
                <th className="text-right!">stalls below</th>
                <th className="text-right!">flown at</th>
                <th className="text-right!">radius</th>
                <th className="text-right!">full circle</th>
                {worst > 0 && <th className="text-right!">drifts in it</th>}
                {worst > 0 && <th className="text-right!">circle over a point</th>}
                <th>full throttle</th>
              </tr>
            </thead>
            <tbody>
              {held.turns.map((t) => (
                <tr key={t.bank} data-turn={Math.round((t.bank * 180) / Math.PI)}>
                  <td className="num text-right whitespace-nowrap">{plain(t.bank, "angle", habit)}</td>
                  <td className="num text-right whitespace-nowrap">{plain(t.stall, "speed", habit, 1)}</td>
                  <td className="num text-right whitespace-nowrap">{plain(t.speed, "speed", habit, 1)}</td>
                  <td className="num text-right whitespace-nowrap">{plain(t.radius, "distance", habit)}</td>
                  <td className="num text-right whitespace-nowrap">{Math.round(t.circle)} s</td>
                  {worst > 0 && (
                    <td className="num text-right whitespace-nowrap">{plain(worst * t.circle, "distance", habit)}</td>
                  )}
                  {worst > 0 && <OverPoint turn={t} wind={worst} />}
                  <td className={`whitespace-nowrap ${t.level === true ? "text-clear" : "text-care"}`}>
                    {levelText(t.level)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {held.turns.some((t) => t.level === null) && (
        <p className="mt-1 text-care">
          Whether full throttle holds the height is open: its thrust is too near the drag to tell, or how it falls with
          speed is not known.
        </p>
      )}
      {held.open.length > 0 && <p className="mt-1 text-care">Open besides: {held.open.slice(0, 2).join("; ")}.</p>}
    </>
  );
}

const W = 340;
const H = 190;
const PAD = 22;

/** The outline that a side wind meets, its middle, and the CG. */
function Side({ result }: { result: WindResult }) {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const { shapes } = useMemo(() => shapesAlong(design, "y"), [design]);
  const at = resultIn(evaluation, balance);
  const points = shapes.flatMap((s) => s.corners);
  const [left, right] = [Math.min(...shapes.map((s) => s.left)), Math.max(...shapes.map((s) => s.right))];
  const [low, high] = [Math.min(...points.map((p) => p[1])), Math.max(...points.map((p) => p[1]))];
  const scale = Math.min((W - 2 * PAD) / (right - left || 1), (H - 2 * PAD - 16) / (high - low || 1));
  const x = scaleLinear([left, left + 1], [(W - (right - left) * scale) / 2, (W - (right - left) * scale) / 2 + scale]);
  const y = scaleLinear([low, low + 1], [H - PAD - 12, H - PAD - 12 - scale]);
  const { side, lacks, held, flow } = result;
  // On its wings it never stands broadside, on its tail the nose is up.
  const broadside = held?.kind === "drives" || (held?.kind === "hover" && held.upright);
  const arm = at?.placed.x ? side.across - at.cg.x : null;
  return (
    <figure className="m-0">
      <svg viewBox={`0 0 ${W} ${H}`} width="100%" role="img" aria-label="Side area with its middle, and the CG">
        {shapes.map((s, k) => (
          <path key={k} d={`M${s.corners.map(([a, b]) => `${x(a)} ${y(b)}`).join("L")}z`} fill="var(--band)" />
        ))}
        {at?.placed.x && at.placed.z && (
          <g stroke="var(--ink)">
            <path d={`M${x(at.cg.x)} ${y(at.cg.z) - 9}v18M${x(at.cg.x) - 9} ${y(at.cg.z)}h18`} strokeWidth="1.6" />
            <text x={x(at.cg.x)} y={H - 4} textAnchor="middle" fontSize="11" stroke="none" fill="var(--ink2)">
              CG
            </text>
            <path d={`M${x(at.cg.x)} ${y(at.cg.z)}V${H - 16}`} strokeDasharray="2 3" opacity="0.5" />
          </g>
        )}
        <g stroke="var(--accent)" fill="none">
          <path d={`M${x(side.across)} ${y(side.up)}V16`} strokeDasharray="2 3" />
          <path d={`M${x(side.across) - 5} ${y(side.up) - 5}l10 10m0 -10l-10 10`} strokeWidth="1.8" />
          <text x={x(side.across)} y="11" textAnchor="middle" fontSize="11" stroke="none" fill="var(--accent)">
            middle of the side area
          </text>
        </g>
      </svg>
      <figcaption className="text-[12px]">
        Side area <Computed metric="sideArea" quantity={evaluation.metrics.sideArea} />, its middle{" "}
        {arm === null
          ? "open against the CG"
          : Math.abs(arm) < 1e-3
            ? "at the CG"
            : `${plain(Math.abs(arm), "length", habit, habit === "metric" ? 0 : 2)} ` +
              `${arm > 0 ? "behind" : "ahead of"} the ` +
              `CG${broadside ? `: broadside, its nose turns ${arm > 0 ? `into the ${flow}` : "away from it"}` : ""}`}
        {lacks.length > 0 && <span className="text-care">; {lacks.join("; ")} not in it</span>}.{" "}
        <span className="text-pencil">
          Blunt, C = 1.1 ± 0.3; steady {flow}; gusts and lift of wings in it are not counted.
        </span>
      </figcaption>
    </figure>
  );
}
