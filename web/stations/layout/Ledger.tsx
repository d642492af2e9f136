import { useHotkeys } from "react-hotkeys-hook";
import { magnitudeSchema } from "../../../core/design/evidence";
import { type Design, type Item, itemSchema, newItem } from "../../../core/design/schema";
import { showSd } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { renewed } from "../../fields/KnownField";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";

const positive = magnitudeSchema.shape.value;
const coordinate = itemSchema.shape.place.shape;

/** An id that no part has. */
export function freeId(design: Design, stem: string): string {
  let n = design.items.length + 1;
  while (design.items.some((i) => i.id === `${stem}${n}`)) n++;
  return `${stem}${n}`;
}

export function newPart(design: Design): Item {
  const xs = design.items.map((i) => i.place.x);
  return newItem({
    id: freeId(design, "part-"),
    name: `Part ${design.items.length + 1}`,
    place: { x: xs.length > 0 ? Math.round(((Math.min(...xs) + Math.max(...xs)) / 2) * 1000) / 1000 : 0.1, y: 0, z: 0.05 },
    size: { x: 0.05, y: 0.03, z: 0.02 },
  });
}

/** Where a part stands between nose and tail, with its slide range and the CG window behind it. */
function Strip({ item, min, max, window }: { item: Item; min: number; max: number; window: [number, number] | null }) {
  const width = 120;
  const x = (v: number) => 4 + ((v - min) / Math.max(max - min, 1e-6)) * (width - 8);
  const known = item.mass !== null && item.mass.evidence !== "guess" && item.mass.evidence !== "datasheet";
  return (
    <svg width={width} height="14" viewBox={`0 0 ${width} 14`} aria-hidden="true">
      {window && <rect x={x(window[0])} width={Math.max(x(window[1]) - x(window[0]), 1)} y="0" height="14" fill="var(--tint-clear)" />}
      <path d={`M2 7H${width - 2}`} stroke="var(--hair)" />
      {item.slide && <path d={`M${x(item.slide.from)} 4v6m0 -3H${x(item.slide.to)}m0 -3v6`} stroke="var(--ink)" fill="none" />}
      <rect x={x(item.place.x) - 2} y="2.5" width="4" height="9" fill={known ? "var(--ink)" : "var(--paper)"} stroke="var(--ink)" />
    </svg>
  );
}

/** The mass ledger, edited in place like a spreadsheet. */
export function Ledger({ selected, onSelect }: { selected: string | null; onSelect: (id: string) => void }) {
  const { design, evaluation, edit } = useDesk();
  const { habit, keys } = usePreferences();
  const window = design.brief.targets.find((t) => t.metric === "cgX" && t.upper !== undefined);
  const min = evaluation.box?.min.x ?? 0;
  const max = evaluation.box?.max.x ?? 1;
  const widest = Math.max(1e-9, ...(evaluation.mass?.items.map((i) => i.blurX) ?? []));
  const change = (id: string, mutate: (item: Item) => void) =>
    edit((d) => {
      const item = d.items.find((i) => i.id === id);
      if (item) mutate(item);
    });
  const add = () => {
    const part = newPart(design);
    edit((d) => d.items.push(part));
    onSelect(part.id);
  };
  useHotkeys("n", add, { enabled: keys, preventDefault: true });
  const unit = habit === "metric" ? { mass: "g", length: "mm" } : { mass: "oz", length: "in" };
  return (
    <section aria-label="Parts" className="px-4 pb-6">
      <table className="rows w-full table-fixed">
        <colgroup>
          <col className="w-[26px]" />
          <col />
          <col className="w-[34px]" />
          <col className="w-[62px]" />
          <col className="w-[44px]" />
          <col className="w-[26px]" />
          <col className="w-[56px]" />
          <col className="w-[56px]" />
          <col className="w-[56px]" />
          <col className="w-[26px]" />
          <col className="w-[128px]" />
          <col className="w-[58px]" />
          <col className="w-[76px]" />
        </colgroup>
        <thead>
          <tr>
            <th />
            <th>Part</th>
            <th className="text-right!">n</th>
            <th className="text-right!">{unit.mass} each</th>
            <th className="text-right!">±</th>
            <th />
            <th className="text-right!">x {unit.length}</th>
            <th className="text-right!">y</th>
            <th className="text-right!">z</th>
            <th />
            <th>nose to tail, slide range</th>
            <th className="text-right!">price €</th>
            <th className="text-right!">blurs CG by</th>
          </tr>
        </thead>
        <tbody>
          {design.items.map((item, i) => {
            const share = evaluation.mass?.items.find((s) => s.id === item.id);
            const here = item.id === selected;
            const ink = item.mass?.evidence === "measured" || item.mass?.evidence === "proven" ? "measured" : "predicted";
            return (
              <tr key={item.id} data-row={item.id} className={here ? "bg-tint-accent" : ""} onFocus={() => onSelect(item.id)} onClick={() => onSelect(item.id)}>
                <td className={`num text-right ${here ? "text-accent" : ""}`}>{i + 1}</td>
                <td className="text-ink">
                  <TextField label={`Part ${i + 1}, name`} value={item.name} required onCommit={(name) => change(item.id, (p) => void (p.name = name))} />
                </td>
                <td>
                  <QuantityField
                    label={`${item.name}, quantity`}
                    value={item.quantity}
                    dimension="count"
                    schema={itemSchema.shape.quantity}
                    onCommit={(v) => v !== null && change(item.id, (p) => void (p.quantity = v))}
                  />
                </td>
                <td>
                  <QuantityField
                    label={`${item.name}, mass each`}
                    className={ink}
                    value={item.mass?.value ?? null}
                    dimension="mass"
                    schema={positive}
                    empty="weigh"
                    onCommit={(v) => change(item.id, (p) => void (p.mass = v === null ? null : p.mass ? renewed(p.mass, v) : { value: v, evidence: "guess" }))}
                  />
                </td>
                <td className="num predicted text-right">{share?.mass ? showSd(share.massSd / item.quantity, "mass", habit) : ""}</td>
                <td>
                  {item.mass && (
                    <EvidenceSelect
                      label={`${item.name}, mass known by`}
                      value={item.mass.evidence}
                      onChange={(evidence) => change(item.id, (p) => void (p.mass = p.mass && { value: p.mass.value, evidence }))}
                    />
                  )}
                </td>
                {(["x", "y", "z"] as const).map((axis) => (
                  <td key={axis}>
                    <QuantityField
                      label={`${item.name}, ${axis}`}
                      value={item.place[axis]}
                      dimension="length"
                      schema={coordinate[axis]}
                      onCommit={(v) => v !== null && change(item.id, (p) => void (p.place[axis] = v))}
                    />
                  </td>
                ))}
                <td>
                  <EvidenceSelect
                    drawing
                    label={`${item.name}, place known by`}
                    value={item.placeEvidence}
                    onChange={(evidence) =>
                      change(item.id, (p) => {
                        p.placeEvidence = evidence;
                        delete p.placeSd;
                      })
                    }
                  />
                </td>
                <td>
                  <Strip item={item} min={min} max={max} window={window?.upper !== undefined ? [window.value, window.upper] : null} />
                </td>
                <td>
                  <QuantityField
                    label={`${item.name}, price`}
                    value={item.cost}
                    dimension="money"
                    empty="–"
                    schema={positive}
                    onCommit={(v) => change(item.id, (p) => void (p.cost = v))}
                  />
                </td>
                <td className="num text-right">
                  {share?.mass ? (
                    <span className="inline-flex items-center justify-end gap-1">
                      <span className="inline-block h-[5px] bg-pencil" style={{ width: `${(30 * share.blurX) / widest}px` }} aria-hidden="true" />
                      {showSd(share.blurX, "length", habit)}
                    </span>
                  ) : (
                    ""
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="no-print mt-2 flex gap-3">
        <button type="button" className="act" onClick={add}>
          Add a part
        </button>
        <span className="self-center text-[11px] text-pencil">Any unit and simple sums may be typed: 7 oz, 11.5 in, 120+35 g. Enter goes down, Tab goes on, n adds a row.</span>
      </p>
    </section>
  );
}
