import { whenSaid } from "./dates";
import { useHalves } from "./halfWritten";

/** Says that a form goes on from what was left of it, and offers to begin anew. */
export function HalfLine({ left, onThrow }: { left: { at: string } | null; onThrow: () => void }) {
  if (!left) return null;
  return (
    <p role="status" className="no-print mb-2 border-l-[3px] border-accent pl-2 text-[12px]" data-half>
      Half-written {whenSaid(left.at)} and not saved: it stands here again.{" "}
      <button
        type="button"
        className="link"
        onClick={() => window.confirm("Throw away what was written here and not saved?") && onThrow()}
      >
        throw it away
      </button>
    </p>
  );
}

/** What was left half-written in forms that are not open, to be taken up again. */
export function HalfList({
  slug,
  version,
  name,
  onOpen,
  open,
}: {
  slug: string;
  version: string;
  /** What a form is called here; null: it does not belong here. */
  name: (form: string) => string | null;
  onOpen: (form: string) => void;
  /** The form that is open. */
  open: string | null;
}) {
  const halves = useHalves(slug, version).flatMap((h) => {
    const called = h.form === open ? null : name(h.form);
    return called === null ? [] : [{ ...h, called }];
  });
  if (halves.length === 0) return null;
  return (
    <ul aria-label="Half-written" className="no-print mb-2">
      {halves.map((h) => (
        <li key={h.form}>
          <button type="button" className="link min-h-6 text-left text-[12px]" onClick={() => onOpen(h.form)}>
            {h.called}, half-written {whenSaid(h.at)}
          </button>
        </li>
      ))}
    </ul>
  );
}
