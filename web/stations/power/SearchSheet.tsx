import { useEffect, useRef, useState } from "react";
import type { SearchBounds, SearchProgress, SearchResult } from "../../../core/sizing/search";
import { type OwnParts, type SearchSpace, spaceAround } from "../../../core/sizing/searchSpace";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import type { newSlow } from "../../worker/slow";
import { FoundPlot, FoundTable } from "./search/Found";
import { WhatMayVary } from "./search/WhatMayVary";
import { useShelf } from "./shelf/useShelf";

/**
 * Search for a better drive: what may vary, what must hold, then the set that nothing beats, with why the rest fell
 * out.
 */
export function SearchSheet() {
  const { seen: design } = useDesk();
  const { habit } = usePreferences();
  const target = (metric: string) => design.brief.targets.find((t) => t.metric === metric)?.value ?? null;
  const [unitId, setUnitId] = useState(design.units[0]?.id ?? "");
  const unit = design.units.find((u) => u.id === unitId) ?? design.units[0];
  const [space, setSpace] = useState<SearchSpace | null>(() => spaceAround(design, unitId));
  const { parts } = useShelf();
  const [held, setHeld] = useState<ReadonlySet<keyof OwnParts>>(new Set());
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
  useEffect(() => () => worker.current?.end(), []);
  if (!space) return <p className="px-4 py-4">Describe a drive and its pack first: the search starts from them.</p>;
  return (
    <section
      aria-label="Search"
      className="grid grid-cols-[330px_minmax(0,1fr)] gap-6 px-4 py-3 text-[12px] max-[860px]:grid-cols-[minmax(0,1fr)]"
    >
      <WhatMayVary
        parts={parts}
        held={held}
        worker={worker}
        setProgress={setProgress}
        space={space}
        setResult={setResult}
        setChosen={setChosen}
        unit={unit}
        bounds={bounds}
        setBounds={setBounds}
        setUnitId={setUnitId}
        setSpace={setSpace}
        setHeld={setHeld}
        progress={progress}
      />
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
              <FoundPlot unit={unit} bounds={bounds} chosen={chosen} result={result} setChosen={setChosen} />
            )}
            {result.pareto.length > 0 && <FoundTable result={result} chosen={chosen} setChosen={setChosen} />}
          </>
        )}
      </div>
    </section>
  );
}
