import { basename } from "node:path";
import { compareWorkbooks } from "@corbix/core/workbook";
import { readInput } from "../../files.js";
import { type Output, tableText } from "../../output.js";

/** Differences that are listed at most; the count is of all, and `--json` gives all. */
const LISTED = 100;

/** Compares two workbooks cell by cell; ends with 8 where they differ. */
export async function differ(first: string, second: string, output: Output): Promise<number> {
  const { cells, differences } = compareWorkbooks(
    { bytes: await readInput(first), where: basename(first) },
    { bytes: await readInput(second), where: basename(second) },
  );
  const amount = differences.length.toLocaleString("en");
  output.line(
    differences.length === 0
      ? `No difference in ${cells.toLocaleString("en")} cells: values, formulas and number formats are the same.`
      : `${amount} ${differences.length === 1 ? "difference" : "differences"} in ${cells.toLocaleString("en")} cells`,
  );
  if (differences.length > 0) {
    const short = (text: string): string => (text.length > 36 ? `${text.slice(0, 35)}…` : text).replaceAll("\n", " ");
    output.line("");
    output.line(
      tableText(
        ["Cell", "What", basename(first), basename(second)],
        differences
          .slice(0, LISTED)
          .map((one) => [
            one.cell === "" ? one.sheet : `${one.sheet}!${one.cell}`,
            one.what,
            short(one.first),
            short(one.second),
          ]),
      ),
    );
    if (differences.length > LISTED)
      output.line(`and ${(differences.length - LISTED).toLocaleString("en")} more: --json gives all`);
  }
  output.value({ cells, differences });
  return differences.length === 0 ? 0 : 8;
}
