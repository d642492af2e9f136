import { freeId } from "../../../core/design/ids";
import type { PropulsionResult } from "../../../core/subjects/propulsion/node";
import { Sheets } from "../../app/Tabs";
import { useDesk } from "../../app/desk";
import { DriveForm } from "./drive/DriveForm";
import { PackForm } from "./drive/PackForm";
import { PathForm } from "./PathForm";
import { Standing } from "./Standing";

/** What is no drive and no pack, and has a sheet among them. */
const PATH = { id: "path", name: "Path and loads" };

/** Drives and packs, one at a time, with what they give. */
export function DrivesSheet({
  result,
  of,
  put,
}: {
  result: PropulsionResult | null;
  of: string | null;
  put: (change: Record<string, string | null>) => void;
}) {
  const { design, edit } = useDesk();
  const chosen = of ?? design.units[0]?.id ?? design.batteries[0]?.id ?? PATH.id;
  const unit = design.units.find((u) => u.id === chosen);
  const battery = design.batteries.find((b) => b.id === chosen);
  const addDrive = () => {
    const id = freeId(design.units, "d");
    edit((d) => {
      const like = design.units.find((u) => u.id === chosen) ?? design.units[0];
      if (like) d.units.push({ ...structuredClone(like), id, name: `Drive ${d.units.length + 1}` });
    });
    put({ of: id });
  };
  const addPack = () => {
    const id = freeId(design.batteries, "b");
    edit((d) => {
      const like = design.batteries.find((b) => b.id === chosen) ?? design.batteries[0];
      if (like)
        d.batteries.push({ ...structuredClone(like), id, name: `Pack ${d.batteries.length + 1}`, itemId: null });
    });
    put({ of: id });
  };
  const remove = () =>
    edit((d) => {
      d.units = d.units.filter((u) => u.id !== chosen);
      d.conductors = d.conductors.filter((c) => c.unitId !== chosen && c.batteryId !== chosen);
      d.regulators = d.regulators.filter((r) => r.batteryId !== chosen);
      d.batteries = d.batteries.filter((b) => b.id !== chosen);
      for (const b of d.boxes)
        for (const list of ["motors", "controllers", "packs"] as const) b[list] = b[list].filter((id) => id !== chosen);
      for (const p of d.duty) p.unitIds = p.unitIds.filter((id) => id !== chosen);
    });
  const removable =
    (unit && design.units.length > 1) ||
    (battery && design.batteries.length > 1 && !design.units.some((u) => u.batteryId === battery.id));
  return (
    <Sheets
      label="Drives and packs"
      names={[...design.units, ...design.batteries, PATH].map((x) => [x.id, x.name] as const)}
      value={chosen}
      onChange={(id) => put({ of: id })}
      className="items-center px-4 pt-2"
      aside={
        <span className="ml-auto flex gap-3 text-[12px]">
          <button type="button" className="link" onClick={addDrive}>
            add a drive
          </button>
          <button type="button" className="link" onClick={addPack}>
            add a pack
          </button>
          {removable && (
            <button type="button" className="link" onClick={remove}>
              remove {unit?.name ?? battery?.name}
            </button>
          )}
        </span>
      }
    >
      <div
        className={
          "grid grid-cols-[minmax(0,1fr)_minmax(0,340px)] gap-6 px-4 py-3 " + "max-[760px]:grid-cols-[minmax(0,1fr)]"
        }
      >
        {unit ? (
          <DriveForm key={unit.id} unit={unit} />
        ) : battery ? (
          <PackForm key={battery.id} battery={battery} />
        ) : (
          <PathForm result={result} />
        )}
        <Standing result={result} />
      </div>
    </Sheets>
  );
}
