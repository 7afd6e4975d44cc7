/** Reads a backup whole and says whether it is as it was taken. */
import { stat } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { systemCode } from "../store/store-errors.js";
import {
  BYTES,
  backupsIn,
  digestOfFile,
  isFile,
  LEFT,
  type Manifest,
  pathOfBytes,
  readList,
  readManifest,
} from "./manifest.js";

export interface ChosenBackup {
  /** Folder of backups. */
  readonly out: string;
  readonly name: string;
  readonly manifest: Manifest;
}

export interface CheckedBackup extends ChosenBackup {
  readonly files: number;
  readonly faults: readonly { readonly file: string; readonly what: "damaged" | "missing" }[];
}

/** The newest backup of a folder, or the one that is named; a backup's own folder names itself. Throws `NOT_FOUND` or `BAD_BACKUP`. */
export async function chooseBackup(folder: string, name?: string): Promise<ChosenBackup> {
  if (name === undefined && (await isFile(join(folder, "manifest.json")))) {
    const parts = folder.replace(/\/+$/, "").split("/");
    const own = parts.pop() ?? "";
    const out = parts.join("/") || (folder.startsWith("/") ? "/" : ".");
    return { out, name: own, manifest: await readManifest(folder) };
  }
  const all = await backupsIn(folder);
  const chosen = name ?? all.at(-1);
  if (chosen === undefined || !all.includes(chosen))
    throw new CorbixError("NOT_FOUND", say().serviceOperate.noBackup({ name }), {
      where: folder,
      advice:
        all.length > 0 ? say().serviceOperate.thereAre({ names: all.join(", ") }) : say().serviceOperate.nameBackup(),
    });
  return { out: folder, name: chosen, manifest: await readManifest(join(folder, chosen)) };
}

/** Reads everything that a backup names. */
export async function checkBackup(
  chosen: ChosenBackup,
  progress?: (done: number, total: number) => void,
): Promise<CheckedBackup> {
  const { out, name, manifest } = chosen;
  const folder = join(out, name);
  const list = await readList(folder, manifest);
  const bytes = join(out, BYTES);
  const parts = [
    { path: join(folder, manifest.database.file), shown: manifest.database.file, sha256: manifest.database.sha256 },
    ...manifest.left.map((one) => ({
      path: join(folder, LEFT, one.name),
      shown: `${LEFT}/${one.name}`,
      sha256: one.sha256,
    })),
    ...manifest.folders.map((one) => ({
      path: pathOfBytes(bytes, one.sha256),
      shown: `${one.folder}/${one.path}`,
      sha256: one.sha256,
    })),
    ...list
      .filter((one) => !manifest.files.missing.includes(one.sha256))
      .map((one) => ({ path: pathOfBytes(bytes, one.sha256), shown: one.sha256, sha256: one.sha256 })),
  ];
  const faults: { file: string; what: "damaged" | "missing" }[] = [];
  for (const [at, part] of parts.entries()) {
    const found = await digestOfFile(part.path).catch((error: unknown) => {
      if (systemCode(error) === "ENOENT") return undefined;
      throw error;
    });
    if (found !== part.sha256) faults.push({ file: part.shown, what: found === undefined ? "missing" : "damaged" });
    progress?.(at + 1, parts.length);
  }
  return { ...chosen, files: parts.length, faults };
}

/** How much a backup takes when it is restored: dump and stored bytes. */
export async function sizeOfBackup({ out, name, manifest }: ChosenBackup): Promise<number> {
  return manifest.files.bytes + (await stat(join(out, name, manifest.database.file))).size * 4;
}
