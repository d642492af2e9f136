// npm run bench: installs and builds what is missing, then measures.
import { ensureBuild, ensureChromium, ensureModules, run } from "./install.mjs";

ensureModules();
ensureChromium();
ensureBuild();
run("npx", ["--no-install", "tsx", "scripts/bench.ts"]);
