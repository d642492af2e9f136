import type { StandReading, StandSetup } from "../../api/contracts";

/**
 * A thrust stand, real or simulated: it takes a throttle and sends readings as its instruments show them
 * (docs/stand.md).
 */
export interface Stand {
  readonly id: string;
  readonly name: string;
  /** Readings a second. */
  readonly rate: number;
  /** Sets it up for a drive; what ran before ends. */
  setUp(setup: StandSetup): void;
  /** Throttle, 0 to 1. */
  command(throttle: number): void;
  /** Calls back with every reading until the returned function is called. */
  listen(onReading: (reading: StandReading) => void): () => void;
  close(): void;
}
