import { positiveOf } from "../../../core/design/evidence";
import { freeId } from "../../../core/design/ids";
import { type BoxShape, boxSchema } from "../../../core/design/schema";
import { resultIn } from "../../../core/evaluate";
import { sdOf } from "../../../core/numeric/doubt";
import { WALLS } from "../../../core/subjects/box/declares";
import { type WarmBox, box } from "../../../core/subjects/box/node";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { KnownField } from "../../fields/KnownField";
import { Line, NumberLine } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

/** Closed spaces that something warms: what is in them, their walls and vents, and how warm the air gets. */
export function Boxes() {
  const { design, evaluation, edit } = useDesk();
  const result = resultIn(evaluation, box);
  return (
    <section aria-label="Closed spaces" className="mt-4 text-[12px]">
      <h2 className="text-[14px]">Closed spaces</h2>
      <p className="text-pencil">
        A hull, tub or case with motors, controllers or packs in it: how warm its air gets at lasting full throttle.
      </p>
      {design.boxes.map((b, k) => (
        <OneBox key={b.id} b={b} warm={result?.boxes[k] ?? null} outside={result?.outside ?? 0} />
      ))}
      <button
        type="button"
        className="link mt-1"
        onClick={() =>
          edit(
            (d) =>
              void d.boxes.push({
                id: freeId(d.boxes, "box"),
                name: `Closed space${d.boxes.length > 0 ? ` ${d.boxes.length + 1}` : ""}`,
                motors: [],
                controllers: [],
                packs: [],
                other: 0,
                surface: null,
                walls: "not said",
                vent: null,
                rise: null,
              }),
          )
        }
      >
        add a closed space
      </button>
    </section>
  );
}

/** How warm one gets, or what is wanted for that. */
function Warmth({ warm, outside }: { warm: WarmBox; outside: number }) {
  const { habit } = usePreferences();
  if (!warm.rise) return <span className="text-care">Open: {warm.because}.</span>;
  const said = show(outside + warm.rise.value, sdOf(warm.rise), "temperature", habit);
  return (
    <span data-warmth={warm.box.id}>
      Air inside{" "}
      <b className="num predicted">
        {said.value} ± {said.sd} {said.unit}
      </b>{" "}
      from {plain(warm.heat.value, "power", habit, 0)} in it, outside {plain(outside, "temperature", habit, 0)}.
    </span>
  );
}

function OneBox({ b, warm, outside }: { b: BoxShape; warm: WarmBox | null; outside: number }) {
  const { design, edit } = useDesk();
  const put = (change: (x: BoxShape) => void) =>
    edit((d) => {
      const found = d.boxes.find((x) => x.id === b.id);
      if (found) change(found);
    });
  const inside = [
    ...design.units.flatMap((u) => [
      { key: `m ${u.id}`, word: `motor of ${u.name}`, list: "motors" as const, id: u.id },
      { key: `c ${u.id}`, word: `controller of ${u.name}`, list: "controllers" as const, id: u.id },
    ]),
    ...design.batteries.map((x) => ({ key: `p ${x.id}`, word: x.name, list: "packs" as const, id: x.id })),
  ];
  const known = (key: "surface" | "vent" | "rise", label: string, dimension: "area" | "length", empty: string) => (
    <Line label={label}>
      {b[key] === null ? (
        <QuantityField
          boxed
          label={`${b.name}, ${label}`}
          value={null}
          dimension={dimension}
          empty={empty}
          schema={positiveOf(dimension)}
          onCommit={(v) => v !== null && put((x) => void (x[key] = { value: v, evidence: "measured" }))}
        />
      ) : (
        <span className="flex items-center gap-1">
          <KnownField
            label={`${b.name}, ${label}`}
            value={b[key]}
            dimension={dimension}
            schema={positiveOf(dimension)}
            onCommit={(v) => put((x) => void (x[key] = v))}
          />
          <button
            type="button"
            className="link"
            aria-label={`${b.name}, ${label}: ${empty}`}
            onClick={() => put((x) => void (x[key] = null))}
          >
            ×
          </button>
        </span>
      )}
    </Line>
  );
  return (
    <div className="mt-2 border-t border-hair pt-1" data-box={b.id}>
      <p className="mb-1">{warm && <Warmth warm={warm} outside={outside} />}</p>
      <div className="grid grid-cols-2 gap-x-6 gap-y-1 max-[760px]:grid-cols-1">
        <div className="flex flex-col gap-1">
          <Line label="Name">
            <TextField
              boxed
              required
              label="Closed space, name"
              value={b.name}
              onCommit={(v) => put((x) => void (x.name = v))}
            />
          </Line>
          <fieldset>
            <legend className="text-ink">In it</legend>
            {inside.map(({ key, word, list, id }) => (
              <label key={key} className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  checked={b[list].includes(id)}
                  onChange={(e) =>
                    put((x) => void (x[list] = e.target.checked ? [...x[list], id] : x[list].filter((y) => y !== id)))
                  }
                />
                {word}
              </label>
            ))}
          </fieldset>
          <NumberLine
            label="Other heat"
            name={`${b.name}, other heat`}
            value={b.other}
            dimension="power"
            schema={boxSchema.shape.other}
            onCommit={(v) => put((x) => void (x.other = v))}
          />
        </div>
        <div className="flex flex-col gap-1">
          {known("surface", "Outer walls", "area", "not said")}
          <Line label="Made of">
            <select
              className="box"
              aria-label={`${b.name}, walls`}
              value={b.walls}
              onChange={(e) => put((x) => void (x.walls = e.target.value as BoxShape["walls"]))}
            >
              {WALLS.map((w) => (
                <option key={w}>{w}</option>
              ))}
            </select>
          </Line>
          {known("vent", "Vents, each", "area", "closed")}
          {b.vent && known("rise", "Apart in height", "length", "not said")}
          <button
            type="button"
            className="link self-start"
            onClick={() => edit((d) => void (d.boxes = d.boxes.filter((x) => x.id !== b.id)))}
          >
            remove {b.name}
          </button>
        </div>
      </div>
    </div>
  );
}
