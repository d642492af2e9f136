import { useState } from "react";
import { Dialog } from "./Dialog";
import { sendAgain, takeBack, useOutbox } from "./outbox";

/** How many entries wait for the server, always in sight; nothing when none does. */
export function OutboxBar() {
  const list = useOutbox();
  const [open, setOpen] = useState(false);
  const refused = list.filter((w) => w.refused !== "").length;
  if (list.length === 0) return null;
  return (
    <div
      role="status"
      data-outbox={list.length}
      className="outbox no-print border border-ink bg-sheet px-3 py-1 text-[13px] text-ink"
    >
      <button type="button" className="flex min-h-8 items-center gap-2" onClick={() => setOpen(true)}>
        <b className="num">{list.length}</b> {list.length === 1 ? "entry" : "entries"} kept in this browser
        {refused > 0 ? `, ${refused} refused` : ", sent when the server answers"}
      </button>
      <Dialog open={open} title="Kept in this browser" onClose={() => setOpen(false)}>
        <ol className="flex flex-col gap-2">
          {list.map((w) => (
            <li key={w.key} className="border-b border-hair pb-1">
              <b className="text-ink">{w.run.purpose || "A run"}</b>, {w.label}, rung {w.run.stage},{" "}
              {w.at.slice(0, 16).replace("T", " ")}
              <span className="block text-[12px]">
                {w.run.moments.length} moments, {w.pictures.length} pictures
              </span>
              {w.refused !== "" && (
                <>
                  <span role="alert" className="block text-stop">
                    Not taken: {w.refused}
                  </span>
                  <button type="button" className="link" onClick={() => void sendAgain(w.key)}>
                    send it again
                  </button>{" "}
                  <a
                    className="link"
                    download={`run-${w.key}.json`}
                    href={`data:application/json,${encodeURIComponent(JSON.stringify(w.run, null, 1))}`}
                  >
                    save it as a file
                  </a>{" "}
                  <button
                    type="button"
                    className="link"
                    onClick={() => {
                      if (window.confirm("Throw this entry away? It is nowhere else.")) void takeBack(w.key);
                    }}
                  >
                    throw it away
                  </button>
                </>
              )}
            </li>
          ))}
        </ol>
        <p className="mt-3">They are sent in this order, each once. Do not clear this browser's data before that.</p>
      </Dialog>
    </div>
  );
}
