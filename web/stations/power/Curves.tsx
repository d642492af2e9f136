import { supportOf } from "../../../core/design/support";
import { waterDragDoubt } from "../../../core/subjects/speed/inWater";
import { useCallback, useDeferredValue, useMemo, useState } from "react";
import type { Design, Unit } from "../../../core/design/schema";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { GRAVITY } from "../../../core/subjects/air/air";
import { demand } from "../../../core/subjects/demand/node";
import { CHEMISTRY } from "../../../core/subjects/energy/battery";
import type { Discharge } from "../../../core/subjects/energy/dischargeBand";
import { type DischargePoint, discharge } from "../../../core/subjects/energy/dischargeBand";
import { mass as massSubject } from "../../../core/subjects/mass/node";
import { powered } from "../../../core/subjects/powered/node";
import type { CurvePoint } from "../../../core/subjects/propulsion/band";
import { curveOf } from "../../../core/subjects/propulsion/band";
import type { PropulsionResult } from "../../../core/subjects/propulsion/node";
import { plain, showSd } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { Sheets } from "../../app/Tabs";
import { CurveChart, type Limit } from "../../charts/CurveChart";
import "../../charts/setup";

/** What the pack may be for the discharge curves; double resistance: an old pack (common practice). */
const CHANGES = { "as it is": {}, cold: { packTemperature: -5 }, old: { resistanceFactor: 2 } } as const;
const SHEETS = { throttle: "against throttle", speed: "against speed", discharge: "over the discharge" } as const;
type Sheet = keyof typeof SHEETS;

const NOTHING_READ: { x: number; y: number }[] = [];

/** Voltage, power and charge over the run, in minutes. */
function tracesOf(run: ReturnType<typeof discharge> | null) {
  const of = (y: (p: DischargePoint) => number, sd: (p: DischargePoint) => number) =>
    run?.points.map((p) => ({ x: p.seconds / 60, y: y(p), sd: sd(p) })) ?? [];
  return {
    voltage: of(
      (p) => p.voltage,
      (p) => p.voltageSd,
    ),
    power: of(
      (p) => p.power,
      (p) => p.powerSd,
    ),
    charge: of(
      (p) => 100 * p.charge,
      (p) => 100 * p.chargeSd,
    ),
  };
}

/** Which pack the run is worked out with, and how long it lasts. */
function PackAndTime({
  pack,
  setPack,
  run,
}: {
  pack: keyof typeof CHANGES;
  setPack: (next: keyof typeof CHANGES) => void;
  run: ReturnType<typeof discharge> | null;
}) {
  const { habit } = usePreferences();
  return (
    <span className="ml-auto flex items-center gap-1 text-[11px]" role="group" aria-label="Pack">
      {(Object.keys(CHANGES) as (keyof typeof CHANGES)[]).map((p) => (
        <button
          key={p}
          type="button"
          className={`chip ${p === pack ? "chip-on" : ""}`}
          aria-pressed={p === pack}
          onClick={() => setPack(p)}
        >
          {p === "cold"
            ? `at ${plain(CHANGES.cold.packTemperature, "temperature", habit, 0)}`
            : p === "old"
              ? "old, twice the resistance"
              : p}
        </button>
      ))}
      <b className="num ml-2 text-ink">
        {run && Number.isFinite(run.seconds)
          ? `${plain(run.seconds, "time", habit)} ± ${showSd(run.sd, "time", habit)}`
          : ""}
      </b>
    </span>
  );
}

/**
 * Curves of the drives that the craft is judged by: standing against throttle, at full throttle against speed, and
 * the pack over a run.
 */
export function Curves({ result, throttle, speed }: { result: PropulsionResult; throttle: number; speed: number }) {
  const { habit } = usePreferences();
  const { seen: asIs, evaluation } = useDesk();
  // Typing comes first: the curves follow in a turn of their own.
  const design = useDeferredValue(asIs);
  const [sheet, setSheet] = useState<Sheet>(speed > 0 ? "speed" : "throttle");
  const unit = design.units[result.lead];
  const top = evaluation.metrics.speed?.value ?? null;
  const force = useCallback((n: number) => toDisplay(n, "force", habit), [habit]);
  const curve = useMemo(
    () =>
      sheet === "throttle"
        ? curveOf(design, "throttle").map((c) => ({ ...c, x: c.x * 100 }))
        : sheet === "speed"
          ? curveOf(design, "speed", top).map((c) => ({
              ...c,
              x: toDisplay(c.x, "speed", habit),
              // A hull makes other waves away from where its drag was taken: there is no line of it.
              drag: supportOf(design).waterDrag && waterDragDoubt(design, c.x) !== null ? null : c.drag,
            }))
          : [],
    [design, sheet, top, habit],
  );
  const points = useMemo(
    () => ({
      thrust: curve.map((c) => ({ x: c.x, y: force(c.thrust), sd: force(c.thrustSd) })),
      current: curve.map((c) => ({ x: c.x, y: c.current, sd: c.currentSd })),
      economy: curve.flatMap((c) =>
        c.economy > 0 && c.x > (sheet === "throttle" ? 8 : -1)
          ? [{ x: c.x, y: c.economy * 1000, sd: c.economySd * 1000 }]
          : [],
      ),
    }),
    [curve, sheet, force],
  );
  // On wings carrying the weight costs too: the line is that of level flight, from just above its stall.
  const level = resultIn(evaluation, powered)?.points;
  const drag = useMemo(() => {
    if (sheet !== "speed") return null;
    if (level) return level.map((p) => ({ x: toDisplay(p.speed, "speed", habit), y: force(p.drag) }));
    const told = curve.flatMap((c) => (c.drag === null ? [] : [{ x: c.x, y: force(c.drag) }]));
    return told.length > 0 ? told : null;
  }, [curve, level, sheet, force, habit]);
  // What was read, as it was read: on another pack or charge the curve stands off from it.
  const read = useMemo(() => {
    const m = sheet === "throttle" && design.units.length === 1 ? unit?.measured : null;
    return m
      ? m.readings.map((r) => ({ x: 100 * r.command, y: force((r.force * (unit?.count ?? 1)) / m.together) }))
      : NOTHING_READ;
  }, [design.units.length, unit, sheet, force]);
  const [pack, setPack] = useState<keyof typeof CHANGES>("as it is");
  const mass = resultIn(evaluation, massSubject);
  const levelDrag = resultIn(evaluation, demand)?.levelDrag ?? null;
  const run = useMemo(
    () =>
      sheet === "discharge"
        ? discharge(
            design,
            mass && { value: mass.mass, sd: mass.massSd, evidence: mass.evidence },
            CHANGES[pack],
            levelDrag,
          )
        : null,
    [design, mass, pack, sheet, levelDrag],
  );
  const traces = useMemo(() => tracesOf(run), [run]);
  return (
    <section aria-label="Curves" className="px-4 py-3" data-late={design !== asIs || undefined}>
      <Sheets
        small
        label="Curves shown"
        names={Object.entries(SHEETS) as [Sheet, string][]}
        value={sheet}
        onChange={setSheet}
        className="mb-2"
        aside={sheet === "discharge" && <PackAndTime pack={pack} setPack={setPack} run={run} />}
      >
        <div className="grid grid-cols-3 gap-4 max-[900px]:grid-cols-[minmax(0,1fr)]">
          {sheet === "discharge" ? (
            traces.voltage.length > 0 ? (
              <DischargeCharts design={design} run={run} traces={traces} />
            ) : (
              <p>
                {design.duty.length > 0 && !evaluation.metrics.endurance
                  ? "Nobody knows how long the pack lasts: the verdicts say what is missing."
                  : "State a duty first: what the pack is asked for over a run."}
              </p>
            )
          ) : (
            <ThrustCharts
              result={result}
              sheet={sheet}
              design={design}
              force={force}
              unit={unit}
              curve={curve}
              throttle={throttle}
              speed={speed}
              points={points}
              drag={drag}
              read={read}
            />
          )}
        </div>
      </Sheets>
    </section>
  );
}

/** Thrust, power and what they cost, over throttle or speed. */
function ThrustCharts({
  result,
  sheet,
  design,
  force,
  unit,
  curve,
  throttle,
  speed,
  points,
  drag,
  read,
}: {
  result: PropulsionResult;
  sheet: "speed" | "throttle" | "discharge";
  design: Design;
  force: (n: number) => number;
  unit: Unit | undefined;
  curve: CurvePoint[];
  throttle: number;
  speed: number;
  points: {
    thrust: { x: number; y: number; sd: number }[];
    current: { x: number; y: number; sd: number }[];
    economy: { x: number; y: number; sd: number }[];
  };
  drag: { x: number; y: number }[] | null;
  read: { x: number; y: number }[];
}) {
  const { evaluation } = useDesk();
  const { habit } = usePreferences();
  const weight = (resultIn(evaluation, massSubject)?.mass ?? 0) * GRAVITY;
  const full = result.values.thrust.value;
  const thrustLimits = useMemo<Limit[]>(() => {
    if (sheet === "speed") return [];
    const asked = design.brief.targets.flatMap((t): Limit[] =>
      t.metric === "thrustToWeight" && t.comparison === "atLeast" && weight > 0
        ? [
            {
              value: force(t.value * weight),
              label: `asked ${plain(t.value * weight, "force", habit, 1)}`,
              colour: "care",
            },
          ]
        : t.metric === "thrust" && t.comparison === "atLeast"
          ? [{ value: force(t.value), label: `asked ${plain(t.value, "force", habit, 1)}`, colour: "care" }]
          : [],
    );
    return weight > 0 && weight < full * 2
      ? [...asked, { value: force(weight), label: `weight ${plain(weight, "force", habit, 1)}`, colour: "clear" }]
      : asked;
  }, [design.brief.targets, weight, full, sheet, force, habit]);
  const currentLimits = useMemo<Limit[]>(
    () =>
      unit && !unit.measured
        ? [
            { value: unit.motor.maxCurrent, label: `motor ${unit.motor.maxCurrent} A`, colour: "stop" },
            { value: unit.controller.maxCurrent, label: `controller ${unit.controller.maxCurrent} A`, colour: "stop" },
          ]
        : [],
    [unit],
  );
  const xMax = sheet === "throttle" ? 100 : (curve.at(-1)?.x ?? 1);
  const x =
    sheet === "throttle"
      ? { title: "throttle, %", at: throttle * 100 }
      : { title: `speed, ${DISPLAY[habit].speed}`, at: toDisplay(speed, "speed", habit) };
  return (
    <>
      <CurveChart
        title={sheet === "speed" ? "Thrust and drag" : "Thrust, standing"}
        xTitle={x.title}
        yTitle={`thrust, ${DISPLAY[habit].force}`}
        points={points.thrust}
        limits={thrustLimits}
        at={x.at}
        xMax={xMax}
        line={drag}
        read={read}
      />
      {sheet === "speed" && curve.length === 0 && <p>What it pushes in motion was not measured.</p>}
      {Number.isFinite(points.current.at(-1)?.y) ? (
        <>
          <CurveChart
            title={unit?.measured ? "Current of one" : "Motor current"}
            xTitle={x.title}
            yTitle="current, A"
            points={points.current}
            limits={currentLimits}
            at={x.at}
            xMax={xMax}
          />
          <CurveChart
            title="Thrust for each watt"
            xTitle={x.title}
            yTitle="mN for each W"
            points={points.economy}
            limits={[]}
            at={x.at}
            xMax={xMax}
          />
        </>
      ) : (
        curve.length > 0 && (
          <p className="col-span-2">What it draws was not read: no current, and no thrust for each watt.</p>
        )
      )}
    </>
  );
}

/** Voltage and charge over the time of the duty. */
function DischargeCharts({
  design,
  run,
  traces,
}: {
  design: Design;
  run: Discharge | null;
  traces: {
    voltage: { x: number; y: number; sd: number }[];
    power: { x: number; y: number; sd: number }[];
    charge: { x: number; y: number; sd: number }[];
  };
}) {
  const battery = design.batteries.find((b) => b.id === run?.batteryId);
  const floor = useMemo<Limit[]>(() => {
    const volts = battery ? CHEMISTRY[battery.chemistry].floor * battery.series : 0;
    return battery ? [{ value: volts, label: `cells' floor ${volts.toFixed(1)} V`, colour: "stop" }] : [];
  }, [battery]);
  const minutes = (run && Number.isFinite(run.seconds) ? run.seconds : 60) / 60;
  return (
    <>
      <CurveChart
        title="Pack voltage under the heaviest phase"
        xTitle="minutes"
        yTitle="voltage, V"
        points={traces.voltage}
        limits={floor}
        xMax={minutes}
        fromZero={false}
      />
      <CurveChart
        title="Pack power, heaviest phase"
        xTitle="minutes"
        yTitle="power, W"
        points={traces.power}
        limits={[]}
        xMax={minutes}
      />
      <CurveChart
        title="State of charge"
        xTitle="minutes"
        yTitle="charge, %"
        points={traces.charge}
        limits={[]}
        xMax={minutes}
      />
    </>
  );
}
