/** What two versions of a definition say differently, in words and by the step of the work it belongs to. */
import type { Path } from "./definition.js";
import { wordsFor } from "./field-words.js";
import { STEPS, type StepKey, stepOf } from "./steps.js";

export interface Change {
  readonly step: StepKey;
  /** The title of the step, for those who read. */
  readonly title: string;
  /** Such as "Files, statement, PDF: no → too". */
  readonly what: string;
}

/** Values are told as far as a line has room. */
const MOST = 80;

const isMap = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

function shown(value: unknown): string {
  const text = typeof value === "string" ? value : JSON.stringify(value);
  const line = text.replace(/\s+/g, " ").trim();
  return line.length > MOST ? `${line.slice(0, MOST - 2)} …` : line;
}

function nameOf(path: Path): string {
  return path
    .map((part, at) =>
      typeof part === "number" ? String(part + 1) : isOwnName(path, at) ? part : wordsFor(part, path.slice(0, at)),
    )
    .join(", ");
}

const NAMED = new Set([
  "files",
  "totals",
  "add",
  "lines",
  "languages",
  "cells",
  "tables",
  "headers",
  "narrow",
  "match",
]);
/** Names that somebody gave are told as they are. */
const isOwnName = (path: Path, at: number): boolean => NAMED.has(String(path[at - 1]));

export function changesBetween(before: unknown, now: unknown): Change[] {
  return differences(before, now, []).map(({ path, what }) => {
    const step = stepOf(path.slice(0, 2).join(", "));
    return { step, title: STEPS.find(({ key }) => key === step)?.title ?? "", what };
  });
}

function differences(before: unknown, now: unknown, path: Path): { path: Path; what: string }[] {
  if (JSON.stringify(before) === JSON.stringify(now)) return [];
  if (isMap(before) && isMap(now) && path.length < 6)
    return [...new Set([...Object.keys(before), ...Object.keys(now)])].flatMap((key) =>
      differences(before[key], now[key], [...path, key]),
    );
  const name = nameOf(path);
  if (before === undefined) return [{ path, what: `${name}: new, ${shown(now)}` }];
  if (now === undefined) return [{ path, what: `${name}: taken out (was ${shown(before)})` }];
  return [{ path, what: `${name}: ${shown(before)} → ${shown(now)}` }];
}
