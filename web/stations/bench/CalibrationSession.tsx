import type { SetStateAction } from "react";
import { useState } from "react";
import type { CalibrationResult } from "../../../core/bench/calibration";
import { correctionOf } from "../../../core/bench/calibration";
import type { Bench, Calibration } from "../../../core/design/bench";
import type { Dimension } from "../../../core/design/units";
import { plain, showSd } from "../../../core/wording/format";
import { usePreferences } from "../../app/preferences";
import { QuantityField } from "../../fields/QuantityField";
import { TextField } from "../../fields/TextField";
import { ClipboardSheet } from "./ClipboardSheet";
import { useHalfState } from "../../app/halfWritten";
import { useDesk } from "../../app/desk";
import { HalfLine } from "../../app/HalfLine";
import { SessionFoot } from "./SessionFoot";
import { useEntry } from "./useSession";

type Quantity = Calibration["quantity"];
const DIMENSION: Record<Quantity, Dimension> = { scale: "mass", voltage: "voltage", current: "current" };
const HOW: Record<Quantity, string> = {
  scale: "Two known masses or more, well apart: full bottles weighed elsewhere, coins, a litre of water.",
  voltage: "Beside a second meter, at two voltages or more: a full pack and an empty one will do.",
  current:
    "A second meter in line, at two currents or more. Without one: the charge that it counted over a " +
    "run, against what the charger put back.",
};
const DOUBT = {
  few: "One pair or two give no scatter: a third would show it.",
  zero: "It does not show zero at nothing: the offset is taken off.",
  "far-off": "More than 30 % off: check the setting, the shunt or the unit before trusting a factor.",
};
/** How well a second meter or a kitchen mass is usually known, as a share, when a value is first entered. */
const USUAL = { scale: 0.002, voltage: 0.003, current: 0.01 };

/** An instrument held against something better known; sweeps that name it read through its correction. */
export function CalibrationSession({
  session,
  onOpen,
}: {
  session: Bench | null;
  onOpen: (number: number | null) => void;
}) {
  const { habit } = usePreferences();
  const [asked, setAsked] = useState(false);
  const { slug, version } = useDesk();
  const { value: fresh, set: setFresh } = useHalfState<{ shown: number | null; known: number | null }>(
    slug,
    version.label,
    `bench calibration pair ${session?.number ?? "new"}`,
    { shown: null, known: null },
  );
  const { keep, entry, test, change, head, foot } = useEntry<Calibration>(
    session,
    onOpen,
    "calibration",
    () => session?.calibration ?? { instrument: "", quantity: "current", by: "known values", pairs: [] },
  );
  const charge = test.by === "charge returned";
  const dimension: Dimension = charge ? "capacity" : DIMENSION[test.quantity];
  const result = correctionOf(test);
  const missing =
    test.instrument.trim() === ""
      ? "name the instrument"
      : test.pairs.length === 0
        ? "enter a pair of readings"
        : result.ok
          ? null
          : result.message;
  return (
    <div className="text-[12px]">
      <HalfLine {...head} />
      <Instrument test={test} change={change} />
      <p className="mt-1 text-pencil">{HOW[test.quantity]}</p>
      <table className="rows mt-2 w-full max-w-[520px]">
        <thead>
          <tr>
            <th className="text-right!">{charge ? "it counted" : "it shows"}</th>
            <th className="text-right!">{charge ? "charger put back" : "known"}</th>
            <th className="text-right!">known ±</th>
            <th className="text-right!">then off by</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {test.pairs.map((p, k) => (
            <PairRow
              key={`p${k + 1}`}
              k={k}
              p={p}
              dimension={dimension}
              change={change}
              result={result}
              charge={charge}
            />
          ))}
          <NewPair setFresh={setFresh} change={change} charge={charge} fresh={fresh} dimension={dimension} />
        </tbody>
      </table>
      <section aria-label="Correction" className="mt-3 border-t border-hair pt-2">
        {result.ok ? (
          <>
            <p data-correction>
              True = <b className="num text-ink">{result.correction.gain.toFixed(4)}</b> ±{" "}
              <span className="num">{result.correction.gainSd.toFixed(4)}</span> × (shown
              {result.correction.zero === 0
                ? ""
                : ` ${result.correction.zero > 0 ? "−" : "+"} ` +
                  `${plain(Math.abs(result.correction.zero), dimension, habit)}`}
              {result.correction.zeroSd > 0 ? ` ± ${showSd(result.correction.zeroSd, dimension, habit)}` : ""})
            </p>
            {result.doubts.map((d) => (
              <p key={d} className="text-care">
                {DOUBT[d]}
              </p>
            ))}
          </>
        ) : (
          <p className="text-pencil">{result.message}</p>
        )}
      </section>
      <SessionFoot
        {...foot}
        missing={asked ? missing : null}
        onKeep={() => (missing === null ? keep.mutate({ ...entry, calibration: test }) : setAsked(true))}
      />
      <ClipboardSheet
        title={`Calibration, ${test.instrument || "instrument"}`}
        columns={["it shows", "known", "±"]}
        rows={Array.from({ length: 8 }, (_, k) => String(k + 1))}
      />
    </div>
  );
}

/** The row that adds a pair. */
function NewPair({
  setFresh,
  change,
  charge,
  fresh,
  dimension,
}: {
  setFresh: (value: SetStateAction<{ shown: number | null; known: number | null }>) => void;
  change: (mutate: (t: Calibration) => void) => void;
  charge: boolean;
  fresh: { shown: number | null; known: number | null };
  dimension: Dimension;
}) {
  const add = (pair: { shown: number | null; known: number | null }) => {
    const { shown, known } = pair;
    if (shown === null || known === null) return setFresh(pair);
    change((t) => void t.pairs.push({ shown, known, knownSd: Math.abs(known) * (charge ? 0.01 : USUAL[t.quantity]) }));
    setFresh({ shown: null, known: null });
  };
  return (
    <tr>
      <td>
        <QuantityField
          label="New pair, shown"
          value={fresh.shown}
          dimension={dimension}
          empty="shown"
          onCommit={(v) => add({ ...fresh, shown: v })}
        />
      </td>
      <td>
        <QuantityField
          label="New pair, known"
          value={fresh.known}
          dimension={dimension}
          empty="known"
          onCommit={(v) => add({ ...fresh, known: v })}
        />
      </td>
      <td colSpan={3} className="text-pencil">
        both, and the pair is kept
      </td>
    </tr>
  );
}

/** Which instrument it is, what it reads, and how. */
function Instrument({ test, change }: { test: Calibration; change: (mutate: (t: Calibration) => void) => void }) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      <div className="w-48">
        Instrument
        <TextField
          boxed
          label="Instrument"
          value={test.instrument}
          placeholder="name on it"
          onCommit={(v) => change((t) => void (t.instrument = v))}
        />
      </div>
      <label>
        It reads
        <select
          className="box"
          aria-label="It reads"
          value={test.quantity}
          onChange={(e) =>
            change((t) => {
              t.quantity = e.target.value as Quantity;
              t.by = "known values";
              t.pairs = [];
            })
          }
        >
          <option value="current">current</option>
          <option value="voltage">voltage</option>
          <option value="scale">mass or force</option>
        </select>
      </label>
      {test.quantity === "current" && (
        <label>
          Held against
          <select
            className="box"
            aria-label="Held against"
            value={test.by}
            onChange={(e) =>
              change((t) => {
                t.by = e.target.value as Calibration["by"];
                t.pairs = [];
              })
            }
          >
            <option value="known values">a second meter</option>
            <option value="charge returned">charge that the charger put back</option>
          </select>
        </label>
      )}
    </div>
  );
}

/** One pair: what the instrument showed, and what was true. */
function PairRow({
  k,
  p,
  dimension,
  change,
  result,
  charge,
}: {
  k: number;
  p: { shown: number; known: number; knownSd: number };
  dimension: Dimension;
  change: (mutate: (t: Calibration) => void) => void;
  result: CalibrationResult;
  charge: boolean;
}) {
  const { habit } = usePreferences();

  return (
    <tr data-pair={k + 1}>
      <td>
        <QuantityField
          label={`Pair ${k + 1}, shown`}
          value={p.shown}
          dimension={dimension}
          onCommit={(v) => v !== null && change((t) => void (t.pairs[k] && (t.pairs[k].shown = v)))}
        />
      </td>
      <td>
        <QuantityField
          label={`Pair ${k + 1}, known`}
          value={p.known}
          dimension={dimension}
          onCommit={(v) => v !== null && change((t) => void (t.pairs[k] && (t.pairs[k].known = v)))}
        />
      </td>
      <td>
        <QuantityField
          label={`Pair ${k + 1}, known ±`}
          value={p.knownSd}
          dimension={dimension}
          onCommit={(v) => {
            if (v === null || v < 0) return "Accepted: zero or more.";
            change((t) => void (t.pairs[k] && (t.pairs[k].knownSd = v)));
            return null;
          }}
        />
      </td>
      <td className="num text-right">
        {result.ok
          ? plain(
              result.correction.gain * (p.shown - result.correction.zero) - p.known * (charge ? 0.985 : 1),
              dimension,
              habit,
              2,
            )
          : "–"}
      </td>
      <td className="text-right">
        <button
          type="button"
          className="link"
          aria-label={`Remove pair ${k + 1}`}
          onClick={() => change((t) => void t.pairs.splice(k, 1))}
        >
          ×
        </button>
      </td>
    </tr>
  );
}
