import { columnKey, type Finding } from "../../common/index.js";
import type { Env } from "../../expression/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { sheetsNamedIn } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { BoundFile } from "../make-file.js";

export function travels(where: string, what: string, advice: string): Finding {
  return { code: "rows-of-others", severity: "stop", where, what, advice };
}

/** What was left in a made workbook of sheets that hold rows of all groups. */
export function leftFindings({ name, showing, spec, sheets }: BoundFile, env: Env, source: OoxmlPackage): Finding[] {
  if (showing.length === 0 || !spec.values || !sheets) return [];
  const hidden = showing.flatMap((one) => (one.sheet ? [one.sheet.fill(env)] : []));
  const kept = new Set(sheets.map((sheet) => columnKey(sheet.fill(env))));
  const where = say().place.file({ name });
  const left = hidden.filter((sheet) => kept.has(columnKey(sheet)));
  const isHidden = new Set(hidden.map(columnKey));
  const drawn = source.names.filter(
    (part) =>
      /\/charts\/[^/]+\.xml$/.test(part) &&
      source
        .readXml(part)
        .descendants("f")
        .some((formula) => sheetsNamedIn(formula.text).some((sheet) => isHidden.has(columnKey(sheet)))),
  );
  return [
    ...left.map((sheet) =>
      travels(where, say().run.sheetHoldsRowsAllGroups({ sheet }), say().run.nameUnderSheetsOnlyThose()),
    ),
    ...(drawn.length > 0
      ? [travels(where, say().run.chartDrawsCellsSheetRows(), say().run.letChartDrawCellsSheet())]
      : []),
  ];
}
