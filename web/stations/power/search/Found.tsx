import { moneySign } from "../../../../core/design/money";
import { toast } from "sonner";
import type { Unit } from "../../../../core/design/schema";
import { toDisplay } from "../../../../core/design/units";
import type { Candidate, SearchBounds, SearchResult } from "../../../../core/sizing/search";
import { withChoice } from "../../../../core/sizing/searchSpace";
import { plain, rangeText } from "../../../../core/wording/format";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { FIELDS } from "./WhatMayVary";

const HEIGHT = 210;

const WIDTH = 420;

/** Endurance against mass of all that is left, size by thrust; a point and its row select each other. */
function ParetoChart({
  list,
  chosen,
  now,
  onChoose,
}: {
  list: Candidate[];
  chosen: number | null;
  now: { auw: number; endurance: number } | null;
  onChoose: (i: number) => void;
}) {
  const finite = list.filter((c) => Number.isFinite(c.endurance));
  const xs = [...finite.map((c) => c.auw), ...(now ? [now.auw] : [])];
  const ys = [...finite.map((c) => c.endurance), ...(now && Number.isFinite(now.endurance) ? [now.endurance] : [])];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const px = (v: number) => 48 + ((v - x0) / (x1 - x0 || 1)) * (WIDTH - 66);
  const py = (v: number) => HEIGHT - 34 - ((v - y0) / (y1 - y0 || 1)) * (HEIGHT - 54);
  const strongest = Math.max(...list.map((c) => c.thrustToWeight), 1e-9);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      className="block bg-sheet"
      role="group"
      aria-label="Candidates: endurance against all-up mass"
    >
      <path d={`M48 10V${HEIGHT - 34}H${WIDTH - 8}`} fill="none" stroke="var(--ink)" />
      {[x0, (x0 + x1) / 2, x1].map((v) => (
        <text
          key={v}
          x={px(v)}
          y={HEIGHT - 20}
          textAnchor="middle"
          className="num"
          style={{ fontSize: 11 }}
          fill="var(--ink2)"
        >
          {Math.round(v * 1000)}
        </text>
      ))}
      {[y0, (y0 + y1) / 2, y1].map((v) => (
        <text
          key={v}
          x="44"
          y={py(v) + (v === y0 ? -2 : 4)}
          textAnchor="end"
          className="num"
          style={{ fontSize: 11 }}
          fill="var(--ink2)"
        >
          {(v / 60).toFixed(0)}
        </text>
      ))}
      <text x={WIDTH / 2} y={HEIGHT - 5} textAnchor="middle" fontSize="11" fill="var(--pencil)">
        all-up mass, g
      </text>
      <text x="52" y="14" fontSize="11" fill="var(--pencil)">
        endurance, min; larger: more thrust for its weight
      </text>
      {list.map((c, i) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the rows of the table beside it do the same by keyboard
        <circle
          key={JSON.stringify(c.choice)}
          cx={px(c.auw)}
          cy={py(Number.isFinite(c.endurance) ? c.endurance : y1)}
          r={3 + (5 * c.thrustToWeight) / strongest}
          fill={i === chosen ? "var(--accent)" : "var(--part)"}
          fillOpacity="0.85"
          stroke={i === chosen ? "var(--accent)" : "var(--ink)"}
          className="cursor-pointer"
          onClick={() => onChoose(i)}
        />
      ))}
      {now && Number.isFinite(now.endurance) && (
        <g stroke="var(--stop)" strokeWidth="1.6">
          <path d={`M${px(now.auw) - 6} ${py(now.endurance)}h12M${px(now.auw)} ${py(now.endurance) - 6}v12`} />
        </g>
      )}
    </svg>
  );
}

/** The drives found, best first. */
export function FoundTable({
  result,
  chosen,
  setChosen,
}: {
  result: SearchResult;
  chosen: number | null;
  setChosen: (next: number | null) => void;
}) {
  const { habit } = usePreferences();

  return (
    <div className="mt-2 max-h-72 overflow-auto">
      <table className="rows w-full whitespace-nowrap">
        <thead>
          <tr>
            <th>propeller</th>
            <th>motor</th>
            <th>pack</th>
            <th className="text-right!">AUW</th>
            <th className="text-right!">endurance</th>
            <th className="text-right!">thrust to weight</th>
            <th className="text-right!">heat</th>
            <th className="text-right!">about {moneySign()}</th>
          </tr>
        </thead>
        <tbody>
          {result.pareto.map((c, i) => (
            <tr
              key={JSON.stringify(c.choice)}
              data-candidate={i}
              className={i === chosen ? "bg-tint-accent" : ""}
              onClick={() => setChosen(i)}
            >
              <td>
                <button
                  type="button"
                  className="num min-h-6 text-left text-ink"
                  aria-pressed={i === chosen}
                  onClick={() => setChosen(i)}
                >
                  {c.choice.own?.propeller ? `${c.choice.own.propeller.name} ` : ""}
                  {c.choice.count > 1 ? `${c.choice.count} × ` : ""}
                  {plain(c.choice.diameter, "length", habit, 0)} ×{" "}
                  {(c.choice.pitchRatio * toDisplay(c.choice.diameter, "length", habit)).toFixed(0)}
                  {c.choice.blades > 2 ? `, ${c.choice.blades} blades` : ""}
                </button>
              </td>
              <td className="num">
                {c.choice.own?.motor ? `${c.choice.own.motor.name}: ` : ""}
                {plain(c.choice.kv, "kv", habit)}, {plain(c.choice.motorMass, "mass", habit)}
                {c.choice.ratio === 1 ? "" : `, ${c.choice.ratio}:1`}
              </td>
              <td className="num">
                {c.choice.own?.pack ? `${c.choice.own.pack.name}: ` : ""}
                {c.choice.series} × {plain(c.choice.capacity, "capacity", habit)}
              </td>
              <td className="num text-right">{plain(c.auw, "mass", habit)}</td>
              <td className="num text-right">
                {Number.isFinite(c.endurance) ? plain(c.endurance, "time", habit) : "–"}
              </td>
              <td className="num text-right">{c.thrustToWeight.toFixed(2)}</td>
              <td className="num text-right">{Math.round(c.heat * 100)} %</td>
              <td className="num text-right">
                {c.cost ? rangeText(c.cost, "money", habit, 0).split("\u00a0")[0] : "–"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** The drives found, in the plane of what was asked for. */
export function FoundPlot({
  unit,
  bounds,
  chosen,
  result,
  setChosen,
}: {
  unit: Unit | undefined;
  bounds: SearchBounds;
  chosen: number | null;
  result: SearchResult;
  setChosen: (next: number | null) => void;
}) {
  const { design, edit, evaluation } = useDesk();
  const { habit } = usePreferences();
  const apply = (c: Candidate) => {
    const next = withChoice(design, unit?.id ?? "", c.choice, bounds.structure);
    const ok = edit((d) => {
      d.items = next.items;
      d.units = next.units;
      d.batteries = next.batteries;
    });
    if (ok === null)
      toast.success(
        "The drive is in the draft. What is not from your shelf is a guess: weigh and measure what you buy.",
      );
  };
  const now = evaluation.metrics.auw
    ? { auw: evaluation.metrics.auw.value, endurance: evaluation.metrics.endurance?.value ?? Number.NaN }
    : null;
  const pick = chosen === null ? null : result.pareto[chosen];
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,1fr)_230px] gap-4 max-[1000px]:grid-cols-[minmax(0,1fr)]">
      <ParetoChart list={result.pareto} chosen={chosen} now={now} onChoose={setChosen} />
      <div>
        {pick ? (
          <>
            <h3 className="text-[13px]">Chosen</h3>
            <table className="mt-1 w-full">
              <tbody>
                {FIELDS.map(([key, label, dimension]) => (
                  <tr key={key}>
                    <td>{label}</td>
                    <td className="num text-right">
                      {plain(
                        pick.choice[key],
                        dimension,
                        habit,
                        key === "series" || key === "count" || key === "blades" ? 0 : undefined,
                      )}
                    </td>
                  </tr>
                ))}
                {Object.values(pick.choice.own ?? {}).map((p) => (
                  <tr key={p.kind}>
                    <td>from your shelf</td>
                    <td className="text-right text-ink">{p.name}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <button type="button" className="act act-first mt-2" onClick={() => apply(pick)}>
              Apply to the draft
            </button>
          </>
        ) : (
          <p className="text-pencil">Choose a point or a row. The red cross is the drive as it is.</p>
        )}
      </div>
    </div>
  );
}
