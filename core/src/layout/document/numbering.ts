/** List numbers: ECMA-376 part 1, 17.9. */
import type { XmlElement } from "../../ooxml/index.js";
import type { Theme } from "../../spreadsheet/index.js";
import { type ParagraphProps, type RunProps, readParagraphProps, readRunProps } from "./props.js";

interface Level {
  readonly start: number;
  readonly format: string;
  readonly text: string;
  readonly suffix: string;
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
  readonly style: string | undefined;
}

export interface ListLabel {
  readonly text: string;
  readonly suffix: string;
  readonly paragraph: ParagraphProps;
  readonly run: RunProps;
}

/** Bullets of symbol fonts sit in the private area; these are the letters that look the same. */
const SYMBOLS: Readonly<Record<string, string>> = {
  "\uf0b7": "•",
  "\uf0a7": "▪",
  "\uf0d8": "➢",
  "\uf0fc": "✓",
  o: "○",
};

/** Counts the items of all lists of a document, in order. */
export class Numbering {
  private readonly lists = new Map<
    number,
    { abstract: number; levels: Map<number, Level>; overrides: Map<number, number> }
  >();
  private readonly counters = new Map<number, number[]>();

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
      for (const override of num.elements("lvlOverride")) {
        const start = override.child("startOverride")?.attr("w:val");
        if (start !== undefined) overrides.set(Number(override.attr("w:ilvl")), Number(start));
      }
      this.lists.set(Number(num.attr("w:numId")), {
        abstract,
        levels: abstracts.get(abstract) ?? new Map(),
        overrides,
      });
    }
  }

  /** Indents of a level, without counting. */
  paragraphProps(id: number, level: number): ParagraphProps {
    return this.lists.get(id)?.levels.get(level)?.paragraph ?? {};
  }

  /** The label of the next item. */
  next(id: number, level: number): ListLabel | undefined {
    const list = this.lists.get(id);
    const own = list?.levels.get(level);
    if (!list || !own) return undefined;
    // Lists of one abstract definition count on, unless a number restarts them.
    const key = list.overrides.size > 0 ? -id : list.abstract;
    const counters = this.counters.get(key) ?? [];
    this.counters.set(key, counters);
    counters[level] = counters[level] === undefined ? (list.overrides.get(level) ?? own.start) : counters[level] + 1;
    counters.length = level + 1;
    const text = own.text.replace(/%(\d)/g, (_, digit: string) => {
      const at = Number(digit) - 1;
      const format = list.levels.get(at)?.format ?? "decimal";
      return formatNumber(counters[at] ?? list.levels.get(at)?.start ?? 1, format);
    });
    return {
      text: own.format === "bullet" ? (SYMBOLS[text] ?? text) : text,
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
  };
}

/** A number in a format of 17.18.59; unknown ones are decimal. */
export function formatNumber(number: number, format: string): string {
  switch (format) {
    case "lowerLetter":
      return letters(number).toLowerCase();
    case "upperLetter":
      return letters(number);
    case "lowerRoman":
      return roman(number).toLowerCase();
    case "upperRoman":
      return roman(number);
    case "decimalZero":
      return String(number).padStart(2, "0");
    case "none":
      return "";
    default:
      return String(number);
  }
}

/** A, B, … Z, AA, BB, … as word processors count. */
function letters(number: number): string {
  return String.fromCharCode(65 + ((number - 1) % 26)).repeat(Math.floor((number - 1) / 26) + 1);
}

function roman(number: number): string {
  const values: readonly (readonly [number, string])[] = [
    [1000, "M"],
    [900, "CM"],
    [500, "D"],
    [400, "CD"],
    [100, "C"],
    [90, "XC"],
    [50, "L"],
    [40, "XL"],
    [10, "X"],
    [9, "IX"],
    [5, "V"],
    [4, "IV"],
    [1, "I"],
  ];
  let text = "";
  let rest = number;
  for (const [value, sign] of values) {
    while (rest >= value) {
      text += sign;
      rest -= value;
    }
  }
  return text;
}
