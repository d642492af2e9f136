import { useState } from "react";
import { ANGLE_OF, ANGLE_SIDES, type Angle, angleSchema } from "../../../core/design/run";
import { ANGLE_SD, asItFlew, askedOf, unevenOf } from "../../../core/runs/angles";
import { ANGLE_SIGN, angleName, angleText, unevenText } from "../../../core/wording/angles";
import { useDesk } from "../../app/desk";
import { QuantityField } from "../../fields/QuantityField";

/** Sides that stand otherwise, said as soon as both are measured. */
export function Sides({ angles }: { angles: readonly Angle[] }) {
  const uneven = unevenOf(angles);
  return uneven.length === 0 ? null : (
    <ul className="list-disc pl-4 text-care">
      {uneven.map((u) => (
        <li key={`${u.what} ${u.of}`} data-uneven>
          {unevenText(u)}
        </li>
      ))}
    </ul>
  );
}

/** Trims, throws and set angles as they were measured, for a run that is kept. */
export function AnglesOf({ angles }: { angles: readonly Angle[] }) {
  return (
    <section aria-label="Angles and trims" className="mt-2">
      <h3>Angles and trims</h3>
      <p className="text-[11px] text-pencil">{ANGLE_SIGN}</p>
      <ul>
        {angles.map((a) => (
          <li key={angleName(a)}>
            {angleName(a)} <b className="num measured">{angleText(a)}</b>
          </li>
        ))}
      </ul>
      <Sides angles={angles} />
    </section>
  );
}

/**
 * Trims, throws and set angles, each side by itself: begun with the controls that are described and with what was
 * measured before. An angle counts once it is read.
 */
export function AnglesField({ angles, onChange }: { angles: readonly Angle[]; onChange: (angles: Angle[]) => void }) {
  const { file, version, design } = useDesk();
  const [own, setOwn] = useState<Pick<Angle, "what" | "side" | "of">>({ what: "", side: "port", of: "neutral" });
  const before = asItFlew(file, version);
  const names = new Map([...askedOf(design, before?.angles), ...angles].map((a) => [angleName(a), a] as const));
  const held = (name: string) => angles.find((a) => angleName(a) === name);
  const put = (asked: Pick<Angle, "what" | "side" | "of">, value: number | null, sd?: number) => {
    const rest = angles.filter((a) => angleName(a) !== angleName(asked));
    const { what, side, of } = asked;
    onChange(
      value === null ? rest : [...rest, { what, side, of, value, sd: sd ?? held(angleName(asked))?.sd ?? ANGLE_SD }],
    );
  };
  const [fresh, setFresh] = useState<number | null>(null);
  return (
    <div>
      <p className="text-pencil">
        With a protractor or a throw gauge, sticks let go, each side by itself; {ANGLE_SIGN}.
      </p>
      <ul>
        {[...names].map(([name, asked]) => (
          <li key={name} className="grid grid-cols-[minmax(0,1fr)_6rem_5rem] items-center gap-1 border-b border-hair">
            <span>
              {name}
              {before && !held(name) && before.angles.some((a) => angleName(a) === name) && (
                <span className="block text-[11px] text-pencil">
                  run {before.number}: {angleText(before.angles.find((a) => angleName(a) === name) as Angle)}
                </span>
              )}
            </span>
            <QuantityField
              boxed
              label={name}
              value={held(name)?.value ?? null}
              dimension="angle"
              schema={angleSchema.shape.value}
              empty="not read"
              onCommit={(v) => put(asked, v)}
            />
            <QuantityField
              boxed
              label={`${name}, ±`}
              value={held(name)?.sd ?? null}
              dimension="angle"
              schema={angleSchema.shape.sd}
              empty="±"
              disabled={!held(name)}
              onCommit={(v) => put(asked, held(name)?.value ?? null, Math.abs(v ?? ANGLE_SD))}
            />
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <label className="w-44">
          Another
          <input
            className="box"
            aria-label="Another: surface, mount or tail"
            placeholder="tail mount"
            maxLength={80}
            value={own.what}
            onChange={(e) => setOwn({ ...own, what: e.target.value })}
          />
        </label>
        <select
          className="box w-auto!"
          aria-label="Its side"
          value={own.side}
          onChange={(e) => setOwn({ ...own, side: ANGLE_SIDES.find((s) => s === e.target.value) ?? "middle" })}
        >
          {ANGLE_SIDES.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
        <select
          className="box w-auto!"
          aria-label="What of it"
          value={own.of}
          onChange={(e) => setOwn({ ...own, of: ANGLE_OF.find((o) => o === e.target.value) ?? "neutral" })}
        >
          {ANGLE_OF.map((o) => (
            <option key={o}>{o}</option>
          ))}
        </select>
        <span className="w-24">
          <QuantityField
            boxed
            label="Its angle"
            value={fresh}
            dimension="angle"
            schema={angleSchema.shape.value}
            empty="angle"
            onCommit={(v) => setFresh(v)}
          />
        </span>
        <button
          type="button"
          className="act"
          disabled={own.what.trim() === "" || fresh === null}
          onClick={() => {
            put({ ...own, what: own.what.trim() }, fresh);
            setOwn({ ...own, what: "" });
            setFresh(null);
          }}
        >
          Add
        </button>
      </div>
      <Sides angles={angles} />
    </div>
  );
}
