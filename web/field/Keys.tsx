import { useEffect, useRef, useState } from "react";
import type { Sense } from "../../core/runs/marks";

/** How it came to be known, as a sign: an eye, an ear, a nose, a hand, each of a few strokes. */
const SENSE: Record<Sense, string> = {
  saw: "M2 12q10 -10 20 0q-10 10 -20 0M9 12a3 3 0 1 0 6 0a3 3 0 1 0 -6 0",
  heard: "M6 10a6 6 0 1 1 12 0q0 4 -4 6q-1 5 -4 5q-3 0 -3 -3M10 10a2 2 0 1 1 4 1",
  smelt: "M12 3q1 7 5 12q1 5 -5 5q-6 0 -5 -5M15 20q2 -1 4 1",
  felt: "M7 21v-6l-3 -4M7 13V5M11 12V3M15 12V5M19 13V8M7 21h9q3 -3 3 -8",
};

export function SenseSign({ sense }: { sense: Sense }) {
  return (
    <svg width="26" height="26" viewBox="0 0 24 24" aria-hidden="true">
      <path
        d={SENSE[sense]}
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}

/** A key to be found with a cold thumb: its word, how often it was tapped, black while it was the last one. */
export function Key({
  word,
  sign,
  count,
  last,
  onTap,
  wide,
}: {
  word: string;
  sign?: React.ReactNode;
  count?: number;
  last?: boolean;
  onTap: () => void;
  wide?: boolean;
}) {
  return (
    <button
      type="button"
      className={`field-key ${last ? "field-key-last" : ""} ${wide ? "col-span-3 min-h-14!" : ""}`}
      aria-label={count ? `${word}, ${count} times` : word}
      onClick={() => {
        navigator.vibrate?.(25);
        onTap();
      }}
    >
      <span className="flex w-full justify-between">
        {sign}
        {count !== undefined && <span className="num text-[17px]! font-semibold">{count}</span>}
      </span>
      <span className="text-left text-[17px] font-semibold leading-5">{word}</span>
    </button>
  );
}

const HOLD = 1000;

/** Ends something only when it is held down for a second, by finger or by key. */
export function HoldKey({ word, hint, onHeld }: { word: string; hint: string; onHeld: () => void }) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const stop = () => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  const start = () => {
    setHolding(true);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => {
      setHolding(false);
      navigator.vibrate?.(80);
      onHeld();
    }, HOLD);
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <button
      type="button"
      className={`field-end ${holding ? "is-held" : ""}`}
      onPointerDown={start}
      onPointerUp={stop}
      onPointerLeave={stop}
      onPointerCancel={stop}
      onContextMenu={(e) => e.preventDefault()}
      onKeyDown={(e) => {
        if ((e.key === "Enter" || e.key === " ") && !e.repeat) start();
      }}
      onKeyUp={stop}
      onBlur={stop}
    >
      <span className="text-[24px] font-[650] leading-7">{word}</span>
      <span className="text-[14px]">{hint}</span>
    </button>
  );
}
