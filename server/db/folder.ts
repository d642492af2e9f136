import { existsSync, readFileSync, readdirSync, rmSync } from "node:fs";
import { mkdir } from "node:fs/promises";
import { join } from "node:path";
import { cannotOpen } from "./cannotOpen";
import { writeWhole } from "./disk";
import { snapshotsOf } from "./history";
import { segmentsOf } from "./journal";
import { isEmpty, lastOpened } from "./known";
import { schemaNow } from "./migrations";

/** Where the engine's own files are in a data folder. */
export const clusterOf = (data: string) => join(data, "database");

/** What the data folder says of itself. */
interface FolderState {
  format: 1;
  /** Time stamp of the newest migration of the release that last opened it. */
  schema: number;
  /** Closed in good order, with everything on the disk: the cluster may be opened as it is. */
  clean: boolean;
}

function readFolderState(data: string): FolderState | null {
  try {
    return JSON.parse(readFileSync(join(data, "state.json"), "utf8")) as FolderState;
  } catch {
    return null;
  }
}
export const writeFolderState = (data: string, clean: boolean, at = schemaNow()) =>
  writeWhole(join(data, "state.json"), `${JSON.stringify({ format: 1, schema: at, clean } satisfies FolderState)}\n`);
/** Everything that is looked at before anything is written. */
export async function look(
  data: string,
  fresh: boolean,
): Promise<{ state: FolderState | null; cluster: boolean; history: boolean }> {
  if (isEmpty(data) && !fresh) {
    const last = lastOpened(data);
    if (last) throw cannotOpen.missing(data, last);
  }
  try {
    await mkdir(data, { recursive: true });
    await writeWhole(join(data, "probe"), "");
    rmSync(join(data, "probe"), { force: true });
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === "ENOSPC" || code === "EDQUOT") throw cannotOpen.full(data);
    throw cannotOpen.readOnly(
      data,
      code === "EROFS"
        ? "it is read-only"
        : code === "EACCES" || code === "EPERM"
          ? "no permission"
          : (code ?? "unknown reason"),
    );
  }
  const state = readFolderState(data);
  if (state && state.schema > schemaNow()) throw cannotOpen.newer(data);
  const cluster = existsSync(join(clusterOf(data), "PG_VERSION"));
  const history = snapshotsOf(data).length > 0;
  if (!cluster && !history) {
    if (existsSync(clusterOf(data)) && readdirSync(clusterOf(data)).length > 0)
      throw cannotOpen.damaged(data, "it does not open");
    if (state || segmentsOf(data).length > 0) throw cannotOpen.damaged(data, "its files are gone");
    if (!isEmpty(data)) throw cannotOpen.foreign(data);
  }
  return { state, cluster, history };
}
