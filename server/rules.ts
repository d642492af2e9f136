import { createHash } from "node:crypto";
import { z } from "zod";
import { craftFileSchema } from "../core/design/craftFile";
import { schemaNow } from "./db/migrations";

let sign: string | null = null;
/**
 * Names the rules by which this release reads records: its schema of the open file, and the shape of its tables. It
 * changes when either does.
 */
export function rulesNow(): string {
  sign ??= createHash("sha256")
    .update(JSON.stringify(z.toJSONSchema(craftFileSchema, { unrepresentable: "any" })))
    .update(String(schemaNow()))
    .digest("hex")
    .slice(0, 24);
  return sign;
}
