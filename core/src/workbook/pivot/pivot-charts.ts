/** Charts of computed pivots: a series for each column of values, over the items without their totals (ECMA-376 part 1, 21.2.2.144). */
import type { Scalar } from "../../formula/index.js";
import { mapElements, type OoxmlPackage, type XmlElement, xmlElement, xmlText } from "../../ooxml/index.js";
import { cellName, quoteSheet } from "../../spreadsheet/index.js";
import { refreshChart } from "../fill/chart-values.js";
import { withHead } from "../fill/related-parts.js";
import type { LaidPivot } from "./lay-pivot.js";
import type { Pivot } from "./read-pivot.js";

export interface ComputedPivot {
  readonly sheet: string;
  readonly pivot: Pivot;
  readonly laid: LaidPivot;
}

export interface PivotCharts {
  readonly parts: ReadonlyMap<string, string>;
  /** Pivots with a chart that still draws what the template did. */
  readonly stale: readonly ComputedPivot[];
}

/** The charts that are drawn from the given pivots. */
export function redrawCharts(opened: OoxmlPackage, computed: readonly ComputedPivot[]): PivotCharts {
  const parts = new Map<string, string>();
  const stale: ComputedPivot[] = [];
  for (const name of opened.names) {
    if (!/\/charts\/chart[^/]*\.xml$/.test(name)) continue;
    const root = opened.getXml(name);
    const source = root.path("pivotSource", "name")?.text;
    const found = source === undefined ? undefined : computed.find((one) => isNamed(source, one));
    if (!found) continue;
    const redrawn = redraw(root, found);
    if (redrawn) parts.set(name, withHead(opened, name, redrawn));
    else stale.push(found);
  }
  return { parts, stale };
}

/** `[book.xlsx]Sheet!Pivot` */
function isNamed(source: string, { sheet, pivot }: ComputedPivot): boolean {
  const end = source.lastIndexOf("!");
  const place = source
    .slice(0, end)
    .replace(/^'|'$/g, "")
    .replaceAll("''", "'")
    .replace(/^\[[^\]]*\]/, "");
  return source.slice(end + 1) === pivot.name && place.toLowerCase() === sheet.toLowerCase();
}

/** `undefined` for charts that are more than one series a column, over one field of rows. */
function redraw(root: XmlElement, { sheet, pivot, laid }: ComputedPivot): XmlElement | undefined {
  if (pivot.rows.length !== 1 || pivot.columns.length > 1 || laid.items.size === 0) return undefined;
  const plots =
    root
      .path("chart", "plotArea")
      ?.elements()
      .filter((one) => one.child("ser")) ?? [];
  if (plots.length !== 1) return undefined;
  const [plot] = plots;
  const { area, headRows, labelColumns } = pivot;
  const cells = new Map(laid.cells.map(({ row, column, value }) => [`${row} ${column}`, value]));
  const items = laid.rows.flatMap((line, at) => (line.kind === "item" ? [headRows + at] : []));
  const columns = laid.columns.flatMap((line, at) => (line.kind === "item" ? [labelColumns + at] : []));
  if (items.length === 0 || columns.length === 0) return undefined;
  const [from, to] = [items[0], items[items.length - 1]];
  const reference = (column: number, first: number, last: number): string => {
    const at = (row: number): string => cellName(area.top + row, area.left + column).replace(/^([A-Z]+)/, "$$$1$$");
    return `${quoteSheet(sheet)}!${first === last ? at(first) : `${at(first)}:${at(last)}`}`;
  };
  const known = plot.elements("ser");
  const names = pivot.columns.length + (pivot.data.length > 1 ? 1 : 0);
  const series = columns.map((column, at): XmlElement => {
    const template = known[at] ?? asNext(known[known.length - 1], at);
    const text = names === 0 ? undefined : seriesName(cells, column, { from: headRows - names, to: headRows - 1 });
    const held = new Map<string, readonly Scalar[]>();
    const hold = (first: number, last: number, of: number): string => {
      const formula = reference(of, first, last);
      held.set(
        formula,
        Array.from({ length: last - first + 1 }, (_, down) => cells.get(`${first + down} ${of}`) ?? null),
      );
      return formula;
    };
    const moved = mapElements(template, (element) => {
      if (element.local === "tx" && text !== undefined)
        return seriesText(element, reference(column, 0, headRows - 1), text);
      if (element.local === "tx" || (element.local !== "cat" && element.local !== "val")) return undefined;
      const formula = hold(from, to, element.local === "cat" ? 0 : column);
      return mapElements(element, (inner) =>
        inner.local === "f" ? inner.withChildren([xmlText(formula)]) : undefined,
      );
    });
    return refreshChart(moved, (formula) => {
      const list = held.get(formula);
      return list && { list, width: 1 };
    });
  });
  let isFirst = true;
  const children = plot.children.flatMap((child) => {
    if (child.kind !== "element" || child.local !== "ser") return [child];
    const placed = isFirst ? series : [];
    isFirst = false;
    return placed;
  });
  return mapElements(root, (element) => (element === plot ? plot.withChildren(children) : undefined));
}

function seriesName(cells: ReadonlyMap<string, Scalar>, column: number, heads: { from: number; to: number }): string {
  const texts: string[] = [];
  for (let row = heads.from; row <= heads.to; row++) {
    // What spans several columns is written above the first of them.
    for (let at = column; at >= 0; at--) {
      const value = cells.get(`${row} ${at}`);
      if (value === undefined || value === null) {
        if (row === heads.to) break;
        continue;
      }
      texts.push(String(value));
      break;
    }
  }
  return texts.join(" - ");
}

function seriesText(element: XmlElement, formula: string, text: string): XmlElement {
  const prefix = element.prefix;
  const holding = (name: string, children: readonly XmlElement[]): XmlElement =>
    xmlElement(`${prefix}${name}`).withChildren(children);
  const point = xmlElement(`${prefix}pt`, { idx: "0" }).withChildren([
    xmlElement(`${prefix}v`).withChildren([xmlText(text)]),
  ]);
  const cache = holding("strCache", [xmlElement(`${prefix}ptCount`, { val: "1" }), point]);
  return element.withChildren([holding("strRef", [xmlElement(`${prefix}f`).withChildren([xmlText(formula)]), cache])]);
}

/** A series more than the template has: as its last one, in the next colour. */
function asNext(series: XmlElement, at: number): XmlElement {
  return series.withChildren(
    series.children.flatMap((child): (typeof child)[] => {
      if (child.kind !== "element") return [child];
      if (child.local === "idx" || child.local === "order") return [child.withAttr("val", String(at))];
      return child.local === "spPr" || child.local === "marker" || child.local === "dPt" || child.local === "extLst"
        ? []
        : [child];
    }),
  );
}
