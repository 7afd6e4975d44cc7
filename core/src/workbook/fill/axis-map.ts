/** Where the rows of a template's sheet lie in the filled sheet, or its columns: one axis of it. */
import { type Env, linesOf, withLine, withLines } from "../../expression/index.js";
import { repetitions } from "../../template/index.js";

/** Rows (or columns) of a template that are treated as one, both included, 0-based. */
export interface AxisSpan {
  readonly from: number;
  readonly to: number;
}

/** Cells beside each other in repeated rows that have a list of lines of their own. */
export interface Area extends AxisSpan {
  /** The folded name of its lines. */
  readonly lines: string;
  /** Which of them it shows; all without it. */
  readonly where?: ((env: Env, line: number) => boolean) | undefined;
}

export interface RepeatedSpan extends AxisSpan {
  /**
   * `line`: stands once for each line. `by`: once for each sub-group. `when`: once or not at all.
   * `dropped`: rows with nothing but the words of a structure.
   */
  readonly kind: "line" | "by" | "when" | "dropped";
  /** Of `line` and `by`: the folded name of the lines. */
  readonly lines: string;
  /** Of `line`: the areas across it; none for the whole width. */
  readonly areas: readonly Area[];
  /** Of `line` and `by`: which lines count. */
  readonly where?: ((env: Env, line: number) => boolean) | undefined;
  /** Of `by`: the sub-group's key for a line. */
  readonly by?: ((env: Env, line: number) => string) | undefined;
  /** Of `when`. */
  readonly test?: ((env: Env) => boolean) | undefined;
  readonly children: readonly RepeatedSpan[];
}

/** One step of the way to a repetition: which section, and which of its repetitions. */
export interface Repetition {
  readonly section: RepeatedSpan;
  readonly index: number;
}

/** The way to a place in repeated rows, from the outermost section on. */
export type Path = readonly Repetition[];

/** One repetition of a section, or the whole sheet. */
interface Container {
  /** The template's line it starts with, and where that lies. */
  readonly from: number;
  readonly start: number;
  readonly env: Env;
  readonly isVoid: boolean;
  readonly children: readonly Placed[];
}

/** A section with its repetitions. */
interface Placed {
  readonly section: RepeatedSpan;
  readonly start: number;
  readonly count: number;
  /** Lines of the filled sheet that all repetitions take. */
  readonly extent: number;
  readonly env: Env;
  readonly isVoid: boolean;
  /** Of a section for each line the lines of its areas, in their order. */
  readonly lists: readonly (readonly number[])[];
  /** Where repetitions differ from each other; else each is as high as the template's. */
  readonly instances: readonly Container[] | undefined;
}

/** A line of the filled sheet on its way to being written. */
export interface RowInstance {
  /** Its number in the filled sheet. */
  readonly out: number;
  readonly path: Path;
  /** What its cells look at, without a current line. */
  readonly env: Env;
  /** In a section for each line: the lines of the areas, what those are called, and which of them it is. */
  readonly lists: readonly (readonly number[])[] | undefined;
  readonly names: readonly string[];
  readonly areas: readonly Area[];
  readonly index: number;
  /** In a section that has no lines: blank. */
  readonly isVoid: boolean;
}

const NO_PATH: Path = [];

export class AxisMap {
  private readonly root: Container;
  /** Whether any line moves at all. */
  readonly moves: boolean;

  constructor(
    readonly sections: readonly RepeatedSpan[],
    env: Env,
  ) {
    const children = placeAll(sections, { from: 0, start: 0, env, isVoid: false });
    this.root = { from: 0, start: 0, env, isVoid: false, children };
    this.moves = children.some(isMoving);
  }

  /** The line in the filled sheet: on the given way, and where that ends at the first repetition. */
  at(line: number, path: Path = NO_PATH): number {
    return this.find(line, path, false);
  }

  /** As `at`, where the way ends at the last repetition. */
  last(line: number, path: Path = NO_PATH): number {
    return this.find(line, path, true);
  }

  private find(line: number, path: Path, last: boolean): number {
    let container = this.root;
    for (let level = 0; ; level++) {
      let shift = 0;
      let inside: Placed | undefined;
      for (const placed of container.children) {
        if (line < placed.section.from) break;
        if (line <= placed.section.to) {
          inside = placed;
          break;
        }
        shift += placed.extent - height(placed.section);
      }
      if (!inside) return container.start + line - container.from + shift;
      if (inside.count === 0) return Math.max(0, last ? inside.start - 1 : inside.start);
      const step = path[level];
      const isOnWay = step !== undefined && step.section === inside.section;
      const index = isOnWay ? step.index : last ? inside.count - 1 : 0;
      container = instanceOf(inside, index);
      if (!isOnWay) path = NO_PATH;
    }
  }

  /** The innermost section around a span, outermost first; not those that hold only a part of it. */
  around(span: AxisSpan): RepeatedSpan[] {
    const found: RepeatedSpan[] = [];
    let level = this.sections;
    for (;;) {
      const section = level.find((one) => span.from >= one.from && span.to <= one.to);
      if (!section) return found;
      found.push(section);
      level = section.children;
    }
  }

  /** The ways to all repetitions of nested sections. */
  paths(sections: readonly RepeatedSpan[]): Path[] {
    let found: { path: Path; container: Container }[] = [{ path: NO_PATH, container: this.root }];
    for (const section of sections) {
      found = found.flatMap(({ path, container }) => {
        const placed = container.children.find((child) => child.section === section);
        if (!placed) return [];
        return Array.from({ length: placed.count }, (_, index) => ({
          path: [...path, { section, index }],
          container: instanceOf(placed, index),
        }));
      });
    }
    return found.map(({ path }) => path);
  }

  /** Goes through the filled sheet for the template's given lines, in order. */
  walk(lines: readonly number[], visit: Walk["visit"], whole?: Walk["whole"]): void {
    walkIn({ lines, visit, whole }, this.root, { from: 0, to: lines.length }, NO_PATH, NO_LEAF);
  }
}

/** One going through: the template's lines, by their place in the list, and what is done at each. */
interface Walk {
  readonly lines: readonly number[];
  readonly visit: (index: number, spot: RowInstance) => void;
  /** May take all repetitions of a single line at once; `true` if it did. */
  readonly whole:
    | ((index: number, placed: { readonly start: number; readonly spot: RowInstance }) => boolean)
    | undefined;
}

/** What a section for each line gives its cells. */
type Leaf = Pick<RowInstance, "lists" | "names" | "areas" | "index">;

const NO_LEAF: Leaf = { lists: undefined, names: [], areas: [], index: 0 };

/** Lines `range` of the list, which stand in this container. */
function walkIn(walk: Walk, container: Container, range: AxisSpan, path: Path, leaf: Leaf): void {
  const { lines, visit } = walk;
  const { env, isVoid } = container;
  let shift = container.start - container.from;
  let child = 0;
  for (let index = range.from; index < range.to; ) {
    const line = lines[index];
    let placed = container.children[child];
    while (placed && placed.section.to < line) {
      shift += placed.extent - height(placed.section);
      placed = container.children[++child];
    }
    if (!placed || line < placed.section.from) {
      const { lists, names, areas } = leaf;
      visit(index, { out: line + shift, path, env, lists, names, areas, index: leaf.index, isVoid });
      index++;
      continue;
    }
    let end = index;
    while (end < range.to && lines[end] <= placed.section.to) end++;
    walkSection(walk, placed, { from: index, to: end }, path, leaf);
    index = end;
  }
}

function walkSection(walk: Walk, placed: Placed, range: AxisSpan, path: Path, outer: Leaf): void {
  const { section, count, isVoid, env, lists } = placed;
  const names = listed(section).map((one) => one.lines);
  const leafAt = (index: number): Leaf =>
    section.kind === "line" ? { lists, names, areas: section.areas, index } : outer;
  const isOneLine = section.kind === "line" && range.to - range.from === 1 && section.from === section.to;
  const spot = { out: 0, path, env, isVoid, ...leafAt(0) };
  if (isOneLine && !isVoid && walk.whole?.(range.from, { start: placed.start, spot })) return;
  for (let index = 0; index < count; index++)
    walkIn(walk, instanceOf(placed, index), range, [...path, { section, index }], leafAt(index));
}

/** Whether a section stands other than once, or something in it does. */
function isMoving(placed: Placed): boolean {
  return placed.count !== 1 || (placed.instances?.some(({ children }) => children.some(isMoving)) ?? false);
}

function height(span: AxisSpan): number {
  return span.to - span.from + 1;
}

function instanceOf(placed: Placed, index: number): Container {
  const { section, start, instances, env, isVoid } = placed;
  return (
    instances?.[index] ?? { from: section.from, start: start + index * height(section), env, isVoid, children: [] }
  );
}

function placeAll(sections: readonly RepeatedSpan[], container: Omit<Container, "children">): Placed[] {
  let shift = container.start - container.from;
  return sections.map((section) => {
    const placed = place(section, section.from + shift, container);
    shift += placed.extent - height(section);
    return placed;
  });
}

function place(section: RepeatedSpan, start: number, container: Omit<Container, "children">): Placed {
  const { env } = container;
  const base = { section, start, env, isVoid: container.isVoid, lists: [] };
  switch (section.kind) {
    case "dropped":
      return { ...base, count: 0, extent: 0, instances: undefined };
    case "when": {
      const isShown = container.isVoid || (section.test?.(env) ?? true);
      return isShown ? inTurn(base, [env]) : { ...base, count: 0, extent: 0, instances: undefined };
    }
    case "by": {
      const groups = repetitions({ lines: section.lines, where: section.where, by: section.by ?? (() => "") }, env);
      const isVoid = groups.length === 0;
      return inTurn(
        { ...base, isVoid: container.isVoid || isVoid },
        isVoid ? [withLines(env, section.lines, [])] : groups,
      );
    }
    case "line": {
      const lists = listed(section).map(({ lines, where }) => {
        const all = linesOf(env, lines).lines;
        return where ? all.filter((line) => where(env, line)) : all;
      });
      const most = Math.max(...lists.map((list) => list.length));
      const isVoid = container.isVoid || most === 0;
      const count = Math.max(1, most);
      if (section.children.length > 0) {
        const envs = Array.from({ length: count }, (_, index) => {
          const at = Math.max(
            0,
            lists.findIndex((list) => index < list.length),
          );
          return withLine(env, listed(section)[at].lines, lists[at][index] ?? -1);
        });
        return inTurn({ ...base, lists, isVoid }, envs);
      }
      return { ...base, lists, isVoid, count, extent: count * height(section), instances: undefined };
    }
  }
}

/** What has a list of lines in a section for each line: its areas, or the whole. */
function listed(section: RepeatedSpan): readonly Pick<Area, "lines" | "where">[] {
  return section.areas.length > 0 ? section.areas : [section];
}

/** Repetitions that may differ in height. */
function inTurn(base: Omit<Placed, "count" | "extent" | "instances">, envs: readonly Env[]): Placed {
  const { section, isVoid } = base;
  let { start } = base;
  const instances = envs.map((env): Container => {
    const container = { from: section.from, start, env, isVoid };
    const children = placeAll(section.children, container);
    start += children.reduce((sum, child) => sum + child.extent - height(child.section), height(section));
    return { ...container, children };
  });
  return { ...base, count: instances.length, extent: start - base.start, instances };
}

/** Both axes of a sheet. */
export interface SheetMap {
  readonly rows: AxisMap;
  readonly columns: AxisMap;
}

/** The place of a formula or reference in repeated rows and columns. */
export interface Instance {
  readonly rows: Path;
  readonly columns: Path;
}

export function movesAtAll(map: SheetMap): boolean {
  return map.rows.moves || map.columns.moves;
}
