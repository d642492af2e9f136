import { readFileSync } from "node:fs";
import Ajv2020 from "ajv/dist/2020";
import { describe, expect, it } from "vitest";
import { craftJsonSchema } from "../../cli/jsonSchema";
import { methodsText } from "../../cli/methods";

const read = (path: string): unknown => JSON.parse(readFileSync(new URL(`../../${path}`, import.meta.url), "utf8"));

describe("methods", () => {
  it("as printed are those of the subjects", () => {
    expect(readFileSync(new URL("../../docs/methods.md", import.meta.url), "utf8")).toBe(methodsText());
  });
});

describe("published JSON Schema", () => {
  it("is the one that the definitions generate", () => {
    expect(read("docs/craft.schema.json")).toEqual(JSON.parse(JSON.stringify(craftJsonSchema())));
  });
  it("accepts the demo crafts and refuses a broken one, by an independent validator", () => {
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(
      read("docs/craft.schema.json") as object,
    );
    expect(validate(read("demo/tern.json")), JSON.stringify(validate.errors)).toBe(true);
    expect(validate(read("demo/annulus.json"))).toBe(true);
    const broken = read("demo/annulus.json") as { versions: { design: { items: { mass: unknown }[] } }[] };
    const first = broken.versions[0]?.design.items[0];
    if (first) first.mass = "heavy";
    expect(validate(broken)).toBe(false);
  });
});
