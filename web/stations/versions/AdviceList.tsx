import { localIso } from "../../app/dates";
import { useState } from "react";
import { toast } from "sonner";
import { ADVICE_STATES, type Advice } from "../../../core/design/craftFile";
import { useDesk } from "../../app/desk";
import { useHalfText } from "../../app/halfWritten";
import { useVersionWords } from "../../app/useVersionWords";
import { TextField } from "../../fields/TextField";
import { newKey } from "../runs/blankRun";

/** Advice received about this version, and what was made of it. */
export function AdviceList() {
  const { slug, version } = useDesk();
  const words = useVersionWords();
  const [text, setText, written] = useHalfText(slug, version.label, "advice");
  const [from, setFrom] = useState("");
  const put = (advice: Advice[]) => words.mutate({ advice });
  const change = (a: Advice, next: Partial<Advice>) =>
    put(version.advice.map((x) => (x.id === a.id ? { ...x, ...next } : x)));
  const remove = (a: Advice) => {
    if (!window.confirm("Remove this advice from the record?")) return;
    const before = version.advice;
    put(before.filter((x) => x.id !== a.id));
    toast("The advice is removed.", { duration: 12_000, action: { label: "Undo", onClick: () => put(before) } });
  };
  return (
    <section aria-label="Advice" className="border-t border-hair px-4 py-3">
      <h2>
        Advice received <span className="text-[12px] font-normal text-pencil">and what was made of it</span>
      </h2>
      <ul>
        {version.advice.map((a) => (
          <li
            key={a.id}
            data-advice={a.state}
            className={
              "grid grid-cols-[1fr_150px_1fr_auto] items-center gap-2 border-b border-hair py-1 " +
              "max-[640px]:grid-cols-[minmax(0,1fr)]"
            }
          >
            <span>
              <b className="text-ink">{a.text}</b>{" "}
              <span className="text-[11px] text-pencil">
                {[a.from, a.date.slice(0, 10)].filter(Boolean).join(", ")}
              </span>
            </span>
            <select
              className="box"
              aria-label={`State of: ${a.text}`}
              value={a.state}
              onChange={(e) => change(a, { state: e.target.value as Advice["state"] })}
            >
              {ADVICE_STATES.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
            <TextField
              label={`What was made of: ${a.text}`}
              value={a.made}
              placeholder="what was made of it, and why"
              onCommit={(made) => change(a, { made: made.trim().slice(0, 200) })}
            />
            <button type="button" className="link" aria-label={`Remove: ${a.text}`} onClick={() => remove(a)}>
              ×
            </button>
          </li>
        ))}
      </ul>
      <form
        className="mt-1 flex flex-wrap gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (text.trim() === "") return;
          put([
            ...version.advice,
            { id: newKey(), date: localIso(new Date()), from: from.trim(), text: text.trim(), state: "open", made: "" },
          ]);
          written();
          setText("");
        }}
      >
        <input
          className="box max-w-md flex-1"
          aria-label="Advice"
          placeholder="what was said"
          maxLength={500}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <input
          className="box w-40!"
          aria-label="From whom"
          placeholder="by whom"
          maxLength={80}
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        />
        <button type="submit" className="act" disabled={text.trim() === ""}>
          Note it
        </button>
      </form>
    </section>
  );
}
