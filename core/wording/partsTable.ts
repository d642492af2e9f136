import { moneyHere } from "../design/money";
import type { PartRole } from "../exchange/partsHeads";
import type { LineReport } from "../exchange/partsTable";

export const ROLE_WORD: Record<PartRole, string> = {
  name: "name",
  quantity: "quantity",
  mass: "mass",
  x: "x, aft of nose",
  y: "y, to starboard",
  z: "z, up",
  group: "group",
  source: "where from",
  price: "price",
  ignore: "leave out",
};

const SAY: Record<LineReport["code"], (text: string) => string> = {
  blank: () => "empty row",
  comment: (t) => `comment: ${t}`,
  title: (t) => `title above the header: ${t}`,
  subtotal: (t) => `“${t}” is a sum of other rows: not counted as a part`,
  duplicate: (t) => `the same name twice: ${t}. Both are kept`,
  "negative-mass": (t) => `a mass of “${t}” cannot be: the row is refused. Accepted: more than zero, or empty`,
  "no-mass": (t) =>
    t === ""
      ? "no mass: kept without one"
      : `“${t}” is not a mass: kept without one. Accepted: a number with g, kg, oz or lb`,
  "two-ways": (t) =>
    `“${t}” may be read two ways, as a decimal or in thousands: left open. Accepted: it without a sign for thousands`,
  "no-place": (t) => `no x: ${t} is put at the CG of the others as a guess`,
  unreadable: (t) => `“${t}” is not a place: left open. Accepted: a number with mm, cm, m or in`,
  quantity: (t) => `“${t}” is not a quantity: the row is refused. Accepted: a whole number from 1 to 999`,
  nameless: (t) => `no name (${t})`,
  currency: (t) => `${t} is in another currency than this workshop (${moneyHere().currency}): entered without a price`,
  "far-out": (t) => `${t} stands far from all others: is the unit right?`,
  "too-many": (t) => `${t}: more than 1000 rows`,
};

/** What the reader noticed about a line, as a sentence. */
export const reportText = (report: LineReport): string => SAY[report.code](report.text);
