/** Files that go with messages and are not made: the same for everybody, or found in a folder by name. */

import { RE2JS } from "re2js";
import type { Finding } from "../common/index.js";
import { patternSource, plainPattern } from "../naming/index.js";
import { say } from "../words/index.js";
import type { WantedFile } from "./bind-report.js";
import type { PlannedParcel } from "./plan/plan-parcel.js";

/** Where attachments are: the library, and a folder with folders. Paths are relative to that folder, with `/`. */
export interface AttachmentSource {
  /** A file of the library by its name. */
  readonly fixed: (name: string) => Promise<Uint8Array>;
  /** Names of the files of a folder, `""` for the folder itself; none where it is not there. */
  readonly list: (folder: string) => Promise<readonly string[]>;
  /** `undefined` where it cannot be read. */
  readonly read: (path: string) => Promise<Uint8Array | undefined>;
}

/** A file that a group's messages take along. */
export interface FoundAttachment {
  /** `fixed`: the same for all, from the library. `found`: in the folder of attachments, for this group. */
  readonly kind: WantedFile["kind"];
  readonly name: string;
  /** Where it was found. */
  readonly origin: string;
}

export interface FoundAttachments<Kept> {
  /** By number of the parcel. */
  readonly files: ReadonlyMap<number, readonly (FoundAttachment & Kept)[]>;
  /** Parcels that are left out for want of a file, with the reason. */
  readonly leftOut: ReadonlyMap<number, string>;
  readonly findings: readonly Finding[];
}

/**
 * Finds what the parcels' messages take along; `keep` says what stays of each file's bytes. What is not there, there twice, empty,
 * another group's by its name, or wanted by two groups is a finding; where the report allows it, it leaves its own group out and stops
 * nobody else.
 */
export async function findAttachments<Kept>(
  parcels: readonly PlannedParcel[],
  groupNames: readonly string[],
  source: AttachmentSource,
  keep: (bytes: Uint8Array, parcel: PlannedParcel) => Promise<Kept>,
): Promise<FoundAttachments<Kept>> {
  const files = new Map<number, readonly (FoundAttachment & Kept)[]>();
  const leftOut = new Map<number, string>();
  const findings: Finding[] = [];
  const folders = new FolderLists(source);
  const found = new Map<PlannedParcel, Map<WantedFile, string[]>>();
  for (const parcel of parcels) {
    const own = new Map<WantedFile, string[]>();
    for (const wanted of parcel.enclosed)
      if (wanted.kind === "found") own.set(wanted, await folders.like(wanted.pattern));
    found.set(parcel, own);
  }
  const claimed = claims(found);
  for (const parcel of parcels) {
    const { label } = parcel.group;
    const enclosed: (FoundAttachment & Kept)[] = [];
    for (const wanted of parcel.enclosed) {
      if (wanted.kind === "fixed") {
        const kept = await keep(await source.fixed(wanted.name), parcel);
        enclosed.push({ kind: "fixed", name: wanted.name, origin: wanted.name, ...kept });
        continue;
      }
      const paths = found.get(parcel)?.get(wanted) ?? [];
      const fault =
        countFault(wanted, paths, label) ??
        (wanted.forAll
          ? undefined
          : (sharedFault(paths[0], claimed.get(paths[0]) ?? [], label) ??
            nameFault(paths[0], wanted, label, groupNames)));
      const bytes = fault ? undefined : await source.read(paths[0]);
      const trouble =
        fault ?? (bytes && bytes.length > 0 ? undefined : emptyFault(paths[0], label, bytes !== undefined));
      if (trouble || !bytes) {
        if (trouble) addFault(trouble, wanted, parcel, { findings, leftOut });
        continue;
      }
      enclosed.push({ kind: "found", name: fileName(paths[0]), origin: paths[0], ...(await keep(bytes, parcel)) });
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
      what: say().run.groupLeftOut({ what: fault.what }),
      advice: say().run.putFileThenRunAgain(),
    });
    return;
  }
  if (wanted.needed === false && fault.code === "attachment-not-found")
    to.findings.push({ ...fault, severity: "warn", advice: say().run.messageGoesWithout() });
  else to.findings.push(fault);
}

/** The folder of attachments, each of its folders listed once for a run. */
class FolderLists {
  private readonly lists = new Map<string, Promise<{ name: string; folded: string }[]>>();

  constructor(private readonly source: AttachmentSource) {}

  /** Paths below the root that a pattern means; capitals and the way accents are written do not count. */
  async like(pattern: string): Promise<string[]> {
    const cut = pattern.lastIndexOf("/");
    const inside = plainPattern(pattern.slice(0, Math.max(0, cut)));
    const steps = inside.split(/[/\\]/).filter((step) => step !== "" && step !== ".");
    // Whatever stands in the data, it names nothing outside.
    if (/^[/\\]|^[A-Za-z]:|\0/.test(inside) || pattern.includes("\0") || steps.includes("..")) return [];
    const folder = steps.join("/");
    // Matched in linear time, whatever the pattern.
    const wanted = RE2JS.compile(patternSource(fold(pattern.slice(cut + 1))), RE2JS.DOTALL);
    return (await this.list(folder))
      .filter((entry) => wanted.matches(entry.folded))
      .map((entry) => (folder === "" ? entry.name : `${folder}/${entry.name}`))
      .sort();
  }

  private list(folder: string): Promise<{ name: string; folded: string }[]> {
    const known = this.lists.get(folder);
    if (known) return known;
    const listed = this.source
      .list(folder)
      .then((names) => names.filter((name) => !name.startsWith(".")).map((name) => ({ name, folded: fold(name) })));
    this.lists.set(folder, listed);
    return listed;
  }
}

function fileName(path: string): string {
  return path.slice(path.lastIndexOf("/") + 1);
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
  const where = say().place.group({ name: label });
  if (found.length === 0)
    return {
      code: "attachment-not-found",
      severity: "stop",
      where,
      what: say().run.fileFolderAttachments({ name }),
      advice: say().run.putThenRunAgain(),
    };
  return {
    code: "attachment-found-twice",
    severity: "stop",
    where,
    what: say().run.meansFiles({ name, foundCount: found.length, found: found.slice(0, 5).join(", ") }),
    advice: say().run.nameMoreNarrowlyTakeOthers(),
  };
}

function sharedFault(path: string, groups: readonly string[], label: string): Finding | undefined {
  const others = groups.filter((one) => one !== label);
  if (others.length === 0) return undefined;
  return {
    code: "attachment-for-several",
    severity: "stop",
    where: say().place.group({ name: label }),
    what: say().run.wouldGoGroups({
      path,
      otherCount: others.length + 1,
      list: [label, ...others].slice(0, 5).join(", "),
    }),
    advice: say().run.nameGroupFileSName(),
  };
}

/** A file whose name holds another group's name, beyond what the pattern itself says, is that group's. */
function nameFault(
  path: string,
  wanted: WantedFile,
  label: string,
  groupNames: readonly string[],
): Finding | undefined {
  const name = fold(fileName(path));
  const asked = fold(plainPattern(wanted.pattern));
  const other = groupNames.find(
    (one) => fold(one) !== fold(label) && holdsName(name, fold(one)) && !holdsName(asked, fold(one)),
  );
  if (other === undefined) return undefined;
  return {
    code: "attachment-of-another",
    severity: "stop",
    where: say().place.group({ name: label }),
    what: say().run.namesWouldGo({ path, other, label }),
    advice: say().run.nameMoreNarrowlyRenameFile(),
  };
}

/** Whether a name stands in a text as words of its own. */
function holdsName(text: string, name: string): boolean {
  if (name === "") return false;
  for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1)) {
    const before = text.slice(Math.max(0, at - 1), at);
    const after = text.slice(at + name.length, at + name.length + 1);
    if (!/[\p{L}\p{N}]/u.test(before) && !/[\p{L}\p{N}]/u.test(after)) return true;
  }
  return false;
}

function emptyFault(path: string, label: string, isThere: boolean): Finding {
  return {
    code: "attachment-empty",
    severity: "stop",
    where: say().place.group({ name: label }),
    what: say().run.empty({ isThere, path }),
    advice: say().run.mayStillWayPutWhole(),
  };
}
