import type { CurveReading, MeasuredPropulsor } from "../../core/subjects/propulsion/measured/declares";
import type { Design } from "../../core/design/schema";
import { nominalSetup, solveAll } from "../../core/subjects/propulsion/nominal";

/** Readings of a scale alone: command (0 to 1) and force (N). */
export const scaleOnly = (list: readonly (readonly [number, number])[]): CurveReading[] =>
  list.map(([command, force]) => ({ command, force, current: null, voltage: null, rpm: null, temperature: null }));

export const measuredAs = (readings: CurveReading[], change: Partial<MeasuredPropulsor> = {}): MeasuredPropulsor => ({
  principle: "test",
  on: "air",
  asBuilt: true,
  together: 1,
  restVoltage: 12.6,
  scale: 0.02,
  density: null,
  session: null,
  readings,
  ...change,
});

/** What a stand would read of the first drive of a design, as its model has it: one unit, standing. */
export function readOff(design: Design, commands: readonly number[]): CurveReading[] {
  const setup = nominalSetup(design, null);
  if (!setup) throw new Error("no drive");
  return commands.map((command) => {
    const solved = solveAll(setup, command, 0, [0]);
    if (solved.status !== "converged") throw new Error(solved.status);
    const p = solved.points[0];
    if (!p) throw new Error("no point");
    return {
      command,
      force: p.thrust,
      current: p.controllerIn / p.packVoltage,
      voltage: p.packVoltage,
      rpm: p.rpm,
      temperature: null,
    };
  });
}
