import { describe, expect, it } from "vitest";
import { type Design, usualState } from "../../core/design/schema";
import { inState } from "../../core/design/inState";
import { evaluate, resultIn } from "../../core/evaluate";
import { authority } from "../../core/subjects/authority/node";
import { axes } from "../../core/subjects/axes/node";
import { shiftedAbout, shiftedMass } from "../../core/subjects/mass/shifted";
import { answerText, shiftedText } from "../../core/wording/axes";
import { demoFile } from "../support/demo";
import { changed, part } from "../support/designs";
import { winged } from "../support/wings";

const G = 9.80665;
const known = (value: number, sd = 0) => ({ value, evidence: "measured" as const, sd });

describe("mass that a servo shifts", () => {
  it("turns the craft with m·g·Δ, pairs not across, and with what hangs on it", () => {
    const pack = part({ id: "pack", mass: known(0.2, 0.002), shiftX: 0.05, shiftY: 0.03 });
    const both = shiftedMass([pack]);
    expect(both?.pitch.value).toBeCloseTo(0.2 * G * 0.05, 12);
    expect(both?.roll.value).toBeCloseTo(0.2 * G * 0.03, 12);
    expect(both?.pitch.sd).toBeCloseTo(0.002 * G * 0.05, 12);
    const tray = shiftedMass([pack, part({ id: "camera", mass: known(0.1), parentId: "pack" })]);
    expect(tray?.pitch.value).toBeCloseTo(0.3 * G * 0.05, 12);
    const pair = shiftedMass([{ ...pack, quantity: 2, mirrored: true }]);
    expect(pair?.roll.value).toBe(0);
    expect(pair?.pitch.value).toBeCloseTo(0.4 * G * 0.05, 12);
    expect(shiftedMass([part({ id: "fixed" })])).toBeNull();
    expect(shiftedMass([{ ...pack, mass: null }])).toBeNull();
    expect(shiftedAbout(both, "yaw")).toBeNull();
  });
  it("of a craft that hovers on its tail counts across the line of its thrust only", () => {
    // Up is ahead: what moves along the craft rises, and turns nothing.
    const onTail = (p: { x: number; y: number; z: number }) => ({ x: p.z, y: p.y, z: -p.x });
    const turned = shiftedMass([part({ id: "pack", mass: known(0.2), shiftX: 0.05, shiftY: 0.03 })], onTail);
    expect(turned?.pitch.value).toBe(0);
    expect(turned?.roll.value).toBeCloseTo(0.2 * G * 0.03, 12);
  });
});

const packShifts = (x: number, y: number) => (d: Design) => {
  const pack = d.items.find((i) => i.id === "pack");
  if (pack) Object.assign(pack, { shiftX: x, shiftY: y });
};

describe("what it answers", () => {
  const flown = (change: (d: Design) => void) => {
    const d = changed((x) => {
      winged(x);
      change(x);
    });
    const result = resultIn(evaluate(d), axes);
    if (result?.kind !== "wings") throw new Error("no board");
    return result.moments[0]?.lines ?? [];
  };
  it("on wings comes to what the controls do, and stands alone where there is none", () => {
    const without = (d: Design) => {
      for (const s of d.surfaces) s.controls = [];
    };
    const bare = flown(without);
    expect(bare.find((l) => l.axis === "pitch")?.word).toBe("never had");
    const moved = flown((d) => {
      without(d);
      packShifts(0.06, 0)(d);
    });
    const pitch = moved.find((l) => l.axis === "pitch");
    const kg = changed(() => {}).items.find((i) => i.id === "pack")?.mass?.value ?? 0;
    expect(pitch?.answer?.value).toBeCloseTo(kg * G * 0.06, 9);
    expect(pitch?.word).not.toBe("never had");
    expect(pitch && answerText(pitch)).toBe("pack, shifted");
    const steered = flown(() => {}).find((l) => l.axis === "pitch");
    const two = flown(packShifts(0.06, 0)).find((l) => l.axis === "pitch");
    expect((two?.answer?.value ?? 0) - (steered?.answer?.value ?? 0)).toBeCloseTo(kg * G * 0.06, 9);
    expect(two && answerText(two)).toBe("pitch control, beyond its trim; pack, shifted");
    // Before, a craft that is steered by its weight had nothing that answers about roll.
    expect(flown(packShifts(0, 0.05)).find((l) => l.axis === "roll")?.answer?.value ?? 0).toBeGreaterThan(0);
  });
  it("under gas leans it against what turns it back, and is said", () => {
    const lantern = structuredClone(demoFile("lantern").versions.at(-1)?.design as Design);
    packShifts(0.08, 0)(lantern);
    const board = resultIn(evaluate(lantern), axes);
    if (board?.kind !== "drives") throw new Error("no board");
    const pitch = board.lines.find((l) => l.axis === "pitch");
    expect(pitch?.shifted?.value).toBeCloseTo(0.054 * G * 0.08, 6);
    const said = pitch && shiftedText(pitch, "metric");
    expect(said).toMatch(/^Battery, 2 cells shifted: 0\.0424 .*each way, leans it \d+\s?°/);
    expect(board.lines.find((l) => l.axis === "yaw")?.shifted).toBeNull();
  });
  it("in hover answers on an axis that no throttle commands", () => {
    const annulus = structuredClone(demoFile("annulus").versions.at(-1)?.design as Design);
    const hover = (d: Design) => resultIn(evaluate(inState(d, d.states[0]?.id)), authority)?.vanes ?? [];
    const before = hover(annulus).find((v) => v.turn === "roll")?.most ?? Number.NaN;
    packShifts(0, 0.02)(annulus);
    const after = hover(structuredClone(annulus)).find((v) => v.turn === "roll");
    const kg = annulus.items.find((i) => i.id === "pack")?.mass?.value ?? 0;
    expect(kg).toBeGreaterThan(0);
    expect((after?.most ?? 0) - before).toBeCloseTo(kg * G * 0.02, 9);
    expect(after?.names.join()).toMatch(/, shifted$/);
  });
  it("is told of a craft afloat without drives that are known", () => {
    const d = changed((x) => {
      x.states = [usualState("hull")];
      x.units = [];
      packShifts(0.05, 0)(x);
    });
    const result = resultIn(evaluate(d), axes);
    expect(result?.kind).toBe("unpushed");
    if (result?.kind === "unpushed") expect(result.lines.find((l) => l.axis === "pitch")?.shifted).not.toBeNull();
  });
});
