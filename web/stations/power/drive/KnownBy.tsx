import { type ReactNode, useState } from "react";
import { toast } from "sonner";
import type { Unit } from "../../../../core/design/schema";
import { useDesk } from "../../../app/desk";
import { MeasuredForm } from "./MeasuredForm";

/** How a drive is known: by its parts, or by what it was measured to push. Only the fields of that are shown. */
export function KnownBy({
  unit,
  drive,
  parts,
}: {
  unit: Unit;
  drive: (mutate: (u: Unit) => void) => void;
  parts: ReactNode;
}) {
  const { frozen } = useDesk();
  const [writing, setWriting] = useState(false);
  // What has no model has no parts that tell anything.
  const onlyWeighed = unit.propulsor === null && unit.surroundings === "not a propeller";
  const byCurve = unit.measured !== null || writing || onlyWeighed;
  const choose = (curve: boolean) => {
    setWriting(curve);
    if (curve || unit.measured === null) return;
    drive((u) => void (u.measured = null));
    if (!frozen) toast.success("The measured curve is taken off. Undo brings it back.");
  };
  return (
    <>
      <fieldset className="col-span-full flex flex-wrap items-center gap-x-4 gap-y-1 border-y border-hair py-2">
        <legend className="sr-only">How this drive is known</legend>
        <b className="text-ink">Known by</b>
        {[
          [false, "its parts"],
          [true, "what it was measured to push"],
        ].map(([curve, word]) => (
          <label key={String(word)} className="flex min-h-6 items-center gap-1">
            <input
              type="radio"
              name={`known-${unit.id}`}
              checked={byCurve === curve}
              disabled={onlyWeighed && curve === false}
              onChange={() => choose(curve === true)}
            />
            {word}
          </label>
        ))}
        <span className="text-pencil">of any kind: a scale alone is enough</span>
      </fieldset>
      {byCurve ? <MeasuredForm key={unit.id} unit={unit} drive={drive} onDone={() => setWriting(false)} /> : parts}
    </>
  );
}
