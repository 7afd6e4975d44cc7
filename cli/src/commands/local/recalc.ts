import { basename } from "node:path";
import { CorbixError, maybeSerialFromIso } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { recalculateWorkbook } from "@corbix/core/workbook";
import { readInput, writeOutput } from "../../files.js";
import { findingLines, type Output, tableText } from "../../output.js";
import { today } from "../../today.js";

/** Cells that are listed at most; the count is of all. */
const LISTED = 50;

/** Evaluates every formula of a workbook again; says which stored values differ, and with `out` stores the new ones. */
export async function recalc(
  path: string,
  options: { readonly check?: boolean; readonly out?: string; readonly date?: string },
  output: Output,
): Promise<number> {
  const name = basename(path);
  const day = options.date === undefined ? today() : maybeSerialFromIso(options.date);
  if (day === undefined) {
    throw new CorbixError("BAD_REQUEST", say().command.cannotUseDate({ date: options.date }), {
      where: "--date",
      advice: say().command.writeDate(),
    });
  }
  const result = recalculateWorkbook(await readInput(path), name, day);
  const differing = result.cells.filter((cell) => !cell.isSame);
  const kept = result.findings.length;
  output.line(
    `${name}: ${result.cells.length.toLocaleString("en")} formulas evaluated, ${differing.length.toLocaleString("en")} stored ${differing.length === 1 ? "value differs" : "values differ"}${kept > 0 ? `, ${kept} findings` : ""}`,
  );
  if (differing.length > 0) {
    output.line("");
    output.line(
      tableText(
        ["Cell", "Formula", "Stored", "Evaluated"],
        differing
          .slice(0, LISTED)
          .map((cell) => [
            `${cell.sheet}!${cell.cell}`,
            cell.formula.length > 40 ? `${cell.formula.slice(0, 39)}…` : cell.formula,
            String(cell.stored ?? ""),
            String(cell.value ?? ""),
          ]),
      ),
    );
    if (differing.length > LISTED) output.line(`and ${differing.length - LISTED} more`);
  }
  if (kept > 0) output.line("");
  for (const line of findingLines(result.findings)) output.line(line);
  if (options.out !== undefined) {
    await writeOutput(options.out, result.package.toBytes());
    output.line(`\nStored in ${options.out}`);
  }
  output.value({ file: name, formulas: result.cells.length, differing, findings: result.findings });
  return options.check && differing.length > 0 ? 8 : 0;
}
