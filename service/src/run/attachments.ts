/** Files that go with messages and are not made: the same for everybody, or found in a folder by name. */
import { readdir, readFile } from "node:fs/promises";
import { basename, isAbsolute, join, resolve, sep } from "node:path";
import { type Finding, sha256 } from "@corbix/core/common";
import { patternSource, plainPattern } from "@corbix/core/naming";
import type { PlannedParcel } from "@corbix/core/run";
import { RE2JS } from "re2js";
import type { Context } from "../process/context.js";
import type { EnclosedFile, ParcelRow, RunRow } from "../records/index.js";

type WantedFile = PlannedParcel["enclosed"][number];

export interface Enclosures {
  /** By number of the parcel. */
  readonly files: ReadonlyMap<number, readonly EnclosedFile[]>;
  /** Parcels that are left out for want of a file, with the reason. */
  readonly leftOut: ReadonlyMap<number, string>;
  readonly findings: readonly Finding[];
}

/**
 * Fetches what the parcels' messages take along. What is not there, there twice, empty, another group's by its name, or wanted by two
 * groups is a finding; where the report allows it, it leaves its own group out and stops nobody else.
 */
export async function encloseFiles(
  context: Context,
  run: Pick<RunRow, "id" | "templates">,
  parcels: readonly PlannedParcel[],
  groupNames: readonly string[],
): Promise<Enclosures> {
  const files = new Map<number, readonly EnclosedFile[]>();
  const leftOut = new Map<number, string>();
  const findings: Finding[] = [];
  const folders = new FolderLists(attachFolder(context));
  const found = new Map<PlannedParcel, Map<WantedFile, string[]>>();
  for (const parcel of parcels) {
    const own = new Map<WantedFile, string[]>();
    for (const wanted of parcel.enclosed)
      if (wanted.kind === "found") own.set(wanted, await folders.like(wanted.pattern));
    found.set(parcel, own);
  }
  const claimed = claims(found);
  for (const parcel of parcels) {
    const { label, key } = parcel.group;
    const about = { run: run.id, group: key };
    const enclosed: EnclosedFile[] = [];
    for (const wanted of parcel.enclosed) {
      if (wanted.kind === "fixed") {
        const digest = run.templates[wanted.name];
        const size = (await context.store.get(digest)).length;
        enclosed.push({ ...about, kind: "fixed", name: wanted.name, sha256: digest, size, origin: wanted.name });
        continue;
      }
      const paths = found.get(parcel)?.get(wanted) ?? [];
      const fault =
        countFault(wanted, paths, label) ??
        (wanted.forAll
          ? undefined
          : (sharedFault(paths[0], claimed.get(paths[0]) ?? [], label) ??
            nameFault(paths[0], wanted, label, groupNames)));
      const bytes = fault ? undefined : await readFile(join(folders.root, paths[0])).catch(() => undefined);
      const trouble =
        fault ?? (bytes && bytes.length > 0 ? undefined : emptyFault(paths[0], label, bytes !== undefined));
      if (trouble || !bytes) {
        if (trouble) addFault(trouble, wanted, parcel, { findings, leftOut });
        continue;
      }
      const stored = await context.store.put(bytes);
      const name = basename(paths[0]);
      enclosed.push({ ...about, kind: "found", name, sha256: stored, size: bytes.length, origin: paths[0] });
    }
    files.set(parcel.number, enclosed);
  }
  return { files, leftOut, findings };
}

/** A fault stops the run, leaves its group out, or lets its message go without, as the report says; a wrong file never goes. */
function addFault(
  fault: Finding,
  wanted: WantedFile,
  parcel: PlannedParcel,
  to: { readonly findings: Finding[]; readonly leftOut: Map<number, string> },
): void {
  if (wanted.needed === "group") {
    to.leftOut.set(parcel.number, fault.what);
    to.findings.push({
      ...fault,
      severity: "warn",
      what: `${fault.what} Its group is left out.`,
      advice: "Put the file there, then run again for this group: it stays due.",
    });
    return;
  }
  if (wanted.needed === false && fault.code === "attachment-not-found")
    to.findings.push({ ...fault, severity: "warn", advice: "Its message goes without." });
  else to.findings.push(fault);
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

/** The folder of attachments, each of its folders listed once for a run. */
class FolderLists {
  private readonly lists = new Map<string, Promise<{ name: string; folded: string }[]>>();

  constructor(readonly root: string) {}

  /** Paths below the root that a pattern means; capitals and the way accents are written do not count. */
  async like(pattern: string): Promise<string[]> {
    const cut = pattern.lastIndexOf("/");
    const inside = plainPattern(pattern.slice(0, Math.max(0, cut)));
    const folder = resolve(this.root, inside);
    // Whatever stands in the data, it names nothing outside.
    if (isAbsolute(inside) || pattern.includes("\0") || (folder !== this.root && !folder.startsWith(this.root + sep)))
      return [];
    // Matched in linear time, whatever the pattern.
    const wanted = RE2JS.compile(patternSource(fold(pattern.slice(cut + 1))), RE2JS.DOTALL);
    return (await this.list(folder))
      .filter((entry) => wanted.matches(entry.folded))
      .map((entry) => join(inside, entry.name))
      .sort();
  }

  private list(folder: string): Promise<{ name: string; folded: string }[]> {
    const known = this.lists.get(folder);
    if (known) return known;
    const listed = readdir(folder, { withFileTypes: true })
      .catch(() => [])
      .then((entries) =>
        entries
          .filter((entry) => entry.isFile() && !entry.name.startsWith("."))
          .map(({ name }) => ({ name, folded: fold(name) })),
      );
    this.lists.set(folder, listed);
    return listed;
  }
}

function fold(text: string): string {
  return text.normalize("NFC").toLowerCase();
}

/** Which groups each file is found for. */
function claims(found: ReadonlyMap<PlannedParcel, ReadonlyMap<WantedFile, readonly string[]>>): Map<string, string[]> {
  const claimed = new Map<string, string[]>();
  for (const [parcel, own] of found)
    for (const [wanted, paths] of own)
      if (!wanted.forAll)
        for (const path of new Set(paths)) claimed.set(path, [...(claimed.get(path) ?? []), parcel.group.label]);
  return claimed;
}

function countFault({ name }: WantedFile, found: readonly string[], label: string): Finding | undefined {
  if (found.length === 1) return undefined;
  const where = `group ${label}`;
  if (found.length === 0)
    return {
      code: "attachment-not-found",
      severity: "stop",
      where,
      what: `No file "${name}" is in the folder of attachments.`,
      advice: "Put it there, then run again.",
    };
  return {
    code: "attachment-found-twice",
    severity: "stop",
    where,
    what: `"${name}" means ${found.length} files: ${found.slice(0, 5).join(", ")}.`,
    advice: "Name it more narrowly, or take the others away.",
  };
}

function sharedFault(path: string, groups: readonly string[], label: string): Finding | undefined {
  const others = groups.filter((one) => one !== label);
  if (others.length === 0) return undefined;
  return {
    code: "attachment-for-several",
    severity: "stop",
    where: `group ${label}`,
    what: `"${path}" would go to ${others.length + 1} groups: ${[label, ...others].slice(0, 5).join(", ")}.`,
    advice: "Name the group in the file's name, or say in the report that it is for all: forAll: true.",
  };
}

/** A file whose name holds another group's name, beyond what the pattern itself says, is that group's. */
function nameFault(
  path: string,
  wanted: WantedFile,
  label: string,
  groupNames: readonly string[],
): Finding | undefined {
  const name = fold(basename(path));
  const asked = fold(plainPattern(wanted.pattern));
  const other = groupNames.find(
    (one) => fold(one) !== fold(label) && holdsName(name, fold(one)) && !holdsName(asked, fold(one)),
  );
  if (other === undefined) return undefined;
  return {
    code: "attachment-of-another",
    severity: "stop",
    where: `group ${label}`,
    what: `"${path}" names "${other}", and would go to "${label}".`,
    advice: "Name it more narrowly, or rename the file, or say in the report that it is for all: forAll: true.",
  };
}

/** Whether a name stands in a text as words of its own. */
function holdsName(text: string, name: string): boolean {
  if (name === "") return false;
  for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1)) {
    const before = at === 0 ? "" : text[at - 1];
    const after = text[at + name.length] ?? "";
    if (!/[\p{L}\p{N}]/u.test(before) && !/[\p{L}\p{N}]/u.test(after)) return true;
  }
  return false;
}

function emptyFault(path: string, label: string, isThere: boolean): Finding {
  return {
    code: "attachment-empty",
    severity: "stop",
    where: `group ${label}`,
    what: isThere ? `"${path}" is empty.` : `"${path}" cannot be read.`,
    advice: "It may still be on its way: put it there whole, then run again.",
  };
}
