/** `npm run release -- 0.3.0`: tests everything, names the version in all packages and in the list of changes, lists what it is made of (CycloneDX), and tags it. */
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { maybeOutput, run } from "./lib/run.mjs";
import { Advice, say } from "./lib/say.mjs";
import { bill } from "./lib/sbom.mjs";

const root = fileURLToPath(new URL("..", import.meta.url)).replace(/\/$/, "");
const HEADING = "## Unreleased";

try {
  const [version] = process.argv.slice(2);
  checkVersion(version);
  checkTree(version);
  const changes = changesOf();
  say("Testing …");
  await run("npm", ["test"], { cwd: root, what: "npm test" });
  writeVersion(version);
  writeFileSync(
    join(root, "CHANGELOG.md"),
    changes.replace(HEADING, `## ${version} (${new Date().toISOString().slice(0, 10)})`),
  );
  mkdirSync(join(root, "sbom"), { recursive: true });
  writeFileSync(join(root, "sbom", `corbix-${version}.cdx.json`), `${JSON.stringify(bill(root), null, 2)}\n`);
  await run("git", ["add", "sbom"], { cwd: root, what: "git add" });
  await run("git", ["commit", "-aqm", `Version ${version}`], { cwd: root, what: "git commit" });
  await run("git", ["tag", "-a", `v${version}`, "-m", `Version ${version}`], { cwd: root, what: "git tag" });
  say(`Version ${version} is committed and tagged as v${version}. Push both: git push --follow-tags`);
} catch (error) {
  if (!(error instanceof Advice)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}

function checkVersion(version) {
  if (!/^\d+\.\d+\.\d+$/.test(version ?? ""))
    throw new Advice("Cannot release: say which version, such as npm run release -- 0.3.0.");
  const now = JSON.parse(readFileSync(join(root, "package.json"), "utf8")).version;
  const newer = version.localeCompare(now, "en", { numeric: true });
  if (newer <= 0) throw new Advice(`Cannot release ${version}: the version is ${now} already.`);
}

function checkTree(version) {
  if (maybeOutput("git", ["-C", root, "status", "--porcelain"]))
    throw new Advice("Cannot release: there are changes that are not committed.");
  if (maybeOutput("git", ["-C", root, "tag", "--list", `v${version}`]))
    throw new Advice(`Cannot release: the tag v${version} is there already.`);
}

/** The list of changes, which has to say something that is not released yet. */
function changesOf() {
  const changes = readFileSync(join(root, "CHANGELOG.md"), "utf8");
  const start = changes.indexOf(HEADING);
  const end = changes.indexOf("\n## ", start + 1);
  const own = start < 0 ? "" : changes.slice(start + HEADING.length, end < 0 ? undefined : end);
  if (own.trim() === "") throw new Advice(`Cannot release: CHANGELOG.md says nothing below "${HEADING}".`);
  return changes;
}

function writeVersion(version) {
  const { workspaces } = JSON.parse(readFileSync(join(root, "package.json"), "utf8"));
  for (const folder of ["", ...workspaces]) {
    const file = join(root, folder, "package.json");
    writeFileSync(file, readFileSync(file, "utf8").replace(/("version": ")[^"]*/, `$1${version}`));
  }
  const lock = join(root, "package-lock.json");
  const parsed = JSON.parse(readFileSync(lock, "utf8"));
  parsed.version = version;
  for (const folder of ["", ...workspaces]) parsed.packages[folder].version = version;
  writeFileSync(lock, `${JSON.stringify(parsed, null, 2)}\n`);
}
