import { describe, expect, it } from "vitest";
import { partMeant } from "../../core/faults/partMeant";
import { SYMPTOMS } from "../../core/faults/catalogue";
import { quietDesign } from "../support/designs";

const plain = quietDesign();
const [part] = plain.items;
const [entry] = plain.units;
const [cells] = plain.batteries;
if (!part || !entry || !cells) throw new Error("no drive");
const item = (id: string) => ({ ...part, id, name: id });
const unit = { ...entry, propellerItemId: "blades", motorItemId: "can", controllerItemId: "esc" };
const pack = { ...cells, itemId: "cells" };
const design = {
  ...plain,
  items: ["hull", "blades", "can", "esc", "cells"].map(item),
  units: [unit],
  batteries: [pack],
};
const finding = (code: string, about: string, severity: "stop" | "clear" = "stop") => ({ code, about, severity });

describe("the part that a cause of the catalogue is about", () => {
  it("is the only one of the kind that it names", () => {
    expect(partMeant({ touchedBy: ["propeller"] }, design, [])).toBe("blades");
    expect(partMeant({ touchedBy: ["motor", "duty"] }, design, [])).toBe("can");
    expect(partMeant({ touchedBy: ["pack"] }, design, [])).toBe("cells");
  });
  it("is open where there are several of it, where it names several kinds or none, and where the part is gone", () => {
    const two = { ...design, units: [unit, { ...unit, id: "u2", propellerItemId: "hull" }] };
    expect(partMeant({ touchedBy: ["propeller"] }, two, [])).toBe("");
    expect(partMeant({ touchedBy: ["propeller", "motor"] }, design, [])).toBe("");
    expect(partMeant({ touchedBy: ["place", "mass"] }, design, [])).toBe("");
    expect(partMeant({}, design, [finding("overload", unit.id)])).toBe("");
    const gone = { ...design, items: design.items.filter((i) => i.id !== unit.motorItemId) };
    expect(partMeant({ touchedBy: ["motor"] }, gone, [])).toBe("");
  });
  it(
    "is that of the verdict that raises it: a part, what a drive of several is told by, a pack; not of " +
      "one that is clear",
    () => {
      expect(partMeant({ raisedBy: ["a"] }, design, [finding("a", "hull")])).toBe("hull");
      expect(partMeant({ raisedBy: ["a"] }, design, [finding("a", "hull", "clear")])).toBe("");
      expect(partMeant({ raisedBy: ["a"] }, design, [finding("b", "hull")])).toBe("");
      expect(partMeant({ raisedBy: ["a"] }, design, [finding("a", pack.id)])).toBe("cells");
      const two = { ...design, units: [{ ...unit, id: "u0", motorItemId: "hull" }, unit] };
      expect(partMeant({ raisedBy: ["a"], touchedBy: ["motor"] }, two, [finding("a", "u0")])).toBe("hull");
      expect(
        partMeant({ raisedBy: ["a"], touchedBy: ["motor"] }, two, [finding("a", "u0"), finding("a", unit.id)]),
      ).toBe("");
    },
  );
  it("names for every cause of the catalogue a part of the craft, or none", () => {
    const all = SYMPTOMS.flatMap((s) => s.causes.map((c) => partMeant(c, design, [])));
    expect(all.filter((id) => id !== "").length).toBeGreaterThan(5);
    for (const id of all) expect(id === "" || design.items.some((i) => i.id === id)).toBe(true);
  });
});
