import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { contracts } from "../../api/contracts";
import { call } from "./client";
import { setMoney } from "./money";

export const useWorkshop = () => useQuery({ queryKey: ["workshop"], queryFn: () => call(contracts.workshop, {}) });

/** Keeps the page to what the workshop says, wherever it was chosen. */
export function MoneyWatch() {
  const { data } = useWorkshop();
  useEffect(() => {
    if (data) setMoney(data.money);
  }, [data]);
  return null;
}
