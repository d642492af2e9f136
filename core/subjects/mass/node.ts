import { type Evidence, type Known, evidenceByShare, magnitudeSd } from "../../design/evidence";
import type { Quantity, WorkingInput } from "../../design/quantity";
import type { Item } from "../../design/schema";
import { type Outcome, subject } from "../../subject";
import { isBallast } from "./ballast";
import { ON_HAND } from "./declares";
import { growthOf } from "./growth";

/** How heavy the craft is: nothing of where its parts are, so that moving one changes nothing here. */
export interface LedgerMass {
  /** kg */
  mass: number;
  massSd: number;
  evidence: Evidence;
  /** kg still to be expected at this evidence */
  growth: number;
  /** kg that are there for balance alone, and in the packs */
  ballast: number;
  packs: number;
  /** kg of each pack's entry, by the pack's id */
  itemOfPack: Record<string, number>;
  /** Parts without a mass, left out of every sum. */
  withoutMass: string[];
  /** The same as a sentence; empty when every part has one. */
  incomplete: string[];
}

/**
 * Share of some parts in the whole, with its standard uncertainty: s = m/M, so ds = ((1 − s)·dm − s·dr)/M with m
 * theirs and r the rest's.
 */
function shareOf(all: readonly Item[], some: (i: Item) => boolean): { value: number; sd: number } {
  const known = all.filter((i) => i.mass !== null);
  const whole = total(known);
  const value = total(known.filter(some)) / whole;
  const sd = (of: readonly Item[]) => Math.hypot(0, ...of.map((i) => (i.mass ? magnitudeSd(i.mass) * i.quantity : 0)));
  return {
    value,
    sd: Math.hypot((1 - value) * sd(known.filter(some)), value * sd(known.filter((i) => !some(i)))) / whole,
  };
}

/** How well the mass beyond what the gas carries is known. */
function netEvidence({ items }: { items: readonly Item[] }, lift: Known): Evidence {
  const masses = items.flatMap((i) =>
    i.mass ? [{ evidence: i.mass.evidence, sd: magnitudeSd(i.mass) * i.quantity }] : [],
  );
  const all = [{ evidence: lift.evidence, sd: magnitudeSd(lift) }, ...masses];
  const variance = all.reduce((s, k) => s + k.sd ** 2, 0);
  return evidenceByShare(all.map((k) => ({ evidence: k.evidence, share: variance > 0 ? k.sd ** 2 / variance : 0 })));
}

const total = (items: readonly Item[]): number => items.reduce((s, i) => s + (i.mass?.value ?? 0) * i.quantity, 0);

export const mass = subject({
  name: "mass",
  cost: "frame",
  reads: ["items", "batteries", "gasLift"],
  gives: ["auw", "auwExpected", "netMass", "ballastShare", "packShare"],
  compute(view): Outcome<LedgerMass> {
    const known = view.items.filter((i) => i.mass !== null);
    if (known.length === 0) return { status: "missing", needs: ["mass"] };
    const without = view.items.filter((i) => i.mass === null);
    const massSd = Math.hypot(...known.map((i) => (i.mass ? magnitudeSd(i.mass) * i.quantity : 0)));
    return {
      status: "solved",
      result: {
        mass: total(known),
        massSd,
        evidence: evidenceOf(known, massSd),
        growth: growthOf(view).expected,
        ballast: total(view.items.filter(isBallast)),
        packs: total(view.items.filter((i) => view.batteries.some((b) => b.itemId === i.id))),
        itemOfPack: Object.fromEntries(
          view.batteries.map((b) => [b.id, total(view.items.filter((i) => i.id === b.itemId))]),
        ),
        withoutMass: without.map((i) => i.id),
        incomplete: view.items.every((i) => i.id === ON_HAND)
          ? ["only the parts on hand are listed: structure, drive and pack are still to come"]
          : without.length === 0
            ? []
            : [
                `${without[0]?.name ?? ""}${without.length > 1 ? ` and ${without.length - 1} more` : ""} ` +
                  "without a mass",
              ],
      },
    };
  },
  quantities({ mass: m, massSd, evidence, growth, ballast, packs, incomplete }, view) {
    const rest = incomplete.length > 0 ? { incomplete } : {};
    const q = (value: number, sd: number, dimension: Quantity["dimension"], by: Evidence = evidence): Quantity => ({
      value,
      sd,
      dimension,
      evidence: by,
      ...rest,
    });
    const lift = view.gasLift;
    const isPack = (i: Item) => view.batteries.some((b) => b.itemId === i.id);
    const share = (some: (i: Item) => boolean) => {
      const { value, sd } = shareOf(view.items, some);
      return q(value, sd, "percent");
    };
    return {
      auw: q(m, massSd, "mass"),
      auwExpected: q(m + growth, massSd, "mass"),
      ...(lift
        ? { netMass: q(m - lift.value, Math.hypot(massSd, magnitudeSd(lift)), "mass", netEvidence(view, lift)) }
        : {}),
      ...(ballast > 0 ? { ballastShare: share(isBallast) } : {}),
      ...(packs > 0 ? { packShare: share(isPack) } : {}),
    };
  },
  working(key, { massSd }, view) {
    const of =
      key === "ballastShare"
        ? view.items.filter(isBallast)
        : key === "packShare"
          ? view.items.filter((i) => view.batteries.some((b) => b.itemId === i.id))
          : view.items;
    const lift: WorkingInput[] =
      key === "netMass" && view.gasLift
        ? [
            {
              name: "Carried by the gas",
              value: view.gasLift.value,
              sd: magnitudeSd(view.gasLift),
              dimension: "mass",
              evidence: view.gasLift.evidence,
              share: 0,
              source: null,
            },
          ]
        : [];
    return [...massesOf(of, massSd), ...lift];
  },
});

/** How well a sum of masses with this standard uncertainty is known. */
const evidenceOf = (items: readonly Item[], sd: number): Evidence =>
  evidenceByShare(
    items.flatMap(({ mass: m, quantity }) =>
      m ? [{ evidence: m.evidence, share: sd > 0 ? ((magnitudeSd(m) * quantity) / sd) ** 2 : 0 }] : [],
    ),
  );

/** The masses of parts as inputs of a sum with this standard uncertainty. */
export const massesOf = (items: readonly Item[], sd: number): WorkingInput[] =>
  items
    .flatMap((i): WorkingInput[] => {
      if (!i.mass) return [];
      const own = magnitudeSd(i.mass) * i.quantity;
      return [
        {
          name: i.name,
          value: i.mass.value * i.quantity,
          sd: own,
          dimension: "mass",
          evidence: i.mass.evidence,
          share: sd > 0 ? (own / sd) ** 2 : 0,
          source: { kind: "mass", item: i.name },
        },
      ];
    })
    .sort((a, b) => b.share - a.share);
