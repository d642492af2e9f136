import { eq } from "drizzle-orm";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { setImmediate } from "node:timers/promises";
import { everyState } from "../../core/design/inState";
import type { CraftFile } from "../../core/design/craftFile";
import { inCurrency } from "../../core/exchange/currency";
import { craftFileReading } from "../../core/design/openFile";
import { evaluate } from "../../core/evaluate";
import { ledgerOf } from "../../core/subjects/mass/evidence";
import { judgeGates, ladderOf, locksFor } from "../../core/runs/ladder";
import { seededRandom } from "../../core/numeric/random";
import type { Database } from "../db/open";
import { crafts, shelf, workshop } from "../db/schema";
import { readPacks } from "../../core/catalogue/packShelf";
import { readParts } from "../../core/catalogue/partShelf";
import { projectRoot } from "../root";
import { judged } from "../evaluator/judged";
import { type Tx, reading } from "../db/transaction";
import { predicted } from "../runs";
import { moneyIn } from "../money";
import { insertCraft } from "../store";
import { type Hidden, hiddenSchema, readLaps, readRun, realDesign } from "./hiddenCraft";
import { readThrust } from "./thrustDemo";
import { readWeighIn } from "./weighDemo";

const DEMO = ["tern", "annulus", "samphire", "lantern", "gannet"] as const;

/** Fills the runs of a demo craft: predictions by the application, measurements off its hidden real craft. */
export function measureDemo(file: CraftFile, hidden: Hidden): CraftFile {
  const evaluations = new Map(
    file.versions.flatMap((v) =>
      everyState(v.design).map(({ state, design }) => [
        `${v.label} ${state.id}`,
        { design, evaluation: evaluate(design), judged: judged(design) },
      ]),
    ),
  );
  const done: CraftFile["runs"] = [];
  for (const run of file.runs) {
    const version = evaluations.get(`${run.version} ${run.state}`);
    const whole = file.versions.find((v) => v.label === run.version);
    if (!version || !whole) continue;
    const own = { ...whole, design: version.design };
    const measured = readRun(version.design, hidden, run);
    const metrics = run.metrics.map((m, i) => ({
      ...m,
      predicted: predicted(m.metric, version.judged),
      measured: measured[i] ?? null,
    }));
    const said = Object.fromEntries(
      run.gates.flatMap((g) => (g.result === "passed" || g.result === "failed" ? [[g.gate.id, g.result]] : [])),
    );
    const gates = judgeGates(ladderOf(own)[run.stage - 1]?.gates ?? [], metrics, said);
    const locks = locksFor({ ...file, runs: done }, own, version.evaluation.findings, run.stage);
    done.push({
      ...run,
      laps: readLaps(version.design, hidden, run),
      metrics,
      gates,
      locks,
      goneOn: locks.length > 0 ? run.goneOn : "",
    });
  }
  return {
    ...file,
    runs: done,
    bench: file.bench.map((session) => {
      const version = file.versions.find((v) => v.label === session.version);
      if (!version) return session;
      const random = seededRandom(hidden.seed + 1000 + session.number);
      if (session.thrust)
        return {
          ...session,
          thrust: readThrust(session.thrust, version.design, hidden, random),
          tested: ledgerOf(version.design),
        };
      if (!session.weighIn) return { ...session, tested: ledgerOf(version.design) };
      return {
        ...session,
        weighIn: readWeighIn(session.weighIn, realDesign(version.design, hidden), random),
        tested: ledgerOf(version.design),
      };
    }),
  };
}

/** Names of the demo crafts that this workshop has been given; what was deleted since stays deleted. */
async function given(db: Database): Promise<Set<string>> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(workshop).where(eq(workshop.key, "demo"));
    if (row) return new Set(row.value as string[]);
    // A workshop of a release that kept no such list: what is there was given, and what is missing is made whole.
    return new Set((await tx.select({ slug: crafts.slug }).from(crafts)).map((c) => c.slug));
  }, reading);
}

/**
 * Puts the demo crafts and the parts on the shelf into a workshop, each whole or not at all; goes on where an earlier
 * start was stopped.
 */
export async function seedDemo(db: Database): Promise<void> {
  const done = await given(db);
  if (DEMO.every((name) => done.has(name)) && done.has("shelf")) return;
  const folder = join(projectRoot(), "demo");
  const read = async (name: string): Promise<unknown> => JSON.parse(await readFile(join(folder, name), "utf8"));
  const hidden = (await read("hidden.json")) as Record<string, unknown>;
  const mark = async (tx: Tx, name: string) => {
    done.add(name);
    const value = [...done];
    await tx
      .insert(workshop)
      .values({ key: "demo", value })
      .onConflictDoUpdate({ target: workshop.key, set: { value } });
  };
  for (const name of DEMO) {
    if (done.has(name)) continue;
    const file = measureDemo(craftFileReading.parse(await read(`${name}.json`)), hiddenSchema.parse(hidden[name]));
    await db.transaction(async (tx) => {
      // Its prices are in euros: in another currency by what a euro is worth there, or without them.
      const { currency, perEuro } = await moneyIn(tx);
      await insertCraft(tx, inCurrency(file, currency, perEuro));
      await mark(tx, name);
    });
    await setImmediate();
  }
  if (done.has("shelf")) return;
  const list = (name: string) => readFile(join(folder, name), "utf8");
  const parts = [
    ...readPacks(await list("packs.csv")).parts,
    ...readParts("motor", await list("motors.csv")).parts,
    ...readParts("controller", await list("controllers.csv")).parts,
    ...readParts("propeller", await list("propellers.csv")).parts,
    ...readParts("servo", await list("servos.csv")).parts,
  ];
  await db.transaction(async (tx) => {
    await tx
      .insert(shelf)
      .values(parts.map((part) => ({ kind: part.kind, name: part.name, part })))
      .onConflictDoNothing();
    await mark(tx, "shelf");
  });
}
