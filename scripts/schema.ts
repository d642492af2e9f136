/**
 * Writes docs/craft.schema.json from the Zod definitions of the open format, and docs/methods.md from the subjects.
 * Run: npm run schema
 */
import { writeFileSync } from "node:fs";
import { craftJsonSchema } from "../cli/jsonSchema";
import { methodsText } from "../cli/methods";

writeFileSync("docs/craft.schema.json", `${JSON.stringify(craftJsonSchema(), null, 1)}\n`);
writeFileSync("docs/methods.md", methodsText());
