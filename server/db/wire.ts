import { Duplex } from "node:stream";
import type { Worker } from "node:worker_threads";
import { startThread } from "../thread";
import type { EngineStart, FromEngine, ToEngine } from "./engine";

/** The engine gave no answer, broke or ended: what was under way is unknown until it is opened again. */
export class EngineLost extends Error {}

interface Waiting {
  take: (bytes: Uint8Array | undefined) => void;
  fail: (error: Error) => void;
  timer: NodeJS.Timeout;
}

/**
 * The embedded database from outside its thread. Whatever it is asked is answered, or fails within `patience` ms;
 * after a failure it is of no more use.
 */
export class Engine {
  private readonly waiting = new Map<number, Waiting>();
  private count = 0;
  lost: Error | null = null;
  private started: (failed?: Error) => void = () => {};
  private constructor(
    private readonly worker: Worker,
    private readonly patience: number,
  ) {
    worker.on("message", (m: FromEngine) => this.heard(m));
    worker.on("error", (error) => this.lose(new EngineLost(`the database engine broke: ${error.message}`)));
    worker.on("exit", () => this.lose(new EngineLost("the database engine ended")));
  }

  /** @throws EngineLost when the cluster does not open within `opening` ms */
  static async open(start: EngineStart, opening: number, patience = opening): Promise<Engine> {
    const worker = startThread("engine", { workerData: start, stdout: true, stderr: true });
    // What the engine prints holds file names and queries: not for the log.
    worker.stdout.resume();
    worker.stderr.resume();
    const engine = new Engine(worker, patience);
    try {
      await new Promise<void>((resolve, reject) => {
        const timer = setTimeout(() => reject(new EngineLost("the database engine does not start")), opening);
        engine.started = (failed) => {
          clearTimeout(timer);
          if (failed) reject(failed);
          else resolve();
        };
      });
      return engine;
    } catch (error) {
      await engine.kill();
      throw error;
    }
  }

  private heard(m: FromEngine): void {
    if ("failed" in m) this.lose(new EngineLost(m.failed));
    if (!("id" in m)) {
      this.started();
      return;
    }
    const asked = this.waiting.get(m.id);
    if (!asked) return;
    this.waiting.delete(m.id);
    clearTimeout(asked.timer);
    if (m.error === undefined) asked.take(m.bytes);
    else {
      const error = new EngineLost(m.error);
      asked.fail(error);
      this.lose(error);
    }
  }

  private lose(error: Error): void {
    this.lost ??= error;
    this.started(error);
    for (const asked of this.waiting.values()) {
      clearTimeout(asked.timer);
      asked.fail(this.lost);
    }
    this.waiting.clear();
    void this.worker.terminate();
  }

  private ask(message: { bytes: Uint8Array } | { close: true }): Promise<Uint8Array | undefined> {
    if (this.lost) return Promise.reject(this.lost);
    const id = ++this.count;
    return new Promise((take, fail) => {
      const timer = setTimeout(
        () => this.lose(new EngineLost(`the database gave no answer within ${Math.round(this.patience / 1000)} s`)),
        this.patience,
      );
      timer.unref();
      this.waiting.set(id, { take, fail, timer });
      // Handed over, not copied: the bytes are of no more use here.
      this.worker.postMessage(
        { id, ...message } satisfies ToEngine,
        "bytes" in message ? [message.bytes.buffer as ArrayBuffer] : [],
      );
    });
  }

  /** Protocol messages in, the engine's answer out. @throws EngineLost */
  async exec(bytes: Uint8Array): Promise<Uint8Array> {
    return (await this.ask({ bytes })) ?? new Uint8Array();
  }

  /** Ends it in good order. */
  async close(): Promise<void> {
    await this.ask({ close: true }).catch(() => {});
    await this.kill();
  }

  async kill(): Promise<void> {
    this.lost ??= new EngineLost("the database engine was stopped");
    await this.worker.terminate();
  }
}

/** A connection to the engine in the shape of the socket that the PostgreSQL client speaks through. */
export class EngineSocket extends Duplex {
  constructor(private readonly engine: () => Engine) {
    super();
  }
  setNoDelay(): this {
    return this;
  }
  setKeepAlive(): this {
    return this;
  }
  ref(): this {
    return this;
  }
  unref(): this {
    return this;
  }
  connect(): this {
    setImmediate(() => this.emit("connect"));
    return this;
  }
  override _read(): void {}
  override _write(chunk: Buffer, _encoding: BufferEncoding, done: (error?: Error | null) => void): void {
    this.send(chunk, done);
  }
  override _writev(chunks: { chunk: Buffer }[], done: (error?: Error | null) => void): void {
    this.send(Buffer.concat(chunks.map((c) => c.chunk)), done);
  }
  private send(bytes: Buffer, done: (error?: Error | null) => void): void {
    // 'X': the client says goodbye; the engine itself goes on.
    if (bytes[0] === 0x58 && bytes.length === 5) {
      this.push(null);
      done();
      return;
    }
    this.engine()
      // A copy of its own: a view into a larger buffer is misread by the engine.
      .exec(new Uint8Array(bytes))
      .then((answer) => {
        this.push(Buffer.from(answer.buffer, answer.byteOffset, answer.byteLength));
        done();
      })
      .catch((error: Error) => done(error));
  }
}
