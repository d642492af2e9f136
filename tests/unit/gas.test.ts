import { describe, expect, it } from "vitest";
import type { Design } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { axes } from "../../core/subjects/axes/node";
import { balance } from "../../core/subjects/balance/node";
import { MOST_LIFT, gas } from "../../core/subjects/gas/node";
import { heldText } from "../../core/wording/axes";
import { demoFile } from "../support/demo";
import { quietDesign } from "../support/designs";
import { onGas, tube } from "../support/rules/gas";

const G = 9.80665;
const hung = (change: (d: Design) => void) => {
  const d = quietDesign();
  change(d);
  const e = evaluate(d, {}, null);
  return {
    d,
    r: resultIn(e, gas),
    outcome: e.outcomes.gas,
    cg: resultIn(e, balance)?.cg,
    air: e.metrics.airDensity?.value ?? 0,
    board: resultIn(e, axes),
    codes: e.findings.map((f) => f.code),
    severity: e.findings.find((f) => f.code === "hangs-steep")?.severity,
  };
};

describe("what gas carries", () => {
  it(
    "is no more than the air that its bodies displace, less the lightest gas: molar masses of air and " + "hydrogen",
    () => {
      const { r, air } = hung(onGas(0.3, 0.6, {}, 2));
      expect(r?.displaced.value).toBeCloseTo(air * Math.PI * 0.09 * 2, 2);
      // Helium 4.0026, air 28.96 g/mol: 0.862, about 1.04 kg a cubic metre at 15 °C (handbooks: 1.05 pure).
      expect(1 - 4.0026 / 28.96).toBeCloseTo(0.862, 3);
      expect(MOST_LIFT).toBeCloseTo(0.93, 2);
    },
  );
  it("beyond that is said, and never of what helium in them carries", () => {
    const volume = Math.PI * 0.0625 * 2;
    const helium = (s: number) => hung(onGas(s * volume * 1.225 * 0.862, 0.5, {}, 2)).codes;
    expect(helium(1)).not.toContain("gas-beyond");
    expect(helium(1.3)).toContain("gas-beyond");
  });
  it("the airship of the demo can: its envelope holds what was weighed", () => {
    for (const v of demoFile("lantern").versions) {
      const e = evaluate(v.design);
      const r = resultIn(e, gas);
      expect(e.findings.map((f) => f.code)).not.toContain("gas-beyond");
      const filled = (r?.carried.value ?? 0) / (0.862 * (r?.displaced.value ?? 1));
      expect(filled).toBeGreaterThan(0.85);
      expect(filled).toBeLessThan(1);
    }
  });
  it("of another craft, or without a described envelope, nothing is told", () => {
    expect(hung(() => {}).outcome?.status).toBe("not covered");
    const bare = hung((d) => {
      onGas(0.3, 0.6)(d);
      d.bodies = [];
    });
    expect(bare.outcome).toMatchObject({ status: "missing" });
    const guessed = hung((d) => {
      onGas(0.3, 0.6)(d);
      for (const b of d.bodies) b.shapeBy = "guess";
    });
    expect(guessed.outcome).toMatchObject({ status: "missing", needs: ["the shape of envelope: it is a guess"] });
    expect(guessed.codes).not.toContain("gas-beyond");
    const [line] = bare.board?.kind === "drives" ? bare.board.lines.filter((l) => l.axis === "roll") : [];
    if (line) expect(heldText(line, "metric")).toMatch(/open: .*its envelope described as a body/);
  });
});

describe("weight below the lift", () => {
  it("turns back as the energy of lift and weight says, followed through small angles", () => {
    const { r, cg } = hung(onGas(0.4, 0.7, { aft: 0.05, over: 0.3 }));
    const h = r?.hangs;
    if (!h || !cg) throw new Error("not hanging");
    // Energy of the lift about the CG, the body turned nose up by t: −L·(height of the lift over the CG).
    const energy = (t: number) => -0.4 * G * (0.3 * Math.cos(t) - 0.05 * Math.sin(t));
    const slope = (t: number) => (energy(t + 1e-4) - energy(t - 1e-4)) / 2e-4;
    // At rest nothing turns it.
    expect(slope(h.rest?.value ?? 0)).toBeCloseTo(0, 4);
    expect((slope(1e-3) - slope(-1e-3)) / 2e-3).toBeCloseTo(h.stiff.value, 3);
    expect(h.over.value).toBeCloseTo(0.3, 6);
  });
  it("hangs nose down with its lift behind the CG, nose up with it ahead, level with it above", () => {
    const rest = (aft: number) => hung(onGas(0.4, 0.7, { aft })).r?.hangs?.rest?.value ?? Number.NaN;
    expect(rest(0.05)).toBeCloseTo(-Math.atan(0.05 / 0.3), 4);
    expect(rest(-0.05)).toBeCloseTo(Math.atan(0.05 / 0.3), 4);
    expect(rest(0)).toBeCloseTo(0, 6);
  });
  it("above the lift turns it over: a stop, and no attitude is told", () => {
    const over = hung(onGas(0.4, 0.7, { over: -0.2 }));
    expect(over.r?.hangs?.rest).toBeNull();
    expect(over.severity).toBe("stop");
    // Rotors beside it may hold it upright.
    const held = hung((d) => {
      onGas(0.4, 0.7, { over: -0.2 })(d);
      d.states[0]?.heldUpBy.push("rotors");
    });
    expect(held.severity).toBe("care");
    const near = hung(onGas(0.4, 0.7, { over: -0.005 }));
    expect(near.severity).toBe("care");
  });
  it("is open where several bodies could hold the gas, none can, or a part has no place", () => {
    const both = hung((d) => {
      onGas(0.3, 0.7)(d);
      d.bodies.push(tube(1.5, 0.7, { x: 0.3, z: 0.9 }, "second"));
    });
    expect(both.r?.hangs).toBeNull();
    expect(both.r?.open).toMatch(/which body holds the gas/);
    const pod = hung((d) => {
      onGas(0.3, 0.7)(d);
      d.bodies.push(tube(0.3, 0.1, { x: 0.3, z: 0.02 }, "pod"));
    });
    expect(pod.r?.hangs?.body).toBe("envelope");
    const unplaced = hung((d) => {
      onGas(0.3, 0.7)(d);
      const [item] = d.items;
      if (item) item.unplaced = ["z"];
    });
    expect(unplaced.r?.hangs).toBeNull();
    expect(unplaced.r?.open).toMatch(/no place is said/);
  });
  it("stands on the board about roll and pitch, and says what is not known where it is not", () => {
    const [v] = demoFile("lantern").versions.slice(-1);
    const board = v && resultIn(evaluate(v.design), axes);
    if (board?.kind !== "drives") throw new Error("no board");
    const said = (axis: string) => {
      const line = board.lines.find((l) => l.axis === axis);
      return line ? heldText(line, "metric") : "";
    };
    expect(said("roll")).toMatch(/^its weight below Envelope: 0\.\d+ ± 0\.\d+ N·m at 10° turn it back$/);
    expect(said("pitch")).toMatch(/turn it back; hangs \d+ ± \d+° nose up$/);
    expect(said("yaw")).toBe("nothing");
    const line = board.lines.find((l) => l.axis === "roll");
    expect(line && heldText({ ...line, hangs: { open: "its envelope" } }, "metric")).toMatch(/open: its envelope/);
    const over = line?.hangs && !("open" in line.hangs) ? { ...line.hangs, rest: null } : null;
    expect(line && heldText({ ...line, hangs: over ?? null }, "metric")).toMatch(/turn it over$/);
  });
});
