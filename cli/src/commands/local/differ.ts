import { basename } from "node:path";
import { officeKind } from "@corbix/core/run";
import { compareDecks } from "@corbix/core/slides";
import { compareWorkbooks } from "@corbix/core/workbook";
import { readInput } from "../../files.js";
import { type Output, tableText } from "../../output.js";

/** Differences that are listed at most; the count is of all, and `--json` gives all. */
const LISTED = 100;

const short = (text: string): string => (text.length > 36 ? `${text.slice(0, 35)}…` : text).replaceAll("\n", " ");

/** Compares two workbooks cell by cell, or two decks slide by slide; ends with 8 where they differ. */
export async function differ(first: string, second: string, output: Output): Promise<number> {
  if (officeKind(first) === "pptx" || officeKind(second) === "pptx") return differingDecks(first, second, output);
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

async function differingDecks(first: string, second: string, output: Output): Promise<number> {
  const { shapes, slides, differences } = compareDecks(
    { bytes: await readInput(first), where: basename(first) },
    { bytes: await readInput(second), where: basename(second) },
  );
  const counted = `${shapes.toLocaleString("en")} shapes of ${Math.max(slides.first, slides.second).toLocaleString("en")} slides`;
  const amount = differences.length.toLocaleString("en");
  output.line(
    differences.length === 0
      ? `No difference in ${counted}: texts, places, pictures, charts and notes are the same.`
      : `${amount} ${differences.length === 1 ? "difference" : "differences"} in ${counted}`,
  );
  if (differences.length > 0) {
    output.line("");
    output.line(
      tableText(
        ["Slide", "Shape", "What", basename(first), basename(second)],
        differences
          .slice(0, LISTED)
          .map((one) => [
            one.title === "" ? String(one.slide) : `${one.slide}, ${short(one.title)}`,
            one.shape,
            one.what,
            short(one.first),
            short(one.second),
          ]),
      ),
    );
    if (differences.length > LISTED)
      output.line(`and ${(differences.length - LISTED).toLocaleString("en")} more: --json gives all`);
  }
  output.value({ shapes, slides, differences });
  return differences.length === 0 ? 0 : 8;
}
