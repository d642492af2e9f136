import { z } from "zod";

/** What can be aboard or be done in building and launching, beyond what drives and packs say by themselves. */
export const ABOARD = [
  "home-made rotor",
  "flywheel",
  "spring",
  "pressure gas",
  "belts or gears",
  "hand launch",
  "hand catch",
  "cutting dust",
  "resin",
  "hot wire",
  "laser",
] as const;
export const aboardSchema = z.enum(ABOARD);
export type Aboard = z.infer<typeof aboardSchema>;

/** What is around a place, or about a run there. */
export const AROUND = [
  "out of sight",
  "fog",
  "night",
  "roads",
  "power lines",
  "airfield",
  "animals",
  "people",
] as const;
export const aroundSchema = z.enum(AROUND);
export type Around = z.infer<typeof aroundSchema>;
