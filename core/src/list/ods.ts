/** An OpenDocument spreadsheet (ISO/IEC 26300) of the lines: one table, headings that stay in sight, values of their own type. */
import { bytesFromText, isoFromSerial } from "../common/index.js";
import type { Env } from "../expression/index.js";
import { deflateEntry, escapeXml, storedEntry, writeZip } from "../ooxml/index.js";
import type { Cell } from "../table/index.js";
import { type ListColumn, plainNumber, plainText, readableText, rowsOf, type ShownLines } from "./columns.js";
import type { WrittenText } from "./delimited.js";

const MEDIA_TYPE = "application/vnd.oasis.opendocument.spreadsheet";
const SPACES = [
  'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"',
  'xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"',
  'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"',
  'xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0"',
  'xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0"',
  'xmlns:number="urn:oasis:names:tc:opendocument:xmlns:datastyle:1.0"',
  'xmlns:config="urn:oasis:names:tc:opendocument:xmlns:config:1.0"',
  'office:version="1.3"',
].join(" ");
const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';
const WIDEST = 60;
const NARROWEST = 6;
/** Width of a sign of the usual font, in centimetres. */
const SIGN_CM = 0.2;

export function writeOds(shown: ShownLines, env: Env, sheet: string): WrittenText {
  const { columns } = shown;
  const widths = columns.map(({ heading }) => [...heading].length);
  const rows: string[] = [];
  const text: string[] = [columns.map(({ heading }) => heading).join("\t")];
  for (const { cells } of rowsOf(shown, env)) {
    const shownCells = cells.map((value, at) => readableText(value, columns[at], env.locale));
    for (const [at, one] of shownCells.entries()) widths[at] = Math.max(widths[at], [...one].length);
    rows.push(
      `<table:table-row>${cells.map((value, at) => cellXml(value, columns[at], shownCells[at], at)).join("")}</table:table-row>`,
    );
    text.push(shownCells.join("\t"));
  }
  const name = sheet.replace(/[\\/?*[\]:']/g, "-").slice(0, 31);
  const styles = columns.map((column, at) => columnStyles(column, at, widths[at])).join("");
  const head = columns
    .map(
      ({ heading }) =>
        `<table:table-cell table:style-name="head" office:value-type="string">${paragraphs(heading)}</table:table-cell>`,
    )
    .join("");
  const content = `${HEAD}<office:document-content ${SPACES}><office:automatic-styles><style:style style:name="head" style:family="table-cell"><style:table-cell-properties fo:background-color="#2f6b57"/><style:text-properties fo:color="#ffffff" fo:font-weight="bold"/></style:style>${styles}</office:automatic-styles><office:body><office:spreadsheet><table:table table:name="${escapeXml(name)}">${columns.map((_, at) => `<table:table-column table:style-name="co${at}" table:default-cell-style-name="ce${at}"/>`).join("")}<table:table-header-rows><table:table-row>${head}</table:table-row></table:table-header-rows>${rows.join("")}</table:table><table:database-ranges><table:database-range table:name="lines" table:target-range-address="${escapeXml(rangeAddress(name, columns.length, rows.length + 1))}" table:display-filter-buttons="true"/></table:database-ranges></office:spreadsheet></office:body></office:document-content>`;
  const settings = `${HEAD}<office:document-settings ${SPACES}><office:settings><config:config-item-set config:name="ooo:view-settings"><config:config-item-map-indexed config:name="Views"><config:config-item-map-entry><config:config-item-map-named config:name="Tables"><config:config-item-map-entry config:name="${escapeXml(name)}"><config:config-item config:name="VerticalSplitMode" config:type="short">2</config:config-item><config:config-item config:name="VerticalSplitPosition" config:type="int">1</config:config-item><config:config-item config:name="PositionBottom" config:type="int">1</config:config-item></config:config-item-map-entry></config:config-item-map-named></config:config-item-map-entry></config:config-item-map-indexed></config:config-item-set></office:settings></office:document-settings>`;
  const manifest = `${HEAD}<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.3"><manifest:file-entry manifest:full-path="/" manifest:version="1.3" manifest:media-type="${MEDIA_TYPE}"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/><manifest:file-entry manifest:full-path="settings.xml" manifest:media-type="text/xml"/></manifest:manifest>`;
  const bytes = writeZip([
    // The media type comes first and as it is, so that a file tells what it is by its first bytes.
    storedEntry("mimetype", bytesFromText(MEDIA_TYPE)),
    deflateEntry("content.xml", bytesFromText(content)),
    deflateEntry("settings.xml", bytesFromText(settings)),
    deflateEntry("META-INF/manifest.xml", bytesFromText(manifest)),
  ]);
  return { bytes, text: text.join("\n"), findings: [] };
}

function rangeAddress(sheet: string, columns: number, rows: number): string {
  const letters = (index: number): string =>
    (index >= 26 ? letters(Math.floor(index / 26) - 1) : "") + String.fromCharCode(65 + (index % 26));
  const quoted = `'${sheet.replaceAll("'", "''")}'`;
  return `${quoted}.A1:${quoted}.${letters(Math.max(columns - 1, 0))}${rows}`;
}

function cellXml(value: Cell, column: ListColumn, shown: string, at: number): string {
  if (value === null) return "<table:table-cell/>";
  const style = ` table:style-name="ce${at}"`;
  if (typeof value === "boolean")
    return `<table:table-cell office:value-type="boolean" office:boolean-value="${value}">${paragraphs(shown)}</table:table-cell>`;
  if (typeof value === "string")
    return `<table:table-cell office:value-type="string">${paragraphs(value)}</table:table-cell>`;
  const { type } = column.info;
  if (type === "date" || type === "datetime")
    return `<table:table-cell${style} office:value-type="date" office:date-value="${isoFromSerial(type === "date" ? Math.floor(value) : value)}">${paragraphs(shown)}</table:table-cell>`;
  if (type === "time") {
    const [hours, minutes, seconds] = plainText(value, { info: column.info }, { locale: "en", decimal: "." }).split(
      ":",
    );
    return `<table:table-cell${style} office:value-type="time" office:time-value="PT${hours}H${minutes}M${seconds}S">${paragraphs(shown)}</table:table-cell>`;
  }
  return `<table:table-cell${style} office:value-type="float" office:value="${plainNumber(value)}">${paragraphs(shown)}</table:table-cell>`;
}

/** Lines of a text are paragraphs, and blanks in a row are counted (6.1.3). */
function paragraphs(text: string): string {
  return text
    .split(/\r\n?|\n/)
    .map((line) => {
      const spaced = escapeXml(line)
        .replace(/\t/g, "<text:tab/>")
        .replace(/(^ | {2,})/g, (blanks) => `<text:s text:c="${blanks.length}"/>`);
      return `<text:p>${spaced}</text:p>`;
    })
    .join("");
}

function columnStyles({ info, format }: ListColumn, at: number, signs: number): string {
  const width = Math.min(Math.max(signs, NARROWEST), WIDEST) * SIGN_CM + 0.4;
  const column = `<style:style style:name="co${at}" style:family="table-column"><style:table-column-properties style:column-width="${width.toFixed(2)}cm"/></style:style>`;
  const data = dataStyle(info.type, format, at);
  return `${data}${column}<style:style style:name="ce${at}" style:family="table-cell"${data === "" ? "" : ` style:data-style-name="n${at}"`}/>`;
}

function dataStyle(type: string, format: string | undefined, at: number): string {
  const day =
    '<number:day number:style="long"/><number:text>/</number:text><number:month number:style="long"/><number:text>/</number:text><number:year number:style="long"/>';
  const clock = '<number:hours number:style="long"/><number:text>:</number:text><number:minutes number:style="long"/>';
  if (type === "date") return `<number:date-style style:name="n${at}">${day}</number:date-style>`;
  if (type === "datetime")
    return `<number:date-style style:name="n${at}">${day}<number:text> </number:text>${clock}</number:date-style>`;
  if (type === "time") return `<number:time-style style:name="n${at}">${clock}</number:time-style>`;
  const code = format?.split(";")[0] ?? "";
  const places = /\.(0+)/.exec(code)?.[1]?.length;
  if (type !== "number" || !/[0#]/.test(code)) return "";
  const grouping = code.includes(",") ? ' number:grouping="true"' : "";
  const percent = code.includes("%");
  const number = `<number:number number:decimal-places="${places ?? 0}" number:min-decimal-places="${places ?? 0}" number:min-integer-digits="1"${grouping}/>`;
  return percent
    ? `<number:percentage-style style:name="n${at}">${number}<number:text>%</number:text></number:percentage-style>`
    : `<number:number-style style:name="n${at}">${number}</number:number-style>`;
}
