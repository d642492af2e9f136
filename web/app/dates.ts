import { format, formatISO, isSameDay, parseISO } from "date-fns";

/** Local time with its offset from UTC, as ISO 8601. */
export const localIso = (date: Date): string => formatISO(date);

/** The day it is here, as ISO 8601: not that of Greenwich. */
export const today = (): string => formatISO(new Date(), { representation: "date" });

/** A moment as one says it: at what time today, else on which day. */
export const whenSaid = (iso: string, now = new Date()): string => {
  const at = parseISO(iso);
  return isSameDay(at, now) ? `at ${format(at, "HH:mm")}` : `on ${format(at, "d MMM yyyy, HH:mm")}`;
};
