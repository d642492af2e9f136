import { resultIn } from "../../../core/evaluate";
import { sdOf } from "../../../core/numeric/doubt";
import { whyNone } from "../../../core/subject";
import { extent } from "../../../core/subjects/extent/node";
import { type Over, type StanceResult, stance } from "../../../core/subjects/stance/node";
import { STANCES, feetFor } from "../../../core/subjects/stance/patterns";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { Computed } from "../../app/Computed";
import { FeetForm } from "./FeetForm";
import { FeetPlan } from "./FeetPlan";

/** How it stands when it is put down, and what tips it over. */
export function OnTheGround() {
  const { design, evaluation, edit } = useDesk();
  const result = resultIn(evaluation, stance);
  const box = resultIn(evaluation, extent);
  const outcome = evaluation.outcomes[stance.name];
  if (design.feet.length === 0)
    return box === null ? null : (
      <section aria-label="On the ground" className="border-b border-hair px-4 py-3" data-stance="unsaid">
        <h2>On the ground</h2>
        <p className="mt-1 flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <span>Where it touches the ground is not said: whether it tips over is open. Begin with</span>
          {STANCES.map((s) => (
            <button
              key={s}
              type="button"
              className="link"
              onClick={() => edit((d) => void d.feet.push(...feetFor(s, d, box)))}
            >
              {s}
            </button>
          ))}
        </p>
      </section>
    );
  return (
    <section aria-label="On the ground" className="border-b border-hair px-4 py-3" data-stance={outcome?.status}>
      <h2>On the ground</h2>
      {result ? (
        <Stands result={result} />
      ) : (
        <p className="mt-1 text-care">
          {outcome?.status === "not covered" ? "Not covered" : "Open"}:{" "}
          {(outcome && whyNone(outcome)) ?? "being worked out"}.
        </p>
      )}
      <details className="mt-2" open={!result}>
        <summary className="link">Feet: {design.feet.map((f) => f.name).join(", ")}</summary>
        <FeetForm />
      </details>
    </section>
  );
}

const HARD = 0.7;
/** @param sure nothing is left out that could make it worse: only then it is called clear */
const share = (s: Over["held"], sure: boolean) =>
  s === null ? (
    "–"
  ) : s.value <= 0.005 ? (
    <span className="text-pencil">holds it down</span>
  ) : (
    <span className={s.value > 1 ? "text-stop" : s.value > HARD ? "text-care" : sure ? "text-clear" : "text-pencil"}>
      {Math.round(100 * s.value)} ± {Math.round(100 * sdOf(s))} %
    </span>
  );

function Stands({ result }: { result: StanceResult }) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  const { rest, over, noseUp, turn, because, worst, doubts, windDoubts } = result;
  const falls = worst.slope.edge.inside < 0;
  const angle = (o: Over) => show(o.slope.value, sdOf(o.slope), "angle", habit);
  return (
    <div className="mt-1 grid grid-cols-[minmax(0,190px)_1fr] gap-x-6 gap-y-2 max-[760px]:grid-cols-1">
      <FeetPlan result={result} />
      <div>
        <p>
          {falls ? (
            <b className="text-stop">Put down it falls over {worst.slope.over}.</b>
          ) : (
            <>
              A slope of <Computed metric="tipSlope" quantity={evaluation.metrics.tipSlope} /> tips it over{" "}
              {worst.slope.over}
              {evaluation.metrics.tipWind && (
                <>
                  , a side wind of <Computed metric="tipWind" quantity={evaluation.metrics.tipWind} /> as well
                </>
              )}
              {turn !== null && turn > 0 && (
                <>
                  , and a turn with <span className="num">{plain(turn, "ratio", habit, 2)} g</span> to the side
                </>
              )}
              .
            </>
          )}
          {noseUp !== null && Math.abs(noseUp) > 0.009 && (
            <>
              {" "}
              It stands <span className="num">{plain(Math.abs(noseUp), "angle", habit, 0)}</span> nose{" "}
              {noseUp > 0 ? "up" : "down"}.
            </>
          )}
        </p>
        <div className="wide">
          <table className="rows cards mt-1 w-full">
            <thead>
              <tr>
                <th>over</th>
                <th className="text-right!">CG inside</th>
                <th className="text-right!">slope</th>
                <th className="text-right!">full throttle, blocked</th>
                <th className="text-right!">rolling free</th>
                <th className="text-right!">wind from the other side</th>
              </tr>
            </thead>
            <tbody>
              {over.map((o) => (
                <tr key={`${o.over} ${o.edge.from.x} ${o.edge.from.y}`} data-over={o.over}>
                  <td className="text-ink">{o.over}</td>
                  <td className="num text-right" data-label="CG inside">
                    <span>{plain(o.edge.inside, "length", habit, habit === "metric" ? 0 : 2)}</span>
                  </td>
                  <td className="num text-right" data-label="slope">
                    <span>
                      {angle(o).value} ± {angle(o).sd}°
                    </span>
                  </td>
                  <td className="num text-right" data-label="blocked">
                    <span>{share(o.held, doubts.length === 0)}</span>
                  </td>
                  <td className="num text-right" data-label="rolling free">
                    <span>{share(o.rolling, doubts.length === 0)}</span>
                  </td>
                  <td className="num text-right" data-label="wind">
                    <span>{o.wind ? plain(o.wind.value, "speed", habit, 1) : "–"}</span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <p className="mt-1 text-pencil">
          {because ? `Full throttle is open: ${because}. ` : "Share of what its weight holds down, standing. "}
          Rigid feet that do not sink; CG {plain(rest.height, "length", habit, habit === "metric" ? 0 : 2)} above them.
        </p>
        {[...doubts, ...(worst.wind ? windDoubts : [])].length > 0 && (
          <p className="mt-1 text-care" data-doubts>
            Open besides: {[...doubts, ...(worst.wind ? windDoubts : [])].join("; ")}.
          </p>
        )}
      </div>
    </div>
  );
}
