import { describe, expect, it } from "vitest";
import { usualState } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { asScrew, firstDrive } from "../../web/stations/power/describe";
import { changed } from "../support/designs";

describe("a drive that is begun in water", () => {
  it.each([0.3, 1.2, 6])("of %f kg is a small screw: its tips stay quiet and its motor cool", (kg) => {
    const design = changed((d) => {
      d.states = [usualState("hull")];
      d.brief.environment.water = "fresh";
      const first = firstDrive(d, kg);
      d.batteries = [first.battery];
      d.units = [{ ...first.unit, surroundings: "in water" }];
      const screw = asScrew(first.unit, kg);
      if (!screw) throw new Error("none");
      Object.assign(d.units[0] ?? {}, screw);
    });
    const e = evaluate(design);
    expect(e.metrics.thrust?.value ?? 0).toBeGreaterThan(0.5);
    expect(e.metrics.thrust?.outside ?? []).toEqual([]);
    const stops = e.findings.filter((f) => f.severity === "stop" && f.page === "power").map((f) => f.code);
    expect(stops).toEqual([]);
    // As it was begun, for the air, it was a load that no motor of its size stands.
    const dry = structuredClone(design);
    dry.units = dry.units.map((u) => ({ ...u, ...firstDrive(dry, kg).unit, surroundings: "in water" }));
    expect(evaluate(dry).findings.map((f) => f.code)).toContain("motor-current");
  });
  it("keeps what somebody knows", () => {
    const { unit } = firstDrive(
      changed(() => {}),
      1,
    );
    const stamped = {
      ...unit,
      propeller: { ...unit.propeller, diameter: { value: 0.06, evidence: "measured" as const } },
    };
    expect(asScrew(stamped, 1)).toBeNull();
    const motor = { ...unit.motor, kv: { value: 900, evidence: "datasheet" as const } };
    expect(asScrew({ ...unit, motor }, 1)?.motor).toEqual(motor);
  });
});
