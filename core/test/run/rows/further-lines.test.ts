/** Reports whose groups have lines of more than one dataset, made whole: documents, workbooks and messages. */
import { type CorbixError, Exact } from "@corbix/core/common";
import { parseReport } from "@corbix/core/report";
import { furtherOf, groupEnv, planRun, proveRun, type RunFacts } from "@corbix/core/run";
import { loadTable, type Table } from "@corbix/core/table";
import { openFonts } from "@corbix/fonts";
import { Bookmark, Table as DocTable, Document, Packer, Paragraph, TableCell, TableRow, TextRun } from "docx";
import { describe, expect, it } from "vitest";
import { makeWorkbook, openElsewhere, readDocumentElsewhere, shown } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const table = (text: string): Table => loadTable(Buffer.from(text), "t.csv").table;

const VISITS = table(
  "site,unit,invoice,fee,day\nWeißfeld,L1,R1,100,2026-10-02\nWeißfeld,L2,R1,50,2026-10-05\nWeißfeld,L3,R2,25,2026-10-09\nSt. Anne's,A1,R3,10,2026-10-03\nSt. Anne's,A2,R3,15,2026-10-04\n",
);
const COSTS = table(
  "place,kind,amount,paid on\nweißfeld ,parts,7.5,2026-10-01\nWeißfeld,travel,2,2026-10-20\nSt. Anne's,parts,4,2026-10-11\nSt. Anne's,parts,90,2026-09-11\nOld Mill,parts,3,2026-10-12\n",
);
const PAYMENTS = table("bill,paid\nR1,120\nR1,20\nR2,25\nR3,5\n");
const RATES = table("kind,rate\nparts,1.1\ntravel,1.2\n");

const FACTS: RunFacts = {
  id: "r",
  date: 46_328,
  sender: "a@b.example",
  locale: "en-GB",
  period: { kind: "month", key: "2026-10", from: 46_296, to: 46_326 },
};

const LINES = `lines:
  costs: { data: costs, match: { site: place }, period: paid on, sort: [-amount] }
  payments: { data: payments, match: { invoice: bill } }
  rates: { data: rates, forAll: true }
  tariff: { data: rates }
`;

const HEAD = `report: a\ntitle: A\ndata: visits\nsplit: site\nperiod: { column: day, every: month }\n${LINES}`;

function plan(
  says: string,
  templates: Readonly<Record<string, Uint8Array>> = {},
  only?: readonly string[],
  visits = VISITS,
) {
  return planRun({
    report: parseReport(HEAD + says, "r"),
    table: visits,
    others: new Map([
      ["costs", COSTS],
      ["payments", PAYMENTS],
      ["rates", RATES],
    ]),
    recipients: [],
    templates: new Map(Object.entries(templates)),
    facts: FACTS,
    ...(only ? { only } : {}),
  });
}

/** What each group's file `out` is, by the group's label, and what was found out about all. */
function make(says: string, templates: Readonly<Record<string, Uint8Array>> = {}, visits = VISITS) {
  const planned = plan(says, templates, undefined, visits);
  const made = planned.plan.parcels.map(({ group, number }) => {
    const place = { number, count: 2, further: furtherOf(planned.plan.further, group) };
    const env = groupEnv(planned.plan.table, group, place, [], FACTS);
    return { label: group.label, env, ...planned.maker.make(env, ["out"], openFonts(), FACTS) };
  });
  const bytesOf = (label: string) => made.find((one) => one.label === label)?.files[0].bytes as Uint8Array;
  const findings = [...planned.plan.findings, ...made.flatMap((one) => one.findings)];
  return { ...planned, made, bytesOf, findings, codes: findings.map((one) => `${one.severity} ${one.code}`) };
}

const failure = (work: () => unknown): CorbixError => {
  try {
    work();
  } catch (error) {
    return error as CorbixError;
  }
  throw new Error("nothing was wrong");
};

const row = (...cells: string[]) =>
  new TableRow({ children: cells.map((text) => new TableCell({ children: [new Paragraph(text)] })) });

const document = async (children: readonly (Paragraph | DocTable)[]): Promise<Uint8Array> =>
  new Uint8Array(await Packer.toBuffer(new Document({ sections: [{ children }] })));

const OUT = "files:\n  out: { template: t.xlsx, name: '{{ group.key }}' }\n";

describe("further lines of a group", () => {
  it("two ranges of different datasets stand at two bookmarks of one document", async () => {
    const bookmark = (id: string) => new Paragraph({ children: [new Bookmark({ id, children: [new TextRun(" ")] })] });
    const template = await document([
      new Paragraph("Visits of {{ group.label }}"),
      bookmark("Visits"),
      new Paragraph("Costs"),
      bookmark("Costs"),
    ]);
    const { bytesOf } = make(
      `files:
  out:
    template: t.docx
    name: x
    tables:
      Visits: { columns: [unit, { column: fee, total: sum }] }
      Costs: { lines: costs, columns: [kind, { column: amount, format: "0.00", total: sum }] }
`,
      { "t.docx": template },
    );
    expect(readDocumentElsewhere(bytesOf("Weißfeld")).filter((line) => line.trim() !== "")).toEqual([
      "Visits of Weißfeld",
      "unit|fee",
      "L1|100",
      "L2|50",
      "L3|25",
      "Total|175",
      "Costs",
      "kind|amount",
      "parts|7.50",
      "travel|2.00",
      "Total|9.50",
    ]);
  });

  it("repeat in a document as rows, paragraphs and whole tables, inside sub-groups those that belong to them", async () => {
    const template = await document([
      new Paragraph("{{repeat line by invoice}}"),
      new Paragraph("Bill {{ invoice }}: {{ sum(line.fee) }}, paid {{ sum(payments.paid) }}"),
      new DocTable({ rows: [row("Unit", "Fee"), row("{{ line.unit }}", "{{ line.fee }}")] }),
      new DocTable({ rows: [row("Paid"), row("{{ payments.paid }}")] }),
      new Paragraph("{{end}}"),
      new Paragraph('{{repeat costs where kind = "travel"}}'),
      new Paragraph("travel: {{ costs.amount }}"),
      new Paragraph("{{end}}"),
      new Paragraph("{{table rates: kind, rate}}"),
    ]);
    const { bytesOf } = make("files:\n  out: { template: t.docx, name: x }\n", { "t.docx": template });
    const text = readDocumentElsewhere(bytesOf("Weißfeld")).filter((line) => line.trim() !== "");
    expect(text).toEqual([
      "Bill R1: 150, paid 140",
      ...["Unit|Fee", "L1|100", "L2|50", "Paid", "120", "20"],
      "Bill R2: 25, paid 25",
      ...["Unit|Fee", "L3|25", "Paid", "25"],
      "travel: 2",
      ...["Kind|Rate", "parts|1.1", "travel|1.2"],
    ]);
    expect(readDocumentElsewhere(bytesOf("St. Anne's")).filter((line) => line.startsWith("travel:"))).toEqual([]);
  });

  it("repeat in a workbook below and beside each other, with what is said of each line", async () => {
    const template = await makeWorkbook((_, sheet) => {
      sheet.addRow([
        "{{ line.unit }}",
        "{{ line.fee }}",
        "{{ sum(payments.paid where payments.bill = line.invoice) }}",
      ]);
      sheet.addRow(["costs", { formula: "SUM(B3:B3)", result: 0 }]);
      sheet.addRow(["{{ costs.kind }}", "{{ costs.amount }}"]);
      sheet.addRow(["{{repeat payments}}{{ payments.bill }}", "{{ payments.paid }}{{end}}", "x"]);
      sheet.getCell("D4").value = "{{repeat costs}}{{ costs.kind }}";
      sheet.getCell("E4").value = "{{ costs.amount }}{{end}}";
    });
    const { bytesOf } = make(OUT, { "t.xlsx": template });
    const bytes = bytesOf("Weißfeld");
    expect(problemsOf(bytes)).toEqual([]);
    const sheet = (await openElsewhere(bytes)).worksheets[0];
    const rows = Array.from({ length: 9 }, (_, at) =>
      ["A", "B", "C", "D", "E"].map((c) => shown(sheet, `${c}${at + 1}`)),
    );
    expect(rows).toEqual([
      ["L1", 100, 140, null, null],
      ["L2", 50, 140, null, null],
      ["L3", 25, 25, null, null],
      ["costs", 9.5, null, null, null],
      ["parts", 7.5, null, null, null],
      ["travel", 2, null, null, null],
      ["R1", 120, "x", "parts", 7.5],
      ["R1", 20, "x", "travel", 2],
      ["R2", 25, "x", null, null],
    ]);
  });

  it("are added up line by line, repeat by their own columns and to the right, and in a sheet for each value", async () => {
    const template = await makeWorkbook((_, sheet) => {
      sheet.addRow(["{{ sum(line.fee - sum(payments.paid where payments.bill = line.invoice)) }}"]);
      sheet.addRow(["{{repeat costs by kind}}{{ first(costs.kind) }}", "{{ sum(costs.amount) }}{{end}}"]);
    });
    const sheet = (await openElsewhere(make(OUT, { "t.xlsx": template }).bytesOf("Weißfeld"))).worksheets[0];
    // 100 - 140 + 50 - 140 + 25 - 25, line by line.
    expect(["A1", "A2", "B2", "A3", "B3"].map((cell) => shown(sheet, cell))).toEqual([-130, "parts", 7.5, "travel", 2]);
    const across = await makeWorkbook((_, one) => {
      one.addRow(["", "{{repeat costs across}}{{ costs.kind }}{{end}}"]);
      one.addRow(["{{repeat line}}{{ line.unit }}{{end}}", "{{ costs.amount * line.fee }}"]);
    });
    const wide = (await openElsewhere(make(OUT, { "t.xlsx": across }).bytesOf("Weißfeld"))).worksheets[0];
    const cells = ["B1", "C1", "A2", "B2", "C2", "A3", "B3", "C3"].map((cell) => shown(wide, cell));
    expect(cells).toEqual(["parts", "travel", "L1", 750, 200, "L2", 375, 100]);
    const per = await makeWorkbook((_, one) => one.addRow(["{{ sum(payments.paid) }}", "{{ count(costs) }}"]));
    const says = OUT.replace("name: '{{ group.key }}'", "name: x, sheetPer: { by: invoice }");
    const sheets = (await openElsewhere(make(says, { "t.xlsx": per }).bytesOf("Weißfeld"))).worksheets;
    expect(sheets.map((one) => [one.name, shown(one, "A1"), shown(one, "B1")])).toEqual([
      ["R1", 140, 2],
      ["R2", 25, 2],
    ]);
  });

  it("fill defined tables and stand in messages, names and control totals", async () => {
    const template = await makeWorkbook((_, sheet) => {
      sheet.addTable({
        name: "Costs",
        ref: "A1",
        columns: [{ name: "Kind" }, { name: "Amount" }],
        rows: [
          ["sample", 1],
          ["sample", 2],
        ],
      });
      sheet.getCell("D1").value = { formula: "SUM(Costs[Amount])", result: 0 };
    });
    const {
      bytesOf,
      made,
      maker,
      plan: planned,
    } = make(
      `${OUT.replace("{{ group.key }}'", "{{ group.key }} {{ sum(costs.amount) }}', tables: { Costs: { lines: costs } }")}totals: { costs: sum(costs.amount), all: "sum(line.fee) + 100" }
message: { subject: "{{ count(costs) }} costs", body: { html: "<p>{{table costs: kind, amount as \\"0.00\\" total where amount > 3}}</p>" } }
`,
      { "t.xlsx": template },
    );
    const sheet = (await openElsewhere(bytesOf("Weißfeld"))).worksheets[0];
    expect(["A2", "B2", "A3", "B3", "D1"].map((name) => shown(sheet, name))).toEqual(["parts", 7.5, "travel", 2, 9.5]);
    expect(planned.parcels.map((one) => one.files[0].path)).toEqual(["St. Anne's 4.xlsx", "Weißfeld 9.5.xlsx"]);
    const message = maker.compose(made[1].env)?.message;
    expect(message?.subject).toBe("2 costs");
    expect(message?.text).toMatch(/parts\s+7\.50\s+Total\s+7\.50/);
    expect(planned.totals).toMatchObject([
      { name: "costs", master: "13.5", parcels: "13.5", agrees: true },
      { name: "all", master: "300", parcels: undefined, agrees: true },
    ]);
  });

  it("are accounted for: rows of no group, of other periods and of several groups are told", () => {
    const { plan: planned } = plan("files: {}\n");
    const proof = proveRun(planned, []);
    expect(proof.sentences[1]).toBe(
      "costs: 5 rows = 3 in groups + 2 left out (1 paid on not in 2026-10, 1 belong to no group).",
    );
    expect(planned.findings.find((one) => one.code === "further-lines-of-nobody")).toMatchObject({
      severity: "warn",
      what: '1 row of costs belongs to no group of this run: "Old Mill".',
    });
    const shared = planRun({
      report: parseReport(`${HEAD.replace("split: site", "split: unit")}`, "r"),
      table: VISITS,
      others: new Map([
        ["costs", COSTS],
        ["payments", PAYMENTS],
        ["rates", RATES],
      ]),
      recipients: [],
      templates: new Map(),
      facts: FACTS,
    }).plan;
    expect(shared.findings.filter((one) => one.code === "further-lines-of-several").map((one) => one.where)).toEqual([
      "lines, costs",
      "lines, payments",
    ]);
  });

  it("have digests of their own, so that other costs are other rows", () => {
    const one = plan("files: {}\n").plan.parcels.map((parcel) => parcel.rowsDigest);
    const other = planRun({
      report: parseReport(HEAD, "r"),
      table: VISITS,
      others: new Map([
        ["costs", table("place,kind,amount,paid on\nWeißfeld,parts,8.5,2026-10-01\n")],
        ["payments", PAYMENTS],
        ["rates", RATES],
      ]),
      recipients: [],
      templates: new Map(),
      facts: FACTS,
    }).plan.parcels.map((parcel) => parcel.rowsDigest);
    expect(other[0]).not.toBe(one[0]);
    expect(other[1]).not.toBe(one[1]);
  });

  it.each([
    ["{{ cost.amount }}", "Cannot find `cost.amount`", "costs"],
    ["{{ sum(costs.amout) }}", "Cannot find the column `amout`", "amount"],
    ["{{ sum(costs.amount * line.fee) }}", "over `costs.` and `line.` at once", "where"],
    ["{{repeat cots}}{{end}}", "there are no lines called `cots`", "costs"],
    ["{{ line.unit }} {{ costs.kind }}", "Cannot repeat a row for `line` and for `costs` at once", "row of its own"],
  ])("says what is wrong with %s", async (mark, words, advice) => {
    const template = await makeWorkbook((_, sheet) => sheet.addRow([mark]));
    const error = failure(() => plan(OUT, { "t.xlsx": template }));
    expect(error.message).toContain(words);
    expect(error.advice).toContain(advice);
  });

  it("a name that both have is asked about, since either could be meant", async () => {
    const template = await makeWorkbook((_, sheet) =>
      sheet.addRow(['{{repeat own where kind = "parts" and unit = "L1"}}{{end}}']),
    );
    const says = OUT.replace(
      "files:",
      `  own: { data: visits, match: { site: site }, add: { kind: '"parts"' } }\nfiles:`,
    );
    const error = failure(() => plan(says, { "t.xlsx": template }));
    expect(error.message).toContain("Cannot tell which `unit` is meant");
    expect(error.advice).toContain("own.unit");
  });

  it.each([
    ["  line: { data: costs }", "does not mean something else"],
    ["  costs2: { data: nothing, match: { site: place } }", "Cannot find the dataset `nothing`"],
    ["  costs2: { data: costs, match: { sight: place } }", "Cannot find the column `sight`"],
    ["  costs2: { data: costs, match: { site: plaice } }", "Cannot find the column `plaice`"],
    ["  costs2: { data: costs, match: { site: place }, keep: amout > 3 }", "Cannot find the column `amout`"],
    ["  costs2: { data: costs, match: { site: place }, period: kind }", "expected dates"],
  ])("says what is wrong with the definition %s", (says, words) => {
    expect(failure(() => plan(`${says}\n`)).toLine()).toContain(words);
  });
});

describe("all rows in the template's data area", () => {
  const selector = (area: "table" | "range", chart = false) =>
    makeWorkbook((book, sheet) => {
      sheet.name = "Summary";
      sheet.addRow(["Site", "none"]);
      sheet.addRow(["Fees", { formula: "SUMIF(Data!A:A,B1,Data!D:D)", result: 0 }]);
      sheet.addRow(["Share", { formula: "B2/SUM(Data!D2:D4)", result: 0 }]);
      const data = book.addWorksheet("Data");
      const rows = [
        ["sample", "s1", "", 1],
        ["sample", "s2", "", 2],
        ["other", "s3", "", 3],
      ];
      const columns = ["Site", "Unit", "Note", "Fee"];
      if (area === "table")
        data.addTable({ name: "Rows", ref: "A1", columns: columns.map((name) => ({ name })), rows });
      else data.addRows([columns, ...rows]);
      if (chart) sheet.getCell("D1").value = "chart";
    });
  const says = (tables: string, rest: string) =>
    `files:\n  out:\n    template: t.xlsx\n    name: x\n    cells: { Summary!B1: "{{ group.key }}" }\n    tables: { ${tables} }\n${rest}`;
  const LEAVES = "    values: true\n    sheets: [Summary]\n";

  it.each([
    ["table", "Rows: { lines: all }"],
    ["range", "Data!A1:D4: { lines: all }"],
  ] as const)("a %s takes the rows of all groups, and what they add up to leaves alone (%s)", async (area, tables) => {
    const { bytesOf, codes } = make(says(tables.replace("Data!A1:D4", '"Data!A1:D4"'), LEAVES), {
      "t.xlsx": await selector(area),
    });
    expect(codes.filter((code) => code.startsWith("stop"))).toEqual([]);
    const [weissfeld, anne] = await Promise.all(["Weißfeld", "St. Anne's"].map((one) => openElsewhere(bytesOf(one))));
    expect(shown(weissfeld.worksheets[0], "B2")).toBe(175);
    expect(shown(anne.worksheets[0], "B2")).toBe(25);
    expect(shown(weissfeld.worksheets[0], "B3")).toBeCloseTo(0.875, 12);
    expect(weissfeld.worksheets.map((one) => one.name)).toEqual(["Summary"]);
    expect(Buffer.from(bytesOf("Weißfeld")).includes("Anne")).toBe(false);
  });

  it("writes all rows of a group as the group is called, so that its formulas find them", async () => {
    const visits = table(
      "site,unit,invoice,fee,day\nThe Quay-North,U1,,10,2026-10-02\nThe Quay–North,U2,,5,2026-10-03\nThe Quay-North,U3,,1,2026-10-04\nDock,U4,,4,2026-10-04\n",
    );
    const template = await selector("table");
    const templates = { "t.xlsx": template };
    const { bytesOf, codes } = make(says("Rows: { lines: all }", LEAVES), templates, visits);
    const quay = await openElsewhere(bytesOf("The Quay-North"));
    expect([shown(quay.worksheets[0], "B2"), shown(quay.worksheets[0], "B3")]).toEqual([16, 0.8]);
    expect(codes).toContain("warn selector-misses-spelling");
  });

  it("headings alone are a range where one row stands below them; more rows are asked about", async () => {
    const template = await selector("range");
    const error = failure(() => plan(says('"Data!A1:D1": { lines: all }', LEAVES), { "t.xlsx": template }));
    expect(error.message).toContain("Cannot tell which rows below the headings");
  });

  it("the share is of all groups too where one alone is made", async () => {
    const { plan: planned } = plan(says("Rows: { lines: all }", LEAVES), { "t.xlsx": await selector("table") }, [
      "weissfeld",
    ]);
    expect(planned.parcels).toHaveLength(1);
    expect(planned.further.find((one) => one.name === "all")?.rows).toHaveLength(5);
  });

  it.each([
    ["nothing is said", ""],
    ["values alone", "    values: true\n"],
    ["the sheet stays", "    values: true\n    sheets: [Summary, Data]\n"],
  ])("a run is stopped where the rows would travel: %s", async (_, rest) => {
    const { findings } = make(says("Rows: { lines: all }", rest), { "t.xlsx": await selector("table") });
    const stops = findings.filter((one) => one.severity === "stop");
    expect(stops.length).toBeGreaterThan(0);
    for (const one of stops) expect(one).toMatchObject({ code: "rows-of-others", where: "file out" });
  });

  it("another dataset whole is stopped as well, unless it is said to be for all", async () => {
    const template = await makeWorkbook((_, sheet) => sheet.addRow(["{{ tariff.kind }}"]));
    expect(make(OUT, { "t.xlsx": template }).codes).toContain("stop rows-of-others");
    const forAll = await makeWorkbook((_, sheet) => sheet.addRow(["{{ rates.kind }}"]));
    expect(make(OUT, { "t.xlsx": forAll }).codes).not.toContain("stop rows-of-others");
  });

  it("sums over all may stand anywhere, single rows and lists of names may not", async () => {
    const one = (mark: string) => makeWorkbook((_, sheet) => sheet.addRow([mark]));
    const most = make(OUT, { "t.xlsx": await one("{{ max(all.fee) }}") });
    expect(most.codes.filter((code) => code.startsWith("stop"))).toEqual([]);
    const share = make(OUT, { "t.xlsx": await one("{{ sum(line.fee) / sum(all.fee) }}") });
    expect(share.codes.filter((code) => code.startsWith("stop"))).toEqual([]);
    expect(shown((await openElsewhere(share.bytesOf("Weißfeld"))).worksheets[0], "A1")).toBe(0.875);
    for (const mark of [
      "{{ max(all.site) }}",
      "{{ list(all.site) }}",
      "{{ all.site }}",
      "{{repeat all by site}}{{ sum(all.fee) }}{{end}}",
    ])
      expect(make(OUT, { "t.xlsx": await one(mark) }).codes).toContain("stop rows-of-others");
    const inMail = plan('files: {}\nmessage: { subject: x, body: { text: "{{table all: site}}" } }\n').plan;
    expect(inMail.findings.map((finding) => finding.code)).toContain("rows-of-others");
    const inSubject = plan('files: {}\nmessage: { subject: "{{ list(all.site) }}", body: { text: x } }\n').plan;
    expect(inSubject.findings.map((finding) => finding.code)).toContain("rows-of-others");
  });
});

describe("the spelling of a group", () => {
  it("is what templates, names and messages see, not the key it is matched by", () => {
    const { made, plan: planned } = make(OUT.replace("template: t.xlsx", "table: {}"));
    expect(planned.parcels.map(({ files }) => files[0].path)).toEqual(["St. Anne's.xlsx", "Weißfeld.xlsx"]);
    expect(made.map(({ env }) => env.spaces.group.get("key"))).toEqual(["St. Anne's", "Weißfeld"]);
    expect(planned.parcels.map(({ group }) => group.key)).toEqual(["st. anne's", "weissfeld"]);
    expect(new Exact(planned.parcels[1].further.costs.length).toNumber()).toBe(2);
  });
});

describe("whose further lines are", () => {
  const plan = (visits: string, costs: string, match: string, split = "site") =>
    planRun({
      report: parseReport(
        `report: a\ntitle: A\ndata: visits\nsplit: ${split}\nlines: { costs: { data: costs, match: ${match} } }\ntotals: { spent: sum(costs.amount) }\n`,
        "r",
      ),
      table: table(visits),
      others: new Map([["costs", table(costs)]]),
      recipients: [],
      templates: new Map(),
      facts: FACTS,
    }).plan;
  const whose = (found: ReturnType<typeof plan>) =>
    found.findings.filter((one) => one.code.startsWith("further-lines")).map((one) => `${one.code} ${one.what}`);

  it("is told for those of nobody and those of several, one and many, blank ones too", () => {
    const one = plan("site,unit\nDock,L1\nQuay,L2\n", "place,amount\nDock,1\nMill,2\n", "{ site: place }");
    expect(whose(one)).toEqual(['further-lines-of-nobody 1 row of costs belongs to no group of this run: "Mill".']);
    const many = plan(
      "site,unit\nDock,L1\nQuay,L2\n",
      `place,amount\nDock,1\n,9\n${["A", "B", "C", "D", "E", "F"].map((name) => `${name}${name},2`).join("\n")}\n`,
      "{ site: place }",
    );
    expect(whose(many)).toEqual([
      expect.stringMatching(/^further-lines-of-nobody 7 rows of costs belong to no group of this run: .*blank.*, …\.$/),
    ]);
    const several = plan(
      "site,unit,bill\nDock,L1,R1\nQuay,L2,R1\nQuay,L3,R2\n",
      "no,amount\nR1,4\nR2,5\n",
      "{ bill: no }",
    );
    expect(whose(several)).toEqual(['further-lines-of-several 1 row of costs goes to several groups each: "R1".']);
    // What goes to two is not added up as if it went to one.
    expect(several.totals).toEqual([{ name: "spent", master: "9", parcels: undefined, leftOut: "0", agrees: true }]);
  });

  it("goes by several columns where the groups do, and rows of all are spelled as most of each group's are", () => {
    const found = plan(
      "site,street,unit\nDock,Main St,L1\nDOCK,main  st,L2\nDOCK,Main St,L3\nQuay,,L4\n",
      "place,road,amount\ndock,MAIN ST,1\nDock,Side St,2\n",
      "{ site: place, street: road }",
      "[site, street]",
    );
    expect(found.furtherRows).toEqual([
      expect.objectContaining({ master: 2, inGroups: 1, leftOut: [expect.objectContaining({ count: 1 })] }),
    ]);
    expect(whose(found)).toEqual([
      'further-lines-of-nobody 1 row of costs belongs to no group of this run: "Dock / Side St".',
    ]);
  });
});
