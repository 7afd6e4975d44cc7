/** Files that go with messages and are not made: the same for everybody, or found in a folder by name. */
import { readdir, readFile } from "node:fs/promises";
import { basename, dirname, isAbsolute, join, resolve, sep } from "node:path";
import { type Finding, sha256 } from "@corbix/core/common";
import type { PlannedParcel } from "@corbix/core/run";
import type { Context } from "../context.js";
import type { EnclosedFile, ParcelRow, RunRow } from "../records/index.js";

/** Fetches what a parcel's message takes along; what is not there, there twice or empty is a finding. */
export async function encloseFiles(
  context: Context,
  run: Pick<RunRow, "id" | "templates">,
  parcel: PlannedParcel,
  findings: Finding[],
): Promise<EnclosedFile[]> {
  const enclosed: EnclosedFile[] = [];
  const about = { run: run.id, group: parcel.group.key };
  for (const wanted of parcel.enclosed) {
    if (wanted.kind === "fixed") {
      const digest = run.templates[wanted.name];
      const size = (await context.store.get(digest)).length;
      enclosed.push({ ...about, kind: "fixed", name: wanted.name, sha256: digest, size, origin: wanted.name });
      continue;
    }
    const found = await filesLike(context, wanted.name);
    const fault = faultOf(wanted.name, found, wanted.needed, parcel.group.label);
    if (fault) findings.push(fault);
    if (found.length !== 1) continue;
    const bytes = await readFile(join(attachFolder(context), found[0]));
    if (bytes.length === 0) {
      findings.push(empty(found[0], parcel.group.label));
      continue;
    }
    const stored = await context.store.put(bytes);
    const name = basename(found[0]);
    enclosed.push({ ...about, kind: "found", name, sha256: stored, size: bytes.length, origin: found[0] });
  }
  return enclosed;
}

/** Files of a run that are not in the folder any more as they were when it was planned. */
export async function changedSince(
  context: Context,
  parcels: readonly Pick<ParcelRow, "label" | "enclosed">[],
): Promise<Finding[]> {
  const findings: Finding[] = [];
  for (const { label, enclosed } of parcels)
    for (const file of enclosed) {
      if (file.kind !== "found") continue;
      const now = await readFile(join(attachFolder(context), file.origin)).catch(() => undefined);
      if (now && sha256(now) === file.sha256) continue;
      findings.push({
        code: "attachment-changed",
        severity: "stop",
        where: `group ${label}`,
        what: `"${file.origin}" was ${now ? "changed" : "taken away"} after the run was planned.`,
        advice: "Run again, so that what goes out is what was looked at.",
      });
    }
  return findings;
}

function attachFolder({ settings }: Context): string {
  return isAbsolute(settings.attachFolder) ? settings.attachFolder : join(settings.data, settings.attachFolder);
}

/** Paths below the folder of attachments that a pattern means; capitals and the way accents are written do not count. */
async function filesLike(context: Context, pattern: string): Promise<string[]> {
  const root = attachFolder(context);
  const folder = resolve(root, dirname(pattern));
  // Whatever stands in the data, it names nothing outside.
  if (isAbsolute(pattern) || pattern.includes("\0") || (folder !== root && !folder.startsWith(root + sep))) return [];
  const wanted = new RegExp(
    `^${fold(basename(pattern))
      .replace(/[.+^${}()|[\]\\]/g, "\\$&")
      .replaceAll("*", ".*")
      .replaceAll("?", ".")}$`,
    "u",
  );
  const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
  return entries
    .filter((entry) => entry.isFile() && !entry.name.startsWith(".") && wanted.test(fold(entry.name)))
    .map((entry) => join(dirname(pattern), entry.name))
    .sort();
}

function fold(text: string): string {
  return text.normalize("NFC").toLowerCase();
}

function faultOf(pattern: string, found: readonly string[], needed: boolean, label: string): Finding | undefined {
  if (found.length === 1) return undefined;
  if (found.length === 0)
    return {
      code: "attachment-not-found",
      severity: needed ? "stop" : "warn",
      where: `group ${label}`,
      what: `No file "${pattern}" is in the folder of attachments.`,
      advice: needed ? "Put it there, then run again." : "Its message goes without.",
    };
  return {
    code: "attachment-found-twice",
    severity: "stop",
    where: `group ${label}`,
    what: `"${pattern}" means ${found.length} files: ${found.slice(0, 5).join(", ")}.`,
    advice: "Name it more narrowly, or take the others away.",
  };
}

function empty(path: string, label: string): Finding {
  return {
    code: "attachment-empty",
    severity: "stop",
    where: `group ${label}`,
    what: `"${path}" is empty.`,
    advice: "It may still be on its way: put it there whole, then run again.",
  };
}
