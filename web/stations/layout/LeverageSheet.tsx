import { placesUnsaid } from "../../../core/subjects/mass/placed";
import { scaleLinear } from "d3-scale";
import { useState } from "react";
import { positiveOf } from "../../../core/design/evidence";
import type { BallastSpot, Item } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { gramPrice } from "../../../core/subjects/balance/gram";
import { balance } from "../../../core/subjects/balance/node";
import { extent } from "../../../core/subjects/extent/node";
import { ballastSpots } from "../../../core/subjects/mass/ballast";
import type { Extent, MassResult } from "../../../core/subjects/mass/rollup";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

/** Mass that is taken off, kg. */
const lossSchema = positiveOf("mass");

const WIDTH = 860;
const HEIGHT = 190;
const LEFT = 44;
const BASE = 150;

/**
 * What one gram costs at the counterweight, from nose to tail, with every part where it sits; the dearest parts by
 * what they cost in all.
 */
export function LeverageSheet({ onSelect }: { onSelect: (id: string) => void }) {
  const { seen: design, evaluation } = useDesk();
  const { habit } = usePreferences();
  const spots = ballastSpots(design);
  const [chosen, setChosen] = useState<string | null>(null);
  const [off, setOff] = useState<number | null>(null);
  const mass = resultIn(evaluation, balance);
  const box = resultIn(evaluation, extent);
  const price = mass && gramPrice(design, mass.cg.x, chosen);
  const [open] = placesUnsaid(design.items, "x");
  if (open !== undefined) return <p className="px-4 py-4">Open: {open}. What a gram costs rests on where the CG is.</p>;
  if (!mass || !box || !price) return <p className="px-4 py-4">No part has a mass yet.</p>;
  const { spot, heldAt, at: cost } = price;
  const parts = design.items
    .flatMap((item) => (item.mass ? [{ item, total: item.mass.value * item.quantity, each: cost(item.place.x) }] : []))
    .map((p) => ({ ...p, spent: p.total * Math.max(0, p.each) }))
    .sort((a, b) => b.spent - a.spent);
  return (
    <section aria-label="Cost of weight by position" className="px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-3">
        <h2>What one gram costs at the {spot.name}</h2>
        <label className="text-[12px]">
          counterweight at{" "}
          <select
            className="box w-auto!"
            aria-label="Counterweight at"
            value={spot.id}
            onChange={(e) => setChosen(e.target.value)}
          >
            {spots.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <span className="text-[12px] text-pencil">
          the CG held {heldAt === mass.cg.x ? "where it is" : "at the edge of its window"},{" "}
          {plain(heldAt, "length", habit)}
        </span>
        <label className="text-[12px]">
          if a part loses{" "}
          <span className="inline-block w-20 align-middle">
            <QuantityField
              boxed
              label="If a part loses"
              value={off}
              dimension="mass"
              schema={lossSchema}
              onCommit={setOff}
            />
          </span>
        </label>
      </div>
      <LeverageDrawing box={box} cost={cost} spot={spot} heldAt={heldAt} parts={parts} mass={mass} />
      <h2 className="mt-3">
        Dearest places to carry mass{" "}
        <span className="text-[12px] font-normal text-pencil">
          what they make the counterweight pay, and what{" "}
          {off === null ? "taking a tenth off" : `${plain(off, "mass", habit)} off`} saves in all
        </span>
      </h2>
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th>part</th>
            <th className="text-right!">mass</th>
            <th className="text-right!">1 {DISPLAY[habit].mass} here costs</th>
            <th className="text-right!">paid at the {spot.name}</th>
            <th className="text-right!">{off === null ? "a tenth" : plain(off, "mass", habit)} off here saves</th>
          </tr>
        </thead>
        <tbody>
          {parts
            .filter((p) => p.spent > 0)
            .slice(0, 8)
            .map(({ item, total, each, spent }) => (
              <tr key={item.id}>
                <td>
                  <button type="button" className="min-h-6 text-ink hover:underline" onClick={() => onSelect(item.id)}>
                    {item.name}
                  </button>
                </td>
                <td className="num text-right">{plain(total, "mass", habit)}</td>
                <td className="num text-right">
                  {each.toFixed(2)} {DISPLAY[habit].mass}
                </td>
                <td className="num text-right">{plain(spent, "mass", habit)}</td>
                <td className="num measured text-right">
                  {off !== null && off > total
                    ? "not that much"
                    : plain((off ?? 0.1 * total) * (1 + each), "mass", habit, habit === "metric" ? 1 : 2)}
                </td>
              </tr>
            ))}
        </tbody>
      </table>
    </section>
  );
}

/** The craft from above, each part as large as its leverage. */
function LeverageDrawing({
  box,
  cost,
  spot,
  heldAt,
  parts,
  mass,
}: {
  box: Extent;
  cost: (x: number) => number;
  spot: BallastSpot;
  heldAt: number;
  parts: { spent: number; item: Item; total: number; each: number }[];
  mass: MassResult;
}) {
  const px = scaleLinear([box.min.x, box.max.x > box.min.x ? box.max.x : box.min.x + 1], [LEFT, WIDTH - 16]);
  const most = Math.max(1, cost(box.min.x), cost(box.max.x));
  const least = Math.min(0, cost(box.min.x), cost(box.max.x));
  const py = scaleLinear([least, most], [BASE, 16]);
  const ticks = py.ticks(5);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      className="mt-1 block bg-sheet"
      role="img"
      aria-label={`Grams at the ${spot.name} for each gram along the craft`}
    >
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${LEFT} ${py(t)}H${WIDTH - 10}`} stroke={Math.abs(t) < 1e-9 ? "var(--ink)" : "var(--hair)"} />
          <text x={LEFT - 6} y={py(t) + 4} textAnchor="end" className="num" style={{ fontSize: 11 }} fill="var(--ink2)">
            {Number(t.toFixed(2))}
          </text>
        </g>
      ))}
      <text x={LEFT + 4} y="12" fontSize="11" fill="var(--pencil)">
        g at the {spot.name} for each g here
      </text>
      <path
        d={`M${px(box.min.x)} ${py(cost(box.min.x))}L${px(box.max.x)} ${py(cost(box.max.x))}`}
        stroke="var(--accent)"
        strokeWidth="1.6"
      />
      <path d={`M${px(heldAt)} ${py(0) - 12}v24M${px(heldAt) - 9} ${py(0)}h18`} stroke="var(--ink)" strokeWidth="1.6" />
      {parts.map(({ item, total, each }, i) => (
        <g key={item.id}>
          <circle
            cx={px(item.place.x)}
            cy={py(each)}
            r={2 + 10 * Math.sqrt(total / mass.mass)}
            fill="var(--part)"
            fillOpacity="0.7"
            stroke="var(--ink)"
          />
          {i < 5 && Math.abs(item.place.x - heldAt) > 0.06 * (box.max.x - box.min.x) && (
            <text
              x={px(item.place.x)}
              y={py(each) + (i % 2 ? 26 : -14)}
              textAnchor={px(item.place.x) > WIDTH - 120 ? "end" : "middle"}
              fontSize="11"
              fill="var(--ink2)"
            >
              {item.name}
            </text>
          )}
        </g>
      ))}
      <text x={px(box.min.x)} y={HEIGHT - 8} fontSize="11" fill="var(--pencil)">
        nose
      </text>
      <text x={px(box.max.x)} y={HEIGHT - 8} textAnchor="end" fontSize="11" fill="var(--pencil)">
        tail
      </text>
    </svg>
  );
}
