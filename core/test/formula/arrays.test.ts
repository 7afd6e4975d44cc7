import { serialFromParts } from "@corbix/core/common";
import { CellError, calculate, compileFormula, FUNCTION_NAMES, type Scalar } from "@corbix/core/formula";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { recalculateWorkbook, WorkbookTemplate } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { forAll } from "../support/for-all.js";
import { formula, makeWorkbook, openElsewhere, record, shown } from "../support/helpers.js";
import { problemsOf } from "../support/validate.js";

/** A formula over A1:C4 of plain values, as all its values. */
function values(source: string, mode: "value" | "array" = "array"): unknown {
  const grid: Scalar[][] = [
    ["North", 10, "pass"],
    ["South", 20, "fail"],
    ["North", 30, "fail"],
    ["East", 5, "pass"],
  ];
  const { results } = calculate({
    values: [new Map(grid.map((row, at) => [at, new Map(row.map((value, column) => [column, value]))]))],
    formulas: [
      {
        sheet: 0,
        row: 1,
        column: 8,
        formula: compileFormula(source, mode),
        stored: "stored",
        array: mode === "array" ? "free" : undefined,
        locate: ({ range }) => ({
          sheet: 0,
          top: range.top ?? 0,
          left: range.left ?? 0,
          bottom: range.bottom ?? 1_048_575,
          right: range.right ?? 16_383,
        }),
      },
    ],
    name: (name) => (name === "fees" ? { formula: compileFormula("$B$1:$B$4", "array"), locate: absolute } : undefined),
    now: serialFromParts(2026, 11, 2),
  });
  const plain = (value: Scalar): unknown => (value instanceof CellError ? value.name : value);
  const [{ value, values: all }] = results;
  if (!all || (all.length === 1 && all[0].length === 1)) return plain(value);
  return all.map((row) => (row.length === 1 ? plain(row[0]) : row.map(plain)));
}

const absolute = () => ({ sheet: 0, top: 0, left: 1, bottom: 3, right: 1 });

describe("array formulas", () => {
  it.each([
    ["UNIQUE(A1:A4)", ["North", "South", "East"]],
    ["_xlfn.UNIQUE(A1:A4,FALSE,TRUE)", ["South", "East"]],
    ["SORT(UNIQUE(A1:A4),,-1)", ["South", "North", "East"]],
    [
      '_xlfn._xlws.FILTER(A1:B4,C1:C4="fail")',
      [
        ["South", 20],
        ["North", 30],
      ],
    ],
    ['FILTER(A1:A4,B1:B4>99,"none")', "none"],
    ["FILTER(A1:A4,B1:B4>99)", "#CALC!"],
    ["SORTBY(A1:A4,B1:B4)", ["East", "North", "South", "North"]],
    [
      "SORT(A1:B4,2,-1)",
      [
        ["North", 30],
        ["South", 20],
        ["North", 10],
        ["East", 5],
      ],
    ],
    [
      "SEQUENCE(2,3,10,5)",
      [
        [10, 15, 20],
        [25, 30, 35],
      ],
    ],
    ["TRANSPOSE(B1:B4)", [[10, 20, 30, 5]]],
    ["B1:B4*2", [20, 40, 60, 10]],
    [
      "B1:B2*{1,10}",
      [
        [10, 100],
        [20, 200],
      ],
    ],
    ['IF(B1:B4>15,A1:A4,"-")', ["-", "South", "North", "-"]],
    ["LEN(A1:A4)", [5, 5, 5, 4]],
    ['SUM(IF(A1:A4="North",B1:B4))', 40],
    ['SUM((A1:A4="North")*(C1:C4="pass")*B1:B4)', 10],
    ['MAX(IF(C1:C4="pass",B1:B4))', 10],
    ['VLOOKUP({"East","South"},A1:B4,2,FALSE)', [[5, 20]]],
    ["IFERROR(1/(B1:B4-20),0)", [-0.1, 0, 0.1, -1 / 15]],
    ["_xlfn.LET(_xlpm.x,B1:B4,_xlpm.y,SUM(_xlpm.x),_xlpm.x/_xlpm.y*65)", [10, 20, 30, 5]],
    ["INDEX(A1:C4,0,2)", [10, 20, 30, 5]],
    ["MMULT({1,2;3,4},{1;1})", [3, 7]],
    [
      'TEXTSPLIT("a,b;c",",",";")',
      [
        ["a", "b"],
        ["c", "#N/A"],
      ],
    ],
    ["TAKE(SORT(B1:B4),-2)", [20, 30]],
    [
      "CHOOSECOLS(A1:C2,3,1)",
      [
        ["pass", "North"],
        ["fail", "South"],
      ],
    ],
    ["VSTACK(A1,B1:B2)", ["North", 10, 20]],
    ["FREQUENCY(B1:B4,{10;20})", [2, 1, 1]],
    ["fees", [10, 20, 30, 5]],
  ])("%s", (source, expected) => {
    expect(values(source)).toEqual(expected);
  });

  it.each([
    ["B1:B4*2", 40, "its own row's cell of a range"],
    ["SUM(B1:B4)", 65, "a range where ranges are asked for"],
    ['SUMPRODUCT((A1:A4="North")*B1:B4)', 40, "arrays inside SUMPRODUCT"],
    ["SUM(LARGE(B1:B4,{1,2}))", 50, "constants of arrays"],
    ["SUM(B1:INDEX(B1:B4,2))", 30, "a range up to a cell that is looked up"],
    ["SUM(OFFSET(B1,1,0,2,1))", 50, "a range that is moved"],
    ['SUM(INDIRECT("B1:B2"))', 30, "a range by its text"],
    ["SUM(fees)", 65, "a name for a range"],
    ["SUM(A1:B2 B1:C4)", 30, "what two ranges share"],
    ["SUM((B1,B3))", 40, "two ranges together"],
    ["@B1:B4", 20, "the sign for one's own row"],
    ["A1:C1", "#VALUE!", "nothing of one's own row or column"],
    ["ROWS(OFFSET(A1:A4,0,0,3))", 3, "the size of a moved range"],
    ['SUM("x")', "#VALUE!", "a text given directly"],
    ["SUM(A1)", 0, "a text in a cell"],
  ])("a plain formula takes %s as %s: %s", (source, expected, _why) => {
    expect(values(source, "value")).toEqual(expected);
  });

  it.each([
    ["NETWORKDAYS(DATE(2026,10,1),DATE(2026,10,31))", 22],
    ["NETWORKDAYS(DATE(2026,10,1),DATE(2026,10,31),DATE(2026,10,26))", 21],
    ["WORKDAY(DATE(2026,10,30),1)-DATE(2026,11,2)", 0],
    ["WORKDAY(DATE(2026,11,2),-1)-DATE(2026,10,30)", 0],
    ["NETWORKDAYS.INTL(DATE(2026,10,1),DATE(2026,10,31),11)", 27],
    ["ISOWEEKNUM(DATE(2027,1,1))", 53],
    ["WEEKNUM(DATE(2026,1,4))", 2],
    ['DATEDIF(DATE(2024,2,29),DATE(2026,3,1),"Y")', 2],
    ['DATEDIF(DATE(2026,1,31),DATE(2026,3,1),"MD")', -2],
    ["YEARFRAC(DATE(2026,1,1),DATE(2026,7,1))", 0.5],
    ["DAYS360(DATE(2026,1,31),DATE(2026,2,28))", 28],
    ['XLOOKUP(25,B1:B4,A1:A4,"none",-1)', "South"],
    ["XLOOKUP(25,B1:B4,A1:A4,,1)", "North"],
    ['XMATCH("North",A1:A4,0,-1)', 3],
    ['LOOKUP(12,{5,10,20},{"a","b","c"})', "b"],
    ["AGGREGATE(9,6,B1:B4)", 65],
    ["RANK(20,B1:B4)", 2],
    ["QUARTILE(B1:B4,2)", 15],
    ['TEXTJOIN("; ",TRUE,A1:A3)', "North; South; North"],
    ['TEXTAFTER("a-b-c","-",2)', "c"],
    ['REPLACE("abcdef",2,3,"-")', "a-ef"],
    ["ADDRESS(2,3)", "$C$2"],
    ["CEILING.MATH(6.3,5)", 10],
    ["XOR(TRUE,TRUE,TRUE)", true],
  ])("%s is %s", (source, expected) => {
    expect(values(source, "value")).toEqual(expected);
  });

  it("says what it cannot evaluate, and keeps what is stored", () => {
    expect(values("CUBEVALUE(1)", "value")).toBe("stored");
    expect(values("[1]Sheet1!A1", "value")).toBe("stored");
    expect(FUNCTION_NAMES.length).toBeGreaterThan(230);
  });

  it("agrees with a plain oracle on 300 random conditional sums, look-ups and lists", () => {
    forAll(300, (pick) => {
      const rows = Array.from({ length: 1 + pick(40) }, () => ({ key: `K${pick(6)}`, value: pick(1000) / 4 }));
      const height = rows.length;
      const grid = new Map(
        rows.map(({ key, value }, at) => [
          at,
          new Map<number, Scalar>([
            [0, key],
            [1, value],
          ]),
        ]),
      );
      const wanted = `K${pick(7)}`;
      const own = rows.filter((row) => row.key === wanted);
      const sum = own.reduce((total, row) => total + row.value, 0);
      const cases: [string, unknown][] = [
        [`SUMIFS(B1:B${height},A1:A${height},"${wanted}")`, sum],
        [`SUMPRODUCT((A1:A${height}="${wanted}")*B1:B${height})`, sum],
        [`COUNTIF(A:A,"${wanted}")`, own.length],
        [`IFERROR(VLOOKUP("${wanted}",A1:B${height},2,FALSE),"none")`, own[0]?.value ?? "none"],
        [`XLOOKUP("${wanted}",A1:A${height},B1:B${height},"none",0,-1)`, own.at(-1)?.value ?? "none"],
        [`ROWS(UNIQUE(A1:A${height}))`, new Set(rows.map((row) => row.key)).size],
        [
          `MAX(B:B)-LARGE(B1:B${height},${height})`,
          Math.max(...rows.map((row) => row.value)) - Math.min(...rows.map((row) => row.value)),
        ],
        [`SUM(TAKE(SORT(B1:B${height}),1))`, Math.min(...rows.map((row) => row.value))],
      ];
      const { results } = calculate({
        values: [grid],
        formulas: cases.map(([source], at) => ({
          sheet: 0,
          row: at,
          column: 9,
          formula: compileFormula(source),
          stored: null,
          locate: ({ range }) => ({
            sheet: 0,
            top: range.top ?? 0,
            left: range.left ?? 0,
            bottom: range.bottom ?? 1_048_575,
            right: range.right ?? 16_383,
          }),
        })),
        name: () => undefined,
        now: 0,
      });
      expect(results.map(({ value }) => value)).toEqual(cases.map(([, expected]) => expected));
    });
  });
});

/** A template of other hands with formulas turned into array formulas, `free` ones with the metadata that marks them. */
async function withArrays(
  make: Parameters<typeof makeWorkbook>[0],
  formulas: Readonly<Record<string, { ref: string; free?: boolean }>>,
): Promise<Uint8Array> {
  const plain = OoxmlPackage.open(await makeWorkbook(make));
  const part = "xl/worksheets/sheet1.xml";
  let xml = plain.getText(part);
  for (const [cell, { ref, free }] of Object.entries(formulas))
    xml = xml.replace(
      new RegExp(`<c r="${cell}"([^>]*)><f>`),
      `<c r="${cell}"$1${free ? ' cm="1"' : ""}><f t="array" ref="${ref}">`,
    );
  return plain.with(new Map([[part, xml]])).toBytes();
}

describe("arrays in workbooks", () => {
  const lines = ["North", "South", "North", "East"].map((district, at) => ({ district, fee: (at + 1) * 10 }));
  const { scope, env } = record({ lines });

  it("take the room they need in the filled sheet, and what counts them sees it", async () => {
    const bytes = await withArrays(
      (_, sheet) => {
        sheet.addRow(["{{ line.district }}", "{{ line.fee }}"]);
        sheet.addRow([null, null, null, { formula: "_xlfn.UNIQUE(A1:A1)" }, { formula: "SUMIFS(B1:B1,A1:A1,D2)" }]);
        sheet.addRow([null, null, null, null, { formula: "ROWS(_xlfn.ANCHORARRAY(D2))" }]);
      },
      { D2: { ref: "D2", free: true } },
    );
    const filled = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
    expect(filled.findings).toEqual([]);
    const made = filled.package.toBytes();
    expect(problemsOf(made)).toEqual([]);
    const [sheet] = (await openElsewhere(made)).worksheets;
    expect([5, 6, 7].map((row) => shown(sheet, `D${row}`))).toEqual(["North", "South", "East"]);
    expect([formula(sheet, "E5"), shown(sheet, "E5"), shown(sheet, "E6")]).toEqual(["SUMIFS(B1:B4,A1:A4,D5)", 40, 3]);
    expect(filled.package.getText("xl/worksheets/sheet1.xml")).toContain(
      '<c r="D5" t="str" cm="1"><f t="array" ref="D5:D7">_xlfn.UNIQUE(A1:A4)</f><v>North</v></c>',
    );
    expect(recalculateWorkbook(made, "made.xlsx", 46_328).cells.every((cell) => cell.isSame)).toBe(true);
  });

  it("say so where they have no room, and shrink without leaving old values", async () => {
    const bytes = await withArrays(
      (_, sheet) => {
        sheet.addRow([1, { formula: "_xlfn.SEQUENCE(A1)" }, { formula: "_xlfn.SEQUENCE(2)" }]);
        sheet.addRow([null, 2]);
        sheet.addRow([null, 3, "in the way"]);
        sheet.getCell("C2").value = "in the way";
      },
      { B1: { ref: "B1:B3", free: true }, C1: { ref: "C1:C2", free: true } },
    );
    // C2 stands inside what C1 filled, so it counts as a value of that; C3 does not.
    const { package: made, cells } = recalculateWorkbook(bytes, "t.xlsx", 46_328);
    expect(made.getText("xl/worksheets/sheet1.xml")).not.toContain("<v>3</v>");
    expect(cells.map(({ cell, value }) => [cell, value])).toEqual([
      ["B1", 1],
      ["C1", 1],
    ]);
    const blocked = await withArrays(
      (_, sheet) => {
        sheet.addRow([{ formula: "_xlfn.SEQUENCE(3)" }, { formula: "A1" }]);
        sheet.addRow([]);
        sheet.addRow(["in the way"]);
      },
      { A1: { ref: "A1", free: true } },
    );
    const again = recalculateWorkbook(blocked, "t.xlsx", 46_328);
    expect(again.cells.map(({ value }) => value)).toEqual(["#SPILL!", "#SPILL!"]);
    expect(again.package.getText("xl/worksheets/sheet1.xml")).toContain('t="e" cm="1"><f t="array" ref="A1">');
  });

  it("fill exactly their cells where they are of the old kind", async () => {
    const bytes = await withArrays(
      (_, sheet) => {
        sheet.addRow([1, { formula: "A1:A2*10", result: 0 }]);
        sheet.addRow([2, 0]);
        sheet.addRow([{ formula: "SUM(B1:B3)" }, 0]);
      },
      { B1: { ref: "B1:B3" } },
    );
    const { package: made } = recalculateWorkbook(bytes, "t.xlsx", 46_328);
    const xml = made.getText("xl/worksheets/sheet1.xml");
    expect(xml).toContain('<f t="array" ref="B1:B3">A1:A2*10</f><v>10</v>');
    expect(xml).toContain('<c r="B2"><v>20</v></c>');
    expect(xml).toContain('<c r="B3" t="e"><v>#N/A</v></c>');
  });

  it("know tables by their headings, also while they grow", async () => {
    const bytes = await makeWorkbook((_, sheet) => {
      sheet.addTable({
        name: "Visits",
        ref: "A1",
        totalsRow: true,
        columns: [
          { name: "District", totalsRowLabel: "Total" },
          { name: "Fee", totalsRowFunction: "sum" },
          { name: "Tax" },
        ],
        rows: [["{{ line.district }}", "{{ line.fee }}", 0]],
      });
      sheet.getCell("C2").value = { formula: "Visits[[#This Row],[Fee]]*0.1" };
      sheet.getCell("B3").value = { formula: "SUBTOTAL(109,Visits[Fee])" };
      sheet.getCell("E1").value = { formula: "SUM(Visits[[Fee]:[Tax]])" };
      sheet.getCell("E2").value = { formula: 'SUMIFS(Visits[Fee],Visits[District],"North")' };
      sheet.getCell("F1").value = { formula: "COUNTA(Visits[#All])" };
      sheet.getCell("F2").value = { formula: "Visits[[#Totals],[Fee]]" };
      sheet.getCell("G1").value = { formula: "SUM(Visits[Nosuch])" };
    });
    const filled = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
    const [sheet] = (await openElsewhere(filled.package.toBytes())).worksheets;
    expect([2, 5].map((row) => shown(sheet, `C${row}`))).toEqual([1, 4]);
    expect(shown(sheet, "B6")).toBe(100);
    expect(["E1", "E2", "F1", "F2"].map((cell) => shown(sheet, cell))).toEqual([110, 40, 17, 100]);
    expect(shown(sheet, "G1")).toEqual({ error: "#REF!" });
  });
});
