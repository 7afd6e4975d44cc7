import { basename } from "node:path";
import { CorbixError, type DeckPages } from "@corbix/core/common";
import { openDocument } from "@corbix/core/document";
import { openedPackage } from "@corbix/core/ooxml";
import { writePdf } from "@corbix/core/pdf";
import { layOffice, officeKind, openOffice } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { openFonts } from "@corbix/fonts";
import { readInput, writeOutput } from "../../files.js";
import { findingLines, type Output } from "../../output.js";
import { printedNow } from "../../today.js";

/** Renders a document, workbook or slide deck as it is. */
export async function pages(
  path: string,
  options: {
    readonly out: string;
    readonly fonts?: string;
    readonly password?: string;
    readonly each?: DeckPages;
    readonly hidden?: boolean;
  },
  output: Output,
): Promise<number> {
  const name = basename(path);
  const bytes = openedPackage(await readInput(path), options.password ?? process.env.CORBIX_FILE_PASSWORD, name);
  const kind = officeKind(name);
  const laid = layOffice(kind, openOffice(bytes, name, kind), openFonts(options.fonts), {
    file: name,
    ...printedNow(),
    pages: options.each,
    withHidden: options.hidden,
  });
  if (laid.pages.length === 0)
    throw new CorbixError("NOT_A_WORKBOOK", say().command.cannotRenderFileShowsNothing(), {
      where: name,
      advice: say().command.giveFileContentVisibleSheet(),
    });
  const pdf = writePdf(laid.pages, { title: name, outline: laid.outline, structure: laid.structure });
  await writeOutput(options.out, pdf);
  output.line(`${laid.pages.length} ${laid.pages.length === 1 ? "page" : "pages"} of ${name} in ${options.out}`);
  const counted = /\.docx$/i.test(name) ? writersPages(bytes, name) : undefined;
  if (counted !== undefined && counted !== laid.pages.length)
    output.line(`The program that wrote it last counted ${counted}.`);
  for (const line of findingLines(laid.findings)) output.line(line);
  output.value({
    file: options.out,
    pages: laid.pages.length,
    countedByWriter: counted ?? null,
    fonts: laid.fonts ?? [],
    findings: laid.findings,
  });
  return 0;
}

/** The pages that the writer of a document counted: ECMA-376 part 1, 22.2.2.20. */
function writersPages(bytes: Uint8Array, name: string): number | undefined {
  const text = openDocument(bytes, name).maybeXml("docProps/app.xml")?.child("Pages")?.text;
  return text === undefined || !/^\d+$/.test(text) ? undefined : Number(text);
}
