/** Odd jobs on workbooks: each sheet to a file of its own, words replaced in many. */
import { basename, join } from "node:path";
import { CorbixError } from "@corbix/core/common";
import { uniqueName } from "@corbix/core/naming";
import { replaceWords, sheetsApart } from "@corbix/core/workbook";
import { readInput, writeFolder } from "../files.js";
import { type Output, tableText } from "../output.js";

/** Each visible sheet as a workbook of its own, with its looks and values only. */
export async function sheets(path: string, options: { readonly out: string }, output: Output): Promise<number> {
  const bytes = await readInput(path);
  const made: { sheet: string; file: string }[] = [];
  await writeFolder(options.out, async (add) => {
    for (const one of sheetsApart(bytes, basename(path))) {
      await add(one.file, one.bytes);
      made.push({ sheet: one.sheet, file: one.file });
    }
  });
  output.line(
    `${made.length} ${made.length === 1 ? "sheet" : "sheets"} of ${basename(path)} in ${options.out}, values only`,
  );
  for (const { file } of made) output.line(`  ${file}`);
  output.value({ folder: options.out, files: made });
  return 0;
}

/** Changed cells that are listed at most; `--json` gives all. */
const LISTED = 40;

export async function replace(
  from: string,
  to: string,
  files: readonly string[],
  options: { readonly out: string; readonly whole?: boolean; readonly anyCase?: boolean },
  output: Output,
): Promise<number> {
  if (from === "")
    throw new CorbixError("BAD_REQUEST", "Cannot replace nothing: the word to be replaced is blank.", {});
  const taken = new Set<string>();
  const all: { file: string; sheet: string; cell: string; before: string; after: string }[] = [];
  await writeFolder(options.out, async (add) => {
    for (const path of files) {
      const name = basename(path);
      const { package: changed, cells } = replaceWords(await readInput(path), name, {
        from,
        to,
        whole: options.whole === true,
        anyCase: options.anyCase === true,
      });
      const [, stem, ending] = /^(.*?)(\.[^.]*)?$/.exec(name) ?? [];
      await add(uniqueName(stem, ending ?? "", taken), changed.toBytes());
      all.push(...cells.map((cell) => ({ file: name, ...cell })));
    }
  });
  const touched = new Set(all.map((cell) => cell.file)).size;
  output.line(
    `${all.length.toLocaleString("en")} ${all.length === 1 ? "cell" : "cells"} changed in ${touched} of ${files.length} workbooks; all are in ${options.out}`,
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
