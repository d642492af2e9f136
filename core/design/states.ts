import { z } from "zod";
import { DRUM_IN } from "../subjects/propulsion/kinds/declares";
import { SURROUNDINGS } from "../subjects/propulsion/declares";
import { finite } from "./bounds";
import { magnitude } from "./evidence";
import { field, idSchema, nameSchema, point, unique } from "./fields";

/** What holds the craft up. */
export const HELD_UP_BY = ["wings", "rotors", "hull", "gas", "cushion", "ground", "flapping", "submerged"] as const;
const heldUpBySchema = z.enum(HELD_UP_BY);
export type HeldUpBy = z.infer<typeof heldUpBySchema>;

/** More than these at once is no craft, and no ladder could hold what each asks. */
export const MOST_WAYS = 4;
/** More states than these are no longer told apart at a glance. */
export const MOST_STATES = 6;

const DEGREE = Math.PI / 180;
const turn = (most: number) =>
  finite.min(-most * DEGREE, `−${most}° to ${most}°`).max(most * DEGREE, `−${most}° to ${most}°`);

/** A part that stands elsewhere in a state than in the mass list. The id is that of the part. */
const movedPartSchema = z.object({
  id: idSchema,
  by: field(point().describe("how far it is moved from its place in the mass list, m"), {
    label: "moved",
    change: "place",
  }),
});

/** What is otherwise about a drive in a state. The id is that of the drive. */
const unitInStateSchema = z.object({
  id: idSchema,
  resting: field(z.boolean().default(false).describe("it does not run in this state"), { label: "at rest" }),
  turned: field(
    turn(180)
      .default(0)
      .describe("turn of its thrust about the axis across, rad; positive raises one that pushes ahead"),
    { label: "turned up", dimension: "angle", change: "thrust line" },
  ),
  works: field(z.enum(SURROUNDINGS).nullable().default(null).describe("where it works; null: as it is entered"), {
    label: "works",
  }),
  on: field(z.enum(DRUM_IN).nullable().default(null).describe("what a screw drum turns in; null: as it is entered"), {
    label: "turns in",
  }),
});
export type UnitInState = z.infer<typeof unitInStateSchema>;

/** What is otherwise about a lifting surface in a state. The id is that of the surface. */
const surfaceInStateSchema = z.object({
  id: idSchema,
  away: field(z.boolean().default(false).describe("folded, or out of the flow: it carries nothing in this state"), {
    label: "carries nothing",
  }),
  turned: field(turn(45).default(0).describe("added to its incidence, rad, nose up positive"), {
    label: "turned",
    dimension: "angle",
  }),
  works: field(z.enum(["air", "water"]).nullable().default(null).describe("what it works in; null: as it is entered"), {
    label: "works in",
  }),
});
export type SurfaceInState = z.infer<typeof surfaceInStateSchema>;

const list = <T extends z.ZodType<{ id: string }>>(of: T, most: number, twice: string) =>
  z.array(of).max(most).refine(unique, twice).default([]);

/** One way in which a craft is used: what holds it up in it, and what differs from how it is entered. */
export const stateSchema = z.object({
  id: idSchema,
  name: nameSchema,
  heldUpBy: field(
    z
      .array(heldUpBySchema)
      .min(1, "at least one thing holds it up")
      .max(MOST_WAYS, `at most ${MOST_WAYS} at once`)
      .refine((ways) => new Set(ways).size === ways.length, "each way once")
      .describe("what holds the craft up in this state; several at once share its weight"),
    { label: "held up by" },
  ),
  without: field(z.array(idSchema).max(1000).default([]).describe("parts that are not aboard in this state"), {
    label: "without",
    change: "mass",
  }),
  moved: field(list(movedPartSchema, 1000, "a part is moved twice"), { label: "part moved", change: "place" }),
  units: field(list(unitInStateSchema, 12, "a drive stands twice"), { label: "drive", change: "thrust line" }),
  surfaces: field(list(surfaceInStateSchema, 30, "a surface stands twice"), { label: "surface" }),
  dragArea: field(
    magnitude("area")
      .nullable()
      .default(null)
      .describe(
        "drag coefficient × area in this state, m²; null: as it is entered, and not known once drives " +
          "turn or surfaces fold",
      ),
    { label: "drag area", dimension: "area" },
  ),
});
export type State = z.infer<typeof stateSchema>;

/** A state in which nothing differs from how the craft is entered. */
export const plainState = (id: string, name: string, heldUpBy: HeldUpBy[]): State => ({
  id,
  name,
  heldUpBy,
  without: [],
  moved: [],
  units: [],
  surfaces: [],
  dragArea: null,
});

/** The one state that every craft has. */
export const usualState = (...heldUpBy: HeldUpBy[]): State => plainState("usual", "as it is used", heldUpBy);

/** How a craft gets from one of its states to another. */
export const transitionSchema = z
  .object({
    id: idSchema,
    from: field(idSchema, { label: "from" }),
    to: field(idSchema, { label: "to" }),
    wholeTurns: field(
      z.boolean().default(false).describe("the craft turns as a whole, as one that stands on its tail does"),
      { label: "the craft turns as a whole" },
    ),
  })
  .refine((t) => t.from !== t.to, { message: "a transition leads to another state", path: ["to"] });
export type Transition = z.infer<typeof transitionSchema>;
