import { toast } from "sonner";
import { freeId } from "../../../core/design/ids";
import { type Design, MOST_STATES, type State, plainState } from "../../../core/design/schema";
import { useDesk } from "../../app/desk";
import { TextField } from "../../fields/TextField";
import { Differs } from "./Differs";
import { HeldUp } from "./HeldUp";
import { Transitions } from "./Transitions";

/** Changes the state that is looked at. */
function useStateEdit() {
  const { edit, state } = useDesk();
  return (change: (s: State) => void) =>
    edit((d) => {
      const own = d.states.find((s) => s.id === state.id);
      if (own) change(own);
    });
}

/** Adds a state that differs in nothing yet, held up as the one that is looked at. */
export function useAddState(): () => void {
  const { design, state, edit, look } = useDesk();
  return () => {
    const id = freeId(design.states, "s");
    const why = edit((d) => void d.states.push(plainState(id, `State ${d.states.length + 1}`, [...state.heldUpBy])));
    if (why === null) look(id);
  };
}

/** Takes a state away with the targets, phases and transitions that were its own. */
function removeState(d: Design, id: string): void {
  d.states = d.states.filter((s) => s.id !== id);
  d.transitions = d.transitions.filter((t) => t.from !== id && t.to !== id);
  d.brief.targets = d.brief.targets.filter((t) => t.stateId !== id);
  // Phases of the first state say nothing: they are of whichever is first now.
  d.duty = d.duty.filter((p) => p.stateId !== id);
}

/** What is asked of a state before it goes: what goes with it. */
function goesWith({ brief, duty, states }: Design, id: string): string {
  const first = states[0]?.id === id;
  const targets = brief.targets.filter((t) => t.stateId === id).length;
  const phases = duty.filter((p) => (p.stateId ?? states[0]?.id) === id).length;
  const parts = [
    targets > 0 ? `${targets} ${targets === 1 ? "target" : "targets"}` : "",
    phases > 0 && !first ? `${phases} ${phases === 1 ? "phase" : "phases"} of the duty` : "",
  ].filter((p) => p !== "");
  return parts.length > 0 ? ` With it go ${parts.join(" and ")}.` : "";
}

/** Name of the state that is looked at, what holds it up, and what differs from how the craft is entered. */
export function States() {
  const { design, state, edit, look } = useDesk();
  const change = useStateEdit();
  const addState = useAddState();
  const several = design.states.length > 1;
  const first = design.states[0];
  const remove = () => {
    if (!window.confirm(`Remove the state “${state.name}”?${goesWith(design, state.id)} It can be undone.`)) return;
    const next = design.states.find((s) => s.id !== state.id);
    edit((d) => removeState(d, state.id));
    if (next) look(next.id);
  };
  return (
    <section aria-label="States" className="mt-3 border-t border-hair pt-2">
      {several && (
        <div className="flex flex-wrap items-center gap-3">
          <span className="text-pencil">State</span>
          <span className="w-56">
            <TextField
              boxed
              required
              label="Name of the state"
              value={state.name}
              onCommit={(name) => change((s) => void (s.name = name.trim()))}
            />
          </span>
          <button type="button" className="link" onClick={remove}>
            remove it
          </button>
        </div>
      )}
      <HeldUp />
      {several && <Differs state={state} change={change} first={state.id === first?.id} />}
      <p className="mt-1 flex flex-wrap gap-4">
        <button
          type="button"
          className="link"
          onClick={() =>
            design.states.length < MOST_STATES
              ? addState()
              : void toast.error(`At most ${MOST_STATES} states: remove one first.`)
          }
        >
          {several ? "Add a state" : "It has other states too: hover and cruise, folded, afloat and aground …"}
        </button>
      </p>
      {several && <Transitions />}
    </section>
  );
}
