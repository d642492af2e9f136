/**
 * Speed of what runs while a part is dragged. Run: npm run bench (bundled; processor time, after a warm-up); with
 * --smoke a short round without a browser, which the tests run.
 * Prints the time of evaluate() for 15, 60 and 300 parts, of the balance solver, how many drives, endurances and
 * sizing candidates are solved in a second, of a lattice beside LAPACK, of every single loss of eight thrusters, and
 * the script time per frame in Chromium while a part or a wing is dragged.
 */
import { rmSync } from "node:fs";
import { type Design, emptyDesign, newItem, usualState } from "../core/design/schema";
import { editDesign } from "../core/design/edit";
import { evaluate } from "../core/evaluate";
import { alternatives } from "../core/subjects/balance/solver";
import { seededRandom } from "../core/numeric/random";
import { solveChain, solvePack } from "../core/subjects/propulsion/chain";
import { endurance } from "../core/subjects/energy/endurance";
import { propellerLoad } from "../core/subjects/propulsion/propeller";
import { nominalSetup } from "../core/subjects/propulsion/nominal";
import { setUp } from "../core/subjects/propulsion/setup";
import { search, type SearchBounds } from "../core/sizing/search";
import {
  type DriveChoice,
  type PackChoice,
  driveOf,
  driveParts,
  packParts,
  searchedOf,
} from "../core/sizing/searchParts";
import { type SearchSpace, choices, sizeOf, spaceAround } from "../core/sizing/searchSpace";
import { plainEndurance, plainFullThrottle } from "./plainChain";
import { EVERY_KIND } from "../tests/support/kinds";
import { startChromium } from "../tests/support/chromium";
import { fillWorkshop } from "../tests/torture/load";
import { freshFolder, send, spawnServer } from "../tests/support/spawn";
import { demoFile } from "../tests/support/demo";
import { byLapack, kernels } from "./benchKernels";

/** The newest demo design, filled up with parts to this many. */
function craftOf(parts: number): Design {
  const random = seededRandom(parts);
  const base = demoFile("tern").versions.at(-1)?.design ?? emptyDesign("wings");
  const items = base.items.slice(0, parts);
  for (let i = items.length; i < parts; i++)
    items.push(
      newItem({
        id: `x${i}`,
        name: `Part ${i}`,
        group: `Group ${i % 6}`,
        mass: { value: 0.002 + 0.01 * random.uniform(), evidence: "measured" },
        place: { x: 0.85 * random.uniform(), y: 0.3 * (random.uniform() - 0.5), z: 0.2 * random.uniform() },
        size: { x: 0.03, y: 0.02, z: 0.01 },
      }),
    );
  return { ...base, items: items.map((i) => ({ ...i, parentId: null })) };
}

/**
 * The newest design of a demo craft for the chains by themselves: what its duty asks in flight on wings is a thrust
 * (3.6 N, as Tern's was), which needs no wings to be solved.
 */
function standing(name: string): Design | undefined {
  const design = structuredClone(demoFile(name).versions.at(-1)?.design);
  for (const p of design?.dragArea === null ? design.duty : [])
    if (p.by === "speed") Object.assign(p, { by: "thrust", value: 3.6 });
  return design;
}

/** Frames before the measurement, for the browser's compiler. */
const WARM_UP = 80;

const percentile = (list: number[], share: number) =>
  list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.floor(share * list.length))] ?? Number.NaN;
/** What was measured before subjects were folders of their own and slow ones left the page's thread, ms. */
const BEFORE: Record<string, string> = {
  "script per frame, one of 60 parts, dragged": "12.9 and 19.6 in the first run after",
  "script per frame, one of 1000 parts, dragged": "172",
  "longest blocking, a propeller of five drives": "922",
  "workshop, 60 crafts, after the answer": "500 to 2700 for the first card",
};
const line = (name: string, times: number[]) =>
  console.log(
    `${name.padEnd(46)} median ${percentile(times, 0.5).toFixed(2)} ms, 95th percentile ${percentile(times, 0.95).toFixed(2)} ms${
      BEFORE[name] ? ` (before: ${BEFORE[name]} ms)` : ""
    }`,
  );

const SMOKE = process.argv.includes("--smoke");
const most = (times: number) => (SMOKE ? Math.max(2, Math.round(times / 20)) : times);
/** Processor time of this process, ms: what else the machine does is not counted. */
const spent = () => {
  const { user, system } = process.cpuUsage();
  return (user + system) / 1000;
};

function timed(times: number, work: (k: number) => void): number[] {
  return Array.from({ length: most(times) }, (_, k) => {
    const start = spent();
    work(k);
    return spent() - start;
  });
}

for (const parts of [15, 60, 300]) {
  // Edited as the page does: written into the same objects, everything would be remembered and nothing measured.
  let design = craftOf(parts);
  const moved = (x: number) => {
    const edited = editDesign(design, (d) => {
      const pack = d.items.find((i) => i.id === "pack");
      if (pack) pack.place.x = x;
    });
    if (!edited.ok) throw new Error(edited.message);
    design = edited.design;
    const { metrics } = evaluate(design);
    if (!metrics.cgX) throw new Error("no CG");
  };
  timed(100, (k) => moved(0.25 + 0.0001 * k));
  line(
    `edit and evaluate(), ${parts} parts, one moved`,
    timed(120, (k) => moved(0.2 + 0.001 * k)),
  );
}
{
  const design = craftOf(60);
  line(
    "balance solver, all ways, 60 parts",
    timed(
      30,
      (k) =>
        void alternatives(design, {
          sliders: design.items.map((i) => i.id),
          spots: ["nose", "tail"],
          goals: { x: { low: 0.3 + 0.001 * k, high: 0.3 + 0.001 * k } },
        }),
    ),
  );
}

{
  const rate = (name: string, times: number, work: (k: number) => void) => {
    for (let k = 0; k < most(times / 4); k++) work(k);
    const start = spent();
    for (let k = 0; k < most(times); k++) work(k);
    console.log(`${name.padEnd(46)} ${Math.round((most(times) * 1000) / (spent() - start))} in a second`);
  };
  for (const p of EVERY_KIND) {
    const design = structuredClone(demoFile("tern").versions.at(-1)?.design);
    const unit = design?.units[0];
    if (!design || !unit) continue;
    Object.assign(unit, { propulsor: p, surroundings: "in air" });
    design.states = [usualState("ground", "hull")];
    const setup = nominalSetup(design, null);
    const [drive, pack] = [setup?.units[0]?.drive, setup?.packs[0]];
    if (!drive || !pack) continue;
    const source = { openCircuit: 12, resistance: pack.pack.resistance, otherLoad: 1 };
    rate(
      `${p.kind}: one drive solved on its pack`,
      2000,
      (k) => void solveChain(drive, source, 0.3 + (0.7 * k) / 2000),
    );
    const [ours, plain] = [solveChain(drive, source, 1), plainFullThrottle(drive, source)];
    if (ours.status === "converged" && plain)
      console.log(
        `${`${p.kind}: thrust of both`.padEnd(46)} ` +
          `${(100 * Math.abs(ours.point.thrust / plain.thrust - 1)).toFixed(4)} % apart`,
      );
  }
  for (const name of ["tern", "lantern"]) {
    const design = standing(name);
    const setup = design && nominalSetup(design, 1);
    const pack = setup?.packs[0];
    if (!design || !setup || !pack) continue;
    const drives = pack.units.flatMap((i) => setup.units[i]?.drive ?? []);
    const source = {
      openCircuit: 4 * (design.batteries[0]?.series ?? 1),
      resistance: pack.pack.resistance,
      otherLoad: 1,
    };
    const [first] = drives;
    // Another throttle each time, so that nothing is remembered; the propeller's map is made once, as in use.
    if (first) {
      rate(
        `${name}: one drive solved on its pack`,
        4000,
        (k) => void solveChain(first, source, 0.3 + (0.7 * k) / 4000),
      );
      rate(
        `${name}: the same by the plain bisection`,
        1000,
        (k) => void plainFullThrottle(first, { ...source, openCircuit: source.openCircuit * (1 - k / 1e5) }),
      );
      const ours = solveChain(first, source, 1);
      const plain = plainFullThrottle(first, source);
      const apart = ours.status === "converged" && plain ? Math.abs(ours.point.thrust / plain.thrust - 1) : Number.NaN;
      console.log(`${`${name}: thrust of both`.padEnd(46)} ${(100 * apart).toFixed(4)} % apart`);
      if (!(apart < 1e-3)) throw new Error(`the product's drive and the plain one are ${apart} apart`);
    }
    if (drives.length > 1)
      rate(
        `${name}: ${drives.length} drives solved on one pack`,
        300,
        (k) =>
          void solvePack(
            drives.map((drive) => ({ drive, throttle: 0.3 + (0.7 * k) / 300 })),
            source,
          ),
      );
    rate(
      `${name}: endurance of its duty`,
      20,
      () =>
        void endurance(
          drives.map((drive) => ({ drive, limit: 1 })),
          pack.pack,
          pack.phases,
        ),
    );
  }
  const design = standing("tern");
  const unitIds = design?.units.slice(0, 1).map((u) => u.id) ?? [];
  const around = design && spaceAround(design, [unitIds]);
  const [first, pack] = [design?.units[0], design?.batteries[0]];
  if (design && around && first && pack) {
    const space: SearchSpace = {
      ...around,
      sets: around.sets.map((s) => ({ ...s, space: { ...s.space, kv: s.space.kv.slice(0, 2) } })),
    };
    const bounds: SearchBounds = {
      maxMass: 1.5,
      minEndurance: 360,
      minThrustToWeight: 0.8,
      maxCost: null,
      maxTipMach: 0.7,
      structure: 0.15,
    };
    const of = sizeOf(design, space);
    const list = SMOKE ? [...choices(design, space)].slice(0, 20) : [...choices(design, space)];
    const timeOf = (name: string, count: number, work: () => void) => {
      const start = spent();
      work();
      console.log(
        `${name.padEnd(46)} ${Math.round((count * 1000) / (spent() - start))} candidates in a second (${count})`,
      );
    };
    const drivenBy = (choice: (typeof list)[number]) => {
      const was = searchedOf(design, first);
      const [drive, fed] = [choice.drives[0] as DriveChoice, choice.packs[0] as PackChoice];
      return {
        unit: driveOf(was, drive, driveParts(drive, fed.series, was)),
        battery: packParts(fed, pack.chemistry).fitted(pack),
      };
    };
    const plainly = () => {
      for (const choice of list) {
        const { unit, battery } = drivenBy(choice);
        const setup = setUp({ ...design, units: [unit], batteries: [battery] }, new Map([["/mass", 1]]));
        const [fed] = setup.packs;
        const [driven] = setup.units;
        if (fed && driven)
          plainFullThrottle(driven.drive, {
            openCircuit: 4.2 * battery.series,
            resistance: fed.pack.resistance,
            otherLoad: 1,
          });
      }
    };
    // A first run of both makes the maps of the propellers, which they share.
    plainly();
    if (!SMOKE) for (const _ of search({ design, space, bounds }));
    if (!SMOKE) timeOf("sizing search, with its endurance", of, () => void [...search({ design, space, bounds })]);
    // Apart from the product: the same candidates in a plain loop, full throttle only, by the plain bisection.
    timeOf("plain loop, full throttle only", list.length, plainly);
    // And with what the search works out besides: how long each lasts at the duty, in as many steps of charge.
    const some = list.filter((_, k) => k % (SMOKE ? 10 : 30) === 0);
    timeOf("plain loop, with its endurance", some.length, () => {
      for (const choice of some) {
        const { unit, battery } = drivenBy(choice);
        const setup = setUp({ ...design, units: [unit], batteries: [battery] }, new Map([["/mass", 1]]));
        const [fed] = setup.packs;
        const [driven] = setup.units;
        if (fed && driven) plainEndurance(driven.drive, fed.pack, fed.phases, 6);
      }
    });
    // Without any table: the blade elements solved anew at every step of every root, as one would write it first.
    const few = some.filter((_, k) => k % 15 === 0);
    timeOf("nested loop, blade elements at each step", few.length, () => {
      for (const choice of few) {
        const { unit, battery } = drivenBy(choice);
        const setup = setUp({ ...design, units: [unit], batteries: [battery] }, new Map([["/mass", 1]]));
        const [fed] = setup.packs;
        const [driven] = setup.units;
        const shape = driven?.propeller;
        if (!fed || !driven || !shape) continue;
        const load = (rpm: number, speed = 0) => propellerLoad(shape, driven.medium, speed, rpm);
        const propeller = { at: load, torque: (rpm: number, speed = 0) => load(rpm, speed).torque, solved: true };
        plainEndurance({ ...driven.drive, propeller }, fed.pack, fed.phases, 6);
      }
    });
    const here = setUp(design, new Map([["/mass", 1]]));
    const [fed, driven] = [here.packs[0], here.units[0]];
    if (fed && driven && fed.phases.length > 0) {
      const ours = endurance([{ drive: driven.drive, limit: 1 }], fed.pack, fed.phases, 6).seconds;
      const plain = plainEndurance(driven.drive, fed.pack, fed.phases, 6);
      console.log(`${"tern: endurance of both".padEnd(46)} ${(100 * Math.abs(ours / plain - 1)).toFixed(3)} % apart`);
      if (!(Math.abs(ours / plain - 1) < 0.01)) throw new Error("the product's endurance and the plain one differ");
    }
  }
}

for (const [name, work] of kernels()) {
  for (let k = 0; k < most(20); k++) work();
  line(name, timed(40, work));
}
console.log(byLapack());

type Opened = Awaited<ReturnType<typeof startChromium>>["browser"];
/** A served workshop of its own and a browser on it, for as long as the work takes. */
async function served(work: (address: string, browser: Opened) => Promise<void>): Promise<void> {
  const folder = freshFolder();
  const server = await spawnServer(folder, [], ["dist/server/main.js"]);
  const { browser, stop } = await startChromium();
  try {
    await work(server.address, browser);
  } finally {
    await stop();
    server.process.kill("SIGTERM");
    await server.exited;
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Imports the newest version of a demo craft as an open draft; its slug. */
async function draftOf(address: string, name: string, design?: Design): Promise<string> {
  const file = { ...demoFile(name), runs: [], faults: [], bench: [], plans: [] };
  file.versions = file.versions.slice(-1).map((v) => ({
    ...v,
    label: "v1",
    parent: null,
    frozenAt: null,
    trials: [],
    whys: [],
    design: design ?? v.design,
  }));
  const answer = await send(address, "POST", "/api/crafts/import", file);
  if (answer.status !== 200) throw new Error(`${name}: ${answer.status} ${JSON.stringify(answer.body).slice(0, 200)}`);
  return (answer.body as { slug: string }).slug;
}

/** Script time per frame in the browser while something of a craft is dragged to and fro along the page. */
const dragged = (name: string, design: Design, path: string, selector: string) =>
  served(async (address, browser) => {
    const slug = await draftOf(address, "tern", design);
    const page = await browser.newPage();
    await page.goto(`${address}/craft/${slug}/v1/${path}`, { waitUntil: "networkidle0" });
    const rect = await page.waitForSelector(selector);
    const box = await rect?.boundingBox();
    if (!box) throw new Error(`${selector} is not in the drawing`);
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    const client = await page.createCDPSession();
    // The page's own processor time: what other programs take of the machine meanwhile is not in it.
    await client.send("Performance.enable", { timeDomain: "threadTicks" });
    const script = async () => {
      const { metrics } = await client.send("Performance.getMetrics");
      return (metrics.find((m) => m.name === "ScriptDuration")?.value ?? 0) * 1000;
    };
    await page.mouse.move(x, y);
    await page.mouse.down();
    const frames: number[] = [];
    for (let k = 0; k < WARM_UP + 120; k++) {
      const before = await script();
      await page.mouse.move(x - 40 + (k % 80), y);
      await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r))));
      frames.push((await script()) - before);
    }
    await page.mouse.up();
    line(`script per frame, ${name}, dragged`, frames.slice(WARM_UP));
  });
const PACK = '[data-part="pack"][data-view="side"] rect';

/** Longest blocking of the page when a propeller of the craft with five drives is changed, key by key. */
const propellerChanged = () =>
  served(async (address, browser) => {
    const slug = await draftOf(address, "lantern");
    const page = await browser.newPage();
    await page.evaluateOnNewDocument(() => {
      const list: number[] = [];
      Object.assign(window, { blocked: list });
      new PerformanceObserver((l) => list.push(...l.getEntries().map((e) => e.duration))).observe({ type: "longtask" });
    });
    await page.goto(`${address}/craft/${slug}/v1/power`, { waitUntil: "networkidle0" });
    const field = await page.waitForSelector('input[aria-label="Propeller diameter"]');
    const longest: number[] = [];
    for (let k = 0; k < 12; k++) {
      await page.evaluate("blocked.length = 0");
      await field?.click({ count: 3 });
      await page.keyboard.type(`${70 + k} mm`, { delay: 20 });
      await page.keyboard.press("Enter");
      await new Promise((r) => setTimeout(r, 1200));
      // Less than 50 ms is no long task, and not reported.
      longest.push(Math.max(0, ...((await page.evaluate("blocked")) as number[])));
    }
    line("longest blocking, a propeller of five drives", longest.slice(2));
  });

/** From the answer of the server to the last craft in the list, 60 crafts of ten versions. */
const workshopOpened = () =>
  served(async (address, browser) => {
    await fillWorkshop(address, 60, 10, 2);
    const page = await browser.newPage();
    const times: number[] = [];
    for (let k = 0; k < 6; k++) {
      let answered = 0;
      const there = page.waitForSelector("[data-craft]:nth-child(60)");
      page.on("response", (r) => void (r.url().endsWith("/api/crafts") && (answered ||= performance.now())));
      await page.goto(address);
      await there;
      times.push(performance.now() - answered);
      page.removeAllListeners("response");
    }
    line("workshop, 60 crafts, after the answer", times);
  });

if (!SMOKE) {
  await dragged("one of 60 parts", craftOf(60), "layout", PACK);
  await dragged("one of 1000 parts", craftOf(1000), "layout", PACK);
  await dragged("a tailplane", craftOf(0), "stability?of=tailplane", '[data-handle="span and sweep"]');
  await propellerChanged();
  await workshopOpened();
}
