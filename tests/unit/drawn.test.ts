import { describe, expect, it } from "vitest";
import type { Design, Item } from "../../core/design/schema";
import { drawnBetween } from "../../core/lineage/drawn";
import { demoFile } from "../support/demo";

const designOf = (name: string, label: string): Design => {
  const found = demoFile(name).versions.find((v) => v.label === label);
  if (!found) throw new Error(label);
  return structuredClone(found.design);
};
const became = (from: Design, to: Design) =>
  Object.fromEntries(drawnBetween(from, to).items.map((d) => [d.id, `${d.became}${d.moved ? ", moved" : ""}`]));
const item = (d: Design, k: number): Item => d.items[k] as Item;

describe("before and after", () => {
  it("of a design and itself nothing has become anything", () => {
    const d = designOf("tern", "v4");
    const all = drawnBetween(d, structuredClone(d));
    expect(all.items.length).toBe(d.items.length);
    for (const thing of [...all.items, ...all.surfaces, ...all.bodies])
      expect([thing.became, thing.moved]).toEqual(["same", false]);
  });
  it("tells moved, heavier, new and gone parts", () => {
    const before = designOf("tern", "v4");
    const after = structuredClone(before);
    const [moved, heavier, gone] = [item(before, 0), item(before, 1), item(before, 2)];
    item(after, 0).place.x += 0.02;
    const mass = item(after, 1).mass;
    if (mass) mass.value += 0.01;
    after.items = after.items.filter((i) => i.id !== gone.id);
    after.items.push({ ...structuredClone(gone), id: "new-one", name: "New one" });
    const said = became(before, after);
    expect(said[moved.id]).toBe("changed, moved");
    expect(said[heavier.id]).toBe("changed");
    expect(said[gone.id]).toBe("removed");
    expect(said["new-one"]).toBe("added");
    expect(Object.values(said).filter((s) => s === "same").length).toBe(before.items.length - 3);
    // Backwards what was new is gone.
    expect(became(after, before)["new-one"]).toBe("removed");
    expect(became(after, before)[gone.id]).toBe("added");
  });
  it("does not call a part changed of which more is known", () => {
    const before = designOf("tern", "v4");
    const after = structuredClone(before);
    const known = item(after, 0);
    if (!known.mass) throw new Error("no mass");
    known.mass = { ...known.mass, evidence: known.mass.evidence === "measured" ? "guess" : "measured" };
    expect(became(before, after)[known.id]).toBe("known better");
  });
  it("sees that a wing has another outline, and not that its outline was measured", () => {
    const before = designOf("tern", "v5");
    const after = structuredClone(before);
    const [wing, ...others] = after.surfaces;
    if (!wing) throw new Error("no wing");
    wing.shapeBy = wing.shapeBy === "measured" ? "guess" : "measured";
    expect(drawnBetween(before, after).surfaces.map((s) => s.moved)).toEqual(before.surfaces.map(() => false));
    wing.chord *= 1.1;
    const seen = drawnBetween(before, after).surfaces;
    expect(seen.map((s) => s.moved)).toEqual([true, ...others.map(() => false)]);
    expect(seen[0]?.became).toBe("changed");
  });
});
