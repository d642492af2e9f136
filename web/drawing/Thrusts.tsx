import { usePreferences } from "../app/preferences";
import { useDrag } from "@use-gesture/react";
import { resultIn } from "../../core/evaluate";
import { propulsion } from "../../core/subjects/propulsion/node";
import { type PlacedUnit, placedUnits } from "../../core/subjects/propulsion/placed";
import { plain } from "../../core/wording/format";
import { useDesk, useDeskActions } from "../app/desk";
import { ACROSS, type Sheet, UP, type ViewName } from "./scale";

const LENGTH = 40;
/** Share of its length that an arrow keeps on the sheet before it is drawn as pointing out of it or into it. */
const FLAT = 0.35;
/** The line of thrust is drawn on behind the arrow, px. */
const BEHIND = 220;
/** Where a unit may be dragged to, m. */
const FAR = 100;

/** Full thrust of each drive where its units are, in every view; those that were placed one by one can be dragged. */
export function Thrusts({ sheet, view }: { sheet: Sheet; view: ViewName }) {
  const { habit } = usePreferences();
  const { seen: design, evaluation, frozen } = useDesk();
  const result = resultIn(evaluation, propulsion);
  if (!result) return null;
  return result.drives.flatMap(({ values, name }, drive) => {
    const unit = design.units[drive];
    const text = plain(values.thrust, "force", habit, values.thrust < 1 ? 2 : 1);
    // Units that lie behind one another in this view are drawn once.
    const seen = new Set<string>();
    return placedUnits(design, drive).flatMap((placed) => {
      const spot = [ACROSS[view].axis, UP[view]].map((axis) => Math.round(placed.at[axis] * 1000)).join();
      if (seen.has(spot) && !unit?.places.length) return [];
      seen.add(spot);
      return [
        <g key={`${drive}-${placed.k}`}>
          <Arrow sheet={sheet} view={view} placed={placed} text={placed.k === 0 ? text : null} />
          {unit && unit.places.length > 0 && !frozen && (
            <Handle sheet={sheet} view={view} placed={placed} label={`${name}, unit ${placed.k + 1}`} />
          )}
        </g>,
      ];
    });
  });
}

function Arrow({
  sheet,
  view,
  placed: { at, toward },
  text,
}: {
  sheet: Sheet;
  view: ViewName;
  placed: PlacedUnit;
  text: string | null;
}) {
  const { axis, sign } = ACROSS[view];
  const up = UP[view];
  const [x, y] = [sheet.px(view, at[axis]), sheet.py(view, at[up])];
  const [dx, dy] = [sign * toward[axis], -toward[up]];
  const shown = Math.hypot(dx, dy);
  if (shown < FLAT) {
    // Seen from the front of the view: out of the sheet a dot, into it a cross.
    const towards = { side: -toward.y, top: toward.z, front: -toward.x }[view] > 0;
    return (
      <g pointerEvents="none" stroke="var(--accent)" fill="none" strokeWidth="1.6">
        <circle cx={x} cy={y} r="6" />
        {towards ? (
          <circle cx={x} cy={y} r="1.8" fill="var(--accent)" stroke="none" />
        ) : (
          <path d={`M${x - 4} ${y - 4}l8 8M${x + 4} ${y - 4}l-8 8`} />
        )}
      </g>
    );
  }
  const [ex, ey] = [x + dx * LENGTH, y + dy * LENGTH];
  const [ux, uy] = [dx / shown, dy / shown];
  const along = Math.abs(dx) > 0.5 && view !== "front";
  return (
    <g pointerEvents="none" stroke="var(--accent)" fill="var(--accent)">
      <path d={`M${x} ${y}L${ex} ${ey}`} strokeWidth="2.5" />
      <path
        d={`M${ex + ux * 8} ${ey + uy * 8}L${ex - uy * 4} ${ey + ux * 4}L${ex + uy * 4} ${ey - ux * 4}z`}
        stroke="none"
      />
      {along && view === "side" && text !== null && (
        <path
          d={`M${x} ${y}L${x - ux * BEHIND} ${y - uy * BEHIND}`}
          strokeWidth="0.8"
          strokeDasharray="7 3 2 3"
          stroke="var(--pencil)"
        />
      )}
      {text !== null && view !== "front" && (
        <text
          x={Math.max(along ? ex - 6 : ex + 8, 4)}
          y={along ? ey - 10 : ey + 4}
          stroke="none"
          className="num"
          style={{ fontSize: 11, fontWeight: 600 }}
        >
          {text}
        </text>
      )}
    </g>
  );
}

/** What a placed unit is taken by: it goes with the pointer in the two axes of its view. */
function Handle({
  sheet,
  view,
  placed: { drive, k, at },
  label,
}: {
  sheet: Sheet;
  view: ViewName;
  placed: PlacedUnit;
  label: string;
}) {
  const { edit } = useDeskActions();
  const { axis, sign } = ACROSS[view];
  const up = UP[view];
  const bind = useDrag(
    ({ movement: [mx, my], memo }: { movement: [number, number]; memo?: { a: number; u: number; key: string } }) => {
      const start = memo ?? { a: at[axis], u: at[up], key: `unit-${drive}-${k}-${Date.now()}` };
      const kept = (m: number) => Math.min(FAR, Math.max(-FAR, Number(m.toFixed(4))));
      if (mx !== 0 || my !== 0)
        edit((d) => {
          const place = d.units[drive]?.places[k];
          if (!place) return;
          place.at[axis] = kept(start.a + (sign * mx) / sheet.scale);
          place.at[up] = kept(start.u - my / sheet.scale);
        }, start.key);
      return start;
    },
    { filterTaps: true, pointer: { keys: false } },
  );
  return (
    <circle
      {...bind()}
      cx={sheet.px(view, at[axis])}
      cy={sheet.py(view, at[up])}
      r="9"
      fill="var(--accent)"
      fillOpacity="0.12"
      stroke="var(--accent)"
      strokeWidth="1"
      style={{ cursor: "move", touchAction: "none" }}
      data-unit={`${drive}-${k}`}
    >
      <title>{`${label}: drag it to its place`}</title>
    </circle>
  );
}
