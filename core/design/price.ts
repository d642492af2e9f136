/** A price: one number, or from a least to a most. */
export interface Price {
  least: number;
  most: number;
}

/** Doubt of a price that was entered as one number, as a share of it (judgement). */
const DOUBT = 0.05;

/** Price each of a part; null when it has none. */
export const priceOf = (item: { cost: number | null; costMost: number | null }): Price | null =>
  item.cost === null ? null : { least: item.cost, most: Math.max(item.cost, item.costMost ?? item.cost) };

/** What one piece is expected to cost, where that is one number to go on; null when it has no price. */
export const priceEach = (item: { cost: number | null; costMost: number | null } | undefined): number | null => {
  const price = item ? priceOf(item) : null;
  return price && expected(price);
};

/** What a price is expected to be: the middle of its range. */
export const expected = ({ least, most }: Price): number => (least + most) / 2;

/**
 * Standard uncertainty of a price: of a range that of a number anywhere in it alike (width / √12; GUM, ISO/IEC Guide
 * 98-3, 4.3.7), of one number a usual share of it.
 */
export const priceSd = ({ least, most }: Price): number =>
  most > least ? (most - least) / Math.sqrt(12) : DOUBT * least;

/**
 * What several pieces cost together: expected, and its standard uncertainty. The shares of prices that were entered as
 * one number are wrong together (delivery, taxes), ranges apart from one another.
 */
export function costOf(list: readonly { price: Price; pieces: number }[]): { value: number; sd: number } {
  let [value, together, apart] = [0, 0, 0];
  for (const { price, pieces } of list) {
    value += pieces * expected(price);
    if (price.most > price.least) apart += (pieces * priceSd(price)) ** 2;
    else together += pieces * priceSd(price);
  }
  return { value, sd: Math.hypot(together, Math.sqrt(apart)) };
}

/** What the parts with a price cost together, each by its pieces. */
export const costOfItems = (
  items: readonly { cost: number | null; costMost: number | null; quantity: number }[],
): { value: number; sd: number } =>
  costOf(
    items.flatMap((i) => {
      const price = priceOf(i);
      return price ? [{ price, pieces: i.quantity }] : [];
    }),
  );

/** From what to what an amount is likely to lie: 19 times in 20, and never below nothing. */
export const likely = ({ value, sd }: { value: number; sd: number }): Price => ({
  least: Math.max(0, value - 2 * sd),
  most: value + 2 * sd,
});
