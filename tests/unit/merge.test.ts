import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mergeDesigns } from "../../core/design/merge";
import { type Design, designSchema, newItem } from "../../core/design/schema";
import { removeItems } from "../../core/subjects/mass/ledger";
import { sameData } from "../../core/numeric/sameData";
import { demoFile } from "../support/demo";

const base = (): Design => structuredClone(demoFile("lantern").versions.at(-1)?.design) as Design;
const changed = (change: (d: Design) => void): Design => {
  const d = base();
  change(d);
  return designSchema.parse(d);
};
const merged = (mine: Design, theirs: Design): Design => {
  const found = mergeDesigns(base(), mine, theirs);
  if (!found.ok) throw new Error(`both: ${found.both.map((p) => p.join("/")).join(", ")}`);
  return found.design;
};
const both = (mine: Design, theirs: Design): string[] => {
  const found = mergeDesigns(base(), mine, theirs);
  return found.ok ? [] : found.both.map((p) => p.join("/"));
};
const part = (id: string) => newItem({ id, name: id, mass: { value: 0.01, evidence: "measured" } });

describe("two who changed one design", () => {
  it("different parts, the brief and a drive: all of it stands", () => {
    const mine = changed((d) => {
      const [first] = d.items;
      if (first) first.mass = { value: 0.123, evidence: "measured" };
      d.brief.purpose = "mine";
    });
    const theirs = changed((d) => {
      const second = d.items[1];
      if (second) second.name = "Renamed there";
      d.brief.environment.wind = 7;
      const [unit] = d.units;
      if (unit) unit.name = "Other name";
    });
    const d = merged(mine, theirs);
    expect(d.items[0]?.mass?.value).toBe(0.123);
    expect(d.items[1]?.name).toBe("Renamed there");
    expect(d.brief.purpose).toBe("mine");
    expect(d.brief.environment.wind).toBe(7);
    expect(d.units[0]?.name).toBe("Other name");
  });
  it("one part, another field of it: asked, for what it weighs may hang on what it is", () => {
    const id = base().items[0]?.id;
    const mine = changed((d) => void (d.items[0] && (d.items[0].name = "mine")));
    const theirs = changed((d) => void (d.items[0] && (d.items[0].mass = { value: 1, evidence: "guess" })));
    expect(both(mine, theirs)).toEqual([`items/#${id}`]);
    // The same change twice is none.
    expect(both(mine, mine)).toEqual([]);
  });
  it(
    "once somebody has said whose stands: that one where both changed one thing, elsewhere what either " + "changed",
    () => {
      const mine = changed((d) => {
        if (d.items[0]) d.items[0].quantity = 3;
        d.brief.purpose = "mine";
      });
      const theirs = changed((d) => {
        if (d.items[0]) d.items[0].quantity = 4;
        d.brief.environment.wind = 7;
      });
      for (const [prefer, quantity] of [
        ["mine", 3],
        ["theirs", 4],
      ] as const) {
        const found = mergeDesigns(base(), mine, theirs, prefer);
        if (!found.ok) throw new Error("not merged");
        expect(found.design.items[0]?.quantity).toBe(quantity);
        expect(found.design.brief.purpose).toBe("mine");
        expect(found.design.brief.environment.wind).toBe(7);
      }
      // A part changed here and taken away there: kept, or gone.
      const gone = changed((d) => void (d.items = d.items.slice(1)));
      const kept = mergeDesigns(base(), mine, gone, "mine");
      const dropped = mergeDesigns(base(), mine, gone, "theirs");
      expect(kept.ok && kept.design.items[0]?.quantity).toBe(3);
      expect(dropped.ok && dropped.design.items.some((i) => i.id === mine.items[0]?.id)).toBe(false);
      // Hung on what the other took away: not even then.
      const [host] = base().items.map((i) => i.id);
      const hung = changed((d) => void (d.items[1] && (d.items[1].parentId = host ?? null)));
      expect(mergeDesigns(base(), hung, gone, "mine").ok).toBe(false);
    },
  );
  it("added here and there: both, each behind what it stood behind", () => {
    const mine = changed((d) => void d.items.splice(2, 0, part("a")));
    const theirs = changed((d) => void d.items.push(part("b")));
    const ids = base().items.map((i) => i.id);
    expect(merged(mine, theirs).items.map((i) => i.id)).toEqual([...ids.slice(0, 2), "a", ...ids.slice(2), "b"]);
    expect(merged(theirs, mine).items.map((i) => i.id)).toEqual([...ids.slice(0, 2), "a", ...ids.slice(2), "b"]);
  });
  it("removed there and changed here: asked; removed there and left alone here: removed", () => {
    const gone = base().items[0]?.id ?? "";
    const theirs = changed((d) => void (d.items = d.items.slice(1)));
    expect(
      both(
        changed((d) => void (d.items[0] && (d.items[0].quantity = 3))),
        theirs,
      ),
    ).toEqual([`items/#${gone}`]);
    const d = merged(
      changed((x) => void (x.brief.purpose = "mine")),
      theirs,
    );
    expect(d.items.some((i) => i.id === gone)).toBe(false);
  });
  it("a part is hung here on one that was taken away there: asked", () => {
    const [host, other] = base().items.map((i) => i.id);
    const mine = changed((d) => void (d.items[1] && (d.items[1].parentId = host ?? null)));
    const theirs = changed((d) => {
      d.items = d.items.filter((i) => i.id !== host).map((i) => (i.parentId === host ? { ...i, parentId: null } : i));
    });
    expect(both(mine, theirs)).toContain(`items/#${other}`);
    expect(both(theirs, mine)).toContain(`items/#${other}`);
  });
  it("rows moved here stay moved, with what was changed in them there", () => {
    const mine = changed((d) => void d.items.reverse());
    const theirs = changed((d) => void (d.items[0] && (d.items[0].name = "theirs")));
    const d = merged(mine, theirs);
    expect(d.items.map((i) => i.id)).toEqual(mine.items.map((i) => i.id));
    expect(d.items.at(-1)?.name).toBe("theirs");
  });
  it("a known number and how it is known are one thing", () => {
    const mine = changed((d) => void (d.gasLift = { value: 0.2, evidence: "guess" }));
    const theirs = changed((d) => void (d.gasLift = { value: 0.3, evidence: "measured" }));
    expect(both(mine, theirs)).toEqual(["gasLift"]);
  });
  it("nothing changed there is mine, nothing here is theirs, and whoever is called mine does not matter", () => {
    const kinds: ((d: Design, n: number) => void)[] = [
      (d, n) =>
        void (d.items[n % d.items.length] && ((d.items[n % d.items.length] as { name: string }).name = `n${n}`)),
      (d, n) =>
        removeItems(
          d,
          new Set(
            d.items
              .slice(n % d.items.length)
              .slice(0, 1)
              .map((i) => i.id),
          ),
        ),
      (d, n) => void d.items.push(part(`x${n}`)),
      (d, n) => void (d.brief.environment.altitude = n),
      (d, n) => void (d.brief.targets = d.brief.targets.slice(n % 2)),
      (d, n) => void (d.dragArea = { value: 0.001 * (n + 1), evidence: "guess" }),
    ];
    const edits = fc.array(fc.tuple(fc.nat({ max: kinds.length - 1 }), fc.nat({ max: 20 })), { maxLength: 4 });
    const made = (list: [number, number][]) => {
      const d = base();
      for (const [k, n] of list) kinds[k]?.(d, n);
      return d;
    };
    fc.assert(
      fc.property(edits, edits, (a, b) => {
        const [mine, theirs] = [made(a), made(b)];
        if (new Set(mine.items.map((i) => i.id)).size < mine.items.length) return;
        if (new Set(theirs.items.map((i) => i.id)).size < theirs.items.length) return;
        expect(mergeDesigns(base(), mine, base())).toMatchObject({ ok: true, design: mine });
        expect(mergeDesigns(base(), base(), theirs)).toMatchObject({ ok: true, design: theirs });
        const [one, other] = [mergeDesigns(base(), mine, theirs), mergeDesigns(base(), theirs, mine)];
        expect(one.ok).toBe(other.ok);
        if (!one.ok || !other.ok) return;
        // The same things; only the order of what both added may be another.
        const sorted = (d: Design) => ({ ...d, items: d.items.toSorted((p, q) => (p.id < q.id ? -1 : 1)) });
        expect(sameData(sorted(one.design), sorted(other.design))).toBe(true);
        // Every part that one of them touched is as he left it.
        const was = new Map(base().items.map((i) => [i.id, i]));
        for (const d of [mine, theirs])
          for (const i of d.items)
            if (!sameData(was.get(i.id), i)) expect(one.design.items.find((x) => x.id === i.id)).toEqual(i);
      }),
      { numRuns: 60 },
    );
  });
});
