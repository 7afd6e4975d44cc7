#!/usr/bin/env node
import { existsSync, readFileSync } from "node:fs";

const built = new URL("../dist/main.js", import.meta.url);
if (!existsSync(built)) {
  process.stderr.write("corbix is not built yet. Run `npm start` or `npm run build` in its folder first.\n");
  process.exit(1);
}
// Whoever reads the output may stop early, as `head` does.
process.stdout.on("error", (error) => {
  if (error.code === "EPIPE") process.exit(0);
  throw error;
});
const { main } = await import(built.href);
const { version } = JSON.parse(readFileSync(new URL("../package.json", import.meta.url), "utf8"));
process.exitCode = await main(process.argv, version);
