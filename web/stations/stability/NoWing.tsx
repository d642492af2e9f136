import { useState } from "react";
import { bodyFrom } from "../../../core/subjects/surfaces/patterns";
import { useDesk } from "../../app/desk";
import { BodyFile } from "./BodyFile";
import { PatternRow } from "./PatternRow";

/** What to do first where no wing is described. */
export function NoWing({ why, onAdded }: { why: string | null; onAdded: (id: string) => void }) {
  const { design, edit } = useDesk();
  const [reading, setReading] = useState(false);
  return (
    <section className="max-w-2xl px-6 py-6">
      <h2 className="text-[18px]">No wing is described yet</h2>
      <p className="mt-2">
        {why === null
          ? "A place, a span and two chords are enough to say where the CG must be. Choose what comes " +
            "nearest; each figure can be put right."
          : `Where its CG must be is not computed here: ${why}. Wings, fins and bodies can be described ` +
            "all the same: they are drawn in their true outline."}
      </p>
      {design.items.length === 0 && (
        <p className="mt-2 text-pencil">Parts first make it easier: the first wing is sized by them.</p>
      )}
      <PatternRow onAdded={onAdded} />
      <p className="mt-3">
        or begin with{" "}
        <button type="button" className="link" onClick={() => edit((d) => void d.bodies.push(bodyFrom(d)))}>
          a body
        </button>{" "}
        or{" "}
        <button type="button" className="link" onClick={() => setReading(true)}>
          a body from a file
        </button>
        ; the file of a shape (SVG, STL, a table of offsets) may be dropped here too.
      </p>
      {reading && <BodyFile onClose={() => setReading(false)} />}
    </section>
  );
}
