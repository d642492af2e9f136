import type { Unit } from "../../../../core/design/schema";
import type { Propulsor, PropulsorKind } from "../../../../core/subjects/propulsion/kinds/declares";
import { useDesk } from "../../../app/desk";
import { Choices } from "../../../fields/FormParts";

type What = PropulsorKind | "open propeller" | "something else";
const BLADE = "M20 6v28M16 9q4 11 0 22M24 9q-4 11 0 22";
/** What a drive turns, as it is chosen: a drawing and its words. Seen from the side, ahead to the left. */
const WHATS: { value: What; word: string; drawing: string[] }[] = [
  { value: "open propeller", word: "open propeller", drawing: [BLADE, "M22 20h20"] },
  { value: "ducted fan", word: "ducted fan", drawing: [BLADE, "M8 4q4-3 8-2h24M8 36q4 3 8 2h24", "M22 20h16"] },
  { value: "wheel", word: "wheel or track", drawing: ["M25 19m-14 0a14 14 0 1 0 28 0a14 14 0 1 0-28 0", "M2 34h46"] },
  {
    value: "screw drum",
    word: "screw drum",
    drawing: ["M6 12h38v14h-38z", "M8 29l8-20M18 29l8-20M28 29l8-20M38 29l4-10"],
  },
  {
    value: "flapping wings",
    word: "flapping wings",
    drawing: ["M25 22q-10-16-22-12M25 22q10-16 22-12", "M25 22q-8 8-18 12M25 22q8 8 18 12"],
  },
  {
    value: "cycloidal rotor",
    word: "cycloidal rotor",
    drawing: ["M25 20m-14 0a14 14 0 1 0 28 0a14 14 0 1 0-28 0", "M20 4l10 4M20 32l10 4M8 26l4-11M38 25l4-11"],
  },
  { value: "something else", word: "something else", drawing: ["M4 30q4-24 8 0t8 0 8 0 8 0 8 0", "M2 34h46"] },
];

/** The same in water, where they are called otherwise. */
const WET: Partial<Record<What, string>> = { "open propeller": "open screw", "ducted fan": "screw in a nozzle" };

const guess = (value: number) => ({ value: Number(value.toPrecision(2)), evidence: "guess" as const });

/** A propulsor of a kind to begin with: all guesses, of a size that suits a craft of this mass (kg). */
function begun(kind: PropulsorKind, unit: Unit, mass: number): Propulsor {
  const s = Math.cbrt(mass);
  const d = unit.propeller.diameter.value;
  switch (kind) {
    case "ducted fan":
      return {
        kind,
        diameter: guess(d),
        hub: guess(0.4 * d),
        blades: 8,
        pitch: guess(d),
        chord: guess(0.2 * d),
        length: Number((0.8 * d).toPrecision(2)),
        exit: null,
        lip: "not said",
      };
    case "wheel":
      return {
        kind,
        radius: guess(0.05 * s),
        load: guess(mass / Math.max(4, unit.count)),
        grip: guess(0.6),
        rolling: guess(0.03),
        ground: "firm",
      };
    case "screw drum":
      return {
        kind,
        on: "mud",
        length: guess(0.3 * s),
        diameter: guess(0.07 * s),
        lead: guess(0.09 * s),
        blade: guess(0.012 * s),
        starts: 1,
        under: guess(0.5),
        load: guess(mass / Math.max(2, unit.count)),
      };
    case "flapping wings":
      return { kind, span: guess(s), area: guess(0.18 * s ** 2), stroke: guess(1.2) };
    case "cycloidal rotor":
      return {
        kind,
        blades: 4,
        radius: guess(0.12 * s),
        span: guess(0.2 * s),
        chord: guess(0.05 * s),
        amplitude: guess(0.6),
        bladeMass: null,
      };
  }
}

/** What a drive turns on its shaft, chosen by picture: only the fields of that are shown. */
export function KindField({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const { evaluation } = useDesk();
  const chosen: What =
    unit.propulsor?.kind ?? (unit.surroundings === "not a propeller" ? "something else" : "open propeller");
  return (
    <Choices
      legend="What it turns"
      name={`turns-${unit.id}`}
      options={unit.surroundings === "in water" ? WHATS.map((w) => ({ ...w, word: WET[w.value] ?? w.word })) : WHATS}
      chosen={chosen}
      onChoose={(what) =>
        drive((u) => {
          if (what !== "something else" && u.surroundings === "not a propeller") u.surroundings = null;
          if (what === "something else") u.surroundings = "not a propeller";
          u.propulsor =
            what === "open propeller" || what === "something else"
              ? null
              : begun(what, u, evaluation.metrics.auw?.value ?? 1);
        })
      }
      data={{ "data-turns": chosen }}
    />
  );
}
