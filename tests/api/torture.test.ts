import { rmSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { freshFolder, root, spawnServer } from "../support/spawn";
import { fuzzFiles, fuzzRequests } from "../torture/requests";
import { canMount, fullDisk, killRounds, powerCuts } from "../torture/rounds";

/**
 * The server as it is built, with the flags that `npm start` gives it. The long rounds: npm run torture
 * (docs/reliability.md).
 */
const COMMAND = ["--liftoff-only", "--max-semi-space-size=2", join(root, "dist/server/main.js")];

describe("short rounds of what the long ones try", () => {
  it("kill -9 while three write: nothing acknowledged is lost", async () => {
    const { lost, kills } = await killRounds(3, COMMAND, 11);
    expect(lost).toEqual([]);
    expect(kills).toBe(3);
  }, 360_000);
  it.runIf(canMount())(
    "a disk copied as a power cut leaves it: everything acknowledged is on the copy",
    async () => {
      const { lost, acknowledged } = await powerCuts(2, COMMAND, 12);
      expect(lost).toEqual([]);
      expect(acknowledged).toBeGreaterThan(20);
    },
    360_000,
  );
  it.runIf(canMount())(
    "a full disk: saves are refused with 507, reading goes on, and with room so does writing",
    async () => {
      const { refused, others, readWhileFull, wroteAgain, lost } = await fullDisk(COMMAND);
      expect(lost).toEqual([]);
      expect(others).toEqual([]);
      expect(refused).toBe(8);
      expect(readWhileFull).toBe(200);
      expect(wroteAgain).toBe(true);
    },
    360_000,
  );
  it("mutated requests and files: no answer of 500 and above, none missing, and every craft opens", async () => {
    const folder = freshFolder();
    const server = await spawnServer(folder, ["--new"], COMMAND);
    expect(server.address).not.toBe("");
    const requests = await fuzzRequests(server.address, 900, 13);
    expect(requests.wrong).toEqual([]);
    expect(requests.sent).toBeGreaterThan(700);
    const files = await fuzzFiles(server.address, 40, 14);
    expect(files.wrong).toEqual([]);
    expect(Object.keys(files.statuses).length).toBeGreaterThan(1);
    server.process.kill("SIGTERM");
    expect(await server.exited).toBe(0);
    rmSync(folder, { recursive: true, force: true });
  }, 360_000);
});
