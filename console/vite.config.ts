import { fileURLToPath } from "node:url";
import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig, type Plugin } from "vite";
import { wuchale } from "wuchale/vite";

/** Carbon's style sheet asks a server on the internet for its fonts; ours come with the console. */
const ownFonts: Plugin = {
  name: "own-fonts",
  enforce: "pre",
  transform: (code, id) =>
    id.includes("carbon-components-svelte/css/") ? code.replace(/@font-face\s*\{[^}]*\}/g, "") : undefined,
};

/** Texts come from the catalogue of the reader's language; parts drawn alone by tests keep those of the source. */
const words = process.env.VITEST
  ? []
  : [wuchale({ configPath: fileURLToPath(new URL("wuchale.config.js", import.meta.url)) })];

export default defineConfig({
  plugins: [ownFonts, ...words, svelte()],
  // Found late, it would have the tests' browser begin anew.
  optimizeDeps: { include: ["wuchale/load-utils"] },
  build: { target: "es2022", chunkSizeWarningLimit: 2000, manifest: "manifest.json" },
  server: { proxy: { "/api": "http://127.0.0.1:8320", "/openapi.json": "http://127.0.0.1:8320" } },
});
