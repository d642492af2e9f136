import { readFileSync } from "node:fs";
import { join } from "node:path";
import { contracts } from "../../api/contracts";
import { newFault } from "../../core/design/craftFile";
import { seededRandom } from "../../core/numeric/random";
import { newPlan, newRun } from "../support/entries";
import { quietDesign } from "../support/designs";
import { root } from "../support/spawn";

type Random = ReturnType<typeof seededRandom>;
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random.uniform() * list.length)] as T;

/** What a value may turn into: numbers beyond all bounds, signs that no text has, other types, nothing. */
const NASTY: readonly unknown[] = [
  ...[
    null,
    true,
    "",
    "x",
    " ",
    0,
    -1,
    1e308,
    -1e308,
    1e-320,
    1e15,
    2 ** 31,
    2 ** 32,
    2 ** 53,
    -0,
    0.1,
    [],
    {},
    [[]],
    [null],
  ],
  ...[
    "\u0000",
    "a\u0000b",
    "\ud800",
    "\udfff x",
    "\u202e",
    "🙂".repeat(40),
    "x".repeat(300),
    "x".repeat(9000),
    "__proto__",
    "NaN",
    "1e999",
    "'; drop table crafts; --",
    "../../etc/passwd",
  ],
];
/** The same as raw text in the place of a value: what JSON.stringify would not write. */
const RAW = [
  "1e999",
  "-1e999",
  '"\\u0000"',
  '"\\ud800"',
  "NaN",
  "{",
  "]",
  "1e",
  `${"[".repeat(200)}${"]".repeat(200)}`,
  "9".repeat(400),
  "-",
];

/** Changes a document in a few random places. */
export function mutated(random: Random, document: unknown): unknown {
  const copy = structuredClone(document);
  const places: { holder: Record<string | number, unknown>; key: string | number }[] = [];
  const walk = (node: unknown) => {
    if (typeof node !== "object" || node === null) return;
    for (const key of Array.isArray(node) ? node.keys() : Object.keys(node)) {
      places.push({ holder: node as Record<string | number, unknown>, key });
      walk((node as Record<string | number, unknown>)[key]);
    }
  };
  walk(copy);
  const changes = 1 + Math.floor(3 * random.uniform());
  for (let k = 0; k < changes && places.length > 0; k++) {
    const { holder, key } = pick(random, places);
    const what = random.uniform();
    if (what < 0.65) holder[key] = pick(random, NASTY);
    else if (what < 0.75) delete holder[key];
    else if (what < 0.85) holder[key] = structuredClone(pick(random, places).holder);
    else if (what < 0.92 && Array.isArray(holder)) (holder as unknown as unknown[]).push(structuredClone(holder[key]));
    else holder[pick(random, ["extra", "__proto__", "constructor", "id", "number", "revision"])] = pick(random, NASTY);
  }
  return copy;
}

/** Text of a mutated document, sometimes cut or with raw nonsense in it. */
export function mutatedText(random: Random, document: unknown): string {
  let text = JSON.stringify(mutated(random, document)) ?? "";
  const what = random.uniform();
  if (what < 0.08) text = text.slice(0, Math.floor(text.length * random.uniform()));
  else if (what < 0.2) {
    const at = Math.floor(text.length * random.uniform());
    text = text.slice(0, at) + pick(random, RAW) + text.slice(at + Math.floor(4 * random.uniform()));
  } else if (what < 0.26) text = text.replace(/:(\d+(\.\d+)?)/, () => `:${pick(random, RAW)}`);
  return text;
}

const demo = (name: string) =>
  JSON.parse(readFileSync(join(root, `demo/${name}.json`), "utf8")) as { versions: { design: unknown }[] };

/** A sensible body for each route. */
function bodies(): Record<string, unknown> {
  const design = quietDesign();
  const tern = demo("annulus");
  const session = {
    date: "2026-01-01T10:00:00Z",
    weighIn: { kind: "total", scale: { resolution: 0.001, error: 0.001 }, loads: [1.2] },
    notes: "",
    files: [],
  };
  const part = {
    kind: "motor",
    name: "M",
    mass: null,
    price: null,
    notes: "",
    kv: known(1000),
    resistance: known(0.1),
    noLoadCurrent: known(1),
    maxCurrent: 20,
  };
  return {
    createCraft: { craft: { name: "F", summary: "" }, design, question: "" },
    importCraft: tern,
    createVersion: { parent: "v1", question: "", reason: "r", claims: [], design: tern.versions[0]?.design },
    saveDesign: { revision: 0, design: tern.versions[0]?.design },
    saveVersion: { revision: 0, question: "q", whys: [], advice: [], claims: [] },
    createRun: newRun({
      stage: 1,
      measured: [{ metric: "auw", dimension: "mass", measured: { value: 1, sd: 0.1, by: "" } }],
    }),
    createRuns: { runs: [{ version: "v1", run: newRun({ stage: 1 }) }] },
    saveRun: { revision: 0, run: newRun({ stage: 1 }) },
    createFault: { ...newFault(1), title: "f" },
    saveFault: { revision: 0, fault: { ...newFault(1), title: "f" } },
    createPlan: newPlan(),
    savePlan: { revision: 0, plan: newPlan() },
    saveSymptom: {
      revision: null,
      symptom: {
        id: "own-a",
        text: "t",
        group: "air",
        causes: [{ id: "a", text: "a", test: "t", minutes: 1, cost: 0, risk: "none", fix: "" }],
      },
    },
    createBench: session,
    saveBench: { revision: 0, session },
    addToShelf: { parts: [part] },
    saveShelf: { revision: 0, part },
    learn: { revision: 0, unitIds: ["a"] },
    adopt: { revision: 0, evidence: { entries: [] }, said: "s" },
    addFile: { type: "text/plain", content: "aGVsbG8=" },
    mendRecord: { kind: "run", name: "1", revision: 0 },
    commandStand: {
      throttle: 0,
      safety: {
        restraint: true,
        plane: true,
        shield: true,
        distance: true,
        people: true,
        cutOff: true,
        place: "outdoors",
      },
    },
  };
}
const known = (value: number) => ({ value, evidence: "measured" });

const SLUGS = ["f", "f", "f", "fuzz", "fuzz", "x%00", "%F0%28", "..", "a".repeat(200)];
const LABELS = ["v1", "v2", "v1a", "v9", "%ED%A0%80", "v 1"];
const NUMBERS = ["1", "2", "3", "0", "-1", "1.5", "2147483648", "99999999999999999999", "1e3", "x", "%00"];

export interface FuzzResult {
  sent: number;
  statuses: Record<string, number>;
  wrong: string[];
}

/** Sends mutated requests to every route. Every answer below 500 is right; anything else, or none, is not. */
export async function fuzzRequests(address: string, count: number, seed: number, lanes = 4): Promise<FuzzResult> {
  const out: FuzzResult = { sent: 0, statuses: {}, wrong: [] };
  const sensible = bodies();
  const routes = Object.entries(contracts).filter(([name]) => !["streamStand", "backup"].includes(name));
  const lane = async (random: Random, share: number) => {
    for (let k = 0; k < share && out.wrong.length < 20; k++) {
      const [name, contract] = pick(random, routes);
      const path = contract.path
        .replace(":slug", () => pick(random, SLUGS))
        .replace(":label", () => pick(random, LABELS))
        .replace(":number", () => pick(random, NUMBERS))
        .replace(":hash", () => pick(random, ["0".repeat(64), "x", "%00"]))
        .replace(":id", () =>
          name.includes("ymptom") ? pick(random, ["own-a", "own-b", "%00", "x"]) : pick(random, NUMBERS),
        );
      const text =
        contract.method === "get" || contract.method === "delete"
          ? undefined
          : mutatedText(random, sensible[name] ?? {});
      const about = `${contract.method} ${path} ${text?.slice(0, 300) ?? ""}`;
      try {
        const response = await fetch(address + path, {
          method: contract.method.toUpperCase(),
          headers:
            text === undefined
              ? {}
              : {
                  "content-type": pick(random, [
                    "application/json",
                    "application/json",
                    "application/json",
                    "text/plain",
                    "application/x-tar",
                  ]),
                },
          body: text,
          signal: AbortSignal.timeout(30_000),
        });
        const answer = await response.arrayBuffer();
        out.statuses[response.status] = (out.statuses[response.status] ?? 0) + 1;
        if (response.status >= 500)
          out.wrong.push(`${response.status} ${about} ${Buffer.from(answer).toString("utf8").slice(0, 200)}`);
      } catch (error) {
        // A path that no client would send is refused before it leaves.
        if (error instanceof TypeError && /URL/.test(error.message)) continue;
        out.wrong.push(`${String(error)} ${about}`);
      }
      out.sent++;
    }
  };
  await Promise.all(
    Array.from({ length: lanes }, (_, k) => lane(seededRandom(seed * 100 + k), Math.ceil(count / lanes))),
  );
  return out;
}

/**
 * Sends mutated craft files, as JSON and as tar, and then looks whether every craft that is there opens and exports.
 */
export async function fuzzFiles(address: string, count: number, seed: number): Promise<FuzzResult> {
  const out: FuzzResult = { sent: 0, statuses: {}, wrong: [] };
  const files = ["annulus", "samphire", "lantern", "gannet", "tern"].map(demo);
  const random = seededRandom(seed);
  const ask = async (
    method: string,
    path: string,
    body?: string | Uint8Array<ArrayBuffer>,
    type = "application/json",
  ) => {
    const response = await fetch(address + path, {
      method,
      headers: body === undefined ? {} : { "content-type": type },
      body,
      signal: AbortSignal.timeout(60_000),
    });
    return { status: response.status, body: Buffer.from(await response.arrayBuffer()) };
  };
  for (let k = 0; k < count && out.wrong.length < 20; k++) {
    // The small files mostly: the large one takes its time.
    const file = random.uniform() < 0.94 ? pick(random, files.slice(0, 2)) : pick(random, files);
    const tar = random.uniform() < 0.2;
    const text = mutatedText(random, file);
    try {
      const body = tar ? tarOf(random, text) : text;
      const answer = await ask(
        "POST",
        "/api/crafts/import",
        body as string,
        tar ? "application/x-tar" : "application/json",
      );
      out.statuses[answer.status] = (out.statuses[answer.status] ?? 0) + 1;
      out.sent++;
      if (answer.status >= 500)
        out.wrong.push(`${answer.status} ${answer.body.toString("utf8").slice(0, 200)} ${text.slice(0, 200)}`);
      if (answer.status !== 200) continue;
      const { slug } = JSON.parse(answer.body.toString("utf8")) as { slug: string };
      for (const path of [`/api/crafts/${slug}`, `/api/crafts/${slug}/export`, `/api/crafts/${slug}/export.tar`]) {
        const opened = await ask("GET", path);
        if (opened.status !== 200)
          out.wrong.push(`${path} ${opened.status} ${opened.body.toString("utf8").slice(0, 200)}`);
      }
      const gone = await ask("DELETE", `/api/crafts/${slug}`);
      if (gone.status !== 200) out.wrong.push(`delete ${slug}: ${gone.status}`);
    } catch (error) {
      out.wrong.push(`${String(error)} ${text.slice(0, 200)}`);
    }
  }
  return out;
}

/** A tar with a craft in it, sometimes damaged. */
function tarOf(random: Random, text: string): Uint8Array<ArrayBuffer> {
  const body = Buffer.from(text);
  const head = Buffer.alloc(512);
  head.write("craft.json");
  head.write("0000644\0", 100);
  head.write("0000000\0", 108);
  head.write("0000000\0", 116);
  head.write(`${body.length.toString(8).padStart(11, "0")}\0`, 124);
  head.write("00000000000\0", 136);
  head.write("        0", 148);
  head.write("ustar\u000000", 257);
  const sum = head.reduce((s, b) => s + b, 0);
  head.write(`${sum.toString(8).padStart(6, "0")}\0 `, 148);
  const whole = Buffer.concat([head, body, Buffer.alloc((512 - (body.length % 512)) % 512), Buffer.alloc(1024)]);
  if (random.uniform() < 0.4)
    for (let k = 0; k < 4; k++) whole[Math.floor(whole.length * random.uniform())] = Math.floor(256 * random.uniform());
  return new Uint8Array(
    random.uniform() < 0.2 ? whole.subarray(0, Math.floor(whole.length * random.uniform())) : whole,
  );
}
