import { useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import { type ShelfRecord, contracts } from "../../../../api/contracts";
import { type ShelfPart, shelfPartSchema } from "../../../../core/design/shelf";
import { call } from "../../../app/client";
import { saveAgainst } from "../../../app/saveAgainst";
import { useDelete } from "../../../app/useDelete";

const KEY = ["shelf"];
const NONE: ShelfRecord[] = [];
const said = (error: unknown) => (error instanceof Error ? error.message : String(error));

/**
 * The shelf beside all craft: what stands on it, and what can be done with it. What is refused is said in a toast;
 * the list then shows what the server holds.
 */
export function useShelf() {
  const client = useQueryClient();
  const remove = useDelete();
  const { data, error } = useQuery({ queryKey: KEY, queryFn: () => call(contracts.listShelf, {}) });
  const records = data ?? NONE;
  const tell = async <T>(work: () => Promise<T>): Promise<T | null> => {
    try {
      return await work();
    } catch (e) {
      toast.error(said(e));
      return null;
    } finally {
      await client.invalidateQueries({ queryKey: KEY });
    }
  };
  return {
    records,
    parts: records.map((r) => r.part),
    loaded: data !== undefined,
    error: error ? said(error) : null,
    /** @returns ids of what was added; null when refused */
    add: async (parts: ShelfPart[]) => (await tell(() => call(contracts.addToShelf, { body: { parts } })))?.ids ?? null,
    save: async (record: ShelfRecord, mutate: (part: ShelfPart) => void): Promise<boolean> => {
      const next = structuredClone(record.part);
      mutate(next);
      const parsed = shelfPartSchema.safeParse(next);
      if (!parsed.success) {
        toast.error(parsed.error.issues[0]?.message ?? "This cannot be saved.");
        return false;
      }
      const saved = await tell(() =>
        saveAgainst<ShelfPart>({
          what: `“${record.part.name}”`,
          revision: record.revision,
          mine: parsed.data,
          read: (current) => {
            const there = current as { revision: number; part: unknown };
            return { revision: there.revision, value: shelfPartSchema.parse(there.part) };
          },
          send: (revision) =>
            call(contracts.saveShelf, { params: { id: record.id }, body: { revision, part: parsed.data } }),
        }),
      );
      return saved?.kept === "mine";
    },
    /** @returns whether it is gone: it asks first */
    remove: (id: number) => {
      const name = records.find((r) => r.id === id)?.part.name ?? "this part";
      return remove(`Take ${name} off the shelf?`, `${name} is off the shelf.`, () =>
        call(contracts.deleteFromShelf, { params: { id } }),
      );
    },
    /** A name that no part of this kind has yet. */
    freeName: (kind: ShelfPart["kind"], wanted: string) => {
      const names = new Set(records.filter((r) => r.part.kind === kind).map((r) => r.part.name));
      return (
        [wanted, ...Array.from({ length: 99 }, (_, k) => `${wanted}, no. ${k + 2}`)].find((n) => !names.has(n)) ??
        wanted
      );
    },
  };
}
export type Shelf = ReturnType<typeof useShelf>;

/** Which part of the list is open. */
export interface Choosing {
  chosen: number | null;
  setChosen: (id: number | null) => void;
}
