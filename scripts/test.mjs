// npm test: installs what is missing (Chromium too), checks, and runs every test.
import { ensureBuild, ensureChromium, ensureModules, run } from "./install.mjs";

ensureModules();
ensureChromium();
const bin = (name, ...args) => {
  console.log(`\n— ${name} ${args.join(" ")}`);
  run("npx", ["--no-install", name, ...args]);
};
bin("tsc", "-p", ".");
bin("tsc", "-p", "core");
bin("biome", "check", "--error-on-warnings", ".");
bin("depcruise", "--config", ".dependency-cruiser.cjs", "core", "api", "server", "web", "cli");
bin("vitest", "run", "--project", "unit");
bin("vitest", "run", "--project", "api");
ensureBuild();
bin("vitest", "run", "--project", "browser");
