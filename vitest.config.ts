import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/** The files that take longest, longest first: begun last they would run alone on one core while the other rests. */
const LONG = [
  ...["subjects", "flight", "report", "extremes"].map((n) => `unit/${n}`),
  ...["trouble", "keeping", "process", "torture", "durable", "roundTrip", "tree"].map((n) => `api/${n}`),
  ...["bench", "halfWritten", "records", "loop", "field", "accessible", "print", "stability", "power", "stale"].map(
    (n) => `browser/${n}`,
  ),
];
class LongFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = (f: TestSpecification) => {
      const at = LONG.findIndex((name) => f.moduleId.endsWith(`/${name}.test.ts`));
      return at < 0 ? LONG.length : at;
    };
    return (await super.sort(files)).toSorted((a, b) => rank(a) - rank(b));
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: LongFirst },
    projects: [
      // Limits are for what hangs: a machine shared with others may be ten times slower for a while.
      // Files share their modules and processes in all projects: of pure functions that takes half of the time.
      {
        test: {
          name: "unit",
          include: ["tests/unit/**/*.test.ts"],
          testTimeout: 120_000,
          isolate: false,
          maxWorkers: 2,
        },
      },
      // Most of what these wait for is other processes: two files at a time use two cores.
      {
        test: {
          name: "api",
          include: ["tests/api/**/*.test.ts"],
          testTimeout: 180_000,
          hookTimeout: 180_000,
          isolate: false,
          maxWorkers: 2,
          globalSetup: ["tests/support/inMemory.ts", "tests/support/image.ts"],
        },
      },
      {
        // The same API tests on a PostgreSQL server, and what only such a server can be asked.
        test: {
          name: "postgres",
          include: [
            "tests/postgres/**/*.test.ts",
            ...["api", "records", "bench", "shelf", "tree", "roundTrip"].map((n) => `tests/api/${n}.test.ts`),
          ],
          testTimeout: 180_000,
          hookTimeout: 180_000,
          isolate: false,
          fileParallelism: false,
          globalSetup: ["tests/support/inMemory.ts", "tests/support/onPostgres.ts"],
        },
      },
      {
        test: {
          name: "browser",
          include: ["tests/browser/**/*.test.ts"],
          globalSetup: "tests/support/inMemory.ts",
          // SLOW: the pages' processor that many times slower (tests/support/page.ts).
          testTimeout: 300_000 * Number(process.env.SLOW ?? 1),
          hookTimeout: 240_000,
          isolate: false,
          // Browsers and servers wait for one another a quarter of the time: a third file at a time fills it.
          maxWorkers: 3,
          // Real keys before a browser on a machine shared with others: what passes only at its second try is said so
          // ("retry x1") and looked into, and does not hide what the other three hundred have to say.
          retry: 1,
        },
      },
    ],
  },
});
