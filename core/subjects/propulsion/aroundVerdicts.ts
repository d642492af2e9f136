import { plain } from "../../wording/format";
import { verdict } from "../../subject";
import { advice, percent } from "../say";
import { type Around, blankAround } from "./around/declares";
import { areaFor, aroundFactor, aroundFactors, thingAround } from "./around/factor";
import { aroundModel, discOf } from "./around/models";
import { type InStream, inStreamOf } from "./inStream";
import { worksInFluid } from "./kinds/models";
import { eachDrive, unitOf } from "./eachDrive";

/** Share of the thrust below which what is around a drive takes a good part of it (judgement). */
const TAKES = 0.85;
/** Share that openings are made wide enough for (judgement). */
const WIDE = 0.95;
/** Gains and losses below this are not worth a word of their own. */
const SLIGHT = 0.005;

/** One thing around a drive: who, and the share of the thrust that it takes; negative where it gives. */
interface Taker {
  who: string;
  several: boolean;
  takes: number;
}
const inWords = ({ who, several, takes }: Taker): string =>
  `${who} ${takes < 0 ? "add" : "take"}${several ? "" : "s"} ${percent(Math.abs(takes))}`;

/** What the openings, the neighbours, the partner or the bodies around a drive take of its thrust. */
export const takenByAround = verdict<{ takers: Taker[]; left: number; name: string }>({
  find: (see) =>
    eachDrive(see, ({ unit, name }) => {
      const whole = aroundFactor(unit);
      if (!whole) return [];
      const each = aroundFactors(unit).flatMap(({ entry, factor }) => (factor ? [{ entry, factor }] : []));
      const takers = each
        .map(({ entry, factor }) => {
          const { who, several = false } = aroundModel(entry);
          return { who, several, takes: 1 - factor.value };
        })
        .filter((t) => Math.abs(t.takes) >= SLIGHT);
      if (takers.length === 0) return [];
      // A pair on one axis is meant to be one: it is said, and not scolded. So is what was weighed.
      const scolded = each.filter(({ entry }) => entry.kind !== "coaxial" && entry.kind !== "weighed");
      const much = scolded.reduce((left, { factor }) => left * factor.value, 1) < TAKES;
      return [
        {
          severity: much ? ("care" as const) : ("note" as const),
          params: { takers, left: whole.value, name },
          figure: {
            label: "thrust left",
            ...whole,
            dimension: "percent" as const,
            ...(scolded.length > 0 ? { limit: TAKES } : {}),
          },
        },
      ];
    }),
  remedies(see, { about }, h) {
    const unit = unitOf(see, about);
    if (!unit) return [];
    const [worst] = aroundFactors(unit).toSorted((a, b) => (a.factor?.value ?? 1) - (b.factor?.value ?? 1));
    if (!worst || worst.entry.kind === "weighed") return [];
    const weigh = advice(aroundModel(worst.entry).weigh);
    const area = worst.entry.kind === "openings" ? areaFor(unit, WIDE) : null;
    return area === null
      ? [weigh]
      : [weigh, advice(`Open ${plain(area, "area", h)} for each unit, before and behind it`)];
  },
  says({ takers, left, name }) {
    const said = `${name ? `${name}: ` : ""}${takers.map(inWords).join(", ")} of the thrust`;
    const all = takers.length > 1 ? `, so that ${percent(left)} is left` : "";
    return `${said.charAt(0).toUpperCase()}${said.slice(1)}${all}`;
  },
});

/** Share of a disc, hub left out, that parts cover before it is worth a word; and much of it (judgement). */
const COVERS = { some: 0.06, much: 0.2 };

/** Parts that stand in the stream of a drive which counts as free. */
export const standsInStream = verdict<InStream & { name: string }>({
  find: (see) =>
    eachDrive(see, ({ unit, drive }) => {
      const told = (["body behind", "body before", "weighed"] as const).some((k) => thingAround(unit, k));
      if (told || !worksInFluid(unit)) return [];
      const [worst] = inStreamOf(see.design, see.design.units.indexOf(unit)).toSorted((a, b) => b.share - a.share);
      if (!worst || worst.share < COVERS.some) return [];
      return [
        {
          severity: worst.share > COVERS.much ? ("care" as const) : ("note" as const),
          params: { ...worst, name: drive.name },
          figure: null,
        },
      ];
    }),
  remedies(see, { about, params: p }) {
    const unit = unitOf(see, about);
    const disc = unit && discOf(unit);
    if (!unit || !disc) return [];
    const kind = p.side === "behind" ? ("body behind" as const) : ("body before" as const);
    const guess = (value: number) => ({ value: Number(value.toPrecision(2)), evidence: "guess" as const });
    const entry = {
      ...blankAround(kind),
      area: guess(p.share * disc.area),
      gap: guess(Math.max(1e-3, p.gap)),
    } as Around;
    return [
      {
        code: "count-body",
        text: `Count them: a body ${p.side} its disc`,
        patch: { set: [{ path: ["units", `#${unit.id}`, "around"], value: [...unit.around, entry] }], addItems: [] },
      },
      advice("Weigh it with them in place and without, 10 min"),
    ];
  },
  says: (p) =>
    `${p.names.slice(0, 3).join(", ")}${p.names.length > 3 ? " and more" : ""} ` +
    `${p.side === "behind" ? "behind" : "before"} ${p.name}: ${percent(p.share)} of its disc is ` +
    "covered, and it counts as free",
});
