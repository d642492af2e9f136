import { toast } from "sonner";
import { HELD_UP_BY, type HeldUpBy, MOST_WAYS, usualState } from "../../../core/design/schema";
import { supportOf } from "../../../core/design/support";
import { HELD_UP_WORD } from "../../../core/wording/heldUp";
import { useDesk } from "../../app/desk";

/** What holds it up: several at once may. What follows from the rest of the design cannot be taken away here. */
export function HeldUp() {
  const { seen, state, edit } = useDesk();
  const held = supportOf(seen);
  const said = state.heldUpBy;
  const change = (way: HeldUpBy, on: boolean) => {
    const next = HELD_UP_BY.filter((w) => (w === way ? on : said.includes(w)));
    if (next.length === 0) return void toast.error("Something holds it up: choose the other one first.");
    if (next.length > MOST_WAYS) return void toast.error(`At most ${MOST_WAYS} at once: take one away first.`);
    edit((d) => {
      const own = d.states.find((s) => s.id === state.id);
      if (own) own.heldUpBy = next;
      else d.states = [usualState(...next)];
    });
  };
  return (
    <fieldset className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1">
      <legend className="float-left mr-4 text-pencil">Held up by</legend>
      {HELD_UP_BY.map((way) => (
        <label key={way} className="flex min-h-6 items-center gap-1">
          <input
            type="checkbox"
            checked={held.ways.includes(way)}
            disabled={held.derived.includes(way)}
            onChange={(e) => change(way, e.target.checked)}
          />
          {HELD_UP_WORD[way]}
        </label>
      ))}
      {held.derived.includes("gas") && (
        <p className="w-full text-pencil">gas, because the mass that it carries is entered below</p>
      )}
    </fieldset>
  );
}
