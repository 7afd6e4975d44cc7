import { execFileSync } from "node:child_process";
import { once } from "node:events";
import {
  createWriteStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { DocumentTemplate } from "@corbix/core/document";
import { layWorkbook } from "@corbix/core/layout";
import { writePdf } from "@corbix/core/pdf";
import { readRecord } from "@corbix/core/run";
import { splitTable } from "@corbix/core/split";
import { openWorkbook, workbookFromPackage } from "@corbix/core/spreadsheet";
import { loadTable } from "@corbix/core/table";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { openFonts } from "@corbix/fonts";
import ExcelJS from "exceljs";
import { chromium } from "playwright-core";
import { CHROMIUM } from "../scripts/lib/chromium.mjs";

const templates = fileURLToPath(new URL("../demo/files/templates/", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "corbix-bench-"));
/** The groups' workbooks go into memory where the machine has room for files there: the disk's speed is nobody's merit. */
const output = mkdtempSync(join(existsSync("/dev/shm") ? "/dev/shm" : tmpdir(), "corbix-bench-"));
const ROWS = 100_000;
const GROUPS = 500;

try {
  await prepare();
  const rows = [
    await beside(
      "read 100,000 x 10 XLSX",
      () => readOwn("master.xlsx"),
      () => yardstick("read", 2),
      15,
      "python3-pandas",
    ),
    await beside(
      "read 100,000 x 10 CSV",
      () => readOwn("master.csv"),
      () => yardstick("csv", 5),
      0.5,
      "python3-pandas, default reader",
    ),
    await beside("split 100,000 x 10 in 500 workbooks", ownSplit, () => yardstick("split", 1), 25, "python3-pandas"),
    await beside(
      "fill a 40-line workbook",
      () => fillWorkbook().seconds,
      () => yardstick("workbook", 20),
      30,
      "python3-openpyxl",
    ),
    await beside("fill a 40-line letter", fillLetter, () => yardstick("letter", 20), 50, "python3-docx"),
    await beside("one printed page", () => fillWorkbook().pageSeconds, chromiumPage, 10, "warm headless Chromium"),
  ];
  process.stdout.write("\njob                                       Corbix     yardstick     ratio    target\n");
  for (const [job, own, other, target, name] of rows) {
    process.stdout.write(
      `${job.padEnd(38)}${time(own)}   ${time(other)}   ${(other / own).toFixed(1).padStart(6)}x   ${String(target).padStart(4)}x   ${name}\n`,
    );
  }
  growth();
} finally {
  rmSync(folder, { recursive: true, force: true });
  rmSync(output, { recursive: true, force: true });
}

/** One job of ours, before and after the yardstick's: what else the machine does at a moment counts for both. */
async function beside(job, own, other, target, name) {
  const before = own();
  const yard = await other();
  return [job, (before + own()) / 2, yard, target, name];
}

function time(seconds) {
  return (seconds >= 1 ? `${seconds.toFixed(2)} s ` : `${(seconds * 1000).toFixed(2)} ms`).padStart(11);
}

/** Median seconds of one call, after a warm-up. */
function measure(work, count) {
  for (let round = 0; round < Math.ceil(count / 4); round++) work();
  const taken = [];
  for (let round = 0; round < count; round++) {
    const started = performance.now();
    work();
    taken.push((performance.now() - started) / 1000);
  }
  return taken.sort((a, b) => a - b)[Math.floor(count / 2)];
}

function yardstick(job, count) {
  process.stderr.write(`yardstick: ${job} …\n`);
  return Number(
    execFileSync(
      "/usr/bin/python3",
      [fileURLToPath(new URL("yardsticks.py", import.meta.url)), job, folder, String(count), output],
      { encoding: "utf8", stdio: ["ignore", "pipe", "inherit"] },
    ).trim(),
  );
}

function record() {
  const lines = Array.from({ length: 40 }, (_, index) => ({
    visit_date: `2026-10-${String(1 + (index % 28)).padStart(2, "0")}`,
    unit: `L${index}`,
    kind: "passenger lift",
    inspector: "A. Brandt",
    result: "pass",
    hours: 1.5,
    rate: 92,
    parts: index,
    next_due: "2027-04-01",
    remarks: "car lighting cleaned",
  }));
  return {
    site: "Harbour House",
    street: "Quayside 12",
    town: "AM8 2HH Aldmoor",
    recipient: { name: "Silas Montague" },
    period: { key: "2026-10", label: "October 2026" },
    group: { number: 11 },
    run: { date: "2026-11-02", sender: "office@lifts.example" },
    lines,
  };
}

async function makeMaster(rows, name) {
  process.stderr.write(`making a master of ${rows.toLocaleString("en")} rows …\n`);
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({
    filename: join(folder, `${name}.xlsx`),
    useSharedStrings: true,
  });
  const sheet = book.addWorksheet("Visits");
  const text = createWriteStream(join(folder, `${name}.csv`));
  const header = ["Number", "Site", "Unit", "Kind", "Inspector", "Hours", "Rate", "Parts", "Result", "Remarks"];
  sheet.addRow(header).commit();
  text.write(`${header.join(",")}\n`);
  for (let row = 0; row < rows; row++) {
    const cells = [
      row,
      `Site ${row % GROUPS}`,
      `L${row % 30}`,
      "passenger lift",
      `Inspector ${row % 9}`,
      (row % 12) / 4,
      92,
      (row % 997) / 100,
      row % 7 ? "pass" : "fail",
      `remark ${row % 41}`,
    ];
    sheet.addRow(cells).commit();
    if (!text.write(`${cells.join(",")}\n`)) await once(text, "drain");
  }
  await book.commit();
  text.end();
  await once(text, "finish");
}

async function prepare() {
  for (const rows of [10_000, ROWS, 1_000_000]) await makeMaster(rows, rows === ROWS ? "master" : `rows-${rows}`);
  const plain = new ExcelJS.Workbook();
  await plain.xlsx.readFile(`${templates}statement.xlsx`);
  await plain.xlsx.writeFile(join(folder, "plain.xlsx"));
  writeFileSync(join(folder, "notice.docx"), readFileSync(`${templates}notice.docx`));
  writeFileSync(join(folder, "record.json"), JSON.stringify(record()));
  // The groups' workbooks are filled from a template with one row that repeats.
  const group = new ExcelJS.Workbook();
  const target = group.addWorksheet("Rows");
  target.addRow(["Number", "Site", "Unit", "Kind", "Inspector", "Hours", "Rate", "Parts", "Result", "Remarks"]).font = {
    bold: true,
  };
  target.addRow(
    ["number", "site", "unit", "kind", "inspector", "hours", "rate", "parts", "result", "remarks"].map(
      (name) => `{{ line.${name} }}`,
    ),
  );
  await group.xlsx.writeFile(join(folder, "group.xlsx"));
}

/** Reads, splits, fills and writes 500 workbooks; median of nine, warm as a worker of the service is. */
function ownSplit() {
  process.stderr.write("Corbix: split …\n");
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

/** Median of reading a file warm, in this process. */
function readOwn(name) {
  process.stderr.write(`Corbix: ${name} …\n`);
  const bytes = readFileSync(join(folder, name));
  return measure(() => {
    if (loadTable(bytes, name).table.rowCount !== ROWS) throw new Error(`${name} is read wrong`);
  }, 5);
}

/** Reading 10,000, 100,000 and 1,000,000 rows, each in a process of its own: time, memory, and the exponent of growth. */
function growth() {
  process.stdout.write("\nrows        XLSX s   XLSX MiB     CSV s    CSV MiB\n");
  const sizes = [10_000, 100_000, 1_000_000];
  const times = { xlsx: [], csv: [] };
  for (const rows of sizes) {
    const found = ["xlsx", "csv"].map((kind) => {
      const once = JSON.parse(
        execFileSync(process.execPath, [
          fileURLToPath(new URL("read-once.mjs", import.meta.url)),
          join(folder, rows === ROWS ? `master.${kind}` : `rows-${rows}.${kind}`),
        ]),
      );
      times[kind].push(once.seconds);
      return `${once.seconds.toFixed(2).padStart(9)} ${once.MiB.toFixed(0).padStart(10)}`;
    });
    process.stdout.write(`${rows.toLocaleString("en").padEnd(9)}${found.join(" ")}\n`);
  }
  const exponent = (kind) => Math.log10(times[kind][2] / times[kind][1]).toFixed(2);
  process.stdout.write(
    `exponent of growth from 100,000 to 1,000,000 rows: XLSX ${exponent("xlsx")}, CSV ${exponent("csv")} (1 is linear); target under 1,024 MiB\n`,
  );
}

function fillWorkbook() {
  const { scope, env } = readRecord(record(), { today: 46_328, locale: "en-GB" }, "record");
  const bound = WorkbookTemplate.read(readFileSync(`${templates}statement.xlsx`), "statement.xlsx").bind(scope);
  const seconds = measure(() => bound.fill(env).package.toBytes(), 200);
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
  );
  return { seconds, pageSeconds: Math.max(1e-6, all) / pages };
}

function fillLetter() {
  const { scope, env } = readRecord(record(), { today: 46_328, locale: "en-GB" }, "record");
  const bound = DocumentTemplate.read(readFileSync(`${templates}notice.docx`), "notice.docx").bind(scope);
  return measure(() => bound.fill(env).package.toBytes(), 200);
}

/** The same page as HTML, printed by a browser that is warm already. */
async function chromiumPage() {
  process.stderr.write("yardstick: Chromium …\n");
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage();
    const { site, lines } = record();
    const rows = lines
      .map(
        (line) =>
          `<tr>${Object.values(line)
            .slice(0, 8)
            .map((value) => `<td>${value}</td>`)
            .join("")}</tr>`,
      )
      .join("");
    const html = `<h1>${site}</h1><table border="1">${rows}</table>`;
    const taken = [];
    for (let round = 0; round < 25; round++) {
      const started = performance.now();
      await page.setContent(html);
      await page.pdf({ format: "A4" });
      if (round >= 5) taken.push((performance.now() - started) / 1000);
    }
    return taken.sort((a, b) => a - b)[10];
  } finally {
    await browser.close();
  }
}
