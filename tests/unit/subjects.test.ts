import { usualState } from "../../core/design/schema";
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { craftFileSchema } from "../../core/design/craftFile";
import { editDesign } from "../../core/design/edit";
import { METRICS, type MetricKey } from "../../core/design/metrics";
import { type Design, emptyDesign } from "../../core/design/schema";
import { type Evaluation, Memo, evaluate, findingText, remediesFor, workingOf } from "../../core/evaluate";
import { SYMPTOMS } from "../../core/faults/catalogue";
import { seededRandom } from "../../core/numeric/random";
import { findingKey } from "../../core/subject";
import { SUBJECTS } from "../../core/subjects";
import { WORK } from "../../core/subjects/propulsion/state";
import { middle } from "../support/rules/hover";
import { winged } from "../support/wings";
import { quietDesign } from "../support/designs";
import { RULE_CASES } from "../support/ruleCases";

const root = new URL("../..", import.meta.url).pathname;
const demo = (name: string): Design => {
  const file = craftFileSchema.parse(JSON.parse(readFileSync(join(root, `demo/${name}.json`), "utf8")));
  const last = file.versions.at(-1);
  if (!last) throw new Error(name);
  return last.design;
};
const DEMO = ["tern", "samphire", "lantern", "annulus", "gannet"].map((name) => ({ name, design: demo(name) }));
const edited = (design: Design, change: (d: Design) => void): Design => {
  const e = editDesign(design, change);
  if (!e.ok) throw new Error(e.message);
  return e.design;
};

/** A change as a builder makes one, on whatever the design has. */
function randomEdit(design: Design, random: ReturnType<typeof seededRandom>): Design {
  const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(random.uniform() * list.length)];
  const e = editDesign(design, (d) => {
    const [item, unit, pack, target, phase] = [
      pick(d.items),
      pick(d.units),
      pick(d.batteries),
      pick(d.brief.targets),
      pick(d.duty),
    ];
    const by = 0.8 + 0.4 * random.uniform();
    const kinds: (() => void)[] = [
      () => item && (item.place.x += 0.02 * random.normal()),
      () => item?.mass && (item.mass.value *= by),
      () => item && (item.mass = random.uniform() < 0.3 ? null : { value: 0.05 * by, evidence: "guess" }),
      () => item && (item.cost = random.uniform() < 0.5 ? null : 10 * by),
      () => unit && (unit.propeller.diameter.value *= by),
      () => unit && (unit.motor.kv.value *= by),
      () => unit && (unit.throttleLimit = Math.min(1, by)),
      () => pack && (pack.capacity.value *= by),
      () => target && target.comparison !== "between" && (target.value *= by),
      () => phase && phase.by === "throttle" && (phase.value = Math.min(1, by / 2)),
      () => (d.brief.environment.altitude = 1000 * by),
      () => (d.states = [usualState(pick(["wings", "rotors", "hull", "gas"] as const) ?? "wings")]),
      () => (d.dragArea = random.uniform() < 0.4 ? null : { value: 0.02 * by, evidence: "guess" }),
      () => (d.waterDragArea = random.uniform() < 0.4 ? null : { value: 0.002 * by, evidence: "guess" }),
      () => (d.waterDragAt = random.uniform() < 0.4 ? null : 3 * by),
      () => d.items.splice(Math.floor(random.uniform() * d.items.length), 1),
    ];
    pick(kinds)?.();
  });
  return e.ok ? e.design : design;
}

describe("a result that is remembered", () => {
  it.each(DEMO)("is the one that is worked out anew: $name", ({ design }) => {
    const random = seededRandom(5);
    const memo = new Memo();
    let now = design;
    const past: Design[] = [];
    for (let k = 0; k < 24; k++) {
      past.push(now);
      // Now and then back to what was before, as undo does.
      now =
        random.uniform() < 0.2 ? (past[Math.floor(random.uniform() * past.length)] as Design) : randomEdit(now, random);
      expect(evaluate(now, {}, memo)).toEqual(evaluate(now, {}, null));
    }
  });
  it("is plain data: a structured clone is the same", () => {
    for (const { design } of DEMO) {
      const e = evaluate(design);
      expect(structuredClone(e)).toEqual(e);
    }
  });
});

describe("the work of an edit", () => {
  const worked = (memo: Memo, design: Design) => {
    const before = { ...WORK };
    evaluate(design, {}, memo);
    return { solved: WORK.solved - before.solved, followed: WORK.followed - before.followed };
  };
  it.each(DEMO)("a moved part solves nothing: $name", ({ design }) => {
    const memo = new Memo();
    evaluate(design, {}, memo);
    const part = design.items[0]?.id;
    const work = worked(
      memo,
      edited(design, (d) => void d.items.filter((i) => i.id === part).map((i) => (i.place.x += 0.01))),
    );
    // On wings the CG bears on the trim, that on the drag, and that on how long level flight and a duty at a speed
    // last.
    if (evaluate(design, {}, memo).metrics.levelTime) expect(work.solved).toBeLessThan(900);
    else expect(work).toEqual({ solved: 0, followed: 0 });
  });
  it.each(DEMO)("a typed mass solves nothing, unless a phase asks for multiples of the weight: $name", ({ design }) => {
    const plain = edited(design, (d) => void (d.duty = d.duty.filter((p) => p.by !== "thrustToWeight")));
    const memo = new Memo();
    evaluate(plain, {}, memo);
    const heavier = edited(plain, (d) => {
      const item = d.items.find((i) => i.mass && !d.batteries.some((b) => b.itemId === i.id));
      if (item?.mass) item.mass.value *= 1.1;
    });
    // Where a limit of mass stands against a wanted time the sizing loop goes round again.
    const pair =
      plain.brief.targets.some((t) => t.metric === "auw") &&
      plain.brief.targets.some((t) => t.metric === "endurance" && t.comparison === "atLeast");
    const work = worked(memo, heavier);
    if (!pair) expect(work).toEqual({ solved: 0, followed: 0 });
    else expect(work.solved).toBeLessThan(400);
  });
  it("a typed mass changes what rests on it", () => {
    const memo = new Memo();
    const before = evaluate(demo("annulus"), {}, memo).metrics.thrustToWeight?.value ?? 0;
    const after = evaluate(
      edited(demo("annulus"), (d) => void d.items.map((i) => i.mass && (i.mass.value *= 2))),
      {},
      memo,
    ).metrics.thrustToWeight?.value;
    expect(after).toBeCloseTo(before / 2, 9);
  });
  it("a propeller takes at most 400 solutions in the craft with three drives", () => {
    const several = DEMO.find(({ design }) => design.units.length >= 3)?.design;
    if (!several) throw new Error("no demo craft has three drives");
    const memo = new Memo();
    evaluate(several, {}, memo);
    const work = worked(
      memo,
      edited(several, (d) => void d.units.slice(0, 1).map((u) => (u.propeller.diameter.value *= 1.05))),
    );
    expect(work.solved).toBeGreaterThan(0);
    expect(work.solved).toBeLessThanOrEqual(400);
  });
  it("remedies cost nothing until they are asked for, and something then", () => {
    const design = edited(quietDesign(), (d) => void d.units.map((u) => (u.motor.maxCurrent = 5)));
    const e = evaluate(design, {}, null);
    const finding = e.findings.find((f) => f.code === "motor-current");
    if (!finding) throw new Error("no finding");
    const before = WORK.solved;
    expect(findingKey(finding)).toMatch(/^motor-current /);
    expect(WORK.solved).toBe(before);
    expect(remediesFor(design, e, finding).length).toBeGreaterThan(0);
    expect(WORK.solved).toBeGreaterThan(before);
  });
});

describe("every subject", () => {
  const codes = SUBJECTS.flatMap((s) => Object.keys(s.verdicts));
  const everywhere: { design: Design; evaluation: Evaluation }[] = [
    ...DEMO.map(({ design }) => design),
    edited(quietDesign(), (d) => {
      d.states = [usualState("rotors")];
      d.dragArea = { value: 0.02, evidence: "guess" };
      d.gasLift = { value: 0.3, evidence: "guess" };
      for (const i of d.items) i.cost = 12;
      for (const i of d.items.slice(0, 2)) i.source = "buy";
      const first = d.items[0];
      if (first) first.group = "Ballast";
      const [pack] = d.batteries;
      if (pack) pack.itemId = "pack";
    }),
    edited(quietDesign(), middle()),
    edited(quietDesign(), (d) => {
      winged(d);
      d.flight.height = { value: 0.1, evidence: "guess" };
    }),
    edited(quietDesign(), (d) => winged(d)),
  ].map((design) => ({ design, evaluation: evaluate(design) }));

  it("stands behind what it needs, and its names are its own", () => {
    const seen: string[] = [];
    for (const s of SUBJECTS) {
      for (const n of s.needs) expect(seen, s.name).toContain(n.name);
      expect(seen).not.toContain(s.name);
      seen.push(s.name);
    }
    expect(new Set(codes).size).toBe(codes.length);
  });
  it("what the fault catalogue leans on are codes that exist", () => {
    const named = SYMPTOMS.flatMap((s) => s.causes.flatMap((c) => [...(c.raisedBy ?? []), ...(c.loweredBy ?? [])]));
    expect(named.length).toBeGreaterThan(50);
    expect([...new Set(named)].filter((c) => !codes.includes(c))).toEqual([]);
  });
  it("there are at least 30 computed numbers and 56 verdicts", () => {
    expect(
      (Object.keys(METRICS) as MetricKey[]).filter((k) => METRICS[k].formula !== undefined).length,
    ).toBeGreaterThanOrEqual(30);
    expect(codes.length).toBeGreaterThanOrEqual(56);
  });
  it.each((Object.keys(METRICS) as MetricKey[]).filter((k) => METRICS[k].formula !== undefined))(
    "says of %s how it is computed, and from what",
    (key) => {
      const { formula, source, range } = METRICS[key];
      expect((formula ?? "").length).toBeGreaterThan(2);
      expect((source ?? "").length).toBeGreaterThan(10);
      expect((range ?? "").length).toBeGreaterThan(3);
      const having = everywhere.filter(
        ({ evaluation }) => evaluation.metrics[key] !== undefined && evaluation.metrics[key]?.value !== 0,
      );
      expect(having.length, "no design has it").toBeGreaterThan(0);
      for (const { design, evaluation } of having)
        expect(workingOf(design, evaluation, key).length, "no inputs").toBeGreaterThan(0);
    },
  );
  it("reads only what it says it reads: everything else may change without touching it", () => {
    for (const { design } of everywhere) {
      const before = evaluate(design, {}, null);
      for (const s of SUBJECTS) {
        // All that neither it nor what it needs reads is emptied.
        const reads = new Set<string>();
        const walk = (name: string) => {
          const subject = SUBJECTS.find((x) => x.name === name);
          for (const r of subject?.reads ?? []) reads.add(r);
          for (const n of subject?.needs ?? []) walk(n.name);
        };
        walk(s.name);
        const empty = emptyDesign(design.states[0]?.heldUpBy[0] ?? "wings") as unknown as Record<string, unknown>;
        const other: Record<string, unknown> = { ...empty, brief: { ...(empty.brief as object) } };
        for (const r of reads) {
          if (r.startsWith("brief."))
            (other.brief as Record<string, unknown>)[r.slice(6)] = (design.brief as Record<string, unknown>)[
              r.slice(6)
            ];
          else other[r] = (design as Record<string, unknown>)[r];
        }
        expect(evaluate(other as Design, {}, null).outcomes[s.name], s.name).toEqual(before.outcomes[s.name]);
      }
    }
  });
  it.each(codes)("%s has words, a design on which it speaks and a near one on which it is silent", (code) => {
    const cases = RULE_CASES.filter(([c]) => c === code);
    expect(cases.length, "no case for it").toBeGreaterThan(0);
    for (const [, fires, silent, context = {}] of cases) {
      const speak = evaluate(edited(quietDesign(), fires), context).findings.find((f) => f.code === code);
      expect(speak, "it does not speak").toBeDefined();
      if (speak)
        for (const habit of ["metric", "imperial"] as const) expect(findingText(speak, habit)).toMatch(/^\S.{6,}/);
      expect(
        evaluate(edited(quietDesign(), silent), context).findings.find((f) => f.code === code),
        "it is not silent",
      ).toBeUndefined();
    }
  });
});

describe("a subject that is added", () => {
  it("needs its folder, one line in subjects.ts and its lines in the schema: list, verdict, working, " +
    "report, command line and difference show it", () => {
    mkdirSync(join(root, ".data"), { recursive: true });
    const there = mkdtempSync(join(root, ".data/toy-"));
    try {
      for (const part of ["core", "cli", "api"]) cpSync(join(root, part), join(there, part), { recursive: true });
      cpSync(join(root, "tests/toy"), join(there, "core/subjects/windage"), { recursive: true });
      const add = (file: string, edits: [string, string][]) => {
        let text = readFileSync(join(there, file), "utf8");
        for (const [at, with_] of edits) {
          expect(text, `${file}: ${at}`).toContain(at);
          text = text.replace(at, with_);
        }
        writeFileSync(join(there, file), text);
      };
      add("core/subjects.ts", [
        [
          "import { type AnySubject",
          'import { windage } from "./subjects/windage/node";\nimport { verdicts as windageVerdicts } ' +
            'from "./subjects/windage/verdicts";\nimport { type AnySubject',
        ],
        ["];\n", "  judged(windage, windageVerdicts),\n];\n"],
      ]);
      add("core/design/schema.ts", [
        ["import { finite }", 'import * as windage from "../subjects/windage/declares";\nimport { finite }'],
        ["  ...speed.shape,\n", "  ...speed.shape,\n  ...windage.shape,\n"],
      ]);
      add("core/design/metrics.ts", [
        [
          "import type { Page }",
          'import { quantities as windage } from "../subjects/windage/declares";\nimport type { Page }',
        ],
        ["  ...flight,\n", "  ...flight,\n  ...windage,\n"],
      ]);
      const told = JSON.parse(
        execFileSync(
          process.execPath,
          ["--import", "tsx", join(there, "core/subjects/windage/try.ts"), join(root, "demo/tern.json")],
          { cwd: root, encoding: "utf8" },
        ),
      ) as Record<string, string>;
      expect(told.listed).toBe("Side force in the worst wind");
      expect(told.finding).toMatch(/^The wind pushes it aside with/);
      expect(told.working).toContain("Side area");
      expect(told.report).toContain("The wind pushes it aside with");
      expect(told.cli).toContain("sideForce");
      expect(told.difference).toContain("side area");
    } finally {
      rmSync(there, { recursive: true, force: true });
    }
  }, 240_000);
});
