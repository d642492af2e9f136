import { describe, expect, it } from "vitest";
import { decoded } from "../../web/fields/decoded";

const TEXT = "Teil;Masse g\nFlügel;12,5\nMåler;40 °C\n";
const utf16 = (text: string, big: boolean, mark: boolean) => {
  const bytes = Buffer.from((mark ? "\uFEFF" : "") + text, "utf16le");
  return new Uint8Array(big ? bytes.swap16() : bytes);
};

describe("the text of a file", () => {
  it.each([
    ["UTF-8", new TextEncoder().encode(TEXT)],
    ["UTF-8 with its mark", new TextEncoder().encode(`\uFEFF${TEXT}`)],
    ["UTF-16, little end first", utf16(TEXT, false, true)],
    ["UTF-16, big end first", utf16(TEXT, true, true)],
    ["UTF-16 without a mark", utf16(TEXT, false, false)],
    ["UTF-16, big, without a mark", utf16(TEXT, true, false)],
    ["Windows-1252", new Uint8Array(Buffer.from(TEXT, "latin1"))],
  ])("in %s is read as it was written", (_name, bytes) => expect(decoded(bytes)).toBe(TEXT));
  it("that is empty is empty", () => expect(decoded(new Uint8Array())).toBe(""));
});
