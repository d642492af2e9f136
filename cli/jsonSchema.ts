import { z } from "zod";
import { craftFileSchema } from "../core/design/craftFile";

/** JSON Schema (2020-12) of the open craft format, generated from the definitions that validate it. */
export function craftJsonSchema(): object {
  return {
    title: "Ultraform craft file",
    ...z.toJSONSchema(craftFileSchema, { target: "draft-2020-12", io: "input", unrepresentable: "any" }),
  };
}
