import type { Design } from "../../core/design/schema";
import { useDesk } from "./desk";
import type { SaveState } from "./saveQueue";

const SAVE_NAME = { clean: "saved", waiting: "unsaved", sending: "saving", failed: "unsaved", stale: "stale" } as const;
/** The same in the width that a phone has for it. */
const SAVE_SHORT = {
  clean: "saved",
  waiting: "not saved",
  sending: "saving",
  failed: "not saved",
  stale: "choose",
} as const;
function saveWords(save: SaveState<Design>): string {
  switch (save.at) {
    case "clean":
      return "All changes saved.";
    case "waiting":
      return "Not saved yet.";
    case "sending":
      return "Saving …";
    case "failed":
      return save.why === "" ? "Not saved: no answer. Tried again by itself." : `Not saved: ${save.why}`;
    case "stale":
      return "Saved elsewhere: choose.";
  }
}

/**
 * How the version in view stands with the server. Of the desk itself, not a moment later as what is around it: while
 * something is not saved it never says that all is.
 */
export function SaveLine({ open }: { open: boolean }) {
  const { version, frozen, file, save } = useDesk();
  const runs = file.runs.filter((r) => r.version === version.label).length;
  return (
    <>
      <span role="status" data-save={SAVE_NAME[save.at]} className={open ? "" : "max-[640px]:sr-only"}>
        {frozen ? `${runs} ${runs === 1 ? "run" : "runs"}, read only. Changes go into a child draft.` : saveWords(save)}
      </span>
      <span aria-hidden="true" className={open ? "hidden" : "hidden truncate max-[640px]:inline"}>
        {frozen ? "frozen" : SAVE_SHORT[save.at]}
      </span>
    </>
  );
}
