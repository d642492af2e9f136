import { describe, expect, it } from "vitest";
import { evaluate, findingText, remediesFor } from "../../core/evaluate";
import { resultIn } from "../../core/evaluate";
import { axes } from "../../core/subjects/axes/node";
import { TURNING } from "../../core/subjects/axes/inFlight";
import { SIX } from "../../core/subjects/axes/six";
import {
  COMMANDED_WORD,
  MOMENT_WORD,
  SIX_WORD,
  TURN_WORD,
  WORD_COLOUR,
  answerText,
  heldText,
  pieceText,
} from "../../core/wording/axes";
import { changed } from "../support/designs";
import { demoFile } from "../support/demo";
import { RULE_CASES } from "../support/ruleCases";

/** A number with a unit of the metric system behind it, as a builder who thinks in inches must not meet it. */
const METRIC = /\d[\s\u00a0](mm|cm|m|dm²|m²|g|kg|m\/s|N|N·m|g\/dm²|km)(?![\w·/²])/;
const HOLE = /NaN|undefined|null|Infinity|\[object|\s{2,}| ,| \.|\(\)|“”/;

const told = RULE_CASES.flatMap(([code, fires, , context = {}]) => {
  const design = changed(fires);
  const evaluation = evaluate(design, context);
  return evaluation.findings
    .filter((f) => f.code === code)
    .slice(0, 1)
    .map((finding) => ({ code, design, evaluation, finding, context }));
});

describe("what is said of a finding", () => {
  it("is there for every rule that has a case", () => {
    expect(new Set(told.map((t) => t.code)).size).toBe(new Set(RULE_CASES.map(([c]) => c)).size);
  });
  it.each(told)("$code: a sentence without a hole, in one system of units", ({ finding }) => {
    for (const habit of ["metric", "imperial"] as const) {
      const text = findingText(finding, habit);
      expect(text).not.toMatch(HOLE);
      expect(text).toMatch(/^\S/);
      expect(text.length, text).toBeLessThan(190);
      expect(text).not.toMatch(/[.!]$/);
    }
    expect(findingText(finding, "imperial")).not.toMatch(METRIC);
  });
  it.each(told)(
    "$code: remedies begin with what to do, in one system of units",
    ({ design, evaluation, finding, context }) => {
      for (const habit of ["metric", "imperial"] as const)
        for (const r of remediesFor(design, evaluation, finding, habit, context)) {
          expect(r.text, r.code).not.toMatch(HOLE);
          expect(r.text).toMatch(/^[A-Z0-9“]/);
          if (habit === "imperial") expect(r.text).not.toMatch(METRIC);
          if (r.patch) expect(r.patch.set.length + r.patch.addItems.length, r.text).toBeGreaterThan(0);
        }
    },
  );
});

describe("what the demo craft are told", () => {
  it.each(["tern", "samphire", "lantern", "annulus", "gannet"])("%s: every version, in both systems", (name) => {
    for (const v of demoFile(name).versions) {
      const e = evaluate(v.design);
      for (const f of e.findings)
        for (const habit of ["metric", "imperial"] as const) {
          const text = findingText(f, habit);
          expect(text, `${v.label} ${f.code}`).not.toMatch(HOLE);
          if (habit === "imperial") expect(text, `${v.label} ${f.code}`).not.toMatch(METRIC);
        }
      // One finding of a rule about one thing: no two that say the same.
      const said = e.findings.map((f) => `${f.code} ${f.about}`);
      expect(new Set(said).size, v.label).toBe(said.length);
    }
  });
});

describe("words of the axis board", () => {
  it("there is one for each axis, moment and way, and none twice", () => {
    const each = (words: Record<string, string>, keys: readonly string[]) => {
      for (const k of keys) expect(words[k], k).toMatch(/^\S/);
      expect(new Set(Object.values(words)).size).toBe(Object.keys(words).length);
    };
    each(SIX_WORD, SIX);
    each(TURN_WORD, TURNING);
    each(MOMENT_WORD, ["let go", "slow", "closed"]);
    each(COMMANDED_WORD, ["both ways", "one way", "with others", "never had"]);
    expect(WORD_COLOUR).toMatchObject({ holds: "clear", lost: "stop", open: "care" });
  });
  it("a side is named with every piece that turns, and none with what does not", () => {
    expect(pieceText({ what: "torque", value: -0.1 }, "roll")).toBe("motor torque, port down");
    expect(pieceText({ what: "torque", value: 0.1 }, "roll")).toBe("motor torque, starboard down");
    expect(pieceText({ what: "thrust line", value: -0.1 }, "pitch")).toBe("thrust line, nose down");
    expect(pieceText({ what: "thrust beside", value: 0.1 }, "yaw")).toBe("thrust beside the CG, nose to starboard");
    expect(pieceText({ what: "offset", value: 0 }, "pitch")).toBe("doubt of the CG");
    expect(pieceText({ what: "offset", value: 0.1 }, "roll")).toBe("CG beside the middle, starboard down");
  });
  it("what answers, and what is missing where nothing does", () => {
    for (const axis of TURNING) {
      expect(answerText({ axis, answer: { value: 1, sd: 0 } })).not.toMatch(/^no /);
      expect(answerText({ axis, answer: null })).toMatch(/^no /);
    }
    expect(heldText({ axis: "yaw", held: null, flowed: null, hangs: null, rights: null }, "metric")).toBe("nothing");
    expect(heldText({ axis: "roll", held: "water", flowed: null, hangs: null, rights: null }, "metric")).toBe(
      "the water, where it floats upright (not known: a hull described as a body tells it)",
    );
    expect(
      heldText({ axis: "roll", held: "weight below lift", flowed: null, hangs: null, rights: null }, "metric"),
    ).toMatch(/not computed/);
  });
  it("every line of every demo craft can be said", () => {
    for (const name of ["tern", "samphire", "lantern", "gannet"])
      for (const v of demoFile(name).versions) {
        const board = resultIn(evaluate(v.design), axes);
        if (board?.kind === "wings")
          for (const m of board.moments)
            for (const l of m.lines) for (const p of l.disturbs) expect(pieceText(p, l.axis)).not.toMatch(HOLE);
        if (board?.kind === "drives") for (const l of board.lines) expect(heldText(l, "metric")).not.toMatch(HOLE);
      }
  });
});
