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
