import { basename, dirname } from "node:path";
import { textFromBytes } from "@corbix/core/common";
import { layDocument, streamWorkbook } from "@corbix/core/layout";
import { writePdf } from "@corbix/core/pdf";
import { parseYaml } from "@corbix/core/report";
import { fillFromRecord, readRecord } from "@corbix/core/run";
import { workbookFromPackage } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { readInput, readPictures, writeOutput } from "../../files.js";
import { findingLines, type Output } from "../../output.js";
import { printedNow, today } from "../../today.js";

export interface FillOptions {
  readonly record: string;
  readonly out: string;
  readonly pdf?: boolean;
  readonly locale: string;
  readonly fonts?: string;
}

/** Fills one template from one record, as a file and, if asked for, as a PDF beside it. */
export async function fill(templatePath: string, options: FillOptions, output: Output): Promise<number> {
  const name = basename(templatePath);
  const bytes = await readInput(templatePath);
  const record = parseYaml(textFromBytes(await readInput(options.record)), basename(options.record), "BAD_RECORD");
  const filler = readRecord(record, { today: today(), locale: options.locale }, basename(options.record));
  const { env } = filler;
  const isDocument = /\.docx$/i.test(name);
  const filled = fillFromRecord(
    bytes,
    name,
    filler,
    isDocument ? await readPictures(dirname(templatePath)) : new Map(),
  );
  const findings = [...filled.findings];
  const written = [options.out];
  if (options.pdf) {
    const facts = { file: basename(options.out), ...printedNow() };
    const laid = isDocument
      ? layDocument(filled.package, openFonts(options.fonts), { today: env.today, locale: options.locale })
      : streamWorkbook(workbookFromPackage(filled.package), openFonts(options.fonts), facts);
    const pdf = `${options.out.replace(/\.[^./\\]*$/, "")}.pdf`;
    await writeOutput(
      pdf,
      writePdf(laid.pages, { title: name, language: options.locale, outline: laid.outline, structure: laid.structure }),
    );
    written.push(pdf);
    findings.push(...laid.findings);
  }
  await writeOutput(options.out, filled.package.toBytes());
  output.line(`Filled ${name} with ${env.lines.length} lines: ${written.join(", ")}`);
  for (const line of findingLines(findings)) output.line(line);
  output.value({ files: written, lines: env.lines.length, findings });
  return 0;
}
