import { ensureBuild } from "../../scripts/install.mjs";

/**
 * Builds the application unless the build is of these sources: servers, threads and the command line run as they are
 * shipped, and start in a tenth of the time that their sources take.
 */
export function built(): void {
  ensureBuild({ quiet: true });
  process.env.ULTRAFORM_BUILT = "1";
}
