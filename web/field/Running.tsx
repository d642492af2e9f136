import type { Dispatch, SetStateAction } from "react";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { LAP, type Mark, markOf } from "../../core/runs/marks";
import type { FieldRung, FieldSheet } from "../../core/runs/sheetShape";
import { gateLine } from "../../core/wording/gate";
import { usePreferences } from "../app/preferences";
import { reduced } from "../fields/keepPicture";
import { QuantityField } from "../fields/QuantityField";
import { clock } from "../stations/runs/words";
import { HoldKey, Key, SenseSign } from "./Keys";
import { type FieldLog, added, moment, packSince, undone } from "./log";

/** Share of a pack at which one turns back (common practice). */
const TURN_BACK = 0.3;
const ON_A_PAGE = 6;

/** Keeps the screen awake while the log runs, where the browser can. */
function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    const ask = () => {
      if (document.visibilityState === "visible")
        navigator.wakeLock?.request("screen").then(
          (l) => (lock = l),
          () => {},
        );
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, []);
}

/**
 * How long the pack should still last by what is predicted: black what is left, the red stroke where one turns back.
 */
function PackBar({ since, endurance }: { since: number; endurance: { value: number; sd: number } }) {
  const left = Math.max(0, 1 - since / endurance.value);
  const back = endurance.value * (1 - TURN_BACK) - since;
  return (
    <div role="group" aria-label="Pack by prediction">
      <p className="flex items-baseline justify-between text-[14px]">
        <span>
          <b className="num text-[20px]!">{Math.round(left * 100)} %</b> left, predicted
        </span>
        <span className={back <= 0 ? "font-semibold text-stop" : ""}>
          {back <= 0 ? "turn back now" : "turn back in "}
          {back > 0 && (
            <span className="num text-[14px]!">
              {clock(back)} ± {clock(endurance.sd)}
            </span>
          )}
        </span>
      </p>
      <svg viewBox="0 0 358 26" width="100%" height="26" aria-hidden="true">
        <rect x="1.5" y="1.5" width="355" height="23" fill="none" stroke="var(--ink)" strokeWidth="3" />
        <rect x="5" y="5" width={348 * left} height="16" fill="var(--ink)" />
        <path d={`M${5 + 348 * TURN_BACK} -2V28`} stroke="var(--stop)" strokeWidth="4" />
      </svg>
    </div>
  );
}

/** While it runs: large keys for what is seen, heard, smelt and felt. */
export function Running({
  log,
  marks,
  rung,
  endurance,
  onChange,
  onEnd,
}: {
  log: FieldLog;
  marks: readonly Mark[];
  rung: FieldRung | undefined;
  endurance: FieldSheet["endurance"];
  onChange: (log: FieldLog) => void;
  onEnd: () => void;
}) {
  const { habit } = usePreferences();
  const [now, setNow] = useState(Date.now());
  const [page, setPage] = useState(0);
  const [panel, setPanel] = useState<"words" | "pack" | null>(null);
  useAwake();
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(tick);
  }, []);
  const since = () => Math.max(0, (Date.now() - Date.parse(log.startedAt ?? "")) / 1000);
  const seconds = Math.max(0, (now - Date.parse(log.startedAt ?? "")) / 1000);
  const shown = marks.slice(page * ON_A_PAGE, (page + 1) * ON_A_PAGE);
  const last = log.run.moments.at(-1);
  const count = (m: Mark) => log.run.moments.filter((x) => x.mark === m.code).length;
  const say = (m: typeof last) =>
    !m
      ? ""
      : m.kind === "mark"
        ? (markOf(m.mark)?.word ?? m.mark)
        : m.kind === "words"
          ? m.text
          : m.kind === "photo"
            ? "Photo"
            : `${m.kind}${m.pack?.name ? ` ${m.pack.name}` : ""}`;
  return (
    <section aria-label="Running" className="flex flex-1 flex-col gap-3">
      <div className="flex items-start justify-between border-y-2 border-ink py-2">
        <div className="text-[14px]">
          <b className="text-[16px] text-accent">
            Rung {log.run.stage}, {rung?.name}
          </b>
          {(rung?.gates ?? []).slice(0, 3).map(({ gate, name }) => (
            <span key={gate.id} className="block leading-[18px]">
              {gateLine(gate, name, habit)}
            </span>
          ))}
        </div>
        <b className="num text-[44px]! leading-none" role="timer" aria-label="Since the start">
          {clock(seconds)}
        </b>
      </div>
      {endurance && endurance.value > 0 && <PackBar since={packSince(log.run, seconds)} endurance={endurance} />}
      {last?.kind === "mark" && markOf(last.mark)?.danger && (
        <p role="alert" className="border-l-4 border-stop pl-2 text-[15px] font-semibold text-stop">
          {markOf(last.mark)?.word}: end the run, people first, then the pack. A fault is opened, and the rungs are
          locked until it is answered.
        </p>
      )}
      {panel === "words" ? (
        <WordsPanel
          onDone={(text) => {
            if (text) onChange(added(log, moment("words", since(), { text })));
            setPanel(null);
          }}
        />
      ) : panel === "pack" ? (
        <PackPanel
          name={log.run.moments.findLast((m) => m.pack)?.pack?.name ?? log.run.pack.name}
          onDone={(kind, pack) => {
            if (kind) onChange(added(log, moment(kind, since(), { pack })));
            setPanel(null);
          }}
        />
      ) : (
        <div className="grid grid-cols-3 gap-[10px]" role="group" aria-label="Mark a moment">
          {shown.map((m) => (
            <Key
              key={m.code}
              word={m.word}
              sign={<SenseSign sense={m.sense} />}
              count={count(m)}
              last={last?.mark === m.code}
              onTap={() => onChange(added(log, moment("mark", since(), { mark: m.code })))}
            />
          ))}
          {log.run.course !== "" && (
            <Key
              wide
              word={
                count(LAP) === 0 ? `${log.run.course}: begin the first lap` : `Lap ${count(LAP)} done, the next begins`
              }
              last={last?.mark === LAP.code}
              onTap={() => onChange(added(log, moment("mark", since(), { mark: LAP.code })))}
            />
          )}
        </div>
      )}
      {panel === null && (
        <RunKeys setPage={setPage} marks={marks} setPanel={setPanel} since={since} onChange={onChange} log={log} />
      )}
      <div className="flex min-h-14 items-center justify-between gap-3">
        <p className="text-[15px]" aria-live="polite">
          <b>{last ? `${say(last)}, ${clock(last.seconds)}` : "Nothing marked yet"}</b>
          <span className="block text-[13px]">{log.run.moments.length > 0 ? "kept in this phone" : ""}</span>
        </p>
        <button
          type="button"
          className="field-undo"
          disabled={undone(log) === log}
          onClick={() => onChange(undone(log))}
        >
          Undo
        </button>
      </div>
      <div className="mt-auto">
        <p className="mb-1 text-[14px]">Ends the log only. Stop the craft with the transmitter.</p>
        <HoldKey word="End the log" hint="hold for 1 s, then how it went" onHeld={onEnd} />
      </div>
    </section>
  );
}

/** Stop, lap, undo and the rest, large enough for gloves. */
function RunKeys({
  setPage,
  marks,
  setPanel,
  since,
  onChange,
  log,
}: {
  setPage: Dispatch<SetStateAction<number>>;
  marks: readonly Mark[];
  setPanel: (next: "pack" | "words" | null) => void;
  since: () => number;
  onChange: (log: FieldLog) => void;
  log: FieldLog;
}) {
  return (
    <div className="grid grid-cols-4 gap-2">
      <button
        type="button"
        className="field-small"
        onClick={() => setPage((p) => ((p + 1) * ON_A_PAGE < marks.length ? p + 1 : 0))}
      >
        More
      </button>
      <button type="button" className="field-small" onClick={() => setPanel("words")}>
        Say it
      </button>
      <button type="button" className="field-small" onClick={() => setPanel("pack")}>
        Pack
      </button>
      <label className="field-small cursor-pointer">
        Photo
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          aria-label="Take a photo"
          onChange={async (e) => {
            const file = e.target.files?.[0];
            const at = since();
            e.target.value = "";
            if (!file) return;
            try {
              onChange(added(log, moment("photo", at, { text: "" }), await reduced(file)));
            } catch {
              toast.error("This is not a picture that can be read.");
            }
          }}
        />
      </label>
    </div>
  );
}

function WordsPanel({ onDone }: { onDone: (text: string) => void }) {
  const [text, setText] = useState("");
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        onDone(text.trim());
      }}
    >
      <label>
        What was it?
        <textarea
          className="box text-[17px]!"
          rows={3}
          maxLength={200}
          // biome-ignore lint/a11y/noAutofocus: asked for with one tap, with a running craft in the other hand
          autoFocus
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      <span className="grid grid-cols-2 gap-2">
        <button type="submit" className="field-small">
          Keep it
        </button>
        <button type="button" className="field-small" onClick={() => onDone("")}>
          Back
        </button>
      </span>
    </form>
  );
}

type PackRead = { name: string; resting: number | null; loaded: number | null };

function PackPanel({
  name,
  onDone,
}: {
  name: string;
  onDone: (kind: "pack in" | "pack out" | null, pack: PackRead) => void;
}) {
  const [pack, setPack] = useState<PackRead>({ name, resting: null, loaded: null });
  return (
    <div className="flex flex-col gap-2" role="group" aria-label="Pack in or out">
      <div className="grid grid-cols-3 gap-2">
        <label>
          Pack
          <input
            className="box"
            aria-label="Name of the pack"
            maxLength={80}
            value={pack.name}
            onChange={(e) => setPack({ ...pack, name: e.target.value })}
          />
        </label>
        <label>
          V at rest
          <QuantityField
            boxed
            label="Volts at rest"
            dimension="voltage"
            empty="–"
            value={pack.resting}
            onCommit={(resting) => setPack((p) => ({ ...p, resting }))}
          />
        </label>
        <label>
          V loaded
          <QuantityField
            boxed
            label="Volts loaded"
            dimension="voltage"
            empty="–"
            value={pack.loaded}
            onCommit={(loaded) => setPack((p) => ({ ...p, loaded }))}
          />
        </label>
      </div>
      <span className="grid grid-cols-3 gap-2">
        <button type="button" className="field-small" onClick={() => onDone("pack in", pack)}>
          Put in
        </button>
        <button type="button" className="field-small" onClick={() => onDone("pack out", pack)}>
          Taken out
        </button>
        <button type="button" className="field-small" onClick={() => onDone(null, pack)}>
          Back
        </button>
      </span>
    </div>
  );
}
