import { moneyHere } from "../../core/design/money";
import { createHash } from "node:crypto";
import type { Worker } from "node:worker_threads";
import type { Design } from "../../core/design/schema";
import type { Glance } from "../../core/glance";
import { startThread } from "../thread";
import type { Answer, Judged, Task } from "./judged";

/** ms that one evaluation may take. A design at the limits of the schema takes longer than anybody waits. */
const LIMIT = Number(process.env.ULTRAFORM_EVALUATION_MS ?? 8_000);
/** Evaluations that are remembered. */
const KEPT = 64;
/** ms without work after which the thread is let go of: it holds tens of megabytes. */
const IDLE = 60_000;

interface Asked {
  id: number;
  task: Task;
  done: (answer: Answer | null) => void;
  /** Those that somebody waits for come before those of the background. */
  urgent: boolean;
}

/**
 * Evaluates designs in a thread of its own, one after the other, so that no evaluation stops a request. One that
 * takes longer than its limit is given up, with its thread; it answers null
 * then: nothing is known of the design, which is neither good nor bad.
 */
export class Evaluator {
  private worker: Worker | null = null;
  private queue: Asked[] = [];
  private running: Asked | null = null;
  private timer: NodeJS.Timeout | null = null;
  private idle: NodeJS.Timeout | null = null;
  private count = 0;
  private readonly remembered = new Map<string, Judged | null>();
  constructor(private readonly limit = LIMIT) {}

  /**
   * What a run that is logged now would copy in; null when it takes too long. Remembered by the content of the
   * design.
   */
  async judge(design: Design): Promise<Judged | null> {
    const key = createHash("sha1").update(JSON.stringify(design)).digest("base64");
    const held = this.remembered.get(key);
    if (held !== undefined) return held;
    const answer = await this.ask({ kind: "judge", design }, true);
    const judged = answer && "judged" in answer ? answer.judged : null;
    this.remembered.set(key, judged);
    const [oldest] = this.remembered.keys();
    if (this.remembered.size > KEPT && oldest !== undefined) this.remembered.delete(oldest);
    return judged;
  }

  /** What the workshop's list shows; null when it takes too long. */
  async glance(design: Design): Promise<Glance | null> {
    const answer = await this.ask({ kind: "glance", design }, false);
    return answer && "glance" in answer ? answer.glance : null;
  }

  private ask(task: Task, urgent: boolean): Promise<Answer | null> {
    return new Promise((done) => {
      const asked = { id: ++this.count, task, done, urgent };
      const behind = urgent ? this.queue.findIndex((q) => !q.urgent) : -1;
      if (behind >= 0) this.queue.splice(behind, 0, asked);
      else this.queue.push(asked);
      this.next();
    });
  }

  private next(): void {
    if (this.running) return;
    const asked = this.queue.shift();
    if (!asked) {
      this.idle ??= setTimeout(() => this.drop(), IDLE);
      this.idle.unref();
      return;
    }
    if (this.idle) clearTimeout(this.idle);
    this.idle = null;
    this.running = asked;
    if (!this.worker) {
      const worker = startThread("evaluator");
      worker.on("message", ({ id, answer }: { id: number; answer: Answer }) => {
        if (this.worker === worker && this.running?.id === id) this.finish(answer);
      });
      worker.on("error", () => {
        if (this.worker !== worker) return;
        this.drop();
        this.finish(null);
      });
      worker.unref();
      this.worker = worker;
    }
    this.worker.postMessage({ id: asked.id, task: asked.task, money: moneyHere() });
    this.timer = setTimeout(() => {
      this.drop();
      this.finish(null);
    }, this.limit);
  }

  private finish(answer: Answer | null): void {
    if (this.timer) clearTimeout(this.timer);
    const { running } = this;
    this.running = null;
    running?.done(answer);
    this.next();
  }

  private drop(): void {
    const { worker } = this;
    this.worker = null;
    void worker?.terminate();
  }

  close(): void {
    this.drop();
    for (const asked of this.queue) asked.done(null);
    this.queue = [];
    if (this.running) this.finish(null);
  }
}
