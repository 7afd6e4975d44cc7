/** What one group of a run gets: its files, attachments, totals and rows. */

import { CorbixError, type Finding, made } from "../../common/index.js";
import type { Env } from "../../expression/index.js";
import { foldFileName, safeFolder, safeName, uniqueName } from "../../naming/index.js";
import type { Matched } from "../../recipients/index.js";
import type { Report } from "../../report/index.js";
import type { Group } from "../../split/index.js";
import type { Table } from "../../table/index.js";
import { type BoundText, withPlace } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { WantedFile } from "../bind-report.js";
import type { FileKind } from "../make-file.js";
import { Blanks } from "../marks/blanks.js";
import type { ReportMaker } from "../report-maker.js";
import type { FurtherTable } from "../rows/further.js";
import { linesDigest } from "../rows/lines-digest.js";
import { type GroupPlace, groupEnv, type RunFacts } from "../scope.js";
import { totalsOf } from "./control-totals.js";

export interface PlannedFile {
  /** Name of the file in the report. */
  readonly file: string;
  readonly kind: FileKind;
  /** Folder and name under which it is given out. */
  readonly path: string;
}

/** A group's files on one way out besides mail. */
export interface PlannedWay {
  /** Name of the way out. */
  readonly way: string;
  readonly over: boolean;
  /** Each file by its path in the run, with folder and name there. */
  readonly files: readonly { readonly path: string; readonly to: string }[];
}

/** What one group gets. */
export interface PlannedParcel {
  readonly number: number;
  readonly group: Group;
  /** Who receives, each with the rule that says so. */
  readonly recipients: readonly Matched[];
  /** Why nobody does. */
  readonly nobody?: string;
  readonly files: readonly PlannedFile[];
  /** Files that go with the message, as paths. */
  readonly attachments: readonly string[];
  /** Files that go with it and are not made: to be fetched by whoever runs the plan. */
  readonly enclosed: readonly WantedFile[];
  /** Where its files go besides mail. */
  readonly ways: readonly PlannedWay[];
  /** By the folded name of further lines that belong to groups: the rows of this one. */
  readonly further: Readonly<Record<string, readonly number[]>>;
  /** Control totals by name, as exact decimal text. */
  readonly totals: Readonly<Record<string, string>>;
  readonly rowsDigest: string;
}

/** What all parcels of a run have in common. */
export interface ParcelsOf {
  readonly maker: ReportMaker;
  readonly table: Table;
  readonly beside: readonly FurtherTable[];
  readonly facts: RunFacts;
  /** Names that are given out, by the folder; those on ways out by way and folder. */
  readonly taken: Map<string, Set<string>>;
}

export function planParcel(
  { maker, table, beside, facts, taken }: ParcelsOf,
  group: Group,
  place: GroupPlace,
  { recipients, nobody }: { readonly recipients: readonly Matched[]; readonly nobody: string | undefined },
): { readonly parcel: PlannedParcel; readonly findings: readonly Finding[] } {
  const where = say().place.group({ name: group.label });
  const env = groupEnv(table, group, place, recipients, facts);
  const blanks = new Blanks();
  const telling: Env = { ...env, onBlank: (at, source) => blanks.add(at, source) };
  const files = withPlace(where, () => planFiles(maker, telling, taken));
  const parcel: PlannedParcel = {
    number: place.number,
    group,
    further: Object.fromEntries(
      beside.filter((one) => one.belongs).map((one) => [one.name, place.further?.get(one.name)?.lines ?? []]),
    ),
    recipients,
    ...(nobody === undefined ? {} : { nobody }),
    files,
    attachments: attachmentPaths(maker.report, files),
    enclosed: withPlace(where, () => maker.enclosed(env)),
    ways: withPlace(where, () => planWays(maker, telling, files, taken)),
    totals: withPlace(where, () => totalsOf(maker.totals, env)),
    rowsDigest: linesDigest({ table, lines: group.rows }, place.further),
  };
  return { parcel, findings: blanks.findings(env) };
}

export function planFiles(maker: ReportMaker, env: Env, taken: Map<string, Set<string>>): PlannedFile[] {
  return maker.files.flatMap((file) => {
    if (file.when && file.when.evaluate(env) !== true) return [];
    const folder = file.folder ? folderOf(file.folder, env) : "";
    const inFolder = namesIn(taken, folder);
    const name = safeName(file.fileName.fill(env));
    return maker.outputs(file.name).map((kind): PlannedFile => {
      const unique = uniqueName(name, `.${kind}`, inFolder);
      return { file: file.name, kind, path: pathIn(folder, unique) };
    });
  });
}

/** A slash in a value is a letter: only the definition makes folders. */
function folderOf(folder: BoundText, env: Env): string {
  return safeFolder(folder.fill(env, (value) => value.replace(/[/\\]/g, "-")));
}

const pathIn = (folder: string, name: string): string => (folder === "" ? name : `${folder}/${name}`);

/** The names that are given out in a folder. */
function namesIn(taken: Map<string, Set<string>>, folder: string, way = ""): Set<string> {
  const key = `${way}|${foldFileName(folder)}`;
  const names = taken.get(key) ?? new Set<string>();
  taken.set(key, names);
  return names;
}

/** Where a group's files go besides mail; a way out whose condition does not hold for it, or that none of its files takes, is left out. */
function planWays(
  maker: ReportMaker,
  env: Env,
  files: readonly PlannedFile[],
  taken: Map<string, Set<string>>,
): PlannedWay[] {
  return maker.waysOut.flatMap((way): PlannedWay[] => {
    if (way.when && way.when.evaluate(env) !== true) return [];
    const chosen = way.files
      ? files.filter((file) => way.files?.some((wanted) => fileNamed(wanted, files) === file))
      : files;
    if (chosen.length === 0) return [];
    const folder = way.folder && folderOf(way.folder, env);
    const name = way.fileName && safeName(way.fileName.fill(env));
    const placed = chosen.map(({ file, path, kind }) => {
      const inFolder = folder ?? path.slice(0, Math.max(0, path.lastIndexOf("/")));
      // As the file is called by itself: whether another has that name is a matter of the folder there.
      const own = made(
        maker.files.find((one) => one.name === file),
        `the file ${file}`,
      ).fileName;
      const called = name ?? safeName(own.fill(env));
      const unique = uniqueName(called, `.${kind}`, namesIn(taken, inFolder, way.way));
      // A number would be another one in a run over fewer groups, and one group's file be written over by another's.
      if (way.over && unique !== `${called}.${kind}`)
        throw new CorbixError(
          "BAD_DEFINITION",
          say().run.sameNameOnWay({ name: pathIn(inFolder, `${called}.${kind}`) }),
          {
            where: `waysOut, ${way.way}, over`,
            advice: say().run.nameFilesApart(),
          },
        );
      return { path, to: pathIn(inFolder, unique) };
    });
    return [{ way: way.way, over: way.over, files: placed }];
  });
}

/** Files that go with the message; one with a condition may be missing. */
export function attachmentPaths(report: Report, files: readonly PlannedFile[]): string[] {
  return (report.message?.attach ?? []).flatMap((wanted) => {
    const found = typeof wanted === "string" ? fileNamed(wanted, files) : undefined;
    return found ? [found.path] : [];
  });
}

/** `statement` is the file as it is kept, `statement.pdf` its PDF. */
function fileNamed(wanted: string, files: readonly PlannedFile[]): PlannedFile | undefined {
  const isPdf = wanted.endsWith(".pdf");
  const name = isPdf ? wanted.slice(0, -4) : wanted;
  return files.find((file) => file.file === name && (!isPdf || file.kind === "pdf"));
}
