import { existsSync } from "node:fs";
import { join } from "node:path";
import { projectRoot } from "../root";
import { schemaNow } from "./migrations";

/**
 * A data folder that was made at the build (`npm run template`), to be copied at a first start: making a cluster
 * takes seconds. Null when there is none of this release.
 */
export function templateFolder(name: "empty" | "demo"): string | null {
  const folder = join(projectRoot(), "dist/templates", `${name}-${schemaNow()}`);
  return existsSync(join(folder, "state.json")) ? folder : null;
}
