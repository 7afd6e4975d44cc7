/** Marks in running text that come out blank are told, with their group. */
import { parseReport } from "@corbix/core/report";
import { groupEnv, planRun, type RunFacts } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { Document, Packer, Paragraph, Table, TableCell, TableRow, TextRun } from "docx";
import { describe, expect, it } from "vitest";
import { makeWorkbook } from "../../support/helpers.js";

const { table } = loadTable(Buffer.from("site,name,due,unit\nDock,,,L1\nQuay,Ann,12 May,Q1\n"), "t.csv");
const facts: RunFacts = { id: "r", date: 46_328, sender: "a@b.example", locale: "en-GB" };

/** What is told for each group of a report with this template or message. */
function told(says: string, templates: Readonly<Record<string, Uint8Array>> = {}): string[][] {
  const { plan, maker } = planRun({
    report: parseReport(`report: a\ntitle: A\ndata: t\nsplit: site\n${says}`, "r"),
    table,
    others: new Map(),
    recipients: [],
    templates: new Map(Object.entries(templates)),
    facts,
  });
  return plan.parcels.map(({ group, number }) => {
    const env = groupEnv(plan.table, group, { number, count: 2 }, [], facts);
    const made = maker.make(env, ["out"], undefined as never, facts).findings;
    return [...made, ...(maker.compose(env)?.findings ?? [])]
      .filter((one) => one.code === "blank-in-text")
      .map((one) => `${one.where}: ${one.what}`);
  });
}

const OUT = (name: string) => `files: { out: { template: ${name}, name: x } }\n`;
const cells = (...texts: string[]) => makeWorkbook((_, sheet) => sheet.addRows(texts.map((text) => [text])));

describe("a mark in running text that is blank", () => {
  it("is told in a workbook with its cell and group, and not where it stands alone or says what stands instead", async () => {
    const template = await cells(
      "Dear {{ name }},",
      "{{ name }}",
      "to {{ coalesce(name, 'nobody') }}".replaceAll("'", '"'),
      '{{ if(name = "", "", "for " & name) }}, at {{ due }} until',
      "Unit {{ line.unit }} of {{ name }}",
    );
    const [dock, quay] = told(OUT("t.xlsx"), { "t.xlsx": template });
    expect(dock).toEqual([
      "t.xlsx, sheet Sheet one, cell A1: {{ name }} is blank for Dock, in the middle of a text.",
      "t.xlsx, sheet Sheet one, cell A4: {{ due }} is blank for Dock, in the middle of a text.",
      "t.xlsx, sheet Sheet one, cell A5: {{ name }} is blank for Dock, in the middle of a text.",
    ]);
    expect(quay).toEqual([]);
  });

  it("is not told where it stands alone in a header, or among other texts of a chart", async () => {
    const template = await makeWorkbook((_, sheet) => {
      sheet.addRow(["x"]);
      sheet.headerFooter.oddHeader = "&L{{ name }}&R&8Due {{ due }}";
    });
    expect(told(OUT("t.xlsx"), { "t.xlsx": template })[0].map((one) => one.replace(/.*: (?=\{)/, ""))).toEqual([
      "{{ due }} is blank for Dock, in the middle of a text.",
    ]);
  });

  it("is told where the words beside it have other looks", async () => {
    const template = await makeWorkbook((_, sheet) => {
      sheet.getCell("A1").value = { richText: [{ text: "Dear " }, { text: "{{ name }}", font: { bold: true } }] };
      sheet.getCell("A2").value = { richText: [{ text: " " }, { text: "{{ name }}", font: { bold: true } }] };
    });
    expect(told(OUT("t.xlsx"), { "t.xlsx": template })[0]).toEqual([
      "t.xlsx, sheet Sheet one, cell A1: {{ name }} is blank for Dock, in the middle of a text.",
    ]);
  });

  it("is told in a document's paragraphs, not in cells that hold nothing else", async () => {
    const cell = (text: string) => new TableCell({ children: [new Paragraph(text)] });
    const bytes = new Uint8Array(
      await Packer.toBuffer(
        new Document({
          sections: [
            {
              children: [
                new Paragraph({ children: [new TextRun("Dear "), new TextRun({ text: "{{ name }}", bold: true })] }),
                new Paragraph("{{ due }}"),
                new Table({ rows: [new TableRow({ children: [cell("Name"), cell("{{ name }}")] })] }),
              ],
            },
          ],
        }),
      ),
    );
    const [dock, quay] = told(OUT("t.docx"), { "t.docx": bytes });
    expect(dock).toHaveLength(1);
    expect(dock[0]).toMatch(/^t\.docx, text, .*: \{\{ name \}\} is blank for Dock/);
    expect(quay).toEqual([]);
  });

  it("is told in subject and body of a message, each in its place", () => {
    const body =
      "<p>Dear {{ name }},</p><table><tr><td>Due</td><td>{{ due }}</td></tr></table><p><b>{{ name }}</b></p>";
    const says = `files: {}\nmessage: { subject: "For {{ name }}", body: { html: "${body.replaceAll('"', "'")}" } }\n`;
    const [dock, quay] = told(says);
    expect(dock.sort()).toEqual([
      "message, subject: {{ name }} is blank for Dock, in the middle of a text.",
      "message: {{ name }} is blank for Dock, in the middle of a text.",
    ]);
    expect(quay).toEqual([]);
  });

  it("is told in the name of a file", async () => {
    const says = (name: string) =>
      `report: a\ntitle: A\ndata: t\nsplit: site\nfiles: { out: { template: t.xlsx, name: "${name}" } }\n`;
    const template = await cells("plain");
    const findings = (name: string) =>
      planRun({
        report: parseReport(says(name), "r"),
        table,
        others: new Map(),
        recipients: [],
        templates: new Map([["t.xlsx", template]]),
        facts,
      })
        .plan.findings.filter((one) => one.code === "blank-in-text")
        .map((one) => `${one.where}: ${one.what}`);
    expect(findings("Bill for {{ name }}")).toEqual([
      "files, out, name: {{ name }} is blank for Dock, in the middle of a text.",
    ]);
    expect(findings("{{ site }} bill")).toEqual([]);
  });
});
