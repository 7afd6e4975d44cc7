/** What repeats in a sheet, read from the marks in its cells. */

import { CorbixError } from "../../common/index.js";
import { OWN_LINES, type Scope } from "../../expression/index.js";
import { cellName } from "../../spreadsheet/index.js";
import { bindStructure, type Structure } from "../../template/index.js";
import { say } from "../../words/index.js";
import type { AxisSpan, RepeatedSpan } from "../fill/axis-map.js";

/** A mark of structure with its cell, 0-based. */
export interface PlacedStructure {
  readonly structure: Structure;
  readonly row: number;
  readonly column: number;
}

/** A row that holds fields of the lines so called. */
export interface RowOfLines {
  readonly row: number;
  readonly lines: string;
}

/** Sections of a template before they are bound to a scope. */
export interface SheetStructure {
  readonly regions: readonly Region[];
  /** Rows with nothing but marks of structure. */
  readonly dropped: readonly number[];
  /** Rows that hold fields of lines, outside of regions that repeat for each of those. */
  readonly lineRows: readonly RowOfLines[];
}

/** A structure from where it begins to where it ends. */
interface Region {
  readonly structure: Structure;
  /** Of `when`, whether it is the part behind `otherwise`. */
  readonly otherwise: boolean;
  readonly rows: AxisSpan;
  readonly columns: AxisSpan;
  readonly place: string;
}

type Open = PlacedStructure & { readonly otherwise: boolean };

/** Pairs beginnings with ends. `emptied` are rows that hold nothing else. Throws `BAD_MARK` with both places. */
export function readSections(
  marks: readonly PlacedStructure[],
  rowsOfLines: readonly RowOfLines[],
  emptied: ReadonlySet<number>,
  where: string,
): SheetStructure {
  const open: Open[] = [];
  const regions: Region[] = [];
  const dropped = new Set<number>();
  const at = (mark: PlacedStructure): string => say().place.cellIn({ where, name: cellName(mark.row, mark.column) });
  const close = (begin: Open, end: PlacedStructure, lastRow: number): void => {
    regions.push({
      structure: begin.structure,
      otherwise: begin.otherwise,
      rows: { from: begin.row, to: lastRow },
      columns: { from: begin.column, to: Math.max(begin.column, end.column) },
      place: at(begin),
    });
  };
  for (const mark of marks) {
    const { structure } = mark;
    if (structure.kind === "table" || (structure.kind === "repeat" && structure.paged))
      throw new CorbixError("BAD_MARK", say().workbook.cannotUseWorkbook({ source: structure.source }), {
        where: at(mark),
        advice: say().workbook.nameCellLayTableTables({ kind: structure.kind }),
      });
    if (emptied.has(mark.row)) dropped.add(mark.row);
    if (structure.kind === "repeat" || structure.kind === "when") {
      open.push({ ...mark, otherwise: false });
      continue;
    }
    const begin = [...open].reverse().find((candidate) => candidate.column <= mark.column);
    if (!begin || (structure.kind === "otherwise" && (begin.structure.kind !== "when" || begin.otherwise))) {
      throw new CorbixError("BAD_MARK", say().workbook.cannotFindBelongs({ source: structure.source }), {
        where: at(mark),
        advice: say().workbook.putAboveBeforeRow({ kind: structure.kind }),
      });
    }
    open.splice(open.indexOf(begin), 1);
    if (structure.kind === "end") close(begin, mark, mark.row);
    else {
      close(begin, mark, mark.row - 1);
      open.push({ ...mark, structure: begin.structure, otherwise: true });
    }
  }
  const [left] = open;
  if (left)
    throw new CorbixError("BAD_MARK", say().workbook.cannotFindEnd({ source: left.structure.source }), {
      where: at(left),
      advice: say().workbook.putLastRowBelongs(),
    });
  const repeating = regions.filter(
    ({ structure }) => structure.kind === "repeat" && !structure.across && structure.by === undefined,
  );
  const across = regions.filter(({ structure }) => structure.kind === "repeat" && structure.across);
  const isIn = ({ row, lines }: RowOfLines): boolean =>
    repeating.some(
      ({ rows, structure }) =>
        row >= rows.from && row <= rows.to && structure.kind === "repeat" && structure.lines === lines,
    );
  const lineRows = across.length > 0 ? [] : rowsOfLines.filter((one) => !isIn(one) && !dropped.has(one.row));
  for (const { row, lines } of lineRows) {
    const other = rowsOfLines.find((one) => one.row === row && one.lines !== lines);
    if (other)
      throw new CorbixError("BAD_MARK", say().workbook.cannotRepeatRowOnce({ lines, lines2: other.lines }), {
        where: say().place.rowIn({ where, number: row + 1 }),
        advice: say().workbook.giveEachRowOwnLet({ lines, lines2: other.lines }),
      });
  }
  return {
    regions,
    dropped: [...dropped].sort((a, b) => a - b),
    lineRows,
  };
}

/** The sections of both axes for a scope. Throws `BAD_EXPRESSION` and `BAD_MARK` with the place. */
export function bindSections(sheet: SheetStructure, scope: Scope): { rows: RepeatedSpan[]; columns: RepeatedSpan[] } {
  const isAcross = ({ structure }: Region): boolean => structure.kind === "repeat" && structure.across;
  const down = sheet.regions.filter((region) => !isAcross(region));
  const rows: Loose[] = mergeBeside(down).map((group) => bindRegion(group, "rows", scope));
  for (const row of sheet.dropped)
    rows.push({
      kind: "dropped",
      lines: OWN_LINES,
      from: row,
      to: row,
      areas: [],
      place: say().place.row({ number: row + 1 }),
    });
  for (const span of adjoining(sheet.lineRows))
    if (!rows.some((section) => section.kind === "line" && section.lines === span.lines && crosses(section, span)))
      rows.push({
        kind: "line",
        ...span,
        areas: [],
        place: say().place.row({ number: span.from + 1 }),
        isFound: true,
      });
  const columns = sheet.regions.filter(isAcross).map((region) => bindRegion([region], "columns", scope));
  return { rows: nest(splitAtEdges(rows)), columns: nest(columns) };
}

type Loose = Omit<RepeatedSpan, "children"> & { readonly place: string; readonly isFound?: boolean };

function crosses(a: AxisSpan, b: AxisSpan): boolean {
  return a.from <= b.to && b.from <= a.to;
}

/** Regions for each line that begin and end in the same rows are areas beside each other. */
function mergeBeside(regions: readonly Region[]): Region[][] {
  const groups: Region[][] = [];
  for (const region of regions) {
    const { structure, rows, columns } = region;
    const isArea = structure.kind === "repeat" && structure.by === undefined && columns.from < columns.to;
    const beside = groups.find(
      ([first]) =>
        isArea &&
        first.structure.kind === "repeat" &&
        first.structure.by === undefined &&
        first.rows.from === rows.from &&
        first.rows.to === rows.to,
    );
    if (beside) beside.push(region);
    else groups.push([region]);
  }
  return groups;
}

function bindRegion(regions: readonly Region[], axis: "rows" | "columns", scope: Scope): Loose {
  const [{ structure, otherwise, place }] = regions;
  const bound = bindStructure(structure, scope, place);
  const span = regions[0][axis];
  if (structure.kind === "when") {
    const { test } = bound;
    return {
      kind: "when",
      lines: OWN_LINES,
      ...span,
      areas: [],
      place,
      test: otherwise ? (env) => !test?.(env) : test,
    };
  }
  const { lines } = bound;
  if (bound.by) return { kind: "by", lines, ...span, areas: [], place, by: bound.by, where: bound.where };
  const isWhole = regions.length === 1 && (axis === "columns" || regions[0].columns.from === regions[0].columns.to);
  if (isWhole) return { kind: "line", lines, ...span, areas: [], place, where: bound.where };
  const areas = regions.map((region) => {
    const own = bindStructure(region.structure, scope, region.place);
    return { ...(axis === "rows" ? region.columns : region.rows), lines: own.lines, where: own.where };
  });
  // In an area across a single list the rest of the row is repeated with it.
  return { kind: "line", lines, ...span, areas, place };
}

function adjoining(rows: readonly RowOfLines[]): (AxisSpan & { readonly lines: string })[] {
  const spans: { from: number; to: number; lines: string }[] = [];
  for (const { row, lines } of [...rows].sort((a, b) => a.row - b.row)) {
    const last = spans[spans.length - 1];
    if (last && last.to === row - 1 && last.lines === lines) last.to = row;
    else spans.push({ from: row, to: row, lines });
  }
  return spans;
}

/** Rows of lines that nobody marked, and that adjoin across the edge of a section, are two. */
function splitAtEdges(sections: readonly Loose[]): Loose[] {
  const edges = sections.flatMap((section) => (section.isFound ? [] : [section.from, section.to + 1]));
  return sections.flatMap((section) => {
    if (!section.isFound) return [section];
    const cuts = [...new Set(edges)].filter((edge) => edge > section.from && edge <= section.to).sort((a, b) => a - b);
    const bounds = [section.from, ...cuts, section.to + 1];
    return bounds.slice(0, -1).map((from, at) => ({ ...section, from, to: bounds[at + 1] - 1 }));
  });
}

/** Sections in sections. Throws `BAD_MARK` where two cross. */
function nest(sections: readonly Loose[]): RepeatedSpan[] {
  const sorted = [...sections].sort((a, b) => a.from - b.from || b.to - a.to || rank(a) - rank(b));
  const take = (within: AxisSpan): RepeatedSpan[] => {
    const found: RepeatedSpan[] = [];
    while (sorted.length > 0 && sorted[0].from <= within.to) {
      const [{ place, isFound: _, ...section }] = sorted;
      sorted.shift();
      if (section.to > within.to)
        throw new CorbixError("BAD_MARK", say().workbook.cannotNestStructureBeginsInside(), {
          where: place,
          advice: say().workbook.letAreasBesideEachOther(),
        });
      found.push({ ...section, children: take(section) });
    }
    return found;
  };
  return take({ from: 0, to: Number.POSITIVE_INFINITY });
}

/** Of sections of the same rows the wider kind stands outside. */
function rank(section: Loose): number {
  return ["by", "when", "line", "dropped"].indexOf(section.kind);
}
