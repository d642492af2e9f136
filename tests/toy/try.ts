import { readFileSync } from "node:fs";
import { evaluateFile, reportFile } from "../../../cli/evaluateFile";
import { METRICS } from "../../design/metrics";
import { evaluate, findingText, workingOf } from "../../evaluate";
import { difference } from "../../lineage/difference";

const file = JSON.parse(readFileSync(process.argv[2] ?? "", "utf8"));
const last = file.versions.at(-1);
const before = structuredClone(last.design);
last.design.sideArea = { value: 0.4, evidence: "guess" };
last.design.brief.environment.wind = 10;
const evaluation = evaluate(last.design);
const finding = evaluation.findings.find((f) => f.code === "blown-aside");
const text = JSON.stringify(file);
const told = (o: ReturnType<typeof reportFile>) => (o.ok ? JSON.stringify(o.output) : o.message);
console.log(
  JSON.stringify({
    listed: (METRICS as Record<string, { label: string }>).sideForce?.label,
    finding: finding && findingText(finding, "metric"),
    working: workingOf(last.design, evaluation, "sideForce" as never)
      .map((i) => i.name)
      .join(),
    report: told(reportFile(text, last.label)),
    cli: told(evaluateFile(text, last.label)),
    difference: difference({ ...before, sideArea: null }, last.design)
      .map((c) => c.field)
      .join(),
  }),
);
