import { describe, expect, it } from "vitest";
import { guessSweep, readSweepTable } from "../../core/bench/sweepTable";
import { parseQuantity } from "../../core/design/readQuantity";
import { symptomsLike } from "../../core/faults/find";
import { guessReading } from "../../core/exchange/partsColumns";
import { readParts as readPartsList } from "../../core/exchange/partsTable";
import { readPacks } from "../../core/catalogue/packShelf";
import { readParts as readShelfParts } from "../../core/catalogue/partShelf";
import { guessLaps, readLaps } from "../../core/runs/lapTable";

/** Everything that reads what a person pasted or typed. */
const READERS: Record<string, (text: string) => unknown> = {
  "a parts list": (t) => readPartsList(t, guessReading(t)),
  "a parts list with a header": (t) => {
    const text = `name;mass [g];x [mm];remark\nA;5;10;b\n${t}\n${t};${t}`;
    return readPartsList(text, guessReading(text));
  },
  laps: (t) => {
    const text = `lap;time s;wind\n1;5;2\n${t}`;
    return readLaps(text, guessLaps(text));
  },
  "a sweep": (t) => {
    const text = `throttle %;thrust g;V\n10;5;12\n${t}`;
    return readSweepTable(text, guessSweep(text));
  },
  packs: (t) => readPacks(`name,chemistry,cells\n${t}`),
  motors: (t) => readShelfParts("motor", `name,kv\n${t}`),
  "a quantity": (t) => parseQuantity(t, "mass"),
  "a ratio": (t) => parseQuantity(t, "ratio"),
  "a symptom in one's own words": (t) => symptomsLike(t, 4),
};
const TOKENS = [
  "-",
  "- ",
  " ",
  "x",
  "x ",
  "1",
  "1 ",
  "1,",
  "1.",
  "1.1.",
  "±",
  "(",
  ")",
  "[",
  '"',
  '""',
  "g",
  "1g ",
  "1 000 ",
  "#",
  "--",
  "-x",
  "\t",
  ";",
  "|",
  "/",
  "×",
  "1:1",
  "a,",
  "é",
  "ss",
  "ing ",
  "_",
  "~",
  "?",
  "'",
  "5x5",
];
/** ms that a line of 20 000 characters may take on a machine at its usual pace. A quadratic reader takes seconds. */
const MOST = 400;
/** How many times slower than usual this machine is just now: thirty million additions take about 40 ms. */
function pace(): number {
  const start = performance.now();
  let sum = 0;
  for (let k = 0; k < 3e7; k++) sum += k;
  return sum > 0 ? Math.max(1, (performance.now() - start) / 40) : 1;
}

describe("a long line never freezes the page", () => {
  it.each(Object.keys(READERS))("%s is read in time that grows with its length", (name) => {
    const read = READERS[name];
    const slow: string[] = [];
    for (const token of TOKENS)
      for (const [head, tail] of [
        ["", ""],
        ["--", "x"],
        ["1", "!"],
        ["a ", " kg"],
      ] as const) {
        const line = head + token.repeat(Math.ceil(20_000 / token.length)).slice(0, 20_000) + tail;
        const once = () => {
          const start = performance.now();
          try {
            read?.(line);
          } catch {
            // What cannot be read is refused elsewhere; here only the time counts.
          }
          return performance.now() - start;
        };
        let took = once();
        // Other work on the machine is no fault of the reader: slow is what is slow at its best, by the machine's pace.
        if (took > MOST) took = Math.min(took, once()) / pace();
        if (took > MOST) slow.push(`${JSON.stringify(head + token + tail)}: ${Math.round(took)} ms`);
        if (took > 5000) break;
      }
    expect(slow).toEqual([]);
  });
});
