import { supportOf } from "../../design/support";
import type { HeldUpBy } from "../../design/schema";
import { METRICS } from "../../design/metrics";
import { undecided } from "../../design/targets";
import { type Found, figureOf, verdict } from "../../subject";
import { floats } from "../floats/node";
import { flight } from "../flight/node";
import { ONE_MINUTE, advice } from "../say";
import { disarmsAloft, runsOn } from "./controlVerdicts";

/** No target at all, or none for where the CG must be. */
const targetsMissing = verdict<{ which: "all" | "window" }>({
  find(see) {
    const { design } = see;
    const { targets } = design.brief;
    const which = targets.length === 0 ? "all" : targets.some((t) => t.metric === "cgX") ? null : "window";
    if (!which || (which === "window" && (supportOf(design).gas || see.result(flight)))) return [];
    return [{ page: "brief", severity: "note", about: which, params: { which }, figure: null }];
  },
  remedies: () => [advice("State targets in Brief")],
  says: (p) =>
    p.which === "all"
      ? "No targets yet: nothing to hold the craft against"
      : "No CG range yet. Enter the forward and aft limits",
});

/**
 * A must target that looks met, or nearly so, with odds between 10 and 90 in 100, on a number that is no better than
 * a guess.
 */
const restsOnGuess = verdict<{ label: string }>({
  find: ({ targets }) =>
    targets
      .filter((t) => t.predicted?.evidence === "guess" && undecided(t.odds) && t.target.metric !== "cgX")
      .flatMap((t): Found<{ label: string }>[] =>
        t.predicted
          ? [
              {
                page: METRICS[t.target.metric].page,
                severity: "note",
                about: t.target.id,
                params: { label: METRICS[t.target.metric].label },
                figure: figureOf(METRICS[t.target.metric].label, t.predicted, t.target.value),
              },
            ]
          : [],
      ),
  remedies: (see, { about }) => [
    see.targets.some((t) => t.target.id === about && t.target.metric === "endurance")
      ? ONE_MINUTE
      : advice("Measure the weakest input before building on it"),
  ],
  says: (p) => `${p.label} rests on a guess`,
});

const listed = (words: readonly string[]) =>
  words.length < 2 ? words.join("") : `${words.slice(0, -1).join(", ")} and ${words.at(-1)}`;

const CARRIED: Record<HeldUpBy, string | null> = {
  rotors: null,
  wings: "its wings",
  hull: "its hull",
  gas: "the gas",
  cushion: "its cushion",
  ground: "what it rolls or crawls on",
  flapping: "flapping wings",
  submerged: "displaced water",
};

/** The way of being held up that nothing here computes yet: said once, so that silence is not taken for a pass. */
const supportOpen = verdict<{ by: string; wings: boolean; hull: boolean }>({
  find(see) {
    const { design } = see;
    const { ways } = supportOf(design);
    // What the gas carries may be entered by hand.
    const flies = see.result(flight) !== null;
    const open = ways.flatMap((way) =>
      (way === "gas" && design.gasLift !== null) || (way === "wings" && flies) ? [] : (CARRIED[way] ?? []),
    );
    const wings = ways.includes("wings") && design.surfaces.length === 0;
    if (open.length === 0 || design.items.length === 0) return [];
    // What its bodies displace carries it, or is told by itself.
    const hull = ways.length === 1 && see.result(floats) !== null;
    const params = { by: listed(open), wings, hull };
    return [{ page: "brief", severity: "note", about: "support", params, figure: null }];
  },
  remedies: (_see, { params: { wings } }) =>
    wings ? [advice("Describe the wing in Stability, 1 min: place, span, two chords")] : [],
  says: (p) =>
    p.hull
      ? "How far it heels and trims beyond small angles, and how it runs, is not computed here yet: that stays " +
        "open, whatever else is met"
      : `Whether ${p.by} can carry it is not ` +
        `computed${p.wings ? " before they are described" : " here yet"}: that stays open, whatever else ` +
        "is met",
});

export const verdicts = {
  "support-open": supportOpen,
  "targets-missing": targetsMissing,
  "rests-on-guess": restsOnGuess,
  "disarms-aloft": disarmsAloft,
  "runs-on": runsOn,
};
