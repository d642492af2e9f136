import type { Patch } from "../../design/patch";
import { AXES, type Axis, type Item } from "../../design/schema";
import { type Found, type See, verdict } from "../../subject";
import { plain } from "../../wording/format";
import { ballastItem } from "../mass/ballast";
import { ON_HAND } from "../mass/declares";
import { isPlaced, placesUnsaid, unplacedOf } from "../mass/placed";
import { advice } from "../say";
import { movingMass } from "../mass/tree";
import { addBallast } from "./sentences";

const base = { page: "layout" as const };

/** Difference of mass, as a share, and of place, m, that a pair may have (common practice). */
const PAIR_MASS = 0.03;
const PAIR_PLACE = 0.002;

/** Pairs of parts that should match and differ in mass, or do not mirror each other. Each pair is looked at once. */
function unequalPairs({ design }: Pick<See, "design">) {
  const seen = new Set<string>();
  return design.items.flatMap((a) => {
    if (a.twinId === null || seen.has(a.id) || !a.mass || a.mirrored) return [];
    const b = design.items.find((i) => i.id === a.twinId);
    if (!b?.mass || b.mirrored) return [];
    seen.add(b.id);
    const [massA, massB] = [movingMass(design.items, a), movingMass(design.items, b)];
    const differ = Math.abs(massA - massB);
    const apart =
      isPlaced(a) && isPlaced(b) ? Math.hypot(a.place.x - b.place.x, a.place.y + b.place.y, a.place.z - b.place.z) : 0;
    const heavy = differ > PAIR_MASS * Math.max(massA, massB);
    return heavy || apart > PAIR_PLACE
      ? [
          {
            a,
            b,
            differ,
            apart,
            heavy,
            lighter: massA < massB ? a : b,
            most: Math.max(massA, massB),
            known: a.mass.evidence,
          },
        ]
      : [];
  });
}
const pairUnequal = verdict<{ a: string; b: string; mass: number; place: number }>({
  find: (see) =>
    unequalPairs(see).map(
      ({ a, b, differ, apart, heavy, most, known }): Found<{ a: string; b: string; mass: number; place: number }> => ({
        ...base,
        severity: "care",
        about: a.id,
        params: { a: a.name, b: b.name, mass: heavy ? differ : 0, place: apart },
        figure: heavy
          ? { label: "difference", value: differ, sd: 0, dimension: "mass", evidence: known, limit: PAIR_MASS * most }
          : {
              label: "out of mirror",
              value: apart,
              sd: 0,
              dimension: "length",
              evidence: a.placeEvidence,
              limit: PAIR_PLACE,
            },
      }),
    ),
  remedies(see, found, h) {
    const pair = unequalPairs(see).find((p) => p.a.id === found.about);
    if (!pair) return [];
    const { a, b, heavy, lighter, differ } = pair;
    const patch: Patch = heavy
      ? {
          set: [],
          addItems: [{ ...ballastItem(see.design, differ, lighter.place, lighter.name), parentId: lighter.id }],
        }
      : {
          set: AXES.map((axis) => ({
            path: ["items", `#${b.id}`, "place", axis],
            value: axis === "y" ? -a.place.y : a.place[axis],
          })),
          addItems: [],
        };
    return [
      heavy
        ? { code: "add-ballast", text: addBallast(differ, lighter.place.x, lighter.place.y, h), patch }
        : { code: "even-pair", text: `Place ${b.name} at y ${plain(-a.place.y, "length", h, 0)}`, patch },
    ];
  },
  says: (p, h) =>
    `${p.a} and ${p.b} should match but differ by ` +
    `${p.mass > 0 ? plain(p.mass, "mass", h, 1) : `${plain(p.place, "length", h)} in place`}`,
});

/** A mirrored entry with an odd number of pieces. */
const pairOdd = verdict<{ item: string; quantity: number }>({
  find: ({ design }) =>
    design.items
      .filter((i: Item) => i.mirrored && i.quantity % 2 === 1)
      .map((i) => ({
        ...base,
        severity: "care",
        about: i.id,
        params: { item: i.name, quantity: i.quantity },
        figure: {
          label: "pieces",
          value: i.quantity,
          sd: 0,
          dimension: "count",
          evidence: "measured",
          limit: i.quantity + 1,
        },
      })),
  remedies: (_see, { about, params: p }) => [
    {
      code: "set-quantity",
      text: `Set ${p.item} to ${p.quantity + 1}`,
      patch: { set: [{ path: ["items", `#${about}`, "quantity"], value: p.quantity + 1 }], addItems: [] },
    },
  ],
  says: (p) =>
    `${p.item} is a mirrored pair of ${p.quantity} pieces: an odd number cannot be split into a mirrored pair`,
});

/** A part that stands where its own slide range does not reach. */
const slideOutside = verdict<{ item: string; by: number; nearest: number }>({
  find: ({ design }) =>
    design.items.flatMap((item): Found<{ item: string; by: number; nearest: number }>[] => {
      if (!item.slide || !isPlaced(item, "x")) return [];
      const { from, to } = item.slide;
      const x = item.place.x;
      if (x >= from - 1e-6 && x <= to + 1e-6) return [];
      const nearest = x < from ? from : to;
      return [
        {
          ...base,
          severity: "care",
          about: item.id,
          params: { item: item.name, by: Math.abs(x - nearest), nearest },
          figure: {
            label: "place",
            value: x,
            sd: 0,
            dimension: "length",
            evidence: item.placeEvidence,
            limit: nearest,
          },
        },
      ];
    }),
  remedies: (_see, { about, params: p }, h) => [
    {
      code: "move-into-range",
      text: `Move ${p.item} to ${plain(p.nearest, "length", h, 0)}`,
      patch: { set: [{ path: ["items", `#${about}`, "place", "x"], value: p.nearest }], addItems: [] },
    },
  ],
  says: (p, h) => `${p.item} stands ${plain(p.by, "length", h)} outside its slide range`,
});

/** Parts with a mass of which nobody has said where they are. */
const placesUnsaidVerdict = verdict<{ parts: string; axes: Axis[]; count: number }>({
  find({ design, metrics }) {
    const open = unplacedOf(design.items, ...AXES);
    const [parts] = placesUnsaid(design.items, ...AXES);
    // The one entry that stands for all that is on hand has no place, and nobody expects it to.
    if (!parts || open.every((i) => i.id === ON_HAND)) return [];
    const mass = open.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);
    const auw = metrics.auw;
    return [
      {
        ...base,
        severity: "note",
        about: "places",
        params: { parts, axes: AXES.filter((a) => open.some((i) => !isPlaced(i, a))), count: open.length },
        figure: auw
          ? { label: "mass without a place", value: mass, sd: 0, dimension: "mass", evidence: auw.evidence }
          : null,
      },
    ];
  },
  remedies({ design }, { params: p }) {
    const across = unplacedOf(design.items, "y");
    return [
      ...(across.length > 0
        ? [
            {
              code: "on-centreline",
              text:
                across.length === 1
                  ? "It sits on the centreline: y 0"
                  : `All ${across.length} sit on the centreline: y 0`,
              patch: {
                set: across.map((i) => ({ path: ["items", `#${i.id}`, "place", "y"], value: 0 })),
                addItems: [],
              },
            },
          ]
        : []),
      advice(
        p.count === 1
          ? "Drag it in the drawing, or type where it is"
          : "Drag them in the drawing, or type where they are",
      ),
    ];
  },
  says: (p) =>
    p.axes.length === 3 ? `The CG is open: ${p.parts}` : `The CG along ${p.axes.join(" and ")} is open: ${p.parts}`,
});

/** What is wrong with single parts: pairs that are none, and parts outside of where they may slide. */
export const partVerdicts = {
  "places-unsaid": placesUnsaidVerdict,
  "pair-unequal": pairUnequal,
  "pair-odd": pairOdd,
  "slide-outside": slideOutside,
};
