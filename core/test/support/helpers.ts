import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { plainPeriods } from "@corbix/core/calendar";
import { readRecipients } from "@corbix/core/recipients";
import { parseReport } from "@corbix/core/report";
import { groupEnv, planRun, type RunFacts, readRecord } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import ExcelJS from "exceljs";

export const demo = (name: string): Uint8Array => readFileSync(new URL(`../../../demo/files/${name}`, import.meta.url));

/** Scope and values of a record, as `corbix fill` uses them. */
export const record = (value: Record<string, unknown>) =>
  readRecord(value, { today: 46_328, locale: "en-GB" }, "record.json");

export async function makeWorkbook(
  fill: (book: ExcelJS.Workbook, sheet: ExcelJS.Worksheet) => void,
): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Sheet one");
  fill(book, sheet);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

/** The workbook as another program reads it. */
export async function openElsewhere(bytes: Uint8Array): Promise<ExcelJS.Workbook> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(Buffer.from(bytes) as unknown as ArrayBuffer);
  return book;
}

/** What a cell shows: a formula's stored result, or the value. */
export function shown(sheet: ExcelJS.Worksheet, name: string): unknown {
  const { value } = sheet.getCell(name);
  if (typeof value === "object" && value !== null && "formula" in value) return value.result;
  if (typeof value === "object" && value !== null && "richText" in value)
    return value.richText.map((run) => run.text).join("");
  return value;
}

export function formula(sheet: ExcelJS.Worksheet, name: string): string | undefined {
  const { value } = sheet.getCell(name);
  return typeof value === "object" && value !== null && "formula" in value ? value.formula : undefined;
}

/** A workbook that another writer of the format makes: `book` is new, `sheet` its first. */
export function makeElsewhere(code: string): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), "corbix-make-"));
  try {
    const file = join(folder, "file.xlsx");
    const whole = `import openpyxl, sys\nfrom openpyxl.chart import *\nfrom openpyxl.styles import *\nbook = openpyxl.Workbook()\nsheet = book.active\n${code}\nbook.save(sys.argv[1])`;
    execFileSync("/usr/bin/python3", ["-c", whole, file], { encoding: "utf8" });
    return new Uint8Array(readFileSync(file));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Opens a workbook in another reader of the format and gives what a line of its language prints; `book` holds values. */
export function readElsewhere(bytes: Uint8Array, line: string): string {
  return readAllElsewhere([bytes], line)[0];
}

/** As `readElsewhere`, for many workbooks at once. */
export function readAllElsewhere(files: readonly Uint8Array[], line: string): string[] {
  const folder = mkdtempSync(join(tmpdir(), "corbix-read-"));
  try {
    const paths = files.map((bytes, index) => {
      const path = join(folder, `${index}.xlsx`);
      writeFileSync(path, bytes);
      return path;
    });
    const code = `import openpyxl, sys\nfor path in sys.argv[1:]:\n    book = openpyxl.load_workbook(path, data_only=True)\n    ${line}\n    print("\\f")`;
    const printed = execFileSync("/usr/bin/python3", ["-c", code, ...paths], {
      encoding: "utf8",
      maxBuffer: 100_000_000,
    });
    return printed
      .split("\f")
      .slice(0, files.length)
      .map((text) => text.trim());
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Runs a PDF reader over bytes and gives what it prints. */
export function readPdf(
  bytes: Uint8Array,
  program: "pdftotext" | "pdffonts" | "pdfinfo" | "qpdf",
  options: readonly string[] = program === "pdftotext" ? ["-layout"] : [],
): string {
  const folder = mkdtempSync(join(tmpdir(), "corbix-pdf-"));
  try {
    const file = join(folder, "file.pdf");
    writeFileSync(file, bytes);
    const args =
      program === "pdftotext" ? [...options, file, "-"] : program === "qpdf" ? ["--check", file] : [...options, file];
    return execFileSync(program, args, { encoding: "utf8" });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A document as another reader of the format sees it: its paragraphs, and its rows with cells between bars; or how many pictures it has. */
export function readDocumentElsewhere(bytes: Uint8Array, what: "text" | "pictures" = "text"): string[] {
  const folder = mkdtempSync(join(tmpdir(), "corbix-read-"));
  try {
    const file = join(folder, "file.docx");
    writeFileSync(file, bytes);
    const code = [
      "import docx, json, sys",
      "from docx.table import Table",
      "from docx.text.paragraph import Paragraph",
      "book = docx.Document(sys.argv[1])",
      "out = []",
      "for child in book.element.body:",
      "    if child.tag.endswith('}p'): out.append(Paragraph(child, book).text)",
      "    if child.tag.endswith('}tbl'): out += ['|'.join(cell.text for cell in row.cells) for row in Table(child, book).rows]",
      "print(json.dumps(out if sys.argv[2] == 'text' else [str(len(book.inline_shapes))]))",
    ].join("\n");
    return JSON.parse(execFileSync("/usr/bin/python3", ["-c", code, file, what], { encoding: "utf8" })) as string[];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A run of the demo as the service plans it: one of its reports for a period. */
export function demoRun(name: string, period: string, every: "month" | "quarter", templates: readonly string[]) {
  const table = loadTable(demo("visits-2026.xlsx"), "visits").table;
  const facts: RunFacts = {
    id: "x",
    date: 46_328,
    sender: "a@b.example",
    locale: "en-GB",
    period: plainPeriods(every).parse(period),
  };
  const report = parseReport(Buffer.from(demo(`${name}.yaml`)).toString("utf8"), "r");
  const { recipients } = readRecipients(loadTable(demo("recipients.csv"), "r").table, "r");
  const planned = planRun({
    report,
    table,
    others: new Map(),
    recipients,
    templates: new Map(templates.map((file) => [file, demo(`templates/${file}`)])),
    facts,
  });
  const envs = planned.plan.parcels.map((parcel, at) =>
    groupEnv(
      planned.plan.table,
      parcel.group,
      { number: at + 1, count: planned.plan.parcels.length },
      parcel.recipients,
      facts,
    ),
  );
  return { ...planned, envs, facts };
}
