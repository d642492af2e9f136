// npm start and npm run demo: installs and builds what is missing, then runs the server.
import { spawn } from "node:child_process";
import { join } from "node:path";
import { ensureBuild, ensureModules, root } from "./install.mjs";

ensureModules();
ensureBuild();
const server = spawn(process.execPath, [join(root, "dist/server/main.js"), ...process.argv.slice(2)], { cwd: root, stdio: "inherit" });
for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => server.kill(signal));
server.on("exit", (code) => process.exit(code ?? 0));
