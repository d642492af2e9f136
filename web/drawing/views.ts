/** Side from port (nose left), top from above (nose left), front from ahead (starboard left). */
export const VIEWS = ["side", "top", "front"] as const;
export type ViewName = (typeof VIEWS)[number];
