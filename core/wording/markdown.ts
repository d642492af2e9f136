import type { PhrasingContent, Root, RootContent } from "mdast";
import { gfmToMarkdown } from "mdast-util-gfm";
import { toMarkdown } from "mdast-util-to-markdown";

/** What somebody wrote, as text and nothing but text, on one line. */
const text = (value: string): PhrasingContent => ({ type: "text", value: value.replace(/\s*\n\s*/g, " ").trim() });

export const heading = (depth: 1 | 2 | 3, words: string): RootContent => ({
  type: "heading",
  depth,
  children: [text(words)],
});
/** A paragraph, its first words strong where they are given apart. */
export const paragraph = (words: string, strong = ""): RootContent => ({
  type: "paragraph",
  children: [
    ...(strong ? [{ type: "strong" as const, children: [text(strong)] }] : []),
    ...(words ? [{ type: "text" as const, value: words.replace(/\s*\n\s*/g, " ") }] : []),
  ],
});
export const list = (lines: readonly string[]): RootContent => ({
  type: "list",
  ordered: false,
  spread: false,
  children: lines.map((l) => ({
    type: "listItem",
    spread: false,
    children: [{ type: "paragraph", children: [text(l)] }],
  })),
});
export const table = (head: readonly string[], rows: readonly (readonly string[])[]): RootContent => ({
  type: "table",
  align: head.map(() => null),
  children: [head, ...rows].map((row) => ({
    type: "tableRow",
    children: row.map((cell) => ({ type: "tableCell", children: [text(cell)] })),
  })),
});

/** Blocks as Markdown (CommonMark with GFM's tables): whatever stands in a name comes out as that name. */
export const asMarkdown = (blocks: readonly RootContent[]): string => {
  const root: Root = { type: "root", children: [...blocks] };
  return toMarkdown(root, { bullet: "-", extensions: [gfmToMarkdown({ tablePipeAlign: false })] });
};
