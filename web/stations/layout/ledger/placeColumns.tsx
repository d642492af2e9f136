import { rank } from "../../../../core/design/evidence";
import { type Axis, type Item, itemSchema } from "../../../../core/design/schema";
import { isWeighed } from "../../../../core/subjects/mass/evidence";
import { isPlaced, unsayPlace } from "../../../../core/subjects/mass/placed";
import { placeItem } from "../../../../core/subjects/mass/tree";
import { EvidenceSelect } from "../../../fields/EvidenceSelect";

import { type Change, type Column, type Surroundings, numbers } from "./numbers";

const coordinate = itemSchema.shape.place.shape;

/** Where a part stands between nose and tail, with its slide range and the CG window behind it. */
function Strip({ item, min, max, window }: { item: Item; min: number; max: number; window: [number, number] | null }) {
  const width = 104;
  const x = (v: number) => 4 + ((v - min) / Math.max(max - min, 1e-6)) * (width - 8);
  return (
    <svg width={width} height="14" viewBox={`0 0 ${width} 14`} aria-hidden="true">
      {window && (
        <rect
          x={x(window[0])}
          width={Math.max(x(window[1]) - x(window[0]), 1)}
          y="0"
          height="14"
          fill="var(--tint-clear)"
        />
      )}
      <path d={`M2 7H${width - 2}`} stroke="var(--hair)" />
      {item.slide && (
        <path d={`M${x(item.slide.from)} 4v6m0 -3H${x(item.slide.to)}m0 -3v6`} stroke="var(--ink)" fill="none" />
      )}
      {isPlaced(item, "x") && (
        <rect
          x={x(item.place.x) - 2}
          y="2.5"
          width="4"
          height="9"
          fill={isWeighed(item.mass) ? "var(--ink)" : "var(--paper)"}
          stroke="var(--ink)"
        />
      )}
    </svg>
  );
}

export function placeColumns(around: Surroundings, change: Change): Column[] {
  const { habit, min, max, band } = around;
  const place = (axis: Axis): Column =>
    numbers(
      {
        id: axis,
        head: axis === "x" ? `x ${habit === "metric" ? "mm" : "in"}` : axis,
        width: "w-[50px]",
        label: axis,
        dimension: "length",
        schema: coordinate[axis],
        empty: "–",
        get: (i) => (isPlaced(i, axis) ? i.place[axis] : null),
        set: (i, v, d) => (v === null ? unsayPlace(i, axis) : placeItem(d, i.id, { [axis]: v })),
      },
      around,
    );
  return [
    place("x"),
    place("y"),
    place("z"),
    {
      id: "placeBy",
      head: "",
      width: "w-[26px]",
      by: (i) => rank(i.placeEvidence),
      // What nobody said is known by nothing.
      cell: (item) =>
        item.unplaced.length < 3 && (
          <EvidenceSelect
            inList
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
        ),
    },
    {
      id: "strip",
      head: "nose to tail",
      width: "w-[112px]",
      cell: (item) => <Strip item={item} min={min} max={max} window={band} />,
    },
    {
      id: "blur",
      head: "adds to CG error",
      width: "w-[70px]",
      right: true,
      cell: (_, derived) => (
        <span className="num inline-flex items-center justify-end gap-1">
          {derived.bar && (
            <span className="inline-block h-[5px] bg-pencil" style={{ width: `${derived.bar}px` }} aria-hidden="true" />
          )}
          {derived.blur}
        </span>
      ),
    },
  ];
}
