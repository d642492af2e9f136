import { useEffect, useRef, useState } from "react";
import { PULL_READ, type PullsTest } from "../../../../core/design/pulls";
import { DISPLAY } from "../../../../core/design/units";
import { sideWord } from "../../../../core/wording/pulls";
import { usePreferences } from "../../../app/preferences";
import { QuantityField } from "../../../fields/QuantityField";
import { notSafe } from "../thrust/thrustDraft";
import { FromStand } from "./FromStand";

type Reading = PullsTest["readings"][number];
const COLUMNS = [
  ["pull", "force"],
  ["voltage", "voltage"],
  ["current", "current"],
] as const;
const WORD = { pull: "pull", voltage: "volts", current: "amperes" } as const;

/** The pulls in the order in which they were read, and which to read next. */
export function PullsReadings({
  test,
  sides,
  next,
  change,
}: {
  test: PullsTest;
  sides: number;
  next: number;
  change: (mutate: (t: PullsTest) => void) => void;
}) {
  const { habit } = usePreferences();
  const [chosen, setChosen] = useState<number | null>(null);
  const side = chosen !== null && chosen < sides ? chosen : next;
  const blocked = notSafe(test.safety, test.throttle ?? 1);
  const add = (reading: Omit<Reading, "side">) => {
    change((t) => void t.readings.push({ side, ...reading }));
    setChosen(null);
  };
  return (
    <section aria-label="Pulls" className="mt-3">
      {test.readings.length > 0 && (
        <table className="rows w-full max-w-[620px]">
          <thead>
            <tr>
              <th>pulled</th>
              {COLUMNS.map(([key, dimension]) => (
                <th key={key} className="text-right!">
                  {WORD[key]}, {DISPLAY[habit][dimension]}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {test.readings.map((r, k) => (
              <tr key={k} data-pull={sideWord(test, r.side)}>
                <td className="whitespace-nowrap text-ink">{sideWord(test, r.side)}</td>
                {COLUMNS.map(([key, dimension]) => (
                  <td key={key} className="text-right">
                    <QuantityField
                      label={`Pull ${k + 1}, ${WORD[key]}`}
                      value={r[key]}
                      dimension={dimension}
                      schema={PULL_READ[key]}
                      empty={key === "pull" ? undefined : "not read"}
                      onCommit={(v) => {
                        if (v === null && key === "pull")
                          return "a number; or take the reading off at the end of its row";
                        change((t) => void Object.assign(t.readings[k] ?? {}, { [key]: v }));
                        return null;
                      }}
                    />
                  </td>
                ))}
                <td className="text-right">
                  <button
                    type="button"
                    className="link"
                    aria-label={`Take pull ${k + 1} off`}
                    onClick={() => change((t) => void t.readings.splice(k, 1))}
                  >
                    take off
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <div className="no-print mt-2 border border-rule bg-sheet px-3 py-2">
        <p className="flex flex-wrap items-center gap-3 text-ink">
          Next <b className="text-[18px]">{sideWord(test, side)}</b>
          <select
            className="box w-auto!"
            aria-label="Which is pulled next"
            value={side}
            onChange={(e) => setChosen(Number(e.target.value))}
          >
            {Array.from({ length: sides }, (_, s) => (
              <option key={s} value={s}>
                {sideWord(test, s)}
              </option>
            ))}
          </select>
        </p>
        <NextPull key={test.readings.length} disabled={blocked !== null} onKeep={add} />
        {blocked && (
          <p className="mt-1 text-pencil" data-blocked>
            {blocked}
          </p>
        )}
        <FromStand test={test} side={side} onRead={add} />
      </div>
    </section>
  );
}

/** Pull, volts and amperes of the next reading; Enter in any of them keeps it. */
function NextPull({ disabled, onKeep }: { disabled: boolean; onKeep: (r: Omit<Reading, "side">) => void }) {
  const [fresh, setFresh] = useState<Record<(typeof COLUMNS)[number][0], number | null>>({
    pull: null,
    voltage: null,
    current: null,
  });
  const [wanting, setWanting] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  // What was committed by Enter is in the state a moment later.
  const [keeping, setKeeping] = useState(false);
  useEffect(() => {
    if (!keeping) return;
    setKeeping(false);
    if (box.current?.querySelector("[data-unread]")) return;
    if (fresh.pull === null) return setWanting(true);
    onKeep({ ...fresh, pull: fresh.pull });
  }, [keeping, fresh, onKeep]);
  return (
    <div
      ref={box}
      role="group"
      aria-label="Next pull"
      className="mt-1 flex flex-wrap items-end gap-3"
      onKeyDown={(e) => {
        if (e.key !== "Enter" || !(e.target instanceof HTMLInputElement)) return;
        e.target.blur();
        setKeeping(true);
      }}
    >
      {COLUMNS.map(([key, dimension]) => (
        <label key={key} className="w-24">
          {WORD[key]}
          <QuantityField
            boxed
            label={`Next ${WORD[key]}`}
            value={fresh[key]}
            dimension={dimension}
            schema={PULL_READ[key]}
            disabled={disabled}
            empty={key === "pull" ? "read it" : "not read"}
            onCommit={(v) => {
              setFresh((f) => ({ ...f, [key]: v }));
              setWanting(false);
            }}
          />
        </label>
      ))}
      <button type="button" className="act" disabled={disabled} onClick={() => setKeeping(true)}>
        Keep, next
      </button>
      {wanting && (
        <span role="alert" className="text-stop">
          Enter the pull: a number, 0 for nothing.
        </span>
      )}
    </div>
  );
}
