/** Pivots of a filled workbook: where they stand, what they are made from, and that they are made anew (ECMA-376 part 1, 18.10). */
import { type OoxmlPackage, relationshipsName, type XmlElement } from "../../ooxml/index.js";
import { type CellRange, maybeRange, rangeName, sheetsNamedIn, type Workbook } from "../../spreadsheet/index.js";
import type { SheetMap } from "../fill/axis-map.js";
import { withHead } from "../fill/related-parts.js";
import { sourcePlace } from "./read-source.js";

const TYPES = "[Content_Types].xml";

/** Parts that change, by name; what others changed before is there already. */
type Parts = Map<string, Uint8Array | string | null>;

export interface PivotSite {
  readonly map: (sheet: string) => SheetMap | undefined;
  readonly renamed: ReadonlyMap<string, string>;
  /** Whether values of a sheet are others than the template's. */
  readonly isFilled: (sheet: string) => boolean;
}

/** A pivot whose source was filled: it still shows what the template does. */
export interface StalePivot {
  readonly name: string;
  readonly part: string;
  readonly cache: string;
  /** The sheet it stands on, by its name in the filled workbook. */
  readonly sheet: string;
}

/**
 * Areas move, sources grow; a pivot whose source was filled forgets the template's rows and is made anew when the file is opened.
 * Gives those pivots.
 */
export function movePivots(workbook: Workbook, site: PivotSite, parts: Parts): StalePivot[] {
  const found: StalePivot[] = [];
  const opened = workbook.package;
  const caches = opened
    .relationships(workbook.part)
    .filter((one) => one.type === "pivotCacheDefinition" && opened.has(one.target))
    .map((one) => one.target);
  const stale = new Set<string>();
  for (const cache of caches) if (moveCache(workbook, cache, site, parts)) stale.add(cache);
  for (const { name, part } of workbook.sheets)
    for (const { type, target } of opened.relationships(part)) {
      if (type !== "pivotTable" || !opened.has(target)) continue;
      const root = opened.getXml(target);
      const moved = moveArea(root, site.map(name));
      if (moved !== root) parts.set(target, withHead(opened, target, moved));
      const cache = opened.relationships(target).find((one) => stale.has(one.target))?.target;
      if (cache === undefined) continue;
      const sheet = site.renamed.get(name.toLowerCase()) ?? name;
      found.push({ name: root.attr("name") ?? "", part: target, cache, sheet });
    }
  return found;
}

function moveArea(root: XmlElement, map: SheetMap | undefined): XmlElement {
  const location = root.child("location");
  const range = maybeRange(location?.attr("ref") ?? "");
  if (!location || !range || !map) return root;
  const [top, left] = [map.rows.at(range.top), map.columns.at(range.left)];
  if (top === range.top && left === range.left) return root;
  // A pivot keeps its size: rows beside it that repeat are none of its own.
  const moved = { top, left, bottom: top + range.bottom - range.top, right: left + range.right - range.left };
  return root.withChildren(
    root.children.map((child) => (child === location ? location.withAttr("ref", rangeName(moved)) : child)),
  );
}

/** Whether what the cache was made from is filled. */
function moveCache(workbook: Workbook, part: string, site: PivotSite, parts: Parts): boolean {
  const opened = workbook.package;
  const root = opened.getXml(part);
  const source = root.child("cacheSource");
  const cells = source?.child("worksheetSource");
  // Another file's cells are not filled here.
  if (!source || !cells || [...cells.attributes].some(([name]) => name.endsWith(":id"))) return false;
  const sheet = cells.attr("sheet") ?? sheetOfSource(workbook, cells);
  const range = maybeRange(cells.attr("ref") ?? "");
  const map = sheet === undefined ? undefined : site.map(sheet);
  let moved = cells;
  if (range && map) moved = moved.withAttr("ref", rangeName(grown(range, map)));
  const renamed = sheet === undefined ? undefined : site.renamed.get(sheet.toLowerCase());
  if (renamed !== undefined && cells.attr("sheet") !== undefined) moved = moved.withAttr("sheet", renamed);
  const isStale = sheet === undefined || site.isFilled(sheet);
  if (moved === cells && !isStale) return false;
  let made = root.withChildren(
    root.children.map((child) =>
      child === source ? source.withChildren(source.children.map((inner) => (inner === cells ? moved : inner))) : child,
    ),
  );
  if (isStale) {
    made = made.withAttr("refreshOnLoad", "1").withAttr("saveData", "0").withAttr("recordCount", undefined);
    for (const [name] of root.attributes) if (name.endsWith(":id")) made = made.withAttr(name, undefined);
    dropRecords(opened, part, parts);
  }
  parts.set(part, withHead(opened, part, made));
  return isStale;
}

function grown({ top, left, bottom, right }: CellRange, map: SheetMap): CellRange {
  return {
    top: map.rows.at(top),
    left: map.columns.at(left),
    bottom: map.rows.last(bottom),
    right: map.columns.last(right),
  };
}

/** The sheet of a table or a name, also of one that is a formula; `undefined` where there is none. */
function sheetOfSource(workbook: Workbook, cells: XmlElement): string | undefined {
  const place = sourcePlace(workbook, cells);
  if (place) return place.sheet;
  const name = (cells.attr("name") ?? "").toLowerCase();
  const formula = workbook.names.find((one) => one.name.toLowerCase() === name)?.formula ?? "";
  const named = new Set(sheetsNamedIn(formula).map((one) => one.toLowerCase()));
  return workbook.sheets.find((one) => named.has(one.name.toLowerCase()))?.name;
}

/** The rows a cache holds are the template's sample, or somebody else's. */
function dropRecords(opened: OoxmlPackage, cache: string, parts: Parts): void {
  const list = relationshipsName(cache);
  for (const relation of opened.relationships(cache)) {
    if (relation.type !== "pivotCacheRecords" || !opened.has(relation.target)) continue;
    parts.set(relation.target, null);
    const without = (name: string, pattern: RegExp): void => {
      const text = parts.get(name) ?? opened.getText(name);
      parts.set(
        name,
        String(text).replace(/<(?:Relationship|Override)\b[^>]*\/>/g, (tag) => (pattern.test(tag) ? "" : tag)),
      );
    };
    without(list, new RegExp(`\\sId="${relation.id}"`));
    without(TYPES, new RegExp(`\\sPartName="/${relation.target.replace(/[.]/g, "\\.")}"`));
  }
}
