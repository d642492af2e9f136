import { useCallback, useEffect, useRef, useState } from "react";
import { type StandReading, type StandSetup, contracts, standReadingSchema } from "../../../../api/contracts";
import type { Safety } from "../../../../core/design/thrustTest";
import { call } from "../../../app/client";

/** ms without a reading after which the stand is said not to answer. */
const SILENT = 1500;

/**
 * A stand that sends its readings: set up, commanded, listened to. A lost connection is taken up again where it
 * broke, by the number of the last reading.
 */
export function useStand() {
  const source = useRef<EventSource | null>(null);
  const listener = useRef<((r: StandReading) => void) | null>(null);
  const [latest, setLatest] = useState<StandReading | null>(null);
  const [silent, setSilent] = useState(false);
  const heard = useRef(0);
  const close = useCallback(() => {
    source.current?.close();
    source.current = null;
    setSilent(false);
  }, []);
  useEffect(() => {
    const watch = setInterval(() => source.current && setSilent(Date.now() - heard.current > SILENT), 250);
    return () => {
      clearInterval(watch);
      close();
    };
  }, [close]);
  const open = useCallback(
    async (setup: StandSetup, onReading: (r: StandReading) => void) => {
      close();
      const { last } = await call(contracts.setUpStand, { body: setup });
      listener.current = onReading;
      heard.current = Date.now();
      const events = new EventSource(`${contracts.streamStand.path}?after=${last}`);
      events.addEventListener("reading", (e) => {
        const parsed = standReadingSchema.safeParse(JSON.parse(e.data));
        if (!parsed.success) return;
        heard.current = Date.now();
        setSilent(false);
        setLatest(parsed.data);
        listener.current?.(parsed.data);
      });
      source.current = events;
    },
    [close],
  );
  const command = useCallback(
    (throttle: number, safety: Safety) => call(contracts.commandStand, { body: { throttle, safety } }),
    [],
  );
  return { open, close, command, latest, silent };
}
