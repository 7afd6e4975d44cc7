/** Help while a definition is written as text: where a trouble stands, and what can stand at a place. */
import { isMap, isScalar, isSeq, parseDocument } from "yaml";
import { type Known, optionsFor } from "./choices.js";
import type { Path } from "./definition.js";
import { wordsFor } from "./field-words.js";
import { kindOf, type Schema, schemaAt, shapesOf, valuesOf } from "./schema.js";

/** A stretch of a text: offsets in UTF-16 units, `to` not in it. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** @returns Where the field stands that a problem names, such as `files, statement, name`; the first line if none does. */
export function placeOf(text: string, where: string): Stretch {
  const words = where.replace(/^definition,\s*|^step \d+,\s*/, "").split(/[.,:]?\s+|[.,:]/);
  let found: Stretch = { from: 0, to: Math.max(0, text.search(/\n|$/)) };
  let node: unknown = parseDocument(text).contents;
  for (const word of words) {
    if (isMap(node)) {
      const pair = node.items.find(({ key }) => isScalar(key) && String(key.value) === word);
      if (!pair || !isScalar(pair.key) || !pair.key.range) break;
      const value = isScalar(pair.value) ? pair.value.range : undefined;
      found = { from: pair.key.range[0], to: value ? value[1] : pair.key.range[1] };
      node = pair.value;
    } else if (isSeq(node)) {
      node = node.items[Number(word) - 1];
    } else break;
  }
  return found;
}

/** Something that can stand at a place. */
export interface Offer {
  readonly label: string;
  /** What it is called by those who do not write. */
  readonly detail?: string;
  readonly text: string;
}

/** @returns What can stand where the cursor is, and from where on it takes the place of what is there; nothing where anything can. */
export function offersAt(
  text: string,
  cursor: number,
  schema: Schema,
  known: Known,
): { readonly from: number; readonly offers: readonly Offer[] } | undefined {
  const start = text.lastIndexOf("\n", cursor - 1) + 1;
  const before = text.slice(start, cursor);
  const lines = text.slice(0, start).split("\n").slice(0, -1);
  const inBraces = /^(\s*(?:- )?)([\w-]+):\s*\{(.*)$/.exec(before);
  if (inBraces && !inBraces[3].includes("}")) {
    const path = [...pathAt(lines, inBraces[1]), inBraces[2]];
    const part = inBraces[3].slice(inBraces[3].lastIndexOf(",") + 1);
    return offersFor(part.trimStart(), cursor, path, schema, known);
  }
  const [lead = ""] = /^\s*(?:- )?/.exec(before) ?? [];
  return offersFor(before.slice(lead.length), cursor, pathAt(lines, lead), schema, known);
}

/** The fields that lead to a line, by the indentation of those above it. `lead` are the line's own blanks and its dash. */
function pathAt(lines: readonly string[], lead: string): Path {
  const path: (string | number)[] = [];
  // Keys left of this column hold the line; one that begins an item may stand at the column itself.
  let width = lead.length;
  const enterItem = (dash: number): void => {
    path.unshift(0);
    // The key of a list may stand as far right as its dashes.
    width = dash + 1;
  };
  if (lead.endsWith("- ")) enterItem(lead.length - 2);
  for (let at = lines.length - 1; at >= 0 && width > 0; at--) {
    const [found, blanks = "", dash = "", name = ""] = /^(\s*)(- )?([\w-]+):/.exec(lines[at]) ?? [];
    if (found === undefined) continue;
    const column = blanks.length + dash.length;
    if (column < width) {
      path.unshift(name);
      width = column;
      if (dash !== "") enterItem(blanks.length);
    } else if (column === width && dash !== "") enterItem(blanks.length);
  }
  return path;
}

function offersFor(
  written: string,
  cursor: number,
  path: Path,
  schema: Schema,
  known: Known,
): { readonly from: number; readonly offers: readonly Offer[] } | undefined {
  const field = /^([\w-]+):\s+(\S*)$/.exec(written);
  if (field) {
    const at = [...path, field[1]];
    const offers = valuesAt(at, schemaAt(schema, at), known);
    return offers.length > 0 ? { from: cursor - field[2].length, offers } : undefined;
  }
  if (!/^[\w-]*$/.test(written)) return;
  const here = schemaAt(schema, path);
  const fields = here ? [here, ...shapesOf(here)].flatMap((one) => Object.keys(one.properties ?? {})) : [];
  const names = [...new Set(fields)].map((name) => ({ label: name, detail: wordsFor(name), text: `${name}: ` }));
  const offers = [...names, ...(path.at(-1) === 0 ? valuesAt(path, here, known) : [])];
  return offers.length > 0 ? { from: cursor - written.length, offers } : undefined;
}

function valuesAt(path: Path, schema: Schema | undefined, known: Known): Offer[] {
  const shapes = schema ? [schema, ...shapesOf(schema)] : [];
  const fixed = shapes.flatMap((one) => {
    const kind = kindOf(one);
    return kind === "pick" ? valuesOf(one) : kind === "truth" ? [true, false] : kind === "fixed" ? [one.const] : [];
  });
  return [
    ...fixed.map((value) => ({ label: String(value), text: String(value) })),
    ...optionsFor(path, known).map((name) => ({ label: name, text: plain(name) })),
  ];
}

/** A text as YAML holds it on one line. */
const plain = (text: string): string =>
  /^[\p{L}_][\p{L}\p{N} _./()-]*$/u.test(text) && !text.includes(" #") ? text : JSON.stringify(text);
