import { z } from "zod";
import { aroundSchema } from "../subjects/propulsion/around/declares";
import type { Evidence } from "./evidence";
import { editDesign } from "./edit";
import { type Design, itemSchema } from "./schema";

/**
 * A change of a design as data: values to set (each at a path of keys, `#id` selecting an element of a list by its
 * id), parts to add and parts to take out.
 * Null at an `sd` takes the entered uncertainty away, so that the default of the evidence level applies. Remedies of
 * verdicts are patches, so that one mechanism previews and applies them.
 */
export const patchSchema = z.object({
  set: z.array(
    z.object({
      path: z.array(z.string()).min(1),
      value: z.union([z.number(), z.string(), z.boolean(), z.null(), z.array(aroundSchema)]),
    }),
  ),
  addItems: z.array(itemSchema).default([]),
  removeItems: z.array(z.string()).optional(),
});
export type Patch = z.infer<typeof patchSchema>;

/** The patch entries that replace a known value by a new one of this evidence. */
export const knownAt = (path: string[], value: number, evidence: Evidence): Patch["set"] => [
  { path: [...path, "value"], value },
  { path: [...path, "evidence"], value: evidence },
  { path: [...path, "sd"], value: null },
];

type Node = Record<string, unknown> | unknown[];

function child(node: Node, key: string): unknown {
  if (key.startsWith("#") && Array.isArray(node))
    return node.find((e) => typeof e === "object" && e !== null && "id" in e && e.id === key.slice(1));
  return (node as Record<string, unknown>)[key];
}

/**
 * A design with a patch in it; what the patch does not touch stays the same object.
 * @throws Error when a path leads nowhere or the result is not a valid design (a defect of the rule that made the
 * patch)
 */
export function applyPatch(design: Design, patch: Patch): Design {
  const edited = editDesign(design, (draft) => {
    for (const { path, value } of patch.set) {
      let node: unknown = draft;
      for (const key of path.slice(0, -1)) {
        node = typeof node === "object" && node !== null ? child(node as Node, key) : undefined;
        if (node === undefined) throw new Error(`no ${key} in ${path.join("/")}`);
      }
      const last = path.at(-1) ?? "";
      if (last === "sd" && value === null) delete (node as Record<string, unknown>)[last];
      else (node as Record<string, unknown>)[last] = value;
      // Where a part is put, it is said to be.
      const [list, id, field] = path;
      if (list === "items" && field === "place")
        for (const item of draft.items)
          if (`#${item.id}` === id) item.unplaced = item.unplaced.filter((a) => a !== last);
    }
    if (patch.removeItems) draft.items = draft.items.filter((i) => !patch.removeItems?.includes(i.id));
    draft.items.push(...patch.addItems);
  });
  if (!edited.ok) throw new Error(edited.message);
  return edited.design;
}

/** The same; null when the result would be beyond what a design can be, as a remedy of an absurd design may ask for. */
export function tryPatch(design: Design, patch: Patch): Design | null {
  try {
    return applyPatch(design, patch);
  } catch {
    return null;
  }
}
