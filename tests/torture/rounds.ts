import { execFileSync } from "node:child_process";
import { mkdirSync, truncateSync, writeFileSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { seededRandom } from "../../core/numeric/random";
import { send, type Spawned, spawnServer } from "../support/spawn";
import { type Sure, begin, missing, write } from "./writer";

/** The built server where there is one (`npm run build`), else its sources. */
export type Command = string[];
const START_MS = 60_000;

async function up(folder: string, command: Command, args: string[] = []): Promise<Spawned> {
  const server = await Promise.race([spawnServer(folder, args, command), pause(START_MS).then(() => null)]);
  if (!server || server.address === "") throw new Error(`the server did not start: ${server?.output() ?? "no answer"}`);
  return server;
}

export interface Kills {
  kills: number;
  acknowledged: number;
  lost: string[];
}

/**
 * kill -9 at random moments while three writers write; after each start everything that was acknowledged is looked
 * for.
 */
export async function killRounds(
  rounds: number,
  command: Command,
  seed = 1,
  note: (text: string) => void = () => {},
): Promise<Kills> {
  const random = seededRandom(seed);
  const folder = mkdtempSync(join(tmpdir(), "ultraform-kill-"));
  const lost: string[] = [];
  const writers: Sure[] = [];
  const sum = () => writers.reduce((s, w) => s + w.saves + w.runs + w.plans + w.faults, 0);
  let before = 0;
  try {
    for (let round = 0; round <= rounds; round++) {
      const server = await up(folder, command, ["--new"]);
      for (const sure of writers) lost.push(...(await missing(server.address, sure)));
      if (lost.length > 0 || round === rounds) {
        server.process.kill("SIGKILL");
        await server.exited;
        break;
      }
      // New crafts now and then, so that the folder does not grow without end.
      if (round % 20 === 0) {
        before += sum();
        writers.splice(
          0,
          writers.length,
          ...(await Promise.all(["One", "Two", "Three"].map((name) => begin(server.address, `${name} ${round}`)))),
        );
      }
      const writing = Promise.all(writers.map((sure) => write(server.address, sure)));
      await pause(20 + 500 * random.uniform());
      server.process.kill("SIGKILL");
      await server.exited;
      await writing;
      if (round % 25 === 24) note(`${round + 1} kills`);
    }
    return { kills: rounds, acknowledged: before + sum(), lost };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const root = (): boolean => process.getuid?.() === 0;

/** Whether this machine lets a file-system image be mounted: power cuts are tried on one. */
export function canMount(): boolean {
  if (!root()) return false;
  try {
    return withImage(16, () => true);
  } catch {
    return false;
  }
}

function withImage<T>(megabytes: number, work: (mount: string, image: string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), "ultraform-image-"));
  const image = join(folder, "image");
  const mount = join(folder, "mount");
  mkdirSync(mount);
  // Full of nothing at first: what was never written takes no room and no time to copy.
  writeFileSync(image, "");
  truncateSync(image, megabytes * 1024 * 1024);
  execFileSync("mkfs.ext4", ["-q", "-F", image], { stdio: "ignore" });
  execFileSync("mount", ["-o", "loop", image, mount]);
  const done = () => {
    try {
      execFileSync("umount", [mount], { stdio: "ignore" });
    } catch {
      execFileSync("umount", ["-l", mount], { stdio: "ignore" });
    }
    rmSync(folder, { recursive: true, force: true });
  };
  let result: T;
  try {
    result = work(mount, image);
  } catch (error) {
    done();
    throw error;
  }
  if (result instanceof Promise) return result.finally(done) as T;
  done();
  return result;
}

export interface Cuts {
  cuts: number;
  acknowledged: number;
  lost: string[];
}

/**
 * Power cuts: the server writes on a file system in an image file; in the middle the image is copied as it is, with
 * nothing synced for the copy, so the copy holds what had reached the disk. A
 * server on the copy must have everything that was acknowledged before.
 */
export async function powerCuts(
  cuts: number,
  command: Command,
  seed = 1,
  note: (text: string) => void = () => {},
): Promise<Cuts> {
  const random = seededRandom(seed);
  return withImage(600, async (mount, image): Promise<Cuts> => {
    const server = await up(join(mount, "data"), command, ["--new"]);
    const lost: string[] = [];
    let acknowledged = 0;
    const sure = await begin(server.address, "Cut");
    const writing = write(server.address, sure);
    for (let k = 0; k < cuts; k++) {
      await pause(100 + 900 * random.uniform());
      const before = { ...sure };
      const copy = `${image}.copy`;
      const place = `${mount}.copy`;
      execFileSync("cp", ["--sparse=always", image, copy]);
      mkdirSync(place, { recursive: true });
      execFileSync("mount", ["-o", "loop", copy, place]);
      try {
        const after = await up(join(place, "data"), command, ["--new"]);
        lost.push(...(await missing(after.address, before)));
        acknowledged = before.saves + before.runs + before.plans + before.faults;
        after.process.kill("SIGKILL");
        await after.exited;
      } catch (error) {
        lost.push(`cut ${k + 1}: ${(error as Error).message}`);
      } finally {
        await pause(100);
        execFileSync("umount", ["-l", place]);
        rmSync(copy);
      }
      note(`${k + 1} cuts, ${acknowledged} acknowledged, ${lost.length} lost`);
    }
    server.process.kill("SIGKILL");
    await server.exited;
    await writing;
    return { cuts, acknowledged, lost };
  });
}

export interface FullDisk {
  refused: number;
  others: number[];
  readWhileFull: number;
  wroteAgain: boolean;
  lost: string[];
}

/** A disk that fills up while the server writes, and has room again. */
export function fullDisk(command: Command): Promise<FullDisk> {
  return withImage(260, async (mount): Promise<FullDisk> => {
    const server = await up(join(mount, "data"), command, ["--new"]);
    const sure = await begin(server.address, "Full");
    await write(server.address, sure, 6);
    const filler = join(mount, "filler");
    try {
      execFileSync("dd", ["if=/dev/zero", `of=${filler}`, "bs=1M", "count=1000"], { stdio: "ignore" });
    } catch {}
    const out: FullDisk = { refused: 0, others: [], readWhileFull: 0, wroteAgain: false, lost: [] };
    for (let k = 0; k < 8; k++) {
      const answer = await send(server.address, "POST", "/api/crafts", {
        craft: { name: `No room ${k}`, summary: "" },
        design: (await import("../support/designs")).quietDesign(),
        question: "",
      });
      if (answer.status === 507) out.refused++;
      else out.others.push(answer.status);
    }
    out.readWhileFull = (await send(server.address, "GET", "/api/crafts")).status;
    rmSync(filler);
    await pause(200);
    const held = { ...sure };
    await write(server.address, sure, 4);
    out.wroteAgain = sure.saves > held.saves;
    out.lost = await missing(server.address, sure);
    server.process.kill("SIGTERM");
    await Promise.race([server.exited, pause(10_000)]);
    const again = await up(join(mount, "data"), command, ["--new"]);
    out.lost.push(...(await missing(again.address, sure)));
    again.process.kill("SIGKILL");
    await again.exited;
    return out;
  });
}
