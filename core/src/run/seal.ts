/** The seal: no file or message of one group holds the name of another. */

import { type Finding, groupKey, textFromBytes } from "../common/index.js";
import { OoxmlPackage, unescapeXml } from "../ooxml/index.js";
import { say } from "../words/index.js";

/** Names shorter than this are words like any other, and cannot be searched for. */
const SHORTEST = 3;
/** Packages within packages are looked into so deep. */
const DEEPEST = 3;

/** A place where another group's name stands. */
export interface Leak {
  readonly place: string;
  readonly name: string;
}

/** The names that share their first words, by the word that follows. */
interface NameStep {
  readonly next: Map<string, NameStep>;
  /** Names that end here. */
  readonly ending: string[];
}

/** The names of all groups of a run, ready to be searched for: once for all files. */
export class Seal {
  /** Names word by word: each step of a search is one look-up, however many names begin alike. */
  private readonly begin: NameStep = { next: new Map(), ending: [] };
  /** Names that are too short to be told from other words. */
  readonly tooShort: readonly string[];

  constructor(names: readonly string[]) {
    const short: string[] = [];
    for (const name of names) {
      const words = wordsOf(name);
      if (words.join("").length < SHORTEST) {
        short.push(name);
        continue;
      }
      let step = this.begin;
      for (const word of words) {
        const next = step.next.get(word) ?? { next: new Map(), ending: [] };
        step.next.set(word, next);
        step = next;
      }
      step.ending.push(name);
    }
    this.tooShort = short;
  }

  /** Places in a package, in any part, where another group's name stands. */
  inPackage(opened: OoxmlPackage, own: string, place = "", depth = 0): Leak[] {
    const leaks: Leak[] = [];
    for (const part of opened.names) {
      const at = place === "" ? part : `${place}, ${part}`;
      const bytes = opened.getBytes(part);
      if (bytes[0] === 0x50 && bytes[1] === 0x4b && depth < DEEPEST)
        leaks.push(...this.inPackage(OoxmlPackage.open(bytes, at), own, at, depth + 1));
      else if (/\.(xml|rels|vml|txt|csv|html?)$/i.test(part)) leaks.push(...this.inXml(textFromBytes(bytes), own, at));
    }
    return leaks;
  }

  /** In markup: as it stands, and as it reads when a name is broken over several runs. */
  private inXml(source: string, own: string, place: string): Leak[] {
    const apart = this.inText(unescapeXml(source), own, place);
    if (!/<(?:\w+:)?r[\s>]/.test(source)) return apart;
    const joined = this.inText(unescapeXml(source.replace(/<(?!\/(?:\w+:)?(?:p|si|c|tc)>)[^>]*>/g, "")), own, place);
    return [...apart, ...joined.filter((leak) => !apart.some((known) => known.name === leak.name))];
  }

  inText(text: string, own: string, place: string): Leak[] {
    const ownWords = wordsOf(own);
    const words = wordsOf(text);
    const found = new Set<string>();
    for (let start = 0; start < words.length; start++) {
      let step = this.begin.next.get(words[start]);
      for (let at = start + 1; step; at++) {
        // A part of the group's own name is no other group's.
        if (step.ending.length > 0 && !holds(ownWords, words.slice(start, at)))
          for (const name of step.ending) found.add(name);
        step = step.next.get(words[at]);
      }
    }
    return [...found].map((name) => ({ place, name }));
  }
}

function wordsOf(text: string): string[] {
  return groupKey(text)
    .split(/[^\p{L}\p{M}\p{N}]+/u)
    .filter((word) => word !== "");
}

function startsAt(words: readonly string[], at: number, wanted: readonly string[]): boolean {
  for (let index = 0; index < wanted.length; index++) if (words[at + index] !== wanted[index]) return false;
  return true;
}

function holds(words: readonly string[], wanted: readonly string[]): boolean {
  return words.some((_, at) => startsAt(words, at, wanted));
}

/** A leak stops the run: nothing goes out until somebody has looked. */
export function leakFindings(leaks: readonly Leak[], what: string): Finding[] {
  return leaks.map(({ place, name }) => ({
    code: "other-group-inside",
    severity: "stop",
    where: place === "" ? what : `${what}, ${place}`,
    what: say().run.nameAnotherGroupStandsInside({ name }),
    advice: say().run.doSendTakeOutTemplate(),
  }));
}
