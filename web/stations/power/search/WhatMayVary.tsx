import { moneyHere, usualPrice } from "../../../../core/design/money";
import { proxy } from "comlink";
import type { Dispatch, RefObject, SetStateAction } from "react";
import { useState } from "react";
import { toast } from "sonner";
import { parseQuantity } from "../../../../core/design/readQuantity";
import type { Unit } from "../../../../core/design/schema";
import type { ShelfPart } from "../../../../core/design/shelf";
import type { Dimension } from "../../../../core/design/units";
import { resultIn } from "../../../../core/evaluate";
import { demand } from "../../../../core/subjects/demand/node";
import { DISPLAY, toDisplay } from "../../../../core/design/units";
import type { SearchBounds, SearchProgress, SearchResult, SearchTask } from "../../../../core/sizing/search";
import {
  type OwnParts,
  type SearchKey,
  type SearchSpace,
  sizeOf,
  spaceAround,
} from "../../../../core/sizing/searchSpace";
import { useDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";
import { newSlow } from "../../../worker/slow";

/** A list of values of one kind, typed with commas or spaces between them. */
function ListField({
  label,
  values,
  dimension,
  onCommit,
}: {
  label: string;
  values: number[];
  dimension: Dimension;
  onCommit: (values: number[]) => void;
}) {
  const { habit } = usePreferences();
  const shown = values.map((v) => Number(toDisplay(v, dimension, habit).toPrecision(4))).join(", ");
  const [text, setText] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    if (text === null) return;
    const read = text
      .split(/[;,]\s*|\s+/)
      .filter(Boolean)
      .map((t) => parseQuantity(t, dimension, habit));
    const bad = read.find((r) => !r.ok);
    const list = [...new Set(read.flatMap((r) => (r.ok && r.value > 0 ? [r.value] : [])))].sort((a, b) => a - b);
    if (bad || list.length === 0) {
      setError(bad && !bad.ok ? bad.message : "Accepted: values above zero, with commas between them.");
      return;
    }
    setError(null);
    setText(null);
    onCommit(list);
  };
  return (
    <>
      <input
        className="box num"
        aria-label={label}
        aria-invalid={error !== null}
        value={text ?? shown}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => e.key === "Enter" && commit()}
      />
      {error && (
        <span role="alert" className="block text-[11px] text-stop">
          {error}
        </span>
      )}
    </>
  );
}

/** Kinds of one's own parts that a search can be held to, and what of the space they settle. */
const OWN_KINDS: [kind: keyof OwnParts, title: string, settles: SearchKey[]][] = [
  ["motor", "motors", ["kv", "motorMass"]],
  ["controller", "controllers", []],
  ["propeller", "propellers", ["diameter", "pitchRatio", "blades"]],
  ["pack", "packs", ["series", "capacity"]],
];

const MOST = 60_000;

export const FIELDS: [key: SearchKey, label: string, dimension: Dimension][] = [
  ["diameter", "Diameter", "length"],
  ["pitchRatio", "Pitch over diameter", "ratio"],
  ["blades", "Blades", "count"],
  ["kv", "Kv", "kv"],
  ["motorMass", "Motor mass", "mass"],
  ["ratio", "Reduction", "ratio"],
  ["series", "Cells in series", "count"],
  ["capacity", "Capacity", "capacity"],
  ["count", "Identical drives", "count"],
];

/** The search in a worker of its own: begun anew or stopped, its last answer stands. */
function useSearchRun({
  worker,
  setProgress,
  begin,
  end,
}: {
  worker: RefObject<ReturnType<typeof newSlow> | null>;
  setProgress: (next: SearchProgress | null) => void;
  begin: () => void;
  end: (found: SearchResult) => void;
}) {
  const stop = () => {
    worker.current?.end();
    worker.current = null;
    setProgress(null);
  };
  const run = (task: SearchTask) => {
    stop();
    begin();
    const made = newSlow();
    worker.current = made;
    // What was still on its way when it was stopped tells nothing any more.
    const tell = proxy((p: SearchProgress) => {
      if (worker.current === made) setProgress(p);
    });
    Promise.race([made.slow.search(task, tell), made.broken])
      .then((found) => {
        if (worker.current !== made) return;
        stop();
        end(found);
      })
      .catch((error: unknown) => {
        if (worker.current !== made) return;
        stop();
        toast.error(`The search ended: ${error instanceof Error ? error.message : String(error)}`);
      });
  };
  return { run, stop };
}

/** The values of each size that are tried; what one's own parts settle is not asked. */
function ValuesTried({
  held,
  space,
  setSpace,
}: {
  held: ReadonlySet<keyof OwnParts>;
  space: SearchSpace;
  setSpace: (next: SearchSpace) => void;
}) {
  const { habit } = usePreferences();
  const settled = OWN_KINDS.flatMap(([kind, , keys]) => (held.has(kind) ? keys : []));
  return (
    <table className="mt-1 w-full">
      <tbody>
        {FIELDS.filter(([key]) => !settled.includes(key)).map(([key, label, dimension]) => (
          <tr key={key}>
            <td className="pr-2">
              {label} <span className="text-pencil">{DISPLAY[habit][dimension]}</span>
            </td>
            <td className="w-[200px]">
              <ListField
                label={`Search ${label}`}
                values={space[key]}
                dimension={dimension}
                onCommit={(list) => setSpace({ ...space, [key]: list })}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const BOUNDS = [
  ["maxMass", "All-up mass at most", "mass"],
  ["minEndurance", "Endurance at least", "time"],
  ["minThrustToWeight", "Thrust to weight at least", "ratio"],
  ["maxCost", "Cost at most, at its dearest", "money"],
  ["maxCurrent", "Pack current at most", "current"],
  ["maxTipMach", "Tip Mach at most", "ratio"],
  ["structure", "Structure for each added g", "ratio"],
] as const satisfies [keyof SearchBounds, string, Dimension][];

/** What every candidate must keep. */
function WhatMustHold({ bounds, setBounds }: { bounds: SearchBounds; setBounds: (next: SearchBounds) => void }) {
  const taken = (key: (typeof BOUNDS)[number][0], v: number | null) =>
    key === "structure" ? Math.max(0, v ?? 0) : key === "maxTipMach" ? (v ?? 1) : v;
  return (
    <>
      <h2 className="mt-3">What must hold</h2>
      <div className="mt-1 flex flex-col gap-1">
        {BOUNDS.map(([key, label, dimension]) =>
          key === "maxCost" && usualPrice(1) === null ? (
            <p key={key} className="text-care">
              Cost: say in the workshop what a euro is worth in {moneyHere().currency}. Usual prices are in euros.
            </p>
          ) : (
            <label key={key} className="flex items-center justify-between gap-2">
              {label}
              <span className="w-28">
                <QuantityField
                  boxed
                  label={label}
                  value={bounds[key] ?? null}
                  dimension={dimension}
                  empty="free"
                  onCommit={(v) => setBounds({ ...bounds, [key]: taken(key, v) })}
                />
              </span>
            </label>
          ),
        )}
      </div>
    </>
  );
}

/** Which parts are tried, and what must be kept. */
export function WhatMayVary({
  parts,
  held,
  worker,
  setProgress,
  space,
  setResult,
  setChosen,
  unit,
  bounds,
  setBounds,
  setUnitId,
  setSpace,
  setHeld,
  progress,
}: {
  parts: ShelfPart[];
  held: ReadonlySet<keyof OwnParts>;
  worker: RefObject<ReturnType<typeof newSlow> | null>;
  setProgress: (next: SearchProgress | null) => void;
  space: SearchSpace;
  setResult: (next: SearchResult | null) => void;
  setChosen: (next: number | null) => void;
  unit: Unit | undefined;
  bounds: SearchBounds;
  setBounds: (next: SearchBounds) => void;
  setUnitId: (next: string) => void;
  setSpace: (next: SearchSpace | null) => void;
  setHeld: Dispatch<SetStateAction<ReadonlySet<keyof OwnParts>>>;
  progress: SearchProgress | null;
}) {
  const { design, evaluation } = useDesk();
  const levelDrag = resultIn(evaluation, demand)?.levelDrag ?? null;
  const shelf = (kind: keyof OwnParts) => parts.filter((p) => p.kind === kind);
  const own = Object.fromEntries([...held].map((kind) => [kind, shelf(kind)])) as OwnParts;
  const count = sizeOf(space, own);
  const { run, stop } = useSearchRun({
    worker,
    setProgress,
    begin: () => {
      setResult(null);
      setChosen(null);
      setProgress({ tried: 0, of: count, found: 0 });
    },
    end: setResult,
  });
  return (
    <div>
      <h2>What may vary</h2>
      <p className="text-pencil">
        Generic parts by scaling laws, replacing {unit?.name} and its pack. One value holds a thing fixed.
      </p>
      {design.units.length > 1 && (
        <label className="mt-1 flex items-center gap-2">
          Drive
          <select
            className="box"
            aria-label="Drive to search"
            value={unit?.id}
            onChange={(e) => {
              setUnitId(e.target.value);
              setSpace(spaceAround(design, e.target.value));
              setResult(null);
            }}
          >
            {design.units.map((u) => (
              <option key={u.id} value={u.id}>
                {u.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <p className="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label="Only from your shelf">
        Only from your shelf:
        {OWN_KINDS.map(([kind, title]) => (
          <button
            key={kind}
            type="button"
            className={`chip ${held.has(kind) ? "chip-on" : ""}`}
            aria-pressed={held.has(kind)}
            disabled={shelf(kind).length === 0}
            onClick={() =>
              setHeld((now) => new Set(now.has(kind) ? [...now].filter((k) => k !== kind) : [...now, kind]))
            }
          >
            {title} {shelf(kind).length}
          </button>
        ))}
      </p>
      <ValuesTried held={held} space={space} setSpace={setSpace} />
      <WhatMustHold bounds={bounds} setBounds={setBounds} />
      <p className="mt-3 flex items-center gap-3">
        {progress ? (
          <button type="button" className="act" onClick={stop}>
            Cancel
          </button>
        ) : (
          <button
            type="button"
            className="act act-first"
            disabled={count > MOST}
            onClick={() => run({ design, unitId: unit?.id ?? "", space, bounds, own, levelDrag })}
          >
            Search {count}
          </button>
        )}
        {count > MOST && <span className="text-stop">At most {MOST} combinations: hold something fixed.</span>}
        {progress && (
          <span role="status">
            <progress value={progress.tried} max={progress.of} className="w-24 align-middle accent-[var(--accent)]" />{" "}
            {progress.tried} of {progress.of}, {progress.found} hold
          </span>
        )}
      </p>
    </div>
  );
}
