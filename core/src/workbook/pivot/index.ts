/** Pivots of a filled workbook, computed from its filled rows. */

import type { Finding } from "../../common/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { type Workbook, workbookFromPackage } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import { StyleEditor } from "../edit/style-editor.js";
import { withHead } from "../fill/related-parts.js";
import { layPivot } from "./lay-pivot.js";
import { PivotSheet, setCells, wordsOf } from "./pivot-cells.js";
import { type ComputedPivot, redrawCharts } from "./pivot-charts.js";
import { NotComputed, readPivot } from "./read-pivot.js";
import { readSource } from "./read-source.js";
import { areaOf, refuseItemRules, sharedValues, writeCache, writeDefinition } from "./write-pivot.js";

export { movePivots, type StalePivot } from "./move-pivots.js";

import type { StalePivot } from "./move-pivots.js";

export interface ComputedPivots {
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
}

/**
 * The workbook with the given pivots showing what their source holds now: cells, items, lines and charts, and what is calculated from
 * them. What cannot be computed stays as the template has it, and is told. `recalculate` evaluates all formulas of a workbook.
 */
export function computePivots(
  opened: OoxmlPackage,
  stale: readonly StalePivot[],
  recalculate: (opened: OoxmlPackage) => OoxmlPackage,
): ComputedPivots {
  if (stale.length === 0) return { package: opened, findings: [] };
  const workbook = workbookFromPackage(opened);
  const parts = new Map<string, string>();
  const findings: Finding[] = [];
  const computed: ComputedPivot[] = [];
  const stylesPart = opened.relationships(workbook.part).find((one) => one.type === "styles")?.target;
  const styles = stylesPart === undefined ? undefined : opened.getXml(stylesPart);
  const editor = styles && new StyleEditor(styles);
  const sheets = new Map<string, PivotSheet>();
  for (const cache of new Set(stale.map((one) => one.cache))) {
    const pivots = stale.filter((one) => one.cache === cache);
    try {
      computed.push(...computeCache({ workbook, editor, sheets }, cache, pivots, parts));
    } catch (error) {
      if (!(error instanceof NotComputed)) throw error;
      for (const pivot of pivots) findings.push(notComputed(opened, pivot, error.message));
    }
  }
  for (const [name, sheet] of sheets) {
    const part = workbook.sheets.find((one) => one.name === name)?.part;
    if (part !== undefined) parts.set(part, withHead(opened, part, sheet.written()));
  }
  const restyled = editor?.finish();
  if (restyled && stylesPart !== undefined) parts.set(stylesPart, withHead(opened, stylesPart, restyled));
  return withDependents(opened.with(parts), computed, findings, recalculate);
}

interface Site {
  readonly workbook: Workbook;
  readonly editor: StyleEditor | undefined;
  /** Sheets that pivots stand on, by name. */
  readonly sheets: Map<string, PivotSheet>;
}

/** All pivots of one cache, whose items have one list: all of them or none. */
function computeCache(
  site: Site,
  cache: string,
  pivots: readonly StalePivot[],
  parts: Map<string, string>,
): ComputedPivot[] {
  const { workbook, editor } = site;
  const opened = workbook.package;
  const root = opened.getXml(cache);
  const read = pivots.map((one) => {
    const definition = opened.getXml(one.part);
    refuseItemRules(definition);
    return { ...one, definition, pivot: readPivot(definition, root, workbook.date1904) };
  });
  const source = readSource(workbook, root);
  const sheets = new Map(site.sheets);
  const laid = read.map((one) => {
    const info = workbook.sheets.find((sheet) => sheet.name === one.sheet);
    if (!info) throw new NotComputed(say().workbook.sheet());
    // A sheet that is not finished yet is set aside with its cache.
    const sheet = sheets.get(one.sheet) ?? new PivotSheet(workbook, info);
    sheets.set(one.sheet, sheet);
    return { ...one, sheet, laid: layPivot(one.pivot, source.records, wordsOf(sheet, one.pivot)) };
  });
  for (const one of laid) one.sheet.makeRoom(areaOf(one.pivot, one.laid), one.pivot.area);
  const listed = new Set(laid.flatMap((one) => [...one.laid.items.keys()]));
  const shared = sharedValues(source, listed);
  const definitions = laid.map((one) => writeDefinition(one.definition, one.pivot, one.laid, shared));
  laid.forEach((one, at) => {
    const isDateStyle = (style: number): boolean => workbook.styles.formats[style]?.isDate ?? false;
    setCells({ ...one, source, editor, isDateStyle });
    parts.set(one.part, withHead(opened, one.part, definitions[at]));
  });
  parts.set(cache, withHead(opened, cache, writeCache(root, source, shared, workbook.date1904)));
  for (const [name, sheet] of sheets) site.sheets.set(name, sheet);
  return laid.map((one, at) => ({ sheet: pivots[at].sheet, pivot: one.pivot, laid: one.laid }));
}

/** Formulas that look at the pivots' cells, and their charts. */
function withDependents(
  opened: OoxmlPackage,
  computed: readonly ComputedPivot[],
  findings: Finding[],
  recalculate: (opened: OoxmlPackage) => OoxmlPackage,
): ComputedPivots {
  if (computed.length === 0) return { package: opened, findings };
  const workbook = workbookFromPackage(opened);
  const hasFormulas = workbook.sheets.some(
    ({ part }) => opened.has(part) && /<(?:\w+:)?f[\s>]/.test(opened.getText(part)),
  );
  const calculated = hasFormulas ? recalculate(opened) : opened;
  const charts = redrawCharts(calculated, computed);
  for (const { sheet, pivot } of charts.stale)
    findings.push({
      code: "pivot-chart-not-computed",
      severity: "warn",
      where: say().place.sheetIn({ where: opened.where, name: sheet }),
      what: say().workbook.chartPivotSeveralFieldsRows({ name: pivot.name }),
      advice: say().workbook.drawChartFieldRowsCells(),
    });
  return { package: calculated.with(charts.parts), findings };
}

function notComputed(opened: OoxmlPackage, { name, sheet }: StalePivot, why: string): Finding {
  return {
    code: "pivot-not-computed",
    severity: "warn",
    where: say().place.sheetIn({ where: opened.where, name: sheet }),
    what: say().workbook.pivotComputedHereSinceMade({ name, why }),
    advice: say().workbook.layPivotOutFieldsRows(),
  };
}
