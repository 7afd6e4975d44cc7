/** A first sheet that leads to all others, with their control totals. */
import { escapeXml, OFFICE_RELATIONS, type OoxmlPackage, relationshipsName } from "../../ooxml/index.js";
import { columnLetters, workbookFromPackage } from "../../spreadsheet/index.js";
import { StyleEditor } from "../edit/style-editor.js";
import { withHead } from "../fill/related-parts.js";

export interface ContentsRow {
  readonly name: string;
  readonly lines: number;
  readonly totals: readonly (number | string)[];
}

export interface Contents {
  readonly sheet: string;
  readonly title: string | undefined;
  /** Names of the totals. */
  readonly heads: readonly string[];
  readonly rows: readonly ContentsRow[];
  /** The same over all lines, to put beside the sum of the sheets. */
  readonly whole: ContentsRow;
}

const MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main";
const SHEET_TYPE = "application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml";
const TYPES = "[Content_Types].xml";
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';

/** The workbook with a contents sheet before all others. */
export function addContents(opened: OoxmlPackage, contents: Contents): OoxmlPackage {
  const workbook = workbookFromPackage(opened);
  const number = Math.max(0, ...opened.names.map((name) => Number(/\/sheet(\d+)\.xml$/.exec(name)?.[1] ?? 0))) + 1;
  const target = `xl/worksheets/sheet${number}.xml`;
  const stylesPart = opened.relationships(workbook.part).find(({ type }) => type === "styles")?.target;
  const editor = stylesPart ? new StyleEditor(opened.getXml(stylesPart)) : undefined;
  const look = (want: Parameters<StyleEditor["withLook"]>[0]): number => editor?.withLook(want) ?? 0;
  const styles = {
    title: look({ bold: true, size: 14 }),
    head: look({ bold: true, rule: "bottom" }),
    headRight: look({ bold: true, rule: "bottom", right: true }),
    link: look({ underline: true, color: "1F4E79" }),
    count: look({ code: "#,##0" }),
    number: look({ code: "#,##0.00" }),
    sum: look({ bold: true, rule: "top" }),
    sumCount: look({ bold: true, rule: "top", code: "#,##0" }),
    sumNumber: look({ bold: true, rule: "top", code: "#,##0.00" }),
  };
  const parts = new Map<string, string>([
    [target, sheetPart(contents, styles)],
    [workbook.part, workbookPart(opened.getText(workbook.part), contents.sheet)],
    [
      relationshipsName(workbook.part),
      opened
        .getText(relationshipsName(workbook.part))
        .replace(
          /<\/(?:\w+:)?Relationships>/,
          (end) => `<Relationship Id="rIdContents" Type="${OFFICE_RELATIONS}/worksheet" Target="/${target}"/>${end}`,
        ),
    ],
    [
      TYPES,
      opened
        .getText(TYPES)
        .replace(/<\/(?:\w+:)?Types>/, (end) => `<Override PartName="/${target}" ContentType="${SHEET_TYPE}"/>${end}`),
    ],
  ]);
  const styled = editor?.finish();
  if (styled && stylesPart) parts.set(stylesPart, withHead(opened, stylesPart, styled));
  return opened.with(parts);
}

function workbookPart(source: string, name: string): string {
  const highest = Math.max(...[...source.matchAll(/\ssheetId="(\d+)"/g)].map((match) => Number(match[1])));
  const relation = /\s(\w+):id="/.exec(source)?.[1] ?? "r";
  return source
    .replace(
      /<((?:\w+:)?)sheets(?:\s[^>]*)?>/,
      (open, prefix: string) =>
        `${open}<${prefix}sheet name="${escapeXml(name)}" sheetId="${highest + 1}" ${relation}:id="rIdContents"/>`,
    )
    .replace(/\slocalSheetId="(\d+)"/g, (_, index: string) => ` localSheetId="${Number(index) + 1}"`)
    .replace(/\s(activeTab|firstSheet)="\d+"/g, "");
}

type Styles = Readonly<
  Record<"title" | "head" | "headRight" | "link" | "count" | "number" | "sum" | "sumCount" | "sumNumber", number>
>;

function sheetPart({ title, heads, rows, whole }: Contents, styles: Styles): string {
  const text = (at: string, style: number, value: string): string =>
    `<c r="${at}" s="${style}" t="inlineStr"><is><t xml:space="preserve">${escapeXml(value)}</t></is></c>`;
  const number = (at: string, style: number, value: number | string): string =>
    typeof value === "number" ? `<c r="${at}" s="${style}"><v>${value}</v></c>` : text(at, style, value);
  const isCount = (column: number): boolean =>
    [...rows, whole].every((row) => typeof row.totals[column] === "number" && Number.isInteger(row.totals[column]));
  const written: string[] = [];
  let row = 1;
  if (title !== undefined) {
    written.push(`<row r="1">${text("A1", styles.title, title)}</row>`);
    row = 3;
  }
  const headRow = row;
  const columns = ["Sheet", "Rows", ...heads];
  written.push(
    `<row r="${row}">${columns.map((head, at) => text(`${columnLetters(at)}${row}`, at === 0 ? styles.head : styles.headRight, head)).join("")}</row>`,
  );
  const first = row + 1;
  const links: string[] = [];
  for (const one of rows) {
    row++;
    const totals = one.totals.map((value, at) =>
      number(`${columnLetters(at + 2)}${row}`, isCount(at) ? styles.count : styles.number, value),
    );
    written.push(
      `<row r="${row}">${text(`A${row}`, styles.link, one.name)}${number(`B${row}`, styles.count, one.lines)}${totals.join("")}</row>`,
    );
    const location = `'${one.name.replaceAll("'", "''")}'!A1`;
    links.push(`<hyperlink ref="A${row}" location="${escapeXml(location)}" display="${escapeXml(one.name)}"/>`);
  }
  const last = Math.max(row, first);
  const sum = (column: number, values: readonly (number | string)[], style: number): string => {
    const letters = columnLetters(column);
    const numbers = values.filter((value) => typeof value === "number");
    if (values.length === 0) return number(`${letters}${row}`, style, 0);
    if (numbers.length < values.length) return `<c r="${letters}${row}" s="${style}"/>`;
    const total = numbers.reduce((all, value) => all + value, 0);
    return `<c r="${letters}${row}" s="${style}"><f>SUM(${letters}${first}:${letters}${last})</f><v>${Number(total.toPrecision(15))}</v></c>`;
  };
  row++;
  const sums = heads.map((_, at) =>
    sum(
      at + 2,
      rows.map((one) => one.totals[at]),
      isCount(at) ? styles.sumCount : styles.sumNumber,
    ),
  );
  written.push(
    `<row r="${row}">${text(`A${row}`, styles.sum, "All sheets")}${sum(
      1,
      rows.map((one) => one.lines),
      styles.sumCount,
    )}${sums.join("")}</row>`,
  );
  row++;
  const control = whole.totals.map((value, at) =>
    number(`${columnLetters(at + 2)}${row}`, isCount(at) ? styles.count : styles.number, value),
  );
  written.push(
    `<row r="${row}">${text(`A${row}`, 0, "In the data")}${number(`B${row}`, styles.count, whole.lines)}${control.join("")}</row>`,
  );
  const widest = Math.min(50, Math.max(14, ...rows.map((one) => one.name.length)));
  const others = columns.slice(2).map((head) => Math.max(14, head.length + 3));
  const widths = [widest + 3, 9, ...others]
    .map((width, at) => `<col min="${at + 1}" max="${at + 1}" width="${width}" customWidth="1"/>`)
    .join("");
  const hyperlinks = links.length > 0 ? `<hyperlinks>${links.join("")}</hyperlinks>` : "";
  return `${HEAD}<worksheet xmlns="${MAIN}" xmlns:r="${OFFICE_RELATIONS}"><sheetPr><pageSetUpPr fitToPage="1"/></sheetPr><sheetViews><sheetView workbookViewId="0"><pane ySplit="${headRow}" topLeftCell="A${first}" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews><sheetFormatPr defaultRowHeight="15"/><cols>${widths}</cols><sheetData>${written.join("")}</sheetData>${hyperlinks}<pageMargins left="0.7" right="0.7" top="0.75" bottom="0.75" header="0.3" footer="0.3"/><pageSetup paperSize="9" fitToHeight="0"/></worksheet>`;
}
