/** What a report puts its rows into groups by, as it is clicked and as the definition says it. */
export type SplitKind = "columns" | "one" | "row";

export interface SplitChoice {
  readonly kind: SplitKind;
  /** Columns that make the groups, or that name a row. */
  readonly columns: readonly string[];
  /** What the one group of all rows is called. */
  readonly name: string;
}

export const ALL_ROWS = "All rows";

/** Throws for nothing: what is none of these is no column yet. Where nothing is said all rows are one group, called by the title. */
export function readSplit(value: unknown, title = ALL_ROWS): SplitChoice {
  if (value === undefined) return { kind: "one", columns: [], name: title };
  if (typeof value === "object" && value !== null && !Array.isArray(value)) {
    const { one, row } = value as { one?: unknown; row?: unknown };
    if (typeof one === "string") return { kind: "one", columns: [], name: one };
    if (row !== undefined) return { kind: "row", columns: [row].flat().map(String), name: ALL_ROWS };
  }
  const columns = value === null || value === "" ? [] : [value].flat().map(String);
  return { kind: "columns", columns, name: ALL_ROWS };
}

/** A group of one column is written as that column alone. */
export function writeSplit({ kind, columns, name }: SplitChoice): unknown {
  if (kind === "one") return { one: name.trim() || ALL_ROWS };
  if (kind === "row") return { row: [...columns] };
  return columns.length === 1 ? columns[0] : [...columns];
}

interface Figures {
  readonly name: string;
  readonly distinct: number;
  readonly count: number;
  readonly blanks: number;
}

/** Columns that may name each row: one that tells all rows apart, or those that tell most apart, until they could. */
export function suggestedRowName(figures: readonly Figures[]): string[] {
  const rows = Math.max(0, ...figures.map(({ count, blanks }) => count + blanks));
  const full = figures.filter(({ blanks }) => blanks === 0);
  const alone = full.find(({ distinct }) => distinct === rows);
  if (alone) return [alone.name];
  const chosen: string[] = [];
  let apart = 1;
  for (const { name, distinct } of [...full].sort((a, b) => b.distinct - a.distinct)) {
    if (apart >= rows || chosen.length === 3) break;
    chosen.push(name);
    apart *= distinct;
  }
  return chosen.length > 0 ? chosen : figures.slice(0, 1).map(({ name }) => name);
}
