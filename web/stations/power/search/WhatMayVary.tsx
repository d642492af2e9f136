import type { Unit } from "../../../../core/design/schema";
import type { ShelfPart } from "../../../../core/design/shelf";
import { DISPLAY } from "../../../../core/design/units";
import { alike } from "../../../../core/sizing/otherSize";
import type { OwnParts, Shroud } from "../../../../core/sizing/searchParts";
import type { SearchSpace } from "../../../../core/sizing/searchSpace";
import { isOpenPropeller } from "../../../../core/subjects/propulsion/kinds/which";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { ListField } from "./ListField";
import { OWN_KINDS, ownKindsOf, variedOf } from "./varied";

/** The values of each size that are tried; what one's own parts settle is not asked. */
function ValuesTried({
  units,
  held,
  space,
  setSpace,
}: {
  units: readonly Unit[];
  held: ReadonlySet<keyof OwnParts>;
  space: SearchSpace;
  setSpace: (next: SearchSpace) => void;
}) {
  const { habit } = usePreferences();
  const settled = OWN_KINDS.flatMap(([kind, , keys]) => (held.has(kind) ? keys : []));
  return (
    <table className="mt-1 w-full">
      <tbody>
        {variedOf(units)
          .filter(([key]) => !settled.includes(key))
          .map(([key, label, dimension, accepted]) => (
            <tr key={key}>
              <td className="pr-2">
                {label} <span className="text-pencil">{DISPLAY[habit][dimension]}</span>
              </td>
              <td className="w-[200px]">
                <ListField
                  label={`Search ${label}`}
                  values={space[key]}
                  dimension={dimension}
                  accepted={accepted}
                  onCommit={(list) => setSpace({ ...space, [key]: list })}
                />
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

/** How many values of each are tried, in a line. */
export function MayVarySaid({ units, space }: { units: readonly Unit[]; space: SearchSpace }) {
  const said = variedOf(units).flatMap(([key, label]) =>
    space[key].length > 1 ? `${label}: ${space[key].length}` : [],
  );
  return <>{said.join(" · ") || "one of each"}</>;
}

/** Which drives are searched together: what is on their shafts is of one kind. */
function WhichDrives({ units, choose }: { units: readonly Unit[]; choose: (ids: string[]) => void }) {
  const { seen: design } = useDesk();
  const chosen = new Set(units.map((u) => u.id));
  const [first] = units;
  if (design.units.length < 2) return null;
  return (
    <fieldset className="mt-1">
      <legend className="text-pencil">Drives: those chosen together get the same parts</legend>
      {design.units.map((u) => {
        const own = chosen.has(u.id);
        const fits = first === undefined || alike(u, first);
        return (
          <label key={u.id} className="mr-3 inline-flex min-h-6 items-center gap-1">
            <input
              type="checkbox"
              checked={own}
              onChange={() => {
                // Of another kind: in place of those, not beside them.
                if (!own)
                  choose(
                    fits ? [...design.units.flatMap((x) => (chosen.has(x.id) || x.id === u.id ? x.id : []))] : [u.id],
                  );
                else if (chosen.size > 1) choose(units.flatMap((x) => (x.id === u.id ? [] : x.id)));
              }}
            />
            {u.name}
            {!own && !fits && <span className="text-pencil">(by itself)</span>}
          </label>
        );
      })}
    </fieldset>
  );
}

const SHROUDS: Shroud[] = ["open", "in a duct"];
/** Whether propellers are tried open, in a duct, or both. */
function Shrouds({ space, setSpace }: { space: SearchSpace; setSpace: (next: SearchSpace) => void }) {
  const now = space.shrouds ?? ["open"];
  return (
    <p className="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label="Propellers">
      Propellers:
      {SHROUDS.map((s) => (
        <button
          key={s}
          type="button"
          className={`chip ${now.includes(s) ? "chip-on" : ""}`}
          aria-pressed={now.includes(s)}
          onClick={() => {
            const next = SHROUDS.filter((x) => (x === s ? !now.includes(s) : now.includes(x)));
            if (next.length > 0) setSpace({ ...space, shrouds: next });
          }}
        >
          {s}
        </button>
      ))}
      {now.includes("in a duct") && (
        <small className="text-pencil">
          duct: half as long as wide, printed 1 mm thick, its lip not known: a guess with a wide band
        </small>
      )}
    </p>
  );
}

/** Which parts are tried. */
export function WhatMayVary({
  parts,
  held,
  setHeld,
  units,
  chooseDrives,
  space,
  setSpace,
}: {
  parts: ShelfPart[];
  held: ReadonlySet<keyof OwnParts>;
  setHeld: (next: ReadonlySet<keyof OwnParts>) => void;
  units: readonly Unit[];
  chooseDrives: (ids: string[]) => void;
  space: SearchSpace;
  setSpace: (next: SearchSpace) => void;
}) {
  const [unit] = units;
  const shelf = (kind: keyof OwnParts) => parts.filter((p) => p.kind === kind);
  return (
    <>
      <p className="text-pencil">
        {unit?.measured
          ? `${unit.name} is known by its measured curve: only its pack is searched. Another motor, ` +
            "gearing or size cannot be told from that."
          : `Generic parts by scaling laws, replacing ${units.map((u) => u.name).join(" and ")} and ` +
            `${units.length > 1 ? "their" : "its"} pack. One value holds a thing fixed.`}
      </p>
      <WhichDrives units={units} choose={chooseDrives} />
      {unit && isOpenPropeller(unit) && <Shrouds space={space} setSpace={setSpace} />}
      <p className="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label="Only from your shelf">
        Only from your shelf:
        {ownKindsOf(unit).map(([kind, title]) => (
          <button
            key={kind}
            type="button"
            className={`chip ${held.has(kind) ? "chip-on" : ""}`}
            aria-pressed={held.has(kind)}
            disabled={shelf(kind).length === 0}
            onClick={() => setHeld(new Set(held.has(kind) ? [...held].filter((k) => k !== kind) : [...held, kind]))}
          >
            {title} {shelf(kind).length}
          </button>
        ))}
      </p>
      <ValuesTried units={units} held={held} space={space} setSpace={setSpace} />
    </>
  );
}
