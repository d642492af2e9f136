import { describe, expect, it } from "vitest";
import type { Surface } from "../../core/design/schema";
import { evaluate, resultIn } from "../../core/evaluate";
import { authority } from "../../core/subjects/authority/node";
import {
  type Washing,
  discOf,
  hingedShare,
  inWashes,
  quickened,
  stubbySlope,
  vanesIn,
  washAt,
} from "../../core/subjects/authority/vanes";
import { quietDesign } from "../support/designs";
import { onItsTail } from "../support/rules/hover";
import { demoFile } from "../support/demo";

const same = <T>(p: T): T => p;
const rotor = (thrust = 10, radius = 0.1): Washing => ({
  at: { x: 0, y: 0, z: 0 },
  toward: { x: -1, y: 0, z: 0 },
  thrust,
  radius,
});
/** A fin or vane behind the rotor, all of it turning. */
const vane = (of: Partial<Surface> = {}, does: Surface["controls"][number]["does"] = ["pitch"]): Surface => ({
  id: "v",
  name: "Vanes",
  medium: "air",
  itemId: null,
  at: { x: 2, y: 0, z: 0 },
  chord: 0.02,
  incidence: 0,
  mirrored: true,
  panels: [{ span: 0.05, chord: 0.02, sweep: 0, dihedral: 0, twist: 0 }],
  shapeBy: "measured",
  section: { family: "symmetric", zeroLift: null, most: null, drag: null },
  controls: [{ id: "c", name: "Vane", does, from: 0, to: 1, chord: 1, up: 0.3, down: 0.3 }],
  ...of,
});

describe("the wash of a rotor", () => {
  it(
    "is as fast as the disc's own flow in it, and twice as fast far behind: its pressure there is the " +
      "disc's loading",
    () => {
      expect(quickened(0, 0.1)).toBe(1);
      expect(quickened(1e6, 0.1)).toBeCloseTo(2, 9);
      const loading = 10 / (Math.PI * 0.1 ** 2);
      expect(washAt(rotor(), { x: 50, y: 0, z: 0 })).toBeCloseTo(loading, 2);
      expect(washAt(rotor(), { x: 0, y: 0, z: 0 })).toBeCloseTo(loading / 4, 9);
    },
  );
  it("narrows to the root of a half, and is nothing beside it or before the disc", () => {
    const edge = 0.1 / Math.SQRT2;
    expect(washAt(rotor(), { x: 50, y: edge * 0.999, z: 0 })).toBeGreaterThan(0);
    expect(washAt(rotor(), { x: 50, y: edge * 1.001, z: 0 })).toBe(0);
    expect(washAt(rotor(), { x: 0, y: 0, z: 0.0999 })).toBeGreaterThan(0);
    expect(washAt(rotor(), { x: -0.01, y: 0, z: 0 })).toBe(0);
    expect(washAt(rotor(0), { x: 1, y: 0, z: 0 })).toBe(0);
  });
  it("carries the momentum that makes the thrust at every cut: ρ·A·v² at its ends", () => {
    // Far behind: mass flow ρ·A₂·v₂ times v₂ is the thrust; with q = ½ρv² that is 2·q·A₂ = T.
    const far = washAt(rotor(), { x: 50, y: 0, z: 0 });
    expect(2 * far * Math.PI * (0.1 / Math.SQRT2) ** 2).toBeCloseTo(10, 3);
  });
});

describe("a hinged part", () => {
  it("is worth what a thin aerofoil says: all of the chord all, a quarter 0.61 of the angle", () => {
    expect(hingedShare(1)).toBeCloseTo(1, 12);
    // Glauert: τ = 0.609 for a flap of a quarter of the chord (handbook value).
    expect(hingedShare(0.25)).toBeCloseTo(0.609, 3);
    expect(hingedShare(0.1)).toBeLessThan(hingedShare(0.2));
  });
});

describe("a short wing", () => {
  it("lifts half of π·AR where it is shortest, 2π where it is longest (Jones; thin aerofoil)", () => {
    expect(stubbySlope(0.01) / 0.01).toBeCloseTo(Math.PI / 2, 2);
    expect(stubbySlope(1e4)).toBeCloseTo(2 * Math.PI, 2);
  });
  it(
    "lifts within a tenth of what control surfaces did in a free stream (Whicker and Fehlner 1958, from " + "memory)",
    () => {
      const measured = (a: number) => (0.9 * 2 * Math.PI * a) / (Math.hypot(a, 2) + 1.8);
      for (const a of [0.5, 1, 1.5, 2, 3]) {
        expect(stubbySlope(a) / measured(a), `AR ${a}`).toBeGreaterThan(0.95);
        expect(stubbySlope(a) / measured(a), `AR ${a}`).toBeLessThan(1.1);
      }
    },
  );
});

describe("vanes in a wash", () => {
  it("turn the craft by the pressure of the wash on what of them stands in it", () => {
    const cg = { x: 0.5, y: 0, z: 0 };
    const done = vanesIn([vane()], inWashes([rotor()]), cg, same);
    const q = 10 / (Math.PI * 0.1 ** 2);
    // Each side: 50 × 20 mm of aspect ratio 2.5, quarter chord at 2.005 m; 0.3 rad.
    const force = 2 * q * 0.05 * 0.02 * ((2 * Math.PI * 2.5) / (2 + Math.sqrt(2.5 ** 2 + 4))) * 0.3;
    expect(done.pitch.most).toBeCloseTo(force * (2.005 - 0.5), 2);
    expect(done.pitch.names).toEqual(["Vane"]);
    expect(done.yaw.most).toBe(0);
  });
  it("one against the other turn it about the line of thrust, a fin to the side", () => {
    const cg = { x: 0.5, y: 0, z: 0 };
    const twisted = vanesIn([vane({}, ["roll"])], inWashes([rotor()]), cg, same);
    expect(twisted.roll.most).toBeGreaterThan(0);
    expect(twisted.pitch.most).toBe(0);
    // Arms of the pieces about the line: their middle is at 25 mm.
    const level = vanesIn([vane()], inWashes([rotor()]), cg, same).pitch.most;
    expect(twisted.roll.most / level).toBeCloseTo(0.025 / 1.505, 3);
    const upright = vane(
      { mirrored: false, panels: [{ span: 0.05, chord: 0.02, sweep: 0, dihedral: Math.PI / 2, twist: 0 }] },
      ["yaw"],
    );
    const fin = vanesIn([upright], inWashes([rotor()]), cg, same);
    expect(fin.yaw.most).toBeCloseTo(level / 2, 3);
    expect(fin.pitch.most).toBeCloseTo(0, 9);
  });
  it("outside of the wash, without a control, or across it do nothing", () => {
    const cg = { x: 0.5, y: 0, z: 0 };
    const none = (s: Surface, w: Washing = rotor()) => vanesIn([s], inWashes([w]), cg, same).pitch.most;
    expect(none(vane({ at: { x: 2, y: 0.2, z: 0 } }))).toBe(0);
    expect(none(vane({ at: { x: -1, y: 0, z: 0 } }))).toBe(0);
    expect(none(vane({ controls: [] }))).toBe(0);
    expect(none(vane({}, ["flap"]))).toBe(0);
    expect(none(vane(), { ...rotor(), toward: { x: 0, y: 0, z: 1 } })).toBe(0);
  });
  it("more thrust does not help: their moment grows as the torque does", () => {
    const at = (thrust: number) =>
      vanesIn([vane()], inWashes([rotor(thrust)]), { x: 0.5, y: 0, z: 0 }, same).pitch.most;
    expect(at(20) / at(10)).toBeCloseTo(2, 12);
    expect(at(5) / at(10)).toBeCloseTo(0.5, 12);
  });
  it("beyond 20° a vane lets go: more travel is worth nothing", () => {
    const at = (travel: number) => {
      const s = vane();
      const [c] = s.controls;
      if (c) Object.assign(c, { up: travel, down: travel });
      return vanesIn([s], inWashes([rotor()]), { x: 0.5, y: 0, z: 0 }, same).pitch.most;
    };
    expect(at(0.6)).toBe(at(0.35 + 0.1));
    expect(at(0.2)).toBeLessThan(at(0.3));
  });
  it("discs are known of open propellers and fans, and not of what is known by its push alone", () => {
    const [u] = quietDesign().units;
    if (!u) throw new Error("no drive");
    expect(discOf(u)).toBeCloseTo(u.propeller.diameter.value / 2, 12);
    const samphire = demoFile("samphire").versions.at(-1)?.design.units[0];
    expect(samphire && discOf(samphire)).toBeNull();
  });
});

describe("a craft that hangs on rotors", () => {
  const vanesOf = (change: (d: ReturnType<typeof quietDesign>) => void) => {
    const d = quietDesign();
    change(d);
    return { result: resultIn(evaluate(d, {}, null), authority), d };
  };
  const pitch = (r: ReturnType<typeof vanesOf>["result"]) => r?.vanes.find((v) => v.turn === "pitch");
  it(
    "on its tail is held by its vanes about pitch, and holds less the further its CG lies from the line " + "of thrust",
    () => {
      const near = pitch(vanesOf((d) => onItsTail(d, 0)).result);
      const far = pitch(vanesOf((d) => onItsTail(d, 0.04)).result);
      expect(near?.word).toBe("holds");
      expect(far?.need ?? 0).toBeGreaterThan(near?.need ?? 0);
      expect(["thin", "lost"]).toContain(far?.word);
    },
  );
  it("one rotor turns the craft, by its torque; two that turn against one another do not", () => {
    const yaw = (spin: "clockwise" | "half each") =>
      vanesOf((d) => {
        onItsTail(d, 0);
        const [u] = d.units;
        if (u) u.spin = spin;
      }).result;
    const [alike, apart] = [yaw("clockwise"), yaw("half each")];
    const need = alike?.vanes.find((v) => v.turn === "yaw")?.need ?? 0;
    expect(need).toBeCloseTo(alike?.torqueScale ?? 0, 9);
    expect(need).toBeGreaterThan(0);
    expect(apart?.vanes.find((v) => v.turn === "yaw")).toBeUndefined();
    const stops = (whole: boolean) => {
      const { d } = vanesOf((x) => {
        onItsTail(x, 0);
        x.flight.whole = whole;
        const [u] = x.units;
        if (u) u.spin = "clockwise";
      });
      return evaluate(d, {}, null).findings.find((f) => f.code === "torque-unheld")?.severity;
    };
    // While a surface may be missing it is no stop: what is not described may answer.
    expect(stops(false)).toBe("care");
    expect(stops(true)).toBe("stop");
  });
});
