import { execFileSync, spawnSync } from "node:child_process";
import { randomBytes } from "node:crypto";
import { createWriteStream, existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { createReadStream } from "node:fs";
import { join } from "node:path";
import { afterEach, describe, expect, it } from "vitest";
import sharp from "sharp";
import {
  backupFolder,
  backupOf,
  copiesOf,
  dailyCopy,
  finishRestore,
  restoreFolder,
  restoreMoment,
} from "../../server/backup";
import { type OpenDatabase, openDatabase } from "../../server/db/open";
import { addFile, craftTar, readCraftTar, withFiles } from "../../server/files";
import { pictureFile } from "../../server/pictures";
import { readCraft } from "../../server/rows";
import { createCraft, importCraft, saveDesign } from "../../server/store";
import { addToShelf } from "../../server/shelf";
import { createPlan } from "../../server/plans";
import type { CraftFile } from "../../core/design/craftFile";
import { quietDesign } from "../support/designs";
import { newPlan } from "../support/entries";
import { freshFolder, root } from "../support/spawn";
import { demoFile } from "../support/demo";

const NOW = "2026-11-27T10:00:00.000Z";
const folders: string[] = [];
const folder = () => {
  const made = freshFolder();
  folders.push(made);
  return made;
};
afterEach(() => {
  for (const f of folders.splice(0)) rmSync(f, { recursive: true, force: true });
});

const picture = (seed: number) =>
  sharp({ create: { width: 40 + seed, height: 30, channels: 3, background: { r: seed, g: 90, b: 20 } } })
    .png()
    .toBuffer();

/** A workshop with crafts, records, parts and pictures. */
async function filled(data: string): Promise<OpenDatabase> {
  const open = await openDatabase(data);
  await importCraft(open, demoFile("samphire"));
  const slug = await createCraft(open, { name: "With pictures", summary: "" }, quietDesign(), "", NOW);
  await createPlan(open.db, slug, "v1", newPlan(), NOW);
  await addToShelf(open.db, [
    {
      kind: "motor",
      name: "M",
      mass: null,
      price: null,
      notes: "",
      kv: { value: 900, evidence: "measured" },
      resistance: { value: 0.1, evidence: "measured" },
      noLoadCurrent: { value: 1, evidence: "measured" },
      maxCurrent: 20,
    },
  ]);
  for (const seed of [1, 2]) await addFile(open, "image/png", (await picture(seed)).toString("base64"));
  return open;
}
const everything = (data: string) => ({
  pictures: existsSync(join(data, "pictures"))
    ? readdirSync(join(data, "pictures"), { recursive: true })
        .map(String)
        .filter((n) => n.length > 10)
        .sort()
    : [],
});

describe("a backup", () => {
  it("holds everything to the byte: restored elsewhere and backed up again, it is the same file", async () => {
    const [here, there] = [folder(), folder()];
    const open = await filled(here);
    const file = join(here, "b.tar");
    await backupOf(open, NOW, createWriteStream(file));
    await restoreFolder(there, createReadStream(file), NOW);
    const other = await openDatabase(there);
    expect((await readCraft(other.db, "samphire")).file).toEqual((await readCraft(open.db, "samphire")).file);
    expect(everything(there).pictures).toEqual(everything(here).pictures);
    expect(everything(here).pictures).toHaveLength(2);
    await other.close();
    const again = join(there, "b.tar");
    await backupFolder(there, again, NOW);
    expect(readFileSync(again).equals(readFileSync(file))).toBe(true);
    await open.close();
  });
  it("can be looked into and checked by ordinary tools", async () => {
    const here = folder();
    const open = await filled(here);
    const file = join(here, "b.tar");
    await backupOf(open, NOW, createWriteStream(file));
    await open.close();
    const out = folder();
    execFileSync("tar", ["xf", file, "-C", out]);
    expect(execFileSync("sha256sum", ["-c", "--quiet", "SHA256SUMS"], { cwd: out, encoding: "utf8" })).toBe("");
    const text = execFileSync("gzip", ["-dc", join(out, "rows.jsonl.gz")], { encoding: "utf8" });
    expect(text).toContain("Samphire");
    expect(text.trim().split("\n").at(-1)).toMatch(/^\{"end":\d+\}$/);
  });
  it("that is cut short, changed or none is refused in one sentence, and what was there stays", async () => {
    const here = folder();
    const open = await filled(here);
    const file = join(here, "b.tar");
    await backupOf(open, NOW, createWriteStream(file));
    await open.close();
    const whole = readFileSync(file);
    const there = folder();
    const kept = await openDatabase(there);
    await createCraft(kept, { name: "Stays", summary: "" }, quietDesign(), "", NOW);
    await kept.close();
    const changed = Buffer.from(whole);
    const at = whole.indexOf("rows.jsonl.gz") + 700;
    changed[at] = (changed[at] ?? 0) ^ 0xff;
    for (const [bytes, why] of [
      [whole.subarray(0, whole.length / 2), /cut short|damaged/],
      [changed, /damaged|does not match/],
      [Buffer.from("nothing of the kind"), /not a backup|cut short/],
      [Buffer.alloc(2048), /not a backup/],
    ] as const) {
      const wrong = join(here, "wrong.tar");
      writeFileSync(wrong, bytes);
      await expect(restoreFolder(there, createReadStream(wrong), NOW)).rejects.toThrow(why);
    }
    const after = await openDatabase(there);
    expect(after.notes).toEqual([]);
    expect((await readCraft(after.db, "stays")).slug).toBe("stays");
    await after.close();
  });
  it("that was ready when the machine stopped is put in place at the next start", async () => {
    const [here, there] = [folder(), folder()];
    const open = await filled(here);
    const file = join(here, "b.tar");
    await backupOf(open, NOW, createWriteStream(file));
    await open.close();
    await (await openDatabase(there)).close();
    // Ready, and one of the folders swapped already.
    const { restoreFolder: restore } = await import("../../server/backup");
    await restore(there, createReadStream(file), NOW);
    await (await openDatabase(there)).close();
    await finishRestore(there);
    const back = await openDatabase(there);
    expect((await readCraft(back.db, "samphire")).slug).toBe("samphire");
    await back.close();
  });
  it("a moment is taken back from the folder's own journal; what came after is kept beside", async () => {
    const data = folder();
    let time = Date.parse(NOW);
    const open = await openDatabase(data, { now: () => new Date((time += 60_000)).toISOString() });
    const slug = await createCraft(open, { name: "Moments", summary: "" }, quietDesign(), "", NOW);
    const moments: string[] = [];
    for (let n = 0; n < 4; n++) {
      const design = quietDesign();
      design.brief.purpose = `save ${n + 1}`;
      await saveDesign(open.db, slug, "v1", n, design);
      moments.push(new Date(time).toISOString());
    }
    await open.close();
    await restoreMoment(data, { at: moments[1] ?? "" }, NOW);
    const back = await openDatabase(data);
    expect((await readCraft(back.db, slug)).file.versions[0]?.design.brief.purpose).toBe("save 2");
    await back.close();
    expect(readdirSync(data).some((n) => n.startsWith("before-restore-"))).toBe(true);
  });
  it("is made every day by itself, and some are kept", async () => {
    const data = folder();
    await (await filled(data)).close();
    expect(await dailyCopy(data, new Date().toISOString())).toMatch(/^ultraform-.*\.tar$/);
    expect(await dailyCopy(data, new Date().toISOString())).toBeNull();
    for (let day = 1; day < 8; day++) {
      const later = new Date(Date.now() + day * 25 * 3600 * 1000).toISOString();
      for (const { name } of copiesOf(data)) execFileSync("touch", ["-d", "2020-01-01", join(data, "backups", name)]);
      expect(await dailyCopy(data, later)).not.toBeNull();
    }
    expect(copiesOf(data)).toHaveLength(5);
  });
});

describe("the command line", () => {
  const cli = (...args: string[]) =>
    spawnSync(process.execPath, ["dist/cli/main.js", ...args], { cwd: root, encoding: "utf8" });
  it("backs up while the server runs, restores when it does not, and says in one line why it cannot", async () => {
    const [here, there] = [folder(), folder()];
    const open = await filled(here);
    const file = join(there, "b.tar");
    const made = cli("backup", file, "--data", here);
    expect(made.stderr).toBe("");
    expect(made.stdout).toMatch(/b\.tar: [\d.]+ MB/);
    const busy = cli("restore", file, "--data", here);
    expect(busy.status).toBe(2);
    expect(busy.stderr).toMatch(/in use by another/);
    await open.close();
    const target = join(there, "data");
    expect(cli("restore", file, "--data", target).stdout).toMatch(/holds the state of/);
    const back = await openDatabase(target);
    expect((await readCraft(back.db, "samphire")).slug).toBe("samphire");
    await back.close();
    expect(cli("restore", "--at", "yesterday", "--data", target).stderr).toMatch(/not a time/);
    expect(cli("restore", join(there, "none.tar"), "--data", target).stderr).toMatch(/cannot be read/);
    expect(cli("backup", file, "--data", folder()).stderr).toMatch(/holds no workshop/);
  }, 360_000);
});

describe("a craft with its pictures beside it", () => {
  it("goes out as a tar and comes in elsewhere with every picture, however many", async () => {
    const [here, there] = [folder(), folder()];
    const open = await openDatabase(here);
    const files: CraftFile["runs"][number]["files"] = [];
    // More than fits into one JSON file.
    for (let k = 0; k < 14; k++) {
      const noise = await sharp(randomBytes(900 * 850 * 3), { raw: { width: 900, height: 850, channels: 3 } })
        .png({ compressionLevel: 0 })
        .toBuffer();
      const { hash, size } = await addFile(open, "image/png", noise.toString("base64"));
      files.push({ hash, name: `p${k}.png`, type: "image/png", size });
    }
    const base = demoFile("samphire");
    const [first] = base.runs;
    if (!first) throw new Error("no run");
    const slug = await importCraft(open, {
      ...base,
      craft: { ...base.craft, name: "Pictured" },
      runs: [{ ...first, files }, ...base.runs.slice(1)],
    });
    const { file } = await readCraft(open.db, slug);
    await expect(withFiles(open, file)).rejects.toThrow(/too large for one JSON file/);
    const other = await openDatabase(there);
    const read = await readCraftTar(other, craftTar(open, file));
    const again = await importCraft(other, read);
    expect((await readCraft(other.db, again)).file).toEqual(file);
    for (const { hash } of files)
      expect(readFileSync(pictureFile(there, hash)).equals(readFileSync(pictureFile(here, hash)))).toBe(true);
    await open.close();
    await other.close();
  }, 360_000);
  it("a picture that is only the head of one is refused, and so is one that was cut", async () => {
    const open = await openDatabase(null);
    const whole = await sharp({ create: { width: 300, height: 200, channels: 3, background: "red" } })
      .jpeg()
      .toBuffer();
    await expect(addFile(open, "image/jpeg", whole.toString("base64"))).resolves.toMatchObject({ size: whole.length });
    for (const bytes of [
      whole.subarray(0, 30),
      whole.subarray(0, whole.length / 2),
      Buffer.concat([whole.subarray(0, 20), Buffer.alloc(400, 7)]),
    ])
      await expect(addFile(open, "image/jpeg", bytes.toString("base64"))).rejects.toThrow(/damaged/);
    await expect(addFile(open, "image/png", whole.toString("base64"))).rejects.toThrow(/damaged/);
    await open.close();
  });
});
