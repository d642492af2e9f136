import { openMoney, saveMoney } from "./money";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import compression from "compression";
import express, { type Express, type Request } from "express";
import helmet from "helmet";
import type { Logger } from "pino";
import type { z } from "zod";
import { type Contract, contracts, rateSchema } from "../api/contracts";
import { demandCode, listDevices, withdrawDevice } from "./access";
import { backupOf, copiesOf } from "./backup";
import * as benchStore from "./bench";
import type { CraftFile } from "../core/design/craftFile";
import type { OpenDatabase } from "./db/open";
import type { Evaluator } from "./evaluator";
import { sheetOf } from "./fieldSheet";
import { Glances } from "./glances";
import { mendRecord } from "./mending";
import { forbiddenHost, notFound, problemHandler } from "./problems";
import { projectRoot } from "./root";
import * as faults from "./faults";
import * as fileStore from "./files";
import * as plans from "./plans";
import { Records, recordOf, textOf } from "./records";
import * as runs from "./runs";
import * as shelf from "./shelf";
import { standRoutes } from "./stand/routes";
import { SimulatedStand } from "./stand/simulatedStand";
import type { Stand } from "./stand/stand";
import * as store from "./store";
import * as symptoms from "./symptoms";
import * as trash from "./trash";
import { checkWellFormed } from "./wellFormed";

const BODY_LIMIT = "2mb";
const FILE_LIMIT = "5mb";
const IMPORT_LIMIT = "64mb";
/** A tar of a craft: its pictures are kept as they pass, so that its size is limited by the disk only. */
const TAR = "application/x-tar";
const LOCAL_NAMES = new Set(["localhost", "127.0.0.1", "[::1]"]);

/**
 * Only names of this machine may stand in the Host header: a page elsewhere cannot reach the server by rebinding its
 * own name to it.
 */
function checkHost(request: Request): void {
  const host = (request.headers.host ?? "").replace(/:\d+$/, "").toLowerCase();
  if (!LOCAL_NAMES.has(host))
    throw forbiddenHost(`Ultraform answers on this machine only; “${host}” is not one of its names.`);
  checkOrigin(request);
}

/** A request comes from a page of the same name and port. */
function checkOrigin(request: Request): void {
  const { origin, host } = request.headers;
  if (origin !== undefined && !(URL.canParse(origin) && new URL(origin).host === host))
    throw forbiddenHost("The request comes from a page that is not this application's.");
}

export interface AppOptions {
  open: OpenDatabase;
  evaluator: Evaluator;
  log: Logger;
  /** Time as ISO 8601; passed in so that tests can set it. */
  now: () => string;
  /**
   * Access code that a server demands which listens beyond this machine; none: it answers to this machine's names
   * only.
   */
  code?: string | undefined;
  /** The thrust stand; the simulated one when none is given. */
  stand?: Stand;
}

type Handler<C extends Contract> = (input: {
  params: z.output<C["params"]>;
  body: z.output<C["body"]>;
}) => Promise<z.input<C["response"]>>;

/** Binds a handler to its contract: validates what comes in and what goes out. */
function bind<C extends Contract>(app: Express, contract: C, handler: Handler<C>): void {
  app[contract.method](contract.path, async (request, response) => {
    checkWellFormed(request.params);
    checkWellFormed(request.body);
    const params = contract.params.parse(request.params) as z.output<C["params"]>;
    const body = contract.body.parse(request.body) as z.output<C["body"]>;
    const result = await handler({ params, body });
    response.json(contract.checked ? result : contract.response.parse(result));
  });
}

/** What the routes answer from. */
interface Serving extends Required<Pick<AppOptions, "open" | "evaluator" | "now" | "stand">>, Pick<AppOptions, "code"> {
  app: Express;
  db: OpenDatabase["db"];
  records: Records;
}
const c = contracts;

/** Headers, compression, and who may ask at all. */
function guards(app: Express, code: string | undefined): void {
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", "data:"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  );
  // A stream of events goes out as it comes.
  app.use(
    compression({
      level: 1,
      filter: (request, response) =>
        !String(response.getHeader("content-type")).startsWith("text/event-stream") &&
        compression.filter(request, response),
    }),
  );
  app.use((request, _response, next) => {
    if (code === undefined) checkHost(request);
    else checkOrigin(request);
    next();
  });
}

/** The crafts of the workshop, whole: listed, opened, brought in and out. */
function craftRoutes({ app, open, db, records, now }: Serving): void {
  app.get(c.listCrafts.path, async (_request, response) => {
    response.type("application/json").send(await records.list());
  });
  bind(app, c.createCraft, async ({ body }) => ({
    slug: await store.createCraft(open, body.craft, body.design, body.question, now()),
  }));
  app.post(c.importCraft.path, async (request, response) => {
    const rate = rateSchema.optional().parse(request.query.rate);
    const sent: unknown = request.is(TAR) ? await fileStore.readCraftTar(open, request) : request.body;
    checkWellFormed(sent);
    const file = request.is(TAR) ? (sent as CraftFile) : c.importCraft.body.parse(sent);
    response.json({ slug: await store.importCraft(open, file, rate) });
  });
  app.get(c.getCraft.path, async (request, response) => {
    checkWellFormed(request.params);
    const held = await records.get(c.getCraft.params.parse(request.params).slug);
    response.type("application/json").vary("Accept-Encoding");
    if (request.acceptsEncodings("gzip")) response.set("content-encoding", "gzip").send(held.packed);
    else response.send(textOf(held));
  });
  bind(app, c.exportCraft, async ({ params }) =>
    fileStore.withFiles(open, recordOf(await records.get(params.slug)).file),
  );
  app.get(c.exportTar.path, async (request, response) => {
    checkWellFormed(request.params);
    const { slug } = c.exportTar.params.parse(request.params);
    const { file } = recordOf(await records.get(slug));
    response.set({
      "content-type": TAR,
      "content-disposition": `attachment; filename="${slug.replaceAll(/[^\w-]/g, "_")}.tar"`,
    });
    await pipeline(fileStore.craftTar(open, file), response);
  });
  bind(app, c.mendRecord, async ({ params, body }) => ({ revision: await mendRecord(db, params.slug, body) }));
}

/** The workshop itself: what it says, its copies, the devices that may reach it. */
function workshopRoutes({ app, open, db, now, code }: Serving): void {
  bind(app, c.workshop, async () => ({
    notes: open.notes,
    beyond: code !== undefined,
    copies: open.folder === null ? [] : copiesOf(open.folder),
    folder: open.folder,
    money: await openMoney(db),
  }));
  bind(app, c.saveMoney, ({ body }) => saveMoney(db, body));
  app.get(c.backup.path, async (_request, response) => {
    response.set({
      "content-type": TAR,
      "content-disposition": `attachment; filename="ultraform-${now().slice(0, 10)}.tar"`,
    });
    await backupOf(open, now(), response);
  });
  app.get(c.listDevices.path, async (request, response) => {
    response.json(c.listDevices.response.parse(await listDevices(db, request)));
  });
  bind(app, c.withdrawDevice, async ({ params }) => {
    await withdrawDevice(db, params.id);
    return {};
  });
}

/** Versions and what was logged of them. */
function versionRoutes({ app, db, records, evaluator, now }: Serving): void {
  bind(app, c.deleteCraft, async ({ params }) => ({ trash: await store.deleteCraft(db, params.slug, now()) }));
  bind(app, c.createVersion, ({ params, body }) => store.createVersion(db, params.slug, body, now()));
  bind(app, c.saveDesign, async ({ params, body }) => ({
    revision: await store.saveDesign(db, params.slug, params.label, body.revision, body.design),
  }));
  bind(app, c.saveVersion, async ({ params, body: { revision, ...words } }) => ({
    revision: await store.saveVersion(db, params.slug, params.label, revision, words),
  }));
  bind(app, c.deleteVersion, async ({ params }) => ({
    trash: await store.deleteVersion(db, params.slug, params.label, now()),
  }));
  bind(app, c.fieldSheet, async ({ params: { slug, label, habit, state } }) =>
    sheetOf(recordOf(await records.get(slug)).file, label, habit, evaluator, state),
  );
  bind(app, c.createRun, async ({ params, body }) => ({
    number: await runs.createRun(db, records, evaluator, params.slug, params.label, body, now()),
  }));
  bind(app, c.createRuns, async ({ params, body }) => ({
    numbers: await runs.createRuns(db, records, evaluator, params.slug, body.runs, now()),
  }));
  bind(app, c.saveRun, async ({ params, body }) => ({
    revision: await runs.saveRun(db, evaluator, params.slug, params.number, body.revision, body.run),
  }));
  bind(app, c.createFault, async ({ params, body }) => ({ number: await faults.createFault(db, params.slug, body) }));
  bind(app, c.saveFault, async ({ params, body }) => ({
    revision: await faults.saveFault(db, params.slug, params.number, body.revision, body.fault),
  }));
  bind(app, c.deleteFault, async ({ params }) => ({
    trash: await faults.deleteFault(db, params.slug, params.number, now()),
  }));
  bind(app, c.deleteRun, async ({ params }) => ({
    trash: await runs.deleteRun(db, params.slug, params.number, now()),
  }));
  bind(app, c.createPlan, async ({ params, body }) => ({
    number: await plans.createPlan(db, params.slug, params.label, body, now()),
  }));
  bind(app, c.savePlan, async ({ params, body }) => ({
    revision: await plans.savePlan(db, params.slug, params.number, body.revision, body.plan),
  }));
  bind(app, c.deletePlan, async ({ params }) => ({
    trash: await plans.deletePlan(db, params.slug, params.number, now()),
  }));
}

/** The catalogue of one's own, and what was thrown away. */
function catalogueRoutes({ app, db, now }: Serving): void {
  bind(app, c.listSymptoms, () => symptoms.listSymptoms(db));
  bind(app, c.saveSymptom, async ({ params, body }) => ({
    revision: await symptoms.saveSymptom(db, params.id, body.revision, body.symptom),
  }));
  bind(app, c.deleteSymptom, async ({ params }) => ({ trash: await symptoms.deleteSymptom(db, params.id, now()) }));
  bind(app, c.listTrash, () => trash.listTrash(db));
  bind(app, c.restore, ({ params }) => trash.restore(db, params.id));
}

/** The bench and its pictures. */
function benchRoutes({ app, open, db, now, stand }: Serving): void {
  bind(app, c.createBench, async ({ params, body }) => ({
    number: await benchStore.createBench(db, params.slug, params.label, body),
  }));
  bind(app, c.saveBench, async ({ params, body }) => ({
    revision: await benchStore.saveBench(db, params.slug, params.number, body.revision, body.session),
  }));
  bind(app, c.deleteBench, async ({ params }) => ({
    trash: await benchStore.deleteBench(db, params.slug, params.number, now()),
  }));
  bind(app, c.adopt, async ({ params, body }) => ({
    revision: await benchStore.adopt(db, params.slug, params.number, body),
  }));
  bind(app, c.learn, async ({ params, body }) => ({
    revision: await benchStore.learn(db, params.slug, params.number, body),
  }));
  bind(app, c.addFile, ({ body }) => fileStore.addFile(open, body.type, body.content));
  app.get(c.getFile.path, async (request, response) => {
    const { hash } = c.getFile.params.parse(request.params);
    const { type, bytes } = await fileStore.readFile(open, hash);
    // The name of the content is its hash: it never changes.
    response
      .set({
        "content-type": type,
        "cache-control": "public, max-age=31536000, immutable",
        "content-disposition": "inline",
      })
      .send(bytes);
  });
  standRoutes(app, stand);
}

/** The shelf. */
function shelfRoutes({ app, db, now }: Serving): void {
  bind(app, c.listShelf, () => shelf.listShelf(db));
  bind(app, c.addToShelf, ({ body }) => shelf.addToShelf(db, body.parts));
  bind(app, c.saveShelf, async ({ params, body }) => ({
    revision: await shelf.saveShelf(db, params.id, body.revision, body.part),
  }));
  bind(app, c.deleteFromShelf, async ({ params }) => ({ trash: await shelf.deleteFromShelf(db, params.id, now()) }));
}

/** The built pages. */
function pageRoutes(app: Express): void {
  const pages = join(projectRoot(), "dist/web");
  app.use(
    "/assets",
    express.static(join(pages, "assets"), { index: false, maxAge: "1y", immutable: true, fallthrough: false }),
  );
  app.use(express.static(pages, { index: false, maxAge: "1h" }));
  app.get("/{*path}", (request, response) => {
    // A name with an ending is a file that is not there; anything else is a page of the application.
    if (
      /\.[a-z0-9]{1,5}$/i.test(request.path) &&
      !request.path.startsWith("/craft/") &&
      !request.path.startsWith("/field/")
    )
      throw notFound("There is no such file.");
    const page = request.path.startsWith("/field/") ? "field.html" : "index.html";
    response.sendFile(join(pages, page), { maxAge: 0 });
  });
}

/** The whole HTTP interface: the API, and the built pages when they exist. */
export function makeApp({ open, evaluator, log, now, code, stand = new SimulatedStand() }: AppOptions): Express {
  const { db } = open;
  const glances = new Glances(db, evaluator);
  const records = new Records(db, open.watch);
  void openMoney(db)
    // A database that does not answer yet is asked again when the workshop is opened.
    .catch(() => {})
    .then(() => glances.touch());
  records.warm();
  const app = express();
  app.disable("x-powered-by");
  app.disable("etag");
  guards(app, code);
  if (code !== undefined) demandCode(app, { db, code, now });
  app.use("/api", (request, response, next) => {
    response.set("cache-control", "no-store");
    // What a save changed is looked at again for the workshop's list, after the answer.
    if (request.method !== "GET")
      response.on("finish", () => {
        const slug = /^\/crafts\/([^/]+)\//.exec(request.path)?.[1];
        glances.touch(slug);
        if (slug === undefined) records.warm();
      });
    next();
  });
  app.use("/api/crafts/import", express.json({ limit: IMPORT_LIMIT }));
  app.use("/api/files", express.json({ limit: FILE_LIMIT }));
  app.use("/api", express.json({ limit: BODY_LIMIT }));

  const serving = { app, open, db, records, evaluator, now, code, stand };
  craftRoutes(serving);
  workshopRoutes(serving);
  versionRoutes(serving);
  catalogueRoutes(serving);
  benchRoutes(serving);
  shelfRoutes(serving);
  app.use("/api", () => {
    throw notFound("There is no such route.");
  });

  pageRoutes(app);
  app.use(problemHandler(log));
  return app;
}
