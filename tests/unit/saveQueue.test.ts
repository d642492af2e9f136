import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { type Sent, SaveQueue, type SaveQueueOptions } from "../../web/app/saveQueue";

interface Doc {
  text: string;
}
const doc = (text: string): Doc => ({ text });

/** A queue whose answers come from a list, with what was sent and what was kept through a reload. */
function started(answers: (Sent<Doc> | "hang")[], more: Partial<SaveQueueOptions<Doc>> = {}) {
  const sent: { revision: number; text: string }[] = [];
  const kept: (string | null)[] = [];
  const begun = doc("begun");
  const queue = new SaveQueue<Doc>({
    server: { revision: 1, document: begun },
    send: (revision, d) => {
      sent.push({ revision, text: d.text });
      const answer = answers.shift() ?? { kind: "saved", revision: revision + 1 };
      return answer === "hang" ? new Promise(() => {}) : new Promise((done) => setTimeout(() => done(answer), 50));
    },
    keep: (u) => kept.push(u?.document.text ?? null),
    ...more,
  });
  return { queue, sent, kept, begun };
}
const none: Sent<Doc> = { kind: "unanswered" };

describe("the queue of saves", () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms);

  it("waits until typing rests, then sends the last state once", async () => {
    const { queue, sent } = started([]);
    for (const text of ["a", "ab", "abc"]) {
      queue.put(doc(text));
      await pass(100);
    }
    expect(queue.now().at).toBe("waiting");
    expect(sent).toEqual([]);
    await pass(600);
    expect(sent).toEqual([{ revision: 1, text: "abc" }]);
    expect(queue.now().at).toBe("clean");
    expect(queue.unsaved()).toBe(false);
  });
  it("sends one after the other: what changed meanwhile goes next, against the new revision", async () => {
    const { queue, sent } = started([]);
    queue.put(doc("one"));
    await pass(510);
    expect(queue.now().at).toBe("sending");
    queue.put(doc("two"));
    await pass(30);
    expect(sent.length).toBe(1);
    await pass(200);
    expect(sent).toEqual([
      { revision: 1, text: "one" },
      { revision: 2, text: "two" },
    ]);
    expect(queue.now().at).toBe("clean");
  });
  it("never says that all is saved while what changed meanwhile is not", async () => {
    const { queue } = started([]);
    const said: string[] = [];
    queue.listen(() => said.push(`${queue.now().at}${queue.unsaved() ? " unsaved" : ""}`));
    queue.put(doc("one"));
    await pass(510);
    queue.put(doc("two"));
    await pass(300);
    expect(said).toEqual(["waiting unsaved", "sending unsaved", "waiting unsaved", "sending unsaved", "clean"]);
  });
  it("sends what was put right while the server refused what stood before", async () => {
    const { queue, sent } = started([{ kind: "refused", why: "too heavy" }]);
    queue.put(doc("wrong"));
    await pass(510);
    queue.put(doc("right"));
    await pass(300);
    expect(sent.map((s) => s.text)).toEqual(["wrong", "right"]);
    expect(queue.now().at).toBe("clean");
  });
  it("tries again by itself when nobody answers, with growing pauses, and says so meanwhile", async () => {
    const { queue, sent } = started([none, none, none]);
    queue.put(doc("kept"));
    await pass(600);
    expect(queue.now()).toMatchObject({ at: "failed", tries: 1 });
    await pass(1000);
    expect(sent.length).toBe(2);
    await pass(1500);
    expect(sent.length).toBe(2);
    await pass(1000);
    expect(sent.length).toBe(3);
    await pass(4100);
    expect(queue.now().at).toBe("clean");
    expect(sent.every((s) => s.revision === 1 && s.text === "kept")).toBe(true);
  });
  it("a further edit while it fails does not stop the tries", async () => {
    const { queue, sent } = started([none, none]);
    queue.put(doc("a"));
    await pass(600);
    queue.put(doc("b"));
    await pass(5000);
    expect(sent.at(-1)).toEqual({ revision: 1, text: "b" });
    expect(queue.now().at).toBe("clean");
  });
  it("without a network nothing is tried until it is back", async () => {
    let online = false;
    const { queue, sent } = started([], { online: () => online });
    queue.put(doc("later"));
    await pass(60_000);
    expect(sent).toEqual([]);
    expect(queue.unsaved()).toBe(true);
    online = true;
    queue.wake();
    await pass(100);
    expect(sent.length).toBe(1);
    expect(queue.now().at).toBe("clean");
  });
  it("what the server refuses is told and not sent again until it changes", async () => {
    const { queue, sent } = started([{ kind: "refused", why: "the disk is full" }]);
    queue.put(doc("x"));
    await pass(60_000);
    expect(sent.length).toBe(1);
    expect(queue.now()).toMatchObject({ at: "failed", why: "the disk is full" });
    queue.put(doc("y"));
    await pass(1000);
    expect(queue.now().at).toBe("clean");
  });
  it("a stale save stops everything until it is decided; mine then goes against theirs", async () => {
    const theirs = doc("theirs");
    const { queue, sent } = started([{ kind: "stale", revision: 7, current: theirs }]);
    queue.put(doc("mine"));
    await pass(600);
    expect(queue.now()).toMatchObject({ at: "stale", revision: 7 });
    queue.put(doc("mine, more"));
    queue.wake();
    await pass(60_000);
    expect(sent.length).toBe(1);
    expect(queue.resolve("mine").text).toBe("mine, more");
    await pass(100);
    expect(sent.at(-1)).toEqual({ revision: 7, text: "mine, more" });
    expect(queue.revision()).toBe(8);
  });
  it("a stale save that touched other things goes on with both, against what is there now", async () => {
    const merges: string[] = [];
    const { queue, sent, kept } = started(
      [
        { kind: "stale", revision: 7, current: doc("theirs") },
        { kind: "stale", revision: 8, current: doc("theirs again") },
      ],
      {
        merge: (base, mine, theirs) => doc(`${base.text} < ${mine.text} + ${theirs.text}`),
        onMerged: (m, { base }) => merges.push(`${base.text}: ${m.text}`),
      },
    );
    queue.put(doc("mine"));
    await pass(1000);
    expect(merges).toEqual(["begun: begun < mine + theirs", "theirs: theirs < begun < mine + theirs + theirs again"]);
    expect(sent.map((s) => s.revision)).toEqual([1, 7, 8]);
    expect(sent.at(-1)?.text).toBe("theirs < begun < mine + theirs + theirs again");
    expect(queue.now().at).toBe("clean");
    expect(queue.unsaved()).toBe(false);
    expect(kept.at(-1)).toBeNull();
  });
  it("flush goes through a merge; what cannot be merged, or grew from nobody knows what, is asked", async () => {
    const merging = started([{ kind: "stale", revision: 7, current: doc("theirs") }], {
      merge: (_b, m) => doc(m.text),
    });
    merging.queue.put(doc("mine"));
    const done = merging.queue.flush();
    await pass(500);
    await done;
    expect(merging.queue.revision()).toBe(8);
    const asking = started([{ kind: "stale", revision: 7, current: doc("theirs") }], { merge: () => null });
    asking.queue.put(doc("mine"));
    await pass(600);
    expect(asking.queue.now().at).toBe("stale");
    let merges = 0;
    const lost = started([{ kind: "stale", revision: 7, current: doc("theirs") }], {
      merge: (_b, m) => {
        merges++;
        return m;
      },
    });
    lost.queue.grewFrom(3, null);
    lost.queue.put(doc("mine"));
    await pass(600);
    expect(lost.queue.now().at).toBe("stale");
    expect(merges).toBe(0);
  });
  it(
    "decided, it goes on with what either changed elsewhere; with the whole of one where that cannot be " + "told",
    async () => {
      const asked = async (merge: SaveQueueOptions<Doc>["merge"]) => {
        const made = started([{ kind: "stale", revision: 7, current: doc("theirs") }], { merge });
        made.queue.put(doc("mine"));
        await pass(600);
        expect(made.queue.now().at).toBe("stale");
        return made;
      };
      const apart = await asked((b, m, t, prefer) =>
        prefer ? doc(`${b.text}: ${prefer} of ${m.text}, ${t.text}`) : null,
      );
      expect(apart.queue.settled("theirs").text).toBe("begun: theirs of mine, theirs");
      expect(apart.queue.resolve("mine").text).toBe("begun: mine of mine, theirs");
      await pass(200);
      expect(apart.sent.at(-1)).toEqual({ revision: 7, text: "begun: mine of mine, theirs" });
      const whole = await asked(() => null);
      expect(whole.queue.settled("theirs").text).toBe("theirs");
      expect(whole.queue.resolve("mine").text).toBe("mine");
    },
  );
  it("theirs taken over leaves nothing unsaved", async () => {
    const theirs = doc("theirs");
    const { queue, sent, kept } = started([{ kind: "stale", revision: 7, current: theirs }]);
    queue.put(doc("mine"));
    await pass(600);
    expect(queue.resolve("theirs")).toBe(theirs);
    await pass(1000);
    expect(sent.length).toBe(1);
    expect(queue.unsaved()).toBe(false);
    expect(kept.at(-1)).toBeNull();
  });
  it("keeps what is unsaved for a reload, and lets go of it when it is saved or undone", async () => {
    const { queue, kept, begun } = started([]);
    queue.put(doc("a"));
    expect(kept).toEqual(["a"]);
    queue.put(begun);
    expect(kept).toEqual(["a", null]);
    await pass(2000);
    expect(queue.now().at).toBe("clean");
    queue.put(doc("b"));
    await pass(700);
    expect(kept).toEqual(["a", null, "b", null]);
  });
  it("flush resolves when the server has it, and throws with why it has not", async () => {
    const fine = started([]);
    fine.queue.put(doc("a"));
    const done = fine.queue.flush();
    await pass(60);
    await expect(done).resolves.toBeUndefined();
    const broken = started([none]);
    broken.queue.put(doc("a"));
    const failed = expect(broken.queue.flush()).rejects.toThrow(/Cannot reach the server/);
    await pass(60);
    await failed;
  });
  it("ended, it sends what is unsaved once more and then nothing", async () => {
    const { queue, sent } = started([none]);
    queue.put(doc("last"));
    queue.end();
    await pass(60_000);
    expect(sent).toEqual([{ revision: 1, text: "last" }]);
  });
  it("an answer that never comes blocks nothing else here", async () => {
    const { queue } = started(["hang"]);
    queue.put(doc("a"));
    await pass(600);
    queue.put(doc("b"));
    expect(queue.now().at).toBe("sending");
    expect(queue.unsaved()).toBe(true);
  });
});
