import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { FORMAT_VERSION, craftFileSchema } from "../../core/design/craftFile";
import { migrated, openCraftFile, unknownKeys, withAroundList } from "../../core/design/openFile";
import { usualState } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";

const read = (path: string) =>
  JSON.parse(readFileSync(new URL(`../${path}`, import.meta.url), "utf8")) as Record<string, unknown>;
const now = () => read("../demo/tern.json");

describe("files of an older version", () => {
  it.each(Array.from({ length: FORMAT_VERSION - 1 }, (_, i) => i + 1))("version %i is read", (n) => {
    const old = read(`fixtures/craft-${n}.json`);
    expect(old.formatVersion).toBe(n);
    expect(migrated(old).formatVersion).toBe(FORMAT_VERSION);
    const opened = openCraftFile(old);
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    expect(opened.file.versions.length).toBe((old.versions as unknown[]).length);
    expect(opened.file.runs.length).toBe((old.runs as unknown[]).length);
    expect(old.formatVersion).toBe(n);
  });
  it("version 1 said nothing of where a drive works: it is asked, and nothing is taken as met meanwhile", () => {
    const opened = openCraftFile(read("fixtures/craft-1.json"));
    if (!opened.ok) throw new Error("not read");
    const design = opened.file.versions.at(-1)?.design;
    if (!design) throw new Error("no version");
    expect(design.units.every((u) => u.surroundings === null)).toBe(true);
    const e = evaluate(design);
    expect(e.findings.map((f) => f.code)).toContain("surroundings-unsaid");
    expect(
      e.targets.filter((t) => ["thrustToWeight", "endurance"].includes(t.target.metric) && t.status === "met"),
    ).toEqual([]);
  });
});

describe("a drive in water of version 2", () => {
  it("is asked anew: it could have been a drum or a jet, and is computed as an open screw from now on", () => {
    const old = read("fixtures/craft-2.json") as {
      versions: { design: { units: { surroundings: string | null }[] } }[];
    };
    for (const v of old.versions) for (const u of v.design.units) u.surroundings = "in water";
    const opened = openCraftFile(old);
    expect(opened.ok && opened.file.versions.every((v) => v.design.units.every((u) => u.surroundings === null))).toBe(
      true,
    );
    expect(old.versions[0]?.design.units[0]?.surroundings).toBe("in water");
  });
});

describe("what holds the craft up of version 3", () => {
  it("belongs to the one state of each version, and is computed as before", () => {
    const opened = openCraftFile(read("fixtures/craft-3.json"));
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    for (const v of opened.file.versions) expect(v.design.states).toEqual([usualState("ground")]);
    expect(opened.file.craft).not.toHaveProperty("heldUpBy");
  });
});

describe("drives of version 4", () => {
  it("turn an open propeller until somebody says otherwise", () => {
    const opened = openCraftFile(read("fixtures/craft-4.json"));
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    const units = opened.file.versions.flatMap((v) => v.design.units);
    expect(units.length).toBeGreaterThan(0);
    for (const u of units) expect(u.propulsor).toBeNull();
  });
});

describe("runs of version 5", () => {
  it("hold no reading of a drive, and all that they held", () => {
    const old = read("fixtures/craft-5.json") as { runs: { purpose: string }[] };
    const opened = openCraftFile(old);
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    expect(opened.file.runs).toHaveLength(1);
    expect(opened.file.runs[0]).toMatchObject({ ...old.runs[0], perDrive: [] });
    for (const v of opened.file.versions) for (const i of v.design.items) expect(i.heldBy).toEqual([]);
  });
});

describe("designs of version 6", () => {
  it("have no wings described, and all that they had", () => {
    const old = read("fixtures/craft-6.json") as { versions: { design: object }[] };
    const opened = openCraftFile(old);
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    expect(opened.file.versions.length).toBeGreaterThan(0);
    for (const [k, v] of opened.file.versions.entries()) {
      expect(v.design).toMatchObject({ surfaces: [], bodies: [], flight: { height: null, whole: false } });
      expect(v.design).toMatchObject(withAroundList({ ...old.versions[k]?.design }));
    }
  });
});

describe("parts of version 7", () => {
  const old = () => read("fixtures/craft-7.json") as { versions: { design: { items: Record<string, unknown>[] } }[] };
  const opened = (file: object) => {
    const result = openCraftFile(file);
    if (!result.ok) throw new Error(JSON.stringify(result.problems));
    return result.file;
  };
  it("say what they are, as their names said it until then, and hold all that they held", () => {
    const file = opened(old());
    for (const [k, v] of file.versions.entries())
      expect(v.design).toMatchObject(withAroundList({ ...old().versions[k]?.design }));
    const items = file.versions.at(-1)?.design.items ?? [];
    const named = (name: string) => items.find((i) => i.name === name);
    expect(named("Ballast, lead in the stern")?.role).toBe("ballast");
    expect(named("Controller left")).toMatchObject({ role: "controller", twinId: named("Controller right")?.id });
    expect(named("Side float right")).toMatchObject({ role: "not said", twinId: named("Side float left")?.id });
  });
  it("what is said goes before what the name proposes", () => {
    const file = old();
    const lead = file.versions.at(-1)?.design.items.find((i) => i.name === "Ballast, lead in the stern");
    if (lead) lead.role = "other";
    const items = opened(file).versions.at(-1)?.design.items ?? [];
    expect(items.find((i) => i.name === "Ballast, lead in the stern")?.role).toBe("other");
  });
  it("a fault whose cause was “pilot error” says so in a field; a pilot hole does not", () => {
    const blamed = (cause: string) => {
      const file = old() as unknown as { faults: { cause: string }[] };
      const [first] = file.faults;
      if (!first) throw new Error("no fault");
      first.cause = cause;
      return opened(file).faults[0]?.pilotBlamed;
    };
    expect(blamed("Pilot error in the turn")).toBe(true);
    expect(blamed("the pilot hole was drilled too wide")).toBe(false);
  });
});

describe("a file of version 11", () => {
  it("opens as it is, and may ask for a lean and a swing from then on", () => {
    const raw = read("fixtures/craft-11.json") as { versions: { design: { brief: { targets: object[] } } }[] };
    const opened = openCraftFile(raw);
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    expect(opened.file.formatVersion).toBe(FORMAT_VERSION);
    for (const [k, v] of opened.file.versions.entries())
      expect(v.design.brief.targets).toEqual(raw.versions[k]?.design.brief.targets);
    const asks = structuredClone(opened.file);
    asks.versions[0]?.design.brief.targets.push({
      ...{ id: "lean", metric: "leanGrowth", comparison: "atMost", value: 0.03, weight: "wish" },
    });
    expect(openCraftFile(asks).ok).toBe(true);
  });
});

describe("what was around a drive of version 10", () => {
  const was = (units: object[], states: object[] = []) => withAroundList({ units, states });
  it("stands in a list, and works in air; a pair of the demo says nothing yet of its spacing", () => {
    const opened = openCraftFile(read("fixtures/craft-10.json"));
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems));
    expect(opened.file.versions.map((v) => v.design.units.map((u) => [u.surroundings, u.around]))).toEqual([
      [["in air", []]],
      [["in air", [{ kind: "coaxial", spacing: null }]]],
    ]);
  });
  it("is asked where nothing was entered, and nothing counts as free that was said to be in a box", () => {
    const openings = { kind: "openings", inlet: null, outlet: null, edges: "not said" };
    expect(was([{ id: "u", surroundings: "boxed or ducted", around: null }]).units).toEqual([
      { id: "u", surroundings: "in air", around: [openings] },
    ]);
    expect(
      was(
        [{ id: "u", surroundings: "free air", around: null }],
        [{ units: [{ id: "u", works: "boxed or ducted" }] }, { units: [{ id: "u", works: "in water" }] }],
      ),
    ).toEqual({
      units: [{ id: "u", surroundings: "in air", around: [openings] }],
      states: [{ units: [{ id: "u", works: "in air" }] }, { units: [{ id: "u", works: "in water" }] }],
    });
  });
  it("a state that speaks of a drive that is no more is read too", () => {
    expect(was([], [{ units: [{ id: "gone", works: "free air" }] }])).toEqual({
      units: [],
      states: [{ units: [{ id: "gone", works: "in air" }] }],
    });
  });
  it("of this release is left as it is", () => {
    const design = { units: [{ id: "u", surroundings: null, around: [{ kind: "coaxial", spacing: null }] }] };
    expect(withAroundList(design)).toBe(design);
  });
});

describe("files that are not read", () => {
  it("a newer version is refused in words", () => {
    const opened = openCraftFile({ ...now(), formatVersion: FORMAT_VERSION + 1, something: 1 });
    expect(opened).toMatchObject({
      ok: false,
      problems: [{ path: ["formatVersion"], message: expect.stringMatching(/format version \d.*reads up to/) }],
    });
  });
  it("a key that is not known is said with its place, at any depth, and nothing is read", () => {
    const file = now();
    const versions = file.versions as {
      design: { units: Record<string, unknown>[]; brief: Record<string, unknown> };
    }[];
    const [first] = versions;
    if (!first?.design.units[0]) throw new Error("no drive");
    first.design.units[0].colour = "red";
    first.design.brief.mood = 3;
    const opened = openCraftFile(file);
    expect(opened.ok).toBe(false);
    if (opened.ok) return;
    expect(opened.problems.map((p) => p.path.join("/")).sort()).toEqual([
      "versions/0/design/brief/mood",
      "versions/0/design/units/0/colour",
    ]);
    expect(opened.problems[0]?.message).toMatch(/not known .*nothing was read/);
  });
  it("what is no file of this kind is told so", () => {
    for (const odd of [
      null,
      3,
      "x",
      [],
      {},
      { format: "other", formatVersion: 1 },
      { format: "ultraform-craft", formatVersion: -1 },
      { format: "ultraform-craft" },
    ]) {
      const opened = openCraftFile(odd);
      expect(opened.ok, JSON.stringify(odd)).toBe(false);
      if (!opened.ok) expect(opened.problems.length).toBeGreaterThan(0);
    }
  });
});

describe("every key of the demo craft files", () => {
  it.each(["tern", "samphire", "lantern", "annulus", "gannet"])("is known: %s", (name) => {
    expect(unknownKeys(craftFileSchema, read(`../demo/${name}.json`))).toEqual([]);
  });
});
