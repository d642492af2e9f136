import type { FoilsResult } from "../../../core/subjects/foils/node";
import { plain, show } from "../../../core/wording/format";
import { usePreferences } from "../../app/preferences";

/** What carrying it on its foils takes at the least, beside what it has to push with. */
export function OnFoils({ result: { drag, speed, waves, least, thrust, hump, open } }: { result: FoilsResult }) {
  const { habit } = usePreferences();
  const force = (f: { value: number; sd: number }) => {
    const s = show(f.value, f.sd, "force", habit);
    return `${s.value} ± ${s.sd} ${s.unit}`;
  };
  return (
    <section aria-label="On its foils" className="col-span-full min-w-0" data-foils={open.length > 0 ? "open" : "told"}>
      <h2>
        On its foils <span className="font-normal text-pencil">flat water</span>
      </h2>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        <div>
          <p className="num predicted text-[22px]! leading-8">{force(drag)}</p>
          <p className="text-pencil">
            foils and struts take at the least, at {plain(speed, "speed", habit, 1)}
            {waves === null && `; they carry it from ${plain(least, "speed", habit, 1)} on`}
          </p>
        </div>
        <div>
          <p className="num predicted text-[22px]! leading-8">{thrust ? force(thrust) : "open"}</p>
          <p className="text-pencil">it pushes ahead, standing; moving it is less</p>
        </div>
        <div>
          <p className="num predicted text-[22px]! leading-8">
            {plain(hump.from, "force", habit)} to {plain(hump.to, "force", habit)}
          </p>
          <p className="text-pencil">hulls commonly take before foils lift them: an eighth to a fifth of the weight</p>
        </div>
      </div>
      {waves !== null && (
        <p className="mt-1 text-care" data-waves>
          Below {plain(waves, "speed", habit, 1)} foils at that depth make waves, which are not computed: how slow they
          carry it, and what they take there, is open.
        </p>
      )}
      {open.length > 0 && <p className="mt-1 text-care">Open: {open.join("; ")}.</p>}
      <p className="mt-1 text-pencil">
        Pods, fittings and spray come to that and are not computed. What its hull takes: pull it at that speed with a
        luggage scale.
      </p>
    </section>
  );
}
