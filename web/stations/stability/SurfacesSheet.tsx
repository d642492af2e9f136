import { useState } from "react";
import type { Surface } from "../../../core/design/schema";
import { Sheets } from "../../app/Tabs";
import { useDesk } from "../../app/desk";
import { OutlineFile } from "./OutlineFile";
import { PatternRow } from "./PatternRow";
import { SurfaceForm } from "./SurfaceForm";

/** The surfaces, one at a time, and kinds to add. */
export function SurfacesSheet({ chosen, onChoose }: { chosen: Surface | undefined; onChoose: (id: string) => void }) {
  const { design, edit } = useDesk();
  const [reading, setReading] = useState(false);
  const remove = () => edit((d) => void (d.surfaces = d.surfaces.filter((s) => s.id !== chosen?.id)));
  return (
    <>
      {chosen && (
        <Sheets
          label="Surfaces"
          small
          names={design.surfaces.map((s) => [s.id, s.name] as const)}
          value={chosen.id}
          onChange={onChoose}
          className="items-center px-4 pt-2"
          aside={
            <button type="button" className="link ml-auto text-[12px]" onClick={remove}>
              remove {chosen.name}
            </button>
          }
        >
          <SurfaceForm key={chosen.id} surface={chosen} />
        </Sheets>
      )}
      <div className="px-4 pb-4">
        <h3 className="font-semibold text-ink">Add</h3>
        <PatternRow onAdded={onChoose} />
        <button type="button" className="link mt-2" onClick={() => setReading(true)}>
          or from an outline (SVG)
        </button>
        {reading && <OutlineFile onClose={() => setReading(false)} onAdded={(id) => id !== null && onChoose(id)} />}
      </div>
    </>
  );
}
