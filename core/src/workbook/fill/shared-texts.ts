/** Texts put into a filled workbook's table of shared strings (ECMA-376 part 1, 18.4). */
import type { Workbook } from "../../spreadsheet/index.js";
import { textElement } from "./cell-xml.js";

/** The template's table, cut where new strings go; read once for all fillings. */
export interface SharedTable {
  readonly part: string;
  readonly before: string;
  readonly after: string;
  readonly prefix: string;
  readonly count: number;
  /** Texts as they are written, escaped once for all fillings. */
  readonly written: Map<string, string>;
}

/** More different texts than this are not kept from one filling to the next. */
const KEPT_TEXTS = 50_000;

/** The table of a workbook; `undefined` where it has none, or one that cannot be added to. */
export function sharedTable(workbook: Workbook): SharedTable | undefined {
  const part = workbook.package
    .relationships(workbook.part)
    .find((relation) => relation.type === "sharedStrings")?.target;
  if (part === undefined || !workbook.package.has(part)) return undefined;
  const text = workbook.package.getText(part);
  const root = /<((?:\w+:)?)sst\b[^>]*>/.exec(text);
  const end = text.lastIndexOf("</");
  if (!root || root[0].endsWith("/>") || end < root.index) return undefined;
  // The counts are optional, and would be wrong.
  const open = root[0].replace(/\s(?:uniqueCount|count)="\d*"/g, "");
  return {
    part,
    before: text.slice(0, root.index) + open + text.slice(root.index + root[0].length, end),
    after: text.slice(end),
    prefix: root[1],
    count: workbook.sharedStrings.length,
    written: new Map(),
  };
}

/** The texts one filling adds. */
export class AddedTexts {
  private readonly indexes = new Map<string, number>();
  private readonly items: string[] = [];

  constructor(private readonly table: SharedTable) {}

  /** Index of a text in the filled workbook's table. */
  index(text: string): number {
    let index = this.indexes.get(text);
    if (index === undefined) {
      index = this.table.count + this.items.length;
      this.indexes.set(text, index);
      this.items.push(this.item(text));
    }
    return index;
  }

  private item(text: string): string {
    const { written, prefix } = this.table;
    let item = written.get(text);
    if (item === undefined) {
      item = `<${prefix}si>${textElement(prefix, text)}</${prefix}si>`;
      if (written.size < KEPT_TEXTS) written.set(text, item);
    }
    return item;
  }

  /** The table with what was added; `undefined` where nothing was. */
  part(): { readonly name: string; readonly text: string } | undefined {
    if (this.items.length === 0) return undefined;
    const { part, before, after } = this.table;
    return { name: part, text: before + this.items.join("") + after };
  }
}
