/** Writes docs/craft.schema.json from the Zod definitions of the open format. Run: npm run schema */
import { writeFileSync } from "node:fs";
import { craftJsonSchema } from "../cli/jsonSchema";

writeFileSync("docs/craft.schema.json", `${JSON.stringify(craftJsonSchema(), null, 1)}\n`);
