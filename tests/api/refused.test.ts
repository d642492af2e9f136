import { execFileSync } from "node:child_process";
import { chmodSync, existsSync, mkdirSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { afterEach, describe, expect, it } from "vitest";
import { CannotOpen } from "../../server/db/cannotOpen";
import { openDatabase } from "../../server/db/open";
import { clear, folder, rows } from "../support/workshop";

afterEach(clear);

describe("a folder that cannot be opened gets one sentence, and nothing is written", () => {
  const refusal = async (data: string): Promise<string> => {
    const error = await openDatabase(data).then(
      (open) => open.close().then(() => new Error("it opened")),
      (e: Error) => e,
    );
    expect(error).toBeInstanceOf(CannotOpen);
    expect(error.message.split("\n")).toHaveLength(1);
    return error.message;
  };
  const listing = (data: string) =>
    execFileSync("find", [data, "-not", "-name", "lock", "-type", "f", "-printf", "%P %s\n"], { encoding: "utf8" })
      .split("\n")
      .sort();

  it("of a newer release", async () => {
    const data = folder();
    const open = await openDatabase(data);
    await open.close();
    writeFileSync(join(data, "state.json"), JSON.stringify({ format: 1, schema: 9e12, clean: true }));
    const before = listing(data);
    expect(await refusal(data)).toMatch(/newer release/);
    expect(listing(data)).toEqual(before);
  });
  it("with a damaged database and nothing to build it from", async () => {
    const data = folder();
    mkdirSync(join(data, "database"));
    writeFileSync(join(data, "database/PG_VERSION"), "18\n");
    const before = listing(data);
    expect(await refusal(data)).toMatch(/damaged .* restore a backup/);
    expect(listing(data)).toEqual(before);
    rmSync(join(data, "database/PG_VERSION"));
    writeFileSync(join(data, "database/base"), "x");
    expect(await refusal(data)).toMatch(/damaged/);
  });
  it("that holds other files", async () => {
    const data = folder();
    writeFileSync(join(data, "holiday.jpg"), "x");
    expect(await refusal(data)).toMatch(/holds other files/);
    expect(readdirSync(data).filter((n) => n !== "lock")).toEqual(["holiday.jpg"]);
  });
  it("that was emptied since it was last opened, unless a new one is asked for", async () => {
    const data = folder();
    const state = folder();
    const before = process.env.XDG_STATE_HOME;
    process.env.XDG_STATE_HOME = state;
    try {
      await (await openDatabase(data, { remember: true })).close();
      rmSync(data, { recursive: true });
      expect(await refusal(data)).toMatch(/held a workshop when it was last opened/);
      expect(existsSync(data)).toBe(false);
      const open = await openDatabase(data, { fresh: true });
      expect(await rows(open)).toEqual([]);
      await open.close();
    } finally {
      process.env.XDG_STATE_HOME = before;
    }
  });
  it("that is read-only", async () => {
    const data = folder();
    const open = await openDatabase(data);
    await open.close();
    if (process.getuid?.() === 0) {
      // Root writes everywhere but on what is mounted read-only.
      try {
        execFileSync("mount", ["--bind", "-o", "ro", data, data]);
      } catch {
        return;
      }
    } else chmodSync(data, 0o500);
    try {
      expect(await refusal(data)).toMatch(/Nothing can be written in .*read-only|no permission/);
    } finally {
      if (process.getuid?.() === 0) execFileSync("umount", [data]);
      else chmodSync(data, 0o700);
    }
  });
});
