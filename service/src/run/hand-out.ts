/** Other ways out for a run's files: a zip file of them, or folders on a mounted share. */
import { randomUUID } from "node:crypto";
import { link, mkdir, readFile, rm, writeFile } from "node:fs/promises";
import { dirname, isAbsolute, join, resolve, sep } from "node:path";
import { CorbixError, cleanKey, sha256 } from "@corbix/core/common";
import { safeFolder, safeName } from "@corbix/core/naming";
import { deflateEntry, writeZip, type ZipEntry } from "@corbix/core/ooxml";
import { joinPdfs } from "@corbix/core/pdf";
import { noteAction } from "../actions.js";
import type { Context } from "../context.js";
import type { FileRow, ParcelRow } from "../records/index.js";
import { getRun, parcelsOf } from "./run-records.js";

/** Bytes of files that a zip file may hold; it is made in memory. */
const MOST_BYTES = 1_000_000_000;

export interface OwnFile {
  readonly parcel: Omit<ParcelRow, "lines">;
  readonly file: FileRow;
}

/** A run's made files with the parcels whose rows made them; what does not fit together is left out by nobody: it is an error. */
export async function filesOf(
  context: Context,
  runId: string,
  groups: readonly string[] | undefined,
): Promise<OwnFile[]> {
  const run = await getRun(context, runId);
  if (!["held", "delivering", "done", "stopped"].includes(run.state))
    throw new CorbixError("CONFLICT", `Cannot hand out the files: the run is ${run.state}.`, { where: `run ${runId}` });
  const wanted = groups?.map(cleanKey);
  const parcels = (await parcelsOf(context, runId)).filter((parcel) => !wanted || wanted.includes(parcel.groupKey));
  const files = (await context.database.models.File.findAll({
    where: { runId },
    order: [["id", "ASC"]],
    raw: true,
  })) as unknown as FileRow[];
  return parcels.flatMap((parcel) =>
    files
      .filter((file) => file.parcelId === parcel.id)
      .map((file) => {
        if (file.groupKey !== parcel.groupKey || file.rowsDigest !== parcel.rowsDigest)
          throw new CorbixError(
            "PROVENANCE_MISMATCH",
            `Cannot hand out "${file.path}": it was made for another group.`,
            {
              where: `run ${runId}, group ${parcel.label}`,
            },
          );
        if (file.removedAt)
          throw new CorbixError("NOT_FOUND", `Cannot hand out "${file.path}": it was deleted when its time was over.`, {
            where: `run ${runId}`,
          });
        return { parcel, file };
      }),
  );
}

/** All files in one zip, in a folder for each group; or those of some groups. Throws `LIMIT_EXCEEDED`. */
export async function zipOfRun(context: Context, runId: string, groups?: readonly string[]): Promise<Uint8Array> {
  const files = await filesOf(context, runId, groups);
  const bytes = files.reduce((sum, { file }) => sum + file.size, 0);
  if (bytes > MOST_BYTES)
    throw new CorbixError("LIMIT_EXCEEDED", `Cannot put ${bytes} bytes into one zip file.`, {
      where: `run ${runId}`,
      advice: "Take some of the groups at a time, or write them to a folder.",
    });
  const entries: ZipEntry[] = [];
  for (const { parcel, file } of files)
    entries.push(deflateEntry(nameInGroup({ parcel, file }).join("/"), await context.store.get(file.sha256)));
  return writeZip(entries);
}

/** The PDFs of all parcels behind each other, for printing; each group on sheets of its own if asked for. */
export async function printOfRun(
  context: Context,
  runId: string,
  how: { readonly sheets: boolean; readonly groups?: readonly string[] | undefined },
): Promise<Uint8Array> {
  const files = (await filesOf(context, runId, how.groups)).filter(({ file }) => file.kind === "pdf");
  if (files.length === 0)
    throw new CorbixError("NOT_FOUND", "Cannot print the run: it has no PDFs.", {
      where: `run ${runId}`,
      advice: "Let the report make PDFs: pdf: too.",
    });
  const parts = [];
  for (const { file } of files) parts.push({ bytes: await context.store.get(file.sha256), where: file.path });
  const run = await getRun(context, runId);
  return joinPdfs(parts, { title: `${run.report} ${run.period}`, sheets: how.sheets });
}

export interface HandedOut {
  readonly folder: string;
  readonly written: number;
  /** Were there already with the same bytes. */
  readonly same: number;
}

/**
 * Writes the files under the outgoing folder, by their own paths or in a folder for each group. A file that is there with other
 * bytes is never written over: nothing is written then. Throws `CONFLICT`.
 */
export async function writeOut(
  context: Context,
  runId: string,
  how: { readonly folder: string; readonly perGroup: boolean; readonly groups?: readonly string[] | undefined },
  by: string,
): Promise<HandedOut> {
  const root = outFolder(context);
  const folder = join(root, safeFolder(how.folder));
  const files = await filesOf(context, runId, how.groups);
  const planned = await Promise.all(
    files.map(async ({ parcel, file }) => {
      const path = resolve(folder, how.perGroup ? join(...nameInGroup({ parcel, file })) : file.path);
      if (!path.startsWith(root + sep))
        throw new CorbixError("NOT_ALLOWED", `Cannot write "${file.path}": it lies outside of the outgoing folder.`, {
          where: folder,
        });
      const there = await readFile(path).catch(() => undefined);
      return { path, file, there: there && sha256(there) };
    }),
  );
  const taken = planned.find(({ file, there }) => there !== undefined && there !== file.sha256);
  if (taken)
    throw new CorbixError("CONFLICT", `Cannot write "${taken.path}": another file of that name is there.`, {
      where: folder,
      advice: "Name another folder, or move that file away. Nothing was written.",
    });
  for (const { path, file, there } of planned) {
    if (there !== undefined) continue;
    await mkdir(dirname(path), { recursive: true });
    const beside = join(dirname(path), `.${randomUUID()}`);
    await writeFile(beside, await context.store.get(file.sha256), { flag: "wx" });
    // Linked, not moved: what came there meanwhile is not written over.
    await link(beside, path).finally(() => rm(beside, { force: true }));
  }
  const same = planned.filter(({ there }) => there !== undefined).length;
  const done = { folder, written: planned.length - same, same };
  await noteAction(context.database, by, "files written to a folder", runId, done);
  return done;
}

/** Folder and name of a file where each group has a folder. */
export function nameInGroup({ parcel, file }: OwnFile): readonly [string, string] {
  return [safeName(parcel.label), nameOf(file)];
}

function nameOf(file: FileRow): string {
  return file.path.split("/").pop() ?? file.path;
}

function outFolder({ settings }: Context): string {
  return isAbsolute(settings.outFolder) ? settings.outFolder : join(settings.data, settings.outFolder);
}
