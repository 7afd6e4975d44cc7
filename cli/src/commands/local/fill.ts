import { basename, dirname } from "node:path";
import { textFromBytes } from "@corbix/core/common";
import { writePdf } from "@corbix/core/pdf";
import { parseYaml } from "@corbix/core/report";
import { fillFromRecord, layOffice, officeKind, readRecord } from "@corbix/core/run";
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
  const kind = officeKind(name);
  const fonts = openFonts(options.fonts);
  const pictures = kind === "xlsx" ? new Map() : await readPictures(dirname(templatePath));
  const filled = fillFromRecord(bytes, name, filler, pictures, fonts);
  const findings = [...filled.findings];
  const written = [options.out];
  if (options.pdf) {
    const facts = { file: basename(options.out), ...printedNow(), today: env.today, locale: options.locale };
    const laid = layOffice(kind, filled.package, fonts, facts);
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
