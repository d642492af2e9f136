import { isPlaced } from "../../../../core/subjects/mass/placed";
import { DISPLAY, type UnitHabit } from "../../../../core/design/units";
import { resultIn } from "../../../../core/evaluate";
import { balance } from "../../../../core/subjects/balance/node";
import type { MassResult } from "../../../../core/subjects/mass/rollup";
import type { Design, Item } from "../../../../core/design/schema";
import { gramPrice } from "../../../../core/subjects/balance/gram";
import { plain, showSd } from "../../../../core/wording/format";
import { useCalmDesk } from "../../../app/desk";
import { usePreferences } from "../../../app/preferences";
import type { SheetName } from "./numbers";

/**
 * What the rest of the craft makes of an entry, as it is shown: rows are drawn again only when this or the entry
 * itself changes. A sheet of columns gets what it shows, no more: what it does not show would draw every row again.
 */
export type Derived = Partial<
  Record<"sd" | "blur" | "bar" | "mass" | "ofMass" | "ofMoment" | "ofDoubt" | "costs" | "worth", string>
>;

type Of = (item: Item) => Derived;
const NOTHING: Derived = {};

/** What the rest of the craft makes of one entry, worked out for those that are drawn. */
export function useDerived(sheet: SheetName): Of {
  const { seen: design, evaluation } = useCalmDesk("sheet");
  const { habit } = usePreferences();
  const mass = resultIn(evaluation, balance);
  return sheet === "mass and place"
    ? doubts(mass, habit)
    : sheet === "shares and leverage"
      ? shares(design, mass, habit)
      : () => NOTHING;
}

type Balance = MassResult | null;

/** Doubt of a mass, and how far it blurs the CG. */
function doubts(mass: Balance, habit: UnitHabit): Of {
  const shares = new Map(mass?.items.map((s) => [s.id, s]));
  const widest = Math.max(1e-9, ...(mass?.items.map((s) => s.blurX) ?? []));
  return (item) => {
    const share = shares.get(item.id);
    if (!share?.mass) return NOTHING;
    const placed = isPlaced(item, "x");
    return {
      sd: showSd(share.massSd / item.quantity, "mass", habit),
      blur: placed ? showSd(share.blurX, "length", habit) : "",
      bar: placed ? String(Math.round((26 * share.blurX) / widest)) : "",
    };
  };
}

/** Share of mass, moment and doubt, and what a gram there costs. */
function shares(design: Design, mass: Balance, habit: UnitHabit): Of {
  const price = mass?.placed.x ? gramPrice(design, mass.cg.x) : null;
  const whole = { mass: mass?.mass ?? 0, cg: mass?.cg.x ?? 0 };
  const moment = (i: Item) =>
    Math.abs((i.mass?.value ?? 0) * i.quantity * (isPlaced(i, "x") ? i.place.x - whole.cg : 0));
  const moments = design.items.reduce((s, i) => s + moment(i), 0);
  const blurs = new Map(mass?.items.map((s) => [s.id, s.blurX]));
  const doubt = [...blurs.values()].reduce((s, b) => s + b ** 2, 0);
  const hundredths = (part: number, of: number) => (of > 0 && part > 0 ? `${((100 * part) / of).toFixed(1)} %` : "");
  return (item) => {
    const weight = (item.mass?.value ?? 0) * item.quantity;
    const counter = price?.at(item.place.x) ?? 0;
    return {
      mass: weight > 0 ? plain(weight, "mass", habit) : "",
      ofMass: hundredths(weight, whole.mass),
      ofMoment: hundredths(moment(item), moments),
      ofDoubt: hundredths((blurs.get(item.id) ?? 0) ** 2, doubt),
      costs: counter > 0 ? `${counter.toFixed(2)} ${DISPLAY[habit].mass}` : counter < 0 ? "helps" : "",
      worth: item.mass && price ? `${(1 + counter).toFixed(2)} ${DISPLAY[habit].mass}` : "",
    };
  };
}
