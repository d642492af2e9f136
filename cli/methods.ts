import { METRICS, type MetricKey } from "../core/design/metrics";
import { SUBJECTS } from "../core/subjects";

/**
 * docs/methods.md: every computed number with its formula, source and range, as the working shows them; and every
 * verdict's code.
 */
export function methodsText(): string {
  const lines = [
    "# Methods",
    "",
    "Made from the subjects by `npm run schema`; a test keeps it current. What a subject reads is all " +
      "that its results depend on.",
    "",
  ];
  for (const s of SUBJECTS) {
    lines.push(
      `## ${s.name}`,
      "",
      "Reads " +
        `${s.reads.map((r) => `\`${r}\``).join(", ")}${s.needs.length > 0 ? `; needs ${s.needs.map((n) => n.name).join(", ")}` : ""}.`,
      "",
    );
    if (s.gives.length > 0) {
      lines.push("| number | formula | source | valid for |", "|---|---|---|---|");
      for (const key of s.gives as readonly MetricKey[]) {
        const m = METRICS[key];
        const cell = (text = "") => text.replaceAll("|", "\\|");
        lines.push(`| ${m.label} (\`${key}\`) | ${cell(m.formula)} | ${cell(m.source)} | ${cell(m.range)} |`);
      }
      lines.push("");
    }
    const codes = Object.keys(s.verdicts);
    if (codes.length > 0) lines.push(`Verdicts: ${codes.map((c) => `\`${c}\``).join(", ")}.`, "");
  }
  return `${lines.join("\n").trimEnd()}\n`;
}
