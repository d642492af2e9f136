import { useMemo, useState } from "react";
import { toast } from "sonner";
import { resultIn } from "../../../core/evaluate";
import { AIMS, type Aim, bestOf } from "../../../core/sizing/rank";
import type { Candidate, SearchBounds, SearchProgress, SearchResult } from "../../../core/sizing/search";
import type { OwnParts } from "../../../core/sizing/searchParts";
import { type SearchSpace, setsOf, sizeOf, spaceAround } from "../../../core/sizing/searchSpace";
import type { Unit } from "../../../core/design/schema";
import { propulsion } from "../../../core/subjects/propulsion/node";
import { demand } from "../../../core/subjects/demand/node";
import { plain } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { Chosen } from "./search/Chosen";
import { FoundPlot } from "./search/FoundPlot";
import { FoundTable, Motors, Shaft } from "./search/FoundTable";
import { MayVarySaid, WhatMayVary } from "./search/WhatMayVary";
import { MustHoldSaid, WhatMustHold } from "./search/WhatMustHold";
import { useSearchRun } from "./search/useSearchRun";
import { type Sets, ownKindsOf, setsOn } from "./search/varied";
import { useShelf } from "./shelf/useShelf";

const MOST = 60_000;
/** How many are named first. */
const DOZEN = 12;

const AIM_WORDS: Record<Aim, string> = {
  lighter: "lighter",
  longer: "longer",
  stronger: "more thrust",
  cooler: "cooler",
  cheaper: "cheaper",
};

/** What matters most: what is found is ordered by it. */
function WhatMatters({ aims, setAims }: { aims: readonly Aim[]; setAims: (next: Aim[]) => void }) {
  return (
    <div className="flex flex-wrap items-center gap-1" role="group" aria-label="What matters most">
      <b className="mr-1 text-[13px] text-ink">What matters most?</b>
      {AIMS.map((aim) => (
        <button
          key={aim}
          type="button"
          className={`chip ${aims.includes(aim) ? "chip-on" : ""}`}
          aria-pressed={aims.includes(aim)}
          onClick={() => setAims(AIMS.filter((a) => (a === aim ? !aims.includes(a) : aims.includes(a))))}
        >
          {AIM_WORDS[aim]}
        </button>
      ))}
      {aims.length === 0 && <span className="text-pencil">nothing chosen: all five alike</span>}
    </div>
  );
}

const listed = (names: readonly string[]) =>
  `${names.slice(0, 3).join(", ")}${names.length > 3 ? ` and ${names.length - 3} more` : ""}`;

/** What all of it leaves open: what nobody can tell, what has no mass, what Power is not sure of. */
function LeftOpen({ result, units }: { result: SearchResult; units: readonly Unit[] }) {
  const { evaluation } = useDesk();
  const drives = resultIn(evaluation, propulsion);
  const asked = resultIn(evaluation, demand)?.incomplete ?? [];
  const open = [...(drives?.unknown ?? []), ...(drives?.incomplete ?? [])];
  const said: [of: string, text: string][] = [
    ...(result.noTime
      ? [["time", `Time is open: ${result.noTime}. None was dropped for being short of it.`] as [string, string]]
      : []),
    ...(result.unweighed.length > 0
      ? [
          [
            "mass",
            `What is on the shaft of ${listed(result.unweighed)} has no mass in the parts list: every ` +
              "AUW here leaves out how it grows. List it under Layout.",
          ] as [string, string],
        ]
      : []),
    ...(result.unlisted.length > 0
      ? [
          [
            "motors",
            `The motors of ${listed(result.unlisted)} have no entry of their own in the parts list: those chosen, ` +
              "with their controllers, come on top. Where another entry holds the old ones, take them out of it.",
          ] as [string, string],
        ]
      : []),
    ...(result.massless.length > 0
      ? [
          [
            "parts",
            `Without a mass, and left out of every AUW: ${listed(result.massless)}. Weigh them before you buy by it.`,
          ] as [string, string],
        ]
      : []),
    ...(asked.length > 0 ? [["duty", `The time of all of these is open: ${listed(asked)}.`] as [string, string]] : []),
    ...(open.length > 0
      ? [["drives", `Open of the drives as they are, and of all of these: ${listed(open)}.`] as [string, string]]
      : []),
    ...(units.some((u) => u.measured)
      ? [
          [
            "scaled",
            "On other cells its push is scaled from its measured curve, less surely the farther: weigh " +
              "it on the pack you choose. Prices are those of the pack alone.",
          ] as [string, string],
        ]
      : units.some((u) => u.propulsor)
        ? [["price", "Prices leave out what is on the shaft: nobody can tell a usual one."] as [string, string]]
        : []),
  ];
  return said.map(([of, text]) => (
    <p key={of} className="mt-1 text-care" data-open={of}>
      {text}
    </p>
  ));
}

/** What fell out and why, and what came nearest where nothing holds. */
function FoundWords({ result, sets }: { result: SearchResult; sets: Sets }) {
  const { habit } = usePreferences();
  const { nearest } = result;
  return (
    <>
      <p className="mt-1" data-knocked>
        Why not the rest:{" "}
        {Object.entries(result.knocked)
          .sort((a, b) => b[1] - a[1])
          .map(([why, n]) => `${why} ${n}`)
          .join(", ") || "none fell out"}
        .
      </p>
      <LeftOpen result={result} units={sets.drives.flat()} />
      {nearest && (
        <p className="mt-1 text-care">
          Nearest: <Shaft c={nearest.candidate} sets={sets} /> on <Motors c={nearest.candidate} sets={sets} />,{" "}
          {plain(nearest.candidate.auw, "mass", habit)}, falls to {nearest.misses}.
        </p>
      )}
    </>
  );
}

/** What was found: the plot, the chosen one, and the dozen nearest to what matters. */
function Found({
  result,
  aims,
  bounds,
  ids,
}: {
  result: SearchResult;
  aims: readonly Aim[];
  bounds: SearchBounds;
  ids: readonly (readonly string[])[];
}) {
  const { seen: design, evaluation } = useDesk();
  const [chosen, setChosen] = useState<Candidate | null>(null);
  const [every, setEvery] = useState(false);
  const sets = setsOn(design, ids);
  const ranked = useMemo(() => bestOf(result.pareto, aims, result.pareto.length), [result, aims]);
  const named = ranked.slice(0, DOZEN);
  const { auw, endurance, thrustToWeight } = evaluation.metrics;
  const now = auw && {
    auw: auw.value,
    endurance: endurance?.value ?? Number.NaN,
    thrustToWeight: thrustToWeight?.value ?? Number.NaN,
  };
  const left = result.front > result.pareto.length ? `, ${result.pareto.length} kept` : "";
  return (
    <div className="mt-3">
      <h2>
        {result.pareto.length === 0 ? "Nothing holds" : `${result.front} that nothing beats${left}`}{" "}
        <span className="text-[12px] font-normal text-pencil">
          of {result.tried} tried, over mass, endurance, thrust, cost and heat
        </span>
      </h2>
      <FoundWords result={result} sets={sets} />
      {result.pareto.length > 0 && (
        <>
          <div className="mt-2">
            <FoundPlot
              named={named}
              all={result.pareto}
              chosen={chosen}
              now={now ?? null}
              bounds={bounds}
              timed={result.noTime === null}
              onChoose={setChosen}
            />
          </div>
          {chosen ? (
            <Chosen pick={chosen} sets={sets} structure={bounds.structure} />
          ) : (
            <p className="mt-2 text-pencil">Choose a point or a row to see its parts and put it into the draft.</p>
          )}
          <FoundTable list={every ? ranked : named} sets={sets} chosen={chosen} setChosen={setChosen} />
          {ranked.length > DOZEN && (
            <button type="button" className="link mt-1 min-h-6" onClick={() => setEvery(!every)}>
              {every ? `Show the ${DOZEN} nearest` : `Show all ${ranked.length}`}
            </button>
          )}
        </>
      )}
    </div>
  );
}

/** What was asked of the search, so that what it found is read against that. */
interface Asked {
  result: SearchResult;
  bounds: SearchBounds;
  ids: string[][];
}

/**
 * Search for a better drive: what matters, what may vary and what must hold; then a plot of all that nothing beats,
 * and the dozen nearest to what matters.
 */
export function SearchSheet() {
  const { seen: design, evaluation } = useDesk();
  const target = (metric: string) => design.brief.targets.find((t) => t.metric === metric)?.value ?? null;
  const [ids, setIds] = useState(() => design.units.slice(0, 1).map((u) => [u.id]));
  const sets = setsOn(design, ids);
  const [space, setSpace] = useState<SearchSpace | null>(() => spaceAround(design, ids));
  const { parts } = useShelf();
  const [held, setHeld] = useState<ReadonlySet<keyof OwnParts>>(new Set());
  const [aims, setAims] = useState<Aim[]>([]);
  const [bounds, setBounds] = useState<SearchBounds>({
    maxMass: target("auw"),
    minEndurance: target("endurance"),
    minThrustToWeight: target("thrustToWeight"),
    maxTipMach: 0.65,
    maxCost: null,
    maxCurrent: null,
    structure: 0.2,
  });
  const [asking, setAsking] = useState(true);
  const [progress, setProgress] = useState<SearchProgress | null>(null);
  const [found, setFound] = useState<Asked | null>(null);
  const kinds = ownKindsOf(sets.drives.flat()).map(([kind]) => kind);
  const own = Object.fromEntries(
    [...held].filter((k) => kinds.includes(k)).map((kind) => [kind, parts.filter((p) => p.kind === kind)]),
  ) as OwnParts;
  const count = space ? sizeOf(design, space, own) : 0;
  const { run, stop } = useSearchRun({
    setProgress,
    begin: () => {
      setFound(null);
      setAsking(false);
      setProgress({ tried: 0, of: count, found: 0 });
    },
    end: (result) => setFound({ result, bounds, ids }),
  });
  if (!space) return <p className="px-4 py-4">Describe a drive and its pack first: the search starts from them.</p>;
  const levelDrag = resultIn(evaluation, demand)?.levelDrag ?? null;
  const said = (what: React.ReactNode) => (!asking ? <span className="text-pencil"> {what}</span> : null);
  return (
    <section aria-label="Search" className="px-4 py-3 text-[12px]">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <WhatMatters aims={aims} setAims={setAims} />
        <span className="flex flex-wrap items-center gap-3">
          {progress ? (
            <button
              type="button"
              className="act"
              onClick={() => {
                stop();
                setAsking(true);
              }}
            >
              Cancel
            </button>
          ) : (
            <button
              type="button"
              className="act act-first"
              disabled={count > MOST || count === 0}
              onClick={() => run({ design, space, bounds, own, levelDrag })}
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
        </span>
      </div>
      <div
        className={
          asking ? "mt-2 grid grid-cols-[minmax(0,1fr)_300px] gap-6 max-[860px]:grid-cols-[minmax(0,1fr)]" : "mt-1"
        }
      >
        <details open={asking} onToggle={(e) => setAsking(e.currentTarget.open)}>
          <summary className="min-h-6 cursor-pointer text-ink">
            <span>
              <b>What may vary</b>
              {said(<MayVarySaid sets={sets} space={space} />)}
            </span>
          </summary>
          <WhatMayVary
            parts={parts}
            held={held}
            setHeld={setHeld}
            sets={sets}
            chooseDrives={(chosen, apart) => {
              const next = setsOf(design, chosen, apart);
              const around = spaceAround(design, next);
              if (!around) return void toast.error("One of these drives is on no pack in this state: choose others.");
              setIds(next);
              setSpace(around);
              setFound(null);
            }}
            space={space}
            setSpace={setSpace}
          />
        </details>
        <details open={asking} onToggle={(e) => setAsking(e.currentTarget.open)}>
          <summary className="min-h-6 cursor-pointer text-ink">
            <span>
              <b>What must hold</b>
              {said(<MustHoldSaid bounds={bounds} />)}
            </span>
          </summary>
          <WhatMustHold bounds={bounds} setBounds={setBounds} />
        </details>
      </div>
      {!found && !progress && (
        <p className="mt-3 text-pencil">
          Every combination is tried with its own mass: motor, controller, what is on the shaft, pack and the structure
          that grows with them.
        </p>
      )}
      {found && <Found {...found} aims={aims} />}
    </section>
  );
}
