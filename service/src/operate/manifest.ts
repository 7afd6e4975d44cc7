/** What a backup holds, told by itself: so that whoever restores it knows that it is whole, and what it was taken from. */
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { readdir, readFile, rename, stat } from "node:fs/promises";
import { join } from "node:path";
import { CorbixError, sha256 } from "@corbix/core/common";
import { describeProblems } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { z } from "zod";
import { writeFlushed } from "./flushed.js";

const digest = z.string().regex(/^[0-9a-f]{64}$/);
const count = z.number().int().min(0);

export const manifestSchema = z.strictObject({
  form: z.literal(1),
  takenAt: z.iso.datetime().describe("The moment that database and files are of."),
  corbix: z.string().describe("Version that took it."),
  installation: z.uuid().nullable(),
  database: z.strictObject({
    file: z.string(),
    sha256: digest,
    size: count,
    server: z.string(),
    migrations: z.array(z.string()),
    tables: z.record(z.string(), count).describe("Rows of each table."),
  }),
  files: z.strictObject({ list: z.string(), sha256: digest, count, bytes: count, missing: z.array(z.string()) }),
  folders: z.array(z.strictObject({ folder: z.string(), path: z.string(), sha256: digest, size: count })),
  left: z.array(z.strictObject({ name: z.string(), sha256: digest, size: count })),
  key: z.string().describe("Tells the key that secrets are sealed with from others; the key is not in the backup."),
});
export type Manifest = z.output<typeof manifestSchema>;

const MANIFEST = "manifest.json";
/** Stored bytes of all backups in a folder, each once. */
export const BYTES = "files";
/** Digests and sizes of the stored bytes that a backup needs. */
export const LIST = "files.txt";
export const DUMP = "database.dump";
export const LEFT = "left";

/** Name of a backup by its moment: `2026-11-02T073000Z`. */
export function backupName(at: Date): string {
  return at.toISOString().replace(/:/g, "").replace(/\.\d+/, "");
}

/** Names of the whole backups in a folder, the oldest first. What has no manifest was never finished, and is none. */
export async function backupsIn(folder: string): Promise<string[]> {
  const names = await readdir(folder, { withFileTypes: true }).catch(() => []);
  const whole: string[] = [];
  for (const one of names)
    if (
      one.isDirectory() &&
      /^\d{4}-\d\d-\d\dT\d{6}Z/.test(one.name) &&
      (await isFile(join(folder, one.name, MANIFEST)))
    )
      whole.push(one.name);
  return whole.sort();
}

export function isFile(path: string): Promise<boolean> {
  return stat(path).then(
    (found) => found.isFile(),
    () => false,
  );
}

/** Written last, and under its name only when the disk has it; it ends with a digest of itself. */
export async function writeManifest(folder: string, manifest: Manifest): Promise<void> {
  const text = JSON.stringify(manifest, null, 2);
  const beside = join(folder, `${MANIFEST}.part`);
  await writeFlushed(beside, `${text}\n${sha256(text)}\n`);
  await rename(beside, join(folder, MANIFEST));
}

/** Throws `BAD_BACKUP` where it is not as it was written. */
export async function readManifest(folder: string): Promise<Manifest> {
  const path = join(folder, MANIFEST);
  const whole = await readFile(path, "utf8").catch((cause: NodeJS.ErrnoException) => {
    throw new CorbixError("BAD_BACKUP", say().serviceOperate.noManifest(), {
      where: path,
      advice: say().serviceOperate.nameBackup(),
      cause,
    });
  });
  const [, text, written] = /^([\s\S]*)\n([0-9a-f]{64})\n$/.exec(whole) ?? [];
  if (text === undefined || sha256(text) !== written)
    throw new CorbixError("BAD_BACKUP", say().serviceOperate.manifestChanged(), {
      where: path,
      advice: say().serviceOperate.useAnother(),
    });
  const result = manifestSchema.safeParse(JSON.parse(text));
  if (!result.success)
    throw new CorbixError(
      "BAD_BACKUP",
      say().serviceOperate.manifestOfOther({ problems: describeProblems(result.error) }),
      { where: path, advice: say().serviceOperate.useNewer() },
    );
  return result.data;
}

/** Digest of a file, read piece by piece. */
export async function digestOfFile(path: string): Promise<string> {
  const hash = createHash("sha256");
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest("hex");
}

/** Lines `digest size` of a backup's list of stored bytes. */
export function listText(blobs: readonly { readonly sha256: string; readonly size: number }[]): string {
  return blobs.map((one) => `${one.sha256} ${one.size}\n`).join("");
}

export async function readList(
  folder: string,
  { files }: Manifest,
): Promise<{ readonly sha256: string; readonly size: number }[]> {
  const path = join(folder, files.list);
  const text = await readFile(path, "utf8").catch(() => "");
  if (sha256(text) !== files.sha256)
    throw new CorbixError("BAD_BACKUP", say().serviceOperate.listChanged(), {
      where: path,
      advice: say().serviceOperate.useAnother(),
    });
  return text
    .split("\n")
    .filter(Boolean)
    .map((line) => {
      const [digest, size] = line.split(" ");
      return { sha256: digest ?? "", size: Number(size) };
    });
}

/** Where bytes lie in a folder of backups, or in a store: `ab/abcdef…`. */
export function pathOfBytes(root: string, digest: string): string {
  return join(root, digest.slice(0, 2), digest);
}
