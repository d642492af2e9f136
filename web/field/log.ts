import { localIso } from "../app/dates";
import { get, set } from "idb-keyval";
import { useEffect, useRef, useState } from "react";
import type { NewRun } from "../../api/contracts";
import type { Lap, Moment, Run } from "../../core/design/craftFile";
import { newCrash } from "../../core/design/runEnds";
import { LAP } from "../../core/runs/marks";
import type { Taken } from "../fields/keepPicture";
import { type RunDraft, blankRun, newKey } from "../stations/runs/blankRun";

/** A run while it is logged at the site. Kept in the browser at every tap. */
export interface FieldLog {
  run: RunDraft;
  startedAt: string | null;
  endedAt: string | null;
  pictures: (Taken & { moment: string | null })[];
}

/** A log that has not begun. */
export const newLog = (given: Partial<NewRun>): FieldLog => ({
  run: blankRun({ ...given, live: true }),
  startedAt: null,
  endedAt: null,
  pictures: [],
});

/** Seconds since the log began, up to its end. */
export const secondsOf = (log: FieldLog, now: number): number =>
  log.startedAt === null
    ? 0
    : Math.max(0, ((log.endedAt === null ? now : Date.parse(log.endedAt)) - Date.parse(log.startedAt)) / 1000);

export function begin(log: FieldLog, now: Date): FieldLog {
  const { pack } = log.run;
  const first: Moment[] =
    pack.name || pack.restingVoltage !== null
      ? [
          {
            ...moment("pack in", 0),
            pack: { name: pack.name, resting: pack.restingVoltage, loaded: pack.loadedVoltage },
          },
        ]
      : [];
  return { ...log, startedAt: now.toISOString(), run: { ...log.run, date: localIso(now), moments: first } };
}

export const moment = (kind: Moment["kind"], seconds: number, given: Partial<Moment> = {}): Moment => ({
  id: newKey(),
  seconds: Math.round(seconds * 10) / 10,
  kind,
  mark: "",
  text: "",
  pack: null,
  files: [],
  ...given,
});

export const added = (log: FieldLog, m: Moment, picture?: Taken): FieldLog => ({
  ...log,
  run: { ...log.run, moments: [...log.run.moments, m] },
  pictures: picture ? [...log.pictures, { ...picture, moment: m.id }] : log.pictures,
});

/** Takes the last moment back, with its picture. The pack that it began with stays. */
export function undone(log: FieldLog): FieldLog {
  const last = log.run.moments.at(-1);
  if (!last || (last.kind === "pack in" && last.seconds === 0)) return log;
  return {
    ...log,
    run: { ...log.run, moments: log.run.moments.slice(0, -1) },
    pictures: log.pictures.filter((p) => p.moment !== last.id),
  };
}

/**
 * Laps of the course: each from one lap mark to the next. The first mark begins the first lap: the way to the start
 * line is none.
 */
export function lapsOf(run: Pick<NewRun, "moments" | "course" | "conditions" | "pilot" | "pack">): Lap[] {
  const ends = run.moments.filter((m) => m.mark === LAP.code).map((m) => m.seconds);
  return ends.slice(1).map((end, k) => {
    const start = ends[k] ?? 0;
    const pack = run.moments.findLast((m) => m.kind === "pack in" && m.seconds <= start)?.pack;
    return {
      label: String(k + 1),
      values: { lapTime: Math.round((end - start) * 10) / 10 },
      wind: run.conditions.wind,
      pack: (pack?.name ?? run.pack.name).slice(0, 80),
      startVoltage: pack?.resting ?? run.pack.restingVoltage,
      pilot: run.pilot.slice(0, 80),
      remark: "",
      out: "",
    };
  });
}

/** Ends the log; what went wrong at the end opens the evidence order. */
export const ended = (log: FieldLog, now: Date): FieldLog => {
  const over = { ...log, endedAt: now.toISOString() };
  return {
    ...over,
    run: {
      ...log.run,
      seconds: Math.round(secondsOf(over, now.getTime())),
      laps: log.run.course === "" ? [] : lapsOf(log.run),
    },
  };
};

export const crashed = (log: FieldLog, yes: boolean): FieldLog => ({
  ...log,
  run: { ...log.run, crash: yes ? (log.run.crash ?? newCrash()) : null, outcome: yes ? "failed" : log.run.outcome },
});

/** Seconds since the pack that is in was put in. */
export function packSince(run: Pick<Run, "moments">, seconds: number): number {
  const last = run.moments.findLast((m) => m.kind === "pack in");
  return seconds - (last?.seconds ?? 0);
}

/** The log of one version as the browser keeps it: read once, written at every change. */
export function useKeptLog(name: string): {
  log: FieldLog | null;
  ready: boolean;
  put: (next: FieldLog) => void;
  /** What is kept is handed on, by the name that it has here; then nothing is kept of it. */
  handOn: (to: (stored: string) => Promise<void>) => Promise<void>;
} {
  const [log, setLog] = useState<FieldLog | null>(null);
  const [ready, setReady] = useState(false);
  const writes = useRef<Promise<unknown>>(Promise.resolve());
  const stored = `field/${name}`;
  useEffect(() => {
    void get<FieldLog>(stored).then((held) => {
      // One that an older release kept lacks what was added since.
      setLog(held ? { ...held, run: { ...blankRun(), ...held.run } } : null);
      setReady(true);
    });
  }, [stored]);
  return {
    log,
    ready,
    put: (next) => {
      setLog(next);
      writes.current = writes.current.then(() => set(stored, next));
    },
    handOn: async (to) => {
      // After every tap before it: none of them brings it back.
      const handed = writes.current.then(() => to(stored));
      writes.current = handed.catch(() => {});
      await handed;
      setLog(null);
    },
  };
}
