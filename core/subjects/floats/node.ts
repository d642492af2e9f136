import type { Sure } from "../../numeric/doubt";
import { supportOf } from "../../design/support";
import { findRoot } from "../../numeric/root";
import { type Outcome, subject } from "../../subject";
import { GRAVITY } from "../air/air";
import { balance } from "../balance/node";
import { mass } from "../mass/node";
import { placesUnsaid } from "../mass/placed";
import { waterOf } from "../propulsion/setup";
import { bodyGives, heldBelow } from "../surfaces/bodyShape";

export interface FloatsResult {
  /** kg of water that all described bodies displace at the most, wholly under, and the mass that they carry */
  most: Sure;
  mass: Sure;
  /** where it lies if it is held upright and level; null: they go under */
  level: {
    /** m of the water's surface over the baseline */
    water: Sure;
    /** m from the lowest of the bodies to the water's surface */
    draught: Sure;
    /** m that the middle of the displaced water lies behind the CG; null: where the CG is, is not known */
    behind: Sure | null;
    /** about that attitude; null: where the CG is, is not known */
    upright: Upright | null;
  } | null;
}

/** How water holds a hull at its upright, level attitude, for small angles. */
export interface Upright {
  roll: Righting;
  pitch: Righting;
}
export interface Righting {
  /** m of the metacentre over the CG: GM = KB + I/V − KG */
  gm: Sure;
  /** N·m that turn it back, for each radian */
  stiff: Sure;
  /** rad at which it lies by itself, starboard down or nose up positive; null: it does not, or beyond 15° */
  rest: Sure | null;
}

/** Doubt of a described volume, share of it (judgement: straight lines from frame to frame, skins, what is inside). */
const VOLUME = 0.05;
/** Doubt of I/V of described bodies, share of it (judgement: widths by their square, volumes once). */
const PLANE = 0.08;
/** Beyond this the metacentre moves: nothing is told of where it lies by itself, rad. */
const SMALL = (15 * Math.PI) / 180;

/** One way of turning, from a metacentre, and a CG beside or behind the middle of the water. */
function righting(gm: Sure, weight: number, off: Sure | null): Righting {
  const stiff = { value: weight * gm.value, sd: weight * gm.sd };
  const angle = off && gm.value > 0 ? Math.atan(off.value / gm.value) : null;
  return {
    gm,
    stiff,
    rest:
      off && angle !== null && Math.abs(angle) < SMALL
        ? { value: angle, sd: Math.hypot(off.sd / gm.value, (off.value * gm.sd) / gm.value ** 2) }
        : null,
  };
}

/** Doubt of where the middle of the displaced water lies, share of the bodies' length (judgement). */
const MIDDLE = 0.01;

/**
 * Whether the described bodies of a craft on its hull displace as much water as it weighs, how deep, held level, and
 * whether the water turns it back from there: metacentres for small angles (Archimedes; Bouguer 1746).
 */
export const floats = subject({
  name: "floats",
  reads: ["states", "gasLift", "items", "bodies", "brief.environment"],
  needs: [mass, balance],
  compute(view, of): Outcome<FloatsResult> {
    const { afloat, weighedOff, ways } = supportOf(view);
    if (!afloat || weighedOff) return { status: "not covered", because: "no hull carries it" };
    if (ways.length > 1)
      return {
        status: "not covered",
        because: "its hull and something else share the weight: how is not computed so far",
      };
    // What is a guess may hold it up, or not.
    const guessed = view.bodies.find((b) => b.shapeBy === "guess");
    if (guessed) return { status: "missing", needs: [`the shape of ${guessed.name}: it is a guess`] };
    const bodies = view.bodies.filter((b) => b.frames.length > 1);
    if (bodies.length === 0) return { status: "missing", needs: ["its hull described as a body"] };
    const ledger = of(mass);
    if (ledger.status !== "solved") return { status: "missing", needs: ["mass"] };
    const [lacking] = ledger.result.incomplete;
    if (lacking !== undefined) return { status: "missing", needs: [lacking] };
    const { density } = waterOf(view.brief.environment);
    const { mass: kg, massSd } = ledger.result;
    const volume = bodies.reduce((s, b) => s + bodyGives(b).volume, 0);
    const most = { value: density * volume, sd: VOLUME * density * volume };
    const low = Math.min(...bodies.flatMap((b) => b.frames.map((f) => f.z - f.height / 2)));
    const high = Math.max(...bodies.flatMap((b) => b.frames.map((f) => f.z + f.height / 2)));
    const at = (z: number) => bodies.map((b) => heldBelow(b, z));
    const held = (z: number) => density * at(z).reduce((s, h) => s + h.volume, 0);
    const result = (level: FloatsResult["level"]): Outcome<FloatsResult> => ({
      status: "solved",
      result: { most, mass: { value: kg, sd: massSd }, level },
    });
    if (most.value <= kg) return result(null);
    const found = findRoot((z) => held(z) - kg, low, high, 1e-5 * (high - low));
    // The bodies' sections by straight pieces hold a little less at the very top than their loft does.
    if (found.status === "noBracket") return result(null);
    if (found.status !== "converged")
      return { status: "failed", reason: `the height of the water was not found: ${found.status}` };
    const here = at(found.x);
    const plane = here.reduce((s, h) => s + h.waterplane, 0);
    const sd = Math.hypot(VOLUME * kg, massSd) / Math.max(density * plane, 1e-9);
    const wet = here.reduce((s, h) => s + h.volume, 0);
    const [middle, up] = (["x", "z"] as const).map(
      (a) => here.reduce((s, h) => s + h.volume * (h.middle?.[a] ?? 0), 0) / wet,
    ) as [number, number];
    const placed = placesUnsaid(view.items, "x").length === 0;
    const cg = of(balance);
    const xs = bodies.flatMap((b) => b.frames.map((f) => f.x));
    const long = Math.max(...xs) - Math.min(...xs);
    const behind =
      placed && cg.status === "solved"
        ? { value: middle - cg.result.cg.x, sd: Math.hypot(cg.result.cgSd.x, MIDDLE * long) }
        : null;
    // ∫y² about the middle of the craft, ∫x² about the middle of the water's cut.
    const across = here.reduce((s, h, k) => s + h.moments.across + h.waterplane * (bodies[k]?.y ?? 0) ** 2, 0);
    const flat = here.reduce((s, h) => s + h.moments.along, 0);
    const along = here.reduce((s, h) => s + h.moments.alongTwice, 0) - flat ** 2 / Math.max(plane, 1e-12);
    const metacentre = (moment: number): Sure | null =>
      cg.status === "solved" && placesUnsaid(view.items, "z").length === 0
        ? {
            value: up + moment / wet - cg.result.cg.z,
            sd: Math.hypot(cg.result.cgSd.z, (PLANE * moment) / wet, VOLUME * (found.x - low)),
          }
        : null;
    const [gmRoll, gmPitch] = [metacentre(across), metacentre(along)];
    const beside =
      cg.status === "solved" &&
      placesUnsaid(view.items, "y").length === 0 &&
      bodies.every((b) => b.mirrored || b.y === 0)
        ? { value: cg.result.cg.y, sd: cg.result.cgSd.y }
        : null;
    const weight = kg * GRAVITY;
    return result({
      upright:
        gmRoll && gmPitch
          ? {
              roll: righting(gmRoll, weight, beside),
              // Water behind the CG lifts its stern: it settles by the bow.
              pitch: righting(gmPitch, weight, behind && { ...behind, value: -behind.value }),
            }
          : null,
      behind,
      water: { value: found.x, sd },
      draught: { value: found.x - low, sd },
    });
  },
});
