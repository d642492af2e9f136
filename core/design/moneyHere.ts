import type { Money } from "./money";
import { type Dimension, SI, showMoneyIn } from "./units";

/** Before anybody chose one; what was entered before there was a choice is in it too. */
export const EUROS: Money = { currency: "EUR", perEuro: 1 };

/** Units of this currency that a euro is worth; null when nobody said. */
const worth = ({ currency, perEuro }: Money) => (currency === "EUR" ? 1 : perEuro);

/**
 * The sign of a currency as it is written where it is used, such as €, £ or kr; its letters where it has none, or
 * where the letters name none.
 */
export function signOf(currency: string): string {
  try {
    const parts = new Intl.NumberFormat("en", {
      style: "currency",
      currency,
      currencyDisplay: "narrowSymbol",
    }).formatToParts(1);
    return parts.find((p) => p.type === "currency")?.value ?? currency;
  } catch {
    return currency;
  }
}

let here: Money = EUROS;

/**
 * Says what the amounts are in, once for everything that runs here: a server, a page, a worker have one workshop each.
 */
export function takeMoney(money: Money): void {
  here = money;
  showMoneyIn(signOf(money.currency), money.currency);
}

/** What the amounts are in here. */
export const moneyHere = (): Money => here;
export const moneySign = (): string => signOf(here.currency);

/** Unit in which a dimension is stored, of money the letters of its currency. */
export const storedUnit = (dimension: Dimension): string => (dimension === "money" ? here.currency : SI[dimension]);

/** A usual price (€) in the money of this workshop; null where nobody said what a euro is worth in it. */
export function usualPrice(euros: number): number | null {
  const per = worth(here);
  return per === null ? null : euros * per;
}

/** An amount of this workshop in euros, to hold against usual prices; null where nobody said what a euro is worth. */
export function inEuros(amount: number): number | null {
  const per = worth(here);
  return per === null ? null : amount / per;
}
