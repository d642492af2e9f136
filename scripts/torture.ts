/**
 * The long rounds of docs/reliability.md. Run: npm run torture [-- kill|cut|full|requests|files|load …] [--rounds N]
 * Without a name all of them, at their full length. Ends with 1 when anything acknowledged was lost or an answer was
 * wrong.
 */
import { rmSync } from "node:fs";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { fillWorkshop, load } from "../tests/torture/load";
import { fuzzFiles, fuzzRequests } from "../tests/torture/requests";
import { canMount, fullDisk, killRounds, powerCuts } from "../tests/torture/rounds";
import { freshFolder, root, send, spawnServer } from "../tests/support/spawn";

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { rounds: { type: "string" }, seed: { type: "string", default: "1" } },
});
const seed = Number(values.seed);
/** As `npm start` runs it. */
const COMMAND = ["--liftoff-only", "--max-semi-space-size=2", join(root, "dist/server/main.js")];
const wanted = (name: string) => positionals.length === 0 || positionals.includes(name);
const rounds = (usual: number) => Number(values.rounds ?? usual);
const note = (text: string) => console.log(`  ${text}`);
let failed = false;
const report = (name: string, right: boolean, what: unknown) => {
  console.log(`${right ? "right" : "WRONG"}  ${name}: ${JSON.stringify(what)}`);
  failed ||= !right;
};

async function onServer<T>(work: (address: string) => Promise<T>): Promise<T> {
  const folder = freshFolder();
  const server = await spawnServer(folder, ["--new"], COMMAND);
  if (server.address === "") throw new Error(server.output());
  try {
    return await work(server.address);
  } finally {
    server.process.kill("SIGTERM");
    await server.exited;
    rmSync(folder, { recursive: true, force: true });
  }
}

if (wanted("kill")) {
  const r = await killRounds(rounds(300), COMMAND, seed, note);
  report("kill -9", r.lost.length === 0, r);
}
if (wanted("cut")) {
  if (!canMount()) console.log("power cuts are left out: they need root and loop mounts");
  else {
    const r = await powerCuts(rounds(20), COMMAND, seed, note);
    report("power cuts", r.lost.length === 0 && r.acknowledged > 0, r);
  }
}
if (wanted("full") && canMount()) {
  const r = await fullDisk(COMMAND);
  report(
    "full disk",
    r.lost.length === 0 && r.refused > 0 && r.others.length === 0 && r.readWhileFull === 200 && r.wroteAgain,
    r,
  );
}
if (wanted("requests")) {
  const r = await onServer((address) => fuzzRequests(address, rounds(50_000), seed));
  report("mutated requests", r.wrong.length === 0, r);
}
if (wanted("files")) {
  const r = await onServer((address) => fuzzFiles(address, rounds(5000), seed));
  report("mutated files", r.wrong.length === 0, r);
}
if (wanted("load")) {
  const r = await onServer(async (address) => {
    await fillWorkshop(address, 60);
    note("60 crafts, 600 versions, 16 200 runs are there");
    for (let k = 0; k < 240; k++) {
      const list = (await send(address, "GET", "/api/crafts")).body as { current: boolean }[];
      if (list.every((c) => c.current)) break;
      await new Promise((done) => setTimeout(done, 500));
    }
    return load(address, 50, 5, rounds(180));
  });
  report("load", r.errors.length === 0 && r.p99 < 500, { ...r, errors: r.errors.slice(0, 5) });
}
process.exit(failed ? 1 : 0);
