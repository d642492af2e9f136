import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { readParts } from "../../core/exchange/partsTable";
import { rowsOfSentence } from "../../core/exchange/sentence";

const read = (text: string) => {
  const rows = rowsOfSentence(text);
  return rows === null
    ? null
    : readParts(rows).parts.map((p) => [p.name, p.quantity, Math.round((p.mass ?? Number.NaN) * 1e4) / 10, p.x]);
};

describe("a sentence of masses becomes rows", () => {
  it.each([
    [
      "113g tail, 300 nose",
      [
        ["tail", 1, 113, null],
        ["nose", 1, 300, null],
      ],
    ],
    [
      "113 g tail, 300 g nose and 2x14 g wheels",
      [
        ["tail", 1, 113, null],
        ["nose", 1, 300, null],
        ["wheels", 2, 14, null],
      ],
    ],
    [
      "motor 120g, esc 45 g, battery 3s 208g",
      [
        ["motor", 1, 120, null],
        ["esc", 1, 45, null],
        ["battery 3s", 1, 208, null],
      ],
    ],
    [
      "The frame weighs 300 g and the two motors 2 × 45 g.",
      [
        ["frame", 1, 300, null],
        ["two motors", 2, 45, null],
      ],
    ],
    [
      "battery 520g at 120 mm; motor 96 g at 40 mm",
      [
        ["battery", 1, 520, 0.12],
        ["motor", 1, 96, 0.04],
      ],
    ],
    [
      "fin and tailplane 34 g, hull 1.2 kg",
      [
        ["fin and tailplane", 1, 34, null],
        ["hull", 1, 1200, null],
      ],
    ],
    [
      "tail 4 oz\nnose 1/3 lb",
      [
        ["tail", 1, 113.4, null],
        ["nose", 1, 151.2, null],
      ],
    ],
    [
      "113,5 g tail, 12 g horn",
      [
        ["tail", 1, 113.5, null],
        ["horn", 1, 12, null],
      ],
    ],
    [
      "113g skid, 300 hull lining and 2x14 g wheels at 40 mm",
      [
        ["skid", 1, 113, null],
        ["hull lining", 1, 300, null],
        ["wheels", 2, 14, 0.04],
      ],
    ],
    ["tail: 113 g", [["tail", 1, 113, null]]],
  ])("%s", (text, wanted) => {
    expect(read(text)).toEqual(wanted);
  });
  it.each([
    [
      "two wheels 14 g each, 30 g nose",
      [
        ["two wheels", 2, 14, null],
        ["nose", 1, 30, null],
      ],
    ],
    [
      "113 g Heck, 300 g Bug und 2x14 g Räder",
      [
        ["Heck", 1, 113, null],
        ["Bug", 1, 300, null],
        ["Räder", 2, 14, null],
      ],
    ],
    [
      "113 g Öse,30 Kiel",
      [
        ["Öse", 1, 113, null],
        ["Kiel", 1, 30, null],
      ],
    ],
  ])("counts and other languages: %s", (text, wanted) => {
    expect(read(text)).toEqual(wanted);
  });
  it.each([
    "-120 g tail, 30 g nose",
    "−120 g tail, 30 g nose",
    "tail 3-4 g, nose 30 g",
    "wheels 14 g each, 30 g nose",
    "1.200,5 g hull, 3 g tape",
  ])("makes no other number of %s", (text) => {
    expect(rowsOfSentence(text)).toBeNull();
  });
  it("marks what was said to be rough", () => {
    const rows = rowsOfSentence("about 64 g foam, 30 g glue");
    expect(readParts(rows ?? "").parts.map((p) => [p.name, p.rough])).toEqual([
      ["foam", true],
      ["glue", false],
    ]);
  });
  it.each([
    "motor,120,40",
    "motor, 120 g, 40 mm",
    "name;mass;x\nmotor;120;40",
    "part,mass g,x mm\nA,1.5,1\nB,2.5,2",
    "a motor and a battery",
    "fly at 12 m/s with 300 g",
    "300",
    "",
    "12 g",
    "100 g 200 g tail",
  ])("is not made of “%s”", (text) => {
    expect(rowsOfSentence(text)).toBeNull();
  });
  it("is not made of any list in the samples", () => {
    for (const name of ["parts-tern.csv", "parts-gannet.csv", "parts-tern-year1.tsv"])
      expect(rowsOfSentence(readFileSync(`tests/samples/${name}`, "utf8"))).toBeNull();
  });
});
