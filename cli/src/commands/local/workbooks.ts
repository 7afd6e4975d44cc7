/** Odd jobs on workbooks: each sheet to a file of its own, words replaced in many. */

import { basename, join, resolve } from "node:path";
import { CorbixError, type Finding } from "@corbix/core/common";
import { uniqueName } from "@corbix/core/naming";
import { loadTable } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { replaceWords, sheetsApart, type WordPair } from "@corbix/core/workbook";
import { filesBelow, isFolder, readInput, writeFolder } from "../../files.js";
import { findingLines, type Output, tableText } from "../../output.js";
import { today } from "../../today.js";

/** Each visible sheet as a workbook of its own, with its looks and values only. */
export async function sheets(path: string, options: { readonly out: string }, output: Output): Promise<number> {
  const bytes = await readInput(path);
  const made: { sheet: string; file: string }[] = [];
  const findings: Finding[] = [];
  await writeFolder(options.out, async (add) => {
    for (const one of sheetsApart(bytes, basename(path), today())) {
      findings.push(...one.findings.filter((finding) => !findings.some((known) => known.what === finding.what)));
      await add(one.file, one.bytes);
      made.push({ sheet: one.sheet, file: one.file });
    }
  });
  output.line(
    `${made.length} ${made.length === 1 ? "sheet" : "sheets"} of ${basename(path)} in ${options.out}, values only`,
  );
  for (const { file } of made) output.line(`  ${file}`);
  for (const line of findingLines(findings)) output.line(line);
  output.value({ folder: options.out, files: made, findings });
  return 0;
}

/** Changed cells that are listed at most; `--json` gives all. */
const LISTED = 40;

export interface ReplaceOptions {
  readonly out: string;
  /** A table of two columns: a word, and what stands in its place. */
  readonly list?: string;
  readonly whole?: boolean;
  readonly anyCase?: boolean;
}

/** `what` are a word, what stands in its place, and files and folders; with a list files and folders only. */
export async function replace(what: readonly string[], options: ReplaceOptions, output: Output): Promise<number> {
  const { list } = options;
  const pairs = list === undefined ? [{ from: what[0] ?? "", to: what[1] ?? "" }] : await readPairs(list);
  const paths = list === undefined ? what.slice(2) : what;
  if (pairs.some(({ from }) => from === ""))
    throw new CorbixError("BAD_REQUEST", say().command.cannotReplaceNothingWordReplaced(), {});
  if (paths.length === 0)
    throw new CorbixError("BAD_REQUEST", say().command.cannotReplaceWordsWithoutFiles(), {
      advice: say().command.nameWorkbooksFoldersBehindWords(),
    });
  const files = await filesIn(paths);
  const rule = { pairs, whole: options.whole === true, anyCase: options.anyCase === true };
  const all: { file: string; sheet: string; cell: string; before: string; after: string }[] = [];
  await writeFolder(options.out, async (add) => {
    for (const { path, target } of files) {
      const bytes = await readInput(path);
      if (!isWorkbook(path)) {
        await add(target, bytes);
        continue;
      }
      const { package: changed, cells } = replaceWords(bytes, target, rule);
      await add(target, cells.length === 0 ? bytes : changed.toBytes());
      all.push(...cells.map((cell) => ({ file: target, ...cell })));
    }
  });
  const books = files.filter(({ path }) => isWorkbook(path)).length;
  const touched = new Set(all.map((cell) => cell.file)).size;
  output.line(
    `${all.length.toLocaleString("en")} ${all.length === 1 ? "cell" : "cells"} changed in ${touched} of ${books} workbooks; all are in ${options.out}`,
  );
  if (all.length > 0) {
    const short = (text: string): string => (text.length > 34 ? `${text.slice(0, 33)}…` : text).replaceAll("\n", " ");
    output.line("");
    output.line(
      tableText(
        ["File", "Cell", "Before", "After"],
        all.slice(0, LISTED).map((one) => [one.file, `${one.sheet}!${one.cell}`, short(one.before), short(one.after)]),
      ),
    );
    if (all.length > LISTED) output.line(`and ${(all.length - LISTED).toLocaleString("en")} more: --json gives all`);
  }
  output.value({ folder: join(options.out), cells: all });
  return 0;
}

const isWorkbook = (path: string): boolean => /\.xls[xm]$/i.test(path);

/** Named files, and all files of named folders, each with where it goes: one folder is mirrored, several stand beside each other. */
async function filesIn(paths: readonly string[]): Promise<{ path: string; target: string }[]> {
  const taken = new Set<string>();
  const found: { path: string; target: string }[] = [];
  for (const path of paths) {
    if (!(await isFolder(path))) {
      const [, stem = "", ending] = /^(.*?)(\.[^.]*)?$/.exec(basename(path)) ?? [];
      found.push({ path, target: uniqueName(stem, ending ?? "", taken) });
      continue;
    }
    const base = paths.length === 1 ? "" : uniqueName(basename(resolve(path)), "", taken);
    for (const name of await filesBelow(path)) found.push({ path: join(path, name), target: join(base, name) });
  }
  return found;
}

/** Two columns of a table; a first line that says `from` and `to` is its heading. */
async function readPairs(list: string): Promise<WordPair[]> {
  const { table } = loadTable(await readInput(list), basename(list), { header: "none", names: ["from", "to"] });
  if (table.columns.length < 2)
    throw new CorbixError("BAD_REQUEST", say().command.cannotReadListNeedsTwo(), {
      where: list,
    });
  const [from = [], to = []] = table.columns.map((column) => column.values.map((cell) => String(cell ?? "")));
  const pairs = from.map((word, at) => ({ from: word, to: to[at] ?? "" }));
  const isHeading = pairs[0]?.from.toLowerCase() === "from" && pairs[0].to.toLowerCase() === "to";
  return isHeading ? pairs.slice(1) : pairs;
}
