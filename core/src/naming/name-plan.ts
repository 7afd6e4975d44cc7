import { foldFileName, safeName, uniqueName } from "./file-name.js";

/** A file that is given out: where the definition puts it, and the group it belongs to. */
export interface NamedFile {
  readonly id: string;
  readonly path: string;
  /** What tells its group from others, and how people call it. */
  readonly group: string;
  readonly label: string;
}

export interface NamePlan {
  /** Folder and name of each file where every group has a folder, by the file's id. */
  readonly inGroup: ReadonlyMap<string, readonly [string, string]>;
}

/**
 * Names for all files of a run where each group has a folder: no two groups share one, and no two files a name, as a file system
 * without capitals sees them. The same files get the same names, whichever of them are wanted.
 * @example "A/B" and "A-B" //=> "A-B" and "A-B (2)"
 */
export function planNames(files: readonly NamedFile[]): NamePlan {
  const folders = new Map<string, { readonly name: string; readonly taken: Set<string> }>();
  const taken = new Set<string>();
  const inGroup = new Map<string, readonly [string, string]>();
  for (const { id, path, group, label } of files) {
    let folder = folders.get(group);
    if (!folder) {
      folder = { name: uniqueName(safeName(label), "", taken), taken: new Set() };
      folders.set(group, folder);
    }
    const whole = path.split("/").at(-1) ?? path;
    const dot = whole.lastIndexOf(".");
    const [name, ending] = dot > 0 ? [whole.slice(0, dot), whole.slice(dot)] : [whole, ""];
    inGroup.set(id, [folder.name, uniqueName(name, ending, folder.taken)]);
  }
  return { inGroup };
}

/** Paths that cannot stand beside each other: the same but for capitals, or one a folder in which the other lies. */
export function collisions(paths: readonly string[]): [string, string][] {
  const known = new Map<string, string>();
  const folders = new Map<string, string>();
  const found: [string, string][] = [];
  for (const path of paths) {
    const folded = foldFileName(path);
    const other = known.get(folded) ?? folders.get(folded);
    if (other !== undefined) found.push([other, path]);
    known.set(folded, path);
    const parts = folded.split("/");
    for (let at = 1; at < parts.length; at++) {
      const folder = parts.slice(0, at).join("/");
      const file = known.get(folder);
      if (file !== undefined) found.push([file, path]);
      folders.set(folder, path);
    }
  }
  return found;
}
