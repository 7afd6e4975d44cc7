import { CorbixError } from "@corbix/core/common";
import { type LoadOptions, loadTable } from "@corbix/core/table";
import ExcelJS from "exceljs";
import { describe, expect, it } from "vitest";
import { BODIES, HEADERLESS, HEADERS, TOPS } from "./tables/headers.js";

const load = (lines: readonly string[], options: LoadOptions = {}) =>
  loadTable(Buffer.from(`${lines.map((line) => line.replaceAll("|", ";")).join("\n")}\n`), "file.csv", options);
const namesOf = (loaded: ReturnType<typeof loadTable>) => loaded.table.columns.map((column) => column.name);
const codesOf = (loaded: ReturnType<typeof loadTable>) => loaded.findings.map((finding) => finding.code);

async function bookOf(lines: readonly string[], change?: (sheet: ExcelJS.Worksheet) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("Visits");
  lines.forEach((line, row) => {
    line.split("|").forEach((text, column) => {
      if (text === "") return;
      sheet.getCell(row + 1, column + 1).value = /^\d+(\.\d+)?$/.test(text) && !/^0\d/.test(text) ? Number(text) : text;
    });
  });
  change?.(sheet);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

describe("headers of files nobody here has seen", () => {
  it.each(HEADERS.map((one) => [one.what, one] as const))("%s", (_, { lines, header, names, rows, told = [] }) => {
    const loaded = load(lines);
    expect(namesOf(loaded)).toEqual(names);
    expect(loaded.headerRow).toBe(header);
    expect(loaded.table.rowCount).toBe(rows);
    expect(codesOf(loaded)).toEqual(expect.arrayContaining([...told]));
    if (!told.includes("header-unsure")) expect(codesOf(loaded)).not.toContain("header-unsure");
  });

  it.each(HEADERS.map((one) => [one.what, one] as const))(
    "in a workbook: %s",
    async (_, { lines, header, names, rows }) => {
      const loaded = loadTable(await bookOf(lines), "file.xlsx");
      expect(namesOf(loaded)).toEqual(names);
      expect(loaded.headerRow).toBe(header);
      expect(loaded.table.rowCount).toBe(rows);
    },
  );

  const made = BODIES.flatMap(({ names, rows }) =>
    TOPS.map((top) => [`${top.join(" / ") || "nothing"} above ${names.join(", ")}`, top, names, rows] as const),
  );
  it.each(made)("%s", (_, top, names, rows) => {
    const loaded = load([...top, names.join("|"), ...rows]);
    expect(namesOf(loaded)).toEqual(names);
    expect(loaded.headerRow).toBe(top.length + 1);
    expect(loaded.table.rowCount).toBe(rows.length);
  });

  it.each(HEADERLESS.map((one) => [one.what, one.lines] as const))("has none, and is told so: %s", (_, lines) => {
    const failure = (() => {
      try {
        return namesOf(load(lines)).join();
      } catch (error) {
        return error;
      }
    })();
    expect(failure).toBeInstanceOf(CorbixError);
    expect((failure as CorbixError).advice).toContain("the header is none");
    const width = lines[0].split("|").length;
    const names = ["One", "Two", "Three", "Four"].slice(0, width);
    const loaded = load(lines, { header: "none", names });
    expect(namesOf(loaded)).toEqual(names);
    expect(loaded.table.rowCount).toBe(lines.length);
    expect(loaded.table.rowNumbers[0]).toBe(1);
    expect(namesOf(load(lines, { header: "none" }))[0]).toBe("Column A");
  });
});
