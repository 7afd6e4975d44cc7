import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { run } from "./run.mjs";
import { say } from "./say.mjs";

/** Builds core, fonts, service and command, and the console when its sources changed. */
export async function build(root) {
  await run("npx", ["tsc", "-b"], { cwd: root, what: "the type check" });
  const folder = join(root, "console");
  const mark = join(folder, "dist", ".built-from");
  const wanted = digestOf(folder);
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  say("Building the console …");
  await run("npx", ["vite", "build", "--logLevel", "warn"], { cwd: folder, what: "the console's build" });
  writeFileSync(mark, wanted);
}

/** What is made of the sources, the words' tables among it, is none of them. */
const MADE = new Set(["dist", "node_modules", ".wuchale", "data.js"]);

function digestOf(folder) {
  const hash = createHash("sha256");
  const visit = (path) => {
    for (const name of readdirSync(path).sort()) {
      if (MADE.has(name)) continue;
      const file = join(path, name);
      if (statSync(file).isDirectory()) visit(file);
      else hash.update(file.slice(folder.length)).update(readFileSync(file));
    }
  };
  visit(folder);
  return hash.digest("hex");
}
