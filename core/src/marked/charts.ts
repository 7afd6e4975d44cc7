/** Charts of a document filled from the lines: categories and values stored in the chart, as ECMA-376 part 1, 21.2 has them. */

import { CorbixError, columnKey, Exact, groupKey } from "../common/index.js";
import {
  type Env,
  isEmpty,
  linesOf,
  OWN_LINES,
  parseField,
  type Scope,
  type TextField,
  withLine,
} from "../expression/index.js";
import { OFFICE_RELATIONS, XmlElement, type XmlNode, xmlElement, xmlText } from "../ooxml/index.js";
import { bindField, capitalise, lineField, parseTableColumns, plainColumn } from "../template/index.js";
import { say } from "../words/index.js";
import { chartWorkbook, columnLetters } from "./chart-workbook.js";
import type { MadeChart } from "./dialect.js";

export interface ChartColumn {
  /** The folded name of the lines it is made from. */
  readonly lines: string;
  readonly heading: string;
  readonly source: string;
  readonly format: string | undefined;
}

export interface BoundChart {
  readonly where: string;
  readonly lines: string;
  readonly category: TextField;
  readonly values: readonly {
    readonly heading: string;
    readonly field: TextField;
    readonly format: string | undefined;
  }[];
}

/** What a chart is made of: the first column names the categories, each further one is a series. */
export function parseChart(source: string, where: string): ChartColumn[] {
  const named = /^chart\s+([\p{L}_][\p{L}\p{M}\p{N}_]*)(?![\p{L}\p{N}_.(])\s*:?([\s\S]*)$/u.exec(source);
  const lines = columnKey(named?.[1] ?? OWN_LINES);
  const columns = parseTableColumns(named?.[2] ?? "", where);
  if (columns.length < 2)
    throw new CorbixError("BAD_MARK", say().document.cannotMakeChart({ source }), {
      where,
      advice: say().document.nameCategoriesThenValues(),
    });
  return columns.map(({ source: column, heading, format }) => {
    const plain = plainColumn(column, lines);
    return {
      lines,
      heading: heading ?? capitalise(plain ?? column),
      source: plain === undefined ? column : lineField(lines, plain),
      format,
    };
  });
}

export function bindChart(columns: readonly ChartColumn[], scope: Scope, where: string): BoundChart {
  const bound = columns.map(({ heading, source, format }) => {
    const field = bindField(parseField(source), scope, where);
    if (!field.needs.has(columns[0].lines))
      throw new CorbixError("BAD_MARK", say().document.cannotUseChartFieldLine({ source }), { where });
    return { heading, format, field };
  });
  return { where, lines: columns[0].lines, category: bound[0].field, values: bound.slice(1) };
}

/** More categories nobody could read; they are told. */
const MOST = 1_000;

/** The chart with the lines' values: lines of one category are added up, in the order in which categories come first. */
export function fillChart(chart: XmlElement, { where, lines, category, values }: BoundChart, env: Env): MadeChart {
  const sums = new Map<string, InstanceType<typeof Exact>[]>();
  const left = new Set<string>();
  const names = new Map<string, string>();
  for (const row of linesOf(env, lines).lines) {
    const at = withLine(env, lines, row);
    const name = category.show(at);
    // Names that differ in capitals only are one, as they are one group.
    const key = groupKey(name);
    if (!names.has(key)) names.set(key, name);
    const own = sums.get(key) ?? values.map(() => new Exact(0));
    if (!sums.has(key)) {
      if (sums.size < MOST) sums.set(key, own);
      else left.add(key);
    }
    values.forEach(({ field }, index) => {
      const value = field.evaluate(at);
      if (value instanceof Exact) own[index] = own[index].plus(value);
      else if (!isEmpty(value)) own[index] = own[index].plus(1);
    });
  }
  if (left.size > 0)
    env.onNote?.({
      code: "chart-cut",
      severity: "warn",
      where,
      what: say().document.chartShowsFirstCategoriesOthers({ most: MOST, most2: MOST + left.size }),
      advice: say().document.letCountSomethingFewerValues(),
    });
  const shown = [...sums.keys()].map((key) => names.get(key) ?? key);
  const filled = replaced(chart, (plot) => {
    const series = plot.elements("ser");
    if (series.length === 0) return undefined;
    const made = values.map(({ heading, format }, index) =>
      oneSeries(series[Math.min(index, series.length - 1)], index, heading, shown, {
        format: format ?? "General",
        numbers: [...sums.values()].map((own) => own[index].toNumber()),
      }),
    );
    const first = plot.children.indexOf(series[0]);
    const others = plot.children.filter((child) => child.kind !== "element" || !series.includes(child));
    const before = plot.children.slice(0, first).filter((child) => others.includes(child)).length;
    return plot.withChildren([...others.slice(0, before), ...made, ...others.slice(before)]);
  });
  // The workbook behind it held the template's sample, or somebody else's rows.
  const numbers = [...sums.values()].map((own) => own.map((value) => value.toNumber()));
  const workbook = chartWorkbook(
    values.map(({ heading, format }) => ({ heading, format })),
    shown,
    numbers,
  );
  return { chart: withWorkbook(filled), workbook };
}

/** The relationship by which a made chart leads to its workbook. */
export const WORKBOOK = "corbixWorkbook";

/** The reference to the workbook where the schema wants it: behind what the chart looks like (21.2.2.27). */
function withWorkbook(chart: XmlElement): XmlElement {
  const prefix = chart.prefix;
  const reference = new XmlElement(
    `${prefix}externalData`,
    `<${prefix}externalData xmlns:r="${OFFICE_RELATIONS}" r:id="${WORKBOOK}">`,
    [xmlElement(`${prefix}autoUpdate`, { val: "0" })],
  );
  const rest = chart.children.filter((child) => child.kind !== "element" || child.local !== "externalData");
  const late = rest.findIndex(
    (child) => child.kind === "element" && ["printSettings", "userShapes", "extLst"].includes(child.local),
  );
  const at = late < 0 ? rest.length : late;
  return chart.withChildren([...rest.slice(0, at), reference, ...rest.slice(at)]);
}

/** The first plot with series, changed; the others of a combined chart stay without their series. */
function replaced(element: XmlElement, change: (plot: XmlElement) => XmlElement | undefined): XmlElement {
  let done = false;
  const visit = (at: XmlElement): XmlElement => {
    if (at.local === "plotArea") {
      return at.withChildren(
        at.children.map((child): XmlNode => {
          if (child.kind !== "element" || !/Chart$/.test(child.local) || done) return child;
          const made = change(child);
          if (made) done = true;
          return made ?? child;
        }),
      );
    }
    return at.withChildren(at.children.map((child) => (child.kind === "element" ? visit(child) : child)));
  };
  return visit(element);
}

const val = (name: string, value: string): XmlElement => xmlElement(`c:${name}`, { val: value });
const element = (name: string, children: readonly XmlNode[]): XmlElement => new XmlElement(name, `<${name}>`, children);
const words = (name: string, text: string): XmlElement => element(name, [xmlText(text)]);

function points(values: readonly string[]): XmlElement[] {
  return [
    val("ptCount", String(values.length)),
    ...values.map((value, index) => new XmlElement("c:pt", `<c:pt idx="${index}">`, [words("c:v", value)])),
  ];
}

/** A series in the looks of another, with its own name, categories and values, in the order of the schema (21.2.2.170). */
function oneSeries(
  like: XmlElement,
  index: number,
  heading: string,
  names: readonly string[],
  { format, numbers }: { readonly format: string; readonly numbers: readonly number[] },
): XmlElement {
  const letter = columnLetters(index + 1);
  const range = (column: string): XmlElement => words("c:f", `Sheet1!$${column}$2:$${column}$${names.length + 1}`);
  const title = element("c:tx", [
    element("c:strRef", [words("c:f", `Sheet1!$${letter}$1`), element("c:strCache", points([heading]))]),
  ]);
  const isScatter = like.child("xVal") !== undefined;
  const categories = element(isScatter ? "c:xVal" : "c:cat", [
    element("c:strRef", [range("A"), element("c:strCache", points(names))]),
  ]);
  const values = element(isScatter ? "c:yVal" : "c:val", [
    element("c:numRef", [
      range(letter),
      element("c:numCache", [words("c:formatCode", format), ...points(numbers.map(String))]),
    ]),
  ]);
  const made = new Set(["idx", "order", "tx", "cat", "val", "xVal", "yVal"]);
  const rest = like.elements().filter((one) => !made.has(one.local));
  const late = rest.filter((one) => ["smooth", "shape", "bubbleSize", "bubble3D", "extLst"].includes(one.local));
  const early = rest.filter((one) => !late.includes(one) && one.local !== "dPt");
  const kept = late.filter((one) => one.local !== "extLst");
  return like.withChildren([
    val("idx", String(index)),
    val("order", String(index)),
    title,
    ...early,
    categories,
    values,
    ...kept,
  ]);
}
