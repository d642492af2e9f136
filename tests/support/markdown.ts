import type { Nodes, Root } from "mdast";
import { fromMarkdown } from "mdast-util-from-markdown";
import { gfmFromMarkdown } from "mdast-util-gfm";
import { toString as textOf } from "mdast-util-to-string";
import { gfm } from "micromark-extension-gfm";

let last: { markdown: string; root: Root } | null = null;
/** Markdown as a reader of it takes it (CommonMark with GFM). The same text is read once. */
export function parsed(markdown: string): Root {
  if (last?.markdown !== markdown)
    last = {
      markdown,
      root: fromMarkdown(markdown, { extensions: [gfm()], mdastExtensions: [gfmFromMarkdown()] }),
    };
  return last.root;
}

/** All nodes of one kind, in their order. */
export function nodesOf(node: Nodes, type: Nodes["type"]): Nodes[] {
  const own = node.type === type ? [node] : [];
  return "children" in node ? [...own, ...node.children.flatMap((c) => nodesOf(c, type))] : own;
}

/** The texts of all nodes of one kind. */
export const textsOf = (markdown: string, type: Nodes["type"]): string[] =>
  nodesOf(parsed(markdown), type).map((n) => textOf(n));
