import { difference } from "../../core/lineage/difference";
import { changeText } from "../../core/wording/changes";
import { Dialog } from "./Dialog";
import { useDesk } from "./desk";
import { usePreferences } from "./preferences";

/** A save was refused because someone saved in between and changed the same things: both states shown, one chosen. */
export function ConflictDialog() {
  const { save, version, settled, resolve } = useDesk();
  const { habit } = usePreferences();
  const changes = save.at === "stale" ? difference(settled("theirs"), settled("mine")) : [];
  return (
    <Dialog
      open={save.at === "stale"}
      must
      wide
      title={`${version.label} was saved elsewhere in the meantime`}
      onClose={() => {}}
    >
      <p className="mb-2">
        What both changed, from what is saved there to what stands here. What only one of them changed stands either
        way, where that can be told apart.
      </p>
      <ul className="mb-3 max-h-64 overflow-auto border-y border-hair py-1 text-ink">
        {changes.length === 0 && <li>They are the same.</li>}
        {changes.map((c) => (
          <li key={c.path.join("/")}>{changeText(c, habit)}</li>
        ))}
      </ul>
      <p className="flex justify-end gap-2">
        <button type="button" className="act" onClick={() => resolve("theirs")}>
          Use the saved version
        </button>
        <button type="button" className="act act-first" onClick={() => resolve("mine")}>
          Overwrite with mine
        </button>
      </p>
    </Dialog>
  );
}
