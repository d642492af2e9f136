import { type Server, createServer } from "node:http";
import { pino } from "pino";
import { makeApp } from "../../server/app";
import { Evaluator } from "../../server/evaluator";
import type { Stand } from "../../server/stand/stand";
import { type OpenDatabase, openDatabase } from "../../server/db/open";

export interface Running {
  address: string;
  open: OpenDatabase;
  close: () => Promise<void>;
}

/** The real application on a real embedded database in memory, listening on a free port. */
export async function startApp(stand?: Stand, code?: string): Promise<Running> {
  const open = await openDatabase(null, { url: process.env.ULTRAFORM_TEST_DATABASE });
  const evaluator = new Evaluator(60_000);
  const app = makeApp({
    open,
    evaluator,
    log: pino({ level: "silent" }),
    now: () => new Date().toISOString(),
    stand,
    code,
  });
  const server: Server = createServer(app);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const address = server.address();
  if (typeof address !== "object" || !address) throw new Error("no address");
  return {
    address: `http://127.0.0.1:${address.port}`,
    open,
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      evaluator.close();
      await open.close();
    },
  };
}
