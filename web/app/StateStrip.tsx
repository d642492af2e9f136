import { useCalmDesk } from "./desk";
import { useEveryState } from "./useEveryState";

/** The states of a craft that has several: which one the page is told of, and what stands against each. */
export function StateStrip() {
  const { design, state, look } = useCalmDesk("frame");
  const tallies = useEveryState()?.found.tallies;
  if (design.states.length < 2) return null;
  return (
    <div
      role="group"
      aria-label="State"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair px-4 py-1 text-[12px]"
    >
      <span className="text-pencil">State</span>
      {design.states.map((s) => {
        const own = tallies?.[s.id];
        const here = s.id === state.id;
        return (
          <button
            key={s.id}
            type="button"
            aria-pressed={here}
            data-state={s.id}
            className={
              "min-h-6 max-[640px]:min-h-11 " +
              `${here ? "border-b-2 border-accent font-semibold text-accent" : "border-b-2 border-transparent text-ink2"}`
            }
            onClick={() => look(s.id)}
          >
            {s.name}
            {/* Room for what comes, so that the next state does not move under a pointer. */}
            <span className="ml-1 inline-block min-w-12 text-left font-normal">
              {own && own.stop > 0 ? (
                <span className="text-stop">
                  {own.stop} {own.stop === 1 ? "stop" : "stops"}
                </span>
              ) : own && own.care > 0 ? (
                <span className="text-care">{own.care} care</span>
              ) : null}
            </span>
          </button>
        );
      })}
    </div>
  );
}
