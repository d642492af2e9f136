// npm run bench: installs and builds what is missing, then measures.
import { ensureBuild, ensureChromium, ensureModules, run } from "./install.mjs";

ensureModules();
const smoke = process.argv.includes("--smoke");
if (!smoke) ensureChromium();
ensureBuild();
// Bundled, as the application runs: the source runner wraps functions and would be measured too.
run("npx", [
  "--no-install",
  "vite",
  "build",
  "--ssr",
  "scripts/bench.ts",
  "--outDir",
  "dist/bench",
  "--logLevel",
  "error",
]);
run(process.execPath, ["dist/bench/bench.js", ...process.argv.slice(2)]);
