/**
 * Writes the demo crafts' files (demo/*.json) from short descriptions of what changed from version to version. Run:
 * npx tsx scripts/make-demo.ts
 */
import { writeFileSync } from "node:fs";
import { craftFileSchema } from "../core/design/craftFile";
import { annulus } from "./demo/annulus";
import { gannet } from "./demo/gannet";
import { lantern } from "./demo/lantern";
import { samphire } from "./demo/samphire";
import { tern } from "./demo/tern";

for (const [name, file] of Object.entries({ tern, annulus, samphire, lantern, gannet }))
  writeFileSync(`demo/${name}.json`, `${JSON.stringify(craftFileSchema.parse(file), null, 1)}\n`);
