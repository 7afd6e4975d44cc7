import { asCopy, bodiesOf, datasetsOf, parseReport, templatesOf, withNames } from "@corbix/core/report";
import { describe, expect, it } from "vitest";

const SOURCE = `# What each site gets
report: site-visits   # its name
title: "Visits of each site"
data: visits
bring:
  - { from: visits, match: { unit: unit }, columns: [kind] }
  - from: 'lifts' # the lifts
    match: { unit: unit }
    columns: [maker]
prepare:
  - replace: { column: kind, from: words, match: word, take: meaning }
lines:
  costs: { data: visits, match: { site: site } }
split: site
files:
  letter: { template: letter.docx, name: "{{ site }}", followedBy: [terms.docx, { template: letter.docx, when: "group.rows > 2" }] }
  sheet: { template: visits.xlsx, name: "visits {{ site }}" }
message:
  subject: letter.docx
  body: { template: mail.html }
  text: { template: "mail.txt" }
  languages:
    de: { subject: Besuche, body: { template: mail.html } }
  attach: [letter, { fixed: terms.docx }]
schedule: { rule: "FREQ=MONTHLY", at: "07:00", zone: Europe/Zurich, from: 2026-01-01 }
startOnData: true
`;
const report = parseReport(SOURCE, "report");

describe("names in a definition", () => {
  it("are told wherever they stand", () => {
    expect(datasetsOf(report)).toEqual(["visits", "lifts", "words"]);
    expect(templatesOf(report)).toEqual(["letter.docx", "terms.docx", "visits.xlsx", "mail.html", "mail.txt"]);
    expect(bodiesOf(report)).toEqual(["mail.html", "mail.txt"]);
  });

  it("are changed at their places only, and nothing else by a letter", () => {
    const changed = withNames(SOURCE, {
      datasets: new Map([
        ["visits", "site-visits-raw"],
        ["lifts", "null"],
      ]),
      templates: new Map([
        ["letter.docx", "covering letter.docx"],
        ["mail.html", "1.html"],
      ]),
    });
    const expected = SOURCE.replace("data: visits\nbring", "data: site-visits-raw\nbring")
      .replace("from: visits", "from: site-visits-raw")
      .replace("'lifts'", "'null'")
      .replace("data: visits, match", "data: site-visits-raw, match")
      .replace("template: letter.docx, name", "template: covering letter.docx, name")
      .replace("{ template: letter.docx, when", "{ template: covering letter.docx, when")
      .replaceAll("mail.html", "1.html");
    expect(changed).toBe(expected);
    expect(changed).toContain("subject: letter.docx");
    expect(datasetsOf(parseReport(changed, "report"))).toEqual(["site-visits-raw", "null", "words"]);
  });

  it("are changed in JSON and in blocks as well", () => {
    const json = JSON.stringify({ report: "one", title: "One", data: "rows", split: "site" });
    expect(JSON.parse(withNames(json, { datasets: new Map([["rows", "visits"]]) }))).toMatchObject({ data: "visits" });
    const block = "report: one\ntitle: >\n  One of\n  many\ndata: rows\nsplit: site\n";
    const copied = parseReport(withNames(block, { title: "Two: the second", report: "true" }), "report");
    expect(copied).toMatchObject({ report: "true", title: "Two: the second", data: "rows" });
  });

  it("are refused where one stands for several places", () => {
    const anchored = "report: one\ntitle: One\ndata: &rows rows\nlines: { more: { data: *rows } }\nsplit: site\n";
    expect(() => withNames(anchored, { datasets: new Map([["rows", "visits"]]) })).toThrow(/stands behind an anchor/);
    const merged =
      "report: one\ntitle: One\ndata: rows\nlines: { more: &more { data: rows }, other: *more }\nsplit: site\n";
    expect(() => withNames(merged, { datasets: new Map([["rows", "visits"]]) })).toThrow(/stands behind an anchor/);
  });

  it("of a copy are its own, and it starts nothing by itself", () => {
    const copy = parseReport(
      asCopy(SOURCE, { report: "second", title: "Second", templates: new Map([["mail.html", "second.html"]]) }),
      "report",
    );
    expect(copy).toMatchObject({ report: "second", title: "Second", startOnData: false });
    expect(copy.schedule).toBeUndefined();
    expect(bodiesOf(copy)).toEqual(["second.html", "mail.txt"]);
    expect({ ...copy, report: "site-visits", title: report.title }.files).toEqual(report.files);
  });
});
