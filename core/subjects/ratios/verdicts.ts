import type { TargetResult } from "../../design/targets";
import { supportOf } from "../../design/support";
import type { UnitHabit } from "../../design/units";
import { type Remedy, type See, figureOf, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { isOpenPropeller } from "../propulsion/kinds/which";
import { propulsion } from "../propulsion/node";
import { liftedByRotors } from "../propulsion/mainUnits";
import { LIGHTEN, advice, fitDiameter, graveness, ofCraft, percent, resize, solveFor } from "../say";

const thrustTarget = ({ targets }: See): TargetResult | undefined =>
  targets.find((t) => t.status === "missed" && (t.target.metric === "thrustToWeight" || t.target.metric === "thrust"));
const leading = (see: See) => see.design.units[see.result(propulsion)?.lead ?? 0];

/** A larger propeller on the leading drive, when one within 1.6 times its size reaches what is wanted. */
function larger(see: See, key: "thrust" | "thrustToWeight", wanted: number, h: UnitHabit): Remedy[] {
  const unit = leading(see);
  if (!unit || !isOpenPropeller(unit)) return [];
  const from = unit.propeller.diameter.value;
  const diameter = solveFor(
    see.design,
    (x) => resize(unit, "diameter", x),
    ofCraft(key),
    wanted * 1.01,
    from,
    from * 1.6,
  );
  return diameter === null ? [] : [fitDiameter(unit, diameter, h)];
}
/** Thrust against the weight of a craft that hangs on it; none where it rests on what nobody knows. */
const ratioNow = (see: See) => {
  // Wings that beat and push ahead carry by what they do in flight: their push standing is no lift.
  const ahead = supportOf(see.design).beats && leading(see)?.direction !== "up";
  const ratio = liftedByRotors(see.design) && !ahead ? see.metrics.thrustToWeight : undefined;
  return ratio?.unknown ? undefined : ratio;
};

/** A craft held up by its propellers that they cannot lift. */
const cannotLift = verdict<{ share: number; missing: number }>({
  find(see) {
    const [ratio, unit] = [ratioNow(see), leading(see)];
    if (!ratio || !unit || ratio.value >= 1) return [];
    return [
      {
        page: "power",
        severity: "stop",
        about: unit.id,
        params: { share: ratio.value, missing: (1 - ratio.value) * (see.metrics.auw?.value ?? 0) },
        figure: figureOf("thrust to weight", ratio, 1),
      },
    ];
  },
  remedies: (see, _found, h) => larger(see, "thrustToWeight", Math.max(1.3, thrustTarget(see)?.target.value ?? 0), h),
  says: (p, h) =>
    `Full throttle pushes ${percent(p.share)} of the weight: ${plain(p.missing, "mass", h)} of thrust ` +
    "are missing to lift it",
});

/** A target of thrust to weight, or of thrust, that is missed. */
const thrustShort = verdict<{ factor: number }>({
  find(see) {
    const target = thrustTarget(see);
    const ratio = ratioNow(see);
    if (!target?.predicted || (ratio && ratio.value < 1)) return [];
    return [
      {
        page: "power",
        severity: graveness(target),
        about: target.target.id,
        params: { factor: target.target.value / target.predicted.value },
        figure: figureOf(
          target.target.metric === "thrust" ? "thrust" : "thrust to weight",
          target.predicted,
          target.target.value,
        ),
      },
    ];
  },
  remedies(see, _found, h) {
    const target = thrustTarget(see)?.target;
    return target && (target.metric === "thrust" || target.metric === "thrustToWeight")
      ? larger(see, target.metric, target.value, h)
      : [];
  },
  says: (p) => `${percent(1 - 1 / p.factor)} short of the thrust you asked for`,
});

/**
 * A craft on its propellers that needs more than 70 % throttle to hover has little left to steer with (common
 * practice).
 */
const HOVER_THROTTLE = 0.7;
const liftThrottle = verdict<{ throttle: number }>({
  find(see) {
    const throttle = see.metrics.thrustThrottle;
    const unit = leading(see);
    if (!liftedByRotors(see.design) || !throttle || throttle.unknown || !unit || throttle.value <= HOVER_THROTTLE)
      return [];
    return [
      {
        page: "power",
        severity: "care",
        about: unit.id,
        params: { throttle: throttle.value },
        figure: figureOf("throttle to hover", throttle, HOVER_THROTTLE),
      },
    ];
  },
  remedies: () => [LIGHTEN],
  says: (p) => `Hovers at ${percent(p.throttle)} throttle: little is left to steer with`,
});

/**
 * A failure that hides: with one propeller dead what is left still meets the thrust asked, so it is not seen until
 * the next one goes.
 */
const maskedFailure = verdict<{ drives: number; left: number }>({
  find(see) {
    const result = see.result(propulsion);
    const target = see.targets.find(
      (t) =>
        (t.target.metric === "thrust" || t.target.metric === "thrustToWeight") && t.target.comparison === "atLeast",
    );
    // A craft that hangs on its propellers falls over with one dead: that hides from nobody.
    if (!result || !target?.predicted || liftedByRotors(see.design)) return [];
    const main = result.main.flatMap((i) => result.drives[i] ?? []);
    const propellers = main.reduce((s, d) => s + d.count, 0);
    if (propellers < 2) return [];
    const strongest = Math.max(...main.map((d) => d.values.thrust / d.count));
    const left = (target.predicted.value * (1 - strongest / result.values.thrust.value)) / target.target.value;
    if (left < 1) return [];
    return [
      {
        page: "power",
        severity: "note",
        about: "masked",
        params: { drives: propellers, left },
        figure: figureOf("thrust asked", target.predicted, target.target.value),
      },
    ];
  },
  remedies: () => [advice("Compare the current of each drive in every run")],
  says: (p) =>
    `One of ${p.drives} propellers could be dead and nobody would see: ${percent(p.left)} of what is ` +
    "asked would be left",
});

export const verdicts = {
  "cannot-lift": cannotLift,
  "thrust-short": thrustShort,
  "lift-throttle": liftThrottle,
  "masked-failure": maskedFailure,
};
