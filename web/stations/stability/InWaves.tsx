import { resultIn } from "../../../core/evaluate";
import { whyNone } from "../../../core/subject";
import { type WavesResult, waves } from "../../../core/subjects/waves/node";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";

/** What the waves of the brief do to a craft on its foils or on its hull. */
export function InWaves() {
  const { seen, evaluation, go } = useDesk();
  const outcome = evaluation.outcomes[waves.name];
  const result = resultIn(evaluation, waves);
  if (!outcome || outcome.status === "not covered") return null;
  const { waveHeight, waveLength } = seen.brief.environment;
  const asks = outcome.status === "failed" || waveHeight === undefined || waveLength === undefined;
  return (
    <section aria-label="In waves" className="border-b border-hair px-4 py-3" data-in-waves={outcome.status}>
      <h2>
        In waves and current{" "}
        <span className="font-normal text-pencil">deep water, regular, before anything answers</span>
      </h2>
      {!result && (
        <p className="text-care">
          Open: {whyNone(outcome)}.{" "}
          {asks && (
            <button type="button" className="link" onClick={() => go({ station: "brief" })}>
              name them in Brief
            </button>
          )}
        </p>
      )}
      {result && <Told result={result} />}
      <AgainstCurrent />
    </section>
  );
}

/** What is left of its speed against the worst current; where that is open, what would tell it. */
function AgainstCurrent() {
  const { seen, evaluation } = useDesk();
  const { habit } = usePreferences();
  const current = seen.brief.environment.current ?? 0;
  if (!(current > 0)) return null;
  const { speed } = evaluation.metrics;
  const open = speed && [...(speed.outside ?? []), ...(speed.incomplete ?? [])][0];
  const said = speed && show(speed.value - current, speed.sd, "speed", habit);
  return (
    <p className="mt-1" data-current>
      Against a current of {plain(current, "speed", habit, 1)} it makes good{" "}
      {said && !open ? (
        <>
          <b className="num text-ink">{`${said.value} ± ${said.sd} ${said.unit}`}</b> at full throttle.
          {speed.value < current && <span className="text-stop"> It is carried off.</span>}
        </>
      ) : (
        <>
          its speed through the water less that. How fast that is, is open
          {open ? `: ${open}` : ""}: time it over a measured stretch, both ways.
        </>
      )}
    </p>
  );
}

function Told({ result: { height, length, celerity, period, foils, hull } }: { result: WavesResult }) {
  const { habit } = usePreferences();
  const wave =
    `Waves ${plain(height, "length", habit)} high and ${plain(length, "distance", habit, 1)} from crest ` +
    "to crest go at " +
    (`${plain(celerity, "speed", habit, 1)}, ${period.toFixed(1)} s from one to the next; so does the ` +
      "wake of a boat that passes.");
  const sure = (q: { value: number; sd: number }, dimension: "torque" | "length") => {
    const said = show(q.value, q.sd, dimension, habit);
    return `${said.value} ± ${said.sd} ${said.unit}`;
  };
  return (
    <>
      <div className="mt-1 flex flex-wrap gap-x-8 gap-y-1">
        {foils && (
          <>
            <div>
              <p className="num predicted text-[22px]! leading-8">
                ± {Math.round(100 * foils.lift.value)} % {foils.open.length > 0 && "?"}
              </p>
              <p className="max-w-[44ch] text-pencil">
                of its weight comes and goes at {plain(foils.speed, "speed", habit, 1)}, {foils.meets.toFixed(1)} times
                a second against them, if it keeps its height
              </p>
            </div>
            <div>
              <p className="num predicted text-[22px]! leading-8">
                {plain(foils.flow, "speed", habit, 2)} of {plain(foils.stalls, "speed", habit, 2)}
              </p>
              <p className="max-w-[44ch] text-pencil">up and down at its main foil, of what stalls it</p>
            </div>
            <div>
              <p className="num predicted text-[22px]! leading-8">{sure(foils.cover, "length")}</p>
              <p className="max-w-[44ch] text-pencil">
                of water over the foil that runs least deep; a trough takes {plain(height / 2, "length", habit)}
              </p>
            </div>
          </>
        )}
        {hull && (
          <>
            <div>
              <p className="num predicted text-[22px]! leading-8">{plain(hull.slope, "angle", habit)}</p>
              <p className="max-w-[44ch] text-pencil">
                the water leans at the most, and with it what lies on it; in step with its own rocking it leans more
              </p>
            </div>
            <div>
              <p className="num predicted text-[22px]! leading-8">
                {hull.freeboard === null ? "open" : sure(hull.freeboard, "length")}
              </p>
              <p className="max-w-[44ch] text-pencil">
                {hull.freeboard === null
                  ? "from the water to its lowest edge: how deep it lies is not known"
                  : "from the water to its lowest edge; a crest takes " +
                    `${plain(height / 2, "length", habit)} unless it rises with it`}
              </p>
            </div>
          </>
        )}
      </div>
      {foils && (
        <p className="mt-1">
          They turn it by up to {sure(foils.pitch, "torque")} about pitch from ahead, and {sure(foils.roll, "torque")}{" "}
          about roll from the side: both stand on the board as they come.
        </p>
      )}
      {foils && foils.open.length > 0 && <p className="mt-1 text-care">Open besides: {foils.open.join("; ")}.</p>}
      <p className="mt-1 text-pencil">
        {wave}{" "}
        {foils
          ? "Each foil in the flow of its own depth and place, as if it were even; how lift lags, struts " +
            "from the side and " +
            "what the craft does meanwhile are left out."
          : hull?.rocks
            ? `By itself it rocks once in ${hull.rocks.value.toFixed(1)} ± ` +
              `${Math.max(0.1, hull.rocks.sd).toFixed(1)} s, by the inertia of its parts and a quarter more for the ` +
              "water that goes along. How it slams or is pushed is not computed."
            : "How it rocks by itself, slams or is pushed is not computed."}
      </p>
    </>
  );
}
