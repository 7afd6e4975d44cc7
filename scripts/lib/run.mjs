import { spawn, spawnSync } from "node:child_process";
import { Advice } from "./say.mjs";

/** Runs a program to its end; its output is shown only when it fails, or as it comes with `loud`. */
export function run(program, args, { cwd, env, loud = false, what = program } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: loud ? "inherit" : ["ignore", "pipe", "pipe"],
    });
    let output = "";
    child.stdout?.on("data", (chunk) => {
      output += chunk;
    });
    child.stderr?.on("data", (chunk) => {
      output += chunk;
    });
    child.on("error", (error) => reject(new Advice(`Cannot run ${what}: ${error.message}`)));
    child.on("exit", (code) => {
      if (code === 0) resolve(output);
      else reject(new Advice(`${excerpt(output)}\n${what} failed with exit code ${code}.`));
    });
  });
}

/** First line of what a program prints, or undefined where it is missing or fails. */
export function maybeOutput(program, args) {
  const result = spawnSync(program, args, { encoding: "utf8" });
  return result.status === 0 ? result.stdout.trim().split("\n")[0] : undefined;
}

export const isRoot = process.getuid?.() === 0;

/** The beginning and the end of a long output: the cause stands at one of them. */
function excerpt(output) {
  const lines = output.trimEnd().split("\n");
  return lines.length <= 60 ? lines.join("\n") : [...lines.slice(0, 30), "…", ...lines.slice(-30)].join("\n");
}
