import { moneySign } from "../../../../core/design/money";
import type { Unit } from "../../../../core/design/schema";
import { toDisplay } from "../../../../core/design/units";
import type { Candidate } from "../../../../core/sizing/search";
import type { DriveChoice } from "../../../../core/sizing/searchParts";
import { plain, rangeText } from "../../../../core/wording/format";
import { usePreferences } from "../../../app/preferences";
import { type Sets, namesOf, variedOf } from "./varied";

/** What is on the shafts of a set of drives, in a few words. */
function OneShaft({ choice, units }: { choice: DriveChoice; units: readonly Unit[] }) {
  const { habit } = usePreferences();
  const keys = variedOf(units).map(([key]) => key);
  const { own, count, diameter, pitchRatio, blades, shroud } = choice;
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

/** What is on the shafts of a candidate, a line for each set of drives. */
export function Shaft({ c, sets }: { c: Candidate; sets: Sets }) {
  return c.choice.drives.map((choice, k) => {
    const units = sets.drives[k] ?? [];
    return (
      <span key={units.map((u) => u.id).join()} className={sets.drives.length > 1 ? "block" : ""}>
        <OneShaft choice={choice} units={units} />
        {sets.drives.length > 1 && <span className="text-pencil"> {namesOf(units)}</span>}
      </span>
    );
  });
}

/** The motors of a candidate, a line for each set of drives. */
export function Motors({ c, sets }: { c: Candidate; sets: Sets }) {
  const { habit } = usePreferences();
  return c.choice.drives.map(({ own, kv, motorMass, ratio }, k) => {
    const units = sets.drives[k] ?? [];
    return (
      <span key={units.map((u) => u.id).join()} className={sets.drives.length > 1 ? "block" : ""}>
        {units[0]?.measured
          ? "as it is"
          : `${own?.motor ? `${own.motor.name}: ` : ""}${plain(kv, "kv", habit)}, ${plain(motorMass, "mass", habit)}${
              ratio === 1 ? "" : `, ${ratio}:1`
            }`}
      </span>
    );
  });
}

/** The drives found, the nearest to what matters first. */
export function FoundTable({
  list,
  sets,
  chosen,
  setChosen,
}: {
  list: readonly Candidate[];
  sets: Sets;
  chosen: Candidate | null;
  setChosen: (next: Candidate) => void;
}) {
  const { habit } = usePreferences();
  const made = sets.drives.some((set) => set.some((u) => !u.measured));

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
                  className="num flex min-h-6 items-baseline text-left text-ink"
                  aria-pressed={c === chosen}
                  onClick={() => setChosen(c)}
                >
                  <b className="mr-2 inline-block min-w-5">{i + 1}</b>
                  <span>
                    <Shaft c={c} sets={sets} />
                  </span>
                </button>
              </td>
              <td className="num">
                <Motors c={c} sets={sets} />
              </td>
              <td className="num">
                {c.choice.packs.map(({ own, series, capacity }, k) => (
                  <span key={sets.packs[k]?.map((p) => p.id).join()} className={sets.packs.length > 1 ? "block" : ""}>
                    {own ? `${own.name}: ` : ""}
                    {series} × {plain(capacity, "capacity", habit)}
                  </span>
                ))}
              </td>
              <td className="num text-right">{plain(c.auw, "mass", habit)}</td>
              <td className="num text-right">
                {Number.isFinite(c.endurance) ? plain(c.endurance, "time", habit) : "open"}
              </td>
              <td className="num text-right">{c.thrustToWeight.toFixed(2)}</td>
              <td className="num text-right">{made ? `${Math.round(c.heat * 100)} %` : "–"}</td>
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
