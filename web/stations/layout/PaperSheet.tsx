import { useEffect, useMemo, useState } from "react";
import { createPortal } from "react-dom";
import type { Design, Item } from "../../../core/design/schema";
import { DISPLAY } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { balance } from "../../../core/subjects/balance/node";
import { isPlaced } from "../../../core/subjects/mass/placed";
import { type Extent, type MassResult, extent } from "../../../core/subjects/mass/rollup";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { NAMES, labelsOf } from "../../drawing/OneView";
import { boxesOf } from "../../drawing/Part";
import { Shapes } from "../../drawing/Shapes";
import { CgMark, EnvelopeMark, Ruler, TracedOutline } from "../../drawing/marks";
import {
  LAP,
  PAPERS,
  PX_PER_MM,
  type Paper,
  type Tile,
  roomOn,
  scaleName,
  scalesFor,
  tilesOf,
} from "../../drawing/paper";
import { ACROSS, type Sheet, UP, VIEWS, type ViewName, sheetAt } from "../../drawing/scale";

/** px of a metre at a scale, on paper. */
const perMetre = (scale: number) => scale * 1000 * PX_PER_MM;

/** The craft as lines alone, nothing in it to be dragged. */
function Plan({ sheet, design, mass }: { sheet: Sheet; design: Design; mass: MassResult | null }) {
  const { habit } = usePreferences();
  const box = extent(design, true);
  return sheet.shown.map((view) => {
    const frame = sheet.views[view];
    const of = { sheet, view };
    return (
      <g key={view}>
        <text x={frame.x} y={frame.y - 6} fontSize="11" fill="var(--pencil)">
          {NAMES[view]}
          {view === "front" ? ", starboard left" : ""}
        </text>
        {design.envelope && <EnvelopeMark {...of} envelope={design.envelope} />}
        {design.outlines
          .filter((o) => o.view === view)
          .map((o) => (
            <TracedOutline key={o.id} sheet={sheet} outline={o} />
          ))}
        <Shapes {...of} surfaces={design.surfaces} bodies={design.bodies} />
        {design.items.map((item) => {
          const placed = isPlaced(item, ACROSS[view].axis) && isPlaced(item, UP[view]);
          const boxes = boxesOf(item, sheet, view);
          return (
            <g key={item.id}>
              {boxes.map((b) => (
                <rect
                  key={`${b.x} ${b.y}`}
                  x={b.x}
                  y={b.y}
                  width={b.w}
                  height={b.h}
                  fill="none"
                  stroke={placed ? "var(--ink)" : "var(--pencil)"}
                  strokeWidth="0.9"
                  strokeDasharray={placed && !item.unsized ? undefined : "1 4"}
                />
              ))}
            </g>
          );
        })}
        {labelsOf(design.items, sheet, view, mass?.cg, (kg) => plain(kg, "mass", habit)).map(({ box: at, data }) => (
          <text key={data.item.id} x={at.x + 2} y={at.y + 10} className="num" fontSize="10" fill="var(--ink)">
            {data.text}
          </text>
        ))}
        {mass && <CgMark {...of} mass={mass} colour="var(--accent)" />}
        {box && <Ruler {...of} box={box} habit={habit} along="across" />}
        {box && <Ruler {...of} box={box} habit={habit} along="up" />}
      </g>
    );
  });
}

/** px that a part's name takes in the list under the drawing, and a line of it. */
const NAME = { width: 190, height: 13 };
const columnsOf = (width: number) => Math.max(1, Math.floor((width - 40) / NAME.width));

/** A drawing with the list of its parts under it, px. */
function withList(sheet: Sheet, parts: number): Sheet {
  return { ...sheet, height: sheet.height + NAME.height * Math.ceil(parts / columnsOf(sheet.width)) + 8 };
}

/** What the numbers stand for, under the views. */
function PartNames({ sheet, items }: { sheet: Sheet; items: readonly Item[] }) {
  const rows = Math.ceil(items.length / columnsOf(sheet.width));
  const top = sheet.height - NAME.height * rows - 4;
  return items.map((item, i) => (
    <text
      key={item.id}
      x={34 + NAME.width * Math.floor(i / rows)}
      y={top + NAME.height * (i % rows) + 10}
      fontSize="10"
      fill="var(--ink)"
    >
      {i + 1} {item.name.length > 30 ? `${item.name.slice(0, 29)}…` : item.name}
    </text>
  ));
}

/** A line to hold a ruler to: whether the printer kept the size. */
function Measure() {
  const { habit } = usePreferences();
  const [length, text] = habit === "imperial" ? [101.6, "4 in"] : [100, "100 mm"];
  const ticks = habit === "imperial" ? 8 : 10;
  const w = length * PX_PER_MM;
  return (
    <svg width={w + 90} height={26} className="block" aria-hidden="true">
      <path
        d={
          "M1 " +
          `14h${w}${Array.from({ length: ticks + 1 }, (_, k) => `M${1 + (k * w) / ticks} ${k % (ticks / 2) === 0 ? 6 : 10}V14`).join("")}`
        }
        stroke="#000"
        fill="none"
      />
      <text x={1} y={25} fontSize="10">
        0
      </text>
      <text x={1 + w} y={25} fontSize="10">
        {text}
      </text>
    </svg>
  );
}

/** One sheet of paper: its share of the drawing, where its neighbours lie over it, and the measure. */
function PaperPage({ tile, tiles, paper, title }: { tile: Tile; tiles: readonly Tile[]; paper: Paper; title: string }) {
  const { width, height } = PAPERS[paper];
  const room = roomOn(paper);
  const lap = LAP * PX_PER_MM;
  const has = (column: number, row: number) => tiles.some((t) => t.column === column && t.row === row);
  const name = (t: Pick<Tile, "column" | "row">) => `${String.fromCharCode(65 + t.row)}${t.column + 1}`;
  return (
    <section
      className="paper-page"
      data-sheet={name(tile)}
      style={{ width: `${width}mm`, height: `${height - 0.4}mm` }}
    >
      <p className="paper-title">
        {title}
        {tiles.length > 1 && `; sheet ${name(tile)} of ${tiles.length}: glue along the dotted lines`}
      </p>
      <svg
        width={room.width}
        height={room.height}
        viewBox={`${tile.x} ${tile.y} ${room.width} ${room.height}`}
        className="block"
        aria-hidden="true"
      >
        <use href={`#${DRAWN}`} />
        <g stroke="#000" strokeDasharray="1 5" fill="none">
          {has(tile.column - 1, tile.row) && <path d={`M${tile.x + lap} ${tile.y}v${room.height}`} />}
          {has(tile.column + 1, tile.row) && <path d={`M${tile.x + room.width - lap} ${tile.y}v${room.height}`} />}
          {has(tile.column, tile.row - 1) && <path d={`M${tile.x} ${tile.y + lap}h${room.width}`} />}
          {has(tile.column, tile.row + 1) && <path d={`M${tile.x} ${tile.y + room.height - lap}h${room.width}`} />}
        </g>
      </svg>
      <Measure />
    </section>
  );
}

const at = (box: Extent, scale: number, shown: readonly ViewName[], parts: number): Sheet =>
  withList(sheetAt(box, perMetre(scale), shown), parts);

const DRAWN = "drawn-on-paper";

/** While it is in view the browser prints these sheets, and nothing else. */
function usePrintsPlan(): void {
  useEffect(() => {
    const root = document.documentElement.dataset;
    root.print = "plan";
    return () => void delete root.print;
  }, []);
}

/** The drawing on paper, true to scale: on one sheet, or full size over several that are glued together. */
export function PaperSheet() {
  const { seen: design, evaluation, file, version } = useDesk();
  const { habit, views } = usePreferences();
  usePrintsPlan();
  const [paper, setPaper] = useState<Paper>(habit === "imperial" ? "Letter" : "A4");
  const [shown, setShown] = useState<ViewName[]>(() => VIEWS.filter((v) => views.includes(v)));
  const [wanted, setWanted] = useState<number | null>(null);
  const box = useMemo(() => extent(design, true), [design]);
  const parts = design.items.length;
  const scales = useMemo(
    () => (box ? scalesFor((s) => at(box, s, shown, parts), paper, habit) : []),
    [box, paper, shown, habit, parts],
  );
  const chosen = scales.find((s) => s.scale === wanted) ?? scales.find((s) => s.sheets === 1) ?? scales.at(-1);
  const plan = useMemo(() => (box && chosen ? at(box, chosen.scale, shown, parts) : null), [box, chosen, shown, parts]);
  if (!box || !chosen || !plan)
    return (
      <p className="px-4 py-3">
        {box ? "It is too large for any scale here." : "Nothing is drawn yet: give the parts places and sizes."}
      </p>
    );
  const tiles = tilesOf(plan.width, plan.height, paper);
  const title =
    `${file.craft.name} ${version.label}, ${shown.map((v) => NAMES[v].toLowerCase()).join(", ")} view, ` +
    `${scaleName(chosen.scale)}, measures in ${DISPLAY[habit].length}`;
  const { width, height } = PAPERS[paper];
  const columns = Math.max(...tiles.map((t) => t.column)) + 1;
  return (
    <section aria-label="On paper" className="no-print px-4 py-3">
      <h2>The drawing on paper, to scale</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label>
          Scale
          <select
            className="box w-auto!"
            aria-label="Scale"
            value={chosen.scale}
            onChange={(e) => setWanted(Number(e.target.value))}
          >
            {scales.map((s) => (
              <option key={s.scale} value={s.scale}>
                {scaleName(s.scale)}, {s.sheets === 1 ? "1 sheet" : `${s.sheets} sheets`}
              </option>
            ))}
          </select>
        </label>
        <label>
          Paper
          <select
            className="box w-auto!"
            aria-label="Paper"
            value={paper}
            onChange={(e) => setPaper(e.target.value as Paper)}
          >
            {Object.keys(PAPERS).map((p) => (
              <option key={p}>{p}</option>
            ))}
          </select>
        </label>
        <span role="group" aria-label="Views on paper" className="flex gap-1">
          {VIEWS.map((v) => (
            <button
              key={v}
              type="button"
              className={`chip ${shown.includes(v) ? "chip-on" : ""}`}
              aria-pressed={shown.includes(v)}
              onClick={() =>
                setShown((s) =>
                  s.includes(v) && s.length > 1
                    ? s.filter((x) => x !== v)
                    : VIEWS.filter((x) => x === v || s.includes(x)),
                )
              }
            >
              {NAMES[v].toLowerCase()}
            </button>
          ))}
        </span>
        <button type="button" className="act act-first" onClick={() => window.print()}>
          Print {tiles.length === 1 ? "it" : `${tiles.length} sheets`}
        </button>
      </div>
      <p className="mt-1 text-[12px] text-pencil">
        In the printer's own dialog: paper across, scale 100 %, no “fit to page”. Each sheet carries a line to hold a
        ruler to.
      </p>
      <svg
        viewBox={`0 0 ${plan.width} ${plan.height}`}
        className="mt-2 block max-h-[360px] w-full border border-hair bg-sheet"
        role="img"
        aria-label={`${title}, ${tiles.length === 1 ? "1 sheet" : `${tiles.length} sheets`} of ${paper}`}
      >
        <use href={`#${DRAWN}`} />
        {tiles.length > 1 &&
          tiles.map((t) => (
            <rect
              key={`${t.row} ${t.column}`}
              x={t.x}
              y={t.y}
              width={roomOn(paper).width}
              height={roomOn(paper).height}
              fill="none"
              stroke="var(--accent)"
              strokeWidth={columns}
              strokeDasharray={`${4 * columns} ${4 * columns}`}
            />
          ))}
      </svg>
      <style>{`@media print { @page { size: ${width}mm ${height}mm; margin: 0 } }`}</style>
      {createPortal(
        <div className="paper-pages">
          {/* Drawn once, and shown on every sheet. */}
          <svg width="0" height="0" className="absolute" aria-hidden="true">
            <g id={DRAWN}>
              <Plan sheet={plan} design={design} mass={resultIn(evaluation, balance)} />
              <PartNames sheet={plan} items={design.items} />
            </g>
          </svg>
          {tiles.map((t) => (
            <PaperPage key={`${t.row} ${t.column}`} tile={t} tiles={tiles} paper={paper} title={title} />
          ))}
        </div>,
        document.body,
      )}
    </section>
  );
}
