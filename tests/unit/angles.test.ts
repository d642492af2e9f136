import { describe, expect, it } from "vitest";
import { newSuspect } from "../../core/design/craftFile";
import type { Angle, Run } from "../../core/design/run";
import { doubtsItself, effectOf } from "../../core/faults/effect";
import { asItFlew, askedOf, unevenOf } from "../../core/runs/angles";
import { checklist } from "../../core/safety/checklist";
import { ANGLE_SIGN, angleName, angleText, unevenText } from "../../core/wording/angles";
import { effectText } from "../../core/wording/free";
import { demoFile } from "../support/demo";

const DEGREE = Math.PI / 180;
const angle = (what: string, side: Angle["side"], degrees: number, of: Angle["of"] = "neutral", sd = 0.3): Angle => ({
  what,
  side,
  of,
  value: degrees * DEGREE,
  sd: sd * DEGREE,
});

describe("angles and trims", () => {
  it("are asked for of each control, each side by itself, and of what was measured before", () => {
    const tern = demoFile("tern").versions.find((v) => v.label === "v5");
    if (!tern) throw new Error("no v5");
    const asked = askedOf(tern.design, [angle("tail mount", "middle", 2, "set angle")]);
    const controls = tern.design.surfaces.flatMap((s) => s.controls.map(() => (s.mirrored ? 2 : 1)));
    expect(asked).toHaveLength(controls.reduce((s: number, n) => s + n, 0) + 1);
    expect(asked.at(-1)).toEqual({ what: "tail mount", side: "middle", of: "set angle" });
    expect(new Set(asked.map(angleName)).size).toBe(asked.length);
    expect(askedOf({ surfaces: [] })).toEqual([]);
  });
  it("of two sides are told apart beyond what the gauge leaves open, and only then", () => {
    const pair = (port: number, starboard: number) => [
      angle("elevon", "port", port),
      angle("elevon", "starboard", starboard),
    ];
    expect(unevenOf(pair(2, 1.5))).toEqual([]);
    const [u] = unevenOf(pair(-1, 2.5));
    expect(u?.by).toBeCloseTo(-3.5 * DEGREE, 9);
    expect(u?.sd).toBeCloseTo(Math.hypot(0.3, 0.3) * DEGREE, 9);
    expect(u && unevenText(u)).toBe("elevon, neutral: port stands 3.5° ± 0.4° below starboard");
    // Not another thing, not another angle of it, not one side by itself.
    expect(unevenOf([angle("elevon", "port", 5), angle("flap", "starboard", 0)])).toEqual([]);
    expect(unevenOf([angle("elevon", "port", 5), angle("elevon", "starboard", 0, "throw up")])).toEqual([]);
    expect(unevenOf([angle("elevon", "port", 5)])).toEqual([]);
  });
  it("carry their sign; which way it is stands beside them, also of a rudder", () => {
    expect(angleText(angle("x", "port", 2))).toBe("+2.0° ± 0.3°");
    expect(angleText(angle("x", "port", -2))).toBe("−2.0° ± 0.3°");
    expect(angleText(angle("x", "port", 0))).toBe("0.0° ± 0.3°");
  });
  const file = demoFile("tern");
  const last = file.versions.at(-1);
  const flown = (change: Partial<Run>): Run => ({
    ...(file.runs[0] as Run),
    number: 90,
    version: last?.label ?? "",
    outcome: "passed",
    date: "2030-01-01T10:00:00Z",
    angles: [angle("elevon", "port", 2.1), angle("elevon", "port", 20, "throw up")],
    ...change,
  });
  it("of the newest run that passed, of this version or one before it, are what it is set back to", () => {
    if (!last) throw new Error("no version");
    const of = (runs: Run[]) => asItFlew({ ...file, runs }, last)?.number ?? null;
    expect(of([flown({}), flown({ number: 91, date: "2030-02-01T10:00:00Z" })])).toBe(91);
    expect(of([flown({}), flown({ number: 91, date: "2030-02-01T10:00:00Z", outcome: "failed" })])).toBe(90);
    expect(of([flown({ version: "v1" })])).toBe(90);
    expect(of([flown({ angles: [] })])).toBeNull();
    expect(of([flown({ version: "elsewhere" })])).toBeNull();
  });
  it("stand on the list at the site, as the run that flew has them; throws do not", () => {
    if (!last) throw new Error("no version");
    const lines = checklist({ ...file, runs: [flown({})] }, last, [], "at the site", 4, "metric").map((l) => l.text);
    expect(lines.filter((t) => t.includes("elevon"))).toEqual([
      `elevon, port: neutral +2.1° ± 0.3°, as in run 90 (${ANGLE_SIGN})`,
    ]);
  });
});

describe("the effect of a suspect", () => {
  const effect = { what: "vibration", unit: "m/s²", without: [8.1, 7.9, 8.4, 8], with: [5.2, 5, 5.5, 5.1] };
  it("is a difference with its interval, and how sure it is", () => {
    const found = effectOf({ effect });
    expect(found?.status).toBe("told");
    expect(found?.value).toBeCloseTo(-2.9, 6);
    expect(found && effectText(found, effect)).toMatch(
      /^vibration: 2\.9 m\/s² less without it \(95 %: −3\.\d+ to −2\.\d+ m\/s²\), over 99 % sure$/,
    );
  });
  it("that its readings do not show is said, ruled in or not", () => {
    const none = { ...effect, with: [8, 8.3, 7.8, 8.2] };
    const found = effectOf({ effect: none });
    expect(found?.status).toBe("not told apart");
    expect(found && effectText(found, none)).toMatch(/not told apart from nothing/);
    expect(doubtsItself(newSuspect("a", "a", { state: "ruled in", result: "better", effect: none }))).toBe(true);
    expect(doubtsItself(newSuspect("a", "a", { state: "ruled in", result: "better", effect }))).toBe(false);
    expect(doubtsItself(newSuspect("a", "a", { state: "open", effect: none }))).toBe(false);
  });
  it("is none of one reading, nor of none", () => {
    const one = { ...effect, with: [5] };
    const found = effectOf({ effect: one });
    expect(found?.status).toBe("too few");
    expect(found && effectText(found, one)).toMatch(/Two readings or more of each/);
    expect(effectOf({ effect: null })).toBeNull();
    expect(effectOf({})).toBeNull();
  });
});
