/** A computed pivot in its definition and cache: ECMA-376 part 1, 18.10. */

import { isoFromSerial } from "../../common/index.js";
import { CellError, type Scalar } from "../../formula/index.js";
import { mapElements, type XmlElement, xmlElement } from "../../ooxml/index.js";
import { type CellRange, isTrue, rangeName } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { compareItems, itemKey } from "./items.js";
import type { Item, LaidLine, LaidPivot } from "./lay-pivot.js";
import { DAYS_TO_1904, NotComputed, type Pivot } from "./read-pivot.js";
import type { PivotSource } from "./read-source.js";

/** All values of the fields that have a list, in one order that all pivots of the cache refer to. */
export type SharedValues = ReadonlyMap<number, readonly Scalar[]>;

export function sharedValues(source: PivotSource, fields: ReadonlySet<number>): SharedValues {
  const shared = new Map<number, readonly Scalar[]>();
  for (const index of fields) {
    const values = new Map<string, Scalar>();
    for (const record of source.records)
      values.set(itemKey(record[index]), values.get(itemKey(record[index])) ?? record[index]);
    shared.set(index, [...values.values()].map((value) => (value === "" ? null : value)).sort(compareItems));
  }
  return shared;
}

/** The cache with the values its source holds now. */
export function writeCache(root: XmlElement, source: PivotSource, shared: SharedValues, date1904: boolean): XmlElement {
  const prefix = root.prefix;
  let index = -1;
  return mapElements(root, (element) => {
    if (element.local !== "cacheField") return undefined;
    index++;
    if (element.attr("databaseField") === "0" || element.child("fieldGroup")) return element;
    const values = source.records.map((record) => record[index]);
    const isDate = source.dateCodes[index] !== undefined;
    const items = sharedItems(prefix, {
      values,
      listed: shared.get(index),
      isDate,
      offset: date1904 ? DAYS_TO_1904 : 0,
    });
    return element.withChildren([items, ...element.elements().filter((child) => child.local !== "sharedItems")]);
  });
}

interface SharedList {
  readonly values: readonly Scalar[];
  readonly listed: readonly Scalar[] | undefined;
  readonly isDate: boolean;
  readonly offset: number;
}

/** A list of values, or only what kinds of values there are (18.10.1.90). */
function sharedItems(prefix: string, { values, listed, isDate, offset }: SharedList): XmlElement {
  const numbers = values.filter((value) => typeof value === "number");
  const hasBlank = values.some((value) => value === null || value === "");
  const hasText = values.some((value) => typeof value === "string" && value !== "");
  const hasOther = values.some((value) => typeof value === "boolean" || value instanceof CellError);
  const [least, greatest] = numbers.reduce(
    ([a, b], value) => [Math.min(a, value), Math.max(b, value)],
    [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY],
  );
  const iso = (serial: number): string =>
    `${isoFromSerial(serial + offset).slice(0, 10)}T${isoFromSerial(serial + offset).slice(11) || "00:00:00"}`;
  const written: Record<string, string> = {};
  const isPlain = !hasText && !hasOther;
  if (numbers.length > 0) {
    if (isPlain && !hasBlank) written.containsSemiMixedTypes = "0";
    if (isDate) {
      if (isPlain) written.containsNonDate = "0";
      written.containsDate = "1";
    }
    if (isPlain) written.containsString = "0";
    if (hasBlank) written.containsBlank = "1";
    if (!isPlain) written.containsMixedTypes = "1";
    if (isDate) Object.assign(written, { minDate: iso(least), maxDate: iso(greatest) });
    else
      Object.assign(written, {
        containsNumber: "1",
        ...(numbers.every(Number.isInteger) ? { containsInteger: "1" } : {}),
        minValue: String(least),
        maxValue: String(greatest),
      });
  } else if (hasBlank) {
    if (isPlain) Object.assign(written, { containsNonDate: "0", containsString: "0" });
    written.containsBlank = "1";
  }
  if (!listed) return xmlElement(`${prefix}sharedItems`, written);
  if (listed.some((value) => typeof value === "string" && value.length > 255)) written.longText = "1";
  return xmlElement(`${prefix}sharedItems`, { ...written, count: String(listed.length) }).withChildren(
    listed.map((value) => {
      if (value === null) return xmlElement(`${prefix}m`);
      if (typeof value === "number")
        return xmlElement(`${prefix}${isDate ? "d" : "n"}`, { v: isDate ? iso(value) : String(value) });
      if (typeof value === "boolean") return xmlElement(`${prefix}b`, { v: value ? "1" : "0" });
      return value instanceof CellError
        ? xmlElement(`${prefix}e`, { v: value.name })
        : xmlElement(`${prefix}s`, { v: value });
    }),
  );
}

/** The definition with its place, the items of its fields, and its lines. */
export function writeDefinition(root: XmlElement, pivot: Pivot, laid: LaidPivot, shared: SharedValues): XmlElement {
  const prefix = root.prefix;
  const lines = (name: string, list: readonly LaidLine[], hasData: boolean): XmlElement =>
    xmlElement(`${prefix}${name}`, { count: String(list.length) }).withChildren(
      list.map((line) => lineElement(prefix, line, hasData)),
    );
  const chosen = new Map(pivot.chosen.map(({ index, key }) => [index, key]));
  const severalValues = pivot.data.length > 1;
  return root.withChildren(
    root.children
      .map((child) => {
        if (child.kind !== "element") return child;
        switch (child.local) {
          case "location":
            return child.withAttr("ref", rangeName(areaOf(pivot, laid)));
          case "pivotFields": {
            let index = -1;
            return child.withChildren(
              child.elements("pivotField").map((field) => {
                const items = laid.items.get(++index);
                return items && field.child("items") ? withItems(field, items, shared.get(index) ?? [], prefix) : field;
              }),
            );
          }
          case "rowItems":
            return lines("rowItems", laid.rows, false);
          case "colItems":
            return lines("colItems", laid.columns, severalValues);
          case "pageFields":
            return child.withChildren(
              child.elements("pageField").map((field) => {
                const key = chosen.get(Number(field.attr("fld")));
                if (key === undefined) return field;
                const at = laid.items.get(Number(field.attr("fld")))?.findIndex((item) => item.key === key) ?? -1;
                if (at < 0) throw new NotComputed(say().workbook.rowValueChosenAbove());
                return field.withAttr("item", String(at));
              }),
            );
          case "formats":
          case "chartFormats":
            return withoutItems(child);
          default:
            return child;
        }
      })
      .filter((child) => !(child.kind === "element" && child.attr("count") === "0" && /ormats$/.test(child.local))),
  );
}

/** Where a laid pivot stands: it begins where it did. */
export function areaOf({ area }: Pivot, { height, width }: LaidPivot): CellRange {
  return { top: area.top, left: area.left, bottom: area.top + height - 1, right: area.left + width - 1 };
}

function withItems(field: XmlElement, items: readonly Item[], shared: readonly Scalar[], prefix: string): XmlElement {
  const places = new Map(shared.map((value, at) => [itemKey(value), at]));
  const written = items.map(({ key, caption, isHidden, isCollapsed }) =>
    xmlElement(`${prefix}item`, {
      ...(caption === undefined ? {} : { n: caption }),
      ...(isHidden ? { h: "1" } : {}),
      ...(isCollapsed ? { sd: "0" } : {}),
      x: String(places.get(key) ?? 0),
    }),
  );
  return field.withChildren(
    field.children.map((child) => {
      if (child.kind !== "element" || child.local !== "items") return child;
      const totals = child.elements("item").filter((item) => item.attr("t") !== undefined && item.attr("t") !== "data");
      return child.withAttr("count", String(written.length + totals.length)).withChildren([...written, ...totals]);
    }),
  );
}

/** A line as the file lists it (18.10.1.44): what it repeats of the line before is counted. */
function lineElement(prefix: string, line: LaidLine, hasData: boolean): XmlElement {
  const x = (index: number): XmlElement => xmlElement(`${prefix}x`, index === 0 ? {} : { v: String(index) });
  const attributes: Record<string, string> = {};
  if (line.kind !== "item") attributes.t = line.kind === "grand" ? "grand" : "default";
  const repeated = line.kind === "subtotal" ? line.path.length - 1 : line.repeated;
  if (repeated > 0) attributes.r = String(repeated);
  if (line.data > 0) attributes.i = String(line.data);
  const own = line.kind === "grand" ? [0] : line.path.slice(repeated);
  const ofData = hasData && line.kind === "item" ? [x(line.data)] : [];
  return xmlElement(`${prefix}i`, attributes).withChildren([...own.map(x), ...ofData]);
}

/** Looks that are kept for single items of the template's rows: those items are gone. */
function withoutItems(list: XmlElement): XmlElement {
  const isOfItem = (format: XmlElement): boolean =>
    format.descendants("reference").some((one) => one.attr("field") !== "4294967294" && one.child("x") !== undefined);
  const kept = list.elements().filter((format) => !isOfItem(format));
  return list.withAttr("count", String(kept.length)).withChildren(kept);
}

/** Conditional formats of a pivot name its items. */
export function refuseItemRules(root: XmlElement): void {
  const rules = root.child("conditionalFormats");
  const isOfItem = rules
    ?.descendants("reference")
    .some((one) => one.child("x") !== undefined && !isTrue(one.attr("selected")));
  if (isOfItem) throw new NotComputed(say().workbook.conditionalFormatsNameSingleItems());
}
