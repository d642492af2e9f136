import { existsSync, readdirSync } from "node:fs";
import { mkdir, rename, rm } from "node:fs/promises";
import { dirname, join } from "node:path";
import { copyTree, syncTree } from "../db/disk";
import { templateFolder } from "../db/template";

/** Puts the demo workshop that was made at the build into a folder that holds nothing yet: whole, or not at all. */
export async function copyDemo(data: string): Promise<void> {
  const template = templateFolder("demo");
  if (!template || (existsSync(data) && readdirSync(data).length > 0)) return;
  const beside = `${data}.${process.pid}.part`;
  await rm(beside, { recursive: true, force: true });
  await mkdir(dirname(beside), { recursive: true });
  await copyTree(template, beside);
  // The cluster itself is built anew from these if it must be.
  for (const name of ["journal", "snapshots"]) await syncTree(join(beside, name));
  await rm(data, { recursive: true, force: true });
  await rename(beside, data);
}
