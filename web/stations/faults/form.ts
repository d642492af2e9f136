import type { z } from "zod";
import { type Fault, faultSchema } from "../../../core/design/craftFile";

/** A fault as its form holds it, before and after it was checked. */
export const formSchema = faultSchema.omit({ number: true });
export type Filled = z.input<typeof formSchema>;
export type Values = Omit<Fault, "number">;
