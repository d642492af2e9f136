import { useQuery } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { contracts } from "../../api/contracts";
import { type Money, moneyHere, moneySchema, takeMoney } from "../../core/design/money";
import { call } from "./client";

const KEY = "ultraform-money";
const listeners = new Set<() => void>();

/** What the amounts were in when this browser was last told: right at once, and without the server. */
function stored(): Money | null {
  try {
    return moneySchema.parse(JSON.parse(localStorage.getItem(KEY) ?? ""));
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

export const useWorkshop = () => useQuery({ queryKey: ["workshop"], queryFn: () => call(contracts.workshop, {}) });

/** Keeps the page to what the workshop says, wherever it was chosen. */
export function MoneyWatch() {
  const { data } = useWorkshop();
  useEffect(() => {
    if (data) setMoney(data.money);
  }, [data]);
  return null;
}
