import { describe, expect, it } from "vitest";
import type { DriveReading } from "../../core/design/craftFile";
import { likeBy, oddDrives, rowsFor } from "../../core/runs/eachDrive";
import { oddText } from "../../core/wording/eachDrive";
import { changed, quietDesign } from "../support/designs";

const read = (copy: number, current: number | null, rpm: number | null, temperature: number | null): DriveReading => ({
  unit: "m",
  copy,
  name: `Rotor ${copy}`,
  current,
  rpm,
  temperature,
});
const same = (a: string, b: string) => a === b;
const odd = (list: DriveReading[]) => oddDrives(list, same).map((o) => [o.copy, o.odd]);

describe("drives that are like one another", () => {
  it.each<[string, DriveReading[], [number, string][]]>([
    ["all alike", [read(1, 10, 8000, 40), read(2, 10.4, 8060, 42), read(3, 9.8, 7950, 41)], []],
    [
      "one unplugged",
      [read(1, 10, null, null), read(2, 0.1, null, null), read(3, 9.8, null, null)],
      [[2, "gives nothing"]],
    ],
    [
      "one that does not turn",
      [read(1, 10, 8000, null), read(2, 14, 0, null), read(3, 9.8, 7950, null)],
      [[2, "stands still"]],
    ],
    ["one that rubs", [read(1, 10, 8000, null), read(2, 13, 7000, null), read(3, 10, 8000, null)], [[2, "drags"]]],
    [
      "one that lost a blade",
      [read(1, 10, 8000, null), read(2, 7, 9100, null), read(3, 10, 8000, null)],
      [[2, "runs light"]],
    ],
    [
      "one whose end points differ",
      [read(1, 10, 8000, null), read(2, 9.2, 7300, null), read(3, 10, 8000, null)],
      [[2, "turns slower"]],
    ],
    [
      "one in a corner without air",
      [read(1, null, null, 45), read(2, null, null, 71), read(3, null, null, 44)],
      [[2, "hotter"]],
    ],
    [
      "two that differ: neither is taken for right",
      [read(1, 10, null, null), read(2, 13, null, null)],
      [
        [1, "draws less"],
        [2, "draws more"],
      ],
    ],
    ["at rest nothing is compared", [read(1, 0.05, null, null), read(2, 0, null, null), read(3, 0.06, null, null)], []],
    ["one alone", [read(1, 10, 8000, 40)], []],
    ["nothing read twice", [read(1, 10, null, null), read(2, null, 8000, null)], []],
  ])("%s", (_, list, wanted) => {
    expect(odd(list)).toEqual(wanted);
  });
  it("one far off does not shift what the others are held against", () => {
    const list = [
      read(1, 10, null, null),
      read(2, 10.2, null, null),
      read(3, 9.9, null, null),
      read(4, 60, null, null),
    ];
    expect(odd(list)).toEqual([[4, "draws more"]]);
  });
  it("says what was read, what its like read, and what to look at, in the user's units", () => {
    const [found] = oddDrives([read(1, null, null, 45), read(2, null, null, 71), read(3, null, null, 44)], same);
    if (!found) throw new Error("nothing odd");
    expect(oddText(found, "metric")).toMatch(
      /^Rotor 2 is hotter: 71\.0\s°C where its like read 44\.5\s°C; .*cooled less\.$/,
    );
  });
  it("are rows of a design: each copy, and drives of the same parts are of one kin", () => {
    const design = changed((d) => {
      const [u] = d.units;
      if (!u) return;
      u.count = 2;
      d.units.push({ ...structuredClone(u), id: "second", name: "Second", count: 1 });
      const third = { ...structuredClone(u), id: "third", name: "Third", count: 1 };
      third.motor.kv.value *= 2;
      d.units.push(third);
    });
    const rows = rowsFor(design.units);
    const first = quietDesign().units[0];
    expect(rows.map((r) => r.name)).toEqual([`${first?.name} 1`, `${first?.name} 2`, "Second", "Third"]);
    const alike = likeBy(rows);
    expect([
      alike(first?.id ?? "", "second"),
      alike("second", "third"),
      alike("gone", "gone"),
      alike("gone", "third"),
    ]).toEqual([true, false, true, false]);
  });
  it("of two that are known by what they pushed alone the parts say nothing", () => {
    const design = changed((d) => {
      const [u] = d.units;
      if (!u) return;
      const curve = {
        readings: [0.3, 0.6, 1].map((c) => ({
          command: c,
          force: 5 * c,
          voltage: null,
          current: null,
          rpm: null,
          temperature: null,
        })),
        together: 1,
      };
      u.measured = curve as unknown as NonNullable<typeof u.measured>;
      const other = { ...structuredClone(u), id: "second", name: "Second" };
      for (const r of other.measured?.readings ?? []) r.force *= 2;
      d.units.push(other);
    });
    const [a, b] = rowsFor(design.units);
    expect(a?.kin).not.toBe(b?.kin);
  });
});
