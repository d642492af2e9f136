import { existsSync, readFileSync } from "node:fs";
import { createServer } from "node:http";
import { createServer as createSecureServer } from "node:https";
import { homedir } from "node:os";
import { join } from "node:path";
import { createSecureContext } from "node:tls";
import { parseArgs } from "node:util";
import { pino } from "pino";
import { CannotOpen } from "./db/cannotOpen";
import { openDatabase } from "./db/open";
import { copyDemo } from "./demo/copy";
import { Evaluator } from "./evaluator";

import { projectRoot } from "./root";
import { startThread } from "./thread";

const HELP = `Ultraform server
  --port N      port on this machine (default 4870, or ULTRAFORM_PORT)
  --host NAME   also for other machines: the address to listen on, such as 0.0.0.0 (or ULTRAFORM_HOST). An access code is demanded
                and shown here; without this only this machine is answered
  --certificate FILE --key FILE   answers by https with that certificate (PEM): a phone then keeps the page at the site, and
                starts it where no server answers (docs/phone.md)
  --data DIR    folder of the data (default ~/.local/share/ultraform, or ULTRAFORM_DATA)
  --new         begin a new workshop in a folder that held one before
  --demo        the demo workshop instead of your own (its data: .data/demo in the project)
  --help        this text`;

function options() {
  const { values } = parseArgs({
    options: {
      port: { type: "string" },
      host: { type: "string" },
      certificate: { type: "string" },
      key: { type: "string" },
      data: { type: "string" },
      demo: { type: "boolean", default: false },
      new: { type: "boolean", default: false },
      help: { type: "boolean", default: false },
    },
  });
  const port = Number(values.port ?? process.env.ULTRAFORM_PORT ?? 4870);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new Error(`“${values.port ?? process.env.ULTRAFORM_PORT}” is not a port: a whole number from 0 to 65535.`);
  if ((values.certificate === undefined) !== (values.key === undefined))
    throw new Error("A certificate and its key belong together: give --certificate FILE and --key FILE, or neither.");
  const own = join(process.env.XDG_DATA_HOME ?? join(homedir(), ".local/share"), "ultraform");
  const data = values.data ?? process.env.ULTRAFORM_DATA ?? (values.demo ? join(projectRoot(), ".data/demo") : own);
  const host = values.host ?? process.env.ULTRAFORM_HOST ?? "127.0.0.1";
  return { ...values, port, host, data };
}

/** Certificate and key that were given; null: none. @throws Error in words when they cannot be used */
function identity(certificate: string | undefined, key: string | undefined): { cert: Buffer; key: Buffer } | null {
  if (certificate === undefined || key === undefined) return null;
  const read = (file: string) => {
    try {
      return readFileSync(file);
    } catch {
      throw new Error(`“${file}” cannot be read: a certificate or key in PEM form is wanted.`);
    }
  };
  const own = { cert: read(certificate), key: read(key) };
  try {
    createSecureContext(own);
  } catch {
    throw new Error("The certificate and its key do not belong together, or are not in PEM form.");
  }
  return own;
}

const HOUR = 3_600_000;

/** Makes the daily copy in a thread of its own, when one is due: looked at now and every hour. */
function dailyCopies(data: string, now: () => string): NodeJS.Timeout {
  const look = () => {
    const thread = startThread("keeper", { workerData: { data, now: now() } });
    // A copy that could not be made is tried again in an hour.
    thread.on("error", () => {});
    thread.unref();
  };
  setTimeout(look, 20_000).unref();
  return setInterval(look, HOUR).unref();
}

async function main(): Promise<void> {
  const { port, host, data, demo, help, ...values } = options();
  if (help) {
    console.log(HELP);
    return;
  }
  const secure = identity(values.certificate, values.key);
  const log = pino({ level: process.env.ULTRAFORM_LOG ?? "warn" });
  console.log(
    process.env.DATABASE_URL
      ? "Opening the database server …"
      : `Opening ${data} … (the first start takes some seconds)`,
  );
  const url = process.env.DATABASE_URL;
  // Loaded while the database opens in its own thread.
  const loading = import("./serve");
  if (!url && existsSync(join(data, "restore.next"))) await (await import("./backup")).finishRestore(data);
  if (demo && !url) await copyDemo(data);
  const now = () => new Date().toISOString();
  const opened = await openDatabase(data, {
    url,
    now,
    fresh: values.new || demo,
    remember: !demo,
    lost: () => {
      console.error(
        "The lock of the data folder was lost: stopping, so that no other server can write to it at the same time.",
      );
      process.kill(process.pid, "SIGTERM");
    },
  });
  const { db, close: closeDatabase } = opened;
  for (const note of opened.notes) console.log(note);
  const { makeApp, accessCode, localAddresses, seedDemo, movePictures } = await loading;
  if (demo) await seedDemo(db);
  await movePictures(opened);
  const evaluator = new Evaluator();
  const copies = url ? null : dailyCopies(data, now);
  const close = async () => {
    if (copies) clearInterval(copies);
    evaluator.close();
    await closeDatabase();
  };
  const beyond = !["127.0.0.1", "localhost", "::1"].includes(host);
  const code = beyond ? accessCode(data) : undefined;
  const scheme = secure === null ? "http" : "https";
  const app = makeApp({ open: opened, evaluator, log, now, code });
  const server = secure === null ? createServer(app) : createSecureServer(secure, app);
  server.on("error", (error: NodeJS.ErrnoException) => {
    console.error(
      error.code === "EADDRNOTAVAIL" || error.code === "ENOTFOUND"
        ? `This machine has no address “${host}”. Give one of its own, or 0.0.0.0 for all.`
        : error.code === "EADDRINUSE"
          ? `Port ${port} is taken. Choose another with --port or ULTRAFORM_PORT.`
          : error.message,
    );
    void close().finally(() => process.exit(1));
  });
  server.listen(port, host, () => {
    const address = server.address();
    const at = typeof address === "object" && address ? address.port : port;
    console.log(`Ultraform${demo ? " with the demo craft" : ""} is at ${scheme}://localhost:${at}`);
    if (code !== undefined)
      console.log(
        `For other machines: ${localAddresses(at, scheme).join(", ") || `port ${at} of this machine`}. ` +
          `Access code: ${code}`,
      );
  });
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    server.close(() => void close().finally(() => process.exit(0)));
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 3000).unref();
  };
  process.on("SIGTERM", stop);
  process.on("SIGINT", stop);
}

main().catch((error: unknown) => {
  console.error(error instanceof CannotOpen || error instanceof Error ? error.message : error);
  process.exit(1);
});
