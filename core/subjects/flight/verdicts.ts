import { mayFlutter, twitchy } from "./quickVerdicts";
import { balanceAlong } from "../balance/known";
import { behindWings, doubles, noWindow, notWhole, windowBeyond } from "./cgVerdicts";
import { controlStop, launchSlow, stallFirst, torqueRoll, trimTakes } from "./slowVerdicts";
import { AXES, type Surface } from "../../design/schema";
import { sdOf } from "../../numeric/doubt";
import { verdict } from "../../subject";
import { plain } from "../../wording/format";
import { extent as boxOf } from "../mass/rollup";
import { advice } from "../say";
import { placedUnits } from "../propulsion/placed";
import { lattice } from "./latticeNode";

import { onWings, page, stop } from "./see";
/** No surface on edge, or too small a one: the wind turns it away. */
const yawAway = verdict<{ fins: boolean }>({
  find(see) {
    const result = onWings(see);
    if (!result || result.inWater || !see.design.flight.whole || !balanceAlong(see, "x") || result.yaw > 0) return [];
    return [
      {
        ...page,
        severity: "care",
        about: "yaw",
        params: { fins: result.fins },
        figure: null,
      },
    ];
  },
  remedies: () => [advice("A larger fin, or one further aft; or a rate loop about yaw")],
  says: (p) =>
    p.fins
      ? "The wind turns its nose away: the fin is too small for its bodies and CG"
      : "No fin holds its nose into the wind, and its bodies turn it away",
});

/** Near the ground: a craft whose height point lies behind its pitch point climbs away or digs in. */
const heightOrder = verdict<{ by: number; under: boolean }>({
  find(see) {
    const result = onWings(see);
    const l = see.result(lattice);
    if (!result || result.heightPoint === null || !l) return [];
    const by = result.heightPoint - l.neutral.value;
    const sd = sdOf(l.neutral);
    if (by < -1.35 * sd) return [];
    return [
      {
        ...page,
        severity: by > 1.35 * sd ? stop(see) : "care",
        about: "height",
        params: { by, under: result.inWater },
        figure: {
          label: "height point",
          value: result.heightPoint,
          sd,
          dimension: "length",
          evidence: "calculated",
          limit: l.neutral.value,
        },
      },
    ];
  },
  remedies: () => [advice("A larger or higher tail moves the pitch point aft; fly only so low that you can catch it")],
  says: (p, h) =>
    p.by > 0
      ? `${p.under ? "Under the surface" : "Near the ground"} it does not hold its height: lift from ` +
        `height acts ${plain(p.by, "length", h, 0)} behind lift from pitch`
      : `${p.under ? "Under the surface" : "Near the ground"} it may not hold its height: lift from ` +
        "height acts no surer ahead than lift from pitch",
});

/** A surface in the wash of a propeller close before it: the lattice knows nothing of it. */
const inWash = verdict<{ surface: string }>({
  find(see) {
    if (!onWings(see)) return [];
    const discs = see.design.units.flatMap((u, k) =>
      u.measured || u.propulsor
        ? []
        : placedUnits(see.design, k).map(({ at, toward }) => ({ at, toward, r: u.propeller.diameter.value / 2 })),
    );
    const hit = see.design.surfaces.find((s: Surface) =>
      discs.some(
        (d) =>
          d.toward.x < -0.5 &&
          s.at.x > d.at.x &&
          s.at.x - d.at.x < 8 * d.r &&
          Math.hypot(s.at.y - d.at.y, s.at.z - d.at.z) < d.r,
      ),
    );
    return hit ? [{ ...page, severity: "note", about: hit.id, params: { surface: hit.name }, figure: null }] : [];
  },
  says: (p) => `“${p.surface}” stands in a propeller's wash: with power on it works more than is computed here`,
});

/** How many times the largest extent of the parts a surface may stand off them before its unit is asked about. */
const FAR = 3;
/** A surface far away from everything else: a slip of a unit, most likely, and every number with it. */
const surfaceFar = verdict<{ surface: string; away: number }>({
  find(see) {
    const box = boxOf({ items: see.design.items });
    if (!box || see.design.items.length < 2) return [];
    const size = Math.max(...AXES.map((a) => box.max[a] - box.min[a]));
    return see.design.surfaces.flatMap((s) => {
      const off = Math.hypot(...AXES.map((a) => Math.max(box.min[a] - s.at[a], s.at[a] - box.max[a], 0)));
      return off > FAR * size
        ? [{ ...page, severity: "care" as const, about: s.id, params: { surface: s.name, away: off }, figure: null }]
        : [];
    });
  },
  remedies: () => [advice("Look at its place: is the unit right?")],
  says: (p, h) =>
    `“${p.surface}” stands ${plain(p.away, "length", h, 0)} away from the parts: every number of the ` +
    "wings rests on that",
});

/** Chords below which a foil draws air as soon as it comes up or leans (common practice). */
const DEEP = 1;
/** A foil that runs hardly under the surface. */
const foilShallow = verdict<{ surface: string; chords: number }>({
  find(see) {
    const l = see.result(lattice);
    const main = l && see.design.surfaces[l.main];
    if (!l?.inWater || !main || l.depth === null) return [];
    const chords = l.depth / l.mac;
    if (chords >= DEEP) return [];
    return [{ ...page, severity: "care", about: main.id, params: { surface: main.name, chords }, figure: null }];
  },
  remedies: () => [advice("Let it run deeper: longer struts, or less lift set, so that it comes up less")],
  says: (p) => `“${p.surface}” runs ${p.chords.toFixed(1)} chords deep: it draws air, and lets go of it all at once`,
});

export const verdicts = {
  "wings-not-whole": notWhole,
  "window-beyond": windowBeyond,
  "behind-wings": behindWings,
  "no-window": noWindow,
  "pitch-doubles": doubles,
  "stall-first": stallFirst,
  "control-stop": controlStop,
  "trim-takes": trimTakes,
  "launch-slow": launchSlow,
  "yaw-away": yawAway,
  "torque-roll": torqueRoll,
  "height-order": heightOrder,
  "in-wash": inWash,
  "surface-far": surfaceFar,
  "foil-shallow": foilShallow,
  twitchy,
  "may-flutter": mayFlutter,
};
