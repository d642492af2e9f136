import { balanceAlong } from "../balance/known";
import { SURE } from "../../design/targets";
import { normalCdf } from "../../numeric/normal";
import { sdOf } from "../../numeric/doubt";
import { type Remedy, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { cgLimits } from "../balance/window";
import { advice } from "../say";
import { lattice } from "./latticeNode";
import { AT_SPEED } from "./trim";

import { figureBare, onWings, page, stop } from "./see";
/** Described wings, and nobody said whether they are all. */
export const notWhole = verdict<{ surfaces: number }>({
  find: (see) =>
    onWings(see) && !see.design.flight.whole
      ? [{ ...page, severity: "note", about: "wings", params: { surfaces: see.design.surfaces.length }, figure: null }]
      : [],
  remedies: () => [
    {
      code: "all-described",
      text: "Say that all are described",
      patch: { set: [{ path: ["flight", "whole"], value: true }], addItems: [] },
    },
  ],
  says: (p) =>
    `${p.surfaces === 1 ? "One surface is" : `${p.surfaces} surfaces are`} described: a tail or body ` +
    "that is missing shifts the CG window",
});

/** A CG window of the brief that reaches beyond what the wings allow. */
export const windowBeyond = verdict<{ by: number; aft: boolean }>({
  find(see) {
    const values = onWings(see)?.values;
    const target = see.design.brief.targets.find((t) => t.metric === "cgX" && t.comparison === "between");
    if (!values?.cgAft || !values.cgForward || !target || target.evidence === "guess" || target.upper === undefined)
      return [];
    if (!see.design.flight.whole || see.design.schools.balance !== "stable") return [];
    const behind = target.upper - values.cgAft.value;
    const ahead = values.cgForward.value - target.value;
    const aft = behind / (sdOf(values.cgAft) || 1e-3) >= ahead / (sdOf(values.cgForward) || 1e-3);
    const [by, edge, key] = aft
      ? [behind, values.cgAft, "cgAft" as const]
      : [ahead, values.cgForward, "cgForward" as const];
    // Said only where the wings' own edge is surely inside.
    if (!(by > 1.35 * sdOf(edge))) return [];
    const quantity = see.metrics[key];
    return quantity
      ? [
          {
            ...page,
            severity: aft ? "care" : "note",
            about: target.id,
            params: { by, aft },
            figure: figureOf(
              aft ? "aft limit of the wings" : "forward limit of the wings",
              quantity,
              aft ? target.upper : target.value,
            ),
          },
        ]
      : [];
  },
  remedies(see, { about }): Remedy[] {
    const values = onWings(see)?.values;
    if (!values?.cgAft || !values.cgForward || !(values.cgAft.value > values.cgForward.value)) return [];
    const rounded = (v: number) => Math.round(v * 1000) / 1000;
    return [
      {
        code: "window-of-wings",
        text: "Take the window that the wings need",
        patch: {
          set: [
            { path: ["brief", "targets", `#${about}`, "value"], value: rounded(values.cgForward.value) },
            { path: ["brief", "targets", `#${about}`, "upper"], value: rounded(values.cgAft.value) },
          ],
          addItems: [],
        },
      },
    ];
  },
  says: (p, h) =>
    p.aft
      ? `The CG window of the brief reaches ${plain(p.by, "length", h, 0)} behind what its wings hold`
      : `The CG window of the brief begins ${plain(p.by, "length", h, 0)} ahead of what its pitch control can trim`,
});

/**
 * A CG that the brief's own window allows and the wings do not hold: behind the neutral point it is unstable, whatever
 * was stated.
 */
export const behindWings = verdict<{ by: number; unstable: boolean }>({
  find(see) {
    const values = onWings(see)?.values;
    const [cg, aft, neutral] = [see.metrics.cgX, values?.cgAft, values?.neutralPoint];
    if (!cg || !aft || !neutral || cgLimits(see.design, onWings(see), "x")?.by !== "window") return [];
    if (see.design.schools.balance !== "stable" || cg.value <= aft.value) return [];
    const unstable = normalCdf((cg.value - neutral.value) / Math.hypot(cg.sd, sdOf(neutral))) >= SURE;
    const quantity = see.metrics.cgAft;
    return [
      {
        ...page,
        severity: unstable ? stop(see) : "care",
        about: "behind wings",
        params: { by: cg.value - aft.value, unstable },
        figure: quantity ? figureOf("CG", cg, quantity.value) : null,
      },
    ];
  },
  remedies: () => [advice("Move the CG forward, or take the window that the wings need (Stability)")],
  says: (p, h) =>
    `CG sits ${plain(p.by, "length", h, 0)} behind what its wings ` +
    `hold${p.unstable ? ": unstable in pitch" : ""}, though the brief's window allows it`,
});

/** The pitch control trims no CG that is stable. */
export const noWindow = verdict<{ by: number }>({
  find(see) {
    const values = onWings(see)?.values;
    const [low, high] = [values?.cgForward, values?.cgAft];
    const quantity = see.metrics.cgForward;
    if (!low || !high || !quantity || low.value < high.value || see.design.schools.balance !== "stable") return [];
    return [
      {
        ...page,
        severity: low.value - high.value > 1.35 * sdOf(low) ? stop(see) : "care",
        about: "window",
        params: { by: low.value - high.value },
        figure: figureOf("foremost CG that it trims", quantity, high.value),
      },
    ];
  },
  remedies: () => [advice("More travel, a larger pitch control, or another incidence of tail or foreplane")],
  says: (p, h) =>
    `No CG is both stable and trimmed: its pitch control runs out ${plain(p.by, "length", h, 0)} behind the aft limit`,
});

/** Unstable on purpose: how fast a disturbance grows with the CG where it is, or at the stop line. */
export const doubles = verdict<{ seconds: number; atStop: boolean }>({
  find(see) {
    const result = onWings(see);
    const [l, b] = [see.result(lattice), balanceAlong(see, "x", "z")];
    const { schools, walkBack } = see.design;
    const speed = result?.values.stallSpeed?.value;
    if (!result || !l || !b || !speed || schools.balance !== "unstable on purpose") return [];
    const at = walkBack ? walkBack.stop : b.cg.x;
    const behind = at - l.neutral.value;
    const pitch = b.inertia.pitch;
    if (!(behind > 0) || !(pitch > 0)) return [];
    const q = (result.density * (AT_SPEED * speed) ** 2) / 2;
    // Without damping: the fastest that it can grow.
    const seconds = Math.LN2 / Math.sqrt((q * l.model.alpha.z * behind) / pitch);
    return [
      {
        ...page,
        severity: seconds < 0.3 ? stop(see) : "care",
        about: "doubles",
        params: { seconds, atStop: walkBack !== null },
        figure: { ...figureBare("doubles in", seconds, 0.3, "stopwatch"), sd: seconds * 0.3 },
      },
    ];
  },
  remedies: () => [advice("A rate loop must answer in a third of that time; walk the CG back step by step")],
  says: (p) =>
    `${p.atStop ? "At its stop line a" : "A"} disturbance in pitch doubles in ${p.seconds.toFixed(2)} ` +
    `s: no hand holds that${p.seconds < 0.3 ? ", few loops do" : ""}`,
});
