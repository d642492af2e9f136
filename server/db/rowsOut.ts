import { getTableConfig } from "drizzle-orm/pg-core";
import type { PoolClient } from "pg";
import { TABLES } from "./schema";
import type { Change } from "./journal";

/** Name, key column and serial column of every table, those that others refer to first. */
export const TABLE_KEYS = Object.values(TABLES).map((table) => {
  const { name, columns } = getTableConfig(table);
  const key = columns.find((c) => c.primary);
  if (!key) throw new Error(`${name} has no key`);
  return { name, key: key.name, serial: key.getSQLType() === "serial" };
});

/**
 * The highest number that each table has ever given to a row: it is never given again, also after the row was
 * deleted.
 */
export type Highest = Record<string, number>;

const quoted = (name: string) => `"${name}"`;
const BATCH = 500;

/**
 * Every row of the database in the order in which it can be put back, read in one transaction of the given
 * connection.
 */
export async function* rowsOf(client: PoolClient): AsyncGenerator<Change> {
  for (const { name, key } of TABLE_KEYS) {
    const { rows: there } = await client.query("select to_regclass($1) as t", [name]);
    if (there[0].t === null) continue;
    let last: string | number | null = null;
    for (;;) {
      const after: string = last === null ? "" : `where ${quoted(key)} > $1`;
      const { rows }: { rows: { key: string | number; row: unknown }[] } = await client.query(
        `select ${quoted(key)} as key, to_jsonb(t) as row from ${quoted(name)} t ${after} order by ` +
          `${quoted(key)} limit ${BATCH}`,
        last === null ? [] : [last],
      );
      for (const { key: k, row } of rows) yield [name, String(k), row];
      if (rows.length < BATCH) break;
      last = rows.at(-1)?.key ?? null;
    }
  }
}

/** What the sequences of the database have given so far. */
export async function highestOf(client: PoolClient): Promise<Highest> {
  const out: Highest = {};
  for (const { name, key, serial } of TABLE_KEYS) {
    if (!serial) continue;
    const { rows: there } = await client.query("select to_regclass($1) as t", [name]);
    if (there[0].t === null) continue;
    const { rows } = await client.query(`select last_value, is_called from ${quoted(`${name}_${key}_seq`)}`);
    out[name] = rows[0].is_called ? Number(rows[0].last_value) : 0;
  }
  return out;
}

/**
 * Puts rows into empty tables, in one transaction with whatever surrounds it, and sets the sequences beyond all that
 * was ever given.
 */
export async function putRows(client: PoolClient, rows: AsyncIterable<Change>, highest: Highest): Promise<number> {
  let count = 0;
  let table = "";
  let batch: unknown[] = [];
  let size = 0;
  const known = new Set(TABLE_KEYS.map((t) => t.name));
  const flush = async () => {
    if (batch.length > 0)
      await client.query(
        `insert into ${quoted(table)} select * from jsonb_populate_recordset(null::${quoted(table)}, $1::jsonb)`,
        [JSON.stringify(batch)],
      );
    batch = [];
    size = 0;
  };
  for await (const [name, , row] of rows) {
    if (!known.has(name)) continue;
    if (name !== table || batch.length >= BATCH || size > 4_000_000) {
      await flush();
      table = name;
    }
    batch.push(row);
    size += JSON.stringify(row).length;
    count++;
  }
  await flush();
  for (const [name, last] of Object.entries(highest)) {
    const key = TABLE_KEYS.find((t) => t.name === name)?.key;
    if (key && last > 0) await client.query("select setval($1, $2)", [`${name}_${key}_seq`, last]);
  }
  return count;
}
