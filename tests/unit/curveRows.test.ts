import { describe, expect, it } from "vitest";
import { evaluate } from "../../core/evaluate";
import { measuredSchema } from "../../core/subjects/propulsion/measured/declares";
import { blockOf, readCurveRows } from "../../core/subjects/propulsion/measured/rows";
import { measuredAs, scaleOnly } from "../support/curves";
import { changed } from "../support/designs";

const thrustBy = (list: readonly (readonly [number, number])[]) =>
  evaluate(
    changed((d) => {
      if (d.units[0]) d.units[0].measured = measuredAs(scaleOnly(list));
    }),
  ).metrics.thrust;

describe("what is refused, at its row", () => {
  const issues = (list: readonly (readonly [number, number])[]) =>
    measuredSchema.safeParse(measuredAs(scaleOnly(list))).error?.issues.map((i) => [i.path.join("."), i.message]) ?? [];
  it.each([
    [
      [
        [0, 0],
        [0.5, 1],
        [1, 3],
      ],
      "readings.2.command",
      /at least 3/,
    ],
    [
      [
        [0.5, 1],
        [0.4, 1],
        [1, 3],
        [1, 3.1],
      ],
      "readings.1.command",
      /do not fall/,
    ],
    [
      [
        [0.3, 0],
        [0.6, 0],
        [1, 0],
      ],
      "readings.2.force",
      /never pushed/,
    ],
    [
      [
        [0.3, 1],
        [0.6, 2],
        [1.2, 3],
      ],
      "readings.2.command",
      /0 to 100/,
    ],
  ] as const)("%j", (list, path, message) => {
    expect(issues(list)).toContainEqual([path, expect.stringMatching(message)]);
  });
  it("readings of one command are its mean, and what they scatter is in the band", () => {
    const list: [number, number][] = [
      [0.3, 1],
      [0.6, 2.9],
      [0.6, 3.5],
      [1, 5.6],
      [1, 7],
    ];
    expect(issues(list)).toEqual([]);
    const calm = thrustBy([
      [0.3, 1],
      [0.6, 3.2],
      [1, 6.3],
    ]);
    const rough = thrustBy(list);
    expect(rough?.value).toBeCloseTo(calm?.value ?? 0, 6);
    expect(rough?.sd ?? 0).toBeGreaterThan(2 * (calm?.sd ?? 1));
  });
});

describe("rows as they are typed", () => {
  const { readings: _, ...about } = measuredAs([]);
  const read = (rows: string[][], scale: "g" | "N" = "g") => readCurveRows(rows, about, scale);
  it("bare grams of a scale, commas, units of one's own, dashes for what was not read, empty rows passed over", () => {
    const got = read([
      ["30", "120", "–"],
      ["60 %", "3,4 N", "2.5"],
      ["", ""],
      ["100", "1 lbf", "800 mA", "11,8", "4200"],
    ]);
    if (!got.ok) throw new Error(JSON.stringify(got.problems));
    const [a, b, c] = got.measured.readings;
    expect(a).toMatchObject({ command: 0.3, current: null });
    expect(a?.force).toBeCloseTo(1.1768, 3);
    expect(b?.force).toBeCloseTo(3.4, 6);
    expect(c).toMatchObject({ current: 0.8, voltage: 11.8, rpm: 4200 });
    expect(c?.force).toBeCloseTo(4.4482, 3);
  });
  it.each([
    [
      [
        ["30", "x"],
        ["60", "2"],
        ["100", "3"],
      ],
      0,
      "force",
      /not a number/,
    ],
    [
      [
        ["30", "1"],
        ["", ""],
        ["20", "2"],
        ["100", "3"],
        ["100", "3"],
      ],
      2,
      "command",
      /do not fall/,
    ],
    [
      [
        ["30", "1"],
        ["", "2"],
        ["100", "3"],
      ],
      1,
      "command",
      /at which command/,
    ],
    [
      [
        ["30", "1"],
        ["60", "2"],
        ["130", "3"],
      ],
      2,
      "command",
      /0 to 100/,
    ],
  ] as const)("%j is refused at row %i, %s", (rows, row, column, message) => {
    const got = read(rows.map((r) => [...r]));
    expect(got.ok ? [] : got.problems).toContainEqual({ row, column, message: expect.stringMatching(message) });
  });
  it.each([
    [
      "25\t3,1\t1,9\n50\t9,4\t5,2",
      [
        ["25", "3,1", "1,9"],
        ["50", "9,4", "5,2"],
      ],
    ],
    [
      "25;3,1\r\n50;9,4\r\n",
      [
        ["25", "3,1"],
        ["50", "9,4"],
      ],
    ],
    [
      "25, 3.1\n50, 9.4",
      [
        ["25", "3.1"],
        ["50", "9.4"],
      ],
    ],
    [
      "25 310\n50 940",
      [
        ["25", "310"],
        ["50", "940"],
      ],
    ],
  ])("the pasted block %j is cells", (text, cells) => {
    expect(blockOf(text)).toEqual(cells);
  });
});
