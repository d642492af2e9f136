import { moneySign } from "../../../../core/design/money";
import type { Unit } from "../../../../core/design/schema";
import { toDisplay } from "../../../../core/design/units";
import type { Candidate } from "../../../../core/sizing/search";
import { plain, rangeText } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import { variedOf } from "./varied";

/** What is on the shaft of a candidate, in a few words. */
export function Shaft({ c, units }: { c: Candidate; units: readonly Unit[] }) {
  const { habit } = usePreferences();
  const keys = variedOf(units).map(([key]) => key);
  const { own, count, diameter, pitchRatio, blades, shroud } = c.choice;
  // A millimetre, or a tenth of an inch.
  const digits = habit === "metric" ? 0 : 1;
  if (!keys.includes("diameter")) return <>the drive as it is</>;
  return (
    <>
      {own?.propeller ? `${own.propeller.name} ` : ""}
      {keys.includes("count") && count > 1 ? `${count} × ` : ""}
      {plain(diameter, "length", habit, digits)}
      {keys.includes("pitchRatio") ? ` × ${(pitchRatio * toDisplay(diameter, "length", habit)).toFixed(digits)}` : ""}
      {keys.includes("blades") && blades > 2 ? `, ${blades} blades` : ""}
      {shroud ? `, ${shroud}` : ""}
    </>
  );
}

/** The drives found, the nearest to what matters first. */
export function FoundTable({
  list,
  units,
  chosen,
  setChosen,
}: {
  list: readonly Candidate[];
  units: readonly Unit[];
  chosen: Candidate | null;
  setChosen: (next: Candidate) => void;
}) {
  const { habit } = usePreferences();

  return (
    <div className="wide mt-2">
      <table className="rows w-full whitespace-nowrap">
        <thead>
          <tr>
            <th>on the shaft</th>
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
          {list.map((c, i) => (
            <tr
              key={JSON.stringify(c.choice)}
              data-candidate={i}
              className={c === chosen ? "bg-tint-accent" : ""}
              onClick={() => setChosen(c)}
            >
              <td>
                <button
                  type="button"
                  className="num min-h-6 text-left text-ink"
                  aria-pressed={c === chosen}
                  onClick={() => setChosen(c)}
                >
                  <b className="mr-2 inline-block min-w-5">{i + 1}</b>
                  <Shaft c={c} units={units} />
                </button>
              </td>
              <td className="num">
                {units[0]?.measured ? (
                  "as it is"
                ) : (
                  <>
                    {c.choice.own?.motor ? `${c.choice.own.motor.name}: ` : ""}
                    {plain(c.choice.kv, "kv", habit)}, {plain(c.choice.motorMass, "mass", habit)}
                    {c.choice.ratio === 1 ? "" : `, ${c.choice.ratio}:1`}
                  </>
                )}
              </td>
              <td className="num">
                {c.choice.own?.pack ? `${c.choice.own.pack.name}: ` : ""}
                {c.choice.series} × {plain(c.choice.capacity, "capacity", habit)}
              </td>
              <td className="num text-right">{plain(c.auw, "mass", habit)}</td>
              <td className="num text-right">
                {Number.isFinite(c.endurance) ? plain(c.endurance, "time", habit) : "open"}
              </td>
              <td className="num text-right">{c.thrustToWeight.toFixed(2)}</td>
              <td className="num text-right">{units[0]?.measured ? "–" : `${Math.round(c.heat * 100)} %`}</td>
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
