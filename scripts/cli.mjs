// npm run --silent ultraform -- …: installs and builds what is missing without a word, then runs the command line.
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { ensureBuild, ensureModules, root } from "./install.mjs";

ensureModules({ quiet: true });
ensureBuild({ quiet: true });
const { status } = spawnSync(process.execPath, [join(root, "dist/cli/main.js"), ...process.argv.slice(2)], {
  stdio: "inherit",
});
process.exit(status ?? 1);
