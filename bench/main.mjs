import { execFileSync } from "node:child_process";
import { once } from "node:events";
import { createWriteStream, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { AlignmentType, Document, HeadingLevel, Packer, Paragraph } from "docx";
import ExcelJS from "exceljs";
import { chromium } from "playwright-core";
import { CHROMIUM } from "../scripts/lib/chromium.mjs";
import { WORKER_FLAGS } from "../service/dist/process/worker-flags.js";
import { deckPages, makeDeck } from "./deck.mjs";
import { measureOutbox } from "./outbox.mjs";
import { record } from "./record.mjs";

const templates = fileURLToPath(new URL("../demo/files/templates/", import.meta.url));
const folder = mkdtempSync(join(tmpdir(), "corbix-bench-"));
/** The groups' workbooks go into memory where the machine has room for files there: the disk's speed is nobody's merit. */
const output = mkdtempSync(join(existsSync("/dev/shm") ? "/dev/shm" : tmpdir(), "corbix-bench-"));
const ROWS = 100_000;
const GROUPS = 500;
const CHROMIUM_PDF = "warm headless Chromium, tagged PDF";

try {
  await prepare();
  const rows = [
    await beside("read 100,000 x 10 XLSX", "read", () => yardstick("read", 2), 15, "python3-pandas"),
    await beside("read 100,000 x 10 CSV", "csv", () => yardstick("csv", 5), 0.5, "python3-pandas, default reader"),
    await beside("split 100,000 x 10 in 500 workbooks", "split", () => yardstick("split", 1), 25, "python3-pandas"),
    await beside("fill 500 workbooks of 200 x 10", "groups", () => ours("deflate"), 0.5, "deflating the same bytes"),
    await beside("fill a 40-line workbook", "workbook", () => yardstick("workbook", 20), 20, "python3-openpyxl"),
    await beside("fill a 40-line letter", "letter", () => yardstick("letter", 20), 50, "python3-docx"),
    await beside("one printed page", "page", chromiumPage, 15, CHROMIUM_PDF),
    await beside("one printed page of a letter", "letterPage", chromiumPage, 15, CHROMIUM_PDF),
    await beside("fill a ten-slide deck", "deck", () => yardstick("deck", 20), 30, "python3, zipfile and ElementTree"),
    await beside("fill and print a ten-slide deck", "deckPages", () => chromiumSlides("deck"), 15, CHROMIUM_PDF),
    await beside("the same of ten tables", "tablePages", () => chromiumSlides("tables"), 15, CHROMIUM_PDF),
  ];
  process.stdout.write("\njob                                       Corbix     yardstick     ratio    target\n");
  for (const [job, own, other, target, name] of rows) {
    process.stdout.write(
      `${job.padEnd(38)}${time(own)}   ${time(other)}   ${(other / own).toFixed(1).padStart(6)}x   ${String(target).padStart(4)}x   ${name}\n`,
    );
  }
  growth();
  documents();
  await outbox();
} finally {
  rmSync(folder, { recursive: true, force: true });
  rmSync(output, { recursive: true, force: true });
}

/** One job of ours, before and after the yardstick's: what else the machine does at a moment counts for both. */
async function beside(job, own, other, target, name) {
  const before = ours(own);
  const yard = await other();
  return [job, (before + ours(own)) / 2, yard, target, name];
}

/** Seconds of a job in a process of its own, started as a worker of the service is. */
function ours(job) {
  process.stderr.write(`Corbix: ${job} …\n`);
  const program = fileURLToPath(new URL("own.mjs", import.meta.url));
  return Number(execFileSync(process.execPath, [...WORKER_FLAGS, program, job, folder, output], { encoding: "utf8" }));
}

/** How the time of a report grows with its pages, and the memory with the number of letters. */
function documents() {
  const [small, middle, large] = [50, 200, 800].map((pages) => ours(`report${pages}`));
  const exponent = Math.log(large / small) / Math.log(16);
  process.stdout.write(
    `\nreport of about 50, 200, 800 pages: ${time(small).trim()}, ${time(middle).trim()}, ${time(large).trim()}; exponent ${exponent.toFixed(2)} (1 is linear)\n`,
  );
  const program = fileURLToPath(new URL("own.mjs", import.meta.url));
  const [first, last] = execFileSync(process.execPath, [...WORKER_FLAGS, program, "letters", folder, output], {
    encoding: "utf8",
  }).split(" ");
  process.stdout.write(`letters: ${first} MiB in use after 1,000, ${last} MiB after 10,000\n`);
}

/** Messages through the whole outbox, with ledger and states, beside a bare pool. */
async function outbox() {
  process.stderr.write("outbox …\n");
  const { outbox: own, bare, memory, many } = await measureOutbox({ count: 1_000, many: 20_000 });
  process.stdout.write(
    `\nmessages a second with a 50 kB attachment: outbox ${own.toFixed(0)}, bare pool ${bare.toFixed(0)}; ${(own / bare).toFixed(2)}x, target 0.6x\noutbox in ${many.toLocaleString("en")} messages: ${memory.early} MiB in use after a tenth, ${memory.late} MiB near the end\n`,
  );
}

function time(seconds) {
  return (seconds >= 1 ? `${seconds.toFixed(2)} s ` : `${(seconds * 1000).toFixed(2)} ms`).padStart(11);
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

/** Chapters of plain paragraphs, about a page each. */
async function makeReport(pages) {
  const words = "The inspector looked at the doors, the ropes and the brake and wrote down what was found. ";
  const children = Array.from({ length: pages }, (_, index) => [
    new Paragraph({ text: `Chapter ${index + 1}`, heading: HeadingLevel.HEADING_1 }),
    ...Array.from({ length: 6 }, () => new Paragraph({ text: words.repeat(6), alignment: AlignmentType.JUSTIFIED })),
  ]).flat();
  const bytes = await Packer.toBuffer(new Document({ sections: [{ children }] }));
  writeFileSync(join(folder, `report-${pages}.docx`), bytes);
}

async function prepare() {
  for (const rows of [10_000, ROWS, 1_000_000]) await makeMaster(rows, rows === ROWS ? "master" : `rows-${rows}`);
  const plain = new ExcelJS.Workbook();
  await plain.xlsx.readFile(`${templates}statement.xlsx`);
  await plain.xlsx.writeFile(join(folder, "plain.xlsx"));
  writeFileSync(join(folder, "notice.docx"), readFileSync(`${templates}notice.docx`));
  writeFileSync(join(folder, "record.json"), JSON.stringify(record()));
  for (const pages of [50, 200, 800]) await makeReport(pages);
  for (const name of ["deck", "tables"]) await makeDeck(join(folder, `${name}.pptx`), name);
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

/** The same page as HTML, printed by a browser that is warm already. */
function chromiumPage() {
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
  return printed(`<h1>${site}</h1><table border="1">${rows}</table>`, { format: "A4" });
}

/** The same ten slides as HTML made beforehand, printed by a browser that is warm already. */
function chromiumSlides(name) {
  return printed(deckPages(name), { width: "13.333in", height: "7.5in", printBackground: true });
}

/** Median seconds in which a warm browser takes a page and prints it. */
async function printed(html, paper) {
  process.stderr.write("yardstick: Chromium …\n");
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage();
    const taken = [];
    for (let round = 0; round < 25; round++) {
      const started = performance.now();
      await page.setContent(html);
      // Tagged and with an outline, as ours are.
      await page.pdf({ ...paper, tagged: true, outline: true });
      if (round >= 5) taken.push((performance.now() - started) / 1000);
    }
    return taken.sort((a, b) => a - b)[10];
  } finally {
    await browser.close();
  }
}
