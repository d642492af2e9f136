import { createServer } from "node:http";
import { homedir } from "node:os";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { pino } from "pino";
import { accessCode, localAddresses } from "./access";
import { makeApp } from "./app";
import { DataInUse } from "./db/lock";
import { openDatabase } from "./db/open";
import { seedDemo } from "./demo/seed";
import { projectRoot } from "./root";

const HELP = `Ultraform server
  --port N      port on this machine (default 4870, or ULTRAFORM_PORT)
  --host NAME   also for other machines: the address to listen on, such as 0.0.0.0 (or ULTRAFORM_HOST). An access code is demanded
                and shown here; without this only this machine is answered
  --data DIR    folder of the data (default ~/.local/share/ultraform, or ULTRAFORM_DATA)
  --demo        the demo workshop instead of your own (its data: .data/demo in the project)
  --help        this text`;

function options() {
  const { values } = parseArgs({
    options: { port: { type: "string" }, host: { type: "string" }, data: { type: "string" }, demo: { type: "boolean", default: false }, help: { type: "boolean", default: false } },
  });
  const port = Number(values.port ?? process.env.ULTRAFORM_PORT ?? 4870);
  if (!Number.isInteger(port) || port < 0 || port > 65535) throw new Error(`“${values.port ?? process.env.ULTRAFORM_PORT}” is not a port: a whole number from 0 to 65535.`);
  const own = join(process.env.XDG_DATA_HOME ?? join(homedir(), ".local/share"), "ultraform");
  const data = values.data ?? process.env.ULTRAFORM_DATA ?? (values.demo ? join(projectRoot(), ".data/demo") : own);
  const host = values.host ?? process.env.ULTRAFORM_HOST ?? "127.0.0.1";
  return { ...values, port, host, data };
}

async function main(): Promise<void> {
  const { port, host, data, demo, help } = options();
  if (help) {
    console.log(HELP);
    return;
  }
  const log = pino({ level: process.env.ULTRAFORM_LOG ?? "warn" });
  console.log(process.env.DATABASE_URL ? "Opening the database server …" : `Opening ${data} … (the first start takes some seconds)`);
  const { db, close } = await openDatabase(data, process.env.DATABASE_URL);
  if (demo) await seedDemo(db);
  const open = !["127.0.0.1", "localhost", "::1"].includes(host);
  const code = open ? accessCode(data) : undefined;
  const server = createServer(makeApp({ db, log, now: () => new Date().toISOString(), code }));
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
    console.log(`Ultraform${demo ? " with the demo craft" : ""} is at http://localhost:${at}`);
    if (code !== undefined) console.log(`For other machines: ${localAddresses(at).join(", ") || `port ${at} of this machine`}. Access code: ${code}`);
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
  console.error(error instanceof DataInUse || error instanceof Error ? error.message : error);
  process.exit(1);
});
