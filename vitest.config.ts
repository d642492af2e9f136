import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    projects: [
      { test: { name: "unit", include: ["tests/unit/**/*.test.ts"], testTimeout: 30_000 } },
      { test: { name: "api", include: ["tests/api/**/*.test.ts"], testTimeout: 60_000, hookTimeout: 60_000, fileParallelism: false, globalSetup: "tests/support/image.ts" } },
      { test: { name: "browser", include: ["tests/browser/**/*.test.ts"], testTimeout: 300_000, hookTimeout: 120_000, fileParallelism: false } },
    ],
  },
});
