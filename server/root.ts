import { existsSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

/** Folder of the project, found upwards from this file: holds demo/, dist/ and the migrations, bundled or not. */
export function projectRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, "package.json"))) {
    const up = dirname(folder);
    if (up === folder) throw new Error("the project's package.json was not found above the server");
    folder = up;
  }
  return folder;
}
