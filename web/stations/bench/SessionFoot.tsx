import type { Attachment, Bench } from "../../../core/design/bench";
import { printSheet } from "./ClipboardSheet";
import { Pictures } from "../../fields/Pictures";
import { code } from "./useSession";

interface Props {
  session: Bench | null;
  notes: string;
  files: Attachment[];
  touched: boolean;
  busy: boolean;
  /** Why it cannot be kept yet; null when it can. */
  missing: string | null;
  onNotes: (notes: string) => void;
  onFiles: (files: Attachment[]) => void;
  onKeep: () => void;
  onDelete: () => void;
}

/** What every bench session ends with: notes, pictures, keep, delete. */
export function SessionFoot({
  session,
  notes,
  files,
  touched,
  busy,
  missing,
  onNotes,
  onFiles,
  onKeep,
  onDelete,
}: Props) {
  return (
    <>
      <label className="mt-3 block">
        Notes
        <textarea className="box" rows={2} value={notes} onChange={(e) => onNotes(e.target.value)} />
      </label>
      <Pictures files={files} onChange={onFiles} />
      <p className="no-print mt-2 flex flex-wrap items-center gap-3">
        {(!session || touched) && (
          <button type="button" className="act act-first" disabled={busy} onClick={onKeep}>
            {session ? `Save ${code(session.number)}` : "Keep this session"}
          </button>
        )}
        <button type="button" className="link text-[12px]" onClick={printSheet}>
          print a sheet
        </button>
        {session && (
          <button type="button" className="link text-[12px]" onClick={onDelete}>
            delete it
          </button>
        )}
        {missing && (
          <span role="alert" className="text-stop">
            Not complete: {missing}.
          </span>
        )}
      </p>
    </>
  );
}
