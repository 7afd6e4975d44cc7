import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { isRoot, maybeOutput, run } from "./run.mjs";
import { Advice, say } from "./say.mjs";

const NODE = [20, 20];

export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major < NODE[0] || (major === NODE[0] && minor < NODE[1]))
    throw new Advice(`Corbix needs Node.js ${NODE.join(".")} or newer; this is ${process.versions.node}.`);
}

/** Installs the project's packages when they are missing or the lock file has changed since. */
export async function installPackages(root) {
  const mark = join(root, "node_modules", ".corbix-lock");
  const wanted = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .digest("hex");
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  say("Installing packages …");
  // Not `npm ci`, which takes away what is there first: this way a changed package takes seconds.
  await run("npm", ["install", "--no-save", "--ignore-scripts", "--no-audit", "--no-fund"], {
    cwd: root,
    what: "npm install",
  });
  writeFileSync(mark, wanted);
}

let isListFresh = false;

/** Installs Debian packages; without root it says which command to run and stops. */
export async function installDebian(names, why) {
  if (!maybeOutput("sh", ["-c", "command -v apt-get"]))
    throw new Advice(
      `${why} is missing, and this is no Debian system. Install ${names.join(", ")} by your system's means.`,
    );
  if (!isRoot)
    throw new Advice(
      `${why} is missing. Run this command once, then try again:\n\n  sudo apt-get update && sudo apt-get install -y --no-install-recommends ${names.join(" ")}\n`,
    );
  say(`Installing ${names.join(", ")} …`);
  // With this run level no package starts a service of its own.
  const env = { DEBIAN_FRONTEND: "noninteractive", RUNLEVEL: "1" };
  if (!isListFresh) await run("apt-get", ["update"], { env, what: "apt-get update" });
  isListFresh = true;
  await run("apt-get", ["install", "-y", "--no-install-recommends", ...names], { env, what: "apt-get install" });
}
