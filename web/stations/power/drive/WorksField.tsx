import { toast } from "sonner";
import type { Unit } from "../../../../core/design/schema";
import { worksInFluid } from "../../../../core/subjects/propulsion/kinds/models";
import type { Surroundings } from "../../../../core/subjects/propulsion/declares";
import { useDesk } from "../../../app/desk";
import { asScrew } from "../describe";
import { Choices } from "../../../fields/FormParts";
import { AroundFields } from "./AroundFields";

const BLADE = "M20 6v28M16 9q4 11 0 22M24 9q-4 11 0 22";
/** What a drive works in, as it is chosen: a drawing and its words. Seen from the side, flow to the right. */
const WAYS: { value: Surroundings; word: string; drawing: string[] }[] = [
  { value: "in air", word: "in air", drawing: [BLADE, "M30 13h14M30 20h18M30 27h14"] },
  { value: "in water", word: "under water", drawing: [BLADE, "M2 4q5-4 10 0t10 0 10 0 10 0 10 0"] },
];

/** Where a drive works, chosen by picture: in air or water, and what is around it. */
export function WorksField({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const { evaluation } = useDesk();
  // Where a wheel, a drum or a pair of wings works follows from what it is.
  if (unit.surroundings === "not a propeller" || !worksInFluid(unit)) return null;
  return (
    <>
      <Choices
        legend={`Where it works${unit.surroundings === null ? ": not said" : ""}`}
        care={unit.surroundings === null}
        name={`works-${unit.id}`}
        options={WAYS}
        chosen={unit.surroundings ?? undefined}
        onChoose={(where) => {
          // What was begun as an air propeller is far too large for water: a guess makes room for another.
          const screw = where === "in water" ? asScrew(unit, evaluation.metrics.auw?.value ?? 1) : null;
          drive((u) => {
            u.surroundings = where;
            if (screw) Object.assign(u, screw);
          });
          if (screw)
            toast.success(
              `${screw.motor === unit.motor ? "The propeller was a guess: it is" : "Propeller and Kv were guesses: they are"} ` +
                "that of a small screw now. Enter what you have.",
            );
        }}
        data={{ "data-works": unit.surroundings ?? "" }}
      />
      <AroundFields unit={unit} drive={drive} />
    </>
  );
}
