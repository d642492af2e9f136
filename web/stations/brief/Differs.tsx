import { isPlain } from "../../../core/design/inState";
import { AXES, type State, type SurfaceInState, type UnitInState } from "../../../core/design/schema";
import { SURROUNDINGS } from "../../../core/subjects/propulsion/declares";
import { DRUM_IN } from "../../../core/subjects/propulsion/kinds/declares";
import { useDesk } from "../../app/desk";
import { DragAreaField } from "../../fields/DragAreaField";
import { Line } from "../../fields/FormParts";
import { QuantityField } from "../../fields/QuantityField";

/** What differs in a state from how the craft is entered: parts, drives, surfaces. */
export function Differs({
  state,
  change,
  first,
}: {
  state: State;
  change: (mutate: (s: State) => void) => void;
  first: boolean;
}) {
  const { design } = useDesk();
  return (
    <details className="mt-1" open={!isPlain(state)}>
      <summary className="min-h-6">
        What differs in it{" "}
        <span className="text-pencil">
          {isPlain(state)
            ? first
              ? "nothing: it is the craft as it is entered"
              : "nothing yet: parts, drives and surfaces as they are entered"
            : ""}
        </span>
      </summary>
      <div className="mt-1 flex flex-col gap-2 text-[12px]">
        <PartsInState state={state} change={change} />
        {design.units.length > 0 && <DrivesInState state={state} change={change} />}
        {design.surfaces.length > 0 && <SurfacesInState state={state} change={change} />}
        <Line label="Drag area in it" hint="as it is entered, and not known once drives turn or surfaces fold">
          <DragAreaField
            label="Drag area in this state"
            value={state.dragArea}
            onChange={(v) => change((x) => void (x.dragArea = v))}
          />
        </Line>
      </div>
    </details>
  );
}

interface OfState {
  state: State;
  change: (mutate: (s: State) => void) => void;
}

/** Parts that are gone or stand elsewhere. */
function PartsInState({ state, change }: OfState) {
  const { design } = useDesk();
  const name = (id: string) => design.items.find((i) => i.id === id)?.name ?? `${id}, which is not aboard any more`;
  const left = design.items.filter((i) => !state.without.includes(i.id) && !state.moved.some((m) => m.id === i.id));
  return (
    <div>
      <table className="rows">
        {(state.moved.length > 0 || state.without.length > 0) && (
          <thead>
            <tr>
              <th>part</th>
              {AXES.map((axis) => (
                <th key={axis} className="text-right!">
                  moved {axis}
                </th>
              ))}
              <th />
            </tr>
          </thead>
        )}
        <tbody>
          {state.moved.map((m, k) => (
            <tr key={m.id} data-moved={m.id}>
              <td className="text-ink">{name(m.id)}</td>
              {AXES.map((axis) => (
                <td key={axis} className="w-20">
                  <QuantityField
                    label={`${name(m.id)}, moved ${axis}`}
                    value={m.by[axis]}
                    dimension="length"
                    onCommit={(v) => v !== null && change((s) => void ((s.moved[k] ?? m).by[axis] = v))}
                  />
                </td>
              ))}
              <td>
                <button
                  type="button"
                  className="link"
                  onClick={() => change((s) => void (s.moved = s.moved.filter((x) => x.id !== m.id)))}
                >
                  as entered
                </button>
              </td>
            </tr>
          ))}
          {state.without.map((id) => (
            <tr key={id} data-without={id}>
              <td className="text-ink">{name(id)}</td>
              <td colSpan={3} className="text-pencil">
                not aboard
              </td>
              <td>
                <button
                  type="button"
                  className="link"
                  onClick={() => change((s) => void (s.without = s.without.filter((x) => x !== id)))}
                >
                  as entered
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 flex flex-wrap gap-3">
        <PartSelect
          label="A part stands elsewhere"
          parts={left}
          onPick={(id) => change((s) => void s.moved.push({ id, by: { x: 0, y: 0, z: 0 } }))}
        />
        <PartSelect label="A part is not aboard" parts={left} onPick={(id) => change((s) => void s.without.push(id))} />
      </p>
    </div>
  );
}

function PartSelect({
  label,
  parts,
  onPick,
}: {
  label: string;
  parts: readonly { id: string; name: string }[];
  onPick: (id: string) => void;
}) {
  return (
    <select className="box max-w-56" aria-label={label} value="" onChange={(e) => onPick(e.target.value)}>
      <option value="">{label} …</option>
      {parts.map((p) => (
        <option key={p.id} value={p.id}>
          {p.name}
        </option>
      ))}
    </select>
  );
}

/** A list of what differs with one entry changed; an entry in which nothing differs any more is none. */
function changed<T extends { id: string }>(list: readonly T[], plain: T, mutate: (entry: T) => void): T[] {
  const own = { ...(list.find((e) => e.id === plain.id) ?? plain) };
  mutate(own);
  const same = (Object.keys(plain) as (keyof T)[]).every((key) => own[key] === plain[key]);
  const others = list.filter((e) => e.id !== plain.id);
  return same ? others : [...others, own];
}

/** Which drives run, which way they are turned, and where they work. */
function DrivesInState({ state, change }: OfState) {
  const { design } = useDesk();
  const put = (id: string, mutate: (u: UnitInState) => void) =>
    change((s) => void (s.units = changed(s.units, { id, resting: false, turned: 0, works: null, on: null }, mutate)));
  return (
    <table className="rows">
      <thead>
        <tr>
          <th>drive</th>
          <th />
          <th
            className="text-right!"
            title="turn of its thrust about the axis across; 90° raises one that pushes ahead"
          >
            turned up
          </th>
          <th>works</th>
        </tr>
      </thead>
      <tbody>
        {design.units.map((u) => {
          const own = state.units.find((x) => x.id === u.id);
          const drum = u.propulsor?.kind === "screw drum";
          return (
            <tr key={u.id} data-drive={u.id}>
              <td className="text-ink">{u.name}</td>
              <td>
                <label className="flex min-h-6 items-center gap-1">
                  <input
                    type="checkbox"
                    checked={!own?.resting}
                    aria-label={`${u.name} runs`}
                    onChange={(e) => put(u.id, (x) => void (x.resting = !e.target.checked))}
                  />
                  runs
                </label>
              </td>
              <td className="w-20">
                <QuantityField
                  label={`${u.name}, turned up`}
                  value={own?.turned ?? 0}
                  dimension="angle"
                  onCommit={(v) => put(u.id, (x) => void (x.turned = v ?? 0))}
                />
              </td>
              <td>
                <select
                  className="cell"
                  aria-label={`${u.name}, ${drum ? "turns in" : "works"}`}
                  value={(drum ? own?.on : own?.works) ?? ""}
                  onChange={(e) => {
                    const said = e.target.value === "" ? null : e.target.value;
                    put(u.id, (x) => {
                      if (drum) x.on = said as UnitInState["on"];
                      else x.works = said as UnitInState["works"];
                    });
                  }}
                >
                  <option value="">as entered</option>
                  {(drum ? DRUM_IN : SURROUNDINGS).map((w) => (
                    <option key={w}>{w}</option>
                  ))}
                </select>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Which surfaces carry, and how far they are turned. */
function SurfacesInState({ state, change }: OfState) {
  const { design } = useDesk();
  const put = (id: string, mutate: (u: SurfaceInState) => void) =>
    change((s) => void (s.surfaces = changed(s.surfaces, { id, away: false, turned: 0, works: null }, mutate)));
  return (
    <table className="rows">
      <thead>
        <tr>
          <th>surface</th>
          <th />
          <th className="text-right!" title="added to its incidence, nose up positive">
            turned
          </th>
          <th>works in</th>
        </tr>
      </thead>
      <tbody>
        {design.surfaces.map((f) => {
          const own = state.surfaces.find((x) => x.id === f.id);
          return (
            <tr key={f.id} data-surface={f.id}>
              <td className="text-ink">{f.name}</td>
              <td>
                <label className="flex min-h-6 items-center gap-1">
                  <input
                    type="checkbox"
                    checked={own?.away ?? false}
                    aria-label={`${f.name} carries nothing`}
                    onChange={(e) => put(f.id, (x) => void (x.away = e.target.checked))}
                  />
                  folded or carries nothing
                </label>
              </td>
              <td className="w-20">
                <QuantityField
                  label={`${f.name}, turned`}
                  value={own?.turned ?? 0}
                  dimension="angle"
                  onCommit={(v) => put(f.id, (x) => void (x.turned = v ?? 0))}
                />
              </td>
              <td>
                <select
                  className="cell"
                  aria-label={`${f.name}, works in`}
                  value={own?.works ?? ""}
                  onChange={(e) =>
                    put(f.id, (x) => {
                      x.works = e.target.value === "" ? null : (e.target.value as SurfaceInState["works"]);
                    })
                  }
                >
                  <option value="">{`as entered: ${f.medium}`}</option>
                  <option>air</option>
                  <option>water</option>
                </select>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
