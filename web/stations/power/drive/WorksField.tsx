import { positiveOf } from "../../../../core/design/evidence";
import type { Unit } from "../../../../core/design/schema";
import { type Around, EDGES } from "../../../../core/subjects/propulsion/around/declares";
import { aroundFactor, aroundTold } from "../../../../core/subjects/propulsion/around/factor";
import { worksInFluid } from "../../../../core/subjects/propulsion/kinds/models";
import type { Surroundings } from "../../../../core/subjects/propulsion/declares";
import { KnownField } from "../../../fields/KnownField";
import { QuantityField } from "../../../fields/QuantityField";
import { Choices, Line, NumberLine } from "../../../fields/FormParts";

const BLADE = "M20 6v28M16 9q4 11 0 22M24 9q-4 11 0 22";
/**
 * Where a drive works, as it is chosen: a drawing, its words, and what is then entered. Seen from the side, flow to
 * the right.
 */
const WAYS: { where: Surroundings; kind: Around["kind"] | null; word: string; drawing: string[] }[] = [
  { where: "free air", kind: null, word: "free air", drawing: [BLADE, "M30 13h14M30 20h18M30 27h14"] },
  {
    where: "in water",
    kind: null,
    word: "under water",
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
  // Where a wheel, a drum or a pair of wings works follows from what it is.
  if (unit.surroundings === "not a propeller" || !worksInFluid(unit)) return null;
  return (
    <Choices
      legend={`Where it works${unit.surroundings === null ? ": not said" : ""}`}
      care={unit.surroundings === null}
      name={`works-${unit.id}`}
      options={WAYS.map((w) => ({ ...w, value: w }))}
      chosen={chosen}
      onChoose={(w) =>
        drive((u) => {
          u.surroundings = w.where;
          u.around = u.around?.kind === w.kind ? u.around : blankOf(w.kind);
        })
      }
      data={{ "data-works": unit.surroundings ?? "" }}
    >
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
    </Choices>
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
        <NumberLine
          label="Neighbours"
          hint="discs that each disc overlaps"
          value={around.neighbours}
          dimension="count"
          onCommit={(v) => put((a) => void (a.kind === "overlap" && (a.neighbours = v)))}
        />
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
