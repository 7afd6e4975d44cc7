/** What a pivot shows of given rows: its lines, columns and cells. */

import { CellError, type Scalar } from "../../formula/index.js";
import { say } from "../../words/index.js";
import { compareItems, itemKey } from "./items.js";
import {
  type DataField,
  type KnownItem,
  labelColumnOf,
  NotComputed,
  type Pivot,
  type PivotField,
} from "./read-pivot.js";
import { Summary } from "./summary.js";

/** A value of a field that its rows are grouped by. */
export interface Item {
  readonly key: string;
  readonly value: Scalar;
  readonly isHidden: boolean;
  readonly isCollapsed: boolean;
  readonly caption: string | undefined;
}

/** A line of the laid pivot, or a column. */
export interface LaidLine {
  readonly kind: "item" | "subtotal" | "grand";
  /** Items from the outermost field on, by their places in the fields' lists; none of a grand total. */
  readonly path: readonly number[];
  /** How many of them the line before has too. */
  readonly repeated: number;
  /** Whether it has values: not where its subtotal stands elsewhere. */
  readonly hasValues: boolean;
  readonly data: number;
}

/** A cell of the laid pivot, from its top left corner on. */
export interface LaidCell {
  readonly row: number;
  readonly column: number;
  readonly value: Scalar;
}

export interface LaidPivot {
  /** Items of all fields that have a list, by their places among the source's columns. */
  readonly items: ReadonlyMap<number, readonly Item[]>;
  readonly rows: readonly LaidLine[];
  readonly columns: readonly LaidLine[];
  readonly cells: readonly LaidCell[];
  readonly height: number;
  readonly width: number;
}

/** Words that the file's own totals are called by, in its language. */
export interface PivotWords {
  readonly grand: string;
  /** Behind the name of an item: `Total`. */
  readonly subtotal: string;
  /** Before the name of a data field. */
  readonly grandOf: string;
  readonly blank: string;
}

/** Lines below each other at most, as a sheet has no more. */
const MOST_LINES = 200_000;

/** Computes a pivot over records with a value for each column of its source. Throws `NotComputed`. */
export function layPivot(pivot: Pivot, records: readonly (readonly Scalar[])[], words: PivotWords): LaidPivot {
  return new Layout(pivot, records, words).lay();
}

/** A group of rows on one axis: one item below those of the outer fields. */
interface Node {
  readonly id: number;
  readonly item: number;
  readonly children: Map<number, Node>;
}

class Axis {
  readonly root: Node = { id: 0, item: -1, children: new Map() };
  count = 1;

  constructor(readonly fields: readonly PivotField[]) {}

  /** The nodes from the root to the items. */
  nodes(items: readonly number[]): Node[] {
    const found = [this.root];
    let node = this.root;
    for (const item of items) {
      let child = node.children.get(item);
      if (!child) {
        child = { id: this.count++, item, children: new Map() };
        node.children.set(item, child);
      }
      node = child;
      found.push(node);
    }
    return found;
  }

  at(path: readonly number[]): Node | undefined {
    return path.reduce<Node | undefined>((node, item) => node?.children.get(item), this.root);
  }
}

class Layout {
  private readonly items = new Map<number, readonly Item[]>();
  private readonly places = new Map<number, Map<string, number>>();
  private readonly rows: Axis;
  private readonly columns: Axis;
  /** By the numbers of a row's node and a column's. */
  private readonly summaries = new Map<string, Summary[]>();

  constructor(
    private readonly pivot: Pivot,
    records: readonly (readonly Scalar[])[],
    private readonly words: PivotWords,
  ) {
    this.rows = new Axis(pivot.rows);
    this.columns = new Axis(pivot.columns);
    const listed = pivot.fields.filter(
      (field) => field.known || pivot.rows.includes(field) || pivot.columns.includes(field),
    );
    for (const field of listed) this.list(field, records);
    const shown = records.filter((record) => this.isShown(record));
    for (const record of shown) this.add(record);
    for (const field of [...pivot.rows, ...pivot.columns])
      if (field.sortBy !== undefined) this.sortByValues(field, shown);
  }

  lay(): LaidPivot {
    const rows = this.lines(this.rows, "rows");
    const { data } = this.pivot;
    const columns = this.lines(this.columns, "columns").flatMap((line) =>
      data.map((_, index) => (index === 0 ? line : { ...line, data: index, repeated: line.path.length })),
    );
    return {
      items: this.items,
      rows,
      columns,
      cells: [...this.headings(columns), ...this.labels(rows), ...this.values(rows, columns)],
      height: this.pivot.headRows + rows.length,
      width: this.pivot.labelColumns + columns.length,
    };
  }

  /** A field's items: those the file knows in its order, new ones by the order they are sorted in. */
  private list(field: PivotField, records: readonly (readonly Scalar[])[]): void {
    const values = new Map<string, Scalar>();
    for (const record of records) {
      const value = record[field.index];
      const key = itemKey(value);
      if (!values.has(key)) values.set(key, value === "" ? null : value);
    }
    const known = new Map((field.known ?? []).map((item, at) => [item.key, { item, at }]));
    const hides = [...known.values()].some(({ item }) => item.isHidden);
    const isUsed = isFiltering(this.pivot, field);
    if (isUsed && hides && field.hidesNew && [...values.keys()].some((key) => !known.has(key)))
      throw new NotComputed(say().workbook.hidesValuesNewOnes());
    const order = inOrder(field, known, values);
    const items = order.map((key): Item => {
      const item = known.get(key)?.item;
      return {
        key,
        value: values.get(key) ?? null,
        isHidden: item?.isHidden ?? false,
        isCollapsed: item?.isCollapsed ?? false,
        caption: item?.caption,
      };
    });
    this.items.set(field.index, items);
    this.places.set(field.index, new Map(items.map(({ key }, at) => [key, at])));
  }

  private itemOf(field: PivotField, record: readonly Scalar[]): number {
    return this.places.get(field.index)?.get(itemKey(record[field.index])) ?? 0;
  }

  private isShown(record: readonly Scalar[]): boolean {
    const { chosen, fields } = this.pivot;
    if (chosen.some(({ index, key }) => itemKey(record[index]) !== key)) return false;
    return fields.every(
      (field) =>
        !isFiltering(this.pivot, field) ||
        !field.known?.some((item) => item.isHidden) ||
        !this.items.get(field.index)?.[this.itemOf(field, record)]?.isHidden,
    );
  }

  private add(record: readonly Scalar[]): void {
    const rowNodes = this.rows.nodes(this.pivot.rows.map((field) => this.itemOf(field, record)));
    const columnNodes = this.columns.nodes(this.pivot.columns.map((field) => this.itemOf(field, record)));
    for (const row of rowNodes)
      for (const column of columnNodes) {
        const key = `${row.id} ${column.id}`;
        let summaries = this.summaries.get(key);
        if (!summaries) {
          summaries = this.pivot.data.map(() => new Summary());
          this.summaries.set(key, summaries);
        }
        this.pivot.data.forEach((field, at) => {
          summaries[at].add(record[field.index]);
        });
      }
  }

  /** Items by the whole value of a data field; the tree keeps their numbers, so it is made anew. */
  private sortByValues(field: PivotField, records: readonly (readonly Scalar[])[]): void {
    const data = this.pivot.data[field.sortBy ?? 0];
    const items = this.items.get(field.index);
    if (!data || !items) throw new NotComputed(say().workbook.sortedValuesDoesShow());
    const totals = new Map<string, Summary>();
    for (const record of records) {
      const key = itemKey(record[field.index]);
      const total = totals.get(key) ?? new Summary();
      totals.set(key, total);
      total.add(record[data.index]);
    }
    const worth = (item: Item): Scalar => totals.get(item.key)?.result(data.summary) ?? 0;
    const sign = field.sort === "descending" ? -1 : 1;
    const sorted = [...items].sort((a, b) => sign * compareItems(worth(a), worth(b)) || compareItems(a.value, b.value));
    this.items.set(field.index, sorted);
    this.places.set(field.index, new Map(sorted.map(({ key }, at) => [key, at])));
    for (const axis of [this.rows, this.columns]) {
      axis.root.children.clear();
      axis.count = 1;
    }
    this.summaries.clear();
    for (const record of records) this.add(record);
  }

  private lines(axis: Axis, which: "rows" | "columns"): LaidLine[] {
    const lines: LaidLine[] = [];
    const { hasGrandRow, hasGrandColumn } = this.pivot;
    const push = (kind: LaidLine["kind"], path: readonly number[], hasValues = true): void => {
      if (lines.length >= MOST_LINES) throw new NotComputed(say().workbook.moreLinesSheetRoom());
      const before = lines.at(-1)?.path ?? [];
      const same = path.findIndex((item, at) => item !== before[at]);
      const shared = same < 0 ? path.length : same;
      const repeated = kind === "subtotal" ? path.length - 1 : Math.min(shared, path.length - 1);
      lines.push({ kind, path, repeated: Math.max(0, repeated), hasValues, data: 0 });
    };
    const walk = (node: Node, path: readonly number[], level: number): void => {
      const field = axis.fields[level];
      const items = this.items.get(field.index) ?? [];
      for (const child of [...node.children.values()].sort((a, b) => a.item - b.item)) {
        const own = [...path, child.item];
        if (level === axis.fields.length - 1 || items[child.item]?.isCollapsed) {
          push("item", own);
          continue;
        }
        const isOutline = which === "rows" && field.isOutline;
        const isOnTop = isOutline && field.isSubtotalOnTop && field.hasSubtotal;
        if (isOutline) push("item", own, isOnTop);
        walk(child, own, level + 1);
        if (field.hasSubtotal && !isOnTop) push("subtotal", own);
      }
    };
    if (axis.fields.length === 0) push("item", []);
    else {
      walk(axis.root, [], 0);
      if (which === "rows" ? hasGrandRow : hasGrandColumn) push("grand", []);
    }
    return lines;
  }

  private shown(field: PivotField, item: number): Scalar {
    const { value, caption } = this.items.get(field.index)?.[item] ?? { value: null, caption: undefined };
    return caption ?? value ?? this.words.blank;
  }

  private total(field: PivotField, item: number, word: string): string {
    const shown = this.shown(field, item);
    return `${shown instanceof CellError ? shown.name : shown} ${word}`;
  }

  private headings(columns: readonly LaidLine[]): LaidCell[] {
    const { pivot, words } = this;
    const { data, headRows, labelColumns } = pivot;
    const cells: LaidCell[] = [];
    const last = headRows - 1;
    const first = headRows - pivot.columns.length - (data.length > 1 ? 1 : 0);
    columns.forEach((line, at) => {
      const column = labelColumns + at;
      const name = data[line.data].name;
      if (pivot.columns.length === 0) cells.push({ row: last, column, value: name });
      else if (line.kind === "grand")
        cells.push({ row: first, column, value: data.length > 1 ? `${words.grandOf} ${name}` : words.grand });
      else if (line.kind === "subtotal") {
        const level = line.path.length - 1;
        const value = this.total(pivot.columns[level], line.path[level], data.length > 1 ? name : words.subtotal);
        cells.push({ row: first + level, column, value });
      } else {
        for (let level = line.repeated; level < line.path.length; level++)
          cells.push({ row: first + level, column, value: this.shown(pivot.columns[level], line.path[level]) });
        if (data.length > 1) cells.push({ row: last, column, value: name });
      }
    });
    return cells;
  }

  private labels(rows: readonly LaidLine[]): LaidCell[] {
    const { pivot, words } = this;
    return rows.flatMap((line, at): LaidCell[] => {
      const row = pivot.headRows + at;
      if (line.kind === "grand") return [{ row, column: 0, value: words.grand }];
      const column = (level: number): number => labelColumnOf(pivot.rows, level);
      const level = line.path.length - 1;
      if (line.kind === "subtotal")
        return [{ row, column: column(level), value: this.total(pivot.rows[level], line.path[level], words.subtotal) }];
      return line.path.flatMap((item, depth) => {
        const field = pivot.rows[depth];
        // A compact field's label stands in the line of its own, where that of the inner one would be.
        const isWritten = depth >= line.repeated || (field.repeatsLabels && !(field.isCompact && field.isOutline));
        return isWritten ? [{ row, column: column(depth), value: this.shown(field, item) }] : [];
      });
    });
  }

  private values(rows: readonly LaidLine[], columns: readonly LaidLine[]): LaidCell[] {
    const { pivot } = this;
    const columnNodes = columns.map((line) => this.columns.at(line.path));
    return rows.flatMap((line, down) => {
      const node = line.hasValues ? this.rows.at(line.path) : undefined;
      if (!node) return [];
      return columns.flatMap((column, across): LaidCell[] => {
        const other = columnNodes[across];
        const value = other ? this.valueAt(node.id, other.id, pivot.data[column.data], column.data) : null;
        const missing = pivot.missing === undefined ? null : missingValue(pivot.missing);
        const shown = value ?? missing;
        return shown === null
          ? []
          : [{ row: pivot.headRows + down, column: pivot.labelColumns + across, value: shown }];
      });
    });
  }

  private valueAt(row: number, column: number, field: DataField, data: number): Scalar {
    const result = (a: number, b: number): Scalar =>
      this.summaries.get(`${a} ${b}`)?.[data].result(field.summary) ?? null;
    const value = result(row, column);
    if (field.share === "none" || typeof value !== "number") return value;
    const whole = field.share === "row" ? result(row, 0) : field.share === "column" ? result(0, column) : result(0, 0);
    if (typeof whole !== "number") return whole;
    return whole === 0 ? CellError.of("#DIV/0!") : value / whole;
  }
}

/** Whether a field's hidden items leave out rows: only those that stand on the pivot do. */
function isFiltering(pivot: Pivot, field: PivotField): boolean {
  return pivot.rows.includes(field) || pivot.columns.includes(field) || pivot.filtering.includes(field.index);
}

function missingValue(caption: string): Scalar {
  return caption !== "" && Number.isFinite(Number(caption)) ? Number(caption) : caption;
}

/** Keys in the order of the list. */
function inOrder(
  field: PivotField,
  known: ReadonlyMap<string, { readonly item: KnownItem; readonly at: number }>,
  values: ReadonlyMap<string, Scalar>,
): string[] {
  const compare = (a: string, b: string): number => compareItems(values.get(a) ?? null, values.get(b) ?? null);
  const keys = [...values.keys()];
  const sign = field.sort === "descending" ? -1 : 1;
  if (field.sort !== "manual")
    return keys.sort((a, b) => (isBlank(a) || isBlank(b) ? compare(a, b) : sign * compare(a, b)));
  const kept = keys.filter((key) => known.has(key)).sort((a, b) => (known.get(a)?.at ?? 0) - (known.get(b)?.at ?? 0));
  const isSorted = kept.every((key, at) => at === 0 || compare(kept[at - 1], key) <= 0);
  const added = keys.filter((key) => !known.has(key)).sort(compare);
  // A list that nobody put in an order of its own stays a sorted one.
  return isSorted ? [...kept, ...added].sort(compare) : [...kept, ...added];
}

function isBlank(key: string): boolean {
  return key === "blank";
}
