/** A template's sheet several times, each with drawings, charts, tables and notes of its own. */
import { escapeXml, OFFICE_RELATIONS, type OoxmlPackage, relationshipsName } from "../../ooxml/index.js";
import type { Workbook } from "../../spreadsheet/index.js";
import { withoutTitles } from "../tools/values-only.js";

/** Parts that hang on one sheet alone; others, such as pictures, are shared. */
const OWN = new Set(["drawing", "chart", "table", "comments", "threadedComment", "vmlDrawing", "style", "colors"]);
/** Relationships that a copy does without: they tie a sheet to the data of elsewhere. */
const LEFT = new Set(["pivotTable", "queryTable", "slicer", "timeline"]);
const TYPES = "[Content_Types].xml";

export interface ClonedSheets {
  readonly package: OoxmlPackage;
  /** Names of the sheet and its copies in the package, in order. */
  readonly names: readonly string[];
}

/** The package with the sheet so many times in all, one after the other. */
export function cloneSheet(workbook: Workbook, sheet: number, count: number): ClonedSheets {
  const { package: opened, sheets } = workbook;
  const { name, part } = sheets[sheet];
  const cloning = new Cloning(opened);
  const names = [name];
  const parts: string[] = [];
  for (let copy = 1; copy < count; copy++) {
    const own = `${name} ~${copy + 1}`;
    names.push(own);
    parts.push(cloning.clone(part, (text) => renameIn(text, name, own)));
  }
  if (count > 1) {
    cloning.set(workbook.part, workbookPart(workbook, sheet, names, cloning.relate(workbook.part, parts)));
    for (const one of opened.names)
      if (one.endsWith("docProps/app.xml")) cloning.set(one, withoutTitles(opened.getText(one)));
  }
  return { package: cloning.finish(), names };
}

class Cloning {
  private readonly changes = new Map<string, Uint8Array | string>();
  private readonly overrides: string[] = [];
  /** Highest number of each kind of part's name. */
  private readonly numbers = new Map<string, number>();
  private tableId: number;
  private readonly tableNames = new Set<string>();

  constructor(private readonly opened: OoxmlPackage) {
    for (const name of opened.names) {
      const match = /^(.*?)(\d+)(\.[^./]+)$/.exec(name);
      if (match) this.raise(match[1] + match[3], Number(match[2]));
    }
    const tables = opened.names.filter((name) => /\/tables\/[^/]+\.xml$/.test(name)).map((name) => opened.getXml(name));
    this.tableId = Math.max(0, ...tables.map((table) => Number(table.attr("id") ?? 0)));
    for (const table of tables) this.tableNames.add((table.attr("displayName") ?? "").toLowerCase());
  }

  set(part: string, text: string): void {
    this.changes.set(part, text);
  }

  private raise(kind: string, number: number): void {
    this.numbers.set(kind, Math.max(this.numbers.get(kind) ?? 0, number));
  }

  private freeName(part: string): string {
    const match = /^(.*?)(\d*)(\.[^./]+)$/.exec(part);
    const [stem, ending] = match ? [match[1], match[3]] : [part, ""];
    const number = (this.numbers.get(stem + ending) ?? 1) + 1;
    this.numbers.set(stem + ending, number);
    return `${stem}${number}${ending}`;
  }

  /** A copy of a part with all that is its own; gives the copy's name. */
  clone(part: string, change: (text: string) => string): string {
    const { opened } = this;
    const name = this.freeName(part);
    const type = new RegExp(`<Override\\b[^>]*PartName="/${part.replace(/[.()[\]+]/g, "\\$&")}"[^>]*/>`).exec(
      opened.getText(TYPES),
    )?.[0];
    if (type) this.overrides.push(type.replace(`"/${part}"`, () => `"/${name}"`));
    let inside = change;
    const list = relationshipsName(part);
    if (opened.has(list)) {
      let text = opened.getText(list);
      for (const relation of opened.relationships(part)) {
        const tag = new RegExp(`<Relationship\\b[^>]*\\bId="${relation.id}"[^>]*/>`).exec(text)?.[0];
        if (!tag) continue;
        if (LEFT.has(relation.type)) text = text.replace(tag, "");
        else if (!relation.external && OWN.has(relation.type) && opened.has(relation.target)) {
          if (relation.type === "table") {
            const renamed = this.cloneTable(relation.target, change);
            text = text.replace(tag, () => retarget(tag, renamed.part));
            const before = inside;
            inside = (source) => renameTable(before(source), renamed.from, renamed.to);
          } else {
            const copy = this.clone(relation.target, change);
            text = text.replace(tag, () => retarget(tag, copy));
          }
        }
      }
      this.changes.set(relationshipsName(name), text);
    }
    // A sheet that was selected is so once.
    this.changes.set(
      name,
      inside(opened.getText(part)).replace(/(<(?:\w+:)?sheetView\b[^>]*?)\stabSelected="1"/, "$1"),
    );
    return name;
  }

  private cloneTable(part: string, change: (text: string) => string): { part: string; from: string; to: string } {
    const root = this.opened.getXml(part);
    const from = root.attr("displayName") ?? "";
    let to = from;
    for (let number = 2; this.tableNames.has(to.toLowerCase()); number++) to = `${from}_${number}`;
    this.tableNames.add(to.toLowerCase());
    const id = String(++this.tableId);
    const name = this.clone(part, (text) => {
      const renamed = renameTable(change(text), from, to);
      return renamed.replace(/<(?:\w+:)?table\b[^>]*>/, (open) =>
        open
          .replace(/\sid="\d+"/, ` id="${id}"`)
          .replace(/\sname="[^"]*"/, () => ` name="${escapeXml(to)}"`)
          .replace(/\sdisplayName="[^"]*"/, () => ` displayName="${escapeXml(to)}"`)
          .replace(/\sxr:uid="[^"]*"/, ""),
      );
    });
    return { part: name, from, to };
  }

  /** Relationships from the workbook to the copies; gives their ids. */
  relate(part: string, targets: readonly string[]): string[] {
    const list = relationshipsName(part);
    const ids = targets.map((_, at) => `rIdCopy${at + 1}`);
    const type = `${OFFICE_RELATIONS}/worksheet`;
    const added = targets.map((target, at) => `<Relationship Id="${ids[at]}" Type="${type}" Target="/${target}"/>`);
    this.changes.set(
      list,
      this.opened.getText(list).replace(/<\/(?:\w+:)?Relationships>/, (end) => added.join("") + end),
    );
    return ids;
  }

  finish(): OoxmlPackage {
    if (this.overrides.length > 0)
      this.changes.set(
        TYPES,
        this.opened.getText(TYPES).replace(/<\/(?:\w+:)?Types>/, (end) => this.overrides.join("") + end),
      );
    return this.changes.size > 0 ? this.opened.with(this.changes) : this.opened;
  }
}

/** Relative to the same folder as before, as nearly all targets are. */
function retarget(tag: string, part: string): string {
  return tag.replace(/\sTarget="([^"]*)"/, (_, target: string) =>
    target.startsWith("/")
      ? ` Target="/${part}"`
      : ` Target="${target.slice(0, target.lastIndexOf("/") + 1)}${part.slice(part.lastIndexOf("/") + 1)}"`,
  );
}

function renameTable(text: string, from: string, to: string): string {
  if (from === "" || from === to) return text;
  return text.replace(new RegExp(`(?<![\\w.])${from.replace(/[.\\]/g, "\\$&")}(?=\\[)`, "g"), () => to);
}

/** What names its own sheet names the copy. */
function renameIn(text: string, from: string, to: string): string {
  const quoted = (name: string): string => `'${name.replaceAll("'", "''")}'!`;
  const target = escapeXml(quoted(to));
  return text
    .replace(new RegExp(written(quoted(from)), "g"), () => target)
    .replace(new RegExp(`(?<![\\w.'])${written(`${from}!`)}`, "g"), () => target);
}

/** Signs that a part may write plainly or by name or number. */
const WRITTEN: Readonly<Record<string, string>> = {
  "'": "(?:'|&apos;|&#39;|&#x27;)",
  '"': '(?:"|&quot;|&#34;|&#x22;)',
  ">": "(?:>|&gt;)",
  "<": "&lt;",
  "&": "(?:&amp;|&#38;|&#x26;)",
};

/** A pattern for a text however a part writes it. */
function written(text: string): string {
  return text.replace(/[.*+?^${}()|[\]\\'"<>&]/g, (sign) => WRITTEN[sign] ?? `\\${sign}`);
}

/** The workbook's part with the copies behind their sheet; what counts sheets counts on. */
function workbookPart(workbook: Workbook, sheet: number, names: readonly string[], ids: readonly string[]): string {
  const source = workbook.package.getText(workbook.part);
  const added = names.length - 1;
  const highest = Math.max(...[...source.matchAll(/\ssheetId="(\d+)"/g)].map((match) => Number(match[1])));
  let at = -1;
  const moved = (index: string): string => String(Number(index) > sheet ? Number(index) + added : Number(index));
  return source
    .replace(/<(?:\w+:)?sheet\s[^>]*\/>/g, (tag) => {
      at++;
      if (at !== sheet) return tag;
      // As the first is written: its prefixes may be declared on itself.
      const copies = ids.map((id, copy) =>
        tag
          .replace(/\sname="[^"]*"/, () => ` name="${escapeXml(names[copy + 1])}"`)
          .replace(/\ssheetId="[^"]*"/, ` sheetId="${highest + copy + 1}"`)
          .replace(/(\s\w+:id=")[^"]*"/, (_, start: string) => `${start}${id}"`),
      );
      return tag + copies.join("");
    })
    .replace(/\s(activeTab|firstSheet)="(\d+)"/g, (_, name: string, index: string) => ` ${name}="${moved(index)}"`)
    .replace(
      /<((?:\w+:)?definedName)(\s[^>]*)>([^<]*)<\/\1>/g,
      (whole, element: string, attributes: string, formula: string) => {
        const local = /\slocalSheetId="(\d+)"/.exec(attributes)?.[1];
        if (local === undefined) return whole;
        const own = attributes.replace(/\slocalSheetId="\d+"/, ` localSheetId="${moved(local)}"`);
        const first = `<${element}${own}>${formula}</${element}>`;
        if (Number(local) !== sheet) return first;
        const copies = names.slice(1).map((name, copy) => {
          const index = attributes.replace(/\slocalSheetId="\d+"/, ` localSheetId="${sheet + copy + 1}"`);
          return `<${element}${index}>${renameIn(formula, names[0], name)}</${element}>`;
        });
        return first + copies.join("");
      },
    );
}
