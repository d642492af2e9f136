// npm start and npm run demo: installs and builds what is missing, then runs the server.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { ensureBuild, ensureModules, root } from "./install.mjs";

ensureModules();
ensureBuild();
// Less memory: the embedded database runs as it is first compiled, and short-lived objects get little room.
const FLAGS = ["--liftoff-only", "--max-semi-space-size=2"];
const server = spawn(process.execPath, [...FLAGS, join(root, "dist/server/main.js"), ...process.argv.slice(2)], {
  cwd: root,
  stdio: "inherit",
});
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
