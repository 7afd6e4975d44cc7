/** `npm run faults`: kills and faults while messages go out, and the count afterwards: none lost, none twice, none to the wrong people. */
import { fileURLToPath } from "node:url";
import { build } from "./lib/build.mjs";
import { checkNode, installPackages } from "./lib/packages.mjs";
import { postgresBinaries } from "./lib/postgres.mjs";
import { Advice } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
const number = (name, fallback) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? fallback : Number(process.argv[at + 1]);
};

try {
  checkNode();
  await installPackages(root);
  await postgresBinaries();
  await build(root);
  const { runFaults } = await import("../test/faults/faults.mjs");
  const seed = number("seed", Date.now() % 1_000_000);
  process.stdout.write(`seed ${seed}\n`);
  const counts = await runFaults({
    kills: number("kills", 100),
    groups: number("groups", 2000),
    seed,
    say: (line) => process.stdout.write(`${line}\n`),
  });
  if (counts.some((count) => count.wrong.length > 0)) process.exitCode = 1;
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
