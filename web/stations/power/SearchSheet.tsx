import { proxy } from "comlink";
import { newSlow } from "../../worker/slow";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import type { Dimension } from "../../../core/design/units";
import { DISPLAY, toDisplay } from "../../../core/design/units";
import { parseQuantity } from "../../../core/design/readQuantity";
import type { Candidate, SearchBounds, SearchProgress, SearchResult, SearchTask } from "../../../core/sizing/search";
import {
  type OwnParts,
  type SearchKey,
  type SearchSpace,
  sizeOf,
  spaceAround,
  withChoice,
} from "../../../core/sizing/searchSpace";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { useShelf } from "./shelf/useShelf";

const FIELDS: [key: SearchKey, label: string, dimension: Dimension][] = [
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
const MOST = 60_000;
/** Kinds of one's own parts that a search can be held to, and what of the space they settle. */
const OWN_KINDS: [kind: keyof OwnParts, title: string, settles: SearchKey[]][] = [
  ["motor", "motors", ["kv", "motorMass"]],
  ["controller", "controllers", []],
  ["propeller", "propellers", ["diameter", "pitchRatio", "blades"]],
  ["pack", "packs", ["series", "capacity"]],
];

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

const WIDTH = 420;
const HEIGHT = 210;

/** Endurance against mass of all that is left, size by thrust; a point and its row select each other. */
function ParetoChart({
  list,
  chosen,
  now,
  onChoose,
}: {
  list: Candidate[];
  chosen: number | null;
  now: { auw: number; endurance: number } | null;
  onChoose: (i: number) => void;
}) {
  const finite = list.filter((c) => Number.isFinite(c.endurance));
  const xs = [...finite.map((c) => c.auw), ...(now ? [now.auw] : [])];
  const ys = [...finite.map((c) => c.endurance), ...(now && Number.isFinite(now.endurance) ? [now.endurance] : [])];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const px = (v: number) => 48 + ((v - x0) / (x1 - x0 || 1)) * (WIDTH - 66);
  const py = (v: number) => HEIGHT - 34 - ((v - y0) / (y1 - y0 || 1)) * (HEIGHT - 54);
  const strongest = Math.max(...list.map((c) => c.thrustToWeight), 1e-9);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      className="block bg-sheet"
      role="group"
      aria-label="Candidates: endurance against all-up mass"
    >
      <path d={`M48 10V${HEIGHT - 34}H${WIDTH - 8}`} fill="none" stroke="var(--ink)" />
      {[x0, (x0 + x1) / 2, x1].map((v) => (
        <text
          key={v}
          x={px(v)}
          y={HEIGHT - 20}
          textAnchor="middle"
          className="num"
          style={{ fontSize: 11 }}
          fill="var(--ink2)"
        >
          {Math.round(v * 1000)}
        </text>
      ))}
      {[y0, (y0 + y1) / 2, y1].map((v) => (
        <text
          key={v}
          x="44"
          y={py(v) + (v === y0 ? -2 : 4)}
          textAnchor="end"
          className="num"
          style={{ fontSize: 11 }}
          fill="var(--ink2)"
        >
          {(v / 60).toFixed(0)}
        </text>
      ))}
      <text x={WIDTH / 2} y={HEIGHT - 5} textAnchor="middle" fontSize="11" fill="var(--pencil)">
        all-up mass, g
      </text>
      <text x="52" y="14" fontSize="11" fill="var(--pencil)">
        endurance, min; larger: more thrust for its weight
      </text>
      {list.map((c, i) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: the rows of the table beside it do the same by keyboard
        <circle
          key={JSON.stringify(c.choice)}
          cx={px(c.auw)}
          cy={py(Number.isFinite(c.endurance) ? c.endurance : y1)}
          r={3 + (5 * c.thrustToWeight) / strongest}
          fill={i === chosen ? "var(--accent)" : "var(--part)"}
          fillOpacity="0.85"
          stroke={i === chosen ? "var(--accent)" : "var(--ink)"}
          className="cursor-pointer"
          onClick={() => onChoose(i)}
        />
      ))}
      {now && Number.isFinite(now.endurance) && (
        <g stroke="var(--stop)" strokeWidth="1.6">
          <path d={`M${px(now.auw) - 6} ${py(now.endurance)}h12M${px(now.auw)} ${py(now.endurance) - 6}v12`} />
        </g>
      )}
    </svg>
  );
}

/**
 * Search for a better drive: what may vary, what must hold, then the set that nothing beats, with why the rest fell
 * out.
 */
export function SearchSheet() {
  const { design, evaluation, edit } = useDesk();
  const { habit } = usePreferences();
  const target = (metric: string) => design.brief.targets.find((t) => t.metric === metric)?.value ?? null;
  const [unitId, setUnitId] = useState(design.units[0]?.id ?? "");
  const unit = design.units.find((u) => u.id === unitId) ?? design.units[0];
  const [space, setSpace] = useState<SearchSpace | null>(() => spaceAround(design, unitId));
  const { parts } = useShelf();
  const [held, setHeld] = useState<ReadonlySet<keyof OwnParts>>(new Set());
  const shelf = (kind: keyof OwnParts) => parts.filter((p) => p.kind === kind);
  const own = Object.fromEntries([...held].map((kind) => [kind, shelf(kind)])) as OwnParts;
  const [bounds, setBounds] = useState<SearchBounds>({
    maxMass: target("auw"),
    minEndurance: target("endurance"),
    minThrustToWeight: target("thrustToWeight"),
    maxTipMach: 0.65,
    maxCost: null,
    maxCurrent: null,
    structure: 0.2,
  });
  const [progress, setProgress] = useState<SearchProgress | null>(null);
  const [result, setResult] = useState<SearchResult | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const worker = useRef<ReturnType<typeof newSlow> | null>(null);
  const stop = () => {
    worker.current?.end();
    worker.current = null;
    setProgress(null);
  };
  useEffect(() => () => worker.current?.end(), []);
  if (!space) return <p className="px-4 py-4">Describe a drive and its pack first: the search starts from them.</p>;
  const count = sizeOf(space, own);
  const run = () => {
    stop();
    setResult(null);
    setChosen(null);
    const made = newSlow();
    worker.current = made;
    setProgress({ tried: 0, of: count, found: 0 });
    const task: SearchTask = { design, unitId: unit?.id ?? "", space, bounds, own };
    // What was still on its way when it was stopped tells nothing any more.
    const tell = proxy((p: SearchProgress) => {
      if (worker.current === made) setProgress(p);
    });
    Promise.race([made.slow.search(task, tell), made.broken])
      .then((found) => {
        if (worker.current !== made) return;
        stop();
        setResult(found);
      })
      .catch((error: unknown) => {
        if (worker.current !== made) return;
        stop();
        toast.error(`The search ended: ${error instanceof Error ? error.message : String(error)}`);
      });
  };
  const apply = (c: Candidate) => {
    const next = withChoice(design, unit?.id ?? "", c.choice, bounds.structure);
    const ok = edit((d) => {
      d.items = next.items;
      d.units = next.units;
      d.batteries = next.batteries;
    });
    if (ok === null)
      toast.success(
        "The drive is in the draft. What is not from your shelf is a guess: weigh and measure what you buy.",
      );
  };
  const bound = (
    key: "maxMass" | "minEndurance" | "minThrustToWeight" | "maxCost" | "maxTipMach" | "maxCurrent" | "structure",
    label: string,
    dimension: Dimension,
  ) => (
    <label className="flex items-center justify-between gap-2">
      {label}
      <span className="w-28">
        <QuantityField
          boxed
          label={label}
          value={bounds[key] ?? null}
          dimension={dimension}
          empty="free"
          onCommit={(v) =>
            setBounds({
              ...bounds,
              [key]: key === "structure" ? Math.max(0, v ?? 0) : key === "maxTipMach" ? (v ?? 1) : v,
            })
          }
        />
      </span>
    </label>
  );
  const now = evaluation.metrics.auw
    ? { auw: evaluation.metrics.auw.value, endurance: evaluation.metrics.endurance?.value ?? Number.NaN }
    : null;
  const pick = chosen === null ? null : result?.pareto[chosen];
  return (
    <section
      aria-label="Search"
      className="grid grid-cols-[330px_minmax(0,1fr)] gap-6 px-4 py-3 text-[12px] max-[860px]:grid-cols-[minmax(0,1fr)]"
    >
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
        <table className="mt-1 w-full">
          <tbody>
            {FIELDS.filter(([key]) => !OWN_KINDS.some(([kind, , keys]) => held.has(kind) && keys.includes(key))).map(
              ([key, label, dimension]) => (
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
              ),
            )}
          </tbody>
        </table>
        <h2 className="mt-3">What must hold</h2>
        <div className="mt-1 flex flex-col gap-1">
          {bound("maxMass", "All-up mass at most", "mass")}
          {bound("minEndurance", "Endurance at least", "time")}
          {bound("minThrustToWeight", "Thrust to weight at least", "ratio")}
          {bound("maxCost", "Cost at most", "money")}
          {bound("maxCurrent", "Pack current at most", "current")}
          {bound("maxTipMach", "Tip Mach at most", "ratio")}
          {bound("structure", "Structure for each added g", "ratio")}
        </div>
        <p className="mt-3 flex items-center gap-3">
          {progress ? (
            <button type="button" className="act" onClick={stop}>
              Cancel
            </button>
          ) : (
            <button type="button" className="act act-first" disabled={count > MOST} onClick={run}>
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
      <div className="min-w-0">
        {!result && !progress && (
          <p className="text-pencil">
            Every combination is tried with its own mass: motor, controller, propeller, pack and the structure that
            grows with them.
          </p>
        )}
        {result && (
          <>
            <h2>
              {result.pareto.length === 0
                ? "Nothing holds"
                : `${result.front} that nothing beats${result.front > result.pareto.length ? `, ${result.pareto.length} shown` : ""}`}{" "}
              <span className="text-[12px] font-normal text-pencil">
                of {result.tried} tried, over mass, endurance, thrust, cost and heat
              </span>
            </h2>
            <p className="mt-1" data-knocked>
              Why not the rest:{" "}
              {Object.entries(result.knocked)
                .sort((a, b) => b[1] - a[1])
                .map(([why, n]) => `${why} ${n}`)
                .join(", ") || "none fell out"}
              .
            </p>
            {result.nearest && (
              <p className="mt-1 text-care">
                Nearest: {plain(result.nearest.candidate.choice.diameter, "length", habit)} on{" "}
                {plain(result.nearest.candidate.choice.kv, "kv", habit)},{" "}
                {plain(result.nearest.candidate.auw, "mass", habit)}, falls to {result.nearest.misses}.
              </p>
            )}
            {result.pareto.length > 0 && (
              <div className="mt-2 grid grid-cols-[minmax(0,1fr)_230px] gap-4 max-[1000px]:grid-cols-[minmax(0,1fr)]">
                <ParetoChart list={result.pareto} chosen={chosen} now={now} onChoose={setChosen} />
                <div>
                  {pick ? (
                    <>
                      <h3 className="text-[13px]">Chosen</h3>
                      <table className="mt-1 w-full">
                        <tbody>
                          {FIELDS.map(([key, label, dimension]) => (
                            <tr key={key}>
                              <td>{label}</td>
                              <td className="num text-right">
                                {plain(
                                  pick.choice[key],
                                  dimension,
                                  habit,
                                  key === "series" || key === "count" || key === "blades" ? 0 : undefined,
                                )}
                              </td>
                            </tr>
                          ))}
                          {Object.values(pick.choice.own ?? {}).map((p) => (
                            <tr key={p.kind}>
                              <td>from your shelf</td>
                              <td className="text-right text-ink">{p.name}</td>
                            </tr>
                          ))}
                        </tbody>
                      </table>
                      <button type="button" className="act act-first mt-2" onClick={() => apply(pick)}>
                        Apply to the draft
                      </button>
                    </>
                  ) : (
                    <p className="text-pencil">Choose a point or a row. The red cross is the drive as it is.</p>
                  )}
                </div>
              </div>
            )}
            {result.pareto.length > 0 && (
              <div className="mt-2 max-h-72 overflow-auto">
                <table className="rows w-full whitespace-nowrap">
                  <thead>
                    <tr>
                      <th>propeller</th>
                      <th>motor</th>
                      <th>pack</th>
                      <th className="text-right!">AUW</th>
                      <th className="text-right!">endurance</th>
                      <th className="text-right!">thrust to weight</th>
                      <th className="text-right!">heat</th>
                      <th className="text-right!">about €</th>
                    </tr>
                  </thead>
                  <tbody>
                    {result.pareto.map((c, i) => (
                      <tr
                        key={JSON.stringify(c.choice)}
                        data-candidate={i}
                        className={i === chosen ? "bg-tint-accent" : ""}
                        onClick={() => setChosen(i)}
                      >
                        <td>
                          <button
                            type="button"
                            className="num min-h-6 text-left text-ink"
                            aria-pressed={i === chosen}
                            onClick={() => setChosen(i)}
                          >
                            {c.choice.own?.propeller ? `${c.choice.own.propeller.name} ` : ""}
                            {c.choice.count > 1 ? `${c.choice.count} × ` : ""}
                            {plain(c.choice.diameter, "length", habit, 0)} ×{" "}
                            {(c.choice.pitchRatio * toDisplay(c.choice.diameter, "length", habit)).toFixed(0)}
                            {c.choice.blades > 2 ? `, ${c.choice.blades} blades` : ""}
                          </button>
                        </td>
                        <td className="num">
                          {c.choice.own?.motor ? `${c.choice.own.motor.name}: ` : ""}
                          {plain(c.choice.kv, "kv", habit)}, {plain(c.choice.motorMass, "mass", habit)}
                          {c.choice.ratio === 1 ? "" : `, ${c.choice.ratio}:1`}
                        </td>
                        <td className="num">
                          {c.choice.own?.pack ? `${c.choice.own.pack.name}: ` : ""}
                          {c.choice.series} × {plain(c.choice.capacity, "capacity", habit)}
                        </td>
                        <td className="num text-right">{plain(c.auw, "mass", habit)}</td>
                        <td className="num text-right">
                          {Number.isFinite(c.endurance) ? plain(c.endurance, "time", habit) : "–"}
                        </td>
                        <td className="num text-right">{c.thrustToWeight.toFixed(2)}</td>
                        <td className="num text-right">{Math.round(c.heat * 100)} %</td>
                        <td className="num text-right">{c.cost.toFixed(0)}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
          </>
        )}
      </div>
    </section>
  );
}
