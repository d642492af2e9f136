import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { type Fault, newSuspect } from "../../core/design/craftFile";
import type { Battery } from "../../core/design/schema";
import { evaluate } from "../../core/evaluate";
import { SYMPTOMS, type Symptom } from "../../core/faults/catalogue";
import { packState, rankContext } from "../../core/faults/context";
import { causeOf, costsByCause } from "../../core/faults/costs";
import { stemsOf, symptomsLike } from "../../core/faults/find";
import { cheapestTest, rankCauses } from "../../core/faults/rank";
import { POWERED } from "../support/poweredTests";
import { blamesPilot, refusal } from "../../core/faults/state";
import { alike, asksNextWeakest, story } from "../../core/faults/story";
import { seededRandom } from "../../core/numeric/random";
import { reasonText } from "../../core/wording/faults";
import { changed, quietDesign } from "../support/designs";
import { craft, faultOf, run, version } from "../support/records";

const battery = (change: Partial<Battery> = {}): Battery => ({ ...(quietDesign().batteries[0] as Battery), ...change });
const pack = (change: Partial<Parameters<typeof packState>[0]> = {}) => ({
  name: "",
  restingVoltage: null,
  loadedVoltage: null,
  endVoltage: null,
  temperature: null,
  ...change,
});

describe("what a pack's readings say", () => {
  // 3 lithium cells: 4.2 V each when full is 12.6 V; 93 % of it is 11.72 V (common practice).
  it.each([
    [pack(), null],
    [pack({ restingVoltage: 12.5 }), null],
    [pack({ restingVoltage: 11.6 }), "began low"],
    [pack({ restingVoltage: 12.5, loadedVoltage: 10.4 }), "sagged"],
    [pack({ restingVoltage: 12.5, loadedVoltage: 11.4 }), "held"],
    [pack({ restingVoltage: 12.5, endVoltage: 8.5 }), "ended flat"],
    [pack({ restingVoltage: 12.5, loadedVoltage: 11.4, temperature: -2 }), "cold"],
  ] as const)("%j: %s", (read, wanted) => {
    expect(packState(read, battery())).toBe(wanted);
  });
  it("rest tells nothing of a chemistry whose voltage is flat", () => {
    expect(packState(pack({ restingVoltage: 9.0 }), battery({ chemistry: "lifepo4" }))).toBeNull();
    expect(packState(pack({ restingVoltage: 12.5 }), undefined)).toBeNull();
  });
});

describe("suspects moved by what is on record", () => {
  const planted = (context: Parameters<typeof rankCauses>[1], symptom: Symptom, cause: string) =>
    rankCauses(symptom, context).findIndex((r) => r.cause.id === cause);
  const quiet = { findings: [], changed: new Set<never>() };
  const cutOut = SYMPTOMS.find((s) => s.id === "cut-out") as Symptom;

  it(
    "an earlier fault of the same symptom, an unproven repair, a new part and a low pack each move theirs " +
      "up, with the reason",
    () => {
      const symptom = SYMPTOMS.find((s) => s.id === "erratic-steering") as Symptom;
      const last = symptom.causes.at(-1);
      if (!last) throw new Error("no cause");
      const before = rankCauses(symptom, { ...quiet, before: [{ fault: 3, cause: last.id }] }).find(
        (r) => r.cause.id === last.id,
      );
      expect(before?.reasons).toEqual([{ why: "before", fault: 3, effect: 1 }]);
      const loose = symptom.causes.find((c) => /rod|link/i.test(c.text));
      const repaired = rankCauses(symptom, { ...quiet, repaired: [{ fault: 2, words: "a longer push-rod" }] }).find(
        (r) => r.cause.id === loose?.id,
      );
      expect(repaired?.reasons).toEqual([{ why: "repaired", fault: 2, effect: 1 }]);
      const fresh = rankCauses(symptom, { ...quiet, unverified: ["Rudder servo"] }).find((r) =>
        r.reasons.some((x) => x.why === "unverified"),
      );
      expect(stemsOf(`${fresh?.cause.text} ${fresh?.cause.fix}`)).toContain("servo");
      const low = rankCauses(cutOut, { ...quiet, pack: "began low" });
      expect(low[0]?.reasons).toContainEqual({ why: "pack", state: "began low", effect: 1 });
      const held = rankCauses(cutOut, { ...quiet, pack: "held" });
      expect(held.find((r) => r.cause.id === low[0]?.cause.id)?.reasons).toContainEqual({
        why: "pack",
        state: "held",
        effect: -1,
      });
    },
  );

  it("what each drive read moves the causes that it speaks of, and no others", () => {
    const climb = SYMPTOMS.find((s) => s.id === "cannot-climb");
    if (!climb) throw new Error("no such symptom");
    const plain = rankCauses(climb, quiet).map((r) => r.cause.id);
    const read = rankCauses(climb, { ...quiet, odd: [{ name: "Rotor 2", odd: "gives nothing" }] });
    expect(plain.indexOf("one-dead")).toBeGreaterThan(0);
    expect(read[0]?.cause.id).toBe("one-dead");
    expect(read[0]?.reasons).toEqual([{ why: "read", drive: "Rotor 2", odd: "gives nothing", effect: 1 }]);
    expect(read.slice(1).every((r) => r.reasons.length === 0)).toBe(true);
    // A hot one tells nothing of a craft that will not climb.
    const hot = rankCauses(climb, { ...quiet, odd: [{ name: "Rotor 2", odd: "hotter" }] });
    expect(hot.map((r) => r.cause.id)).toEqual(plain);
    const warm = SYMPTOMS.find((s) => s.id === "motor-hot");
    expect(warm && rankCauses(warm, { ...quiet, odd: [{ name: "Rotor 2", odd: "hotter" }] })[0]?.cause.id).toBe(
      "cooling",
    );
  });

  it("each reason has its sentence", () => {
    const say = (reason: Parameters<typeof reasonText>[0]) => reasonText(reason, [], "metric");
    expect(say({ why: "before", fault: 3, effect: 1 })).toBe("up: it was this in F-03");
    expect(say({ why: "repaired", fault: 12, effect: 1 })).toMatch(/F-12.*no run has proven it/);
    expect(say({ why: "unverified", part: "Tail boom", effect: 1 })).toMatch(/Tail boom/);
    expect(say({ why: "pack", state: "held", effect: -1 })).toBe("down: the pack was full and held its volts");
    expect(say({ why: "changed", kind: "propeller", effect: 1 })).toMatch(/propeller/);
    expect(say({ why: "read", drive: "Rotor 2", odd: "hotter", effect: 1 })).toBe(
      "up: Rotor 2 was hotter than its like in that run's readings",
    );
  });

  it(
    "histories with a planted cause, told only by repairs, earlier faults, new parts and the pack: among " +
      "the first three in at least 8 of 10",
    () => {
      // Every cause of the catalogue that its own words can point at is planted in turn; two pieces of evidence that
      // have nothing to do with it stand beside the one that does.
      const random = seededRandom(23);
      const pick = <T>(list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)] as T;
      const words = SYMPTOMS.flatMap((s) => s.causes.map((c) => c.text));
      const places = SYMPTOMS.filter((s) => s.causes.length > 3).flatMap((s) =>
        s.causes.map((cause) => {
          const kind = pick(["before", "repaired", "unverified"] as const);
          return planted(
            {
              ...quiet,
              before: kind === "before" ? [{ fault: 1, cause: cause.id }] : [],
              repaired: [
                ...(kind === "repaired" ? [{ fault: 1, words: cause.text }] : []),
                { fault: 2, words: pick(words) },
              ],
              unverified: [...(kind === "unverified" ? [cause.text] : []), pick(words)],
            },
            s,
            cause.id,
          );
        }),
      );
      expect(places.length).toBeGreaterThan(25);
      expect(places.filter((p) => p < 3).length / places.length).toBeGreaterThanOrEqual(0.8);
    },
  );

  it(
    "reads its context off the records: what was mended and not proven, what is new since it worked, what " +
      "it was before",
    () => {
      const base = quietDesign();
      const next = changed((d) => {
        d.items = d.items.map((i) =>
          i.id === "tail" ? { ...i, mass: { value: 0.12, evidence: "measured" as const } } : i,
        );
      });
      const mended: Partial<Fault> = {
        symptom: "erratic-steering",
        fix: "a new clip",
        part: "tail",
        suspects: [newSuspect("clip", "clip", { state: "ruled in", result: "opens" })],
      };
      const records = (proof: number | null) =>
        craft(
          [version("v1", null, { design: base }), version("v2", "v1", { design: next })],
          [
            run(1, "v1", 4),
            run(2, "v1", 4, { outcome: "failed" }),
            run(3, "v2", 4),
            run(4, "v2", 5, { pack: pack({ restingVoltage: 11.5 }) }),
          ],
          [
            faultOf(1, 2, { ...mended, proofRun: proof, state: proof === null ? "closed" : "proven" }),
            faultOf(2, 4, { symptom: "erratic-steering" }),
          ],
        );
      const at = (proof: number | null) => {
        const file = records(proof);
        const here = file.runs[3];
        if (!here) throw new Error("no run");
        return rankContext(file, here, evaluate(next).findings, "erratic-steering", 2);
      };
      const open = at(null);
      expect(open.repaired?.map((r) => r.fault)).toEqual([1]);
      expect(open.repaired?.[0]?.words).toContain("tail");
      expect(open.before).toEqual([{ fault: 1, cause: "clip" }]);
      expect(open.pack).toBe("began low");
      expect([...open.changed]).toContain("mass");
      // v2 itself ran short and passed in run 3: it is its own baseline, nothing aboard is unverified.
      expect(open.unverified).toEqual([]);
      expect(at(3).repaired).toEqual([]);
    },
  );
});

describe("what a test takes", () => {
  const stake = (id: string) => {
    const [symptom, cause] = id.split("/");
    const found = SYMPTOMS.find((x) => x.id === symptom)?.causes.find((x) => x.id === cause);
    if (!found) throw new Error(id);
    return [found.risk, found.powered];
  };
  it.each([
    ["no-hover/sag", "a person", true],
    ["climbs-backflips/cg-aft", "a part", false],
    ["hub-bursts/centrifugal", "a person", true],
    ["shake-one-rpm/play", "none", false],
    ["no-hover/propeller", "a person", true],
    ["motor-hot/cooling", "a person", true],
    ["belt-skips/resonance", "a person", true],
    ["sharp-waste/carbon", "a person", false],
    ["climbs-at-zero-throttle/vibration", "none", true],
    ["overshoots/rate", "a part", true],
  ])("%s risks %s, powered: %s", (id, risk, powered) => {
    expect(stake(id)).toEqual([risk, powered]);
  });
  it("every test says both, none by default; the powered ones are these and no others", () => {
    const all = SYMPTOMS.flatMap((s) => s.causes.map((c) => ({ ...c, id: `${s.id}/${c.id}` })));
    expect(all).toHaveLength(385);
    for (const c of all) expect(typeof c.powered, c.id).toBe("boolean");
    const powered = all.filter((c) => c.powered).map((c) => c.id);
    expect(powered.toSorted()).toEqual(POWERED.toSorted());
    // What is done with something in hand while it turns is never a risk to a part alone.
    for (const c of all.filter(
      (x) =>
        /tissue|tufts|finger|strobe|clamp meter|ammeter|under load|on the scale|\bheld\b|tied/i.test(x.test) &&
        x.powered,
    ))
      expect(c.risk, `${c.id}: ${c.test}`).toBe("a person");
  });
  it("every cause of the catalogue says what its test takes; all three kinds of risk are met, most none", () => {
    const all = SYMPTOMS.flatMap((s) => s.causes);
    const share = (r: string) => all.filter((c) => c.risk === r).length / all.length;
    expect(share("none")).toBeGreaterThan(0.4);
    expect(share("a part")).toBeGreaterThan(0.05);
    expect(share("a person")).toBeGreaterThan(0.05);
    expect(all.some((c) => c.cost > 0)).toBe(true);
  });
  it("a risk to a person is never bought off with minutes; money counts beside time", () => {
    const t = (minutes: number, cost: number, risk: "none" | "a part" | "a person") => ({ minutes, cost, risk });
    expect(cheapestTest([t(1, 0, "a person"), t(30, 0, "a part")])).toEqual(t(30, 0, "a part"));
    expect(cheapestTest([t(1, 0, "a part"), t(60, 0, "none")])).toEqual(t(60, 0, "none"));
    expect(cheapestTest([t(5, 10, "none"), t(20, 0, "none")])).toEqual(t(20, 0, "none"));
    // Of two that risk alike, the one with the pack out.
    const [out, on] = [
      { ...t(30, 0, "none"), powered: false },
      { ...t(5, 0, "none"), powered: true },
    ];
    expect(cheapestTest([on, out])).toBe(out);
    expect(cheapestTest([])).toBeUndefined();
  });
});

describe("the same again", () => {
  const clip = (state: Fault["suspects"][number]["state"]) => [newSuspect("clip", "the clip opens", { state })];
  it("a part ties more than a cause, a cause more than a symptom; nothing ties two that share nothing", () => {
    expect(alike(faultOf(2, 1, { part: "rod" }), faultOf(1, 1, { part: " Rod " }))).toBe("the same part");
    expect(
      alike(
        faultOf(2, 1, { symptom: "x", suspects: clip("ruled in") }),
        faultOf(1, 1, { symptom: "x", suspects: clip("ruled in") }),
      ),
    ).toBe("the same cause");
    expect(alike(faultOf(2, 1, { cause: "cold clip" }), faultOf(1, 1, { cause: "Cold clip" }))).toBe("the same cause");
    expect(
      alike(
        faultOf(2, 1, { symptom: "x", suspects: clip("ruled out") }),
        faultOf(1, 1, { symptom: "x", suspects: clip("ruled in") }),
      ),
    ).toBe("the same symptom");
    expect(alike(faultOf(2, 1), faultOf(1, 1))).toBeNull();
  });
  it("tells the earlier ones in order, and how long each fix held", () => {
    const file = craft(
      [version("v1", null), version("v2", "v1")],
      [
        run(1, "v1", 4, { seconds: 100 }),
        run(2, "v1", 4, { seconds: 200 }),
        run(3, "v2", 4),
        run(4, "v2", 4, { seconds: 50 }),
        run(5, "v2", 4, { seconds: 70 }),
      ],
      [
        faultOf(1, 1, { part: "rod", fix: "glue" }),
        faultOf(2, 3, { part: "rod", fix: "pin" }),
        faultOf(3, 5, { part: "rod" }),
        faultOf(4, 2, { part: "wing" }),
      ],
    );
    const told = story(file, file.faults[2] as Fault);
    expect(told.map((c) => [c.fault.number, c.because, c.version, c.ran, c.runs])).toEqual([
      [1, "the same part", "v1", 200, 2],
      [2, "the same part", "v2", 120, 2],
    ]);
    expect(story(file, file.faults[0] as Fault)).toEqual([]);
  });
  it("a symptom alone counts only when nothing nearer does", () => {
    const file = craft(
      [version("v1", null)],
      [run(1, "v1", 4), run(2, "v1", 4), run(3, "v1", 4)],
      [
        faultOf(1, 1, { symptom: "resets" }),
        faultOf(2, 2, { symptom: "resets", part: "plug" }),
        faultOf(3, 3, { symptom: "resets", part: "plug" }),
      ],
    );
    expect(story(file, file.faults[2] as Fault).map((c) => c.fault.number)).toEqual([2]);
    expect(story(file, { ...(file.faults[2] as Fault), part: "" }).map((c) => c.fault.number)).toEqual([1, 2]);
  });
  it.each([
    ["rod end", "A keeper over each rod end", "", true],
    ["rod end", "A keeper over each rod end", "the horn", false],
    ["", "fresh pack", "", false],
    ["rod end", "", "", false],
  ])(
    "asks for the next weakest where a part failed and was mended: %s, “%s”, “%s”",
    (part, fix, nextWeakest, wanted) => {
      expect(asksNextWeakest({ part, fix, nextWeakest })).toBe(wanted);
    },
  );
});

describe("what faults cost", () => {
  it("adds repairs and all tests, and tells the wrong turns apart", () => {
    const list = costsByCause([
      faultOf(1, 1, {
        minutes: 30,
        cost: 4,
        mass: 0.003,
        suspects: [
          newSuspect("a", "The clip opens", { state: "ruled in", spentMinutes: 10, spentCost: 1 }),
          newSuspect("b", "servo", { state: "ruled out", spentMinutes: 25, spentCost: 9 }),
        ],
      }),
      faultOf(2, 1, {
        minutes: 15,
        suspects: [newSuspect("a", "the clip opens", { state: "ruled in", spentMinutes: 5 })],
      }),
      faultOf(3, 1, { minutes: 5 }),
    ]);
    expect(list).toEqual([
      { cause: "The clip opens", faults: [1, 2], minutes: 85, wrongMinutes: 25, money: 14, wrongTurns: 1, mass: 0.003 },
      { cause: "not found", faults: [3], minutes: 5, wrongMinutes: 0, money: 0, wrongTurns: 0, mass: 0 },
    ]);
    expect(causeOf(faultOf(4, 1, { cause: " bent shaft " }))).toBe("bent shaft");
  });
  it("nothing is lost or counted twice, however they are sorted", () => {
    const fault = fc.record({ minutes: fc.nat(500), cost: fc.nat(100), cause: fc.constantFrom("a", "A", "b", "") });
    fc.assert(
      fc.property(fc.array(fault, { maxLength: 20 }), (list) => {
        const faults = list.map((f, i) => faultOf(i + 1, 1, f));
        const rows = costsByCause(faults);
        expect(rows.reduce((s, r) => s + r.minutes, 0)).toBe(faults.reduce((s, f) => s + f.minutes, 0));
        expect(rows.reduce((s, r) => s + r.money, 0)).toBe(faults.reduce((s, f) => s + f.cost, 0));
        expect(rows.flatMap((r) => r.faults).sort((a, b) => a - b)).toEqual(faults.map((f) => f.number));
      }),
    );
  });
});

describe("pilot error", () => {
  const runs = [{ number: 1, date: "2026-01-01T10:00:00Z" }];
  const closed = (change: Partial<Fault>) => refusal({ ...faultOf(1, 1, { state: "closed", ...change }) }, runs);
  const pilot = [newSuspect("pilot", "The pilot", { state: "ruled in", result: "he said so" })];
  it("closes nothing without a swap of pilot or craft", () => {
    expect(closed({ suspects: pilot })).toMatch(/same pilot on another craft, or another pilot on this one/);
    expect(
      closed({ suspects: pilot, pilotSwap: { how: "another pilot, this craft", shown: "flew it level" } }),
    ).toBeNull();
    expect(
      closed({ pilotBlamed: true, suspects: [newSuspect("a", "a", { state: "ruled in", result: "x" })] }),
    ).not.toBeNull();
    expect(closed({ suspects: [newSuspect("a", "Gear worn", { state: "ruled in", result: "x" })] })).toBeNull();
  });
  it("is told by what the suspect is, not by its words", () => {
    expect(blamesPilot(newSuspect("pilot", "Driver error in the turn"))).toBe(true);
    expect(blamesPilot(newSuspect("x", "Pilot hole drilled too large"))).toBe(false);
  });
});

describe("a catalogue with entries of one's own", () => {
  const own: Symptom = {
    id: "own-gurgle",
    text: "Gurgles like a drain",
    group: "water and ground",
    causes: [{ id: "c1", text: "Air in the intake", test: "look", minutes: 2, cost: 0, risk: "none", fix: "lower it" }],
  };
  it("finds them by their words beside those that ship, and leaves the shipped one alone", () => {
    expect(symptomsLike("it gurgles", 3, [own, ...SYMPTOMS])[0]?.id).toBe("own-gurgle");
    expect(symptomsLike("it gurgles", 3).map((s) => s.id)).not.toContain("own-gurgle");
  });
});

describe("a long list of causes", () => {
  it("is moved by what is on record as a short one is: six causes hide none that five things speak for", () => {
    const six = SYMPTOMS.find((s) => s.causes.length >= 6) as Symptom;
    const last = six.causes.at(-1)?.id ?? "";
    const place = (change: Partial<Parameters<typeof rankCauses>[1]>) =>
      rankCauses(six, { findings: [], changed: new Set(), ...change }).findIndex((r) => r.cause.id === last);
    expect(place({})).toBe(six.causes.length - 1);
    expect(place({ before: [{ fault: 1, cause: last }] })).toBeLessThan(3);
  });
});
