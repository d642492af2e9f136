import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { evaluateFile, reportFile } from "./evaluateFile";

const USAGE = `usage: ultraform evaluate|report FILE.json [--version LABEL] [--state NAME]
       ultraform backup FILE.tar [--data DIR]
       ultraform restore FILE.tar [--data DIR]
       ultraform restore --at TIME [--data DIR]`;

const HELP = `${USAGE}
evaluate  every computed result and verdict of one version as JSON (the named version, else the newest; in the named
          state, else its first)
report    its build report as Markdown
backup    the whole workshop (crafts, records, parts, catalogue, pictures) as one tar file, also while its server runs
restore   puts a backup in the place of what the data folder holds (that is kept beside it), or takes the folder back to
          a moment (--at 2026-11-27T10:30); its server must be stopped
--data    folder of the data (default as the server's); with DATABASE_URL set, the database on that server
`;

/** Ends with exit code 2 and one line that says why. */
function refuse(why: string): never {
  process.stderr.write(`ultraform: ${why.split("\n")[0]}\n`);
  process.exit(2);
}

function evaluateOrReport(command: "evaluate" | "report", path: string, version?: string, state?: string): void {
  let text: string;
  try {
    text = path === "-" ? readFileSync(0, "utf8") : readFileSync(path, "utf8");
  } catch {
    refuse(`${path} cannot be read`);
  }
  const result = command === "report" ? reportFile(text, version, state) : evaluateFile(text, version, state);
  if (!result.ok) refuse(`${path}: ${result.why}`);
  process.stdout.write(
    typeof result.output === "string" ? result.output : `${JSON.stringify(result.output, null, 2)}\n`,
  );
}

async function main(): Promise<void> {
  const { values, positionals } = (() => {
    try {
      return parseArgs({
        allowPositionals: true,
        options: {
          version: { type: "string" },
          state: { type: "string" },
          data: { type: "string" },
          at: { type: "string" },
          help: { type: "boolean", default: false },
        },
      });
    } catch (error) {
      return refuse(`${error instanceof Error ? error.message : "bad options"}; ${USAGE}`);
    }
  })();
  if (values.help) {
    process.stdout.write(HELP);
    return;
  }
  const [command, path] = positionals;
  if (positionals.length > 2) refuse(USAGE);
  if ((command === "evaluate" || command === "report") && path !== undefined)
    evaluateOrReport(command, path, values.version, values.state);
  else if (command === "backup" && path !== undefined) {
    const { backup } = await import("./keeping");
    process.stdout.write(`${await backup(path, values.data).catch((e: Error) => refuse(e.message))}\n`);
  } else if (command === "restore" && (path === undefined) !== (values.at === undefined)) {
    const { restore } = await import("./keeping");
    process.stdout.write(
      `${await restore({ file: path, at: values.at }, values.data).catch((e: Error) => refuse(e.message))}\n`,
    );
  } else refuse(USAGE);
}

void main();
