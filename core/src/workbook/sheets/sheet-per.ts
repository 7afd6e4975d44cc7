/** A workbook with a sheet for each sub-group of the lines, cloned from a template's sheet, and a contents sheet. */

import { LRUCache } from "lru-cache";
import { CorbixError, columnKey, Exact, groupKey, suggestName } from "../../common/index.js";
import {
  compileExpression,
  DateValue,
  type Env,
  type Expression,
  isEmpty,
  OWN_LINES,
  type Scope,
  showValue,
  withLines,
} from "../../expression/index.js";
import type { OoxmlPackage } from "../../ooxml/index.js";
import { workbookFromPackage } from "../../spreadsheet/index.js";
import { type BoundText, parseTextTemplate } from "../../template/index.js";
import { say } from "../../words/index.js";
import { BoundWorkbook, type FilledWorkbook } from "../fill/fill.js";
import { WorkbookTemplate } from "../template/template.js";
import { cloneSheet } from "./clone-sheet.js";
import { addContents, type ContentsRow } from "./contents-sheet.js";
import { uniqueNames } from "./sheet-name.js";

export interface SheetPerSpec {
  /** Column or expression over a line; each different value gets a sheet, in order of the lines. */
  readonly by: string;
  /** The template's sheet that is cloned; the first if none is named. */
  readonly sheet?: string | undefined;
  /** Name of each sheet, with marks; the value if there is none. */
  readonly name?: string | undefined;
  readonly contents?: { readonly sheet: string; readonly title?: string | undefined } | undefined;
}

export interface NamedTotal {
  readonly name: string;
  readonly expression: Expression;
}

/** More sheets make no workbook that anybody could open. */
const MAX_SHEETS = 2000;
/** Cloned and bound templates kept, by number of sheets. */
const KEPT = 16;

export class SheetPerGroup {
  private readonly by: Expression;
  private readonly sheet: number;
  private readonly name: BoundText | undefined;
  private readonly title: BoundText | undefined;
  private readonly bound = new LRUCache<number, { book: BoundWorkbook; indexes: readonly number[] }>({ max: KEPT });

  /** Throws `BAD_DEFINITION` for a sheet there is not, `BAD_EXPRESSION` and `BAD_MARK` with the place. */
  constructor(
    private readonly opened: OoxmlPackage,
    private readonly spec: SheetPerSpec,
    private readonly scope: Scope,
    private readonly totals: readonly NamedTotal[],
    where: string,
  ) {
    const { sheets } = workbookFromPackage(opened);
    this.by = compileExpression(spec.by, scope);
    this.name = spec.name === undefined ? undefined : parseTextTemplate(spec.name, `${where}, name`).bind(scope);
    const title = spec.contents?.title;
    this.title = title === undefined ? undefined : parseTextTemplate(title, `${where}, contents, title`).bind(scope);
    const { sheet: wanted = sheets[0].name } = spec;
    this.sheet = sheets.findIndex((one) => columnKey(one.name) === columnKey(wanted));
    if (this.sheet < 0)
      throw new CorbixError("BAD_DEFINITION", say().workbook.cannotFindSheetTemplate({ wanted }), {
        where: `${where}, sheet`,
        advice: suggestName(
          wanted,
          sheets.map((one) => one.name),
          "sheets",
        ),
      });
    // What is wrong with the template shows before any group is made.
    this.bindFor(1);
  }

  /** `finish` may change each sheet's XML, given its lines. */
  fill(env: Env, finish?: (xml: string, env: Env) => string): FilledWorkbook {
    const groups = this.groupsOf(env);
    if (groups.length > MAX_SHEETS)
      throw new CorbixError(
        "LIMIT_EXCEEDED",
        say().workbook.cannotMakeSheetsExpectedMost({ groupCount: groups.length, maxSheets: MAX_SHEETS }),
        {
          advice: say().workbook.makeFilePerGroupInstead(),
        },
      );
    const { book, indexes } = this.bindFor(Math.max(1, groups.length));
    const names = uniqueNames(
      groups.map((group) => this.name?.fill(group.env) ?? group.label),
      this.otherSheets(),
    );
    const own = new Map(indexes.map((sheet, at) => [sheet, { env: groups[at]?.env ?? env, name: names[at] }]));
    const filled = book.fill(env, own);
    const workbook = workbookFromPackage(filled.package);
    let made = filled.package;
    if (finish) {
      const changed = indexes.map((sheet, at): [string, string] => {
        const { part } = workbook.sheets[sheet];
        return [part, finish(made.getText(part), groups[at]?.env ?? env)];
      });
      made = made.with(new Map(changed));
    }
    const { contents } = this.spec;
    if (!contents) return { ...filled, package: made };
    const rows = groups.map((group, at) => this.contentsRow(names[at], group.env));
    const whole = this.contentsRow("", env);
    const heads = this.totals.map((total) => total.name);
    const title = this.title?.fill(env);
    return { ...filled, package: addContents(made, { sheet: contents.sheet, title, heads, rows, whole }) };
  }

  private bindFor(count: number): { book: BoundWorkbook; indexes: readonly number[] } {
    const known = this.bound.get(count);
    if (known) return known;
    const cloned = cloneSheet(workbookFromPackage(this.opened), this.sheet, count);
    const template = WorkbookTemplate.of(workbookFromPackage(cloned.package), {
      further: Object.keys(this.scope.further ?? {}),
    });
    const indexes = cloned.names.map((_, at) => this.sheet + at);
    const made = { book: new BoundWorkbook(template, this.scope), indexes };
    this.bound.set(count, made);
    return made;
  }

  private otherSheets(): string[] {
    const others = workbookFromPackage(this.opened)
      .sheets.filter((_, at) => at !== this.sheet)
      .map((sheet) => sheet.name);
    return this.spec.contents ? [...others, this.spec.contents.sheet] : others;
  }

  private groupsOf(env: Env): { label: string; env: Env }[] {
    const groups = new Map<string, { label: string; lines: number[] }>();
    for (const line of env.lines) {
      const value = this.by.evaluate({ ...env, lines: [line], row: line });
      const label = isEmpty(value) ? "blank" : showValue(value, undefined, env.locale);
      const key = groupKey(label);
      const known = groups.get(key);
      if (known) known.lines.push(line);
      else groups.set(key, { label, lines: [line] });
    }
    return [...groups.values()].map(({ label, lines }) => ({ label, env: withLines(env, OWN_LINES, lines) }));
  }

  private contentsRow(name: string, env: Env): ContentsRow {
    const totals = this.totals.map(({ expression }) => {
      const value = expression.evaluate(env);
      if (value instanceof Exact) return value.toNumber();
      return value instanceof DateValue ? value.serial : typeof value === "number" ? value : String(value ?? "");
    });
    return { name, lines: env.lines.length, totals };
  }
}
