// npm test: installs what is missing (Chromium too), checks, and runs every test.
import { ensureBuild, ensureChromium, ensureModules, ensurePostgres, run } from "./install.mjs";

ensureModules();
ensureChromium();
ensurePostgres();
const bin = (name, ...args) => {
  console.log(`\n— ${name} ${args.join(" ")}`);
  run("npx", ["--no-install", name, ...args]);
};
bin("tsc", "-p", ".");
bin("tsc", "-p", "core");
bin("biome", "check", "--error-on-warnings", ".");
bin("depcruise", "--config", ".dependency-cruiser.cjs", "core", "api", "server", "web", "cli");
bin("vitest", "run", "--project", "unit");
// The build makes the clusters that first starts are copied from.
ensureBuild();
run(process.execPath, ["scripts/bench.mjs", "--smoke"]);
bin("vitest", "run", "--project", "api");
bin("vitest", "run", "--project", "postgres");
bin("vitest", "run", "--project", "browser");
