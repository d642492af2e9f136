import { type Remote, wrap } from "comlink";
import { type Money, moneyHere } from "../../core/design/money";
import type { Slow } from "./slow.worker";

/** A worker of its own for slow computations, how to end it with whatever it is doing, and what tells that it broke. */
export function newSlow(): { slow: Remote<Slow>; end: () => void; broken: Promise<never> } {
  const worker = new Worker(new URL("./slow.worker.ts", import.meta.url), { type: "module" });
  const broken = new Promise<never>((_, reject) => {
    // Its script was not there, or something in it failed outside of an answer: no answer will come any more.
    worker.addEventListener("error", () => reject(new Error("the worker broke")));
    worker.addEventListener("messageerror", () => reject(new Error("the worker's answer cannot be read")));
  });
  broken.catch(() => {});
  const slow = wrap<Slow>(worker);
  tell(slow);
  return { slow, end: () => worker.terminate(), broken };
}

/** What the worker counts money in: said before it is asked anything. */
function tell(slow: Remote<Slow>): Money {
  const money = moneyHere();
  void slow.money(money).catch(() => {});
  return money;
}

let shared: ReturnType<typeof newSlow> | null = null;
let told: Money | null = null;

/** ms after which an answer is no longer waited for: many times what the slowest craft of the demo takes. */
const PATIENCE = 6000;

/**
 * Asks the worker that the page keeps. One that broke or does not answer is ended; the next question gets a new one.
 * @throws Error when there is no answer
 */
export async function askSlow<T>(ask: (slow: Remote<Slow>) => Promise<T>, patience = PATIENCE): Promise<T> {
  shared ??= newSlow();
  const asked = shared;
  if (told !== moneyHere()) told = tell(asked.slow);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Error("the worker does not answer")), patience);
  });
  try {
    return await Promise.race([ask(asked.slow), asked.broken, late]);
  } catch (error) {
    asked.end();
    if (shared === asked) shared = null;
    throw error;
  } finally {
    clearTimeout(timer);
  }
}
