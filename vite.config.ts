import { createHash } from "node:crypto";
import { readFileSync, readdirSync, statSync } from "node:fs";
import { join } from "node:path";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

/** The server and its threads, each a file of its own. */
const SERVER = {
  main: "server/main.ts",
  engine: "server/db/engine.ts",
  evaluator: "server/evaluator/evaluator.ts",
  keeper: "server/db/keeper.ts",
  templates: "server/makeTemplates.ts",
};

/** What is built for Node besides: the command line and the benchmark, each from its own file. */
const one = ["cli/main.ts", "scripts/bench.ts"].find((file) => process.argv.includes(file));

/** Stands for all that the pages are made of: what a browser kept of another release is not taken for this one's. */
function buildOf(): string {
  const hash = createHash("sha256");
  const take = (path: string): void => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) take(join(path, name));
    else hash.update(path).update(readFileSync(path));
  };
  for (const path of ["core", "api", "web", "package-lock.json"]) take(path);
  return hash.digest("hex").slice(0, 16);
}

export default defineConfig(({ isSsrBuild }) =>
  isSsrBuild
    ? {
        // Packed into few files: loading hundreds costs more than reading what is in them. The embedded database and
        // the picture decoder bring files of their own.
        ssr: { noExternal: true, external: ["@electric-sql/pglite", "sharp", "puppeteer-core"] },
        build: {
          target: "node20",
          emptyOutDir: true,
          rollupOptions: {
            input: one ? { [one === "cli/main.ts" ? "main" : "bench"]: one } : SERVER,
            output: { entryFileNames: "[name].js" },
          },
        },
      }
    : {
        root: "web",
        define: { __BUILD__: JSON.stringify(buildOf()) },
        plugins: [react(), tailwindcss()],
        build: {
          outDir: "../dist/web",
          emptyOutDir: true,
          chunkSizeWarningLimit: 1500,
          rollupOptions: {
            // The page at the site is one of its own, and so is what answers for it when no server does.
            input: {
              index: "web/index.html",
              field: "web/field.html",
              "field-worker": "web/field/worker.ts",
            },
            output: {
              entryFileNames: (chunk) => (chunk.name === "field-worker" ? "[name].js" : "assets/[name]-[hash].js"),
            },
          },
        },
        server: { proxy: { "/api": "http://localhost:4870" } },
      },
);
