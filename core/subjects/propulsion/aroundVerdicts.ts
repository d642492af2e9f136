import { plain } from "../../wording/format";
import { verdict } from "../../subject";
import { advice, percent } from "../say";
import type { AroundKind } from "./around/declares";
import { areaFor, aroundFactor, aroundTold } from "./around/factor";
import { eachDrive, unitOf } from "./eachDrive";

/** Share of the thrust below which what is around a drive takes a good part of it (judgement). */
const TAKES = 0.85;
/** Share that openings are made wide enough for (judgement). */
const WIDE = 0.95;

const SAID: Record<AroundKind, string> = {
  openings: "Its openings take",
  overlap: "Discs that overlap take",
  coaxial: "A partner on its axis takes",
};

/** What the openings, the neighbours or the partner of a drive take of its thrust. */
export const takenByAround = verdict<{ kind: AroundKind; taken: number; name: string }>({
  find: (see) =>
    eachDrive(see, ({ unit, name }) => {
      const factor = aroundTold(unit) ? aroundFactor(unit) : null;
      if (!factor || !unit.around) return [];
      const { kind } = unit.around;
      // A pair on one axis is meant to be one: it is said, and not scolded.
      const much = factor.value < TAKES && kind !== "coaxial";
      return [
        {
          severity: much ? "care" : "note",
          params: { kind, taken: 1 - factor.value, name },
          figure: {
            label: "thrust left",
            ...factor,
            dimension: "percent",
            ...(kind === "coaxial" ? {} : { limit: TAKES }),
          },
        },
      ];
    }),
  remedies(see, { about, params: p }, h) {
    const unit = unitOf(see, about);
    const weigh =
      p.kind === "openings"
        ? advice("Weigh it with the lid on and with the lid off, 10 min")
        : advice("Weigh one alone and all together, 10 min");
    const area = unit && p.kind === "openings" ? areaFor(unit, WIDE) : null;
    return area === null
      ? [weigh]
      : [weigh, advice(`Open ${plain(area, "area", h)} for each unit, before and behind it`)];
  },
  says: (p) =>
    `${p.name ? `${p.name}: ${SAID[p.kind].charAt(0).toLowerCase()}${SAID[p.kind].slice(1)}` : SAID[p.kind]} ${percent(p.taken)} of the thrust`,
});
