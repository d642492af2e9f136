import { get, set } from "idb-keyval";
import { useEffect, useState } from "react";
import { type TestKind, TOOLS, type Tool, possibleWith } from "../../../core/bench/haves";
import { Picture } from "../../fields/FormParts";

/** Small drawings, 50 × 40. */
const DRAWN: Record<Tool, string[]> = {
  "one scale": ["M8 14h34l3 18H5z", "M19 24h12v5H19z"],
  "two scales": ["M3 16h18l2 14H1z", "M29 16h18l2 14H27z"],
  "three scales": ["M17 4h16l2 11H15z", "M2 23h16l2 11H0z", "M32 23h16l2 11H30z"],
  "luggage scale": ["M16 4h18v12H16z", "M20 8h10", "M25 16v8a5 5 0 1 1-5 5"],
  "thrust stand": ["M6 34h38M25 34V14M25 14H38M38 5v18", "M14 10h11v8H14z"],
  "stop-watch": ["M25 9a13 13 0 1 0 .1 0zM22 4h6M25 4v5", "M25 22l5-6"],
  "tape measure": ["M8 10h20v20H8zM28 30h16", "M32 30v-4M37 30v-4M42 30v-4"],
  "straight edge": ["M4 24h42", "M25 24l6 10H19z"],
  "angle gauge": ["M6 30h38A19 19 0 0 0 6 30z", "M25 30l10-11"],
  "two lines": ["M15 4v24M35 4v24", "M8 28h34v6H8z"],
  "known mass": ["M16 14h18l5 20H11z", "M20 14a5 5 0 1 1 10 0"],
};
const KEPT = "bench/have";

/** What do you have? Then what can be found out with it, how long it takes, and what one thing more would add. */
export function BenchStart({
  words,
  onBegin,
}: {
  /** title of each test and what it tells */
  words: Record<TestKind, { title: string; tells: string }>;
  onBegin: (kind: TestKind) => void;
}) {
  const [have, setHave] = useState<Tool[]>([]);
  useEffect(() => {
    void get<Tool[]>(KEPT)
      .then((kept) => kept && setHave(kept.filter((t) => TOOLS.includes(t))))
      .catch(() => {});
  }, []);
  const flip = (tool: Tool) => {
    const next = have.includes(tool) ? have.filter((t) => t !== tool) : [...have, tool];
    setHave(next);
    void set(KEPT, next).catch(() => {});
  };
  const all = possibleWith(have);
  const groups = [
    ["Can be done now", all.filter((p) => p.lacks.length === 0)],
    ["One thing more", all.filter((p) => p.lacks.length === 1)],
    ["Takes more", all.filter((p) => p.lacks.length > 1)],
  ] as const;
  return (
    <div className="max-w-[760px]">
      <fieldset>
        <legend className="sr-only">What do you have?</legend>
        <div className="flex flex-wrap gap-1.5">
          {TOOLS.map((t) => (
            <Picture
              key={t}
              kind="checkbox"
              word={t}
              drawing={DRAWN[t]}
              chosen={have.includes(t)}
              onChoose={() => flip(t)}
            />
          ))}
        </div>
      </fieldset>
      {groups.map(
        ([title, list]) =>
          list.length > 0 && (
            <section key={title} aria-label={title} className="mt-4">
              <h3 className="border-b border-rule pb-1 text-[13px]">{title}</h3>
              <ul>
                {list.map(({ kind, minutes, uses, lacks }) => (
                  <li key={kind} className="border-b border-hair">
                    <button
                      type="button"
                      className="flex min-h-8 w-full flex-wrap items-baseline gap-x-3 py-1 text-left hover:text-accent"
                      onClick={() => onBegin(kind)}
                    >
                      <b className="text-ink">{words[kind].title}</b>
                      <span className="text-[12px] text-pencil">tells {words[kind].tells}</span>
                      <span className="ml-auto text-[12px]">
                        {lacks.length > 0 ? (
                          <span className="text-pencil">needs {lacks.join(", ")}</span>
                        ) : uses.length > 0 ? (
                          uses.join(", ")
                        ) : (
                          "the craft alone"
                        )}
                        , <span className="num">{minutes}</span> min
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          ),
      )}
    </div>
  );
}
