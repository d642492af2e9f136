import { FORMAT_VERSION } from "../../core/design/craftFile";
import { setTimeout as pause } from "node:timers/promises";
import type { CraftFileInput } from "../../core/design/craftFile";
import { newRun } from "../support/entries";
import { quietDesign } from "../support/designs";
import { run, version } from "../support/records";
import { send } from "../support/spawn";
import { demoFile } from "../support/demo";

/** A workshop of many crafts: each with ten versions of a real design and thirty runs of each. */
export async function fillWorkshop(address: string, crafts: number, versions = 10, runsEach = 30): Promise<void> {
  const tern = demoFile("tern").versions.at(-1)?.design ?? quietDesign();
  for (let c = 0; c < crafts; c++) {
    const file: CraftFileInput = {
      format: "ultraform-craft",
      formatVersion: FORMAT_VERSION,
      currency: "EUR",
      craft: { name: `Craft ${c + 1}`, summary: "one of many" },
      versions: Array.from({ length: versions }, (_, v) =>
        version(`v${v + 1}`, v === 0 ? null : `v${v}`, {
          design: tern,
          frozenAt: v === versions - 1 ? null : "2026-01-01T10:00:00Z",
        }),
      ),
      runs: Array.from({ length: (versions - 1) * runsEach }, (_, r) =>
        run(r + 1, `v${1 + Math.floor(r / runsEach)}`, 1 + (r % 5), {
          date: new Date(Date.UTC(2026, 0, 1) + r * 3_600_000).toISOString(),
          metrics: [
            {
              metric: "auw",
              dimension: "mass",
              predicted: { value: 1, sd: 0.1, evidence: "calculated" },
              measured: { value: 1.02, sd: 0.01, by: "scale" },
            },
          ],
        }),
      ),
      faults: [],
    };
    const answer = await send(address, "POST", "/api/crafts/import", file);
    if (answer.status !== 200)
      throw new Error(`import ${c + 1}: ${answer.status} ${JSON.stringify(answer.body).slice(0, 300)}`);
  }
}

export interface LoadResult {
  requests: number;
  errors: string[];
  /** ms */
  median: number;
  p99: number;
  slowest: number;
  savesMedian: number;
}

/**
 * Readers and writers for a time. A reader looks at the list, opens a craft, and reads it for a while; a writer saves
 * a draft and logs runs.
 */
export async function load(address: string, readers: number, writers: number, seconds: number): Promise<LoadResult> {
  const times: number[] = [];
  const saves: number[] = [];
  const errors: string[] = [];
  const end = Date.now() + seconds * 1000;
  const slugs = ((await send(address, "GET", "/api/crafts")).body as { slug: string }[]).map((c) => c.slug);
  const timed = async (method: string, path: string, body?: unknown): Promise<number> => {
    const start = performance.now();
    try {
      const response = await fetch(address + path, {
        method,
        headers: body === undefined ? {} : { "content-type": "application/json" },
        body: body === undefined ? undefined : JSON.stringify(body),
        signal: AbortSignal.timeout(20_000),
      });
      await response.arrayBuffer();
      if (response.status >= 500 || (response.status >= 400 && method === "GET"))
        errors.push(`${response.status} ${method} ${path}`);
      const took = performance.now() - start;
      times.push(took);
      return response.status === 200 ? took : Number.NaN;
    } catch (error) {
      errors.push(`${String(error)} ${method} ${path}`);
      return Number.NaN;
    }
  };
  const reader = async (k: number) => {
    await pause((1000 * k) / readers);
    for (let n = k; Date.now() < end; n++) {
      await timed(
        "GET",
        n % 4 === 0 ? "/api/crafts" : n % 4 === 3 ? "/api/shelf" : `/api/crafts/${slugs[n % slugs.length]}`,
      );
      // A person looks at what came before asking again.
      await pause(2000);
    }
  };
  const writer = async (k: number) => {
    const slug = slugs[k] ?? "";
    const held = (await send(address, "GET", `/api/crafts/${slug}`)).body as {
      file: { versions: { label: string; design: ReturnType<typeof quietDesign> }[] };
      revisions: { versions: Record<string, number> };
    };
    const last = held.file.versions.at(-1);
    if (!last) return;
    let revision = held.revisions.versions[last.label] ?? 0;
    for (let n = 0; Date.now() < end; n++) {
      const design = { ...last.design, brief: { ...last.design.brief, purpose: `save ${n}` } };
      const took = await timed("PUT", `/api/crafts/${slug}/versions/${last.label}/design`, { revision, design });
      if (Number.isFinite(took)) {
        revision++;
        saves.push(took);
      }
      if (n % 5 === 4) await timed("POST", `/api/crafts/${slug}/versions/v1/runs`, newRun({ stage: 1 }));
      await pause(500);
    }
  };
  await Promise.all([
    ...Array.from({ length: readers }, (_, k) => reader(k)),
    ...Array.from({ length: writers }, (_, k) => writer(k)),
  ]);
  times.sort((a, b) => a - b);
  saves.sort((a, b) => a - b);
  const at = (list: number[], share: number) =>
    list[Math.min(list.length - 1, Math.floor(share * list.length))] ?? Number.NaN;
  return {
    requests: times.length,
    errors,
    median: at(times, 0.5),
    p99: at(times, 0.99),
    slowest: times.at(-1) ?? Number.NaN,
    savesMedian: at(saves, 0.5),
  };
}
