/** A pivot's definition as it is computed from: ECMA-376 part 1, 18.10. */

import { maybeSerialFromIso } from "../../common/index.js";
import { CellError, type Scalar } from "../../formula/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import { type CellRange, isTrue, maybeRange } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { itemKey } from "./items.js";
import { SUMMARIES, type SummaryKind } from "./summary.js";

/** A pivot, or its source, holds something that is not computed here; the message says what, as the end of a sentence. */
export class NotComputed extends Error {}

/** An item that the file knows: what it says of one value of a field. */
export interface KnownItem {
  readonly key: string;
  readonly isHidden: boolean;
  readonly isCollapsed: boolean;
  readonly caption: string | undefined;
}

/** A field of the source as the pivot uses it. */
export interface PivotField {
  /** Its place among the source's columns. */
  readonly index: number;
  readonly isCompact: boolean;
  readonly isOutline: boolean;
  readonly hasSubtotal: boolean;
  readonly isSubtotalOnTop: boolean;
  readonly repeatsLabels: boolean;
  readonly sort: "manual" | "ascending" | "descending";
  /** The data field, by its place, whose values give the order. */
  readonly sortBy: number | undefined;
  /** Values that the file does not know yet are hidden where others are. */
  readonly hidesNew: boolean;
  /** Items in the order of the file; none where the field has no list. */
  readonly known: readonly KnownItem[] | undefined;
}

export interface DataField {
  readonly index: number;
  readonly name: string;
  readonly summary: SummaryKind;
  readonly share: "none" | "row" | "column" | "all";
}

/** Rows or columns of a pivot as the file lists them: what kind of line, and how many fields deep. */
export interface LineRole {
  readonly kind: "item" | "subtotal" | "grand";
  readonly depth: number;
  readonly data: number;
}

export interface Pivot {
  readonly name: string;
  readonly area: CellRange;
  readonly headRows: number;
  readonly labelColumns: number;
  /** One a column of the source. */
  readonly fields: readonly PivotField[];
  readonly rows: readonly PivotField[];
  readonly columns: readonly PivotField[];
  readonly data: readonly DataField[];
  /** Fields that choose one value for the whole pivot, with the key of that value. */
  readonly chosen: readonly { readonly index: number; readonly key: string }[];
  readonly hasGrandRow: boolean;
  readonly hasGrandColumn: boolean;
  readonly grandCaption: string | undefined;
  /** Fields above the pivot, in which more than one value may be chosen. */
  readonly filtering: readonly number[];
  /** What stands where a cell has no rows. */
  readonly missing: string | undefined;
  /** Whether columns are made as wide as what they show. */
  readonly fitsColumns: boolean;
  readonly oldRows: readonly LineRole[];
  readonly oldColumns: readonly LineRole[];
}

/** Field number of the data fields among the others (18.10.1.28). */
const DATA = -2;

/** Days between the two systems of serials (18.17.4.1). */
export const DAYS_TO_1904 = 1462;

/** Reads a definition over its cache; `date1904` is the workbook's system of days. Throws `NotComputed`. */
export function readPivot(root: XmlElement, cache: XmlElement, date1904 = false): Pivot {
  const location = root.child("location");
  const area = maybeRange(location?.attr("ref") ?? "");
  if (!location || !area) throw new NotComputed(say().workbook.saysPlace());
  const cacheFields = cache.child("cacheFields")?.elements("cacheField") ?? [];
  refuse(root, cache);
  const data = (root.child("dataFields")?.elements("dataField") ?? []).map((field) =>
    readDataField(field, cacheFields),
  );
  const fields = (root.child("pivotFields")?.elements("pivotField") ?? []).map((field, index) =>
    readField(field, index, cacheFields[index], date1904),
  );
  const listed = (axis: "rowFields" | "colFields"): number[] =>
    (root.child(axis)?.elements("field") ?? []).map((field) => Number(field.attr("x")));
  const [rowNumbers, columnNumbers] = [listed("rowFields"), listed("colFields")];
  if (rowNumbers.includes(DATA)) throw new NotComputed(say().workbook.valuesStandBelowEachOther());
  if (rowNumbers.length === 0) throw new NotComputed(say().workbook.fieldRows());
  if (data.length === 0) throw new NotComputed(say().workbook.values());
  const at = columnNumbers.indexOf(DATA);
  if (at >= 0 && at < columnNumbers.length - 1) throw new NotComputed(say().workbook.valuesStandBeforeOtherColumns());
  const used = (numbers: readonly number[]): PivotField[] =>
    numbers
      .filter((number) => number !== DATA)
      .map((number) => {
        if (cacheFields[number]?.child("fieldGroup")) throw new NotComputed(say().workbook.groupsDatesNumbers());
        if (cacheFields[number]?.attr("databaseField") === "0") throw new NotComputed(say().workbook.fieldsOwn());
        if (!fields[number]) throw new NotComputed(say().workbook.namesField());
        return fields[number];
      });
  const pivot: Pivot = {
    name: root.attr("name") ?? "",
    area,
    headRows: Number(location.attr("firstDataRow") ?? 1),
    labelColumns: Number(location.attr("firstDataCol") ?? 1),
    fields,
    rows: used(rowNumbers),
    columns: used(columnNumbers),
    data,
    chosen: (root.child("pageFields")?.elements("pageField") ?? []).flatMap((field) => {
      const index = Number(field.attr("fld"));
      const item = field.attr("item");
      used([index]);
      const known = item === undefined ? undefined : fields[index]?.known?.[Number(item)];
      return known ? [{ index, key: known.key }] : [];
    }),
    filtering: (root.child("pageFields")?.elements("pageField") ?? []).map((field) => Number(field.attr("fld"))),
    hasGrandRow: root.attr("colGrandTotals") === undefined || isTrue(root.attr("colGrandTotals")),
    hasGrandColumn:
      columnNumbers.some((number) => number !== DATA) &&
      (root.attr("rowGrandTotals") === undefined || isTrue(root.attr("rowGrandTotals"))),
    grandCaption: root.attr("grandTotalCaption"),
    missing:
      root.attr("showMissing") === undefined || isTrue(root.attr("showMissing")) ? root.attr("missingCaption") : "0",
    fitsColumns: isTrue(root.attr("useAutoFormatting")),
    oldRows: readLines(root.child("rowItems"), rowNumbers),
    oldColumns: readLines(root.child("colItems"), columnNumbers),
  };
  const levels = pivot.columns.length + (data.length > 1 ? 1 : 0);
  const headRows = pivot.columns.length === 0 ? 1 : 1 + levels;
  if (pivot.headRows !== headRows || pivot.labelColumns !== labelColumnOf(pivot.rows, pivot.rows.length - 1) + 1)
    throw new NotComputed(say().workbook.laidOutWayOwn());
  return pivot;
}

/** The column, from the pivot's left, in which a field's labels stand: a compact field shares it with the next. */
export function labelColumnOf(rows: readonly PivotField[], level: number): number {
  return rows.slice(0, level).filter((field) => !(field.isCompact && field.isOutline)).length;
}

/** What changes figures or places in ways that are not computed. */
function refuse(root: XmlElement, cache: XmlElement): void {
  if (root.child("filters")) throw new NotComputed(say().workbook.leavesOutRowsFilterLabels());
  if (cache.child("calculatedItems") || root.child("calculatedItems")) throw new NotComputed(say().workbook.itemsOwn());
  if (isTrue(root.attr("mergeItem"))) throw new NotComputed(say().workbook.labelsMerged());
  if (isTrue(root.attr("gridDropZones"))) throw new NotComputed(say().workbook.laidOutWayOwn());
  if (isTrue(root.attr("subtotalHiddenItems"))) throw new NotComputed(say().workbook.totalsCountHiddenRows());
}

function readDataField(field: XmlElement, cacheFields: readonly XmlElement[]): DataField {
  const index = Number(field.attr("fld"));
  const summary = SUMMARIES.find((kind) => kind === (field.attr("subtotal") ?? "sum"));
  const share = SHARES[field.attr("showDataAs") ?? "normal"];
  const isOwn = cacheFields[index]?.attr("databaseField") === "0" || cacheFields[index]?.attr("formula") !== undefined;
  if (isOwn) throw new NotComputed(say().workbook.fieldsOwn());
  if (!summary || share === undefined || field.descendants("dataField").length > 0)
    throw new NotComputed(say().workbook.showsValuesRelationOthers());
  return { index, name: field.attr("name") ?? "", summary, share };
}

const SHARES: Readonly<Record<string, DataField["share"]>> = {
  normal: "none",
  percentOfRow: "row",
  percentOfCol: "column",
  percentOfTotal: "all",
};

const OTHER_SUBTOTALS = /^(?:sum|countA|avg|max|min|product|count|stdDev|stdDevP|var|varP)Subtotal$/;

function readField(
  field: XmlElement,
  index: number,
  cacheField: XmlElement | undefined,
  date1904: boolean,
): PivotField {
  const isOn = (name: string): boolean => field.attr(name) === undefined || isTrue(field.attr(name));
  const isAxis = field.attr("axis") === "axisRow" || field.attr("axis") === "axisCol";
  if (isAxis && [...field.attributes].some(([name, value]) => OTHER_SUBTOTALS.test(name) && isTrue(value)))
    throw new NotComputed(say().workbook.subtotalsAnotherKind());
  if (isAxis && isTrue(field.attr("insertBlankRow"))) throw new NotComputed(say().workbook.blankRowsBetweenItems());
  const sort = field.attr("sortType");
  const items = field.child("items")?.elements("item");
  const shared = cacheField?.child("sharedItems")?.elements() ?? [];
  return {
    index,
    isCompact: isOn("compact"),
    isOutline: isOn("outline"),
    hasSubtotal: isOn("defaultSubtotal"),
    isSubtotalOnTop: isOn("subtotalTop"),
    repeatsLabels: field.descendants("pivotField").some((one) => isTrue(one.attr("fillDownLabels"))),
    sort: sort === "ascending" || sort === "descending" ? sort : "manual",
    sortBy: sortedBy(field),
    hidesNew: !isTrue(field.attr("includeNewItemsInFilter")),
    known: items?.flatMap((item): KnownItem[] => {
      const shared_ = shared[Number(item.attr("x"))];
      if (item.attr("t") !== undefined && item.attr("t") !== "data") return [];
      if (item.attr("x") === undefined || !shared_) return [];
      return [
        {
          key: itemKey(sharedValue(shared_, date1904)),
          isHidden: isTrue(item.attr("h")),
          isCollapsed: item.attr("sd") !== undefined && !isTrue(item.attr("sd")),
          caption: item.attr("n"),
        },
      ];
    }),
  };
}

/** The data field that items are sorted by (18.10.1.1): its number is that of its first reference. */
function sortedBy(field: XmlElement): number | undefined {
  const scope = field.child("autoSortScope");
  if (!scope) return undefined;
  const references = scope.descendants("reference");
  if (references.length !== 1 || Number(references[0]?.attr("field")) !== 4_294_967_294)
    throw new NotComputed(say().workbook.itemsSortedColumns());
  return Number(references[0]?.child("x")?.attr("v") ?? 0);
}

/** A value of a cache's list (18.10.1.96): dates as serials, as cells hold them. */
export function sharedValue(element: XmlElement, date1904 = false): Scalar {
  const text = element.attr("v") ?? "";
  switch (element.local) {
    case "n":
      return Number(text);
    case "b":
      return isTrue(text);
    case "e":
      return CellError.named(text);
    case "d": {
      const serial = maybeSerialFromIso(text);
      return serial === undefined ? text : serial - (date1904 ? DAYS_TO_1904 : 0);
    }
    case "m":
      return null;
    default:
      return text;
  }
}

/** The lines of the file's own layout, by which its looks are found again. */
function readLines(list: XmlElement | undefined, fields: readonly number[]): LineRole[] {
  let depth = 0;
  const ofData = fields.indexOf(DATA);
  return (list?.elements("i") ?? []).map((line) => {
    const repeated = Number(line.attr("r") ?? 0);
    const type = line.attr("t");
    const own = line.elements("x").length;
    depth = repeated + own;
    const data = Number(line.attr("i") ?? 0);
    if (type === "grand") return { kind: "grand", depth: 0, data };
    const withoutData = ofData >= 0 && ofData < depth ? depth - 1 : depth;
    return type === "default"
      ? { kind: "subtotal", depth: withoutData, data }
      : { kind: "item", depth: withoutData, data };
  });
}
