import type { Quantity, WorkingInput } from "../../design/quantity";
import type { Axis } from "../../design/schema";
import { type Outcome, doubtsOf, given, subject } from "../../subject";
import { mass } from "../mass/node";
import { placesUnsaid, sizesUnsaid } from "../mass/placed";
import { type MassResult, rollUp } from "../mass/rollup";

const AXIS: Record<"cgX" | "cgY" | "cgZ", Axis> = { cgX: "x", cgY: "y", cgZ: "z" };

/** Axes along which every part must have a place for each of them. */
const ALONG: Record<"cgX" | "cgY" | "cgZ" | "inertiaRoll" | "inertiaPitch" | "inertiaYaw", Axis[]> &
  Record<string, Axis[] | undefined> = {
  cgX: ["x"],
  cgY: ["y"],
  cgZ: ["z"],
  inertiaRoll: ["y", "z"],
  inertiaPitch: ["x", "z"],
  inertiaYaw: ["x", "y"],
};

/** Where the mass is: centre of gravity and moments of inertia. */
export const balance = subject({
  name: "balance",
  cost: "frame",
  reads: ["items"],
  needs: [mass],
  gives: ["cgX", "cgY", "cgZ", "inertiaRoll", "inertiaPitch", "inertiaYaw"],
  compute(view): Outcome<MassResult> {
    const result = rollUp(view);
    return result ? { status: "solved", result } : { status: "missing", needs: ["mass"] };
  },
  lacks: (key, _r, view) => placesUnsaid(view.items, ...(ALONG[key] ?? []))[0] ?? null,
  quantities(r, view, of) {
    const ledger = of(mass);
    const incomplete = ledger.status === "solved" ? ledger.result.incomplete : [];
    /** Not given along an axis along which a part with a mass has no place: what is open is no number. */
    const q = (
      axes: readonly Axis[],
      value: number,
      sd: number,
      dimension: Quantity["dimension"],
      evidence = r.inertiaEvidence,
    ): Quantity | undefined => {
      if (axes.some((a) => !r.placed[a])) return undefined;
      const points = axes.length > 1 ? sizesUnsaid(view.items) : [];
      return { value, sd, dimension, evidence, ...doubtsOf([], [...incomplete, ...points]) };
    };
    return given({
      cgX: q(ALONG.cgX, r.cg.x, r.cgSd.x, "length", r.cgEvidence.x),
      cgY: q(ALONG.cgY, r.cg.y, r.cgSd.y, "length", r.cgEvidence.y),
      cgZ: q(ALONG.cgZ, r.cg.z, r.cgSd.z, "length", r.cgEvidence.z),
      inertiaRoll: q(ALONG.inertiaRoll, r.inertia.roll, r.inertiaSd.roll, "inertia"),
      inertiaPitch: q(ALONG.inertiaPitch, r.inertia.pitch, r.inertiaSd.pitch, "inertia"),
      inertiaYaw: q(ALONG.inertiaYaw, r.inertia.yaw, r.inertiaSd.yaw, "inertia"),
    });
  },
  working(key, r, view) {
    const axis = AXIS[key as keyof typeof AXIS] as Axis | undefined;
    const out: WorkingInput[] = [];
    for (const [k, item] of view.items.entries()) {
      const share = r.items[k];
      if (!item.mass || share?.mass == null) continue;
      const place = {
        name: `${item.name}, place`,
        value: item.place[axis ?? "x"],
        sd: share.placeSd,
        dimension: "length" as const,
        evidence: item.placeEvidence,
      };
      const weight = {
        name: item.name,
        value: share.mass,
        sd: share.massSd,
        dimension: "mass" as const,
        evidence: item.mass.evidence,
      };
      const variance = axis ? r.cgSd[axis] ** 2 : 0;
      const arm = axis ? (axis === "y" && item.mirrored ? 0 : item.place[axis]) - r.cg[axis] : 0;
      const byMass = axis ? ((share.massSd / r.mass) * arm) ** 2 : 0;
      const byPlace = axis && !(axis === "y" && item.mirrored) ? ((share.placeSd * share.mass) / r.mass) ** 2 : 0;
      out.push({ ...weight, share: variance > 0 ? byMass / variance : 0, source: { kind: "mass", item: item.name } });
      out.push({ ...place, share: variance > 0 ? byPlace / variance : 0, source: { kind: "place", item: item.name } });
    }
    return out.sort((a, b) => b.share - a.share);
  },
});
