import { useMemo } from "react";
import { useSearchParams } from "react-router";
import type { Version } from "../../../core/design/craftFile";
import { baselineOf } from "../../../core/lineage/baseline";
import { placeTree } from "../../../core/lineage/tree";
import { reach } from "../../app/VersionTrack";
import { Post } from "../../glyphs/Post";
import { useDesk } from "../../app/desk";

const WIDTH = 148;
const HEIGHT = 104;
const LANE = 46;
/** Place of a post's foot inside its plank. */
const FOOT = { x: 15, y: HEIGHT - 14 };

const FATE: Record<Version["fate"]["state"], string> = {
  going: "",
  paused: "paused",
  stopped: "stopped",
  salvaged: "salvaged",
};

/**
 * The lineage as a tree: each version a post on its plank, branches on raised planks, the last working baseline
 * marked, pauses and ends said.
 */
export function Lineage({ from }: { from: string }) {
  const { file, version, go } = useDesk();
  const [, setSearch] = useSearchParams();
  const placed = useMemo(() => placeTree(file.versions), [file.versions]);
  const baseline = baselineOf(file, version.label)?.label;
  const lanes = Math.max(...placed.map((p) => p.lane)) + 1;
  const height = HEIGHT + (lanes - 1) * LANE + 6;
  const at = new Map(
    placed.map((p) => [p.label, { x: p.column * WIDTH + FOOT.x, y: (lanes - 1 - p.lane) * LANE + FOOT.y }]),
  );
  return (
    <section aria-label="Lineage" className="overflow-x-auto border-b border-hair bg-sheet px-4 py-3">
      <div className="relative" style={{ width: placed.length * WIDTH, height }}>
        <svg className="absolute inset-0" width={placed.length * WIDTH} height={height} aria-hidden="true">
          {placed.map((p) => {
            const here = at.get(p.label);
            const parent = p.parent === null ? undefined : at.get(p.parent);
            if (!here) return null;
            const draft = file.versions.find((v) => v.label === p.label)?.frozenAt === null;
            const turn = here.x - 14;
            return (
              <g
                key={p.label}
                stroke={draft ? "var(--pencil)" : "var(--ink)"}
                strokeWidth="2"
                fill="none"
                strokeDasharray={draft ? "4 3" : undefined}
              >
                {parent &&
                  (parent.y === here.y ? (
                    <path d={`M${parent.x} ${parent.y}H${here.x}`} />
                  ) : (
                    <path d={`M${turn - 10} ${parent.y}L${turn} ${here.y}H${here.x}`} />
                  ))}
                <path d={`M${here.x} ${here.y}h${WIDTH - 40}`} />
              </g>
            );
          })}
        </svg>
        {placed.map((p) => {
          const v = file.versions[p.column];
          const place = at.get(p.label);
          if (!v || !place) return null;
          const own = file.runs.filter((r) => r.version === v.label).length;
          const here = v.label === version.label;
          return (
            <button
              type="button"
              key={v.label}
              onClick={() => (here ? undefined : setSearch({ from: v.label }))}
              onDoubleClick={() => go({ label: v.label })}
              aria-pressed={v.label === from}
              data-version={v.label}
              data-lane={p.lane}
              className={
                "absolute flex items-end gap-2 pr-1 text-left " +
                `${here ? "border-t-[3px] border-accent" : v.label === from ? "border-t-[3px] border-pencil" : "border-t-[3px] border-transparent"}`
              }
              style={{ left: place.x - 7, top: place.y - FOOT.y, width: WIDTH - 12, height: FOOT.y + 4 }}
            >
              <Post {...reach(file, v.label)} draft={v.frozenAt === null} />
              <span className="mb-3 min-w-0 self-start">
                <b className={`text-[15px] ${here ? "text-accent" : "text-ink"}`}>{v.label}</b>{" "}
                <span className="text-[11px] text-pencil">{v.frozenAt?.slice(0, 10) ?? "draft"}</span>
                <span className="line-clamp-2 text-[11px] italic leading-[13px]">{v.question}</span>
                <span className="line-clamp-2 text-[11px] font-semibold leading-[13px] text-ink">{v.finding}</span>
                <span className="block text-[11px] leading-[13px] text-pencil">
                  {own} {own === 1 ? "run" : "runs"}
                  {v.label === baseline && <b className="text-clear">, last that worked</b>}
                  {FATE[v.fate.state] && <b className="text-care">, {FATE[v.fate.state]}</b>}
                </span>
              </span>
            </button>
          );
        })}
      </div>
    </section>
  );
}
