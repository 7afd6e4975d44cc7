import { WorkbookTemplate } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { type Draw, forAllSlow } from "../../support/for-all.js";
import { makeWorkbook, record } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

/** A sheet of rows, some of which repeat, with everything that names rows. Rows count from 1. */
interface Plan {
  readonly height: number;
  readonly repeated: ReadonlySet<number>;
  readonly lines: number;
}

function plan(pick: Draw): Plan {
  const height = 4 + pick(10);
  const repeated = new Set<number>();
  for (let count = pick(4); count >= 0; count--) repeated.add(1 + pick(height));
  return { height, repeated, lines: 1 + pick(5) };
}

/** The filled sheet as a clerk would write it: for each of its rows the template's. Adjoining repeated rows repeat together. */
function expand({ height, repeated, lines }: Plan): number[] {
  const out: number[] = [];
  for (let row = 1; row <= height; row++) {
    if (!repeated.has(row)) {
      out.push(row);
      continue;
    }
    let end = row;
    while (repeated.has(end + 1)) end++;
    for (let line = 0; line < lines; line++) for (let one = row; one <= end; one++) out.push(one);
    row = end;
  }
  return out;
}

const first = (out: readonly number[], row: number): number => out.indexOf(row) + 1;
const last = (out: readonly number[], row: number): number => out.lastIndexOf(row) + 1;

describe("what names rows, against a naive model", () => {
  it("moves as a clerk would move it, in 120 random sheets", async () => {
    await forAllSlow(120, async (pick) => {
      const some = <T>(list: readonly T[]): T => list[pick(list.length)];
      const made = plan(pick);
      const { height, repeated } = made;
      const out = expand(made);
      const plain = Array.from({ length: height }, (_, at) => at + 1).filter((row) => !repeated.has(row));
      if (plain.length === 0) return;
      const [a, b] = [1 + pick(height), 1 + pick(height)].sort((x, y) => x - y);
      const [note, total, other] = [some(plain), some(plain), some(plain)];
      const mergedRow = 1 + pick(height);
      const wide = some(plain);
      const bytes = await makeWorkbook((book, sheet) => {
        for (let row = 1; row <= height; row++) {
          sheet.getCell(row, 1).value = repeated.has(row) ? "{{ line.unit }}" : `row ${row}`;
          sheet.getCell(row, 2).value = repeated.has(row) ? "{{ line.fee }}" : row;
          sheet.getRow(row).height = 10 + row;
        }
        sheet.getCell(total, 3).value = { formula: `SUM(B${a}:B${b})`, result: 0 };
        sheet.getCell(other, 4).value = { formula: `$B$${a}+B${b}`, result: 0 };
        const far = book.addWorksheet("Far");
        far.getCell("A1").value = { formula: `COUNT('Sheet one'!B${a}:B${b})+ROWS('Sheet one'!B:B)`, result: 0 };
        sheet.mergeCells(mergedRow, 6, mergedRow, 7);
        sheet.addConditionalFormatting({
          ref: `B${a}:B${b}`,
          rules: [{ type: "expression", formulae: [`B${a}>$B$${wide}`], priority: 1, style: { font: { bold: true } } }],
        });
        sheet.getCell(note, 5).note = "a note";
        sheet.getCell(wide, 8).dataValidation = { type: "whole", operator: "greaterThan", formulae: [0] };
        sheet.pageSetup.printArea = `A${a}:E${b}`;
        book.definedNames.add(`'Sheet one'!$B$${a}:$B$${b}`, "Span");
      });
      const { scope, env } = record({
        lines: Array.from({ length: made.lines }, (_, at) => ({ unit: `L${at}`, fee: at })),
      });
      const { package: filled } = WorkbookTemplate.read(bytes, "t.xlsx").bind(scope).fill(env);
      expect(problemsOf(filled.toBytes()).filter((problem) => !problem.includes("legacyDrawing"))).toEqual([]);
      const xml = filled.getText("xl/worksheets/sheet1.xml");
      const why = JSON.stringify({ ...made, repeated: [...repeated], a, b });
      const span = `B${first(out, a)}:B${last(out, b)}`;
      expect(xml, why).toContain(`<f>SUM(${span})</f>`);
      expect(xml, why).toContain(`<f>$B$${first(out, a)}+B${first(out, b)}</f>`);
      expect(filled.getText("xl/worksheets/sheet2.xml"), why).toContain(`!${span})+ROWS('Sheet one'!B:B)</f>`);
      const heights = [...xml.matchAll(/<row r="(\d+)"[^>]*\sht="(\d+)"/g)].map((match) => Number(match[2]) - 10);
      expect(heights, why).toEqual(out);
      const merges = [...xml.matchAll(/<mergeCell ref="F(\d+):G\1"/g)].map((match) => Number(match[1]));
      expect(merges, why).toEqual(out.flatMap((row, at) => (row === mergedRow ? [at + 1] : [])));
      const single = span.replace(/^(B\d+):\1$/, "$1");
      expect(xml, why).toMatch(new RegExp(`conditionalFormatting sqref="(?:${span}|${single})"`));
      expect(xml, why).toContain(`&gt;$B$${first(out, wide)}</formula>`);
      expect(xml, why).toMatch(new RegExp(`<dataValidation [^>]*sqref="H${first(out, wide)}"`));
      expect(filled.getText("xl/comments1.xml"), why).toContain(`ref="E${first(out, note)}"`);
      const names = filled.getText("xl/workbook.xml");
      expect(names, why).toContain(`!$A${first(out, a)}:$E${last(out, b)}<`);
      // The writer of the template makes one cell of a range of one; over repeated rows it is a range again.
      const isOne = a === b && (!repeated.has(a) || made.lines === 1);
      expect(names, why).toContain(`!$B$${first(out, a)}${isOne ? "" : `:$B$${last(out, b)}`}<`);
      const model = out.map((row, at) => {
        if (!repeated.has(row)) return row;
        // Which line it is: how often this row of the template stood before.
        return out.slice(0, at).filter((one) => one === row).length;
      });
      const sum = model.slice(first(out, a) - 1, last(out, b)).reduce((all, value) => all + value, 0);
      expect(xml, why).toContain(`<f>SUM(${span})</f><v>${sum}</v>`);
    });
  });
});
