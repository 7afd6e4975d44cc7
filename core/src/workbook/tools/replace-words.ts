/** Words replaced in the cells of a workbook; everything else stays as it is, letter for letter. */
import { escapeXml, type OoxmlPackage, unescapeXml } from "../../ooxml/index.js";
import { cellName, openWorkbook, scanCells, type Workbook } from "../../spreadsheet/index.js";

/** A word, and what stands in its place. */
export interface WordPair {
  readonly from: string;
  readonly to: string;
}

export interface WordRule {
  /** Looked for all at once: what one puts in is no other's word. Where two begin in one place the longer one counts. */
  readonly pairs: readonly WordPair[];
  /** Only whole words, not parts of longer ones. */
  readonly whole?: boolean;
  /** Without regard to capitals. */
  readonly anyCase?: boolean;
}

export interface ReplacedCell {
  readonly sheet: string;
  readonly cell: string;
  readonly before: string;
  readonly after: string;
}

export interface Replaced {
  readonly package: OoxmlPackage;
  readonly cells: readonly ReplacedCell[];
}

/**
 * Replaces words in all texts of cells. Rich text keeps its looks: a word over several runs takes those of its first.
 * Formulas, their results, names, headers and comments are left. Throws `NOT_A_WORKBOOK` or `BROKEN_PACKAGE`.
 */
export function replaceWords(bytes: Uint8Array, where: string, rule: WordRule): Replaced {
  const workbook = openWorkbook(bytes, where);
  const opened = workbook.package;
  const words = new Words(rule);
  const changes = new Map<string, string>();
  const shared = new Map<number, { before: string; after: string }>();
  const part = opened.relationships(workbook.part).find((relation) => relation.type === "sharedStrings")?.target;
  if (part !== undefined && opened.has(part)) {
    let at = -1;
    const text = opened.getText(part).replace(ITEM, (item) => {
      at++;
      const replaced = replaceInItem(item, words);
      if (!replaced) return item;
      shared.set(at, replaced);
      return replaced.xml;
    });
    if (shared.size > 0) changes.set(part, text);
  }
  const cells = workbook.sheets
    .filter((sheet) => sheet.kind === "worksheet" && opened.has(sheet.part))
    .flatMap((sheet) => replaceInSheet(workbook, sheet, { shared, words, changes }));
  return { package: changes.size === 0 ? opened : opened.with(changes), cells };
}

const ITEM = /<((?:\w+:)?)si(?:\s[^>]*)?(?:\/>|>[\s\S]*?<\/\1si>)/g;
const INLINE = /<((?:\w+:)?)is(?:\s[^>]*)?>[\s\S]*?<\/\1is>/g;

/** What is looked for, and what each becomes. */
class Words {
  readonly pattern: RegExp;
  private readonly targets: ReadonlyMap<string, string>;

  constructor(private readonly rule: WordRule) {
    const sorted = [...rule.pairs].sort((a, b) => b.from.length - a.from.length);
    this.targets = new Map(sorted.map(({ from, to }) => [this.keyOf(from), to]));
    const any = sorted.map(({ from }) => from.replace(/[.*+?^${}()|[\]\\]/g, "\\$&")).join("|");
    const letters = "[\\p{L}\\p{M}\\p{N}_]";
    this.pattern = new RegExp(
      rule.whole ? `(?<!${letters})(?:${any})(?!${letters})` : any,
      rule.anyCase ? "giu" : "gu",
    );
  }

  /** What a text that was found becomes. */
  target(found: string): string {
    return this.targets.get(this.keyOf(found)) ?? found;
  }

  private keyOf(word: string): string {
    return this.rule.anyCase ? word.toLowerCase() : word;
  }
}

function replaceInSheet(
  workbook: Workbook,
  sheet: Workbook["sheets"][number],
  work: {
    readonly shared: ReadonlyMap<number, { before: string; after: string }>;
    readonly words: Words;
    readonly changes: Map<string, string>;
  },
): ReplacedCell[] {
  const cells: ReplacedCell[] = [];
  let hasInline = false;
  scanCells(workbook.package.getBytes(sheet.part), (cell) => {
    const at = { sheet: sheet.name, cell: cellName(cell.row, cell.column) };
    if (cell.type === "s") {
      const found = work.shared.get(Number(cell.value));
      if (found) cells.push({ ...at, before: found.before, after: found.after });
    } else if (cell.type === "inlineStr") {
      const before = cell.value ?? "";
      const after = before.replace(work.words.pattern, (found) => work.words.target(found));
      if (after === before) return;
      hasInline = true;
      cells.push({ ...at, before, after });
    }
  });
  if (hasInline) {
    const text = workbook.package.getText(sheet.part);
    work.changes.set(
      sheet.part,
      text.replace(INLINE, (item) => replaceInItem(item, work.words)?.xml ?? item),
    );
  }
  return cells;
}

/** A string item with its words replaced; `undefined` where none is in it. */
function replaceInItem(
  item: string,
  words: Words,
): { readonly xml: string; readonly before: string; readonly after: string } | undefined {
  // Phonetic guides stand beside the text and are no part of it.
  const texts = [
    ...item.replace(/<((?:\w+:)?)rPh[\s>][\s\S]*?<\/\1rPh>/g, (guide) => " ".repeat(guide.length)).matchAll(TEXT),
  ];
  const runs = texts.map((match) => unescapeXml(match[2] ?? ""));
  const before = runs.join("");
  const matches = [...before.matchAll(words.pattern)].filter((match) => match[0] !== "");
  if (matches.length === 0) return undefined;
  const changed = replaceOverRuns(runs, matches, words);
  let xml = "";
  let from = 0;
  texts.forEach((match, at) => {
    const prefix = match[1];
    const text = changed[at];
    const space = /^\s|\s$|\n/.test(text) ? ' xml:space="preserve"' : "";
    xml += `${item.slice(from, match.index)}<${prefix}t${space}>${escapeXml(text)}</${prefix}t>`;
    from = match.index + match[0].length;
  });
  return { xml: xml + item.slice(from), before, after: changed.join("") };
}

const TEXT = /<((?:\w+:)?)t(?:\s[^>]*)?(?:\/>|>([^<]*)<\/\1t>)/g;

/** Each match is put into the run it begins in, and taken out of those it goes on in. */
function replaceOverRuns(runs: readonly string[], matches: readonly RegExpMatchArray[], words: Words): string[] {
  const changed: string[] = [];
  let start = 0;
  for (const run of runs) {
    const end = start + run.length;
    let text = "";
    let at = start;
    for (const match of matches) {
      const from = match.index ?? 0;
      const until = from + match[0].length;
      if (until <= start || from >= end) continue;
      if (from > at) text += run.slice(at - start, from - start);
      if (from >= start) text += words.target(match[0]);
      at = Math.min(until, end);
    }
    changed.push(text + run.slice(at - start));
    start = end;
  }
  return changed;
}
