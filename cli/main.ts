import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { evaluateFile, reportFile } from "./evaluateFile";

const USAGE = "usage: ultraform evaluate|report FILE.json [--version LABEL]";

/** Ends with exit code 2 and one line that says why. */
function refuse(why: string): never {
  process.stderr.write(`ultraform: ${why.split("\n")[0]}\n`);
  process.exit(2);
}

function main(): void {
  const { values, positionals } = (() => {
    try {
      return parseArgs({ allowPositionals: true, options: { version: { type: "string" }, help: { type: "boolean", default: false } } });
    } catch (error) {
      return refuse(`${error instanceof Error ? error.message : "bad options"}; ${USAGE}`);
    }
  })();
  if (values.help) {
    process.stdout.write(
      `${USAGE}\nevaluate: every computed result and verdict of one version as JSON. report: its build report as Markdown. The named version, else the newest.\n`,
    );
    return;
  }
  const [command, path] = positionals;
  if ((command !== "evaluate" && command !== "report") || path === undefined || positionals.length > 2) refuse(USAGE);
  let text: string;
  try {
    text = path === "-" ? readFileSync(0, "utf8") : readFileSync(path, "utf8");
  } catch {
    refuse(`${path} cannot be read`);
  }
  const result = command === "report" ? reportFile(text, values.version) : evaluateFile(text, values.version);
  if (!result.ok) refuse(`${path}: ${result.why}`);
  process.stdout.write(typeof result.output === "string" ? result.output : `${JSON.stringify(result.output, null, 2)}\n`);
}

main();
