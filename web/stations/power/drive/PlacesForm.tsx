import type { Unit } from "../../../../core/design/schema";
import { positiveOf } from "../../../../core/design/evidence";
import { coordinate } from "../../../../core/design/fields";
import { anglesOf, byAngles, cornersOf, meanWay, placedUnits } from "../../../../core/subjects/propulsion/placed";
import { finite } from "../../../../core/design/bounds";
import { DISPLAY } from "../../../../core/design/units";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";

const TURNED = finite.min(-Math.PI, "−180° to 180°").max(Math.PI, "−180° to 180°");
const RAISED = finite.min(-Math.PI / 2, "−90° to 90°").max(Math.PI / 2, "−90° to 90°");
/** What is put where nothing is known yet. */
const NOWHERE = { x: 0, y: 0, z: 0 };

/** Where each of a drive's units is and which way it pushes: all by their entry in the ledger, or one by one. */
export function PlacesForm({ unit, drive }: { unit: Unit; drive: (mutate: (u: Unit) => void) => void }) {
  const { design } = useDesk();
  const { habit } = usePreferences();
  const long = DISPLAY[habit].length;
  const index = design.units.indexOf(unit);
  const put = (change: (places: Unit["places"]) => void) =>
    drive((u) => {
      change(u.places);
      // The word and the tilt that stand for all of them: what the craft is judged by, and what is left when one goes
      // back.
      Object.assign(u, meanWay(u.places.map((p) => p.toward)));
    });
  const item = design.items.find((i) => i.id === unit.propellerItemId);
  if (unit.places.length === 0)
    return (
      <p className="col-span-full flex flex-wrap items-baseline gap-x-3" data-places="0">
        <span>
          {item
            ? `Placed by “${item.name}” in the mass ` +
              `list${item.mirrored && unit.count > 1 ? ", half on each side" : ""}.`
            : "Not placed: choose its part in the mass list, or place each one."}
        </span>
        <button
          type="button"
          className="link"
          onClick={() =>
            put((places) => {
              const now = placedUnits(design, index);
              for (let k = 0; k < unit.count; k++)
                places.push({
                  at: { ...(now[k]?.at ?? NOWHERE) },
                  toward: { ...(now[k]?.toward ?? byAngles(0, unit.direction === "up" ? Math.PI / 2 : 0)) },
                });
            })
          }
        >
          Place each one
        </button>
      </p>
    );
  return (
    <section aria-label="Place of each unit" className="col-span-full" data-places={unit.places.length}>
      <div className="overflow-x-auto">
        <table className="rows w-full">
          <thead>
            <tr>
              <th>unit</th>
              <th className="text-right">x aft, {long}</th>
              <th className="text-right">y to starboard</th>
              <th className="text-right">z up</th>
              <th className="text-right">turned to starboard, °</th>
              <th className="text-right">raised, °</th>
              <th className="text-right">weighed, {DISPLAY[habit].force}</th>
            </tr>
          </thead>
          <tbody>
            {unit.places.map(({ at, toward, weighed }, k) => {
              const angles = anglesOf(toward);
              const turn = (change: Partial<typeof angles>) =>
                put((places) => {
                  const place = places[k];
                  if (!place) return;
                  const to = { ...anglesOf(place.toward), ...change };
                  place.toward = byAngles(to.turned, to.raised);
                });
              return (
                <tr key={k}>
                  <td>{k + 1}</td>
                  {(["x", "y", "z"] as const).map((axis) => (
                    <td key={axis}>
                      <QuantityField
                        label={`Unit ${k + 1}, ${axis}`}
                        value={at[axis]}
                        dimension="length"
                        schema={coordinate}
                        onCommit={(v) => v !== null && put((places) => void (places[k] && (places[k].at[axis] = v)))}
                      />
                    </td>
                  ))}
                  <td>
                    <QuantityField
                      label={`Unit ${k + 1}, turned to starboard`}
                      value={angles.turned}
                      dimension="angle"
                      schema={TURNED}
                      onCommit={(v) => v !== null && turn({ turned: v })}
                    />
                  </td>
                  <td>
                    <QuantityField
                      label={`Unit ${k + 1}, raised`}
                      value={angles.raised}
                      dimension="angle"
                      schema={RAISED}
                      onCommit={(v) => v !== null && turn({ raised: v })}
                    />
                  </td>
                  <td>
                    <QuantityField
                      label={`Unit ${k + 1}, weighed at its corner`}
                      value={weighed?.value ?? null}
                      dimension="force"
                      schema={positiveOf("force")}
                      empty="–"
                      onCommit={(v) =>
                        put((places) => {
                          const place = places[k];
                          if (!place) return;
                          if (v === null) delete place.weighed;
                          else place.weighed = { value: v, evidence: "measured" };
                        })
                      }
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <Corners unit={unit} />
      <p className="mt-1 flex flex-wrap gap-x-3 text-pencil">
        <span>Turned 0° and raised 0° push ahead; raised 90° pushes up. Each can be dragged in Layout.</span>
        <button type="button" className="link" onClick={() => drive((u) => void (u.places = []))}>
          back to the mass list
        </button>
      </p>
    </section>
  );
}

/** What the units were weighed at, against one another. */
function Corners({ unit }: { unit: Unit }) {
  const corners = cornersOf(unit);
  const missing = unit.places.filter((p) => !p.weighed).length;
  if (unit.places.length < 2) return null;
  return (
    <p className="mt-1 text-pencil" data-corners={corners ? "told" : "open"}>
      {corners ? (
        <>
          Of their mean:{" "}
          <span className="num text-ink">{corners.map((c) => `${(100 * c.share).toFixed(0)} %`).join(" · ")}</span>.
          Each counts with its own.
        </>
      ) : missing < unit.places.length ? (
        `${missing} of ${unit.places.length} are not weighed yet: until then all count alike.`
      ) : (
        "Weigh each corner: one after the other at the same throttle and pack. Unequal ones show here " +
        "and in the verdicts."
      )}
    </p>
  );
}
