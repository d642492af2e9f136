import { freeId } from "../../../core/design/ids";
import type { Transition } from "../../../core/design/schema";
import { useDesk } from "../../app/desk";

/** From which state to which the craft goes while it is used. */
export function Transitions() {
  const { design, edit } = useDesk();
  const { states, transitions } = design;
  const put = (id: string, change: (t: Transition) => void) =>
    edit((d) => {
      const own = d.transitions.find((t) => t.id === id);
      if (own) change(own);
    });
  const [a, b] = states;
  return (
    <section aria-label="Transitions" className="mt-2">
      <h3>Transitions</h3>
      {transitions.length === 0 && (
        <p className="text-pencil">
          None said: each state is told by itself, and nothing about how it gets from one to another.
        </p>
      )}
      <ul>
        {transitions.map((t) => (
          <li key={t.id} className="flex flex-wrap items-center gap-2" data-transition={t.id}>
            <StateSelect
              label="Transition from"
              value={t.from}
              onChange={(id) => put(t.id, (x) => void (x.from = id))}
            />
            to
            <StateSelect label="Transition to" value={t.to} onChange={(id) => put(t.id, (x) => void (x.to = id))} />
            <label className="flex min-h-6 items-center gap-1">
              <input
                type="checkbox"
                checked={t.wholeTurns}
                onChange={(e) => put(t.id, (x) => void (x.wholeTurns = e.target.checked))}
              />
              the craft turns as a whole, as one that stands on its tail
            </label>
            <button
              type="button"
              className="link"
              onClick={() => edit((d) => void (d.transitions = d.transitions.filter((x) => x.id !== t.id)))}
            >
              remove
            </button>
          </li>
        ))}
      </ul>
      {a && b && (
        <button
          type="button"
          className="link"
          onClick={() =>
            edit(
              (d) =>
                void d.transitions.push({ id: freeId(d.transitions, "x"), from: a.id, to: b.id, wholeTurns: false }),
            )
          }
        >
          Add a transition
        </button>
      )}
    </section>
  );
}

function StateSelect({ label, value, onChange }: { label: string; value: string; onChange: (id: string) => void }) {
  const { design } = useDesk();
  return (
    <select className="box max-w-44" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {design.states.map((s) => (
        <option key={s.id} value={s.id}>
          {s.name}
        </option>
      ))}
      {!design.states.some((s) => s.id === value) && <option value={value}>a state that is gone</option>}
    </select>
  );
}
