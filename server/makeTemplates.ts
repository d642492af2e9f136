import { mkdirSync, rmSync } from "node:fs";
import { rename } from "node:fs/promises";
import { join } from "node:path";
import { openDatabase } from "./db/open";
import { schemaNow } from "./db/migrations";
import { templateFolder } from "./db/template";
import { seedDemo } from "./demo/seed";
import { Evaluator } from "./evaluator";
import { Glances } from "./glances";
import { projectRoot } from "./root";

/**
 * Makes the data folders that first starts are copied from: one with nothing in it, and the demo. Run after the
 * build.
 */
async function main(): Promise<void> {
  const folder = join(projectRoot(), "dist/templates");
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  for (const name of ["empty", "demo"] as const) {
    const part = join(folder, `${name}.part`);
    const open = await openDatabase(part);
    if (name === "demo") {
      await seedDemo(open.db);
      const evaluator = new Evaluator(60_000);
      const glances = new Glances(open.db, evaluator);
      glances.touch();
      await glances.settled();
      evaluator.close();
    }
    await open.close();
    rmSync(join(part, "lock"), { force: true });
    await rename(part, join(folder, `${name}-${schemaNow()}`));
    if (!templateFolder(name)) throw new Error(`the template ${name} was not made`);
  }
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
