import { describe, expect, it } from "vitest";
import { TOOLS, possibleWith } from "../../core/bench/haves";

const now = (...have: (typeof TOOLS)[number][]) =>
  possibleWith(have)
    .filter((p) => p.lacks.length === 0)
    .map((p) => p.kind);

describe("what can be found out with what lies on the bench", () => {
  it("with nothing: what the craft alone tells", () => {
    expect(now()).toEqual(["fast-throttle", "free"]);
  });
  it("with one scale: its mass, its parts, a sweep; with two and a tape where the CG is along, too", () => {
    expect(now("one scale")).toEqual(["total", "fast-throttle", "pulls", "free", "sweep", "parts"]);
    expect(now("two scales", "tape measure")).toContain("two-scales");
    expect(now("two scales", "tape measure")).toContain("parts");
    expect(now("two scales", "tape measure")).not.toContain("three-scales");
  });
  it("takes the way of which least is lacking, and says what would add one more", () => {
    const moment = possibleWith(["luggage scale"]).find((p) => p.kind === "moment");
    expect(moment).toMatchObject({ uses: ["luggage scale", "tape measure"], lacks: ["tape measure"] });
    const all = possibleWith([...TOOLS]);
    expect(all.every((p) => p.lacks.length === 0)).toBe(true);
    expect(all.map((p) => p.minutes)).toEqual(all.map((p) => p.minutes).toSorted((a, b) => a - b));
  });
});
