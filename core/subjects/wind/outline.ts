/**
 * Drag coefficient of a craft broadside on its outline: plates 1.17, cubes 1.05, round bodies 0.6 to 1.2 (Hoerner 1965,
 * from memory).
 */
export const BLUNT = { value: 1.1, sd: 0.3 };
/** How well an outline of boxes is the craft's (judgement). */
export const OUTLINE = 0.1;
