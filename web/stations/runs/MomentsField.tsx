import type { Moment } from "../../../core/design/craftFile";
import type { HeldUpBy } from "../../../core/design/schema";
import { markOf, marksFor } from "../../../core/runs/marks";
import { Pictures } from "../../fields/Pictures";
import { QuantityField } from "../../fields/QuantityField";
import { newKey } from "./blankRun";

/** Moments of a run, written down or mended afterwards: when, what, and the pictures that belong to each. */
export function MomentsField({
  moments,
  ways,
  onChange,
}: {
  moments: Moment[];
  ways: readonly HeldUpBy[];
  onChange: (list: Moment[]) => void;
}) {
  const change = (id: string, next: Partial<Moment>) =>
    onChange(moments.map((m) => (m.id === id ? { ...m, ...next } : m)).toSorted((a, b) => a.seconds - b.seconds));
  const offered = marksFor(ways);
  return (
    <section aria-label="Moments of the run">
      <h3 className="mt-4">Moments</h3>
      <ol>
        {moments.map((m, i) => {
          const at = `Moment ${i + 1}`;
          const known = offered.some((o) => o.code === m.mark);
          return (
            <li
              key={m.id}
              className="flex flex-wrap items-center gap-2 border-b border-hair py-1"
              data-moment-row={m.kind}
            >
              <span className="w-24">
                <QuantityField
                  boxed
                  label={`${at}, after`}
                  dimension="time"
                  value={m.seconds}
                  onCommit={(v) => v !== null && change(m.id, { seconds: Math.max(0, v) })}
                />
              </span>
              {m.kind === "mark" || m.kind === "words" ? (
                <select
                  className="box w-48!"
                  aria-label={`${at}, mark`}
                  value={m.mark}
                  onChange={(e) =>
                    change(m.id, { mark: e.target.value, kind: e.target.value === "" ? "words" : "mark" })
                  }
                >
                  <option value="">in words</option>
                  {!known && m.mark !== "" && <option value={m.mark}>{markOf(m.mark)?.word ?? m.mark}</option>}
                  {offered.map((o) => (
                    <option key={o.code} value={o.code}>
                      {o.word} ({o.sense})
                    </option>
                  ))}
                </select>
              ) : (
                <span className="w-48 text-ink">
                  {m.kind}
                  {m.pack && ` ${m.pack.name}`}
                </span>
              )}
              <input
                className="box w-56! flex-1"
                aria-label={`${at}, words`}
                maxLength={200}
                defaultValue={m.text}
                onBlur={(e) => e.target.value.trim() !== m.text && change(m.id, { text: e.target.value.trim() })}
              />
              <Pictures files={m.files} onChange={(files) => change(m.id, { files: files.slice(0, 10) })} />
              <button
                type="button"
                className="link"
                aria-label={`Remove moment ${i + 1}`}
                onClick={() => onChange(moments.filter((x) => x.id !== m.id))}
              >
                ×
              </button>
            </li>
          );
        })}
      </ol>
      <button
        type="button"
        className="link mt-1"
        onClick={() =>
          onChange([
            ...moments,
            {
              id: newKey(),
              seconds: moments.at(-1)?.seconds ?? 0,
              kind: "words",
              mark: "",
              text: "",
              pack: null,
              files: [],
            },
          ])
        }
      >
        Add a moment
      </button>
    </section>
  );
}
