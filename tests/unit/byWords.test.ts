import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";
import { blamesByWords, nameItem, roleByWords, saysPilot, twinByWords } from "../../core/design/byWords";
import { duplicateItems } from "../../core/subjects/mass/ledger";
import { quietDesign } from "../support/designs";
import { newItem } from "../../core/design/schema";

describe("what words propose", () => {
  it.each([
    ["Nose lead", "", "ballast"],
    ["Lump", "Ballast", "ballast"],
    ["Motor left", "", "motor"],
    ["ESC", "", "controller"],
    ["Motor controller", "", "not said"],
    ["Rudder servo", "", "servo"],
    ["Vane 2", "", "moving surface"],
    ["Flapping motor", "", "motor"],
    ["Flap motor controller", "", "not said"],
    ["Ballast servo", "", "ballast"],
    ["Hull", "", "not said"],
  ])("%s in the group “%s” is: %s", (name, group, role) => {
    expect(roleByWords(name, group)).toBe(role);
  });
  it("a pair by its sides, either way round, and nobody else", () => {
    const items = [
      "Float left",
      "Float right",
      "Float",
      "Skid L",
      "Skid R",
      "Port fan",
      "Starboard fan",
      "Leftover",
    ].map((name, k) => ({ id: `p${k}`, name }));
    const twin = (k: number) => twinByWords(items, items[k] ?? { id: "", name: "" });
    expect([0, 1, 2, 3, 4, 5, 6, 7].map(twin)).toEqual(["p1", "p0", null, "p4", "p3", "p6", "p5", null]);
  });
  it("the one at the sticks, and not a pilot hole", () => {
    expect(
      ["Pilot too late", "driver error", "pilot hole too wide", "the pilot bearing seized"].map(saysPilot),
    ).toEqual([true, true, false, false]);
    expect(["Pilot error", "operator error", "no pilot could hold it"].map(blamesByWords)).toEqual([true, true, false]);
  });
  it("a name that is given later proposes too; what somebody said stays", () => {
    const part = newItem({ id: "a", name: "Part 3" });
    expect(part.role).toBe("not said");
    const items = [part, newItem({ id: "b", name: "Tail servo right" })];
    nameItem(part, { name: "Tail servo left" }, items);
    expect(part).toMatchObject({ name: "Tail servo left", role: "servo", twinId: "b" });
    // What only the name proposed goes with it.
    nameItem(part, { name: "Camera" }, items);
    expect(part).toMatchObject({ name: "Camera", role: "not said", twinId: null });
    nameItem(part, { group: "Ballast" }, items);
    expect(part.role).toBe("ballast");
    nameItem(part, { group: "Structure" }, items);
    expect(part.role).toBe("not said");
    part.role = "other";
    part.twinId = "b";
    nameItem(part, { name: "Ballast" }, items);
    expect(part).toMatchObject({ role: "other", twinId: "b" });
  });
  it("a copy is the pair of nothing", () => {
    const design = quietDesign();
    const [first, second] = design.items;
    if (!first || !second) throw new Error("no parts");
    first.twinId = second.id;
    const [id] = duplicateItems(design, new Set([first.id]));
    expect(design.items.find((i) => i.id === id)?.twinId).toBeNull();
  });
});

/** What somebody wrote (a version's label is its key, not words), by the names of the fields that hold it. */
const WRITTEN = new Set(["name", "text", "title", "cause", "group", "fix", "notes", "seen", "value", "purpose"]);
/** Where words are read: what was typed or pasted, once, into fields. Nothing else may look into them. */
const READERS = [
  /^core\/design\/(byWords|readQuantity|openFile|units)\.ts$/,
  /^core\/exchange\//,
  /^core\/catalogue\/(listTable|partShelf|packShelf)\.ts$/,
  /^core\/(bench|runs)\/\w*Table\.ts$/,
  // The words of a search are what it is for, and so is what a claim says.
  /^core\/faults\/(find|words)\.ts$/,
  /^core\/lineage\/settle\.ts$/,
];

function filesBelow(dir: string): string[] {
  return readdirSync(dir, { withFileTypes: true }).flatMap((e) =>
    e.isDirectory() ? filesBelow(join(dir, e.name)) : /\.tsx?$/.test(e.name) ? [join(dir, e.name)] : [],
  );
}

/** Places where an expression over written words is asked for a yes or no, or for a part of them. */
function asked(file: string, text: string): string[] {
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const found: string[] = [];
  const written = (node: ts.Node | undefined): boolean => {
    if (!node) return false;
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression))
      return written(node.expression.expression);
    if (ts.isTemplateExpression(node)) return node.templateSpans.some((s) => written(s.expression));
    return ts.isPropertyAccessExpression(node) && WRITTEN.has(node.name.text);
  };
  const visit = (node: ts.Node) => {
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression)) {
      const { name, expression } = node.expression;
      const [first] = node.arguments;
      const byPattern = ["test", "exec"].includes(name.text) && written(first);
      const inWords =
        ["match", "matchAll", "search", "startsWith", "endsWith"].includes(name.text) && written(expression);
      const includes =
        name.text === "includes" && written(expression) && first !== undefined && ts.isStringLiteral(first);
      if (byPattern || inWords || includes)
        found.push(`${file}:${source.getLineAndCharacterOfPosition(node.getStart()).line + 1} ${node.getText()}`);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

describe("nothing is decided by a name", () => {
  it("no expression asks the words of a part, a fault, a setting or a verdict anywhere but where they are read", () => {
    const files = ["core", "server"].flatMap(filesBelow).filter((f) => !READERS.some((r) => r.test(f)));
    expect(files.length).toBeGreaterThan(150);
    expect(files.flatMap((f) => asked(f, readFileSync(f, "utf8")))).toEqual([]);
  });
  it("and would be found", () => {
    expect(asked("a.ts", "const x = /ballast/i.test(item.name);")).toHaveLength(1);
    expect(asked("a.ts", "const x = (s) => s.cause.toLowerCase().includes('pilot');")).toHaveLength(1);
    expect(asked("a.ts", "const x = part.name.match(/motor/);")).toHaveLength(1);
    expect(asked("a.ts", "const x = ids.includes(part.name);")).toHaveLength(0);
  });
});
