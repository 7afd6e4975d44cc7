/** Our side of one job, in a process of its own as each yardstick has: prints the median seconds, warm as a worker of the service is. */
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { deflateRawSync } from "node:zlib";
import { DocumentTemplate, openDocument } from "@corbix/core/document";
import { fitDeck, layDeck, layDocument, layWorkbook } from "@corbix/core/layout";
import { writePdf } from "@corbix/core/pdf";
import { readRecord } from "@corbix/core/run";
import { SlideTemplate } from "@corbix/core/slides";
import { splitTable } from "@corbix/core/split";
import { openWorkbook, workbookFromPackage } from "@corbix/core/spreadsheet";
import { loadTable } from "@corbix/core/table";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";
import { DECK_LINES } from "./deck.mjs";
import { record } from "./record.mjs";

const [job, folder, output] = process.argv.slice(2);
const templates = fileURLToPath(new URL("../demo/files/templates/", import.meta.url));
const ROWS = 100_000;
const GROUPS = 500;
/** Rounds before small jobs are measured: a worker of the service has long been through as many. */
const WARM_UP = 1000;
const JOBS = {
  read: () => readOwn("master.xlsx"),
  csv: () => readOwn("master.csv"),
  split: ownSplit,
  workbook: () => fillWorkbook().seconds,
  letter: fillLetter,
  page: () => fillWorkbook().pageSeconds,
  letterPage,
  deck: () => fillDeck(),
  deckPages: () => printDeck("deck"),
  tablePages: () => printDeck("tables"),
  report50: () => layReport(50),
  report200: () => layReport(200),
  report800: () => layReport(800),
  letters: lettersMemory,
  groups: () => fillGroups().own,
  deflate: () => fillGroups().deflate,
};
process.stdout.write(String(JOBS[job]()));

/** Median seconds of one call, after a warm-up. */
function measure(work, count, warmUp = Math.ceil(count / 4)) {
  for (let round = 0; round < warmUp; round++) work();
  const taken = [];
  for (let round = 0; round < count; round++) {
    const started = performance.now();
    work();
    taken.push((performance.now() - started) / 1000);
  }
  return taken.sort((a, b) => a - b)[Math.floor(count / 2)];
}

/** Median of reading a file warm, again and again. */
function readOwn(name) {
  const bytes = readFileSync(join(folder, name));
  return measure(() => {
    if (loadTable(bytes, name).table.rowCount !== ROWS) throw new Error(`${name} is read wrong`);
  }, 5);
}

/** Reads, splits, fills and writes 500 workbooks; median of nine, warm as a worker of the service is. */
function ownSplit() {
  let round = 0;
  const seconds = measure(() => {
    const folderOfRound = join(output, `own-${round++}`);
    mkdirSync(folderOfRound);
    const { table } = loadTable(readFileSync(join(folder, "master.xlsx")), "master.xlsx");
    const { groups } = splitTable(table, ["Site"]);
    const scope = { mode: "group", columns: table.columns, spaces: {} };
    const bound = WorkbookTemplate.read(readFileSync(join(folder, "group.xlsx")), "group.xlsx").bind(scope);
    for (const group of groups) {
      const env = { table, lines: group.rows, row: -1, spaces: {}, locale: "en-GB", today: 46_000 };
      writeFileSync(join(folderOfRound, `${group.label}.xlsx`), bound.fill(env).package.toBytes());
    }
  }, 9);
  const made = readdirSync(output).filter((name) => name.startsWith("own-"));
  if (made.some((name) => readdirSync(join(output, name)).length !== GROUPS)) throw new Error("the split is wrong");
  for (const name of made) rmSync(join(output, name), { recursive: true });
  return seconds;
}

/** Fills 500 workbooks of 200 x 10 in memory, and deflates all bytes of their parts as a zip package does by default. */
function fillGroups() {
  const { table } = loadTable(readFileSync(join(folder, "master.xlsx")), "master.xlsx");
  const { groups } = splitTable(table, ["Site"]);
  const scope = { mode: "group", columns: table.columns, spaces: {} };
  const bound = WorkbookTemplate.read(readFileSync(join(folder, "group.xlsx")), "group.xlsx").bind(scope);
  const envs = groups.map((group) => ({
    table,
    lines: group.rows,
    row: -1,
    spaces: {},
    locale: "en-GB",
    today: 46_000,
  }));
  const own = measure(() => {
    for (const env of envs) bound.fill(env).package.toBytes();
  }, 9);
  const parts = envs.flatMap((env) => {
    const made = bound.fill(env).package;
    return made.names.map((name) => made.getBytes(name));
  });
  const deflate = measure(() => {
    for (const part of parts) deflateRawSync(part);
  }, 9);
  return { own, deflate };
}

function fillWorkbook() {
  const { scope, env } = readRecord(record(), { today: 46_328, locale: "en-GB" }, "record");
  const bound = WorkbookTemplate.read(readFileSync(`${templates}statement.xlsx`), "statement.xlsx").bind(scope);
  const seconds = measure(() => bound.fill(env).package.toBytes(), 200, WARM_UP);
  const filled = bound.fill(env).package;
  const bytes = filled.toBytes();
  const pages = layWorkbook(openWorkbook(bytes, "x"), openFonts(), { file: "", date: "", time: "" }).pages.length;
  const all = measure(
    () =>
      writePdf(
        layWorkbook(workbookFromPackage(bound.fill(env).package), openFonts(), { file: "", date: "", time: "" }).pages,
        { title: "x" },
      ),
    100,
    WARM_UP / 4,
  );
  return { seconds, pageSeconds: Math.max(1e-6, all) / pages };
}

function boundLetter() {
  const { scope, env } = readRecord(record(), { today: 46_328, locale: "en-GB" }, "record");
  return { bound: DocumentTemplate.read(readFileSync(`${templates}notice.docx`), "notice.docx").bind(scope), env };
}

/** A letter filled and printed, for each of its pages. */
function letterPage() {
  const { bound, env } = boundLetter();
  const print = () => printDocument(bound.fill(env).package);
  const pages = print();
  return measure(print, 100, WARM_UP / 4) / pages;
}

function printDocument(filled) {
  const laid = layDocument(filled, openFonts(), { today: 46_328 });
  writePdf(laid.pages, { title: "x", outline: laid.outline, structure: laid.structure });
  return laid.pages.length;
}

function boundDeck(name) {
  const { lines, ...others } = record();
  const shown = { ...others, lines: lines.slice(0, DECK_LINES) };
  const { scope, env } = readRecord(shown, { today: 46_328, locale: "en-GB" }, "record");
  return { bound: SlideTemplate.read(readFileSync(join(folder, `${name}.pptx`)), name).bind(scope), env };
}

function fillDeck() {
  const { bound, env } = boundDeck("deck");
  return measure(() => bound.fill(env).package.toBytes(), 200, WARM_UP);
}

/** A deck of ten slides filled, fitted and printed. */
function printDeck(name) {
  const { bound, env } = boundDeck(name);
  const fonts = openFonts();
  return measure(
    () => {
      const laid = layDeck(fitDeck(bound.fill(env).package, fonts).package, fonts);
      if (laid.pages.length !== 10) throw new Error(`the deck has ${laid.pages.length} pages`);
      writePdf(laid.pages, { title: "x", outline: laid.outline, structure: laid.structure });
    },
    60,
    WARM_UP / 4,
  );
}

/** Seconds of laying out and printing a report of about so many pages, warm. */
function layReport(pages) {
  const opened = openDocument(readFileSync(join(folder, `report-${pages}.docx`)), "report");
  return measure(() => printDocument(opened), 5, 3);
}

/** MiB in use after ten thousand letters, one in ten of them printed, beside what is in use after a tenth of them. */
function lettersMemory() {
  const { bound, env } = boundLetter();
  let first = 0;
  for (let letter = 0; letter < 10_000; letter++) {
    const filled = bound.fill(env).package;
    filled.toBytes();
    if (letter % 10 === 0) printDocument(filled);
    if (letter === 1_000) first = process.memoryUsage().rss;
  }
  return `${Math.round(first / 2 ** 20)} ${Math.round(process.memoryUsage().rss / 2 ** 20)}`;
}

function fillLetter() {
  const { bound, env } = boundLetter();
  return measure(() => bound.fill(env).package.toBytes(), 200, WARM_UP);
}
