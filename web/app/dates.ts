import { formatISO } from "date-fns";

/** Local time with its offset from UTC, as ISO 8601. */
export const localIso = (date: Date): string => formatISO(date);

/** The day it is here, as ISO 8601: not that of Greenwich. */
export const today = (): string => formatISO(new Date(), { representation: "date" });
