/** A direction, a place or a force in three axes, in whatever unit its user says. */
export interface Vector {
  x: number;
  y: number;
  z: number;
}

export const minus = (a: Vector, b: Vector): Vector => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
export const sum = (a: Vector, b: Vector): Vector => ({ x: a.x + b.x, y: a.y + b.y, z: a.z + b.z });
export const scaled = (a: Vector, s: number): Vector => ({ x: s * a.x, y: s * a.y, z: s * a.z });
export const dot = (a: Vector, b: Vector): number => a.x * b.x + a.y * b.y + a.z * b.z;
export const cross = (a: Vector, b: Vector): Vector => ({
  x: a.y * b.z - a.z * b.y,
  y: a.z * b.x - a.x * b.z,
  z: a.x * b.y - a.y * b.x,
});
export const lengthOf = (a: Vector): number => Math.hypot(a.x, a.y, a.z);
/** The same direction, 1 long; a vector without length stays as it is. */
export const unitOf = (a: Vector): Vector => scaled(a, 1 / (lengthOf(a) || 1));
