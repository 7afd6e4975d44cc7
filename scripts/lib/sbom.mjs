import { spawnSync } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { Advice } from "./say.mjs";

const IS_DEVELOPMENT = "cdx:npm:package:development";

/**
 * What Corbix is made of, as CycloneDX has it: packages that run, and those that the console's build takes in, with versions, licences
 * and digests, and who needs whom.
 */
export function bill(root) {
  const { status, stdout, stderr } = spawnSync("npm", ["sbom", "--sbom-format=cyclonedx", "--sbom-type=application"], {
    cwd: root,
    encoding: "utf8",
    maxBuffer: 64 * 2 ** 20,
  });
  if (status !== 0) throw new Advice(`Cannot list what Corbix is made of: ${stderr.trim()}`);
  const told = JSON.parse(stdout);
  const { name, version, description } = JSON.parse(readFileSync(join(root, "package.json"), "utf8"));
  const own = told.metadata.component;
  // Called by what it is, not by the folder that it lies in.
  Object.assign(own, { name, version, description, properties: [] });
  const needs = new Map(told.dependencies.map(({ ref, dependsOn = [] }) => [ref, dependsOn]));
  const isDevelopment = (one) => one.properties?.some((property) => property.name === IS_DEVELOPMENT) ?? false;
  const taken = new Set(told.components.filter((one) => !isDevelopment(one)).map((one) => one["bom-ref"]));
  const built = builtIn(root);
  const open = told.components.filter((one) => built.has(nameOf(one))).map((one) => one["bom-ref"]);
  for (let ref = open.pop(); ref !== undefined; ref = open.pop()) {
    if (taken.has(ref) && !open.includes(ref)) taken.add(ref);
    taken.add(ref);
    open.push(...(needs.get(ref) ?? []).filter((one) => !taken.has(one)));
  }
  told.components = told.components
    .filter((one) => taken.has(one["bom-ref"]))
    .map((one) => ({
      ...one,
      properties: (one.properties ?? []).filter((property) => property.name !== IS_DEVELOPMENT),
    }));
  taken.add(own["bom-ref"]);
  told.dependencies = told.dependencies
    .filter(({ ref }) => taken.has(ref))
    .map(({ ref, dependsOn = [] }) => ({ ref, dependsOn: dependsOn.filter((one) => taken.has(one)) }));
  return told;
}

/** Name of a package with its scope. */
function nameOf({ purl }) {
  return decodeURIComponent(purl).replace(/^pkg:npm\/|@[^@]+$/g, "");
}

/** Packages that the console's sources import: they are in what its build makes. */
function builtIn(root) {
  const folder = join(root, "console/src");
  const names = readdirSync(folder, { recursive: true }).filter((name) => /\.(?:svelte|ts|css)$/.test(name));
  const found = new Set();
  for (const name of names)
    for (const [, from] of readFileSync(join(folder, name), "utf8").matchAll(
      /(?:from|import|import\()\s*"((?:@[\w.-]+\/)?[\w.-]+)/g,
    ))
      if (!from.startsWith(".")) found.add(from);
  return found;
}
