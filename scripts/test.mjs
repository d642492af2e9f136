// npm test: installs what is missing (Chromium too), checks, and runs every test.
import { spawn } from "node:child_process";
import { ensureBuild, ensureChromium, ensureModules, ensurePostgres, run } from "./install.mjs";

ensureModules();
ensureChromium();
ensurePostgres();
const bin = (name, ...args) => {
  console.log(`\n— ${name} ${args.join(" ")}`);
  run("npx", ["--no-install", name, ...args]);
};
/** Runs commands side by side, each with its output in one piece; ends with the code of the first that fails. */
async function beside(commands) {
  const codes = await Promise.all(
    commands.map(
      (args) =>
        new Promise((done) => {
          const [command, ...rest] =
            args[0] === "node" ? [process.execPath, ...args.slice(1)] : ["npx", "--no-install", ...args];
          const child = spawn(command, rest, {
            cwd: new URL("..", import.meta.url),
            stdio: ["ignore", "pipe", "pipe"],
          });
          let said = "";
          for (const stream of [child.stdout, child.stderr]) stream.on("data", (d) => (said += d));
          child.on("error", (e) => (said += e.message));
          child.on("close", (code) => {
            console.log(`\n— ${args.join(" ")}\n${said.trimEnd()}`);
            done(code ?? 1);
          });
        }),
    ),
  );
  const failed = codes.find((code) => code !== 0);
  if (failed !== undefined) process.exit(failed);
}

// The checks need one core each: side by side they take half of the time. The compiler is the native one, which takes a
// quarter of the time; what reads the sources for other checks needs the one before it (package "typescript").
const TSC = "node_modules/tsc-native/bin/tsc";
await beside([
  ["node", TSC, "-p", "."],
  ["node", TSC, "-p", "core"],
  ["biome", "check", "--error-on-warnings", "."],
  ["knip", "--no-progress"],
  ["depcruise", "--config", ".dependency-cruiser.cjs", "core", "api", "server", "web", "cli"],
]);
bin("vitest", "run", "--project", "unit");
// The build makes the clusters that first starts are copied from.
ensureBuild();
run(process.execPath, ["scripts/bench.mjs", "--smoke"]);
// Those on a PostgreSQL server wait for it most of the time: they run beside the others.
await beside([
  ["vitest", "run", "--project", "api"],
  ["vitest", "run", "--project", "postgres"],
]);
bin("vitest", "run", "--project", "browser");
