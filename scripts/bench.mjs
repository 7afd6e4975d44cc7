/** `npm run bench`: Corbix beside yardsticks from Debian's packages, in one run; only the ratios mean anything. */
import { existsSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { build } from "./lib/build.mjs";
import { checkNode, installDebian, installPackages } from "./lib/packages.mjs";
import { maybeOutput, run } from "./lib/run.mjs";
import { Advice } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");

try {
  checkNode();
  await installPackages(root);
  await build(root);
  const python = "/usr/bin/python3";
  const missing = ["pandas", "openpyxl", "docx"].filter(
    (name) => maybeOutput(python, ["-c", `import ${name}`]) === undefined,
  );
  if (missing.length > 0) await installDebian(["python3", ...missing.map((name) => `python3-${name}`)], "A yardstick");
  if (!existsSync("/usr/bin/chromium")) await installDebian(["chromium"], "A yardstick");
  await run(process.execPath, [`${root}/bench/main.mjs`], { cwd: root, loud: true, what: "the bench" });
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
