import { DriveSelect } from "../../fields/DriveSelect";
import { usePreferences } from "../../app/preferences";
import { useMemo, useState } from "react";
import type { Dimension } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { demand } from "../../../core/subjects/demand/node";
import type { Nominal } from "../../../core/subjects/propulsion/nominal";
import { shapedOf } from "../../../core/sizing/otherSize";
import { type Scaling, UNSCALED, knobsOf, whatIf } from "../../../core/sizing/whatIf";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";

/** What can be turned, its law of an open propeller, and what holds of everything else. */
const KNOBS: [key: Exclude<keyof Scaling, "cells">, label: string, law: string, elsewhere?: string][] = [
  [
    "diameter",
    "Diameter",
    "At the same rpm thrust grows with diameter⁴ and power with diameter⁵; the motor slows, so a little less.",
    "All of it grows alike, its mass excepted.",
  ],
  ["pitch", "Pitch", "More pitch asks for torque at once and pays only when moving; standing, the blade stalls.", ""],
  [
    "kv",
    "Kv",
    "The same iron wound faster: rpm with Kv, current with about Kv³ at the same propeller.",
    "The same iron wound faster: rpm with Kv as far as its load lets it.",
  ],
  [
    "ratio",
    "Reduction",
    "More reduction multiplies torque, not power. A motor held near stall wants reduction, not a bigger controller.",
  ],
  ["mass", "Mass", "Hover power grows with mass^1.5, speeds to fly with its square root."],
];

const READ: [label: string, dimension: Dimension, pick: (n: Nominal, drive: number) => number | undefined][] = [
  ["Shaft speed", "rotation", (n, k) => n.units[k]?.rpm],
  ["Motor current", "current", (n, k) => n.units[k]?.current],
  ["Its thrust, standing", "force", (n, k) => n.units[k]?.thrust],
  ["Thrust to weight", "ratio", (n) => n.craft.thrustToWeight],
  ["Motor losses", "power", (n, k) => n.units[k]?.motorLoss],
  ["Pack power", "power", (n) => n.craft.packPower],
  ["Endurance at the duty", "time", (n) => n.craft.endurance],
  ["Tip Mach number", "ratio", (n, k) => n.units[k]?.tipMach],
];

/** What happens when one thing is scaled: the whole chain solved again, with the law in words. */
export function WhatIfSheet() {
  const { habit } = usePreferences();
  const { seen: design, evaluation } = useDesk();
  const levelDrag = resultIn(evaluation, demand)?.levelDrag ?? null;
  const [scaling, setScaling] = useState<Scaling>(UNSCALED);
  const [unitId, setUnitId] = useState(design.units[0]?.id ?? "");
  const unit = design.units.find((u) => u.id === unitId) ?? design.units[0];
  const result = useMemo(() => whatIf(design, scaling, levelDrag, unit?.id), [design, scaling, levelDrag, unit?.id]);
  const can = unit ? knobsOf(unit) : [];
  const size = unit ? (shapedOf(unit)?.size.label ?? "") : "";
  const turned = KNOBS.filter(([key]) => scaling[key] !== 1);
  return (
    <section
      aria-label="What if"
      className="grid grid-cols-[320px_minmax(0,1fr)] gap-6 px-4 py-3 text-[12px] max-[860px]:grid-cols-[minmax(0,1fr)]"
    >
      <div>
        <h2>What if</h2>
        {design.units.length > 1 && (
          <label className="mt-1 grid grid-cols-[80px_1fr] items-center gap-2">
            Drive
            <DriveSelect
              label="Drive to scale"
              value={unit?.id}
              onChange={(id) => {
                setUnitId(id);
                setScaling(UNSCALED);
              }}
            />
          </label>
        )}
        {unit?.measured && (
          <p className="mt-1 text-pencil">
            {unit.name} is known by its measured curve: another motor, gearing or size cannot be told from that.
          </p>
        )}
        {KNOBS.filter(([key]) => can.includes(key)).map(([key, label]) => (
          <label key={key} className="mt-1 grid grid-cols-[80px_1fr_56px] items-center gap-2">
            {key === "diameter" ? size : label}
            <input
              type="range"
              min={-40}
              max={60}
              aria-label={`${label}, % more or less`}
              className="accent-[var(--accent)]"
              value={Math.round((scaling[key] - 1) * 100)}
              onChange={(e) => setScaling({ ...scaling, [key]: 1 + Number(e.target.value) / 100 })}
            />
            <b className="num text-right text-ink">
              {scaling[key] > 1 ? "+" : ""}
              {Math.round((scaling[key] - 1) * 100)} %
            </b>
          </label>
        ))}
        <label className="mt-1 grid grid-cols-[80px_1fr_56px] items-center gap-2">
          Cells
          <input
            type="range"
            min={-2}
            max={3}
            aria-label="Cells, more or less"
            className="accent-[var(--accent)]"
            value={scaling.cells}
            onChange={(e) => setScaling({ ...scaling, cells: Number(e.target.value) })}
          />
          <b className="num text-right text-ink">
            {scaling.cells > 0 ? "+" : ""}
            {scaling.cells}
          </b>
        </label>
        <button type="button" className="act mt-2" onClick={() => setScaling(UNSCALED)}>
          As it is
        </button>
        {turned.flatMap(([key, , law, open = law]) => {
          const said = unit?.propulsor ? open : law;
          return said === "" ? (
            []
          ) : (
            <p key={key} className="mt-2">
              {said}
            </p>
          );
        })}
        {scaling.cells !== 0 && (
          <p className="mt-2">
            Rpm goes with the cells, current with about their square, heat with more: the propeller decides, not the
            cells.
          </p>
        )}
        <p className="mt-2 text-pencil">
          Nothing is changed in the design. Masses of the parts themselves stay as they are.
        </p>
      </div>
      <div>
        {result && result.outside.length > 0 && (
          <p className="mb-1 text-care" data-outside>
            Outside what the method holds for: {result.outside.join("; ")}. What it says of thrust then is not to be
            trusted.
          </p>
        )}
        {result ? (
          <table className="rows w-full max-w-[620px]">
            <thead>
              <tr>
                <th />
                <th className="text-right!">as it is</th>
                <th className="text-right!">then</th>
                <th className="text-right!">change</th>
                <th className="max-[600px]:hidden" />
              </tr>
            </thead>
            <tbody>
              {READ.map(([label, dimension, pick]) => {
                const [a, b] = [result.before, result.after].map((n) => pick(n, result.drive) ?? Number.NaN) as [
                  number,
                  number,
                ];
                const share = a !== 0 ? b / a - 1 : Number.NaN;
                return (
                  <tr key={label} data-whatif={label}>
                    <td className="text-ink">{label}</td>
                    <td className="num text-right">{Number.isFinite(a) ? plain(a, dimension, habit) : "–"}</td>
                    <td className="num measured text-right">{Number.isFinite(b) ? plain(b, dimension, habit) : "–"}</td>
                    <td className="num text-right">
                      {Number.isFinite(share) ? `${share >= 0 ? "+" : "−"}${Math.abs(share * 100).toFixed(0)} %` : ""}
                    </td>
                    <td className="w-40 max-[600px]:hidden">
                      {Number.isFinite(share) && (
                        <svg width="150" height="12" viewBox="0 0 150 12" aria-hidden="true">
                          <path d="M75 0v12" stroke="var(--rule)" />
                          <rect
                            x={share >= 0 ? 75 : 75 - Math.min(74, -share * 75)}
                            y="3"
                            width={Math.min(74, Math.abs(share) * 75)}
                            height="6"
                            fill="var(--pencil)"
                          />
                        </svg>
                      )}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        ) : (
          <p>The drive has no operating point like this: the pack cannot feed it.</p>
        )}
      </div>
    </section>
  );
}
