import { positiveOf } from "../../../../core/design/evidence";
import type { Unit } from "../../../../core/design/schema";
import { type Around, EDGES } from "../../../../core/subjects/propulsion/around/declares";
import { aroundFactor, aroundTold } from "../../../../core/subjects/propulsion/around/factor";
import type { Surroundings } from "../../../../core/subjects/propulsion/declares";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { Line } from "./parts";

const BLADE = "M20 6v28M16 9q4 11 0 22M24 9q-4 11 0 22";
/** Where a drive works, as it is chosen: a drawing, its words, and what is then entered. Seen from the side, flow to the right. */
const WAYS: { where: Surroundings; kind: Around["kind"] | null; word: string; drawing: string[] }[] = [
  { where: "free air", kind: null, word: "free air", drawing: [BLADE, "M30 13h14M30 20h18M30 27h14"] },
  {
    where: "in water",
    kind: null,
    word: "open screw under water",
    drawing: [BLADE, "M2 4q5-4 10 0t10 0 10 0 10 0 10 0"],
  },
  {
    where: "boxed or ducted",
    kind: "openings",
    word: "in a box or duct",
    drawing: [BLADE, "M8 2h26v10M8 2v10M8 38h26v-10M8 38v-10"],
  },
  {
    where: "overlapped or coaxial",
    kind: "overlap",
    word: "discs overlap",
    drawing: ["M20 20m-14 0a14 14 0 1 0 28 0a14 14 0 1 0-28 0", "M34 20m-14 0a14 14 0 1 0 28 0a14 14 0 1 0-28 0"],
  },
  {
    where: "overlapped or coaxial",
    kind: "coaxial",
    word: "pair on one axis",
    drawing: ["M16 6v28M13 9q3 11 0 22", "M32 6v28M35 9q-3 11 0 22", "M4 20h42"],
  },
  {
    where: "not a propeller",
    kind: null,
    word: "drum, wheel, track, jet or paddle",
    drawing: ["M4 30q4-24 8 0t8 0 8 0 8 0 8 0", "M2 34h46"],
  },
];

/** What is entered of a way when it is chosen first: nothing is known yet. */
const blankOf = (kind: Around["kind"] | null): Around | null =>
  kind === "openings"
    ? { kind, inlet: null, outlet: null, edges: "not said" }
    : kind === "overlap"
      ? { kind, spacing: null, neighbours: 1 }
      : kind === "coaxial"
        ? { kind }
        : null;

/** Where a drive works, chosen by picture, with only the fields of that. */
export function WorksField({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const chosen = WAYS.find(
    (w) => w.where === unit.surroundings && (w.kind === null || unit.around === null || w.kind === unit.around.kind),
  );
  const around = unit.around ?? blankOf(chosen?.kind ?? null);
  const factor = aroundTold(unit) && !unit.measured ? aroundFactor(unit) : null;
  return (
    <fieldset className="col-span-full" data-works={unit.surroundings ?? ""}>
      <legend className={`mb-1 font-semibold ${unit.surroundings === null ? "text-care" : "text-ink"}`}>
        Where it works{unit.surroundings === null ? ": not said" : ""}
      </legend>
      <div className="flex flex-wrap gap-2">
        {WAYS.map((w) => (
          <label
            key={w.word}
            className={`flex w-[77px] cursor-pointer flex-col items-center gap-1 border p-1 text-center text-[11px] leading-[13px] focus-within:outline-2 focus-within:outline-pencil ${w === chosen ? "border-accent font-semibold text-accent" : "border-hair text-ink"}`}
          >
            <input
              type="radio"
              className="sr-only"
              name={`works-${unit.id}`}
              checked={w === chosen}
              onChange={() =>
                drive((u) => {
                  u.surroundings = w.where;
                  u.around = u.around?.kind === w.kind ? u.around : blankOf(w.kind);
                })
              }
            />
            <svg width="50" height="40" viewBox="0 0 50 40" aria-hidden="true" fill="none" stroke="currentColor">
              {w.drawing.map((d) => (
                <path key={d} d={d} strokeWidth="1.4" />
              ))}
            </svg>
            {w.word}
          </label>
        ))}
      </div>
      {around && !unit.measured && <AroundFields around={around} drive={drive} />}
      {factor && (
        <p className="mt-1 text-pencil">
          Leaves{" "}
          <b className="num text-ink">
            {(100 * factor.value).toFixed(0)} ± {(100 * factor.sd).toFixed(0)} %
          </b>{" "}
          of its thrust at equal power, standing.
        </p>
      )}
    </fieldset>
  );
}

/** Openings, spacing or nothing more, by what is around. */
function AroundFields({ around, drive }: { around: Around; drive: (mutate: (u: Unit) => void) => void }) {
  const put = (change: (a: Around) => void) =>
    drive((u) => {
      // Where it works may have been said elsewhere, and nothing yet of what is around it.
      if (u.around?.kind !== around.kind) u.around = { ...around };
      change(u.around);
    });
  if (around.kind === "coaxial")
    return (
      <p className="mt-1 text-pencil">Count both rotors of each pair among the like units, half turning each way.</p>
    );
  if (around.kind === "overlap")
    return (
      <div className="mt-2 grid grid-cols-2 gap-x-6 gap-y-1 max-[1000px]:grid-cols-1">
        <Line label="Axis to axis">
          {around.spacing === null ? (
            <QuantityField
              boxed
              label="Axis to axis"
              value={null}
              dimension="length"
              empty="not said"
              schema={positiveOf("length")}
              onCommit={(v) =>
                v !== null &&
                put((a) => void (a.kind === "overlap" && (a.spacing = { value: v, evidence: "measured" })))
              }
            />
          ) : (
            <KnownField
              label="Axis to axis"
              value={around.spacing}
              dimension="length"
              schema={positiveOf("length")}
              onCommit={(k) => put((a) => void (a.kind === "overlap" && (a.spacing = k)))}
            />
          )}
        </Line>
        <Line label="Neighbours" hint="discs that each disc overlaps">
          <QuantityField
            boxed
            label="Neighbours"
            value={around.neighbours}
            dimension="count"
            onCommit={(v) => v !== null && put((a) => void (a.kind === "overlap" && (a.neighbours = v)))}
          />
        </Line>
      </div>
    );
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-6 gap-y-1 max-[1000px]:grid-cols-1">
      {(["inlet", "outlet"] as const).map((side) => (
        <Line
          key={side}
          label={side === "inlet" ? "Open before it" : "Open behind it"}
          hint={
            around[side] === null
              ? side === "inlet"
                ? "area for one unit; empty: nothing before it"
                : "empty: nothing behind it"
              : undefined
          }
        >
          {around[side] === null ? (
            <QuantityField
              boxed
              label={`Open area, ${side}`}
              value={null}
              dimension="area"
              empty="free"
              schema={positiveOf("area")}
              onCommit={(v) =>
                v !== null && put((a) => void (a.kind === "openings" && (a[side] = { value: v, evidence: "measured" })))
              }
            />
          ) : (
            <span className="flex items-center gap-1">
              <KnownField
                label={`Open area, ${side}`}
                value={around[side]}
                dimension="area"
                schema={positiveOf("area")}
                onCommit={(k) => put((a) => void (a.kind === "openings" && (a[side] = k)))}
              />
              <button
                type="button"
                className="link"
                aria-label={`Nothing in the way, ${side}`}
                onClick={() => put((a) => void (a.kind === "openings" && (a[side] = null)))}
              >
                ×
              </button>
            </span>
          )}
        </Line>
      ))}
      <Line label="Edges">
        <select
          className="box"
          aria-label="Edges of the openings"
          value={around.edges}
          onChange={(e) =>
            put((a) => void (a.kind === "openings" && (a.edges = e.target.value as (typeof EDGES)[number])))
          }
        >
          {EDGES.map((x) => (
            <option key={x}>{x}</option>
          ))}
        </select>
      </Line>
    </div>
  );
}
