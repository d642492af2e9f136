import { type ReactNode, useMemo } from "react";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { sdOf } from "../../../core/numeric/doubt";
import { whyNone } from "../../../core/subject";
import { foils } from "../../../core/subjects/foils/node";
import { liftoff } from "../../../core/subjects/liftoff/node";
import { CRUISED_FROM, type PoweredResult, powered } from "../../../core/subjects/powered/node";
import { plain } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { OnFoils } from "./OnFoils";
import { CurveChart } from "../../charts/CurveChart";

/** Level flight under its own power: what holds it back against what pushes, how long and far, how it climbs. */
export function UnderPower() {
  const { seen: design, evaluation } = useDesk();
  const outcome = evaluation.outcomes[powered.name];
  const result = resultIn(evaluation, powered);
  const why = outcome ? whyNone(outcome) : null;
  const onFoils = resultIn(evaluation, foils);
  if (onFoils) return <OnFoils result={onFoils} />;
  if (!result)
    return why === null ? null : (
      <section aria-label="Under power" className="col-span-full">
        <h2>Under power</h2>
        <p className="text-care">
          {outcome?.status === "not covered" ? "Not covered" : "Open"}: {why}.
        </p>
      </section>
    );
  return (
    <section aria-label="Under power" className="col-span-full min-w-0">
      <h2>
        Under power <span className="font-normal text-pencil">level, still air</span>
      </h2>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1 [&_.num]:text-[22px]!">
        <Best metric="levelTime" best={result.time} words="longest" />
        <Best metric="levelRange" best={result.range} words="farthest" />
        {design.flight.height === null && (
          <Best metric="climbRate" best={result.climb} words="best climb, full throttle" />
        )}
        <AlongTheGround />
      </div>
      <Charts result={result} />
      {!evaluation.metrics.levelTime && <p className="text-stop">Full throttle does not hold it level.</p>}
    </section>
  );
}

/** The run along the ground: when the nose comes up, when it leaves, and how far that is. */
function AlongTheGround() {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const { launch, rolling } = design.flight;
  if (launch !== "wheels" && launch !== "skids") return null;
  const result = resultIn(evaluation, liftoff);
  const [leaving, why] = [result?.leaving, result?.why];
  const { noseUpSpeed, liftOffSpeed, liftOffRun } = evaluation.metrics;
  const block = (number: ReactNode, words: ReactNode) => (
    <div className="max-w-[44ch]">
      <p className="leading-8">{number}</p>
      <p className="text-pencil">{words}</p>
    </div>
  );
  if (!rolling) return block("open", "run until it leaves the ground: say under How it flies how hard it is to pull");
  const touches = result?.touches;
  const room = touches ? `, by ${plain(touches.clear, "angle", habit)} until “${touches.name}” touches behind` : "";
  const stands = !leaving
    ? ""
    : leaving.carries === null
      ? "; standing on its feet nothing carries it"
      : `; without, it is carried from ${plain(leaving.carries, "speed", habit)} on`;
  return (
    <>
      {block(<Computed metric="liftOffRun" quantity={liftOffRun} />, "run until it leaves the ground")}
      {block(
        leaving && leaving.leaves === null ? (
          <span className="text-stop">never</span>
        ) : (
          <Computed metric="liftOffSpeed" quantity={liftOffSpeed} />
        ),
        "leaves the ground: full throttle, full nose up",
      )}
      {block(
        leaving?.nose === 0 ? (
          "at once"
        ) : leaving && leaving.nose === null ? (
          <span className="text-stop">never</span>
        ) : (
          <Computed metric="noseUpSpeed" quantity={noseUpSpeed} />
        ),
        why ? <span className="text-care">Open: {why}.</span> : `the nose comes up${room}${stands}`,
      )}
    </>
  );
}

function Best({
  metric,
  best,
  words,
}: {
  metric: "levelTime" | "levelRange" | "climbRate";
  best: PoweredResult["time"];
  words: string;
}) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  return (
    <div>
      <p className="leading-8">
        <Computed metric={metric} quantity={evaluation.metrics[metric]} />
      </p>
      <p className="text-pencil">
        {words}
        {best && `, at ${plain(best.speed, "speed", habit)}`}
      </p>
    </div>
  );
}

/** Thrust and drag, and how long it flies so, over the speed. */
function Charts({ result }: { result: PoweredResult }) {
  const { habit } = usePreferences();
  const charts = useMemo(() => {
    const speed = (v: number) => toDisplay(v, "speed", habit);
    const force = (v: number) => toDisplay(v, "force", habit);
    const off = force(sdOf(result.surplus.is));
    const share = result.time ? sdOf(result.time.is) / result.time.is.value : 0;
    const minutes = (s: number) => s / 60;
    return {
      xMax: Math.ceil(speed(result.points.at(-1)?.speed ?? 20)),
      thrust: result.points.map((p) => ({ x: speed(p.speed), y: force(p.thrust), sd: off })),
      drag: result.points.map((p) => ({ x: speed(p.speed), y: force(p.drag) })),
      time: result.points.flatMap((p) =>
        p.seconds === null ? [] : [{ x: speed(p.speed), y: minutes(p.seconds), sd: share * minutes(p.seconds) }],
      ),
      best: result.time ? speed(result.time.speed) : undefined,
    };
  }, [result, habit]);
  const xTitle = `speed, ${DISPLAY[habit].speed}`;
  const at = result.time && result.points.find((p) => p.speed >= (result.time?.speed ?? 0));
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-6 gap-y-4 max-[760px]:grid-cols-1">
      <div className="min-w-0">
        <CurveChart
          title="Full thrust and drag"
          xTitle={xTitle}
          yTitle={`thrust, ${DISPLAY[habit].force}`}
          points={charts.thrust}
          line={charts.drag}
          limits={[]}
          xMax={charts.xMax}
        />
        <p className="mt-1 text-pencil">
          Dashed: full throttle, the pack as at the start. Solid: what holds it back. The band is the doubt of one less
          the other.
        </p>
      </div>
      {charts.time.length > 0 && (
        <div className="min-w-0">
          <CurveChart
            title="Time level at one speed"
            xTitle={xTitle}
            yTitle="min"
            points={charts.time}
            limits={[]}
            xMax={charts.xMax}
            {...(charts.best === undefined ? {} : { at: charts.best })}
          />
          <p className="mt-1 text-pencil">
            {at?.throttle != null && `At its longest it takes about ${Math.round(100 * at.throttle)} % throttle`}
            {at?.power != null && ` and ${plain(at.power, "power", habit, 0)}`}. Flown from {CRUISED_FROM} × stall speed
            on.
          </p>
        </div>
      )}
    </div>
  );
}
