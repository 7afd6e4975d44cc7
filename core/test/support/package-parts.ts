/** Parts put into a workbook by their markup, for what no writer of tests makes. */
import { OoxmlPackage, relationshipsName } from "@corbix/core/ooxml";
import { type Workbook, workbookFromPackage } from "@corbix/core/spreadsheet";
import type ExcelJS from "exceljs";
import { makeWorkbook } from "./helpers.js";

export const OFFICE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

export type Relations = readonly (readonly [id: string, type: string, target: string])[];

export function relationsPart(relations: Relations): string {
  const list = relations.map(
    ([id, type, target]) => `<Relationship Id="${id}" Type="${OFFICE}/${type}" Target="${target}"/>`,
  );
  return `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${list.join("")}</Relationships>`;
}

export interface AddedParts {
  readonly parts?: Readonly<Record<string, string | Uint8Array>>;
  /** Relationships of parts, by those. */
  readonly relations?: Readonly<Record<string, Relations>>;
  /** Elements before the end of the first sheet. */
  readonly onSheet?: string;
  readonly fill?: (sheet: ExcelJS.Worksheet, book: ExcelJS.Workbook) => void;
}

/** A workbook whose first sheet is `xl/worksheets/sheet1.xml`, with further parts. */
export async function workbookWith({ parts = {}, relations = {}, onSheet = "", fill }: AddedParts): Promise<Workbook> {
  const plain = OoxmlPackage.open(
    await makeWorkbook((book, sheet) => {
      sheet.getCell("A1").value = "Site";
      fill?.(sheet, book);
    }),
  );
  const [{ part }] = workbookFromPackage(plain).sheets;
  const changes = new Map<string, string | Uint8Array>(Object.entries(parts));
  for (const [owner, list] of Object.entries(relations)) changes.set(relationshipsName(owner), relationsPart(list));
  if (onSheet !== "")
    changes.set(
      part,
      plain
        .getText(part)
        .replace(/<worksheet\b/, `<worksheet xmlns:rel="${OFFICE}"`)
        .replace("</worksheet>", `${onSheet}</worksheet>`),
    );
  return workbookFromPackage(plain.with(changes));
}
