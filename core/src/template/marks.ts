import { CorbixError } from "../common/index.js";
import {
  compileParsedField,
  type Env,
  type Field,
  parseField,
  type Scope,
  saysInstead,
  type TextField,
} from "../expression/index.js";
import { say } from "../words/index.js";

/** A mark of a template with its place. */
export interface PlacedMark {
  readonly where: string;
  readonly source: string;
  /** What is evaluated; several in a structure, none in one that only ends another. */
  readonly fields: readonly Field[];
}

/** What a definition can name in a template: `headings` are a table's; a cell is named with its sheet, as in `Summary!B2`. */
export interface TemplatePlace {
  readonly kind: "table" | "area" | "cell" | "sheet" | "bookmark";
  readonly name: string;
  readonly where: string;
  readonly headings: readonly string[];
}

/** A text cut at its marks: what stands between, and what stands in the braces. */
export type MarkPiece =
  | { readonly kind: "text"; readonly text: string }
  | { readonly kind: "mark"; readonly source: string; readonly at: number };

const MARK = /\{\{([\s\S]*?)\}\}/g;

/** Cuts a text at its marks `{{ … }}`. Throws `BAD_MARK` where one is not closed. */
export function cutMarks(text: string, where: string): MarkPiece[] {
  const pieces: MarkPiece[] = [];
  let from = 0;
  for (const match of text.matchAll(MARK)) {
    if (match.index > from) pieces.push({ kind: "text", text: text.slice(from, match.index) });
    pieces.push({ kind: "mark", source: match[1].trim(), at: match.index });
    from = match.index + match[0].length;
  }
  const rest = text.slice(from);
  if (rest.includes("{{")) {
    throw new CorbixError(
      "BAD_MARK",
      say().template.cannotReadMarkClosed({ rest: rest.slice(rest.indexOf("{{"), rest.indexOf("{{") + 40) }),
      { where, advice: say().template.close() },
    );
  }
  if (rest !== "") pieces.push({ kind: "text", text: rest });
  return pieces;
}

export function hasMarks(text: string): boolean {
  return text.includes("{{");
}

/**
 * The texts of adjoining runs with every mark gathered in the run of its first character: editors break marks over runs
 * when spelling is checked or looks are changed in the middle.
 * @example gatherMarks(["Dear {", "{ na", "me }}, hello"]) //=> ["Dear {{ name }}", "", ", hello"]
 */
export function gatherMarks(texts: readonly string[]): string[] {
  const whole = texts.join("");
  if (!whole.includes("{{")) return [...texts];
  const gathered = texts.map(() => "");
  const ends: number[] = [];
  for (const text of texts) ends.push((ends[ends.length - 1] ?? 0) + text.length);
  const runAt = (position: number): number => ends.findIndex((end) => position < end);
  let from = 0;
  const copy = (to: number): void => {
    for (; from < to; from++) gathered[runAt(from)] += whole[from];
  };
  for (const match of whole.matchAll(MARK)) {
    copy(match.index);
    gathered[runAt(match.index)] += match[0];
    from = match.index + match[0].length;
  }
  copy(whole.length);
  return gathered;
}

/** Words that open a structure rather than a field. */
export const STRUCTURE = /^(repeat|when|otherwise|end|table)\b(?!\s*[.(])/;

/** A field parsed with its place. Throws `BAD_MARK` for structures this template kind does not take. */
export function parseMark(source: string, where: string): Field {
  if (STRUCTURE.test(source)) {
    throw new CorbixError("BAD_MARK", say().template.cannotUseHere({ source }), {
      where,
      advice: say().template.useFieldsLineFieldsRow(),
    });
  }
  try {
    return parseField(source);
  } catch (error) {
    throw atPlace(error, where);
  }
}

/** A text with fields: a file name, a subject, a header. */
export interface TextTemplate {
  readonly source: string;
  /** The fields in it, in order. */
  readonly fields: readonly Field[];
  /** Binds the names to a scope; unknown ones throw `BAD_EXPRESSION` with the place. */
  readonly bind: (scope: Scope) => BoundText;
}

export interface BoundText {
  readonly fill: (env: Env, escape?: (text: string) => string) => string;
}

/** What a text stands in. */
export interface TextPlace {
  /** What stands beside it in the same line, in runs of other looks. */
  readonly around?: string;
  /** What parts it from other texts, where that is no line end or element. */
  readonly edge?: RegExp;
}

export function parseTextTemplate(
  source: string,
  where: string,
  { around = "", edge = EDGE }: TextPlace = {},
): TextTemplate {
  const pieces = cutMarks(source, where).map((piece) =>
    piece.kind === "text" ? piece.text : parseMark(piece.source, where),
  );
  const fields = pieces.filter((piece): piece is Field => typeof piece !== "string");
  return {
    source,
    fields,
    bind: (scope) => {
      const bound = pieces.map((piece, at) =>
        typeof piece === "string"
          ? piece
          : {
              field: bindField(piece, scope, where),
              isTold: !saysInstead(piece.ast) && isInText([around, ...pieces], at + 1, edge),
            },
      );
      return {
        fill: (env, escape = (text) => text) => {
          let filled = "";
          for (const piece of bound) {
            const shown = typeof piece === "string" ? piece : withPlace(where, () => piece.field.show(env));
            if (typeof piece !== "string" && shown === "" && piece.isTold) env.onBlank?.(where, piece.field.source);
            filled += typeof piece === "string" ? shown : escape(shown);
          }
          return filled;
        },
      };
    },
  };
}

/** Where running text ends: lines, and elements of a page that stand apart. */
const EDGE =
  /\n|<\/?(?!(?:a|abbr|b|big|cite|code|em|font|i|img|mark|s|small|span|strong|sub|sup|u)\b)[a-z][\w:]*[^>]*>/i;

/** Whether a mark stands in running text: beside words or signs of its own line. */
function isInText(pieces: readonly (string | Field)[], at: number, edge: RegExp): boolean {
  const words = (parts: readonly (string | Field)[], isBefore: boolean): string => {
    let text = "";
    for (const part of parts) {
      if (typeof part !== "string") continue;
      const lines = part.split(edge);
      const own = (isBefore ? lines.at(-1) : lines[0]) ?? "";
      text += own;
      if (lines.length > 1) break;
    }
    return text;
  };
  const around = words(pieces.slice(0, at).reverse(), true) + words(pieces.slice(at + 1), false);
  return /[\p{L}\p{N}\p{P}]/u.test(around.replace(/<[^>]*>/g, ""));
}

export function bindField(field: Field, scope: Scope, where: string): TextField {
  return withPlace(where, () => compileParsedField(field, scope));
}

/** Runs something and puts the place before that of an error it throws. */
export function withPlace<T>(where: string, run: () => T): T {
  try {
    return run();
  } catch (error) {
    throw atPlace(error, where);
  }
}

function atPlace(error: unknown, where: string): unknown {
  if (!(error instanceof CorbixError)) return error;
  return new CorbixError(error.code, error.message, {
    where: error.where ? `${where}, ${error.where}` : where,
    ...(error.advice === undefined ? {} : { advice: error.advice }),
    cause: error,
  });
}
