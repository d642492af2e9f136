import type { Unit } from "../../../../core/design/schema";
import type { ShelfPart } from "../../../../core/design/shelf";
import { DISPLAY } from "../../../../core/design/units";
import type { DriveKey, OwnParts, PackKey, Shroud } from "../../../../core/sizing/searchParts";
import { type DriveSpace, type SearchSpace, setsOf } from "../../../../core/sizing/searchSpace";
import { isOpenPropeller } from "../../../../core/subjects/propulsion/kinds/which";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { ListField } from "./ListField";
import { OWN_KINDS, PACK_VARIED, type Sets, type Varied, namesOf, ownKindsOf, variedOf } from "./varied";

/** The values of each size that are tried; what one's own parts settle is not asked. */
function ValuesTried<K extends DriveKey | PackKey>({
  varied,
  of,
  held,
  space,
  setSpace,
}: {
  varied: readonly Varied<K>[];
  /** whose they are, where a search has several */
  of: string | null;
  held: ReadonlySet<keyof OwnParts>;
  space: Record<K, number[]>;
  setSpace: (key: K, next: number[]) => void;
}) {
  const { habit } = usePreferences();
  const settled: readonly string[] = OWN_KINDS.flatMap(([kind, , keys]) => (held.has(kind) ? keys : []));
  return (
    <table className="mt-1 w-full">
      <tbody>
        {varied
          .filter(([key]) => !settled.includes(key))
          .map(([key, label, dimension, accepted]) => (
            <tr key={key}>
              <td className="pr-2">
                {label} <span className="text-pencil">{DISPLAY[habit][dimension]}</span>
              </td>
              <td className="w-[200px]">
                <ListField
                  label={of ? `Search ${label} of ${of}` : `Search ${label}`}
                  values={space[key]}
                  dimension={dimension}
                  accepted={accepted}
                  onCommit={(list) => setSpace(key, list)}
                />
              </td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}

/** How many values of each are tried, in a line. */
export function MayVarySaid({ sets, space }: { sets: Sets; space: SearchSpace }) {
  const counts = <K extends DriveKey | PackKey>(
    varied: readonly Varied<K>[],
    values: Record<K, number[]>,
    of: string | null,
  ) => {
    const said = varied.flatMap(([key, label]) =>
      values[key].length > 1 ? `${label}${of ? ` of ${of}` : ""}: ${values[key].length}` : [],
    );
    return said;
  };
  const named = (list: readonly { name: string }[], all: number) => (all > 1 ? namesOf(list) : null);
  const said = [
    ...space.sets.flatMap((s, k) => {
      const units = sets.drives[k] ?? [];
      return counts(variedOf(units), s.space, named(units, space.sets.length));
    }),
    ...space.packs.flatMap((p, k) => counts(PACK_VARIED, p, named(sets.packs[k] ?? [], space.packs.length))),
  ];
  return <>{said.join(" · ") || "one of each"}</>;
}

/** Which drives are searched, and whether like ones get the same parts. */
function WhichDrives({
  sets,
  choose,
}: {
  sets: Sets;
  /** @param apart each drive by itself */
  choose: (ids: string[], apart: boolean) => void;
}) {
  const { seen: design } = useDesk();
  const chosen = sets.drives.flat().map((u) => u.id);
  const together = setsOf(design, chosen).length < chosen.length;
  const apart = together && sets.drives.every((set) => set.length === 1);
  if (design.units.length < 2) return null;
  return (
    <fieldset className="mt-1">
      <legend className="text-pencil">
        Drives that are searched{together && !apart ? ": like ones get the same parts" : ""}
      </legend>
      {design.units.map((u) => (
        <label key={u.id} className="mr-3 inline-flex min-h-6 items-center gap-1">
          <input
            type="checkbox"
            checked={chosen.includes(u.id)}
            onChange={() => {
              const next = chosen.includes(u.id) ? chosen.filter((id) => id !== u.id) : [...chosen, u.id];
              if (next.length > 0) choose(next, apart);
            }}
          />
          {u.name}
        </label>
      ))}
      {together && (
        <button
          type="button"
          className={`chip ${apart ? "chip-on" : ""}`}
          aria-pressed={apart}
          onClick={() => choose(chosen, !apart)}
        >
          each its own parts
        </button>
      )}
    </fieldset>
  );
}

const SHROUDS: Shroud[] = ["open", "in a duct"];
/** Whether propellers are tried open, in a duct, or both. */
function Shrouds({ space, setSpace }: { space: DriveSpace; setSpace: (next: DriveSpace) => void }) {
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

/** What of one set of drives is tried. */
function OneSet({
  units,
  several,
  held,
  space,
  setSpace,
}: {
  units: readonly Unit[];
  several: boolean;
  held: ReadonlySet<keyof OwnParts>;
  space: DriveSpace;
  setSpace: (next: DriveSpace) => void;
}) {
  const [unit] = units;
  const mine = new Set([...held].filter((kind) => ownKindsOf(units).some(([k]) => k === kind)));
  return (
    <div role="group" aria-label={`Parts of ${namesOf(units)}`}>
      {several && <h3 className="mt-2 font-bold text-ink">{namesOf(units)}</h3>}
      {unit?.measured && (
        <p className="text-pencil">
          {several ? "It" : unit.name} is known by its measured curve: only its pack is searched. Another motor, gearing
          or size cannot be told from that.
        </p>
      )}
      {unit && isOpenPropeller(unit) && <Shrouds space={space} setSpace={setSpace} />}
      <ValuesTried
        varied={variedOf(units)}
        of={several ? namesOf(units) : null}
        held={mine}
        space={space}
        setSpace={(key, list) => setSpace({ ...space, [key]: list })}
      />
    </div>
  );
}

/** Which parts are tried. */
export function WhatMayVary({
  parts,
  held,
  setHeld,
  sets,
  chooseDrives,
  space,
  setSpace,
}: {
  parts: ShelfPart[];
  held: ReadonlySet<keyof OwnParts>;
  setHeld: (next: ReadonlySet<keyof OwnParts>) => void;
  sets: Sets;
  chooseDrives: (ids: string[], apart: boolean) => void;
  space: SearchSpace;
  setSpace: (next: SearchSpace) => void;
}) {
  const units = sets.drives.flat();
  const made = units.filter((u) => !u.measured);
  const shelf = (kind: keyof OwnParts) => parts.filter((p) => p.kind === kind);
  const several = sets.drives.length > 1;
  return (
    <>
      {made.length > 0 && (
        <p className="text-pencil">
          Generic parts by scaling laws, replacing those of {namesOf(made)}. One value holds a thing fixed.
          {several && " Every drive is tried with every other: few values of each do."}
        </p>
      )}
      <WhichDrives sets={sets} choose={chooseDrives} />
      <p className="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label="Only from your shelf">
        Only from your shelf:
        {ownKindsOf(units).map(([kind, title]) => (
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
      {space.sets.map((s, k) => (
        <OneSet
          key={s.unitIds.join()}
          {...{ units: sets.drives[k] ?? [], several, held, space: s.space }}
          setSpace={(next) =>
            setSpace({ ...space, sets: space.sets.map((x) => (x === s ? { ...x, space: next } : x)) })
          }
        />
      ))}
      {space.packs.map((p, k) => {
        const packs = sets.packs[k] ?? [];
        const of = space.packs.length > 1 ? namesOf(packs) : null;
        return (
          <div key={packs.map((b) => b.id).join()} role="group" aria-label={`Packs: ${namesOf(packs)}`}>
            {(several || of) && <h3 className="mt-2 font-bold text-ink">{namesOf(packs)}</h3>}
            <ValuesTried
              varied={PACK_VARIED}
              {...{ of, held, space: p }}
              setSpace={(key, list) =>
                setSpace({ ...space, packs: space.packs.map((x) => (x === p ? { ...x, [key]: list } : x)) })
              }
            />
          </div>
        );
      })}
    </>
  );
}
