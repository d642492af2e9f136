import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { setImmediate } from "node:timers/promises";
import { type CraftFile, craftFileSchema } from "../../core/design/craftFile";
import { evaluate } from "../../core/evaluate";
import { ledgerOf } from "../../core/mass/evidence";
import { judgeGates, ladderOf, locksFor } from "../../core/runs/ladder";
import { seededRandom } from "../../core/numeric/random";
import type { Database } from "../db/open";
import { readPacks } from "../../core/power/packShelf";
import { readParts } from "../../core/power/partShelf";
import { projectRoot } from "../root";
import { addToShelf } from "../shelf";
import { predict } from "../runs";
import { importCraft, listCrafts } from "../store";
import { type Hidden, hiddenSchema, readLaps, readRun, realDesign } from "./hiddenCraft";
import { readThrust } from "./thrustDemo";
import { readWeighIn } from "./weighDemo";

const DEMO = ["tern", "annulus", "samphire", "lantern"] as const;

/** Fills the runs of a demo craft: predictions by the application, measurements off its hidden real craft. */
export function measureDemo(file: CraftFile, hidden: Hidden): CraftFile {
  const evaluations = new Map(file.versions.map((v) => [v.label, { design: v.design, evaluation: evaluate(v.design) }]));
  const done: CraftFile["runs"] = [];
  for (const run of file.runs) {
    const version = evaluations.get(run.version);
    const own = file.versions.find((v) => v.label === run.version);
    if (!version || !own) continue;
    const measured = readRun(version.design, hidden, run);
    const metrics = run.metrics.map((m, i) => ({ ...m, predicted: predict(version.design, m.metric, version.evaluation), measured: measured[i] ?? null }));
    const said = Object.fromEntries(run.gates.flatMap((g) => (g.result === "passed" || g.result === "failed" ? [[g.gate.id, g.result]] : [])));
    const gates = judgeGates(ladderOf(own)[run.stage - 1]?.gates ?? [], metrics, said);
    const locks = locksFor({ ...file, runs: done }, own, version.evaluation.findings, run.stage);
    done.push({ ...run, laps: readLaps(version.design, hidden, run), metrics, gates, locks, goneOn: locks.length > 0 ? run.goneOn : "" });
  }
  return {
    ...file,
    runs: done,
    bench: file.bench.map((session) => {
      const version = evaluations.get(session.version);
      if (!version) return session;
      const random = seededRandom(hidden.seed + 1000 + session.number);
      if (session.thrust) return { ...session, thrust: readThrust(session.thrust, version.design, hidden, random), tested: ledgerOf(version.design) };
      if (!session.weighIn) return { ...session, tested: ledgerOf(version.design) };
      return { ...session, weighIn: readWeighIn(session.weighIn, realDesign(version.design, hidden), random), tested: ledgerOf(version.design) };
    }),
  };
}

/** Puts the demo crafts and the parts on the shelf into an empty workshop. */
export async function seedDemo(db: Database): Promise<void> {
  if ((await listCrafts(db)).length > 0) return;
  const folder = join(projectRoot(), "demo");
  const read = async (name: string): Promise<unknown> => JSON.parse(await readFile(join(folder, name), "utf8"));
  const hidden = (await read("hidden.json")) as Record<string, unknown>;
  for (const name of DEMO) {
    const file = craftFileSchema.parse(await read(`${name}.json`));
    await importCraft(db, measureDemo(file, hiddenSchema.parse(hidden[name])));
    await setImmediate();
  }
  const list = (name: string) => readFile(join(folder, name), "utf8");
  await addToShelf(db, [
    ...readPacks(await list("packs.csv")).parts,
    ...readParts("motor", await list("motors.csv")).parts,
    ...readParts("controller", await list("controllers.csv")).parts,
    ...readParts("propeller", await list("propellers.csv")).parts,
    ...readParts("servo", await list("servos.csv")).parts,
  ]);
}
