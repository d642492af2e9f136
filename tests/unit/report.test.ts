import { produce } from "immer";
import fc from "fast-check";
import type { Table } from "mdast";
import { toString as textOf } from "mdast-util-to-string";
import { describe, expect, it } from "vitest";
import { evaluate } from "../../core/evaluate";
import { buildReport } from "../../core/wording/report";
import { nodesOf, parsed, textsOf } from "../support/markdown";
import { demoFile } from "../support/demo";

const tern = demoFile("tern");
/** The same with few records: a name is the same in all of them. */
const short = {
  ...tern,
  runs: tern.runs.slice(0, 2),
  faults: [],
  plans: [],
  bench: [],
  versions: tern.versions
    .filter((v) => ["v1", "v2", "v4"].includes(v.label))
    .map((v, k) => ({ ...v, parent: [null, "v1", "v2"][k] ?? null })),
};

let evaluated: ReturnType<typeof evaluate> | null = null;
/** What was computed of it: no name changes that. */
function evaluationOf(design: Parameters<typeof evaluate>[0]) {
  evaluated ??= evaluate(design);
  return evaluated;
}

/** A report of a craft whose first part and whose craft have a name. */
function reportOf(name: string): string {
  // What a name does not touch stays the same object: it is not worked out anew for each.
  const odd = produce(short, (draft) => {
    draft.craft.name = name;
    const named = draft.versions.find((v) => v.label === "v4");
    const item = named?.design.items[0];
    if (!named || !item) throw new Error("no part");
    item.name = name;
    named.reason = name;
  });
  const version = odd.versions.find((v) => v.label === "v4");
  if (!version) throw new Error("no version");
  return buildReport(odd, version, evaluationOf(version.design));
}
/** What a reader of the Markdown makes of it: kinds of nodes that a report has no use for. */
const STRANGE = [
  "html",
  "emphasis",
  "image",
  "delete",
  "inlineCode",
  "code",
  "blockquote",
  "thematicBreak",
  "footnoteReference",
] as const;

const NASTY = [
  "*x*",
  "# y",
  "Hull | shell \\ <b>bold</b>",
  "a | b | c",
  "![x](https://example.org/a.png)",
  "[x](javascript:alert)",
  "www.example.org and a@example.org",
  "1. first",
  "- minus",
  "+ plus",
  "> quoted",
  "~~gone~~",
  "`code`",
  "---",
  "===",
  "&amp; &lt;",
  "[ ] a box",
  "[^1]",
  "\\|",
  "<script>alert(1)</script>",
];

describe("the report's Markdown", () => {
  it.each(NASTY)("%s in a name comes out as that name", (name) => {
    const report = reportOf(name);
    expect(textsOf(report, "heading")[0]).toBe(`${name} v4`);
    expect(textsOf(report, "tableCell")).toContain(name);
    expect(textsOf(report, "paragraph")).toContain(name);
    // A reader may make a link of a bare address; never of what somebody wrote as one.
    for (const l of nodesOf(parsed(report), "link")) expect(name).toContain(textOf(l));
    for (const kind of STRANGE) expect(nodesOf(parsed(report), kind), kind).toEqual([]);
  });

  it("does so for whatever people write", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[ -~°±×–“”äßΩ]{1,40}$/), (raw) => {
        const name = raw.replace(/ +/g, " ").trim();
        fc.pre(name !== "");
        expect(textsOf(reportOf(name), "tableCell")).toContain(name);
      }),
      { numRuns: 60, seed: 11 },
    );
  });

  it("has one line to a row and the same columns in all", () => {
    const report = reportOf("Hull | shell\nsecond line");
    expect(textsOf(report, "tableCell")).toContain("Hull | shell second line");
    const tables = nodesOf(parsed(report), "table") as Table[];
    expect(tables.length).toBeGreaterThan(4);
    for (const t of tables) expect(new Set(t.children.map((r) => r.children.length)).size).toBe(1);
  });
});
