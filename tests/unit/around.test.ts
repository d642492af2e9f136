import { describe, expect, it } from "vitest";
import { evaluate, findingText } from "../../core/evaluate";
import { type Around, blankAround } from "../../core/subjects/propulsion/around/declares";
import { areaFor, aroundOutside, aroundStandsOnly } from "../../core/subjects/propulsion/around/factor";
import {
  coaxialFactor,
  dragShare,
  grilleLoss,
  groundFactor,
  grown,
  inducedAt,
  overlapFactor,
  overlapShare,
  throughLoss,
  throughOpenings,
} from "../../core/subjects/propulsion/around/formulas";
import { disc, first, left, measured, openings, quad, radius } from "../support/around";
import { changed } from "../support/designs";

/** By halving: where a rising function of one number is zero. */
const halved = (f: (x: number) => number, low: number, high: number): number => {
  for (let n = 0; n < 80; n++) {
    const x = (low + high) / 2;
    if (f(x) < 0) low = x;
    else high = x;
  }
  return low;
};

describe("factors of what is around", () => {
  it("overlap at 0.6 of a diameter: m = 0.2848, κ = 1.118, 0.928 of the thrust (Leishman; handbook value)", () => {
    const m = overlapShare(0.6, 1);
    expect(m).toBeCloseTo(0.2848, 4);
    expect(overlapFactor(m)).toBeCloseTo(1.118, 3);
    expect(overlapFactor(m) ** (-2 / 3)).toBeCloseTo(0.928, 3);
  });
  it("discs that touch take nothing; one upon the other is √2 at worst", () => {
    expect(overlapShare(1, 1)).toBeCloseTo(0, 9);
    expect(overlapShare(1.3, 1)).toBe(0);
    expect(overlapFactor(overlapShare(0, 1))).toBeCloseTo(Math.SQRT2, 9);
  });
  it("overlap by another way: two discs counted in small squares", () => {
    const d = 0.45;
    let both = 0;
    let one = 0;
    const step = 0.002;
    for (let x = -0.5; x < 0.5; x += step)
      for (let y = -0.5; y < 0.5; y += step)
        if (x * x + y * y < 0.25) {
          one++;
          if ((x - d) ** 2 + y * y < 0.25) both++;
        }
    expect(overlapShare(d, 1)).toBeCloseTo(both / one, 2);
  });
  it("a coaxial pair keeps between (√2)^(−2/3) and 1.2808^(−2/3) of its thrust, each within its band", () => {
    const f = left(blankAround("coaxial"));
    expect(f?.value ?? 0).toBeGreaterThan(Math.SQRT2 ** (-2 / 3));
    expect(f?.value ?? 1).toBeLessThan(1.2808 ** (-2 / 3));
  });
  it(
    "its ends by momentum: in one plane √2, in the contracted wake the lower takes 1.5616 of the upper's " + "power",
    () => {
      // Lower disc: ρA(1 + s)w = 4, and 2(1 + s) = ½(1 + s)w² − 2 in induced speeds of the upper (Leishman).
      const s = halved((x) => 2 * x + 2 - 8 / x, 1, 3);
      expect(s).toBeCloseTo((Math.sqrt(17) - 1) / 2, 9);
      expect(coaxialFactor(1e6, 1)).toBeCloseTo((1 + s) / 2, 4);
      expect(coaxialFactor(0, 1)).toBeCloseTo(Math.SQRT2, 9);
      const by = [0.05, 0.1, 0.3, 1].map((z) => left({ kind: "coaxial", spacing: measured(z) })?.value ?? 0);
      expect(by).toEqual(by.toSorted((a, b) => a - b));
    },
  );
  it("the stream has half of its growth at 0.58 of a radius, and contracts to 1/√2 far behind (vortex rings)", () => {
    expect(grown(1 / Math.sqrt(3), 1)).toBeCloseTo(0.5, 9);
    expect(1 / Math.sqrt(1 + grown(1e9, 1))).toBeCloseTo(Math.SQRT1_2, 6);
    expect(grown(-1e9, 1)).toBeCloseTo(-1, 9);
    // By another way: the axial speed of a cylinder of vortex rings, summed ring by ring (Biot and Savart).
    const ring = (z: number) => 0.5 / (1 + z * z) ** 1.5;
    const axial = (at: number) => {
      let sum = 0;
      const step = 0.001;
      for (let z = 0; z < 400; z += step) sum += ring(z + step / 2 - at) * step;
      return sum;
    };
    expect(axial(0.7) / axial(0) - 1).toBeCloseTo(grown(0.7, 1), 2);
  });
  it("an opening of the disc's own area with ζ = 1: (1 + 1/4)^(−2/3) = 0.862; none at all: 1", () => {
    expect(throughOpenings(1, [1], 1)).toBeCloseTo(0.8618, 4);
    expect(throughOpenings(1, [1e6], 2.7)).toBeCloseTo(1, 6);
    expect(throughOpenings(1, [], 2)).toBe(1);
  });
  it(
    "an opening by another way: at the same power, momentum of the wake against what the loss takes, " +
      "found by halving",
    () => {
      const loss = 2 * (1 / 0.7) ** 2;
      // Disc area and density 1, v through the disc: the wake carries T = 2v², the disc works against that and the
      // loss.
      const thrust = (k: number) => 2 * halved((v) => v * (2 * v * v + (k * v * v) / 2) - 1, 0, 10) ** 2;
      expect(thrust(loss) / thrust(0)).toBeCloseTo(throughOpenings(1, [0.7], 2), 6);
    },
  );
  it(
    "a grille: open it costs nothing; half open as much as a screen of round wires of solidity 0.5 " +
      "(Idelchik 1.65, from memory)",
    () => {
      expect(grilleLoss(1)).toBe(0);
      expect(grilleLoss(0.5)).toBeCloseTo(1.65, 6);
      expect(throughLoss(grilleLoss(0.8))).toBeCloseTo(0.9496, 4);
      const by = [0.3, 0.5, 0.7, 0.9, 1].map((f) => left({ kind: "grille", open: measured(f) })?.value ?? 0);
      expect(by).toEqual(by.toSorted((a, b) => a - b));
      expect(by.at(-1)).toBe(1);
    },
  );
  it("the area that leaves 95 % leaves 95 %", () => {
    const area = areaFor(first(quad(openings(0.02, 0.03, "sharp"))), 0.95) ?? 0;
    expect(left(openings(area, area, "sharp"))?.value).toBeCloseTo(0.95, 3);
  });
});

describe("the hull that a screw pushes", () => {
  it(
    "takes 1 to 4 % of its pull from a strut, more close behind it, most in a tunnel (bollard, common " + "practice)",
    () => {
      const of = (stands: "clear of it" | "close behind it" | "in a tunnel") => left({ kind: "hull", stands });
      const [clear, close, tunnel] = [of("clear of it"), of("close behind it"), of("in a tunnel")];
      expect(clear?.value).toBeCloseTo(0.975, 9);
      expect(clear?.sd).toBeCloseTo(0.03 / Math.sqrt(12), 9);
      expect(close?.value).toBeLessThan(clear?.value ?? 0);
      expect(tunnel?.value).toBeLessThan(close?.value ?? 0);
    },
  );
});

describe("ground", () => {
  it("at a radius 1.0667, at two 1.0159 (Cheeseman and Bennett 1957)", () => {
    expect(groundFactor(1, 1)).toBeCloseTo(1.0667, 4);
    expect(groundFactor(2, 1)).toBeCloseTo(1.0159, 4);
  });
  it("by another way: the image of the disc as a source takes R²/16z² of the inflow at equal power", () => {
    // A source of strength A·v below, at 2z: it sends v·A/(4π(2z)²) up into the disc (their own argument).
    const z = 1.3;
    expect(groundFactor(z, 1)).toBeCloseTo(1 / (1 - Math.PI / (4 * Math.PI * (2 * z) ** 2)), 9);
  });
  it("adds thrust, and below half a radius it is outside, with no more than there", () => {
    const near = left({ kind: "ground", height: measured(radius() / 5) });
    expect(near?.value).toBeCloseTo(4 / 3, 6);
    const design = quad({ kind: "ground", height: measured(radius() / 5) });
    expect(aroundOutside(first(design))).toEqual(["is nearer to the ground than half of its radius"]);
    expect(evaluate(design).metrics.thrust?.outside?.join()).toMatch(/half of its radius/);
    const e = evaluate(quad({ kind: "ground", height: measured(radius()) }));
    const free = evaluate(quad()).metrics.thrust?.value ?? 1;
    expect((e.metrics.thrust?.value ?? 0) / free).toBeCloseTo(16 / 15, 3);
    const said = e.findings.find((f) => f.code === "taken-by-around");
    expect(said?.severity).toBe("note");
    expect(said && findingText(said, "metric")).toMatch(/The ground adds 7 % of the thrust/);
  });
});

describe("a body in the stream", () => {
  it("standing takes C·S/A far behind, a quarter of it at the disc, next to nothing a diameter before", () => {
    expect(dragShare(0.1, 1)).toBeCloseTo(0.1, 9);
    expect(dragShare(0.1, 0)).toBeCloseTo(0.025, 9);
    expect(dragShare(0.1, grown(-2, 1))).toBeLessThan(0.0006);
  });
  it("by another way: drag of the body in the speed that the disc adds, standing and moving", () => {
    const [density, area, thrust, c, s] = [1.2, 0.05, 6, 1.1, 0.004];
    for (const speed of [0, 3, 12]) {
      const v = inducedAt(thrust, speed, density, area);
      expect(2 * density * area * v * (speed + v)).toBeCloseTo(thrust, 9);
      for (const k of [0, 0.4, 1]) {
        const past = speed + (1 + k) * v;
        const drag = 0.5 * density * c * s * (past ** 2 - speed ** 2);
        expect(dragShare((c * s) / area, k, speed / v)).toBeCloseTo(drag / thrust, 9);
      }
    }
  });
  it(
    "a wing under the rotors of a tilting craft in hover takes about a tenth (published 0.09 to 0.15, " +
      "from memory)",
    () => {
      // Rotor 3.81 m in radius, wing chord 1.6 m under half of the span, 0.8 R below, flaps down: C about 1.2.
      const share = dragShare((1.2 * 1.6 * 3.81) / (Math.PI * 3.81 ** 2), grown(0.8, 1));
      expect(share).toBeGreaterThan(0.09);
      expect(share).toBeLessThan(0.15);
    },
  );
  const pod = (area: number, shape: "blunt" | "rounded" | "streamlined" | "not said" = "rounded"): Around => ({
    kind: "body behind",
    area: measured(area),
    gap: measured(0.05),
    shape,
  });
  it("is known the less, the less is said of it", () => {
    const well = left(pod(0.1 * disc()));
    const badly = left({ ...pod(0.1 * disc(), "not said"), gap: null } as Around);
    expect(well?.evidence).toBe("calculated");
    expect(badly?.evidence).toBe("guess");
    expect(badly?.sd ?? 0).toBeGreaterThan(1.7 * (well?.sd ?? 1));
  });
  it("is told in motion too, where it takes more of the thrust near the disc: a top speed is given, and lower", () => {
    const fast = (...around: Around[]) =>
      evaluate(
        changed((d) => {
          d.dragArea = { value: 0.02, evidence: "guess" };
          Object.assign(first(d), { surroundings: "in air", around });
        }),
      );
    const bluff = pod(0.2 * disc(), "blunt");
    expect(aroundStandsOnly(first(quad(bluff)))).toBe(false);
    const [free, past] = [fast(), fast(bluff)];
    expect(free.metrics.speed).toBeDefined();
    expect(past.metrics.speed?.value ?? 99).toBeLessThan(free.metrics.speed?.value ?? 0);
    expect(fast(openings(0.02, null)).outcomes.speed).toMatchObject({ status: "not covered" });
  });
  it("over most of the disc it is outside: targets on it are open", () => {
    expect(aroundOutside(first(quad(pod(0.6 * disc()))))).toHaveLength(1);
    expect(aroundOutside(first(quad(pod(0.1 * disc()))))).toHaveLength(0);
  });
});
