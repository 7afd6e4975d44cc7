import { access, mkdir, readdir, readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import { basename, dirname, join, relative, resolve } from "node:path";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Output } from "./output.js";

/** A file's bytes. Throws `NOT_FOUND` with the path. */
export async function readInput(path: string): Promise<Uint8Array> {
  try {
    return await readFile(path);
  } catch (cause) {
    const code = (cause as NodeJS.ErrnoException).code;
    const why = code === "ENOENT" ? "there is no such file" : code === "EISDIR" ? "it is a folder" : wordsOf(cause);
    throw new CorbixError("NOT_FOUND", say().command.cannotReadFile({ why }), { where: path, cause });
  }
}

/** Writes a file whole: beside its place first, then moved there. */
export async function writeOutput(path: string, bytes: Uint8Array): Promise<void> {
  await mkdir(dirname(resolve(path)), { recursive: true });
  const beside = `${path}.partial`;
  await writeFile(beside, bytes);
  await rename(beside, path);
}

/** Saves what the service gives as a file, and says how long it is. */
export async function saveDownload(given: Promise<Uint8Array>, target: string, output: Output): Promise<number> {
  const bytes = await given;
  await writeOutput(target, bytes);
  output.line(`${target}: ${bytes.length.toLocaleString("en")} bytes`);
  output.value({ file: target, bytes: bytes.length });
  return 0;
}

/**
 * Writes a folder whole or not at all: everything goes into a folder beside, which takes the place at the end.
 * Throws `CONFLICT` where the folder holds files already.
 */
export async function writeFolder(
  path: string,
  write: (add: (name: string, bytes: Uint8Array) => Promise<void>) => Promise<void>,
): Promise<void> {
  const target = resolve(path);
  const existing = await readdir(target).catch(() => undefined);
  if (existing && existing.length > 0) {
    throw new CorbixError("CONFLICT", say().command.cannotWriteFolderEmpty(), {
      where: path,
      advice: say().command.nameNewFolderEmpty(),
    });
  }
  const beside = `${target}.partial`;
  await rm(beside, { recursive: true, force: true });
  try {
    await mkdir(beside, { recursive: true });
    await write(async (name, bytes) => {
      const file = join(beside, name);
      await mkdir(dirname(file), { recursive: true });
      await writeFile(file, bytes);
    });
    await rm(target, { recursive: true, force: true });
    await rename(beside, target);
  } catch (error) {
    await rm(beside, { recursive: true, force: true });
    throw error;
  }
}

/** All files of a folder by their names; a missing folder is empty. */
export async function readFolder(path: string, ending = /./): Promise<Map<string, Uint8Array>> {
  const found = new Map<string, Uint8Array>();
  for (const name of await readdir(path).catch(() => [])) {
    if (!ending.test(name)) continue;
    const file = join(path, name);
    if ((await stat(file)).isFile()) found.set(basename(file), await readFile(file));
  }
  return found;
}

export async function isFolder(path: string): Promise<boolean> {
  return stat(path).then(
    (found) => found.isDirectory(),
    () => false,
  );
}

/** All files below a folder as paths within it, in their order; what programs put there for themselves is none. */
export async function filesBelow(path: string): Promise<string[]> {
  const found = await readdir(path, { recursive: true, withFileTypes: true });
  return found
    .filter((one) => one.isFile() && !/^(?:~\$|\.)/.test(one.name))
    .map((one) => join(relative(path, one.parentPath), one.name))
    .sort();
}

/** Pictures beside a template, which marks in alternative texts choose from. */
export function readPictures(folder: string): Promise<Map<string, Uint8Array>> {
  return readFolder(folder, /\.(?:png|jpe?g)$/i);
}

export async function exists(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}
