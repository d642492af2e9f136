import { isPlaced, sizePart } from "../../../core/subjects/mass/placed";
import { AXES, type Axis, type Item, itemSchema, ROLES } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { gramPrice } from "../../../core/subjects/balance/gram";
import { balance } from "../../../core/subjects/balance/node";
import { HOLDS } from "../../../core/subjects/mass/declares";
import { attachedTo, movingMass, slideOf } from "../../../core/subjects/mass/tree";
import { plain } from "../../../core/wording/format";
import { useCalmDesk, useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";

const SHIFT = { x: "shiftX", y: "shiftY" } as const;
const SLIDE = { x: "slide", y: "slideY", z: "slideZ" } as const;

type ChangeItem = (mutate: (item: Item) => void) => unknown;

/** How far the part may slide along an axis, when it may. */
function SlideRow({ item, axis, change }: { item: Item; axis: Axis; change: ChangeItem }) {
  const range = slideOf(item, axis);
  const key = SLIDE[axis];
  if (!range) return null;
  return (
    <tr>
      <td className="whitespace-nowrap pr-2">slides {axis}</td>
      {(["from", "to"] as const).map((end) => (
        <td key={end}>
          <QuantityField
            label={`${item.name}, slides ${axis === "x" ? "" : `${axis} `}${end}`}
            value={range[end]}
            dimension="length"
            onCommit={(v) => v !== null && change((p) => void (p[key] = { ...range, [end]: v }))}
          />
        </td>
      ))}
      <td className="text-right">
        <button type="button" className="link" onClick={() => change((p) => void (p[key] = null))}>
          lock
        </button>
      </td>
    </tr>
  );
}

/** What the part moves along with. */
function AttachedTo({ item, change }: { item: Item; change: ChangeItem }) {
  const { design } = useCalmDesk("sheet");
  const under = attachedTo(design.items, item.id);
  const hosts = design.items.filter((i) => i.id !== item.id && !under.includes(i));
  return (
    <tr>
      <td className="pr-2">attached to</td>
      <td colSpan={3}>
        <select
          className="cell"
          aria-label={`${item.name}, attached to`}
          value={item.parentId ?? ""}
          onChange={(e) => change((p) => void (p.parentId = e.target.value === "" ? null : e.target.value))}
        >
          <option value="">nothing</option>
          {hosts.map((h) => (
            <option key={h.id} value={h.id}>
              {h.name}
            </option>
          ))}
        </select>
      </td>
    </tr>
  );
}

/** What moving the part does to the CG, and what a gram saved on it is worth. */
function WhatItDoes({ item }: { item: Item }) {
  const { seen: design, evaluation } = useCalmDesk("sheet");
  const { habit } = usePreferences();
  const gram = DISPLAY[habit].mass;
  const mass = resultIn(evaluation, balance);
  const moving = movingMass(design.items, item);
  const perTen = mass && moving > 0 ? (0.01 * moving) / mass.mass : null;
  const under = attachedTo(design.items, item.id);
  const price = mass?.placed.x ? gramPrice(design, mass.cg.x) : null;
  const counter = price?.at(item.place.x) ?? 0;
  return (
    <>
      {perTen !== null && (
        <p className="mt-1 text-[12px]">
          {plain(0.01, "length", habit, habit === "metric" ? 0 : 2)} of slide moves the CG{" "}
          <b className="num text-ink">{plain(perTen, "length", habit)}</b>
          {under.length > 0 && ` with the ${under.length} ${under.length === 1 ? "part" : "parts"} on it`}.
        </p>
      )}
      {item.mass && price && isPlaced(item, "x") && (
        <p className="text-[12px]">
          1 {gram} saved here is worth{" "}
          <b className="num text-ink">
            {(1 + counter).toFixed(2)} {gram}
          </b>
          {Math.abs(counter) > 0.02
            ? `: itself, ${counter > 0 ? "and" : "less"} ${Math.abs(counter).toFixed(2)} ${gram} of ` +
              `counterweight at the ${price.spot.name}`
            : ""}
          .
        </p>
      )}
    </>
  );
}

/** Everything about the selected part that the ledger's row does not hold. */
export function Selected({ item, number }: { item: Item; number: number }) {
  const { edit } = useCalmDesk("sheet");
  const change = (mutate: (item: Item) => void) =>
    edit((d) => {
      const found = d.items.find((i) => i.id === item.id);
      if (found) mutate(found);
    });
  const remove = () =>
    edit((d) => {
      d.items = d.items.filter((i) => i.id !== item.id);
      for (const i of d.items) if (i.parentId === item.id) i.parentId = item.parentId;
    });
  const fixed = AXES.filter((a) => slideOf(item, a) === null && !(a === "y" && item.mirrored));
  return (
    <section aria-label="Selected part" className="mt-4">
      <h2>
        Selected:{" "}
        <span className="text-accent">
          {number} {item.name}
        </span>
      </h2>
      <table className="mt-1 w-full text-[12px]">
        <tbody>
          <tr>
            <td>box</td>
            {AXES.map((axis) => (
              <td key={axis}>
                <QuantityField
                  label={`${item.name}, box ${axis}`}
                  value={item.unsized ? null : item.size[axis]}
                  empty="–"
                  dimension="length"
                  schema={itemSchema.shape.size.shape[axis]}
                  onCommit={(v) => v !== null && change((p) => sizePart(p, axis, v))}
                />
              </td>
            ))}
          </tr>
          {AXES.map((axis) => (
            <SlideRow key={axis} item={item} axis={axis} change={change} />
          ))}
          {fixed.length > 0 && <AllowMovement fixed={fixed} change={change} />}
          <tr>
            <td className="pr-2" title="by a servo, each way from its place">
              shifted under way ±
            </td>
            {(["x", "y"] as const).map((axis) =>
              axis === "y" && item.mirrored ? null : (
                <td key={axis}>
                  <QuantityField
                    label={`${item.name}, shifted under way ${axis}`}
                    value={item[SHIFT[axis]] || null}
                    empty={`${axis} –`}
                    dimension="length"
                    schema={itemSchema.shape[SHIFT[axis]]}
                    onCommit={(v) => change((p) => void (p[SHIFT[axis]] = v ?? 0))}
                  />
                </td>
              ),
            )}
          </tr>
          <AttachedTo item={item} change={change} />
          <HeldBy item={item} change={change} />
          <WhatItIs item={item} change={change} />
          <tr>
            <td colSpan={4}>
              <label className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  checked={item.mirrored}
                  onChange={(e) => change((p) => void (p.mirrored = e.target.checked))}
                />
                mirrored pair (left and right)
              </label>
              <label className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  checked={item.hollow}
                  onChange={(e) => change((p) => void (p.hollow = e.target.checked))}
                />
                a shell: others may sit inside
              </label>
            </td>
          </tr>
        </tbody>
      </table>
      <WhatItDoes item={item} />
      <p className="mt-1">
        <button type="button" className="link text-[12px]" onClick={remove}>
          Remove this part
        </button>
      </p>
    </section>
  );
}

/** Along which axes the solver may move it. */
function AllowMovement({
  fixed,
  change,
}: {
  fixed: ("x" | "y" | "z")[];
  change: (mutate: (item: Item) => void) => string | null;
}) {
  return (
    <tr>
      <td className="whitespace-nowrap pr-2">allow movement</td>
      <td colSpan={3}>
        {fixed.map((axis) => (
          <button
            key={axis}
            type="button"
            className="link mr-3"
            aria-label={`allow movement along ${axis}`}
            onClick={() =>
              change((p) => void (p[SLIDE[axis]] = { from: p.place[axis] - 0.05, to: p.place[axis] + 0.05 }))
            }
          >
            {axis}
          </button>
        ))}
      </td>
    </tr>
  );
}

/** What keeps the part where it is. */
function HeldBy({ item, change }: { item: Item; change: (mutate: (item: Item) => void) => string | null }) {
  return (
    <tr>
      <td className="pr-2">held by</td>
      <td colSpan={3}>
        {[0, 1].map((k) =>
          k === 0 || item.heldBy.length > 0 ? (
            <select
              key={k}
              className="cell w-auto!"
              aria-label={`${item.name}, ${k === 0 ? "held by" : "and when that lets go, by"}`}
              value={item.heldBy[k] ?? ""}
              onChange={(e) =>
                change((p) => {
                  const by = HOLDS.find((h) => h === e.target.value);
                  p.heldBy = [
                    ...p.heldBy.slice(0, k),
                    ...(by ? [by] : []),
                    ...(k === 0 && by ? p.heldBy.slice(1).filter((h) => h !== by) : []),
                  ];
                })
              }
            >
              <option value="">{k === 0 ? "not said" : "and nothing else"}</option>
              {HOLDS.filter((h) => h !== item.heldBy[1 - k]).map((h) => (
                <option key={h} value={h}>
                  {k === 1 ? `and ${h}` : h}
                </option>
              ))}
            </select>
          ) : null,
        )}
      </td>
    </tr>
  );
}

/** What the part is, where that decides something, and which part of the other side it should match. */
function WhatItIs({ item, change }: { item: Item; change: (mutate: (item: Item) => void) => string | null }) {
  const { design } = useDesk();
  return (
    <>
      <tr>
        <td className="pr-2">what it is</td>
        <td colSpan={3}>
          <select
            className="cell w-auto!"
            aria-label={`${item.name}, what it is`}
            value={item.role}
            onChange={(e) => change((p) => void (p.role = ROLES.find((r) => r === e.target.value) ?? "not said"))}
          >
            {ROLES.map((r) => (
              <option key={r}>{r}</option>
            ))}
          </select>
        </td>
      </tr>
      {!item.mirrored && (
        <tr>
          <td className="pr-2">pair of</td>
          <td colSpan={3}>
            <select
              className="cell w-full!"
              aria-label={`${item.name}, pair of`}
              value={item.twinId ?? ""}
              onChange={(e) => change((p) => void (p.twinId = e.target.value || null))}
            >
              <option value="">none</option>
              {design.items
                .filter((i) => i.id !== item.id && !i.mirrored)
                .map((i) => (
                  <option key={i.id} value={i.id}>
                    {i.name}
                  </option>
                ))}
            </select>
          </td>
        </tr>
      )}
    </>
  );
}
