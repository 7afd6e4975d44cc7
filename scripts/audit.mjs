/** `npm run audit`: asks the packages' registry for known weaknesses of what Corbix is made of, and says so where it does not answer. */
import { spawnSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { say } from "./lib/say.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
const WORST = ["critical", "high", "moderate", "low", "info"];

const all = process.argv.includes("--all");
const { stdout } = spawnSync("npm", ["audit", "--json", ...(all ? [] : ["--omit=dev"])], {
  cwd: root,
  encoding: "utf8",
});
const told = readTold(stdout);
if (!told?.metadata) {
  say(`The registry does not answer: ${told?.message ?? told?.error?.summary ?? "no word of it could be read"}`);
  say(
    "Nothing was checked. Ask again where the registry of npm is reached, or look the list of `npm run sbom` up elsewhere.",
  );
  process.exitCode = 9;
} else {
  const { vulnerabilities, metadata } = told;
  const found = Object.values(vulnerabilities).sort((a, b) => WORST.indexOf(a.severity) - WORST.indexOf(b.severity));
  for (const { name, severity, range, via, fixAvailable } of found) {
    const why = via.map((one) => (typeof one === "string" ? `through ${one}` : `${one.title} (${one.url})`)).join("; ");
    say(`${severity.padEnd(9)} ${name} ${range}: ${why}${fixAvailable ? "" : "; there is no version without it yet"}`);
  }
  const { total } = metadata.dependencies;
  say(
    found.length === 0
      ? `No known weakness in ${total} packages.`
      : `${found.length} of ${total} packages have known weaknesses.`,
  );
  process.exitCode = found.length === 0 ? 0 : 3;
}

function readTold(text) {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
