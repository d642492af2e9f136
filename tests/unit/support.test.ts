import { readFileSync, readdirSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { ladderSchema } from "../../core/design/ladder";
import { HELD_UP_BY, type HeldUpBy, emptyDesign, stateSchema, usualState } from "../../core/design/schema";
import { supportOf, waysOf } from "../../core/design/support";
import { evaluate } from "../../core/evaluate";
import { difference } from "../../core/lineage/difference";
import { usualLadder } from "../../core/runs/ladders";
import { marksFor } from "../../core/runs/marks";
import { cautionsFor } from "../../core/safety/cautions";
import { changed } from "../support/designs";

const held = (...ways: HeldUpBy[]) => supportOf({ states: [usualState(...ways)] });

describe("what holds a craft up", () => {
  it("is several things at once: what one of them brings is there, what all must share holds only for all", () => {
    const foils = held("wings", "hull");
    expect(foils).toMatchObject({ afloat: true, leavesGround: true, inAir: false, airDrag: false });
    expect(held("wings")).toMatchObject({ afloat: false, inAir: true, airDrag: true });
  });
  it("by gas and rotors does not hang on its thrust alone: the gas carries a share that is not known", () => {
    expect(held("rotors").onThrust).toBe(true);
    expect(held("gas", "rotors").onThrust).toBe(false);
    expect(held("rotors", "wings").onThrust).toBe(true);
  });
  it("is derived from what is present: gas that carries mass holds it up, whatever was said", () => {
    const design = { ...emptyDesign("wings"), gasLift: { value: 0.1, evidence: "measured" as const } };
    expect(supportOf(design)).toMatchObject({ ways: ["wings", "gas"], derived: ["gas"], gas: true });
    expect(waysOf(design)).toEqual(["wings", "gas"]);
    expect(cautionsFor(design, 0).map((c) => c.code)).toEqual(expect.arrayContaining(["gas", "takes-off"]));
  });
  it("is never nothing, and each way once", () => {
    expect(stateSchema.safeParse({ ...usualState(), heldUpBy: [] }).success).toBe(false);
    expect(stateSchema.safeParse(usualState("hull", "hull")).success).toBe(false);
    expect(stateSchema.safeParse(usualState("hull", "wings")).success).toBe(true);
  });
});

describe("a craft that is held up in two ways", () => {
  const pairs = HELD_UP_BY.flatMap((a) => HELD_UP_BY.filter((b) => b !== a).map((b) => [a, b] as const));
  it("has a ladder with the gates of both, each with an id of its own", () => {
    for (const ways of [...pairs, HELD_UP_BY.slice(0, 4), HELD_UP_BY.slice(4)]) {
      const ladder = usualLadder(ways);
      expect(ladderSchema.safeParse(ladder).success, ways.join()).toBe(true);
      for (const [k, rung] of ladder.entries()) {
        expect(new Set(rung.gates.map((g) => g.id)).size).toBe(rung.gates.length);
        for (const way of ways)
          for (const gate of usualLadder([way])[k]?.gates ?? [])
            expect(rung.gates.some((g) => g.text === gate.text && g.metric === gate.metric)).toBe(true);
      }
    }
  });
  it("has the marks of both, each once, the likeliest of each among the first", () => {
    for (const ways of pairs) {
      const codes = marksFor(ways).map((m) => m.code);
      expect(new Set(codes).size).toBe(codes.length);
      for (const way of ways) for (const m of marksFor([way])) expect(codes).toContain(m.code);
      for (const way of ways) expect(codes.slice(0, 3)).toContain(marksFor([way])[0]?.code);
    }
  });
  it("says of each way that nothing computes whether it carries", () => {
    const e = evaluate(changed((d) => void (d.states = [usualState("hull", "wings")])));
    expect(e.findings.find((f) => f.code === "support-open")?.params).toMatchObject({ by: "its wings and its hull" });
  });
  it("asks where a drive works, unless all of its ways are in the air", () => {
    const where = (...ways: HeldUpBy[]) =>
      evaluate(
        changed((d) => {
          d.states = [usualState(...ways)];
          for (const u of d.units) u.surroundings = null;
        }),
      ).metrics.thrust;
    expect(where("wings", "gas")).toBeDefined();
    expect(where("wings", "hull")).toBeUndefined();
  });
});

it("a way that is added is told as a change of what holds it up, and asks the tune anew", () => {
  const from = changed(() => {});
  const to = changed((d) => void (d.states = [usualState("wings", "hull")]));
  expect(difference(from, to)).toMatchObject([{ kind: "medium", field: "held up by", from: null, to: "hull" }]);
});

it("no file but the one of what follows compares a way of being held up", () => {
  const words = HELD_UP_BY.join("|");
  const compares = new RegExp(`(?:heldUpBy|ways?)\\b[^\\n]{0,30}[!=]==? *"(?:${words})"|"(?:${words})" *[!=]==`);
  const found = ["core", "web", "server", "cli"]
    .flatMap((d) => readdirSync(d, { recursive: true, encoding: "utf8" }).map((f) => `${d}/${f}`))
    .filter((f) => /\.tsx?$/.test(f) && f !== "core/design/support.ts")
    .filter((f) => compares.test(readFileSync(f, "utf8")));
  // The gas is the one way of which what it carries can be entered; rules of thumb go by the way of the first answer.
  expect(found.toSorted()).toEqual(["core/sizing/firstAnswer.ts", "core/subjects/brief/verdicts.ts"]);
});
