import { useState } from "react";
import { useSearchParams } from "react-router";
import { type Bench, WEIGH_IN_KINDS, type WeighInKind, testOf } from "../../../core/design/bench";
import { TEST_KINDS, type TestKind } from "../../../core/bench/haves";
import { isStale } from "../../../core/bench/stale";
import { KIND_TELLS, KIND_WORD } from "../../../core/wording/bench";
import { HalfList } from "../../app/HalfLine";
import { useDesk } from "../../app/desk";
import { BenchStart } from "./BenchStart";
import { CalibrationSession } from "./CalibrationSession";
import { CompareSheet } from "./CompareSheet";
import { FastThrottleSession } from "./FastThrottleSession";
import { FreeSession } from "./FreeSession";
import { GlideSession } from "./GlideSession";
import { MomentSession } from "./moment/MomentSession";
import { PullsSession } from "./pulls/PullsSession";
import { ThrustSession } from "./thrust/ThrustSession";
import { benchFormName, code } from "./useSession";
import { WeighInSession } from "./weigh/WeighInSession";

const OTHERS = {
  sweep: ["Thrust sweep", "thrust, power, the model's error"],
  pulls: ["Pulls in turns", "what the lid takes, which corner is weak"],
  "fast-throttle": ["Fast throttle", "what cuts out, and why"],
  glide: ["Glide", "drag, and how it is trimmed"],
  moment: ["Turning moment", "what turns it, and what answers"],
  free: ["Readings of your own", "any number against any other"],
  calibration: ["Instrument", "how far a meter is off"],
  compare: ["Compare sweeps", "which is better, and by how much"],
} as const;
type Other = keyof typeof OTHERS;
type Kind = WeighInKind | Other;

const TITLES = {
  ...KIND_WORD,
  ...Object.fromEntries(Object.entries(OTHERS).map(([k, [title]]) => [k, title])),
} as Record<Kind, string>;

const WORDS = {
  ...Object.fromEntries(WEIGH_IN_KINDS.map((k) => [k, { title: KIND_WORD[k], tells: KIND_TELLS[k] }])),
  ...Object.fromEntries(TEST_KINDS.map((k) => [k, { title: OTHERS[k][0], tells: OTHERS[k][1] }])),
} as Record<TestKind, { title: string; tells: string }>;

/** What a session is called. */
function nameOf(b: Bench): string {
  if (b.weighIn) return KIND_WORD[b.weighIn.kind];
  if (b.thrust) return `Thrust sweep, ${b.thrust.readings.length} readings`;
  if (b.fastThrottle) return "Fast throttle";
  if (b.glide) return `Glide, ${b.glide.passes.length} ${b.glide.passes.length === 1 ? "pass" : "passes"}`;
  if (b.moment) return `Moment about ${b.moment.axis}, ${b.moment.role}`;
  if (b.pulls) return `Pulls, ${b.pulls.of}`;
  if (b.free) return b.free.question || "Readings of your own";
  return `Instrument: ${b.calibration?.instrument ?? ""}`;
}

/**
 * Bench: weigh-ins, thrust sweeps, fast-throttle and glide tests, readings of one's own and calibrations of this
 * version, in one list with one search.
 */
export function BenchStation() {
  const { slug, file, version, design } = useDesk();
  const [search, setSearch] = useSearchParams();
  const [wanted, setWanted] = useState("");
  const own = file.bench.filter((b) => b.version === version.label);
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const sessions = own.filter((b) =>
    words.every((w) => `${code(b.number)} ${nameOf(b)} ${b.date} ${b.notes} ${b.adopted}`.toLowerCase().includes(w)),
  );
  const open = own.find((b) => b.number === Number(search.get("session"))) ?? null;
  const asked = search.get("new");
  const kind: Kind | null =
    WEIGH_IN_KINDS.find((k) => k === asked) ?? (asked !== null && asked in OTHERS ? (asked as Other) : null) ?? null;
  const starts = asked === "begin" || (kind === null && own.length === 0);
  const shown = open ?? (kind === null && !starts ? (own.at(-1) ?? null) : null);
  const onOpen = (n: number | null) => setSearch(n === null ? {} : { session: String(n) });
  const heading = shown ? `${code(shown.number)} ${nameOf(shown)}` : kind ? TITLES[kind] : "What do you have?";
  const entry = (k: Kind, title: string, tells: string) => (
    <li key={k}>
      <button
        type="button"
        aria-current={!shown && kind === k ? "true" : undefined}
        className={`block min-h-8 w-full py-1 text-left ${!shown && kind === k ? "font-semibold text-accent" : "text-ink"}`}
        onClick={() => setSearch({ new: k })}
      >
        {title}
        <span className="block text-[11px] font-normal text-pencil">{tells}</span>
      </button>
    </li>
  );
  const list =
    "mt-1 max-[640px]:flex max-[640px]:overflow-x-auto max-[640px]:whitespace-nowrap max-[640px]:[&>li]:pr-4";
  return (
    <div className="flex min-h-full max-[640px]:flex-col">
      <aside
        className={
          "no-print w-[184px] shrink-0 border-r border-hair px-4 py-4 max-[640px]:w-full " +
          "max-[640px]:border-b max-[640px]:border-r-0"
        }
      >
        <ul className={list}>
          <li>
            <button
              type="button"
              aria-current={!shown && starts ? "true" : undefined}
              className={
                "block min-h-8 w-full py-1 text-left " +
                `${!shown && starts ? "font-semibold text-accent" : "text-ink"}`
              }
              onClick={() => setSearch({ new: "begin" })}
            >
              What do you have?
              <span className="block text-[11px] font-normal text-pencil">and what it can tell</span>
            </button>
          </li>
        </ul>
        <h2 className="mt-3">Weigh in</h2>
        <ul className={list}>{WEIGH_IN_KINDS.map((k) => entry(k, KIND_WORD[k], `tells ${KIND_TELLS[k]}`))}</ul>
        <h2 className="mt-3">Tests</h2>
        <ul className={list}>{(Object.keys(OTHERS) as Other[]).map((k) => entry(k, OTHERS[k][0], OTHERS[k][1]))}</ul>
        <h2 className="mt-4">Sessions of {version.label}</h2>
        <HalfList
          slug={slug}
          version={version.label}
          open={shown || kind ? benchFormName(shown, kind ?? "") : null}
          name={(form) => {
            if (!form.startsWith("bench ")) return null;
            const which = form.slice(6);
            const kept = own.find((b) => String(b.number) === which);
            return kept ? `${code(kept.number)} ${nameOf(kept)}` : which in TITLES ? TITLES[which as Kind] : null;
          }}
          onOpen={(form) => {
            const which = form.slice(6);
            setSearch(which in TITLES ? { new: which } : { session: which });
          }}
        />
        {own.length > 3 && (
          <input
            type="search"
            className="box mt-1"
            aria-label="Search sessions"
            placeholder="search"
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
          />
        )}
        {sessions.length === 0 && (
          <p className="text-[12px] text-pencil">{own.length === 0 ? "none yet" : "none found"}</p>
        )}
        <ul aria-label="Sessions" className="max-[640px]:max-h-32 max-[640px]:overflow-y-auto">
          {sessions.toReversed().map((b) => (
            <li key={b.number} className="border-b border-hair">
              <button
                type="button"
                aria-current={b === shown ? "true" : undefined}
                className={`block min-h-8 w-full py-1 text-left text-[12px] ${b === shown ? "text-accent" : "text-ink"}`}
                onClick={() => onOpen(b.number)}
              >
                <b className="num">{code(b.number)}</b> {nameOf(b)}
                <span className="block text-[11px] text-pencil">
                  {b.date.slice(0, 10)}
                  {isStale(b, design) ? ", stale" : b.adopted ? ", adopted" : ""}
                  {b.files.length > 0 ? `, ${b.files.length} ${b.files.length === 1 ? "picture" : "pictures"}` : ""}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </aside>
      <div className="min-w-0 flex-1 px-4 py-4">
        <h2 className="mb-3 border-b border-ink pb-2 text-[18px]">
          {heading}
          {shown && (
            <span className="ml-3 text-[13px] font-normal text-pencil">
              {shown.date.slice(0, 16).replace("T", ", ")}
            </span>
          )}
        </h2>
        {!shown && starts ? (
          <BenchStart words={WORDS} onBegin={(k) => setSearch({ new: k })} />
        ) : (
          <OpenTest shown={shown} kind={kind} onOpen={onOpen} />
        )}
      </div>
    </div>
  );
}

/** The form of a session that was kept, or of a new one. */
function OpenTest({
  shown,
  kind,
  onOpen,
}: {
  shown: Bench | null;
  kind: Kind | null;
  onOpen: (number: number | null) => void;
}) {
  const { design } = useDesk();
  const test = shown ? testOf(shown) : null;
  return shown ? (
    test === "weighIn" ? (
      <WeighInSession key={`s${shown.number}`} session={shown} kind={shown.weighIn?.kind ?? "total"} onOpen={onOpen} />
    ) : test === "thrust" ? (
      <ThrustSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    ) : test === "fastThrottle" ? (
      <FastThrottleSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    ) : test === "glide" ? (
      <GlideSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    ) : test === "moment" ? (
      <MomentSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    ) : test === "pulls" ? (
      <PullsSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    ) : test === "free" ? (
      <FreeSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    ) : (
      <CalibrationSession key={`s${shown.number}`} session={shown} onOpen={onOpen} />
    )
  ) : kind === "sweep" ? (
    <ThrustSession key="new sweep" session={null} onOpen={onOpen} />
  ) : kind === "fast-throttle" ? (
    <FastThrottleSession key="new fast" session={null} onOpen={onOpen} />
  ) : kind === "glide" ? (
    <GlideSession key="new glide" session={null} onOpen={onOpen} />
  ) : kind === "moment" ? (
    <MomentSession key="new moment" session={null} onOpen={onOpen} />
  ) : kind === "pulls" ? (
    <PullsSession key="new pulls" session={null} onOpen={onOpen} />
  ) : kind === "free" ? (
    <FreeSession key="new free" session={null} onOpen={onOpen} />
  ) : kind === "calibration" ? (
    <CalibrationSession key="new calibration" session={null} onOpen={onOpen} />
  ) : kind === "compare" ? (
    <CompareSheet />
  ) : kind && design.items.length === 0 ? (
    <p>Nothing to weigh yet. Enter the parts in Layout first: a weigh-in is held against the ledger.</p>
  ) : (
    kind && <WeighInSession key={`n${kind}`} session={null} kind={kind as WeighInKind} onOpen={onOpen} />
  );
}
