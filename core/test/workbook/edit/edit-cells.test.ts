import { parseXml } from "@corbix/core/ooxml";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { asFormula, asText, type CellChange, changeCells } from "../../../src/workbook/edit/edit-cells.js";

const root = (rows: string) =>
  parseXml(`<worksheet><cols/><sheetData>${rows}</sheetData><mergeCells/></worksheet>`, "x").root;
const changes = (list: readonly (readonly [row: number, column: number, change: CellChange])[]) => {
  const found = new Map<number, Map<number, CellChange>>();
  for (const [row, column, change] of list) found.set(row, (found.get(row) ?? new Map()).set(column, change));
  return found;
};

describe("changed cells", () => {
  it("stand in order among those that were there, in new rows too", () => {
    const changed = changeCells(
      root('<row r="2" spans="1:2"><c r="B2"><v>1</v></c></row><row r="5"/>'),
      changes([
        [1, 3, asText("right")],
        [1, 0, asText("left")],
        [2, 0, asText("new")],
      ]),
    );
    expect(
      changed
        .child("sheetData")
        ?.elements("row")
        .map((row) => [row.attr("r"), row.elements("c").map((cell) => cell.attr("r"))]),
    ).toEqual([
      ["2", ["A2", "B2", "D2"]],
      ["3", ["A3"]],
      ["5", []],
    ]);
    // What rows span is optional, and would be wrong.
    expect(changed.child("sheetData")?.elements("row")[0].attr("spans")).toBeUndefined();
    expect(changed.elements().map(({ local }) => local)).toEqual(["cols", "sheetData", "mergeCells"]);
  });

  it("are found where rows and cells do not say where they stand", () => {
    const changed = changeCells(
      root("<row><c><v>1</v></c></row><row><c><v>2</v></c><c><v>3</v></c></row>"),
      changes([[1, 1, () => undefined]]),
    );
    expect(
      changed
        .child("sheetData")
        ?.elements("row")
        .map((row) => row.elements("c").map((cell) => cell.text)),
    ).toEqual([["1"], ["2"]]);
  });

  it("keep the look of the cell unless they have their own, and texts as they are", () => {
    const cell = (change: CellChange) =>
      changeCells(root('<row r="1"><c r="A1" s="7" t="s"><v>3</v></c></row>'), changes([[0, 0, change]])).descendants(
        "c",
      )[0];
    const text = cell(asText(" <Dock> & Quay "));
    expect([text.attr("s"), text.attr("t"), text.text]).toEqual(["7", "inlineStr", " <Dock> & Quay "]);
    expect(text.toString()).toContain('xml:space="preserve"');
    const blank = cell(asText("", 9));
    expect([blank.attr("s"), blank.attr("t"), blank.elements()]).toEqual(["9", undefined, []]);
    const formula = cell(asFormula('IF(A1<2,"a","b")'));
    expect([formula.attr("s"), formula.attr("t"), formula.child("f")?.text, formula.child("v")]).toEqual([
      "7",
      undefined,
      'IF(A1<2,"a","b")',
      undefined,
    ]);
  });

  it("leave all others as they were", () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }));
    fc.assert(
      fc.property(fc.uniqueArray(place, { selector: String }), fc.array(place), (filled, touched) => {
        const rows = [...new Set(filled.map(([row]) => row))].sort((a, b) => a - b);
        const xml = rows
          .map((row) => {
            const own = filled
              .filter(([at]) => at === row)
              .map(([, column]) => column)
              .sort((a, b) => a - b);
            return `<row r="${row + 1}">${own.map((column) => `<c r="${"ABCDEFG"[column]}${row + 1}"><v>${row}${column}</v></c>`).join("")}</row>`;
          })
          .join("");
        const changed = changeCells(
          root(xml),
          changes(touched.map(([row, column]) => [row, column, asText("x")] as const)),
        );
        const found = changed.descendants("c").map((cell) => `${cell.attr("r")} ${cell.text}`);
        const isTouched = new Set(touched.map(String));
        const kept = filled.filter((one) => !isTouched.has(String(one)));
        const name = ([row, column]: readonly number[]) => `${"ABCDEFG"[column]}${row + 1}`;
        expect(new Set(found)).toEqual(
          new Set([...kept.map((one) => `${name(one)} ${one[0]}${one[1]}`), ...touched.map((one) => `${name(one)} x`)]),
        );
      }),
    );
  });
});
