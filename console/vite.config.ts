import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig, type Plugin } from "vite";

/** Carbon's style sheet asks a server on the internet for its fonts; ours come with the console. */
const ownFonts: Plugin = {
  name: "own-fonts",
  enforce: "pre",
  transform: (code, id) =>
    id.includes("carbon-components-svelte/css/") ? code.replace(/@font-face\s*\{[^}]*\}/g, "") : undefined,
};

export default defineConfig({
  plugins: [ownFonts, svelte()],
  build: { target: "es2022", chunkSizeWarningLimit: 2000, manifest: "manifest.json" },
  server: { proxy: { "/api": "http://127.0.0.1:8320", "/openapi.json": "http://127.0.0.1:8320" } },
});
