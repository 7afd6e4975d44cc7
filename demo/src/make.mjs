/** Makes the demo's files anew: `npm run make -w demo`. They are committed, so nobody has to. */
import { mkdir, writeFile } from "node:fs/promises";
import { fileURLToPath } from "node:url";
import { logoPng } from "./logo.mjs";
import { writeOfficeMonths, writeQuarter } from "./make-decks.mjs";
import { makeExamples } from "./make-examples.mjs";
import { figuresBytes } from "./make-figures.mjs";
import { recipientsCsv, writeMaster } from "./make-master.mjs";
import { writeNotice } from "./make-notice.mjs";
import { writeRepairs, writeReport } from "./make-report.mjs";
import { writeStatement } from "./make-statement.mjs";
import { writeVisit } from "./make-visit.mjs";

const files = fileURLToPath(new URL("../files/", import.meta.url));
await mkdir(`${files}templates`, { recursive: true });
const logo = logoPng();
const count = await writeMaster(`${files}visits-2026.xlsx`);
await writeFile(`${files}recipients.csv`, recipientsCsv());
await writeStatement(`${files}templates/statement.xlsx`, logo);
await writeFile(`${files}templates/figures.xlsx`, await figuresBytes());
await writeNotice(`${files}templates/notice.docx`, logo);
await writeVisit(`${files}templates/visit.docx`, logo);
await writeReport(`${files}templates/report.docx`, logo);
await writeRepairs(`${files}templates/repairs.docx`);
await writeQuarter(`${files}templates/quarter.pptx`, logo);
await writeOfficeMonths(`${files}templates/office-months.pptx`, logo);
await makeExamples(new URL("../", import.meta.url));
console.log(
  `${count} visits, recipients, statement, figures, notice, report, repairs and decks are in ${files}, three examples beside`,
);
