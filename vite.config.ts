import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig(({ isSsrBuild }) =>
  isSsrBuild
    ? { build: { target: "node20", emptyOutDir: true, rollupOptions: { output: { entryFileNames: "main.js" } } } }
    : {
        root: "web",
        plugins: [react(), tailwindcss()],
        build: { outDir: "../dist/web", emptyOutDir: true, chunkSizeWarningLimit: 1500 },
        server: { proxy: { "/api": "http://localhost:4870" } },
      },
);
