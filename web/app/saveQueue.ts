/** What became of a save that was sent. */
export type Sent<D> =
  | { kind: "saved"; revision: number }
  | { kind: "stale"; revision: number; current: D }
  | { kind: "unanswered" }
  | { kind: "refused"; why: string };

/** Where the saving of a document stands. */
export type SaveState<D> =
  /** The server has what is here. */
  | { at: "clean" }
  /** Changed; it is sent when nothing has been typed for a moment. */
  | { at: "waiting" }
  | { at: "sending" }
  /** Not answered, or refused with why; tried again, the time between doubling. */
  | { at: "failed"; why: string; tries: number }
  /** Somebody saved in between: nothing is sent until one of the two states is chosen. */
  | { at: "stale"; revision: number; current: D };

/** What is not on the server, and what it grew from: its revision, and the document where that is known. */
export interface Unsaved<D> {
  revision: number;
  document: D;
  base: D | null;
}

export interface SaveQueueOptions<D> {
  /** What the server has, and its revision. */
  server: { revision: number; document: D };
  /** Sends one document against a revision; never throws. */
  send: (revision: number, document: D) => Promise<Sent<D>>;
  /** Keeps what is not saved through a reload; null: nothing is unsaved. */
  keep?: (unsaved: Unsaved<D> | null) => void;
  onSaved?: (revision: number, document: D) => void;
  /**
   * What stands when both here and there something was changed since the base; null where that must be decided by
   * somebody, or cannot be even where somebody has.
   */
  merge?: (base: D, mine: D, theirs: D, prefer?: "mine" | "theirs") => D | null;
  onMerged?: (merged: D, of: { base: D; mine: D; theirs: D }) => void;
  /** ms without a change before it is sent */
  quiet?: number;
  /** ms until the first further try */
  again?: number;
  /** Whether the network is there at all: without it nothing is tried. */
  online?: () => boolean;
}

const QUIET = 500;
const AGAIN = 1000;
const LONGEST = 30_000;

/**
 * The saving of one document as a machine of five states, apart from any page. One save at a time, each against the
 * revision of the one before; what failed is tried again with growing
 * pauses, at once when the network or the window comes back. A stale save that touched other things than what was saved
 * in between goes on with both; every other stops everything until it is decided.
 */
export class SaveQueue<D> {
  private present: D;
  private server: { revision: number; document: D };
  /** What the server had at the revision that a save is sent against; null: from before a reload, and not known. */
  private base: D | null;
  private state: SaveState<D> = { at: "clean" };
  private timer: ReturnType<typeof setTimeout> | null = null;
  private busy: Promise<void> | null = null;
  private readonly heard = new Set<() => void>();
  private over = false;

  constructor(private readonly options: SaveQueueOptions<D>) {
    this.server = options.server;
    this.base = options.server.document;
    this.present = options.server.document;
  }

  now(): SaveState<D> {
    return this.state;
  }
  /** Whether something here is not on the server. */
  unsaved(): boolean {
    return this.present !== this.server.document;
  }
  revision(): number {
    return this.server.revision;
  }
  listen(heard: () => void): () => void {
    this.heard.add(heard);
    return () => this.heard.delete(heard);
  }

  /** The document as it is now. */
  put(document: D): void {
    if (document === this.present) return;
    this.present = document;
    this.keep();
    if (this.state.at === "stale" || this.busy) return;
    if (!this.unsaved()) {
      if (this.timer) clearTimeout(this.timer);
      this.go({ at: "clean" });
    } else {
      // A refusal may be over with this change; what was not answered keeps its own pace.
      if (this.state.at !== "failed" || this.state.why !== "") this.go({ at: "waiting" });
      this.after(this.options.quiet ?? QUIET);
    }
  }

  /** Sends what is unsaved at once; resolves when the server has it. @throws Error with why it has not */
  async flush(): Promise<void> {
    for (let n = 0; n < 20; n++) {
      if (this.busy) await this.busy;
      if (this.state.at === "stale")
        throw new Error("It was saved elsewhere in the meantime: choose one of the two states first.");
      if (!this.unsaved()) return;
      await this.trySave();
      if (this.state.at === "failed")
        throw new Error(this.state.why || "Cannot reach the server. Your entries are still here.");
    }
  }

  /** The network or the window is back: what waits is sent now. */
  wake(): void {
    if (this.unsaved() && this.state.at !== "stale" && !this.busy && !this.over) void this.trySave();
  }

  /** What unsaved edits grew from, where they come from before a reload. */
  grewFrom(revision: number, base: D | null): void {
    this.server = { ...this.server, revision };
    this.base = base;
  }

  /** Saved in another window while nothing was unsaved here. */
  took(revision: number, document: D): void {
    this.has(revision, document);
    this.present = document;
    this.keep();
    this.go({ at: "clean" });
  }

  /**
   * What would stand if a stale save were decided so: where both changed one thing the one that is kept, elsewhere what
   * either changed; the whole of one where they cannot be told apart.
   */
  settled(keep: "mine" | "theirs"): D {
    if (this.state.at !== "stale") return this.present;
    const whole = keep === "mine" ? this.present : this.state.current;
    return (this.base !== null && this.options.merge?.(this.base, this.present, this.state.current, keep)) || whole;
  }

  /** Decides a stale save, and sends what was not there. @returns the document that stands now */
  resolve(keep: "mine" | "theirs"): D {
    if (this.state.at !== "stale") return this.present;
    const stands = this.settled(keep);
    const { revision, current } = this.state;
    this.has(revision, current);
    this.present = stands;
    this.keep();
    if (this.unsaved()) {
      this.go({ at: "waiting" });
      void this.trySave();
    } else this.go({ at: "clean" });
    return this.present;
  }

  /** Begins anew after an end, as a page does that is shown again. */
  begin(): void {
    this.over = false;
  }

  /** Ends it: what is unsaved is sent once more, and nothing after that. */
  end(): void {
    const last = this.unsaved() && this.state.at !== "stale";
    if (this.timer) clearTimeout(this.timer);
    if (last && !this.busy) void this.trySave();
    this.over = true;
  }

  private go(state: SaveState<D>): void {
    // Typing on while it waits is no news.
    if (state.at === this.state.at && (state.at === "waiting" || state.at === "clean")) return;
    this.state = state;
    for (const heard of this.heard) heard();
  }
  private keep(): void {
    const { revision } = this.server;
    this.options.keep?.(this.unsaved() ? { revision, document: this.present, base: this.base } : null);
  }
  /** The server has this now. */
  private has(revision: number, document: D): void {
    this.server = { revision, document };
    this.base = document;
  }
  /** The server has answered: all is saved, or what was changed meanwhile waits. Never the one before the other. */
  private onTerms(): void {
    this.go({ at: this.unsaved() ? "waiting" : "clean" });
  }
  /** Goes on with what was changed here and there, where that can be told apart. */
  private merged(revision: number, theirs: D): boolean {
    const { base, present: mine } = this;
    const both = base === null ? null : (this.options.merge?.(base, mine, theirs) ?? null);
    if (base === null || both === null) return false;
    this.has(revision, theirs);
    this.present = both;
    this.keep();
    this.options.onMerged?.(both, { base, mine, theirs });
    return true;
  }
  private after(ms: number): void {
    if (this.timer) clearTimeout(this.timer);
    if (this.over) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      if (this.options.online?.() === false) return;
      void this.trySave();
    }, ms);
  }

  private trySave(): Promise<void> {
    this.busy ??= this.sendOne().finally(() => {
      this.busy = null;
      // What changed while it was under way goes next.
      if (this.state.at === "waiting") this.after(0);
    });
    return this.busy;
  }

  private async sendOne(): Promise<void> {
    if (this.timer) clearTimeout(this.timer);
    const sending = this.present;
    const tries = this.state.at === "failed" ? this.state.tries : 0;
    this.go({ at: "sending" });
    const answer = await this.options.send(this.server.revision, sending);
    if (answer.kind === "saved") {
      this.has(answer.revision, sending);
      this.keep();
      this.options.onSaved?.(answer.revision, sending);
      this.onTerms();
    } else if (answer.kind === "stale") {
      // Sent at once, against what is there now; were that stale again, the same once more.
      if (this.merged(answer.revision, answer.current)) this.onTerms();
      else this.go({ at: "stale", revision: answer.revision, current: answer.current });
    } else {
      this.go({ at: "failed", why: answer.kind === "refused" ? answer.why : "", tries: tries + 1 });
      // What the server refused is not sent again until it changes, which it may have done meanwhile.
      if (answer.kind === "refused" && this.present !== sending) this.go({ at: "waiting" });
      if (answer.kind === "unanswered") this.after(Math.min(LONGEST, (this.options.again ?? AGAIN) * 2 ** tries));
    }
  }
}
