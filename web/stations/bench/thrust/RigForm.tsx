import { armRatio, checkFactor } from "../../../../core/bench/rig";
import { densityAt } from "../../../../core/bench/sweep";
import type { Bench } from "../../../../core/design/bench";
import type { Rig, ThrustTest } from "../../../../core/design/thrustTest";
import { type Readable, READABLE } from "../../../../core/design/thrustTest";
import type { Dimension } from "../../../../core/design/units";
import { plain } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";
import { RigDrawing } from "./RigDrawing";

interface Props {
  test: ThrustTest;
  onChange: (change: (t: ThrustTest) => void) => void;
}

const WORD: Record<Readable, string> = {
  thrust: "thrust",
  voltage: "volts",
  current: "amps",
  rpm: "rpm",
  temperature: "motor °C",
  noise: "noise",
};

/** A figure of the stand, with its word above; what it cannot be is said beneath. */
function RigNumber({
  label,
  value,
  dimension,
  put,
  refused,
  empty,
}: {
  label: string;
  value: number | null;
  dimension: Dimension;
  put: (v: number) => void;
  refused: (v: number) => string | null;
  empty?: string | undefined;
}) {
  return (
    <label className="w-28">
      {label}
      <QuantityField
        boxed
        label={label}
        value={value}
        dimension={dimension}
        empty={empty}
        onCommit={(v) => {
          if (v === null) return null;
          const why = refused(v);
          if (why === null) put(v);
          return why;
        }}
      />
    </label>
  );
}

/** What is read at each throttle beside the thrust. */
function WhatIsMeasured({ test, onChange }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Measured">
      Measured:
      {READABLE.map((m) => (
        <button
          key={m}
          type="button"
          className={`chip ${test.plan.measures.includes(m) ? "chip-on" : ""}`}
          aria-pressed={test.plan.measures.includes(m)}
          disabled={m === "thrust"}
          onClick={() =>
            onChange(
              (t) =>
                void (t.plan.measures = t.plan.measures.includes(m)
                  ? t.plan.measures.filter((x) => x !== m)
                  : READABLE.filter((x) => x === m || t.plan.measures.includes(x))),
            )
          }
        >
          {WORD[m]}
        </button>
      ))}
    </div>
  );
}

/** The stand: what it is built like, its zero and check, its instruments, the air; drawn beside. */
export function RigForm({ test, onChange }: Props) {
  const { habit } = usePreferences();
  const { rig } = test;
  const set = (change: (r: Rig) => void) => onChange((t) => change(t.rig));
  const number = (
    label: string,
    value: number | null,
    dimension: Dimension,
    put: (v: number) => void,
    low = -Infinity,
    empty?: string,
  ) => (
    <RigNumber
      {...{ label, value, dimension, put, empty }}
      refused={(v) => (v < low ? `Accepted: ${low === 0 ? "zero or more" : `above ${low}`}.` : null)}
    />
  );
  const positive = (label: string, value: number, dimension: Dimension, put: (v: number) => void) => (
    <RigNumber {...{ label, value, dimension, put }} refused={(v) => (v > 0 ? null : "Accepted: more than zero.")} />
  );
  const factor = checkFactor(rig);
  return (
    <div
      className={
        "grid grid-cols-[minmax(0,1fr)_minmax(0,330px)] gap-5 text-[12px] " + "max-[900px]:grid-cols-[minmax(0,1fr)]"
      }
    >
      <div className="flex flex-col gap-3">
        <ArmFields test={test} onChange={onChange} rig={rig} set={set} />
        {rig.kind === "lever" && (
          <div className="flex flex-wrap items-end gap-3">
            {positive("Arm to thrust", rig.thrustArm, "length", (v) => set((r) => void (r.thrustArm = v)))}
            {positive("Arm to scale", rig.scaleArm, "length", (v) => set((r) => void (r.scaleArm = v)))}
            {number("Arms ±", rig.armSd, "length", (v) => set((r) => void (r.armSd = v)), 0)}
            {number("Counterweight", rig.counterweight, "mass", (v) => set((r) => void (r.counterweight = v)), 0)}
          </div>
        )}
        <div className="flex flex-wrap items-end gap-3">
          {number("Reads at rest", rig.tare, "mass", (v) => set((r) => void (r.tare = v)))}
          <label className="w-28">
            Check mass
            <QuantityField
              boxed
              label="Check mass"
              value={rig.check?.mass ?? null}
              dimension="mass"
              empty="none hung"
              onCommit={(v) => {
                if (v !== null && !(v > 0)) return "Accepted: more than zero.";
                set(
                  (r) =>
                    void (r.check =
                      v === null ? null : { mass: v, reading: r.check?.reading ?? r.tare + v / armRatio(r) }),
                );
                return null;
              }}
            />
          </label>
          {rig.check &&
            number("Then reads", rig.check.reading, "mass", (v) => set((r) => void (r.check && (r.check.reading = v))))}
          <span className="num pb-1 text-pencil" data-rig>
            1 g on the scale is{" "}
            {plain(armRatio(rig) * (Number.isFinite(factor.value) ? factor.value : 1) * 9.80665e-3, "force", habit, 4)}
            {rig.check && `, corrected × ${factor.value.toFixed(3)}`}
          </span>
        </div>
        <div className="wide">
          <Instruments rig={rig} set={set} />
        </div>
        <div className="flex flex-wrap items-end gap-3">
          {number(
            "Air temperature",
            test.air.temperature,
            "temperature",
            (v) => onChange((t) => void (t.air.temperature = v)),
            -60,
          )}
          {number(
            "Air pressure",
            test.air.pressure,
            "pressure",
            (v) => onChange((t) => void (t.air.pressure = v)),
            20_000,
          )}
          <span className="num pb-1 text-pencil">{densityAt(test.air).toFixed(3)} kg/m³</span>
        </div>
        <WhatIsMeasured test={test} onChange={onChange} />
      </div>
      <div>
        <RigDrawing rig={rig} habit={habit} />
        <p className="mt-1 text-pencil">
          {rig.kind === "lever"
            ? "A lever takes the propeller off the scale, so its wash does not blow on it. Hang the check " +
              "mass where the thrust pulls: it takes arms, pivot and scale together."
            : "The drive stands on the scale and pushes down on it, or pulls it up. Its wash must not reach the pan."}
        </p>
      </div>
    </div>
  );
}

/** How the stand turns thrust into what the scale shows. */
function ArmFields({
  test,
  onChange,
  rig,
  set,
}: {
  test: ThrustTest;
  onChange: (change: (t: ThrustTest) => void) => void;
  rig: Rig;
  set: (change: (r: Rig) => void) => void;
}) {
  const { design } = useDesk();

  return (
    <div className="flex flex-wrap items-end gap-3">
      <label className="w-44">
        Drive on the stand
        <select
          className="box"
          aria-label="Drive on the stand"
          value={test.unitId}
          onChange={(e) => onChange((t) => void (t.unitId = e.target.value))}
        >
          {design.units.map((u) => (
            <option key={u.id} value={u.id}>
              {u.name}
              {u.count > 1 ? ", one of them" : ""}
            </option>
          ))}
        </select>
      </label>
      <label className="w-44">
        Stand
        <select
          className="box"
          aria-label="Stand"
          value={rig.kind}
          onChange={(e) => set((r) => void (r.kind = e.target.value as Rig["kind"]))}
        >
          <option value="direct">pushes straight on the scale</option>
          <option value="lever">lever on a pivot</option>
        </select>
      </label>
      <label className="w-44">
        With thrust the scale reads
        <select
          className="box"
          aria-label="Scale reads"
          value={rig.reads}
          onChange={(e) => set((r) => void (r.reads = e.target.value as Rig["reads"]))}
        >
          <option value="more">more</option>
          <option value="less">less</option>
        </select>
      </label>
    </div>
  );
}

/** The other instruments on the stand. */
function Instruments({ rig, set }: { rig: Rig; set: (change: (r: Rig) => void) => void }) {
  const { file } = useDesk();
  const meters: [key: "scale" | "voltage" | "current", word: string, dimension: Dimension][] = [
    ["scale", "Scale", "mass"],
    ["voltage", "Voltmeter", "voltage"],
    ["current", "Ammeter", "current"],
  ];
  const calibrations = (quantity: string): Bench[] => file.bench.filter((b) => b.calibration?.quantity === quantity);
  return (
    <table className="rows w-full">
      <thead>
        <tr>
          <th>instrument</th>
          <th className="text-right!">step</th>
          <th className="text-right!">off by</th>
          <th className="w-40">calibrated</th>
        </tr>
      </thead>
      <tbody>
        {meters.map(([key, word, dimension]) => (
          <tr key={key}>
            <td>{word}</td>
            <td className="w-16">
              <QuantityField
                label={`${word}, step`}
                value={rig[key].step}
                dimension={dimension}
                onCommit={(v) => {
                  if (v === null || !(v > 0)) return "Accepted: more than zero.";
                  set((r) => void (r[key].step = v));
                  return null;
                }}
              />
            </td>
            <td className="w-16">
              <QuantityField
                label={`${word}, error`}
                value={rig[key].error}
                dimension="percent"
                onCommit={(v) => {
                  if (v === null || v < 0 || v > 0.5) return "Accepted: 0 to 50 %.";
                  set((r) => void (r[key].error = v));
                  return null;
                }}
              />
            </td>
            <td>
              <select
                className="cell"
                aria-label={`${word}, calibrated in`}
                value={rig[key].session ?? ""}
                onChange={(e) =>
                  set((r) => void (r[key].session = e.target.value === "" ? null : Number(e.target.value)))
                }
              >
                <option value="">as it reads</option>
                {calibrations(key).map((b) => (
                  <option key={b.number} value={b.number}>
                    {b.calibration?.instrument}, {b.date.slice(0, 10)}
                  </option>
                ))}
              </select>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
