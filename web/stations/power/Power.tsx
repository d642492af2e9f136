import { wetDrive } from "../../../core/subjects/propulsion/covered";
import { waterOf } from "../../../core/subjects/propulsion/setup";
import { newPhase } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { operatingAt, throttleFor } from "../../../core/subjects/propulsion/band";
import { propulsion } from "../../../core/subjects/propulsion/node";
import { freeId } from "../../../core/design/ids";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { METRICS, type MetricKey } from "../../../core/design/metrics";
import { plain } from "../../../core/wording/format";
import { Computed } from "../../app/Computed";
import { Sheets } from "../../app/Tabs";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { Cautions } from "../runs/Cautions";
import { Curves } from "./Curves";
import { DragArea } from "./DragArea";
import { DriveForm, PackForm } from "./DriveForm";
import { Duty } from "./Duty";
import { PathForm } from "./PathForm";
import { GenericSheet } from "./GenericSheet";
import { LoopSheet } from "./LoopSheet";
import { PowerBand } from "./PowerBand";
import { SearchSheet } from "./SearchSheet";
import { ShelfSheet } from "./shelf/ShelfSheet";
import { WhatIfSheet } from "./WhatIfSheet";
import { firstDrive } from "./describe";

const RESULTS: MetricKey[] = [
  "thrust",
  "thrustToWeight",
  "thrustThrottle",
  "speed",
  "current",
  "packCurrent",
  "packVoltage",
  "packPower",
  "rpm",
  "torque",
  "motorLoss",
  "tipMach",
  "endurance",
];

const SHEETS = {
  drives: "Drives and packs",
  search: "Search",
  loop: "The loop",
  whatif: "What if",
  shelf: "Your parts",
  generic: "Generic parts",
} as const;
type SheetName = keyof typeof SHEETS;
/** What is no drive and no pack, and has a sheet among them. */
const PATH = { id: "path", name: "Path and loads" };

/** The station: working conditions, the flow of power, curves, and what the drives are made of. */
export function PowerStation() {
  const { design, evaluation, edit, preview, go } = useDesk();
  const { habit } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const [live, setLive] = useState<number | null>(null);
  const result = resultIn(evaluation, propulsion);
  const outcome = evaluation.outcomes[propulsion.name];
  const uncovered = outcome?.status === "not covered" ? outcome.because : null;
  const put = (change: Record<string, string | null>) =>
    setSearch(
      (s) => {
        for (const [k, v] of Object.entries(change)) v === null ? s.delete(k) : s.set(k, v);
        return s;
      },
      { replace: true },
    );

  if (design.units.length === 0 || design.batteries.length === 0)
    return (
      <section className="p-6">
        <h2 className="text-[18px]">No drive yet</h2>
        <p className="mt-2">
          Begin with what is on the bench: the pack's cells and capacity, the motor's Kv, the size stamped on the
          propeller.
        </p>
        <button
          type="button"
          className="act act-first mt-4"
          onClick={() =>
            edit((d) => {
              const first = firstDrive(d, resultIn(evaluation, balance)?.mass ?? null);
              if (d.batteries.length === 0) d.batteries = [first.battery];
              if (d.units.length === 0)
                d.units = [{ ...first.unit, batteryId: d.batteries[0]?.id ?? first.battery.id }];
              if (d.duty.length === 0)
                d.duty = [
                  newPhase({
                    id: "p1",
                    name: "Cruise",
                    seconds: 60,
                    repeats: 1,
                    by: "throttle",
                    value: 0.5,
                    unitIds: [],
                  }),
                ];
            })
          }
        >
          Describe a drive
        </button>
        <p className="mt-3 text-pencil">It starts as a set of guesses for this mass; every number can be changed.</p>
      </section>
    );

  const asked = Number(search.get("throttle") ?? Number.NaN);
  const throttle = live ?? (Number.isFinite(asked) ? Math.min(1, Math.max(0, asked / 100)) : 1);
  const speed = Math.max(0, Number(search.get("speed") ?? 0) || 0);
  const all = design.units.map((_, i) => i);
  const idle = new Set((search.get("idle") ?? "").split(".").filter(Boolean));
  const working = all.filter((i) => !idle.has(design.units[i]?.id ?? ""));
  const here = result ? operatingAt(design, throttle, speed, working) : null;
  const sheet = (Object.keys(SHEETS) as SheetName[]).find((n) => n === search.get("sheet")) ?? "drives";
  const chosen = search.get("of") ?? design.units[0]?.id ?? design.batteries[0]?.id ?? PATH.id;
  const unit = design.units.find((u) => u.id === chosen);
  const battery = design.batteries.find((b) => b.id === chosen);
  const hover = evaluation.metrics.thrustThrottle;
  const { environment } = design.brief;
  const commit = () => {
    if (live !== null) put({ throttle: String(Math.round(throttle * 100)) });
    setLive(null);
  };
  const addDrive = () => {
    const id = freeId(design.units, "d");
    edit((d) => {
      const like = design.units.find((u) => u.id === chosen) ?? design.units[0];
      if (like) d.units.push({ ...structuredClone(like), id, name: `Drive ${d.units.length + 1}` });
    });
    put({ of: id });
  };
  const addPack = () => {
    const id = freeId(design.batteries, "b");
    edit((d) => {
      const like = design.batteries.find((b) => b.id === chosen) ?? design.batteries[0];
      if (like)
        d.batteries.push({ ...structuredClone(like), id, name: `Pack ${d.batteries.length + 1}`, itemId: null });
    });
    put({ of: id });
  };
  const remove = () =>
    edit((d) => {
      d.units = d.units.filter((u) => u.id !== chosen);
      d.conductors = d.conductors.filter((c) => c.unitId !== chosen && c.batteryId !== chosen);
      d.regulators = d.regulators.filter((r) => r.batteryId !== chosen);
      d.batteries = d.batteries.filter((b) => b.id !== chosen);
      for (const p of d.duty) p.unitIds = p.unitIds.filter((id) => id !== chosen);
    });
  const removable =
    (unit && design.units.length > 1) ||
    (battery && design.batteries.length > 1 && !design.units.some((u) => u.batteryId === battery.id));

  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-4 py-2">
        <span className="flex gap-1" role="group" aria-label="Worked at">
          <button
            type="button"
            className={`chip ${speed === 0 ? "chip-on" : ""}`}
            aria-pressed={speed === 0}
            onClick={() => put({ speed: null })}
          >
            standing
          </button>
          {hover && (
            <button
              type="button"
              className="chip"
              onClick={() => put({ speed: null, throttle: String(Math.round(hover.value * 1000) / 10) })}
            >
              hover
            </button>
          )}
        </span>
        <label className="flex items-center gap-1 text-[12px]">
          moving at
          <span className="w-20">
            <QuantityField
              boxed
              label="Worked at speed"
              value={speed > 0 ? speed : null}
              dimension="speed"
              empty="m/s"
              onCommit={(v) => put({ speed: v === null || v <= 0 ? null : String(Math.round(v * 1000) / 1000) })}
            />
          </span>
        </label>
        <label className="flex items-center gap-1 text-[12px]">
          for thrust
          <span className="w-20">
            <QuantityField
              boxed
              label="Throttle for thrust"
              value={null}
              dimension="force"
              empty="N"
              onCommit={(v) => {
                if (v === null || v <= 0 || !result) return null;
                const u = throttleFor(design, v, speed);
                if (u === null)
                  return `full throttle gives ${result.values.thrust.value.toFixed(1)} N standing, less when moving`;
                put({ throttle: String(Math.round(u * 1000) / 10) });
                return null;
              }}
            />
          </span>
        </label>
        <label className="flex flex-1 items-center gap-2">
          throttle
          <input
            type="range"
            min={0}
            max={100}
            aria-label="Throttle, %"
            className="w-40 accent-[var(--accent)]"
            value={Math.round(throttle * 100)}
            onChange={(e) => setLive(Number(e.target.value) / 100)}
            onPointerUp={commit}
            onBlur={commit}
          />
          <b className="num w-12 text-ink">{Math.round(throttle * 100)} %</b>
        </label>
        {all.length > 1 && (
          <span className="flex flex-wrap gap-1" role="group" aria-label="Drives at work">
            {design.units.map((u) => (
              <button
                key={u.id}
                type="button"
                className={`chip ${idle.has(u.id) ? "" : "chip-on"}`}
                aria-pressed={!idle.has(u.id)}
                onClick={() =>
                  put({
                    idle: (idle.has(u.id) ? [...idle].filter((x) => x !== u.id) : [...idle, u.id]).join(".") || null,
                  })
                }
              >
                {u.name}
              </button>
            ))}
          </span>
        )}
        <span className="num text-[11px] text-pencil">
          air {environment.airTemperature} °C, pack {environment.packTemperature} °C,{" "}
          {evaluation.metrics.airDensity?.value.toFixed(3)} kg/m³
          {wetDrive(design) &&
            `; drives in ${environment.water ?? "fresh"} water, ${waterOf(environment).density.toFixed(0)} kg/m³`}
        </span>
      </div>
      <div className="wide px-4 pt-3">
        {here && result ? (
          design.batteries.map((b) => (
            <PowerBand
              key={b.id}
              battery={b}
              path={design.conductors.filter((c) => c.batteryId === b.id && c.unitId === null)}
              rails={design.regulators.filter((r) => r.batteryId === b.id)}
              drives={design.units.flatMap((u, i) => {
                const point = here.points[i];
                return u.batteryId === b.id && point ? [{ unit: u, point, sd: here.sd[i] ?? {} }] : [];
              })}
            />
          ))
        ) : (
          <p className="pb-3">
            {uncovered !== null
              ? `Not covered: ${uncovered}. No thrust, current or endurance is shown; what you measure on the bench and in runs stands.`
              : speed > 0
                ? "At this speed and throttle the air drives a propeller, or the pack cannot feed it: slow down, or open the throttle."
                : "The drive has no operating point at this throttle. The verdict says why."}
          </p>
        )}
      </div>
      {result && <Curves key={speed > 0 ? "moving" : "standing"} result={result} throttle={throttle} speed={speed} />}
      <Sheets
        label="Power sheets"
        names={Object.entries(SHEETS) as [SheetName, string][]}
        value={sheet}
        onChange={(name) => put({ sheet: name === "drives" ? null : name })}
        className="border-y border-hair px-4"
      >
        {uncovered !== null && (sheet === "search" || sheet === "loop" || sheet === "whatif") && (
          <p className="px-4 py-4" data-uncovered>
            Not covered: {uncovered}. Nothing is sized by a model that does not hold for it.
          </p>
        )}
        {uncovered === null && sheet === "search" && <SearchSheet />}
        {uncovered === null && sheet === "loop" && <LoopSheet />}
        {uncovered === null && sheet === "whatif" && <WhatIfSheet />}
        {sheet === "shelf" && <ShelfSheet />}
        {sheet === "generic" && <GenericSheet />}
        {sheet === "drives" && (
          <Sheets
            label="Drives and packs"
            names={[...design.units, ...design.batteries, PATH].map((x) => [x.id, x.name] as const)}
            value={chosen}
            onChange={(id) => put({ of: id })}
            className="items-center px-4 pt-2"
            aside={
              <span className="ml-auto flex gap-3 text-[12px]">
                <button type="button" className="link" onClick={addDrive}>
                  add a drive
                </button>
                <button type="button" className="link" onClick={addPack}>
                  add a pack
                </button>
                {removable && (
                  <button type="button" className="link" onClick={remove}>
                    remove {unit?.name ?? battery?.name}
                  </button>
                )}
              </span>
            }
          >
            <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,340px)] gap-6 px-4 py-3 max-[760px]:grid-cols-[minmax(0,1fr)]">
              {unit ? (
                <DriveForm key={unit.id} unit={unit} />
              ) : battery ? (
                <PackForm key={battery.id} battery={battery} />
              ) : (
                <PathForm result={result} />
              )}
              <div>
                <h2>
                  Standing, full throttle
                  {design.units.length > 1 ? `: ${result?.drives[result.lead]?.name ?? ""} leads` : ""}
                </h2>
                <table className="rows mt-1 w-full">
                  <tbody>
                    {RESULTS.map((key) => {
                      const q = evaluation.metrics[key];
                      const then = preview?.evaluation.metrics[key];
                      if (!q && (key === "thrustThrottle" || key === "speed")) return null;
                      return (
                        <tr key={key}>
                          <td>{METRICS[key].label.replace(", full throttle", "")}</td>
                          <td className="text-right">
                            <Computed metric={key} quantity={q} />
                            {then && q && Math.abs(then.value - q.value) > 1e-4 * Math.abs(q.value) && (
                              <span className="num block text-accent">
                                → {plain(then.value, METRICS[key].dimension, habit)}
                              </span>
                            )}
                          </td>
                        </tr>
                      );
                    })}
                  </tbody>
                </table>
                <Duty />
                {result && <DragArea />}
                <Cautions places={["power"]} />
                {!resultIn(evaluation, balance) && (
                  <p className="mt-2 text-pencil">
                    The craft has no mass yet:{" "}
                    <button type="button" className="link" onClick={() => go({ station: "layout" })}>
                      enter parts
                    </button>
                    .
                  </p>
                )}
              </div>
            </div>
          </Sheets>
        )}
      </Sheets>
    </>
  );
}
