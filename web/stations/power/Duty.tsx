import { Fragment, useState } from "react";
import type { Unit } from "../../../core/design/schema";
import { type Phase, newPhase, phaseSchema } from "../../../core/design/schema";
import { spansStates } from "../../../core/design/inState";
import { DISPLAY, type Dimension } from "../../../core/design/units";
import { resultIn } from "../../../core/evaluate";
import { knownOf } from "../../../core/subjects/energy/load";
import { energy } from "../../../core/subjects/energy/node";
import { supportOf } from "../../../core/design/support";
import { AT_REST } from "../../../core/subjects/propulsion/onWings";
import { mass } from "../../../core/subjects/mass/node";
import { GUESSED_LOAD } from "../../../core/subjects/propulsion/inputs";
import { plain, show } from "../../../core/wording/format";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { useEveryState } from "../../app/useEveryState";
import { EvidenceSelect } from "../../fields/EvidenceSelect";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { MeasuredLoad } from "./MeasuredLoad";

const BY: Record<Phase["by"], { word: string; dimension: Dimension; unit: string; start: number }> = {
  throttle: { word: "throttle", dimension: "percent", unit: "%", start: 0.5 },
  thrust: { word: "thrust", dimension: "force", unit: "N", start: 2 },
  thrustToWeight: { word: "thrust, of the weight", dimension: "percent", unit: "%", start: 1 },
  speed: { word: "speed", dimension: "speed", unit: "m/s", start: 5 },
  current: { word: "pack's mean current", dimension: "current", unit: "A", start: 5 },
  power: { word: "pack's mean power", dimension: "power", unit: "W", start: 50 },
};

const ENDED = {
  charge: "the usable capacity is gone",
  floor: "the cells reach their floor under load",
  thrust: "the asked thrust can no longer be held",
  notSolved: "the drive has no solution",
};

/** What does not follow the mass of the craft. */
const BLIND: readonly Phase["by"][] = ["throttle", "thrust", "current", "power"];

/** The second line of a phase: its speed over the ground, and how a current or power is known. */
function PhaseMore({ phase: p, change }: { phase: Phase; change: (mutate: (p: Phase) => void) => void }) {
  const { habit } = usePreferences();
  const load = p.by === "current" || p.by === "power";
  const { design: entered, seen: design, evaluation } = useDesk();
  const run = resultIn(evaluation, energy);
  const flown = run?.flown.find((f) => f.id === p.id);
  const standing = run && !flown && p.by === "throttle" && p.value >= AT_REST && supportOf(design).onWingsAlone;
  const { states } = entered;
  const known = p.known ?? { evidence: "guess" as const, sd: GUESSED_LOAD * p.value, note: "" };
  // What is said to be known is said of the craft as it stands: of another one it is not taken.
  const know = (said: Partial<typeof known>) =>
    change(
      (x) =>
        void (x.known = knownOf(p.by as "current" | "power", design, resultIn(evaluation, mass)?.mass ?? null, {
          ...known,
          ...said,
        })),
    );
  return (
    <tr>
      <td colSpan={8} className="border-t-0! pt-0! text-[11px] text-pencil">
        <span className="flex flex-wrap items-center gap-x-2">
          {states.length > 1 && (
            <label className="flex items-center gap-1">
              in
              <select
                className="cell w-auto!"
                aria-label={`${p.name}, in the state`}
                value={p.stateId ?? states[0]?.id}
                onChange={(e) =>
                  change((x) => void (x.stateId = e.target.value === states[0]?.id ? null : e.target.value))
                }
              >
                {states.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
              </select>
            </label>
          )}
          {p.by !== "speed" && (
            <span className="flex items-center gap-1">
              over the ground
              <span className="inline-block w-[4.5rem]">
                <QuantityField
                  label={`${p.name}, speed over the ground`}
                  value={p.groundSpeed}
                  dimension="speed"
                  empty="not said"
                  schema={phaseSchema.shape.groundSpeed.unwrap().unwrap()}
                  onCommit={(v) => change((x) => void (x.groundSpeed = v))}
                />
              </span>
              {p.groundSpeed !== null && DISPLAY[habit].speed}
            </span>
          )}
          {standing && <span className="text-pencil">as standing: in flight a propeller draws less</span>}
          {flown && p.by === "throttle" && (
            <span className="text-pencil" data-flown={flown.flown}>
              {!flown.holds ? "sinks, least at" : flown.flown === "level" ? "flies level at" : "climbs at"}{" "}
              {plain(flown.speed, "speed", habit)}
              {p.groundSpeed === null && ", computed"}
            </span>
          )}
          {load && (
            <span className="flex items-center gap-1">
              ±
              <span className="inline-block w-12">
                <QuantityField
                  label={`${p.name}, ±`}
                  value={known.sd}
                  dimension={p.by as "current" | "power"}
                  onCommit={(v) => v !== null && know({ sd: Math.abs(v) })}
                />
              </span>
              <EvidenceSelect
                label={`${p.name}, known by`}
                value={known.evidence}
                onChange={(evidence) => know({ evidence })}
              />
              {known.note}
            </span>
          )}
        </span>
      </td>
    </tr>
  );
}

/** What the packs are asked for over a run: one cycle, repeated until the usable charge is spent. */
export function Duty() {
  const { design, state, edit, evaluation } = useDesk();
  const { duty, units } = design;
  const cycle = duty.reduce((s, p) => s + p.seconds * p.repeats, 0);
  const [measuring, setMeasuring] = useState(false);
  const run = resultIn(evaluation, energy);
  const end = run?.packs[run.first]?.endedBy;
  return (
    <section aria-label="Duty" className="mt-4">
      <h2>
        Duty{" "}
        <span className="text-[12px] font-normal text-pencil">
          one cycle{cycle > 0 ? `, ${(cycle / 60).toFixed(1)} min` : ""}
        </span>
      </h2>
      <table className="rows mt-1 w-full">
        <thead>
          <tr>
            <th className="w-[28%]">phase</th>
            <th className="text-right!">minutes</th>
            <th className="text-right!">×</th>
            <th>by</th>
            <th className="text-right!" />
            <th />
            {units.length > 1 && <th>drives</th>}
            <th />
          </tr>
        </thead>
        <tbody>
          {duty.map((p, i) => (
            <PhaseRow key={p.id} p={p} i={i} units={units} />
          ))}
        </tbody>
      </table>
      <p className="mt-1 flex justify-between gap-2 text-[11px] text-pencil">
        <button
          type="button"
          className="link"
          onClick={() =>
            edit(
              (d) =>
                void d.duty.push(
                  newPhase({
                    id: `p${Date.now().toString(36)}`,
                    name: `Phase ${duty.length + 1}`,
                    seconds: 60,
                    repeats: 1,
                    by: "throttle",
                    value: 1,
                    unitIds: [],
                    stateId: state.id === design.states[0]?.id ? null : state.id,
                  }),
                ),
            )
          }
        >
          Add a phase
        </button>
        {!measuring && (
          <button type="button" className="link" onClick={() => setMeasuring(true)}>
            Enter what it was found to draw
          </button>
        )}
        {end && <span>ends when {ENDED[end]}</span>}
      </p>
      <OverStates />
      {duty.some((p) => BLIND.includes(p.by)) && (
        <p className="text-[11px] text-pencil">
          A phase held by throttle, newtons, current or power does not feel a change of mass; one by the weight or the
          speed does{run && run.flown.length > 0 && ", and a throttle that flies wings"}.
        </p>
      )}
      {measuring && <MeasuredLoad onDone={() => setMeasuring(false)} />}
    </section>
  );
}

/** How long the duty lasts over all states that it goes through; nothing where it stays in one. */
function OverStates() {
  const { design } = useDesk();
  const { habit } = usePreferences();
  const every = useEveryState();
  if (!spansStates(design)) return null;
  const mission = every?.found.mission ?? null;
  if (!mission) return <p className="mt-1 text-pencil">Working out how long it lasts over its states …</p>;
  return (
    <section aria-label="Over its states" className={`mt-2 ${every?.current ? "" : "opacity-60"}`}>
      <h3>Over its states</h3>
      <table className="rows">
        <tbody>
          {mission.states.map(({ state, share, endurance }) => (
            <tr key={state.id}>
              <td className="text-ink">{state.name}</td>
              <td className="num text-right">{Math.round(100 * share)} % of the time</td>
              <td className="num text-right">
                {endurance ? `alone it would last ${plain(endurance.value, "time", habit)}` : "open"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p data-mission={mission.status}>
        {mission.status === "open" ? (
          <>Open: {mission.because}.</>
        ) : (
          <>
            Together it lasts{" "}
            <b className="num text-ink">
              {show(mission.endurance.value, mission.endurance.sd, "time", habit).value} ±{" "}
              {show(mission.endurance.value, mission.endurance.sd, "time", habit).sd} {DISPLAY[habit].time}
            </b>
            : each state takes its share of the charge. Keep enough for the one that it must land or come home in.
            {[...(mission.endurance.incomplete ?? []), ...(mission.endurance.unknown ?? [])].map((o) => (
              <span key={o} className="block text-care">
                Left out: {o}.
              </span>
            ))}
          </>
        )}
      </p>
    </section>
  );
}

/** One phase: how long, by what, how many at once. */
function PhaseRow({ p, i, units }: { p: Phase; i: number; units: Unit[] }) {
  const { edit } = useDesk();
  const change = (id: string, mutate: (p: Phase) => void) =>
    edit((d) => {
      const phase = d.duty.find((p) => p.id === id);
      if (phase) mutate(phase);
    });
  return (
    <Fragment>
      <tr>
        <td>
          <TextField label={`Phase ${i + 1}`} value={p.name} onCommit={(v) => change(p.id, (x) => void (x.name = v))} />
        </td>
        <td className="w-[68px]">
          <QuantityField
            label={`${p.name}, lasts`}
            value={p.seconds}
            dimension="time"
            schema={phaseSchema.shape.seconds}
            onCommit={(v) => v !== null && change(p.id, (x) => void (x.seconds = v))}
          />
        </td>
        <td className="w-9">
          <QuantityField
            label={`${p.name}, times`}
            value={p.repeats}
            dimension="count"
            schema={phaseSchema.shape.repeats.unwrap()}
            onCommit={(v) => v !== null && change(p.id, (x) => void (x.repeats = v))}
          />
        </td>
        <td className="w-20">
          <select
            aria-label={`${p.name}, by`}
            className="cell"
            value={p.by}
            onChange={(e) =>
              change(p.id, (x) =>
                Object.assign(x, {
                  by: e.target.value,
                  value: BY[e.target.value as Phase["by"]].start,
                  known: null,
                }),
              )
            }
          >
            {Object.entries(BY).map(([k, b]) => (
              <option key={k} value={k}>
                {b.word}
              </option>
            ))}
          </select>
        </td>
        <td className="w-12">
          <QuantityField
            label={`${p.name}, value`}
            value={p.value}
            dimension={BY[p.by].dimension}
            schema={phaseSchema.shape.value}
            onCommit={(v) => v !== null && change(p.id, (x) => void Object.assign(x, { value: v, known: null }))}
          />
        </td>
        <td className="num text-[11px]">{BY[p.by].unit}</td>
        {units.length > 1 && (
          <td className="w-20">
            <select
              aria-label={`${p.name}, drives`}
              className="cell"
              value={p.unitIds[0] ?? ""}
              onChange={(e) => change(p.id, (x) => void (x.unitIds = e.target.value === "" ? [] : [e.target.value]))}
            >
              <option value="">{p.by === "throttle" ? "all" : "main"}</option>
              {units.map((u) => (
                <option key={u.id} value={u.id}>
                  {u.name}
                </option>
              ))}
            </select>
          </td>
        )}
        <td>
          <button
            type="button"
            className="link"
            aria-label={`Remove ${p.name}`}
            onClick={() => edit((d) => void (d.duty = d.duty.filter((x) => x.id !== p.id)))}
          >
            ×
          </button>
        </td>
      </tr>
      <PhaseMore phase={p} change={(mutate) => change(p.id, mutate)} />
    </Fragment>
  );
}
