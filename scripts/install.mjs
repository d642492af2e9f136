// Installs what is missing. Only node: modules here, so that it runs before anything is installed.
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs a command in the project and stops with its code when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, stdio: "inherit", ...options });
  if (result.error) {
    console.error(`${command}: ${result.error.message}`);
    process.exit(1);
  }
  if (result.status !== 0) process.exit(result.status ?? 1);
}

const digest = (...parts) => createHash("sha256").update(parts.join("\n")).digest("hex");

/** npm ci when node_modules is missing or made from another lock file. */
export function ensureModules({ quiet = false } = {}) {
  const stamp = join(root, "node_modules/.ultraform-lock");
  const lock = digest(readFileSync(join(root, "package-lock.json"), "utf8"));
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  if (!quiet) console.log("Installing packages …");
  run(
    "npm",
    ["ci", "--no-audit", "--no-fund", "--loglevel=error"],
    quiet ? { stdio: ["ignore", "ignore", "inherit"] } : {},
  );
  writeFileSync(stamp, lock);
}

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(path).map((name) => newest(join(path, name))));
}

/** Builds pages, server and command line when a source is newer than the last build. */
export function ensureBuild({ quiet = false } = {}) {
  const stamp = join(root, "dist/.built");
  const sources = ["core", "api", "server", "web", "cli", "package-lock.json", "vite.config.ts"].map((s) =>
    newest(join(root, s)),
  );
  if (existsSync(stamp) && statSync(stamp).mtimeMs > Math.max(...sources)) return;
  if (!quiet) console.log("Building …");
  run("npm", ["run", "--silent", "build", "--", "--logLevel", "error"].slice(0, 3), {
    stdio: ["ignore", quiet ? "ignore" : "ignore", "inherit"],
  });
  writeFileSync(stamp, "");
}

/** Chromium for the browser test: Debian's package, when it is not there and this user may install it. */
export function ensureChromium() {
  if (!existsSync(process.env.CHROMIUM ?? "/usr/bin/chromium")) installPackage("chromium", "Chromium");
}

/**
 * A PostgreSQL server for the API tests: Debian's package. The tests run one of their own, in a folder and on a port
 * of its own.
 */
export function ensurePostgres() {
  const folder = "/usr/lib/postgresql";
  if (!existsSync(folder) || !readdirSync(folder).some((v) => existsSync(join(folder, v, "bin/initdb"))))
    installPackage("postgresql", "PostgreSQL");
}

function installPackage(name, called) {
  console.log(`Installing ${called} …`);
  const sudo = process.getuid?.() === 0 ? [] : ["sudo"];
  const apt = (...args) =>
    run([...sudo, "apt-get"][0], [...sudo, "apt-get"].slice(1).concat(args), {
      stdio: ["ignore", "ignore", "inherit"],
      env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" },
    });
  apt("update");
  apt("install", "-y", "--no-install-recommends", name);
}
