import { existsSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { Worker, type WorkerOptions } from "node:worker_threads";
import { projectRoot } from "./root";

/**
 * Starts one of the server's own threads by name: the built file, or the source when the server runs from its sources.
 * Names of sources stand relative to server/.
 */
export function startThread(name: "engine" | "evaluator" | "keeper", options: WorkerOptions = {}): Worker {
  const here = fileURLToPath(import.meta.url);
  if (!here.endsWith(".ts")) return new Worker(join(projectRoot(), "dist/server", `${name}.js`), options);
  // Built, a thread starts in a tenth of the time: the tests say that the build is of these sources; the engine holds
  // nothing of ours but its messages and may be older than the rest.
  const built = join(projectRoot(), "dist/server", `${name}.js`);
  const ofThese =
    process.env.ULTRAFORM_BUILT === "1" ||
    (name === "engine" &&
      existsSync(built) &&
      statSync(built).mtimeMs > statSync(join(dirname(here), "db/engine.ts")).mtimeMs);
  if (ofThese) return new Worker(built, options);
  const source = { engine: "db/engine.ts", evaluator: "evaluator/evaluator.ts", keeper: "db/keeper.ts" }[name];
  const url = pathToFileURL(join(dirname(here), source)).href;
  return new Worker(
    `import("tsx/esm/api").then(({ register }) => { register(); return import(${JSON.stringify(url)}); });`,
    { ...options, eval: true },
  );
}
