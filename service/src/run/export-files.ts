/** Other ways out for a run's files: a zip file of them, or folders on a mounted share. */

import { randomUUID } from "node:crypto";
import { link, mkdir, readFile, rm, writeFile } from "node:fs/promises";
import { dirname, isAbsolute, join, resolve, sep } from "node:path";
import { CorbixError, known, sha256 } from "@corbix/core/common";
import { collisions, planNames, safeFolder } from "@corbix/core/naming";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import type { Context } from "../process/context.js";
import { type FileRow, filesOfRun, type ParcelRow } from "../records/index.js";
import { systemCode } from "../store/store-errors.js";
import { knownGroups } from "./known-groups.js";
import { getRun, parcelsOf } from "./run-records.js";

/** Bytes of files that a zip file may hold; it is made in memory. */
const MOST_BYTES = 1_000_000_000;

export interface OwnFile {
  readonly parcel: Omit<ParcelRow, "lines">;
  readonly file: FileRow;
  /** Folder and name where each group has a folder: no two of the run are the same. */
  readonly inGroup: readonly [string, string];
}

/** A run's made files with the parcels whose rows made them; what does not fit together is left out by nobody: it is an error. */
export async function filesOf(
  context: Context,
  runId: string,
  groups: readonly string[] | undefined,
): Promise<OwnFile[]> {
  const run = await getRun(context, runId);
  if (!["held", "delivering", "done", "stopped"].includes(run.state))
    throw new CorbixError("CONFLICT", say().serviceRun.cannotHandOutFilesRun({ state: run.state }), {
      where: say().place.run({ id: runId }),
    });
  const wanted = groups && (await knownGroups(context, runId, groups));
  const all = await parcelsOf(context, runId);
  const files = await filesOfRun(context.database, runId);
  const byParcel = new Map<string, FileRow[]>(all.map((parcel) => [parcel.id, []]));
  for (const file of files) byParcel.get(file.parcelId)?.push(file);
  const ordered = all.flatMap((parcel) => (byParcel.get(parcel.id) ?? []).map((file) => ({ parcel, file })));
  // Names are of the whole run, so that a group has the same ones whether it is wanted alone or with others.
  const names = planNames(
    ordered.map(({ parcel, file }) => ({ id: file.id, path: file.path, group: parcel.groupKey, label: parcel.label })),
  );
  return ordered
    .filter(({ parcel }) => !wanted || wanted.includes(parcel.groupKey))
    .map(({ parcel, file }) => {
      if (file.groupKey !== parcel.groupKey || file.rowsDigest !== parcel.rowsDigest)
        throw new CorbixError("PROVENANCE_MISMATCH", say().serviceRun.cannotHandOutMadeAnother({ path: file.path }), {
          where: say().serviceRun.runGroup({ runId, label: parcel.label }),
        });
      if (file.removedAt)
        throw new CorbixError("NOT_FOUND", say().serviceRun.cannotHandOutDeletedWhen({ path: file.path }), {
          where: say().place.run({ id: runId }),
        });
      return { parcel, file, inGroup: known(names.inGroup, file.id) };
    });
}

/** Paths that cannot stand beside each other stop everything before it begins. Throws `CONFLICT`. */
function checkCollisions(paths: readonly string[], runId: string): void {
  const [clash] = collisions(paths);
  if (clash)
    throw new CorbixError(
      "CONFLICT",
      say().serviceRun.cannotWriteBesideManyFile({ clash: clash[1], clash2: clash[0] }),
      {
        where: say().place.run({ id: runId }),
        advice: say().serviceRun.nameFilesFoldersApartReport(),
      },
    );
}

/** All files in one zip, in a folder for each group; or those of some groups. Throws `LIMIT_EXCEEDED`. */
export async function zipOfRun(context: Context, runId: string, groups?: readonly string[]): Promise<Uint8Array> {
  const files = await filesOf(context, runId, groups);
  const bytes = files.reduce((sum, { file }) => sum + file.size, 0);
  if (bytes > MOST_BYTES)
    throw new CorbixError("LIMIT_EXCEEDED", say().serviceRun.cannotPutBytesZipFile({ bytes }), {
      where: say().place.run({ id: runId }),
      advice: say().serviceRun.takeSomeGroupsTimeWrite(),
    });
  const packed = files.map(({ file, inGroup }) => ({
    path: context.store.pathOf(file.sha256),
    sha256: file.sha256,
    name: inGroup.join("/"),
  }));
  checkCollisions(
    packed.map(({ name }) => name),
    runId,
  );
  return context.threads.isolated("packFiles", { files: packed });
}

/** The PDFs of all parcels behind each other, for printing; each group on sheets of its own if asked for. */
export async function printOfRun(
  context: Context,
  runId: string,
  how: { readonly sheets: boolean; readonly groups?: readonly string[] | undefined },
): Promise<Uint8Array> {
  const files = (await filesOf(context, runId, how.groups)).filter(({ file }) => file.kind === "pdf");
  if (files.length === 0)
    throw new CorbixError("NOT_FOUND", say().serviceRun.cannotPrintRunPdfs(), {
      where: say().place.run({ id: runId }),
      advice: say().serviceRun.letReportMakePdfsPdf(),
    });
  const run = await getRun(context, runId);
  return context.threads.isolated("joinFiles", {
    files: files.map(({ file }) => ({
      path: context.store.pathOf(file.sha256),
      sha256: file.sha256,
      name: file.path,
    })),
    title: `${run.report} ${run.period}`,
    sheets: how.sheets,
  });
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
  const files = (await filesOf(context, runId, how.groups)).map(({ file, inGroup }) => ({
    file,
    name: how.perGroup ? inGroup.join("/") : file.path,
  }));
  checkCollisions(
    files.map(({ name }) => name),
    runId,
  );
  const planned = await Promise.all(
    files.map(async ({ file, name }) => {
      const path = resolve(folder, ...name.split("/"));
      if (!path.startsWith(root + sep))
        throw new CorbixError("NOT_ALLOWED", say().serviceRun.cannotWriteLiesOutsideOutgoing({ path: file.path }), {
          where: folder,
        });
      const there = await readFile(path).catch(() => undefined);
      return { path, file, there: there && sha256(there) };
    }),
  );
  const taken = planned.find(({ file, there }) => there !== undefined && there !== file.sha256);
  if (taken) throw clash(taken.path, folder);
  await writeAll(
    context,
    planned.filter(({ there }) => there === undefined),
    folder,
  );
  const same = planned.filter(({ there }) => there !== undefined).length;
  const done = { folder, written: planned.length - same, same };
  await noteAction(context.database, by, "files written to a folder", runId, done);
  return done;
}

/** All of them or none: each is written beside its place and read again, then all get their names; what came in between undoes it. */
async function writeAll(
  context: Context,
  files: readonly { readonly path: string; readonly file: FileRow }[],
  folder: string,
): Promise<void> {
  const beside = new Map<string, string>();
  const linked: string[] = [];
  try {
    for (const { path, file } of files) {
      await mkdir(dirname(path), { recursive: true });
      const place = join(dirname(path), `.${randomUUID()}`);
      beside.set(path, place);
      await writeFile(place, await context.store.get(file.sha256), { flag: "wx" });
      if (sha256(await readFile(place)) !== file.sha256)
        throw new CorbixError("NO_SPACE", say().serviceRun.cannotWriteReadsOtherwiseWritten({ path }), {
          where: folder,
          advice: say().serviceRun.seeFolderRoomWellNothing(),
        });
    }
    for (const { path } of files) {
      // Linked, not moved: what came there meanwhile is not written over.
      await link(known(beside, path), path);
      linked.push(path);
    }
  } catch (error) {
    for (const path of linked) await rm(path, { force: true });
    const code = systemCode(error);
    if (code === "EEXIST") throw clash(files[linked.length]?.path ?? folder, folder);
    if (code === "ENOSPC" || code === "EDQUOT")
      throw new CorbixError("NO_SPACE", say().serviceRun.cannotWriteFilesSpaceLeft(), {
        where: folder,
        advice: say().serviceRun.makeRoomThenTryAgain(),
        cause: error,
      });
    throw error;
  } finally {
    for (const place of beside.values()) await rm(place, { force: true });
  }
}

function clash(path: string, folder: string): CorbixError {
  return new CorbixError("CONFLICT", say().serviceRun.cannotWriteAnotherFileName({ path }), {
    where: folder,
    advice: say().serviceRun.nameAnotherFolderMoveFile(),
  });
}

function outFolder({ settings }: Context): string {
  return isAbsolute(settings.outFolder) ? settings.outFolder : join(settings.data, settings.outFolder);
}
