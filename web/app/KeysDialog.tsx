import { Dialog } from "./Dialog";
import { usePreferences } from "./preferences";

const KEYS: [string, string][] = [
  ["1 to 8", "stations, Brief to Versions"],
  ["[ and ], or Page up and Page down", "version before and after"],
  ["n", "a new part, run or fault"],
  ["Ctrl Z, Ctrl Y", "undo, redo"],
  ["arrows on a part in the drawing", "move it 1 mm, with Shift 10 mm"],
  ["Enter or arrows, Tab in a list", "next row, next column"],
  ["Ctrl V in a list", "cells of a spreadsheet, downwards and to the right"],
  ["Escape", "back, without the change"],
  ["?", "this list"],
];

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { keys, set } = usePreferences();
  return (
    <Dialog open={open} title="Keys" onClose={onClose}>
      <table className="rows w-full">
        <tbody>
          {KEYS.map(([key, what]) => (
            <tr key={key}>
              <td className="num text-ink">{key}</td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-3 flex items-center justify-between">
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={keys} onChange={(e) => set({ keys: e.target.checked })} /> single keys work
          outside fields
        </label>
        <button type="button" className="act act-first" onClick={onClose}>
          Close
        </button>
      </p>
    </Dialog>
  );
}
