import { z } from "zod";

export * from "./moneyHere";

/** A currency by its three letters (ISO 4217). */
export const currencySchema = z
  .string()
  .regex(/^[A-Z]{3}$/, "three capital letters, such as EUR, GBP or USD (ISO 4217)");

/**
 * What the amounts of a workshop are in. One currency for all of it: amounts are kept as plain numbers, and none is
 * ever converted in silence.
 */
export const moneySchema = z.object({
  currency: currencySchema,
  perEuro: z
    .number()
    .positive("more than zero")
    .max(1e6)
    .nullable()
    .describe("what one euro is worth, roughly: for the usual prices that ship, which are in euros; null: not said"),
});
export type Money = z.infer<typeof moneySchema>;
