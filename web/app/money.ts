import { useSyncExternalStore } from "react";
import type { Money } from "../../core/design/money";
import { moneyHere, takeMoney } from "../../core/design/moneyHere";

const KEY = "ultraform-money";
const listeners = new Set<() => void>();

/** What the amounts were in when this browser was last told: right at once, and without the server. */
function stored(): Money | null {
  try {
    // Written by this page alone; read without the checker, which the page at the site does not load.
    const held = JSON.parse(localStorage.getItem(KEY) ?? "") as Partial<Money> | null;
    const { currency, perEuro } = held ?? {};
    if (typeof currency !== "string" || !(perEuro === null || (typeof perEuro === "number" && perEuro > 0)))
      return null;
    return { currency, perEuro };
  } catch {
    return null;
  }
}
const before = stored();
if (before) takeMoney(before);

/** Says to the whole page what the amounts are in. */
export function setMoney(money: Money): void {
  const now = moneyHere();
  if (now.currency === money.currency && now.perEuro === money.perEuro) return;
  takeMoney(money);
  localStorage.setItem(KEY, JSON.stringify(money));
  for (const told of listeners) told();
}

/** What the amounts are in; whoever asks is drawn again when that changes. */
export const useMoneyHere = (): Money =>
  useSyncExternalStore((told) => {
    listeners.add(told);
    return () => listeners.delete(told);
  }, moneyHere);
