import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    projects: [
      { test: { name: "unit", include: ["tests/unit/**/*.test.ts"], testTimeout: 30_000 } },
      // Most of what these wait for is other processes: two files at a time use two cores.
      {
        test: {
          name: "api",
          include: ["tests/api/**/*.test.ts"],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
          globalSetup: "tests/support/image.ts",
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
          testTimeout: 60_000,
          hookTimeout: 60_000,
          fileParallelism: false,
          globalSetup: "tests/support/onPostgres.ts",
        },
      },
      {
        test: {
          name: "browser",
          include: ["tests/browser/**/*.test.ts"],
          testTimeout: 300_000,
          hookTimeout: 120_000,
          maxWorkers: 2,
        },
      },
    ],
  },
});
