import { execFileSync, spawnSync } from "node:child_process";
import { chmodSync, chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Folder of the newest PostgreSQL programs that Debian's package put here; null: there is none. */
export function postgresPrograms(): string | null {
  const base = "/usr/lib/postgresql";
  if (!existsSync(base)) return null;
  const newest = readdirSync(base)
    .filter((v) => existsSync(join(base, v, "bin/initdb")))
    .sort((a, b) => Number(b) - Number(a))[0];
  return newest ? join(base, newest, "bin") : null;
}

const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer();
    server.listen(0, "127.0.0.1", () => {
      const address = server.address();
      server.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });

export interface TestServer {
  url: string;
  /** Ends every connection to it, as a restart of the server would. */
  drop: () => void;
  stop: () => void;
}

/**
 * A PostgreSQL server of the tests' own: its own folder and port, gone afterwards. It does not run as root, so root
 * hands it to the user that the package made.
 */
export async function startPostgres(): Promise<TestServer> {
  const bin = postgresPrograms();
  if (!bin) throw new Error("PostgreSQL is not installed: npm test installs it");
  const folder = mkdtempSync(join(tmpdir(), "ultraform-postgres-"));
  const root = process.getuid?.() === 0;
  if (root) {
    const id = (flag: string) => Number(execFileSync("id", [flag, "postgres"], { encoding: "utf8" }));
    chownSync(folder, id("-u"), id("-g"));
    chmodSync(folder, 0o700);
  }
  const as = (command: string, args: string[]) =>
    root
      ? execFileSync("runuser", ["-u", "postgres", "--", command, ...args], { stdio: "pipe" })
      : execFileSync(command, args, { stdio: "pipe" });
  const data = join(folder, "data");
  const port = await freePort();
  as(join(bin, "initdb"), ["-D", data, "-U", "postgres", "-A", "trust", "--no-sync", "-E", "UTF8", "--locale=C"]);
  const settings =
    `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=${folder} -c fsync=off -c ` +
    "full_page_writes=off -c shared_buffers=32MB";
  as(join(bin, "pg_ctl"), ["-D", data, "-w", "-o", settings, "-l", join(folder, "log"), "start"]);
  const psql = (text: string) =>
    spawnSync(join(bin, "psql"), ["-h", "127.0.0.1", "-p", String(port), "-U", "postgres", "-c", text], {
      stdio: "ignore",
    });
  return {
    url: `postgres://postgres@127.0.0.1:${port}/postgres`,
    drop: () => void psql("select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid()"),
    stop: () => {
      try {
        as(join(bin, "pg_ctl"), ["-D", data, "-m", "immediate", "stop"]);
      } catch {}
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
