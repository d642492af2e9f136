import { resultIn } from "../../../core/evaluate";
import { cgLimits } from "../../../core/subjects/balance/window";
import { lattice } from "../../../core/subjects/flight/latticeNode";
import { flight } from "../../../core/subjects/flight/node";
import { DISPLAY } from "../../../core/design/units";
import { plain, show } from "../../../core/wording/format";
import { Computed, Doubted } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** A computed number as an answer. */
const LARGE = "leading-8 [&_.num]:text-[22px]! [&_.num_.num]:text-[13px]! [&_.predicted.font-normal]:text-[14px]!";

/** The answers in large figures: where the CG must be and where it is, how far ahead of the neutral point, how slow. */
export function Answers() {
  const { seen: design, evaluation, edit, frozen } = useDesk();
  const { habit } = usePreferences();
  const { metrics } = evaluation;
  const wings = resultIn(evaluation, lattice);
  const limits = cgLimits(design, resultIn(evaluation, flight), "x");
  const { cgForward: from, cgAft: to, cgX: cg } = metrics;
  const inside = from && to && cg && cg.value >= from.value && cg.value <= to.value;
  const edge = (q: typeof from) => (q ? show(q.value, q.sd, "length", habit) : null);
  const [a, b] = [edge(from), edge(to)];
  return (
    <section aria-label="Answers" className="border-b border-hair px-4 py-3">
      <div className="grid grid-cols-[1.3fr_1fr_1fr_1fr] gap-x-6 gap-y-3 max-[900px]:grid-cols-2 max-[480px]:gap-x-2">
        <div>
          <h2>{design.schools.balance === "stable" ? "CG must be" : "Stable with its CG at"}</h2>
          {a && b && from && to && to.value > from.value ? (
            <p className="num text-[22px]! leading-8 text-ink" data-window>
              {a.value}
              <Doubted quantity={from} /> to {b.value}
              <Doubted quantity={to} /> <span className="text-[13px]">{a.unit}</span>
            </p>
          ) : !from && b ? (
            <p className="num text-[22px]! leading-8 text-ink" data-window>
              no farther aft than {b.value} <span className="text-[13px]">{b.unit}</span>
            </p>
          ) : (
            <p className="text-[18px] leading-8 text-stop" data-window>
              nowhere: its pitch control trims no stable CG
            </p>
          )}
          <p className="flex flex-wrap items-baseline gap-x-2 text-pencil">
            <Computed metric="cgForward" quantity={from} digitsOnly />
            <span>
              {!from
                ? "how far ahead: no pitch control on its foils;"
                : wings?.forwardBy === "control"
                  ? "by its pitch control,"
                  : "by judgement,"}
            </span>
            <Computed metric="cgAft" quantity={to} digitsOnly />
            <span>{DISPLAY[habit].length} by margin</span>
          </p>
        </div>
        <div>
          <h2>CG is</h2>
          <p className={`${LARGE} ${inside === false ? "[&_.num]:text-stop!" : ""}`}>
            <Computed metric="cgX" quantity={cg} />
          </p>
          <p className="text-pencil">
            {limits?.by === "window"
              ? "the brief states its own window "
              : limits?.by === "stop line"
                ? "held against its stop line"
                : "held against this window"}
            {limits?.by === "window" && design.flight.whole && !frozen && from && to && to.value > from.value && (
              <button
                type="button"
                className="link"
                onClick={() =>
                  edit((d) => {
                    const t = d.brief.targets.find((o) => o.id === limits.about);
                    const mm = (v: number) => Math.round(1000 * v) / 1000;
                    if (t) Object.assign(t, { value: mm(from.value), upper: mm(to.value), evidence: "calculated" });
                  })
                }
              >
                take this one
              </button>
            )}
          </p>
        </div>
        <div>
          <h2>Static margin</h2>
          <p className={LARGE}>
            <Computed metric="staticMargin" quantity={metrics.staticMargin} />
          </p>
          <p className="text-pencil">
            of {wings ? plain(wings.mac, "length", habit, habit === "metric" ? 0 : 2) : ""}; neutral point{" "}
            <Computed metric="neutralPoint" quantity={metrics.neutralPoint} digitsOnly />
          </p>
        </div>
        <div>
          <h2>Stall speed</h2>
          <p className={LARGE}>
            <Computed metric="stallSpeed" quantity={metrics.stallSpeed} />
          </p>
          <p className="text-pencil">
            trim at 1.3 times it <Computed metric="trimCommand" quantity={metrics.trimCommand} />; wing loading{" "}
            <Computed metric="wingLoading" quantity={metrics.wingLoading} />
            {metrics.cubeLoading && (
              <>
                , cube loading <Computed metric="cubeLoading" quantity={metrics.cubeLoading} />
              </>
            )}
          </p>
        </div>
      </div>
      {!design.flight.whole && (
        <p className="mt-2 flex flex-wrap items-baseline gap-x-3 text-care">
          A tail, fin or body that is missing here shifts the window: nothing is held to be known yet.
          {!frozen && (
            <button type="button" className="act" onClick={() => edit((d) => void (d.flight.whole = true))}>
              All are described
            </button>
          )}
        </p>
      )}
    </section>
  );
}
