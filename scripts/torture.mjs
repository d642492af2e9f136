// npm run torture: installs and builds what is missing, then runs the long rounds of faults against the real server.
import { ensureBuild, ensureModules, run } from "./install.mjs";

ensureModules();
ensureBuild();
run("npx", ["--no-install", "tsx", "scripts/torture.ts", ...process.argv.slice(2)]);
