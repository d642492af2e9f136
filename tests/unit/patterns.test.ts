import { describe, expect, it } from "vitest";
import type { Run } from "../../core/design/craftFile";
import { worthMending } from "../../core/runs/learnt";
import { PATTERN_TEXT, patternsOf } from "../../core/runs/patterns";
import { changed, quietDesign } from "../support/designs";

const metrics = (list: [string, number, number, number][]): Run["metrics"] =>
  list.map(([metric, predicted, sd, measured]) => ({
    metric,
    dimension: "force",
    predicted: { value: predicted, sd, evidence: "calculated" },
    measured: { value: measured, sd: 0.01 * measured, by: "x" },
  }));
const run = (list: [string, number, number, number][], pack: Partial<Run["pack"]> = {}) => ({
  metrics: metrics(list),
  pack: { name: "", restingVoltage: 12.5, loadedVoltage: null, endVoltage: null, temperature: null, ...pack },
});
const four = changed((d) => void (d.units[0] && (d.units[0].count = 4)));

describe("what misses say together", () => {
  it.each<[string, ReturnType<typeof run>, ReturnType<typeof quietDesign>, string[]]>([
    ["all as predicted", run([["thrust", 10, 1, 10.2]]), quietDesign(), []],
    [
      "thrust as it should be on half the current",
      run([
        ["thrust", 10, 1, 9.8],
        ["packCurrent", 20, 2, 6],
      ]),
      quietDesign(),
      ["meter too low"],
    ],
    [
      "one of four gives nothing",
      run([
        ["thrust", 40, 4, 30.3],
        ["packCurrent", 80, 8, 61],
      ]),
      four,
      ["one drive at nothing"],
    ],
    [
      "one of one gives nothing: no whole drive of several",
      run([["thrust", 10, 1, 0.1]]),
      quietDesign(),
      ["outside the model"],
    ],
    [
      "turns as it should and pushes too little",
      run([
        ["thrust", 10, 1, 5.5],
        ["rpm", 9000, 300, 9050],
      ]),
      quietDesign(),
      ["no lift though it turns"],
    ],
    [
      "a pack that was not full comes before all else",
      run([["thrust", 10, 1, 7]], { restingVoltage: 11.2 }),
      quietDesign(),
      ["pack low"],
    ],
    ["a pack that sags", run([["thrust", 10, 1, 7]], { loadedVoltage: 8 }), quietDesign(), ["pack sags"]],
    [
      "twelve drives a little short: no drive can be told from the doubt",
      run([["thrust", 120, 4, 110]]),
      changed((d) => void (d.units[0] && (d.units[0].count = 12))),
      [],
    ],
    [
      "a pack that sags more than it should at that current",
      run([
        ["packVoltage", 12, 0.1, 11.4],
        ["packCurrent", 20, 2, 19.6],
      ]),
      quietDesign(),
      ["sags more"],
    ],
    ["nothing explains it", run([["endurance", 600, 30, 200]]), quietDesign(), ["outside the model"]],
  ])("%s", (_, r, design, wanted) => {
    expect(patternsOf(r, design)).toEqual(wanted);
    for (const p of patternsOf(r, design)) expect(PATTERN_TEXT[p]).toMatch(/\.|\?$/);
  });
  it("a miss of more than three steps sends nobody to measure a controller's resistance", () => {
    const working = () => [
      {
        name: "Controller resistance",
        value: 0.004,
        sd: 0.001,
        dimension: "resistance" as const,
        evidence: "guess" as const,
        share: 0.1,
        source: null,
      },
    ];
    const [far] = worthMending({ metrics: metrics([["thrust", 10, 0.5, 5]]) }, working);
    expect(far).toMatchObject({ beyond: true, inputs: [] });
    const [near] = worthMending({ metrics: metrics([["thrust", 10, 0.5, 8.8]]) }, working);
    expect(near).toMatchObject({ beyond: false, inputs: [{ name: "Controller resistance" }] });
  });
});
