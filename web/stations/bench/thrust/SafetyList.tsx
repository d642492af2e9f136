import { SAFETY, type Safety } from "../../../../core/design/thrustTest";
import { SAFETY_DEFERS, SAFETY_LINE } from "../../../../core/wording/sweep";

/**
 * What must be seen to before anything above idle. The list is ticked for one session, by the person who stands
 * there.
 */
export function SafetyList({ safety, onChange }: { safety: Safety; onChange: (s: Safety) => void }) {
  const open = SAFETY.filter((k) => !safety[k]).length;
  return (
    <section aria-label="Safety first" className="border border-rule bg-sheet px-3 py-2 text-[12px]">
      <h3 className="text-[13px]">
        Safety first{" "}
        <span className="font-normal text-pencil">
          {open === 0 ? "all ticked" : `${open} to tick before anything above idle`}
        </span>
      </h3>
      <ul className="mt-1 grid grid-cols-2 gap-x-5 max-[760px]:grid-cols-1">
        {SAFETY.map((k) => (
          <li key={k}>
            <label className="flex min-h-7 items-start gap-2">
              <input
                type="checkbox"
                className="mt-0.5"
                checked={safety[k]}
                onChange={(e) => onChange({ ...safety, [k]: e.target.checked })}
              />
              {SAFETY_LINE[k]}
            </label>
          </li>
        ))}
      </ul>
      <p className="mt-1 flex flex-wrap items-center gap-2">
        The stand is
        <select
          className="box w-auto!"
          aria-label="Where the stand is"
          value={safety.place}
          onChange={(e) => onChange({ ...safety, place: e.target.value as Safety["place"] })}
        >
          <option>indoors</option>
          <option>outdoors</option>
          <option>behind a barrier</option>
        </select>
        {safety.place === "indoors" ? (
          <span className="text-care">up to 20 % throttle only</span>
        ) : (
          <span className="text-pencil">any throttle</span>
        )}
        <span className="text-pencil">{SAFETY_DEFERS}</span>
      </p>
    </section>
  );
}
