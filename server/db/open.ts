import type { NodePgDatabase } from "drizzle-orm/node-postgres";
import { type EmbeddedOptions, openEmbedded } from "./embedded";
import { openServer } from "./remote";
import type { Change } from "./journal";
import type * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema>;

export interface OpenDatabase {
  db: Database;
  kind: "embedded" | "server";
  /** The data folder; null: in memory, or the database is a server's. */
  folder: string | null;
  /** What happened while it was opened, for the user: one sentence each. */
  notes: string[];
  /** @throws a problem (507) when the disk has no room for this many bytes more */
  checkSpace: (bytes?: number) => Promise<void>;
  healthy: () => boolean;
  /**
   * Where this process is the only one that writes: what each transaction changed, told as it is committed. Null:
   * others may write too.
   */
  watch: ((tell: (changes: readonly Change[]) => void) => void) | null;
  close: () => Promise<void>;
}

export interface OpenOptions extends Partial<EmbeddedOptions> {
  url?: string | undefined;
}

/**
 * Opens the database and brings its tables up to date: a PostgreSQL server when `url` is given, else the embedded one
 * in `folder` (null: in memory, for tests).
 * @throws CannotOpen with one sentence for whoever started the server
 */
export function openDatabase(
  folder: string | null,
  { url, now = () => new Date().toISOString(), ...options }: OpenOptions = {},
): Promise<OpenDatabase> {
  return url ? openServer(url) : openEmbedded(folder, { now, ...options });
}
