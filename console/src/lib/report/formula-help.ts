/** Help while a formula is written: what can stand where the cursor is, and what is wrong where. */
import { writeName } from "./conditions.js";
import { FUNCTIONS } from "./functions.js";

export interface FormulaOffer {
  readonly label: string;
  readonly detail: string;
  /** What is put in; a function's brackets come with it. */
  readonly text: string;
  readonly isFunction: boolean;
}

/** Of what stands in the way, what is said of a formula: it is named by its own words, or by its name. */
export function troubleOf<Problem extends { readonly where: string }>(
  problems: readonly Problem[],
  name: string,
  formula: string,
): { readonly problem: Problem; readonly character: number | undefined } | undefined {
  const problem =
    problems.find(({ where }) => where.includes(`\`${formula}\``)) ??
    problems.find(({ where }) => where.split(/[,.:]\s*/).some((part) => writeName(part.trim()) === writeName(name)));
  if (!problem) return undefined;
  const [, character] = /, character (\d+)$/.exec(problem.where) ?? [];
  return { problem, character: character === undefined ? undefined : Number(character) };
}

/** The word before the cursor, and what begins or goes on like it; nothing inside of a text in quotes. */
export function formulaOffers(
  text: string,
  cursor: number,
  names: readonly string[],
  over: "value" | "line",
): { readonly from: number; readonly offers: readonly FormulaOffer[] } | undefined {
  const before = text.slice(0, cursor);
  if ((before.match(/"/g) ?? []).length % 2 === 1) return undefined;
  const [word = ""] = /(?:`[^`]*|[\p{L}_][\p{L}\p{N}_.]*)$/u.exec(before) ?? [];
  const wanted = word
    .replace(/^`|^line\./g, "")
    .toLowerCase()
    .replaceAll("_", " ");
  const fits = (name: string): boolean => name.toLowerCase().replaceAll("_", " ").includes(wanted);
  const columns = names.filter(fits).map(
    (name): FormulaOffer => ({
      label: name,
      detail: "column",
      text: over === "line" ? `line.${writeName(name)}` : writeName(name),
      isFunction: false,
    }),
  );
  const functions = FUNCTIONS.filter((one) => (over === "line" || one.over === "value") && fits(one.name)).map(
    ({ name, what }): FormulaOffer => ({ label: name, detail: what, text: `${name}()`, isFunction: true }),
  );
  const offers = [...columns, ...functions];
  return offers.length === 0 ? undefined : { from: cursor - word.length, offers };
}
