/** What an OpenDocument spreadsheet says of its own about the tables of its sheets (ODF 1.3 part 3, 9.1 to 9.6). */
import { type OoxmlPackage, unescapeXml } from "../../ooxml/index.js";
import { type CellRange, maybeRange } from "../../spreadsheet/index.js";
import type { HeaderHint } from "../formats/raw-sheet.js";
import type { DefinedTable } from "./sheet-signs.js";

/** A range with the sheet it lies in. */
export interface RangeOfSheet {
  readonly sheet: string;
  readonly range: CellRange;
}

/** A named range or database range. */
export interface NamedOdsRange extends RangeOfSheet {
  readonly name: string;
}

/** What is told of one sheet. */
export interface OdsSigns {
  readonly tables: readonly DefinedTable[];
  /** Where summaries (data pilot tables, 9.6.3) lie. */
  readonly summaries: readonly CellRange[];
  readonly hints: readonly HeaderHint[];
}

/** `$Visits.$A$4:.$H$40`, `$'Old visits'.A4:'Old visits'.H40` (9.2.1 of part 4); nothing where it is no such address. */
export function readOdsRange(address: string): RangeOfSheet | undefined {
  const parts =
    /^\$?(?:'((?:[^']|'')*)'|([^'.]+))\.\$?([A-Z]+)\$?(\d+)(?::(?:\$?(?:'(?:[^']|'')*'|[^'.]*)\.)?\$?([A-Z]+)\$?(\d+))?$/.exec(
      address.trim(),
    );
  const range = parts && maybeRange(`${parts[3]}${parts[4]}:${parts[5] ?? parts[3]}${parts[6] ?? parts[4]}`);
  return range ? { sheet: parts[1]?.replaceAll("''", "'") ?? parts[2], range } : undefined;
}

/** Named ranges and database ranges; those a filter made without a name are none. */
export function namedOdsRanges(content: string): NamedOdsRange[] {
  return elements(content, "named-range|database-range").flatMap((attributes): NamedOdsRange[] => {
    const name = attribute(attributes, "table:name") ?? "";
    const address =
      attribute(attributes, "table:cell-range-address") ?? attribute(attributes, "table:target-range-address");
    const found = readOdsRange(address ?? "");
    return found && !isAnonymous(name) ? [{ name, ...found }] : [];
  });
}

/** `rows` are those, 1-based, that the sheet repeats on each printed page. */
export function odsSigns(content: string, opened: OoxmlPackage): (sheet: string, rows: readonly number[]) => OdsSigns {
  const databases = elements(content, "database-range").flatMap((attributes) => {
    const found = readOdsRange(attribute(attributes, "table:target-range-address") ?? "");
    return found ? [{ attributes, ...found }] : [];
  });
  const pilots = elements(content, "data-pilot-table")
    .map((attributes) => readOdsRange(attribute(attributes, "table:target-range-address") ?? ""))
    .filter((found) => found !== undefined);
  const frozen = frozenRows(opened);
  return (sheet, rows) => {
    const own = databases.filter((one) => one.sheet === sheet);
    const hints: HeaderHint[] = rows.map((row) => ({ row, kind: "print titles" }));
    const frozenRow = frozen.get(sheet);
    if (frozenRow !== undefined) hints.push({ row: frozenRow, kind: "frozen panes" });
    const tables: DefinedTable[] = [];
    for (const { attributes, range } of own) {
      const hasHeader = attribute(attributes, "table:contains-header") !== "false";
      if (hasHeader && attribute(attributes, "table:display-filter-buttons") === "true")
        hints.push({ row: range.top + 1, kind: "filter" });
      const name = attribute(attributes, "table:name") ?? "";
      const isByColumn = attribute(attributes, "table:orientation") === "column";
      if (!isAnonymous(name) && !isByColumn) tables.push({ name, range, names: hasHeader ? undefined : [] });
    }
    return { hints, tables, summaries: pilots.filter((one) => one.sheet === sheet).map((one) => one.range) };
  };
}

/** A range that stands for a filter only. */
function isAnonymous(name: string): boolean {
  return name === "" || name.startsWith("__");
}

function elements(content: string, names: string): string[] {
  return [...content.matchAll(new RegExp(`<table:(?:${names})\\s((?:[^>"]|"[^"]*")*)>`, "g"))].map((match) => match[1]);
}

function attribute(attributes: string, name: string): string | undefined {
  const found = new RegExp(`(?:^|\\s)${name}="([^"]*)"`).exec(attributes)?.[1];
  return found === undefined ? undefined : unescapeXml(found);
}

/** By sheet the last row, 1-based, that stays where it is when the sheet is scrolled: a split of mode 2 in the file's settings. */
function frozenRows(opened: OoxmlPackage): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  if (!opened.has("settings.xml")) return found;
  const entries =
    /<config:config-item-map-entry\s[^>]*config:name="([^"]*)"[^>]*>([\s\S]*?)<\/config:config-item-map-entry>/g;
  for (const [, name, items] of opened.getText("settings.xml").matchAll(entries)) {
    const item = (key: string): number =>
      Number(new RegExp(`config:name="${key}"[^>]*>(\\d+)<`).exec(items)?.[1] ?? Number.NaN);
    const rows = item("VerticalSplitPosition");
    if (item("VerticalSplitMode") === 2 && rows > 0) found.set(unescapeXml(name), rows);
  }
  return found;
}
