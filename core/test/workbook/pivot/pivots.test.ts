/** Pivots of filled workbooks show what their source holds: cells, items and lines. */
import { OoxmlPackage } from "@corbix/core/ooxml";
import { cellValues, workbookFromPackage } from "@corbix/core/spreadsheet";
import { WorkbookTemplate } from "@corbix/core/workbook";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { record } from "../../support/helpers.js";
import { type AxisField, type PivotSpec, pivotTemplate } from "../../support/pivot-maker.js";
import { problemsOf } from "../../support/validate.js";

const COLUMNS = ["District", "Result", "Unit", "Fee"];

const LINES = [
  { district: "North", result: "passed", unit: "L1", fee: 100 },
  { district: "South", result: "failed", unit: "L2", fee: 40 },
  { district: "North", result: "failed", unit: "L3", fee: 25.5 },
  { district: "north", result: "passed", unit: "L4", fee: 10 },
  { district: "Harbour", result: "passed", unit: "L5", fee: null },
];

async function fillPivot(
  spec: PivotSpec,
  lines: readonly object[] = LINES,
  more?: Parameters<typeof pivotTemplate>[2],
) {
  const template = WorkbookTemplate.read(await pivotTemplate(COLUMNS, spec, more), "t.xlsx");
  const { scope, env } = record({ lines });
  const made = template.bind(scope).fill(env);
  const opened = OoxmlPackage.open(made.package.toBytes());
  expect(problemsOf(made.package.toBytes())).toEqual([]);
  return { opened, findings: made.findings, grid: gridOf(opened) };
}

/** The cells of the second sheet from its first row and column on, without blanks behind the last. */
function gridOf(opened: OoxmlPackage): (string | number | boolean | null)[][] {
  const workbook = workbookFromPackage(opened);
  const cells = cellValues(workbook, workbook.sheets[1].part);
  return Array.from({ length: Math.max(-1, ...cells.keys()) + 1 }, (_, row) => {
    const line = cells.get(row) ?? new Map();
    return Array.from({ length: Math.max(-1, ...line.keys()) + 1 }, (_, column) => line.get(column)?.value ?? null);
  });
}

const SUM = { name: "Sum of Fee", field: "Fee" };
const COUNT = { name: "Inspections", field: "Unit", kind: "count" };
const SAMPLE = { items: '<item x="0"/>', shared: '<s v="sample"/>' };
const ONE = [
  ["Row Labels", "Sum of Fee"],
  ["sample", 7],
  ["All districts", 7],
];

describe("a pivot", () => {
  it("shows the items of its rows with their sums, and its own word for all", async () => {
    const { grid, findings, opened } = await fillPivot({
      rows: [{ name: "District", ...SAMPLE }],
      data: [SUM],
      shown: ONE,
      ref: "A1:B3",
    });
    expect(grid).toEqual([
      ["Row Labels", "Sum of Fee"],
      ["Harbour"],
      ["North", 135.5],
      ["South", 40],
      ["All districts", 175.5],
    ]);
    expect(findings).toEqual([]);
    const definition = opened.getXml("xl/pivotTables/pivotTable1.xml");
    expect(definition.child("location")?.attr("ref")).toBe("A1:B5");
    expect(definition.child("rowItems")?.toString()).toBe(
      '<rowItems count="4"><i><x/></i><i><x v="1"/></i><i><x v="2"/></i><i t="grand"><x/></i></rowItems>',
    );
    const cache = opened.getXml("xl/pivotCache/pivotCacheDefinition1.xml");
    const [district, , , fee] = cache.child("cacheFields")?.elements() ?? [];
    expect(
      district
        .child("sharedItems")
        ?.elements()
        .map((one) => one.attr("v")),
    ).toEqual(["Harbour", "North", "South"]);
    expect([...(fee.child("sharedItems")?.attributes ?? [])]).toEqual([
      ["containsString", "0"],
      ["containsBlank", "1"],
      ["containsNumber", "1"],
      ["minValue", "10"],
      ["maxValue", "100"],
    ]);
    expect(cache.attr("refreshOnLoad")).toBe("1");
  });

  it("shows items of columns beside each other, with totals of both", async () => {
    const { grid, findings } = await fillPivot({
      rows: [{ name: "District", ...SAMPLE }],
      columns: [{ name: "Result", ...SAMPLE }],
      data: [SUM],
      shown: [
        ["Sum of Fee", "Column Labels"],
        ["Row Labels", "sample", "Total"],
        ["sample", 7, 7],
        ["Total", 7, 7],
      ],
      ref: "A1:C4",
      colItems: '<i><x/></i><i t="grand"><x/></i>',
    });
    expect(findings).toEqual([]);
    expect(grid).toEqual([
      ["Sum of Fee", "Column Labels"],
      ["Row Labels", "failed", "passed", "Total"],
      ["Harbour"],
      ["North", 25.5, 110, 135.5],
      ["South", 40, null, 40],
      ["Total", 65.5, 110, 175.5],
    ]);
  });

  it("shows several values beside each other, also below the items of columns", async () => {
    const values = { data: [SUM, COUNT], rows: [{ name: "District", ...SAMPLE }] };
    const side = await fillPivot({
      ...values,
      shown: [
        ["Row Labels", "Sum of Fee", "Inspections"],
        ["sample", 7, 1],
        ["Grand Total", 7, 1],
      ],
      ref: "A1:C3",
      colItems: '<i><x/></i><i i="1"><x v="1"/></i>',
    });
    expect(side.findings).toEqual([]);
    expect(side.grid).toEqual([
      ["Row Labels", "Sum of Fee", "Inspections"],
      ["Harbour", null, 1],
      ["North", 135.5, 3],
      ["South", 40, 1],
      ["Grand Total", 175.5, 5],
    ]);
    const below = await fillPivot({
      ...values,
      columns: [{ name: "Result", ...SAMPLE }],
      shown: [
        [null, "Column Labels"],
        [null, "sample", null, "Sum of Fee, all", null],
        ["Row Labels", "Sum of Fee", "Inspections"],
        ["sample", 7, 1, 7, 1],
        ["Grand Total", 7, 1, 7, 1],
      ],
      ref: "A1:E5",
      colItems: '<i><x/><x/></i><i r="1" i="1"><x v="1"/></i><i t="grand"><x/></i><i t="grand" i="1"><x/></i>',
    });
    expect(below.findings).toEqual([]);
    expect(below.grid).toEqual([
      [null, "Column Labels"],
      [null, "failed", null, "passed", null, "Total Sum of Fee", "Total Inspections"],
      ["Row Labels", "Sum of Fee", "Inspections", "Sum of Fee", "Inspections"],
      ["Harbour", null, null, null, 1, null, 1],
      ["North", 25.5, 1, 110, 2, 135.5, 3],
      ["South", 40, 1, null, null, 40, 1],
      ["Grand Total", 65.5, 2, 110, 3, 175.5, 5],
    ]);
  });

  it.each<[AxisField["form"], string, unknown[][]]>([
    [
      "compact",
      "",
      [
        ["Row Labels", "Sum of Fee"],
        ["Harbour"],
        ["passed"],
        ["North", 135.5],
        ["failed", 25.5],
        ["passed", 110],
        ["South", 40],
        ["failed", 40],
        ["Grand Total", 175.5],
      ],
    ],
    [
      "outline",
      'subtotalTop="0"',
      [
        ["Row Labels", null, "Sum of Fee"],
        ["Harbour"],
        [null, "passed"],
        ["Harbour Total"],
        ["North"],
        [null, "failed", 25.5],
        [null, "passed", 110],
        ["North Total", null, 135.5],
        ["South"],
        [null, "failed", 40],
        ["South Total", null, 40],
        ["Grand Total", null, 175.5],
      ],
    ],
    [
      "tabular",
      "",
      [
        ["Row Labels", null, "Sum of Fee"],
        ["Harbour", "passed"],
        ["Harbour Total"],
        ["North", "failed", 25.5],
        [null, "passed", 110],
        ["North Total", null, 135.5],
        ["South", "failed", 40],
        ["South Total", null, 40],
        ["Grand Total", null, 175.5],
      ],
    ],
    [
      "tabular",
      'defaultSubtotal="0"',
      [
        ["Row Labels", null, "Sum of Fee"],
        ["Harbour", "passed"],
        ["North", "failed", 25.5],
        [null, "passed", 110],
        ["South", "failed", 40],
        ["Grand Total", null, 175.5],
      ],
    ],
  ])("lays two fields of rows out as it does: %s %s", async (form, more, expected) => {
    const width = form === "compact" ? 2 : 3;
    const shown =
      form === "compact"
        ? ONE.slice(0, 2)
        : [
            ["Row Labels", null, "Sum of Fee"],
            ["sample", "sample", 7],
          ];
    const { grid, findings } = await fillPivot({
      rows: [
        { name: "District", form, more, ...SAMPLE },
        { name: "Result", form, ...SAMPLE },
      ],
      data: [SUM],
      shown: [...shown, width === 2 ? ["Grand Total", 7] : ["Grand Total", null, 7]],
      ref: width === 2 ? "A1:B3" : "A1:C3",
    });
    expect(findings).toEqual([]);
    expect(grid).toEqual(expected);
  });

  it("makes its columns as wide as what they show where it is to, and leaves others", async () => {
    const spec: PivotSpec = { rows: [{ name: "District", ...SAMPLE }], data: [SUM], shown: ONE, ref: "A1:B3" };
    const lines = [{ district: "The old harbour and all that lies behind it", result: "", unit: "", fee: 1 }];
    const widths = async (more: string) => {
      const { opened } = await fillPivot({ ...spec, more }, lines);
      return opened
        .getXml("xl/worksheets/sheet2.xml")
        .descendants("col")
        .map((one) => [one.attr("min"), Number(one.attr("width")) > 40]);
    };
    expect(await widths('useAutoFormatting="1"')).toEqual([
      ["1", true],
      ["2", false],
    ]);
    expect(await widths("")).toEqual([]);
  });

  it("leaves out what is hidden and what is not chosen above it, and keeps captions and what is folded up", async () => {
    const shared = '<s v="North"/><s v="South"/><s v="Harbour"/>';
    const hidden = await fillPivot({
      rows: [{ name: "District", items: '<item x="0" n="The north"/><item h="1" x="1"/><item x="2"/>', shared }],
      data: [SUM, COUNT],
      shown: [["Row Labels", "Sum of Fee", "Inspections"]],
      ref: "A1:C3",
    });
    expect(hidden.grid.slice(1)).toEqual([
      ["The north", 135.5, 3],
      ["Harbour", null, 1],
      ["Grand Total", 135.5, 4],
    ]);
    const chosen = await fillPivot({
      rows: [{ name: "District", ...SAMPLE }],
      chosen: {
        name: "Result",
        items: '<item x="0"/><item x="1"/>',
        shared: '<s v="failed"/><s v="passed"/>',
        item: 1,
      },
      data: [SUM],
      shown: ONE,
      ref: "A1:B3",
    });
    expect(chosen.grid.slice(1)).toEqual([["Harbour"], ["North", 110], ["All districts", 110]]);
    const folded = await fillPivot({
      rows: [
        { name: "District", items: '<item sd="0" x="0"/><item x="1"/><item x="2"/>', shared },
        { name: "Result", ...SAMPLE },
      ],
      data: [SUM],
      shown: ONE,
      ref: "A1:B3",
    });
    expect(folded.grid.slice(1)).toEqual([
      ["North", 135.5],
      ["South", 40],
      ["failed", 40],
      ["Harbour"],
      ["passed"],
      ["All districts", 175.5],
    ]);
  });

  it.each<[string, string, unknown[][]]>([
    ["average", "", [["Harbour"], ["North", 45.17], ["South", 40], ["All districts", 43.88]]],
    ["max", "", [["Harbour"], ["North", 100], ["South", 40], ["All districts", 100]]],
    ["min", "", [["Harbour"], ["North", 10], ["South", 40], ["All districts", 10]]],
    ["product", "", [["Harbour"], ["North", 25_500], ["South", 40], ["All districts", 1_020_000]]],
    ["countNums", "", [["Harbour"], ["North", 3], ["South", 1], ["All districts", 4]]],
    ["stdDev", "", [["Harbour"], ["North", 48.12], ["South", "#DIV/0!"], ["All districts", 39.37]]],
    ["varp", "", [["Harbour"], ["North", 1543.39], ["South", 0], ["All districts", 1162.55]]],
    ["sum", 'showDataAs="percentOfTotal"', [["Harbour"], ["North", 0.77], ["South", 0.23], ["All districts", 1]]],
    ["sum", 'showDataAs="percentOfRow"', [["Harbour"], ["North", 1], ["South", 1], ["All districts", 1]]],
  ])("adds up as it does: %s %s", async (kind, more, expected) => {
    const { grid } = await fillPivot({
      rows: [{ name: "District", ...SAMPLE }],
      data: [{ ...SUM, kind, more }],
      shown: ONE,
      ref: "A1:B3",
    });
    const rounded = grid
      .slice(1)
      .map((row) => row.map((value) => (typeof value === "number" ? Math.round(value * 100) / 100 : value)));
    expect(rounded).toEqual(expected);
  });

  it("sorts its items as it does: downwards, by what they add up to, and in an order of the template's own", async () => {
    const labels = async (field: Partial<AxisField>): Promise<unknown[]> =>
      (
        await fillPivot({ rows: [{ name: "District", ...SAMPLE, ...field }], data: [SUM], shown: ONE, ref: "A1:B3" })
      ).grid
        .slice(1, -1)
        .map(([label]) => label);
    expect(await labels({ more: 'sortType="descending"' })).toEqual(["South", "North", "Harbour"]);
    const own = { items: '<item x="0"/><item x="1"/>', shared: '<s v="South"/><s v="North"/>' };
    expect(await labels(own)).toEqual(["South", "North", "Harbour"]);
    expect(await labels({ ...own, more: 'sortType="ascending"' })).toEqual(["Harbour", "North", "South"]);
    const template = await pivotTemplate(
      COLUMNS,
      { rows: [{ name: "District", more: 'sortType="descending"', ...SAMPLE }], data: [SUM], shown: ONE, ref: "A1:B3" },
      (opened) => {
        const scope =
          '<autoSortScope><pivotArea><references count="1"><reference field="4294967294" count="1"><x v="0"/></reference></references></pivotArea></autoSortScope>';
        return new Map([
          [
            "xl/pivotTables/pivotTable1.xml",
            opened
              .getText("xl/pivotTables/pivotTable1.xml")
              .replace("</items></pivotField>", `</items>${scope}</pivotField>`),
          ],
        ]);
      },
    );
    const { scope, env } = record({ lines: LINES });
    const made = OoxmlPackage.open(WorkbookTemplate.read(template, "t.xlsx").bind(scope).fill(env).package.toBytes());
    expect(
      gridOf(made)
        .slice(1, -1)
        .map(([label]) => label),
    ).toEqual(["North", "South", "Harbour"]);
  });
});

describe("a pivot that is not computed", () => {
  const base: PivotSpec = { rows: [{ name: "District", ...SAMPLE }], data: [SUM], shown: ONE, ref: "A1:B3" };
  it.each<[string, PivotSpec, string]>([
    ["other rows below it", { ...base, shown: [...ONE, ["a note"]] }, "it has no room: cell A4 is filled"],
    [
      "values in relation to others",
      { ...base, data: [{ ...SUM, more: 'showDataAs="runTotal"' }] },
      "it shows values in relation to others",
    ],
    [
      "a hidden value, and new ones",
      { ...base, rows: [{ name: "District", items: '<item h="1" x="0"/>', shared: '<s v="South"/>' }] },
      "it hides values one by one, and there are new ones",
    ],
    ["a source told by a formula", { ...base, source: 'name="Elsewhere"' }, "its source is told by a formula"],
    ["labels that are merged", { ...base, more: 'mergeItem="1"' }, "its labels are merged"],
    [
      "a filter of values",
      { ...base, elements: '<filters count="1"><filter fld="0" type="valueGreaterThan" id="1"/></filters>' },
      "it leaves out rows by a filter of labels or values",
    ],
    ["a layout of its own", { ...base, headRows: 2 }, "it is laid out in a way of its own"],
    [
      "no value chosen any more",
      { ...base, chosen: { name: "Result", items: '<item x="0"/>', shared: '<s v="cancelled"/>', item: 0 } },
      "no row has the value that is chosen above it",
    ],
  ])("keeps what the template shows, and says why: %s", async (_, spec, why) => {
    const { grid, findings, opened } = await fillPivot(spec);
    expect(grid.slice(0, 3)).toEqual(ONE);
    expect(findings.map((one) => [one.code, one.severity, one.what.includes(why)])).toEqual([
      ["pivot-not-computed", "warn", true],
    ]);
    expect(opened.getXml("xl/pivotCache/pivotCacheDefinition1.xml").attr("refreshOnLoad")).toBe("1");
  });

  it("keeps both where two share their rows and one cannot be computed", async () => {
    const { grid, findings } = await fillPivot(base, LINES, (opened) => {
      const second = opened
        .getText("xl/pivotTables/pivotTable1.xml")
        .replace('name="Fees"', 'name="Second" mergeItem="1"')
        .replace("A1:B3", "E1:F3");
      return new Map([
        ["xl/pivotTables/pivotTable2.xml", second],
        ["xl/pivotTables/_rels/pivotTable2.xml.rels", opened.getText("xl/pivotTables/_rels/pivotTable1.xml.rels")],
        [
          "xl/worksheets/_rels/sheet2.xml.rels",
          opened
            .getText("xl/worksheets/_rels/sheet2.xml.rels")
            .replace(
              "</Relationships>",
              '<Relationship Id="rId2" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/pivotTable" Target="../pivotTables/pivotTable2.xml"/></Relationships>',
            ),
        ],
        [
          "[Content_Types].xml",
          opened
            .getText("[Content_Types].xml")
            .replace(
              "</Types>",
              '<Override PartName="/xl/pivotTables/pivotTable2.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.pivotTable+xml"/></Types>',
            ),
        ],
      ]);
    });
    expect(grid).toEqual(ONE);
    expect(findings.map((one) => one.what.slice(0, 22))).toEqual(['The pivot "Fees" is no', 'The pivot "Second" is ']);
  });
});

describe("what looks at a pivot", () => {
  const spec: PivotSpec = { rows: [{ name: "District", ...SAMPLE }], data: [SUM], shown: ONE, ref: "A1:B3" };

  it("is calculated from its new cells", async () => {
    const { opened } = await fillPivot(spec, LINES, (made) => {
      const sheet = made.getText("xl/worksheets/sheet1.xml");
      return new Map([
        [
          "xl/worksheets/sheet1.xml",
          sheet.replace('</row><row r="2"', '<c r="H1"><f>SUM(Pivot!B2:B9)/2</f><v>7</v></c></row><row r="2"'),
        ],
      ]);
    });
    expect(opened.getText("xl/worksheets/sheet1.xml")).toContain("<v>175.5</v>");
  });

  it("draws its items without their total, with a series for each column", async () => {
    const ser =
      '<c:ser><c:idx val="0"/><c:order val="0"/><c:tx><c:strRef><c:f>Pivot!$B$1:$B$2</c:f><c:strCache><c:ptCount val="1"/><c:pt idx="0"><c:v>sample</c:v></c:pt></c:strCache></c:strRef></c:tx><c:spPr/><c:cat><c:strRef><c:f>Pivot!$A$3:$A$3</c:f></c:strRef></c:cat><c:val><c:numRef><c:f>Pivot!$B$3:$B$3</c:f></c:numRef></c:val></c:ser>';
    const chart = `<c:chartSpace xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart"><c:pivotSource><c:name>[fees.xlsx]Pivot!Fees</c:name><c:fmtId val="0"/></c:pivotSource><c:chart><c:plotArea><c:barChart>${ser}<c:axId val="1"/></c:barChart></c:plotArea></c:chart></c:chartSpace>`;
    const { opened, findings } = await fillPivot(
      {
        ...spec,
        columns: [{ name: "Result", ...SAMPLE }],
        shown: [
          ["Sum of Fee", "Column Labels"],
          ["Row Labels", "sample", "Total"],
          ["sample", 7, 7],
          ["Total", 7, 7],
        ],
        ref: "A1:C4",
        colItems: '<i><x/></i><i t="grand"><x/></i>',
      },
      LINES,
      (made) =>
        new Map([
          ["xl/charts/chart1.xml", chart],
          [
            "[Content_Types].xml",
            made
              .getText("[Content_Types].xml")
              .replace(
                "</Types>",
                '<Override PartName="/xl/charts/chart1.xml" ContentType="application/vnd.openxmlformats-officedocument.drawingml.chart+xml"/></Types>',
              ),
          ],
        ]),
    );
    expect(findings).toEqual([]);
    const plot = opened.getXml("xl/charts/chart1.xml").descendants("barChart")[0];
    const texts = (of: string) =>
      plot.elements("ser").map((one) =>
        one
          .child(of)
          ?.descendants("v")
          .map((v) => v.text),
      );
    expect(texts("tx")).toEqual([["failed"], ["passed"]]);
    expect(texts("cat")).toEqual([
      ["Harbour", "North", "South"],
      ["Harbour", "North", "South"],
    ]);
    expect(texts("val")).toEqual([["25.5", "40"], ["110"]]);
    expect(plot.descendants("f").map((one) => one.text)).toEqual([
      "Pivot!$B$1:$B$2",
      "Pivot!$A$3:$A$5",
      "Pivot!$B$3:$B$5",
      "Pivot!$C$1:$C$2",
      "Pivot!$A$3:$A$5",
      "Pivot!$C$3:$C$5",
    ]);
  });
});

describe("random pivots", () => {
  it("say of each cell what its labels ask for", async () => {
    const values = {
      District: ["North", "South", "Harbour", "Weißfeld"],
      Result: ["passed", "failed", "cancelled"],
      Unit: ["L1", "L2"],
    };
    const line = fc.record({
      district: fc.constantFrom(...values.District),
      result: fc.constantFrom(...values.Result),
      unit: fc.constantFrom(...values.Unit),
      fee: fc.option(fc.integer({ min: -50, max: 900 }), { nil: null, freq: 5 }),
    });
    const axes = fc
      .shuffledSubarray(["District", "Result", "Unit"], { minLength: 1 })
      .chain((names) =>
        fc
          .integer({ min: 1, max: names.length })
          .map((rows) => ({ rows: names.slice(0, rows), columns: names.slice(rows) })),
      );
    await fc.assert(
      fc.asyncProperty(
        axes,
        fc.array(line, { minLength: 1, maxLength: 30 }),
        fc.boolean(),
        async ({ rows, columns }, lines, hasCount) => {
          const data = hasCount ? [SUM, { name: "Fees", field: "Fee", kind: "count" }] : [SUM];
          const headRows = columns.length === 0 ? 1 : 1 + columns.length + (hasCount ? 1 : 0);
          const { grid, findings } = await fillPivot(
            {
              rows: rows.map((name) => ({ name, form: "tabular", more: 'defaultSubtotal="0"', ...SAMPLE })),
              columns: columns.map((name) => ({ name, form: "tabular", more: 'defaultSubtotal="0"', ...SAMPLE })),
              data,
              shown: Array.from({ length: headRows }, () => [null]),
              ref: `A1:${String.fromCharCode(65 + rows.length)}${headRows + 1}`,
            },
            lines,
          );
          expect(findings).toEqual([]);
          let seen = 0;
          const labels: (string | null)[] = [];
          for (const row of grid.slice(headRows)) {
            rows.forEach((_, at) => {
              labels[at] = (row[at] as string | null) ?? labels[at];
            });
            const isGrand = row[0] === "Grand Total";
            const chosen = lines.filter(
              (one) => isGrand || rows.every((name, at) => one[name.toLowerCase() as "unit"] === labels[at]),
            );
            const width = Math.max(...grid.map((one) => one.length));
            const heads: (string | null)[] = [];
            for (let column = rows.length; column < width; column++) {
              const head = (level: number): string =>
                String(grid[headRows - columns.length - (hasCount ? 1 : 0) + level]?.[column] ?? "");
              columns.forEach((_, level) => {
                if (head(level) !== "") heads[level] = head(level);
              });
              const top = columns.length > 0 ? head(0) : "";
              const isTotal = top.startsWith("Grand Total") || top.startsWith("Total ");
              const which = hasCount ? (isTotal ? top.slice(6) : String(grid[headRows - 1][column])) : SUM.name;
              const asked = chosen.filter(
                (one) => isTotal || columns.every((name, level) => one[name.toLowerCase() as "unit"] === heads[level]),
              );
              const fees = asked.flatMap((one) => (one.fee === null ? [] : [one.fee]));
              const expected =
                fees.length === 0 ? null : which === SUM.name ? fees.reduce((a, b) => a + b, 0) : fees.length;
              expect(row[column] ?? null).toBe(expected);
              seen++;
            }
          }
          expect(seen).toBeGreaterThan(0);
        },
      ),
      { numRuns: 60 },
    );
  });
});
