import { useMemo, useState } from "react";
import type { Comparison } from "../../../core/bench/compare";
import { type EqualIn, commonPlace, compareAt } from "../../../core/bench/compare";
import { correctionsFor } from "../../../core/bench/rig";
import { readSweep } from "../../../core/bench/sweep";
import { kindOf } from "../../../core/subjects/propulsion/kinds/models";
import { plain, showSd } from "../../../core/wording/format";
import { comparisonText } from "../../../core/wording/sweep";
import { useDesk } from "../../app/desk";
import { usePreferences } from "../../app/preferences";
import { SweepChart } from "../../charts/SweepChart";
import { QuantityField } from "../../fields/QuantityField";
import { code } from "./useSession";

const EQUALS: [EqualIn, string, "percent" | "force" | "power"][] = [
  ["throttle", "equal throttle", "percent"],
  ["thrust", "equal thrust", "force"],
  ["power", "equal power", "power"],
];

/** Sweeps of any version side by side: one chart, and one sentence each at equal throttle, thrust and power. */
export function CompareSheet() {
  const { file } = useDesk();
  const sweeps = file.bench.filter((b) => b.thrust !== null && b.thrust.readings.length > 0);
  const [chosen, setChosen] = useState<number[]>(() => sweeps.slice(-2).map((b) => b.number));
  const [places, setPlaces] = useState<Partial<Record<EqualIn, number>>>({});
  const shown = useMemo(
    () =>
      chosen.flatMap((n) => {
        const b = file.bench.find((x) => x.number === n);
        if (!b?.thrust) return [];
        const { drive } = b.thrust;
        const d = drive?.propeller;
        const what = drive?.propulsor
          ? `, ${kindOf(drive.propulsor).word}`
          : d
            ? `, ${Math.round(d.diameter.value * 1000)} × ${Math.round(d.pitch.value * 1000)} mm`
            : "";
        const name = `${code(b.number)} ${b.version}${what}`;
        return [{ name, result: readSweep(b.thrust, correctionsFor(b.thrust.rig, file.bench), drive) }];
      }),
    [chosen, file.bench],
  );
  if (sweeps.length < 2)
    return <p>Two sweeps are needed to compare: another propeller, another version, or the same one again.</p>;
  const results = shown.map((s) => s.result);
  const names = shown.map((s) => s.name);
  const points = (k: number) => results[k]?.levels.map((l) => ({ x: l.throttle * 100, y: l.thrust })) ?? [];
  const economy = (k: number) =>
    results[k]?.levels.flatMap((l) => (l.power !== null && l.power > 1 ? [{ x: l.thrust, y: l.power }] : [])) ?? [];
  return (
    <div className="text-[12px]">
      <div className="flex flex-wrap gap-x-4" role="group" aria-label="Sweeps compared">
        {sweeps.map((b) => (
          <label key={b.number} className="flex min-h-7 items-center gap-1">
            <input
              type="checkbox"
              checked={chosen.includes(b.number)}
              onChange={(e) =>
                setChosen(
                  e.target.checked ? [...chosen, b.number].sort((x, y) => x - y) : chosen.filter((n) => n !== b.number),
                )
              }
            />
            {code(b.number)} {b.version}, {b.date.slice(0, 10)}
          </label>
        ))}
      </div>
      {shown.length < 2 ? (
        <p className="mt-2 text-pencil">Choose two or more.</p>
      ) : (
        <>
          <div className="mt-2 grid grid-cols-2 gap-4 max-[900px]:grid-cols-[minmax(0,1fr)]">
            <SweepChart
              title="Thrust against throttle"
              xTitle="throttle, %"
              yTitle="thrust, N"
              name={names[0]}
              up={points(0)}
              others={names.slice(1).map((name, k) => ({ name, points: points(k + 1) }))}
            />
            <SweepChart
              title="Power against thrust"
              xTitle="thrust, N"
              yTitle="power, W"
              name={names[0]}
              up={economy(0)}
              others={names.slice(1).map((name, k) => ({ name, points: economy(k + 1) }))}
            />
          </div>
          {EQUALS.map(([equal, word, dimension]) => {
            const at = places[equal] ?? commonPlace(results, equal);
            if (at === null)
              return (
                <p key={equal} className="mt-2">
                  At {word} they share no range.
                </p>
              );
            const c = compareAt(results, equal, at);
            return (
              <AtEqual
                key={equal}
                equal={equal}
                word={word}
                at={at}
                dimension={dimension}
                setPlaces={setPlaces}
                places={places}
                c={c}
                names={names}
              />
            );
          })}
        </>
      )}
    </div>
  );
}

/** Two sweeps at an equal thrust, or an equal power. */
function AtEqual({
  equal,
  word,
  at,
  dimension,
  setPlaces,
  places,
  c,
  names,
}: {
  equal: EqualIn;
  word: string;
  at: number;
  dimension: "force" | "power" | "percent";
  setPlaces: (next: Partial<Record<EqualIn, number>>) => void;
  places: Partial<Record<EqualIn, number>>;
  c: Comparison;
  names: string[];
}) {
  const { habit } = usePreferences();

  return (
    <div data-equal={equal} className="mt-2 border-t border-hair pt-1">
      <p className="flex flex-wrap items-center gap-2">
        <b className="text-ink">At {word}</b>
        <span className="w-24">
          <QuantityField
            boxed
            label={`Compared at ${word}`}
            value={at}
            dimension={dimension}
            onCommit={(v) => setPlaces({ ...places, [equal]: v ?? undefined })}
          />
        </span>
        {c.values.map((v, k) => (
          <span key={names[k]} className="num">
            {names[k]?.split(" ")[0]}:{" "}
            {v
              ? `${plain(v.value, equal === "thrust" ? "power" : "force", habit)} ± ` +
                `${showSd(v.sd, equal === "thrust" ? "power" : "force", habit)}`
              : "not measured"}
          </span>
        ))}
      </p>
      {names.slice(1).map((name, k) => (
        <p key={name} data-sentence>
          {comparisonText(
            {
              ...c,
              values: [c.values[0] ?? null, c.values[k + 1] ?? null],
              against: [null, c.against[k + 1] ?? null],
            },
            [names[0] ?? "", name],
            habit,
          )}
        </p>
      ))}
    </div>
  );
}
