import { z } from "zod";
import { finite, recordNumber } from "./bounds";
import {
  type Battery,
  type Unit,
  batterySchema,
  controllerSchema,
  gearSchema,
  motorSchema,
  propellerSchema,
  propulsorSchema,
} from "./schema";

const share = finite.min(0).max(1);
/**
 * How finely an instrument reads, how far its readings may be off, and the calibration session (of this craft) that
 * corrects it.
 */
const meter = (unit: string) =>
  z.object({
    step: finite.positive().max(1000).describe(`smallest step that it shows, ${unit}`),
    error: finite.min(0).max(0.5).describe("standard uncertainty of its calibration, as a share of the reading"),
    session: recordNumber.nullable().describe("bench session in which it was calibrated; null: as it reads"),
  });

/** What can be read at each throttle of a sweep. */
export const READABLE = ["thrust", "voltage", "current", "rpm", "temperature", "noise"] as const;
export type Readable = (typeof READABLE)[number];

/** The stand: how a thrust comes to be a reading. kg, m. */
export const rigSchema = z.object({
  kind: z.enum(["direct", "lever"]),
  thrustArm: finite.positive("an arm is longer than nothing").max(10).describe("pivot to the thrust line, m"),
  scaleArm: finite.positive("an arm is longer than nothing").max(10).describe("pivot to where the scale is touched, m"),
  armSd: finite.min(0).max(0.1).describe("standard uncertainty of each arm, m"),
  reads: z.enum(["more", "less"]).describe("whether the scale reads more or less as thrust grows"),
  tare: finite.min(-1000).max(1000).describe("reading at rest, with counterweight, kg"),
  counterweight: finite.min(0).max(1000).describe("hung on to keep the lever down on the scale, kg"),
  check: z
    .object({ mass: finite.positive("a known mass").max(1000), reading: finite.min(-1000).max(1000) })
    .nullable()
    .describe("a known mass pulling along the thrust line, and what the scale read, kg"),
  scale: meter("kg"),
  voltage: meter("V"),
  current: meter("A"),
  rpm: meter("rpm"),
});
export type Rig = z.infer<typeof rigSchema>;

export const SAFETY = ["restraint", "plane", "shield", "distance", "people", "cutOff"] as const;
export const safetySchema = z.object({
  ...(Object.fromEntries(SAFETY.map((s) => [s, z.boolean()])) as Record<(typeof SAFETY)[number], z.ZodBoolean>),
  place: z.enum(["indoors", "outdoors", "behind a barrier"]),
});
export type Safety = z.infer<typeof safetySchema>;

const seen = finite.nullable();
export const thrustReadingSchema = z.object({
  t: seen.describe("s from the start"),
  throttle: share,
  scale: seen.describe("kg as the scale showed it"),
  voltage: seen.describe("V"),
  current: seen.describe("A"),
  rpm: seen.describe("of the propeller"),
  temperature: seen.describe("of the motor, °C"),
  noise: seen.describe("dB"),
  out: z.string().max(200).describe("why it is left out; empty: it counts"),
});
export type ThrustReading = z.infer<typeof thrustReadingSchema>;

/** A row of which only the throttle is known so far. */
export const emptyReading = (throttle: number): ThrustReading => ({
  t: null,
  throttle,
  scale: null,
  voltage: null,
  current: null,
  rpm: null,
  temperature: null,
  noise: null,
  out: "",
});

/** What a drive was like when it was tested: with another part in it, what was measured no longer holds. */
export const testedDriveSchema = z.object({
  motor: motorSchema,
  controller: controllerSchema,
  gear: gearSchema,
  propeller: propellerSchema,
  propulsor: propulsorSchema.nullable().default(null),
  battery: batterySchema.pick({ chemistry: true, series: true, capacity: true, cellResistance: true }).nullable(),
});
export type TestedDrive = z.infer<typeof testedDriveSchema>;

/** What is on the stand: the parts of a drive and the pack that feeds it, as they are in the design now. */
export const testedDrive = (unit: Unit, battery: Battery | undefined): TestedDrive => ({
  motor: unit.motor,
  controller: unit.controller,
  gear: unit.gear,
  propeller: unit.propeller,
  propulsor: unit.propulsor,
  battery: battery
    ? {
        chemistry: battery.chemistry,
        series: battery.series,
        capacity: battery.capacity,
        cellResistance: battery.cellResistance,
      }
    : null,
});

export const thrustTestSchema = z.object({
  unitId: z.string().min(1).max(40).describe("drive on the stand, one of its like units"),
  rig: rigSchema,
  air: z.object({
    temperature: finite.min(-60).max(60).describe("°C"),
    pressure: finite.min(20_000).max(120_000).describe("Pa"),
  }),
  safety: safetySchema,
  plan: z.object({
    steps: z.array(share).min(1, "at least one throttle").max(60),
    down: z.boolean().describe("back down the same steps"),
    repeats: z.number().int().min(1).max(10),
    samples: z.number().int().min(1).max(20).describe("readings taken at each step"),
    rest: finite.min(0).max(3600).describe("pause between sweeps, s"),
    measures: z.array(z.enum(READABLE)).min(1),
  }),
  readings: z.array(thrustReadingSchema).max(8000, "at most 8000 readings"),
  drive: testedDriveSchema.nullable().default(null).describe("the drive as it was when the session was kept"),
});
export type ThrustTest = z.infer<typeof thrustTestSchema>;

/** Propellers and ramps tried for cut-outs. */
export const fastThrottleSchema = z.object({
  unitId: z.string().min(1).max(40),
  safety: safetySchema,
  trials: z
    .array(
      z.object({
        diameter: finite.positive().max(5).describe("m"),
        pitch: finite.positive().max(5).describe("m"),
        ramp: finite.min(0).max(60).describe("from idle to full, s"),
        voltage: finite.min(0).max(200).nullable().describe("lowest under load, V"),
        cutOut: z.boolean().nullable().describe("null: could not be told"),
      }),
    )
    .min(1, "at least one trial")
    .max(200),
});
export type FastThrottle = z.infer<typeof fastThrottleSchema>;
