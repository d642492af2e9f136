import { readFileSync } from "node:fs";
import { join } from "node:path";
import { craftFileSchema } from "../../core/design/craftFile";
import { root } from "./spawn";

/** A craft of the demo as its file has it. */
export const demoFile = (name: string) =>
  craftFileSchema.parse(JSON.parse(readFileSync(join(root, `demo/${name}.json`), "utf8")));
