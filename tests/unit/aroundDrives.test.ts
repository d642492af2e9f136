import { describe, expect, it } from "vitest";
import { applyPatch } from "../../core/design/patch";
import { type Design, designSchema } from "../../core/design/schema";
import { evaluate, findingText, remediesFor } from "../../core/evaluate";
import { difference } from "../../core/lineage/difference";
import { type Around, blankAround } from "../../core/subjects/propulsion/around/declares";
import { mostOpening } from "../../core/subjects/propulsion/around/bounds";
import { aroundFactor, aroundLacks } from "../../core/subjects/propulsion/around/factor";
import { inStreamOf } from "../../core/subjects/propulsion/inStream";
import { disc, first, left, measured, openings, quad } from "../support/around";
import { measuredAs, readOff } from "../support/curves";
import { changed, part } from "../support/designs";

describe("the largest opening around a drive", () => {
  it("is the largest face of the craft's box, and unknown while less than the disc is drawn", () => {
    const craft = { items: [part({ id: "a", size: { x: 0.6, y: 0.2, z: 0.1 } })] };
    expect(mostOpening(craft, { area: 0.03, diameter: 0.2 })).toBeCloseTo(0.12, 12);
    expect(mostOpening(craft, { area: 0.2, diameter: 0.5 })).toBeNull();
    expect(mostOpening({ items: [] }, null)).toBeNull();
  });
});

describe("several things around one drive", () => {
  it("leave the product of what each leaves, with doubts that add as squares", () => {
    const [a, b] = [openings(0.03, null), { kind: "ground", height: measured(0.2) } as Around];
    const [one, two, both] = [left(a), left(b), left(a, b)];
    expect(both?.value).toBeCloseTo((one?.value ?? 0) * (two?.value ?? 0), 9);
    const part = (f: typeof one) => (f?.sd ?? 0) / (f?.value ?? 1);
    expect(part(both ?? null)).toBeCloseTo(Math.hypot(part(one), part(two)), 9);
  });
  it("are not known while one of them is not told, whichever it is", () => {
    for (const kind of [
      "openings",
      "grille",
      "overlap",
      "body behind",
      "body before",
      "ground",
      "hull",
      "weighed",
    ] as const) {
      const design = quad(openings(0.03, null), ...(kind === "openings" ? [] : [blankAround(kind)]));
      if (kind === "openings") design.units[0]?.around.splice(0, 1, blankAround(kind));
      expect(aroundFactor(first(design)), kind).toBeNull();
      expect(aroundLacks(first(design))?.todo, kind).toMatch(/^(enter|choose) /);
      const e = evaluate(design);
      expect(e.outcomes.propulsion, kind).toMatchObject({
        status: "not covered",
        because: expect.stringMatching(/(enter|choose) .* or weigh/),
      });
      expect(e.metrics.thrust).toBeUndefined();
    }
  });
  it("what was weighed outranks all of them, also what is not told, and is measured", () => {
    const f = left(blankAround("openings"), blankAround("overlap"), {
      kind: "weighed",
      alone: { ...measured(6.2), sd: 0.05 },
      builtIn: { ...measured(4.9), sd: 0.05 },
      disc: disc(),
    });
    expect(f).toMatchObject({ evidence: "measured" });
    expect(f?.value).toBeCloseTo(4.9 / 6.2, 9);
    expect(f?.sd).toBeCloseTo((4.9 / 6.2) * Math.hypot(0.05 / 6.2, 0.05 / 4.9), 9);
  });
  it(
    "what was weighed with another disc tells nothing of this one: what is described counts, or it is " +
      "weighed again",
    () => {
      const old: Around = { kind: "weighed", alone: measured(6.2), builtIn: measured(4.9), disc: 1.3 * disc() };
      expect(left(old)).toBeNull();
      expect(aroundLacks(first(quad(old)))?.todo).toMatch(/weigh it again/);
      expect(left(openings(0.03, null), old)).toEqual(left(openings(0.03, null)));
      // Where nobody noted the disc it is taken for this one.
      expect(left({ ...old, disc: null } as Around)?.value).toBeCloseTo(4.9 / 6.2, 9);
    },
  );
  it("each is entered once; a grille is not more than open", () => {
    const twice = quad(openings(0.03, null), openings(0.02, null));
    expect(designSchema.safeParse(twice).success).toBe(false);
    expect(designSchema.safeParse(quad({ kind: "grille", open: measured(1.2) })).success).toBe(false);
    expect(designSchema.safeParse(quad({ kind: "grille", open: measured(0.6) })).success).toBe(true);
  });
});

describe("a drive in a box or beside another", () => {
  const free = evaluate(quad()).metrics;
  it("a boxed quad loses what its openings take, knows it less well, and is told", () => {
    const design = quad(openings(0.031, null));
    const e = evaluate(design);
    const share = (e.metrics.thrust?.value ?? 0) / (free.thrust?.value ?? 1);
    expect(share).toBeGreaterThan(0.7);
    expect(share).toBeLessThan(0.85);
    expect((e.metrics.thrust?.sd ?? 0) / (e.metrics.thrust?.value ?? 1)).toBeGreaterThan(
      (free.thrust?.sd ?? 0) / (free.thrust?.value ?? 1),
    );
    expect(e.metrics.thrustThrottle?.value ?? 2).toBeGreaterThan(free.thrustThrottle?.value ?? 0);
    const found = e.findings.find((f) => f.code === "taken-by-around");
    expect(found?.severity).toBe("care");
    expect(found && remediesFor(design, e, found).map((r) => r.text)).toEqual([
      "Weigh it with the lid on and with the lid off, 10 min",
      expect.stringMatching(/^Open .*for each unit/),
    ]);
  });
  it("two takers are both named, the larger one is to be weighed first", () => {
    const design = quad(openings(0.05, null), { kind: "grille", open: measured(0.4) });
    const e = evaluate(design);
    const found = e.findings.find((f) => f.code === "taken-by-around");
    expect(found && findingText(found, "metric")).toMatch(
      /^Its openings take \d+ %, its grille takes \d+ % of the thrust, so that \d+ % is left$/,
    );
    expect(found && remediesFor(design, e, found)[0]?.text).toMatch(/grille and without it/);
  });
  it("six units in three coaxial pairs are not six free ones", () => {
    const share = (evaluate(quad(blankAround("coaxial"))).metrics.thrust?.value ?? 0) / (free.thrust?.value ?? 1);
    expect(share).toBeCloseTo(0.82, 2);
  });
  it("draws as before: at equal power it pushes less", () => {
    const e = evaluate(quad(blankAround("coaxial")));
    expect(e.metrics.packPower?.value).toBeCloseTo(free.packPower?.value ?? 0, 6);
  });
  it("breathing through a slot it leaves the method: targets on it are open", () => {
    const e = evaluate(quad(openings(0.006, null)));
    expect(e.metrics.thrust?.outside?.join()).toMatch(/less than 30 % of its disc/);
    expect(e.targets.find((t) => t.target.metric === "thrustToWeight")?.status).not.toBe("met");
  });
  it("one that shares its axis with nobody is not covered: its partner is asked for", () => {
    const alone = (count: number) =>
      evaluate(changed((d) => void Object.assign(first(d), { count, around: [blankAround("coaxial")] }))).outcomes
        .propulsion;
    expect(alone(1)).toMatchObject({ status: "not covered", because: expect.stringMatching(/there is no other/) });
    expect(alone(2)).toMatchObject({ status: "solved" });
  });
  it("in motion is not computed, and a top speed is not made up", () => {
    const e = evaluate(
      changed((d) => {
        d.dragArea = { value: 0.02, evidence: "guess" };
        Object.assign(first(d), { count: 2, around: [blankAround("coaxial")] });
      }),
    );
    expect(e.outcomes.speed).toMatchObject({ status: "not covered", because: expect.stringMatching(/in motion/) });
  });
  const readings = readOff(quad(), [0.3, 0.6, 1]);
  const weighed = (asBuilt: boolean) => {
    const design = quad(openings(0.02, null));
    first(design).measured = { ...measuredAs(readings), asBuilt };
    return evaluate(design);
  };
  it("what was weighed as built in outranks the factor: it is not taken twice", () => {
    const e = weighed(true);
    expect(e.metrics.thrust?.value).toBeCloseTo(4 * (readings.at(-1)?.force ?? 0), 1);
    expect(e.findings.map((f) => f.code)).not.toContain("taken-by-around");
  });
  it("what was weighed by itself loses what its openings take", () => {
    const factor = left(openings(0.02, null))?.value ?? 0;
    expect(weighed(false).metrics.thrust?.value).toBeCloseTo(4 * factor * (readings.at(-1)?.force ?? 0), 1);
  });
});

describe("what was changed around a drive", () => {
  it("is told by its kind, with its unit, wherever it stands in the list", () => {
    const before = quad({ kind: "ground", height: measured(0.1) });
    const after = quad(openings(0.02, null), { kind: "ground", height: measured(0.2) });
    const found = difference(before, after).filter((c) => c.path.includes("around"));
    const ground = found.filter((c) => c.path.includes("ground"));
    expect(ground.map((c) => [c.field, c.from, c.to, c.dimension])).toEqual([
      ["around, ground height", 0.1, 0.2, "length"],
    ]);
    expect(found.map((c) => c.field)).toContain("around, openings open before it");
  });
});

describe("parts that stand in the stream of a disc", () => {
  /** Half a disc covered by a box that begins so far behind it. */
  const half = (change: (d: Design) => void = () => {}) =>
    changed((d) => {
      const hull = d.items.find((i) => i.id === "hull");
      const prop = d.items.find((i) => i.id === "prop");
      if (!hull || !prop) return;
      hull.size = { x: 0.2, y: 0.3, z: 0.3 };
      hull.place = { x: prop.place.x + 0.05 + 0.1, y: 0.15, z: prop.place.z };
      Object.assign(first(d), { surroundings: "in air" });
      change(d);
    });
  it("cover what they cover, hub left out, each side apart, and give a share and a gap", () => {
    const [found, ...rest] = inStreamOf(half(), 0);
    expect(rest).toEqual([]);
    expect(found).toMatchObject({ side: "behind", names: expect.arrayContaining(["hull"]) });
    expect(found?.share).toBeCloseTo(0.5, 1);
    expect(found?.gap).toBeLessThanOrEqual(0.05 + 1e-9);
  });
  it("are told, as a body that one click counts; then the drive is known less well and pushes less", () => {
    const d = half();
    const e = evaluate(d);
    const f = e.findings.find((x) => x.code === "in-stream");
    expect(f?.severity).toBe("care");
    expect(f && findingText(f, "metric")).toMatch(
      /hull.* behind drive: \d+ % of its disc is covered, and it counts as free/,
    );
    const patch = f && remediesFor(d, e, f)[0]?.patch;
    const counted = patch ? applyPatch(d, patch) : d;
    const then = evaluate(counted);
    expect(then.findings.map((x) => x.code)).not.toContain("in-stream");
    expect(then.metrics.thrust?.value ?? 99).toBeLessThan(e.metrics.thrust?.value ?? 0);
    expect(then.metrics.thrust?.evidence).toBe("guess");
  });
  it("are none without a place, through the disc, far behind, beside it, or the drive's own", () => {
    const share = (change: (d: Design) => void) =>
      inStreamOf(half(change), 0).reduce((s, f) => Math.max(s, f.share), 0);
    const hull = (d: Design) => d.items.find((i) => i.id === "hull") ?? d.items[0];
    expect(share(() => {})).toBeGreaterThan(0.4);
    for (const change of [
      (d: Design) => void (hull(d) && (hull(d) as { unplaced: string[] }).unplaced.push("x")),
      (d: Design) => void Object.assign(hull(d)?.place ?? {}, { x: 0.06 }),
      (d: Design) => void Object.assign(hull(d)?.place ?? {}, { x: 1.5 }),
      (d: Design) => void Object.assign(hull(d)?.place ?? {}, { y: 0.5 }),
      (d: Design) => void (first(d).motorItemId = "hull"),
    ])
      expect(share(change)).toBeLessThan(0.1);
  });
});
