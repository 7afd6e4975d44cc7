/** Marks that say what repeats and what is shown: `{{repeat line by district}}`, `{{when …}}`, `{{otherwise}}`, `{{end}}`. */
import { CorbixError } from "../common/index.js";
import { type Env, type Field, isEmpty, type Scope, showValue } from "../expression/index.js";
import { bindField, cutMarks, parseMark, STRUCTURE, withPlace } from "./marks.js";

export type Structure =
  | {
      readonly kind: "repeat";
      /** To the right instead of downwards. */
      readonly across: boolean;
      readonly where: Field | undefined;
      readonly by: Field | undefined;
      readonly source: string;
    }
  | { readonly kind: "when"; readonly test: Field; readonly source: string }
  | { readonly kind: "otherwise" | "end"; readonly source: string };

const FORM = "Write {{repeat line}}, {{repeat line where …}}, {{repeat line by …}} or {{repeat line across}}.";

/** The structures in a text, and the text without them. Throws `BAD_MARK` with the place. */
export function cutStructures(text: string, where: string): { structures: Structure[]; rest: string } {
  const structures: Structure[] = [];
  let rest = "";
  for (const piece of cutMarks(text, where)) {
    if (piece.kind === "text") rest += piece.text;
    else if (STRUCTURE.test(piece.source)) structures.push(parseStructure(piece.source, where));
    else rest += `{{${piece.source}}}`;
  }
  return { structures, rest };
}

function parseStructure(source: string, where: string): Structure {
  const refuse = (advice: string): CorbixError =>
    new CorbixError("BAD_MARK", `Cannot use \`{{${source}}}\` here.`, { where, advice });
  if (source === "end" || source === "otherwise") return { kind: source, source };
  const when = /^when\s+([\s\S]+)$/.exec(source);
  if (when) return { kind: "when", test: parseMark(when[1], where), source };
  const repeat = /^repeat\s+line\b([\s\S]*)$/.exec(source);
  if (!repeat) throw refuse(FORM);
  const parts = cutWords(repeat[1]);
  const across = parts.has("across");
  if ((parts.get("") ?? "") !== "" || (parts.get("across") ?? "") !== "") throw refuse(FORM);
  const field = (word: string): Field | undefined => {
    const text = parts.get(word);
    if (text === "") throw refuse(FORM);
    return text === undefined ? undefined : parseMark(text, where);
  };
  return { kind: "repeat", across, where: field("where"), by: field("by"), source };
}

/** What stands behind each of the words `across`, `where`, `by`, outside of quotes. */
function cutWords(text: string): Map<string, string> {
  const parts = new Map<string, string>();
  let word = "";
  let from = 0;
  for (const match of text.matchAll(/"(?:[^"]|"")*"|`[^`]*`|\b(across|where|by)\b/g)) {
    if (match[1] === undefined) continue;
    parts.set(word, text.slice(from, match.index).trim());
    word = match[1];
    from = match.index + word.length;
  }
  parts.set(word, text.slice(from).trim());
  return parts;
}

/** Conditions and keys of a structure, ready for a group's lines. */
export interface BoundStructure {
  readonly where: ((env: Env, line: number) => boolean) | undefined;
  readonly by: ((env: Env, line: number) => string) | undefined;
  readonly test: ((env: Env) => boolean) | undefined;
}

/** A bare column in a condition or key is that of the line. Throws `BAD_EXPRESSION` with the place. */
export function bindStructure(structure: Structure, scope: Scope, where: string): BoundStructure {
  const oneLine = (env: Env, line: number): Env => ({ ...env, lines: [line], row: line });
  const at = <T>(evaluate: () => T): T => withPlace(where, evaluate);
  if (structure.kind === "when") {
    const test = bindField(structure.test, scope, where);
    return {
      where: undefined,
      by: undefined,
      test: (env) =>
        isTruth(
          at(() => test.evaluate(env)),
          structure.source,
          where,
        ),
    };
  }
  if (structure.kind !== "repeat") return { where: undefined, by: undefined, test: undefined };
  const condition = structure.where && bindField(structure.where, scope, where);
  const key = structure.by && bindField(structure.by, scope, where);
  return {
    where:
      condition &&
      ((env, line) =>
        isTruth(
          at(() => condition.evaluate(oneLine(env, line))),
          structure.source,
          where,
        )),
    by:
      key &&
      ((env, line) => {
        const value = at(() => key.evaluate(oneLine(env, line)));
        return isEmpty(value) ? "" : showValue(value, undefined, env.locale);
      }),
    test: undefined,
  };
}

function isTruth(value: unknown, source: string, where: string): boolean {
  if (typeof value === "boolean") return value;
  if (value === null) return false;
  throw new CorbixError("BAD_EXPRESSION", `Cannot decide \`{{${source}}}\`: the condition is neither true nor false.`, {
    where,
    advice: 'Compare something, as in {{when site = "Dock"}}.',
  });
}
