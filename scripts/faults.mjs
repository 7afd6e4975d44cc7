/** `npm run faults`: kills, freezes, full disks, set clocks and other faults while messages go out, and the count afterwards: none lost, none twice, none to the wrong people. */
import { fileURLToPath } from "node:url";
import { build } from "./lib/build.mjs";
import { checkNode, installDebian, installPackages } from "./lib/packages.mjs";
import { hasFaketime, postgresBinaries } from "./lib/postgres.mjs";
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
  if (!hasFaketime()) await installDebian(["libfaketime"], "A library to set a program's clock");
  await build(root);
  const { runFaults } = await import("../test/faults/faults.mjs");
  const seed = number("seed", Date.now() % 1_000_000);
  process.stdout.write(`seed ${seed}\n`);
  const counts = await runFaults({
    kills: number("faults", 300),
    groups: number("groups", 5000),
    seed,
    say: (line) => process.stdout.write(`${line}\n`),
  });
  if (counts.some((count) => count.wrong.length > 0)) process.exitCode = 1;
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
