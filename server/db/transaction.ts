import type { Database } from "./open";

export type Tx = Parameters<Parameters<Database["transaction"]>[0]>[0];

/** A transaction that only reads, and sees one moment. */
export const reading = { accessMode: "read only", isolationLevel: "repeatable read" } as const;
