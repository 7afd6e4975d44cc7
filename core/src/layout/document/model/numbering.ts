/** List numbers: ECMA-376 part 1, 17.9. */
import type { XmlElement } from "../../../ooxml/index.js";
import type { Theme } from "../../../spreadsheet/index.js";
import { formatNumber } from "../../text/numbers.js";
import type { ParagraphProps, RunProps } from "../../text/props.js";
import { readParagraphProps, readRunProps, toggle } from "./props.js";
import { SYMBOLS } from "./symbols.js";

interface Level {
  readonly start: number;
  readonly format: string;
  readonly text: string;
  readonly suffix: string;
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
  readonly style: string | undefined;
  /** All numbers in its text are shown as figures (17.9.4). */
  readonly isLegal: boolean;
  /** It starts again only after this level, counted from 1; 0 for never (17.9.10). */
  readonly restart: number | undefined;
  readonly align: string;
}

export interface ListLabel {
  readonly text: string;
  readonly suffix: string;
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
}

/** Counts the items of all lists of a document, in order. */
export class Numbering {
  private readonly lists = new Map<
    number,
    { abstract: number; levels: Map<number, Level>; overrides: Map<number, number> }
  >();
  private readonly counters = new Map<number, (number | undefined)[]>();

  constructor(xml: XmlElement | undefined, theme: Theme) {
    const abstracts = new Map<number, Map<number, Level>>();
    for (const abstract of xml?.elements("abstractNum") ?? []) {
      abstracts.set(
        Number(abstract.attr("w:abstractNumId")),
        new Map(abstract.elements("lvl").map((level) => [Number(level.attr("w:ilvl")), readLevel(level, theme)])),
      );
    }
    for (const num of xml?.elements("num") ?? []) {
      const abstract = Number(num.child("abstractNumId")?.attr("w:val"));
      const overrides = new Map<number, number>();
      const replaced = new Map<number, Level>();
      for (const override of num.elements("lvlOverride")) {
        const ilvl = Number(override.attr("w:ilvl"));
        const own = override.child("lvl");
        if (own) replaced.set(ilvl, readLevel(own, theme));
        const start = override.child("startOverride")?.attr("w:val");
        if (start !== undefined) overrides.set(Number(override.attr("w:ilvl")), Number(start));
      }
      this.lists.set(Number(num.attr("w:numId")), {
        abstract,
        levels: new Map([...(abstracts.get(abstract) ?? []), ...replaced]),
        overrides,
      });
    }
  }

  /** The level of a list that belongs to a paragraph style (17.9.23). */
  levelOf(id: number, style: string | undefined): number | undefined {
    for (const [number, level] of this.lists.get(id)?.levels ?? [])
      if (style !== undefined && level.style === style) return number;
    return undefined;
  }

  /** The label of the next item. */
  next(id: number, level: number): ListLabel | undefined {
    const list = this.lists.get(id);
    const own = list?.levels.get(level);
    if (!list || !own) return undefined;
    // Lists of one abstract definition count on, unless a number restarts them.
    const key = list.overrides.size > 0 ? -id : list.abstract;
    const counters: (number | undefined)[] = this.counters.get(key) ?? [];
    this.counters.set(key, counters);
    const before = counters[level];
    counters[level] = before === undefined ? (list.overrides.get(level) ?? own.start) : before + 1;
    for (let below = level + 1; below < counters.length; below++) {
      const restart = list.levels.get(below)?.restart;
      if (restart === undefined || level < restart) delete counters[below];
    }
    const text = own.text.replace(/%(\d)/g, (_, digit: string) => {
      const at = Number(digit) - 1;
      const format = own.isLegal ? "decimal" : (list.levels.get(at)?.format ?? "decimal");
      return formatNumber(counters[at] ?? list.levels.get(at)?.start ?? 1, format);
    });
    return {
      text: own.format === "bullet" ? (SYMBOLS[text] ?? (text === "o" ? "○" : text)) : text,
      suffix: own.suffix,
      paragraph: own.paragraph,
      run: own.run,
    };
  }
}

function readLevel(level: XmlElement, theme: Theme): Level {
  const value = (name: string): string | undefined => level.child(name)?.attr("w:val");
  const run = readRunProps(level.child("rPr"), theme);
  const format = value("numFmt") ?? "decimal";
  return {
    start: Number(value("start") ?? 1),
    format,
    text: value("lvlText") ?? "",
    suffix: value("suff") ?? "tab",
    paragraph: readParagraphProps(level.child("pPr"), theme),
    run:
      format === "bullet" && run.font && /symbol|wingdings|courier/i.test(run.font) ? { ...run, font: "Arial" } : run,
    style: value("pStyle"),
    isLegal: toggle(level, "isLgl") ?? false,
    restart: value("lvlRestart") === undefined ? undefined : Number(value("lvlRestart")),
    align: value("lvlJc") ?? "left",
  };
}
