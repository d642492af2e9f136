import { designNow, withRoles } from "../core/design/openFile";
import { type SQL, and, getTableColumns, getTableName, inArray, isNull, sql } from "drizzle-orm";
import { type AnyPgColumn, type PgTable, getTableConfig } from "drizzle-orm/pg-core";
import { TABLES, type TrashKind, runs, summaries, trash, versions } from "./db/schema";
import { refused } from "./problems";
import type { Tx } from "./db/transaction";

/**
 * What refers to what, read from the foreign keys of the database's own schema. A reference that cascades makes its
 * row a part of what it refers to; one that is set to null only lets go of it; any other makes it rest on that:
 * what something rests on cannot be deleted, and must be there before it is brought back.
 */
interface Reference {
  from: PgTable;
  /** Property of the row, and the column behind it. */
  property: string;
  column: AnyPgColumn;
  to: PgTable;
  kind: "part" | "rests" | "loose";
}
const KINDS: Record<string, Reference["kind"]> = { cascade: "part", "set null": "loose" };
type Row = Record<string, unknown>;
export type Gone = { table: PgTable; rows: Row[] };

/** What can be worked out again is not remembered. */
const DERIVED: ReadonlySet<PgTable> = new Set<PgTable>([summaries]);
const ALL: PgTable[] = Object.values(TABLES);
const byName = new Map(ALL.map((t) => [getTableName(t), t]));

const REFERENCES: Reference[] = ALL.flatMap((from) =>
  getTableConfig(from).foreignKeys.map((key): Reference => {
    const { columns, foreignTable } = key.reference();
    const [column] = columns;
    const property = Object.entries(getTableColumns(from)).find(([, c]) => c.name === column?.name)?.[0];
    if (!column || !property) throw new Error(`a reference of ${getTableName(from)} has no column`);
    return { from, property, column, to: foreignTable, kind: KINDS[key.onDelete ?? ""] ?? "rests" };
  }),
);

const idOf = (table: PgTable): AnyPgColumn => {
  const { id, craftId } = getTableColumns(table) as Record<string, AnyPgColumn>;
  const key = id ?? craftId;
  if (!key) throw new Error(`${getTableName(table)} has no id`);
  return key;
};
const rowsWhere = (tx: Tx, table: PgTable, where: SQL): Promise<Row[]> =>
  tx.select().from(table).where(where) as unknown as Promise<Row[]>;

/** A row and everything that is part of it, parents first. */
export async function withParts(tx: Tx, table: PgTable, row: Row): Promise<Gone[]> {
  const held = new Map<PgTable, Map<unknown, Row>>([[table, new Map([[row.id, row]])]]);
  // Tables stand parents first, so one pass finds the parts of parts.
  for (const part of ALL) {
    if (DERIVED.has(part)) continue;
    for (const r of REFERENCES.filter((x) => x.from === part && x.kind === "part" && held.has(x.to))) {
      const ids = [...(held.get(r.to)?.keys() ?? [])];
      if (ids.length === 0) continue;
      const list = held.get(part) ?? new Map<unknown, Row>();
      for (const found of await rowsWhere(tx, part, inArray(r.column, ids))) list.set(found.id, found);
      held.set(part, list);
    }
  }
  return ALL.flatMap((t) => {
    const rows = [...(held.get(t)?.values() ?? [])];
    return rows.length > 0 ? [{ table: t, rows }] : [];
  });
}

const faultName = (row: Row) => `Fault F-${String(row.number).padStart(2, "0")}`;
/** How a row rests on another, as a sentence with the name of that other in its place. */
const SAYS: Record<string, (row: Row, on: string) => string> = {
  "faults.runId": (row, on) => `${faultName(row)} belongs to ${on}: delete it first, or give it another run.`,
  "faults.proofRunId": (row, on) => `${faultName(row)} is proven by ${on}: delete it first, or give it another proof.`,
  "faults.fixVersionId": (row, on) => `${faultName(row)} names ${on} as its fix: choose another version there first.`,
  "versions.parentId": (row, on) => `${row.label} grew from ${on}.`,
};

/**
 * What rests on the given rows without being among them: the first such thing as a sentence, or null. Asked before
 * every deletion.
 * @param name what is to be deleted, in words
 */
export async function restsOn(tx: Tx, gone: readonly Gone[], name: string): Promise<string | null> {
  for (const r of REFERENCES.filter((x) => x.kind === "rests")) {
    const ids = gone.filter((g) => g.table === r.to).flatMap((g) => g.rows.map((row) => row.id));
    if (ids.length === 0) continue;
    const among = new Set(gone.filter((g) => g.table === r.from).flatMap((g) => g.rows.map((row) => row.id)));
    const outside = (await rowsWhere(tx, r.from, inArray(r.column, ids))).find((row) => !among.has(row.id));
    if (outside)
      return (
        SAYS[`${getTableName(r.from)}.${r.property}`]?.(outside, name) ??
        `Something in ${getTableName(r.from)} refers to ${name}.`
      );
  }
  return null;
}

/** Stands among remembered rows for the references that let go of them. */
const TIES = "(ties)";

/** How much of what was deleted is kept. */
const KEPT = 200;

/**
 * Deletes a row with its parts, unless something rests on them, and remembers all of it. Returns the number by which
 * it can be brought back.
 */
export async function deleteRow(
  tx: Tx,
  table: PgTable,
  row: Row,
  { kind, name, called, now }: { kind: TrashKind; name: string; called: string; now: string },
): Promise<number> {
  const gone = await withParts(tx, table, row);
  const why = await restsOn(tx, gone, called);
  if (why) throw refused(why);
  const kept = gone.map((g) => ({ table: getTableName(g.table), rows: g.rows }));
  const ties: Row[] = [];
  for (const r of REFERENCES.filter((x) => x.kind === "loose")) {
    const ids = gone.filter((g) => g.table === r.to).flatMap((g) => g.rows.map((x) => x.id));
    if (ids.length > 0)
      for (const from of await rowsWhere(tx, r.from, inArray(r.column, ids)))
        ties.push({ table: getTableName(r.from), id: from.id, property: r.property, to: from[r.property] });
  }
  if (ties.length > 0) kept.push({ table: TIES, rows: ties });
  const [made] = await tx.insert(trash).values({ kind, name, deletedAt: now, rows: kept }).returning({ id: trash.id });
  await tx.delete(trash).where(sql`${trash.id} <= ${(made?.id ?? 0) - KEPT}`);
  const key = idOf(table);
  await tx.delete(table).where(inArray(key, [row.id]));
  return made?.id ?? 0;
}

/**
 * What rows that are to be brought back need and is not there: the name of what was deleted with it, or of its kind;
 * null: all is there.
 */
export async function missingFor(tx: Tx, parts: readonly { table: string; rows: Row[] }[]): Promise<string | null> {
  const among = (table: PgTable, id: unknown) =>
    parts.some((p) => p.table === getTableName(table) && p.rows.some((row) => row.id === id));
  for (const part of parts) {
    const from = byName.get(part.table);
    if (!from) continue;
    for (const r of REFERENCES.filter((x) => x.from === from && x.kind !== "loose"))
      for (const row of part.rows) {
        const id = row[r.property];
        if (id === null || id === undefined || among(r.to, id)) continue;
        const [there] = await rowsWhere(tx, r.to, inArray(idOf(r.to), [id]));
        if (there) continue;
        const table = getTableName(r.to);
        const held = (await tx.select().from(trash)).find((t) =>
          t.rows.some((p) => p.table === table && p.rows.some((x) => x.id === id)),
        );
        return held
          ? held.name
          : `${{ crafts: "its craft", versions: "its version", runs: "its run", plans: "its plan" }[table] ?? "what it belongs to"}, ` +
              "which is gone for good";
      }
  }
  return null;
}

/** A row without its loose references to what is no more. */
async function loosened(tx: Tx, table: PgTable, row: Row): Promise<Row> {
  const out = { ...row };
  for (const r of REFERENCES.filter((x) => x.from === table && x.kind === "loose")) {
    const id = row[r.property];
    if (id !== null && id !== undefined && (await rowsWhere(tx, r.to, inArray(idOf(r.to), [id]))).length === 0)
      out[r.property] = null;
  }
  return out;
}

/** Puts rows back where they were. Everything that they need is there. */
export async function putBack(tx: Tx, parts: readonly { table: string; rows: Row[] }[]): Promise<void> {
  for (const table of ALL)
    for (const part of parts.filter((p) => p.table === getTableName(table)))
      for (const row of part.rows.toSorted((a, b) => Number(a.id) - Number(b.id)))
        await tx.insert(table).values(await loosened(tx, table, row));
  for (const tie of parts.find((p) => p.table === TIES)?.rows ?? []) {
    const r = REFERENCES.find((x) => getTableName(x.from) === tie.table && x.property === tie.property);
    if (r)
      await tx
        .update(r.from)
        .set({ [r.property]: tie.to })
        .where(and(inArray(idOf(r.from), [tie.id]), isNull(r.column)));
  }
}

/** Rows as this release has them: designs that were deleted before states get the one that they have. */
export const inPresentShape = async (
  tx: Tx,
  parts: readonly { table: string; rows: Row[] }[],
): Promise<{ table: string; rows: Row[] }[]> =>
  (await byIds(tx, parts)).map((part) => ({
    ...part,
    rows: part.rows.map((row) =>
      part.table === "versions" && row.design ? { ...row, design: withRoles(designNow(row.design as Row)) } : row,
    ),
  }));

/**
 * Rows that a release before references by id remembered: numbers and labels become ids, where what they name is
 * among the rows or in the craft. A plan that is no more is let go of.
 */
async function byIds(
  tx: Tx,
  parts: readonly { table: string; rows: Row[] }[],
): Promise<{ table: string; rows: Row[] }[]> {
  const old = parts.some((p) =>
    p.rows.some(
      (row) =>
        (p.table === "versions" && "parent" in row) ||
        (p.table === "faults" && "run" in row) ||
        (p.table === "runs" && "plan" in row),
    ),
  );
  if (!old) return [...parts];
  const rowsIn = (table: PgTable) => parts.filter((p) => p.table === getTableName(table)).flatMap((p) => p.rows);
  const find = async (
    table: typeof versions | typeof runs | typeof TABLES.plans,
    by: "label" | "number",
    craftId: unknown,
    value: unknown,
  ): Promise<unknown> => {
    if (value === null || value === undefined) return null;
    const own = rowsIn(table).find((x) => x[by] === value && x.craftId === craftId);
    if (own) return own.id;
    const there = (await rowsWhere(tx, table, inArray(table.craftId, [Number(craftId)]))).find((x) => x[by] === value);
    return there?.id ?? null;
  };
  const out: { table: string; rows: Row[] }[] = [];
  for (const part of parts) {
    const rows: Row[] = [];
    for (const row of part.rows) {
      const { parent, run, fixVersion, proofRun, plan, ...rest } = row;
      if (part.table === "versions")
        rows.push({ ...rest, parentId: await find(versions, "label", row.craftId, parent) });
      else if (part.table === "runs")
        rows.push({ ...rest, planId: await find(TABLES.plans, "number", row.craftId, plan) });
      else if (part.table === "faults")
        rows.push({
          ...rest,
          runId: await find(runs, "number", row.craftId, run),
          fixVersionId: await find(versions, "label", row.craftId, fixVersion),
          proofRunId: await find(runs, "number", row.craftId, proofRun),
        });
      else rows.push(row);
    }
    out.push({ table: part.table, rows });
  }
  return out;
}
