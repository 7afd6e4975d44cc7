/** What Corbix says to people stands in catalogues: nowhere in the code that finds it. */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import ts from "typescript";
import { describe, expect, it } from "vitest";
import { english } from "../core/dist/words/index.js";

const root = process.cwd();
/** Texts of other kinds: of documents, pages for developers, the machines' own table, and of whoever reads a log. */
const OTHER = [
  /^core\/src\/formula\/(functions-page|standard-functions)\.ts$/,
  /^core\/src\/delivery\/(run|message)-machine\.ts$/,
  /^core\/src\/workbook\/sheets\/contents-sheet\.ts$/,
  /^core\/src\/recipients\/write-list\.ts$/,
  /^service\/src\/letterbox\//,
  // Mails and pages that receivers see, in the words of the report.
  /^service\/src\/outbox\/(links|compose)\.ts$/,
  /^service\/src\/process\/main\.ts$/,
];
/** What these are given is read by developers: descriptions of a schema, logs, promises the program makes to itself. */
const NOT_SAID =
  /(\bdescribe|\.log\.\w+|^made|^known|^noteAction|^deed|^new Error|\.prepared|\.write|\.refine|\.regex|\.literal)$/;
/** Under these names, what stands in findings, errors and answers. */
const SAID = new Set(["what", "advice", "why", "sentence", "reason", "message", "response"]);

/** Values of a kind, not words: what they are called is said where they are shown. */
const KINDS = new Set(["other table", "only in the first", "only in the second"]);
/** For developers, or told as part of what a schema says. */
const NOT_FOR_READERS = new Set([
  "once: period needs a period",
  "the answer goes to who asks: an enquiry has no split, period, once, message, waysOut, schedule, figures, records or startOnData",
  "# has no #",
  "recipients imported",
  "recipients merged",
]);

const everything = ["core/src", "service/src", "cli/src"].flatMap((folder) =>
  (readdirSync(join(root, folder), { recursive: true }) as string[])
    .map((name) => `${folder}/${name}`)
    .filter((name) => name.endsWith(".ts") && !name.startsWith("core/src/words/")),
);
const sources = everything.filter((name) => !OTHER.some((pattern) => pattern.test(name)));

const textOf = (node: ts.Node): string | undefined =>
  ts.isStringLiteralLike(node)
    ? node.text
    : ts.isTemplateExpression(node)
      ? node.head.text + node.templateSpans.map(({ literal }) => `#${literal.text}`).join("")
      : undefined;
const isSentence = (text: string): boolean => /^[A-Z#`"][^<>{}]*[a-z]{2,}[,:]? [^<>{}]*\.$/.test(text);
const isPhrase = (text: string): boolean => /[a-z]{2,}[,:]? [a-z#"`]/.test(text);

/** What the command prints, its help and tables, is its own; its errors are said like all others. */
const isCommand = (file: string): boolean => file.startsWith("cli/");

function saidIn(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(join(root, file), "utf8"), ts.ScriptTarget.Latest, true);
  const found: string[] = [];
  const look = (node: ts.Node, isSaid: boolean): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
    const text = textOf(node);
    const isWord = text !== undefined && !KINDS.has(text) && !NOT_FOR_READERS.has(text);
    if (isWord && ((isSentence(text) && !isCommand(file)) || (isSaid && isPhrase(text)))) {
      const { line } = source.getLineAndCharacterOfPosition(node.getStart());
      found.push(`${file}:${line + 1} ${text}`);
    }
    const isCall = ts.isCallExpression(node) || ts.isNewExpression(node);
    const called = isCall ? `${ts.isNewExpression(node) ? "new " : ""}${node.expression.getText()}` : "";
    const passes = NOT_SAID.test(called) || called.includes("say()");
    const says =
      called === "new CorbixError" ||
      (ts.isPropertyAssignment(node) && SAID.has(node.name.getText()) && !isCommand(file)) ||
      (isSaid &&
        (ts.isConditionalExpression(node) || ts.isParenthesizedExpression(node) || ts.isTemplateExpression(node)));
    node.forEachChild((child) => {
      if (passes && textOf(child) !== undefined) return;
      look(child, says && !passes);
    });
  };
  look(source, false);
  return found;
}

describe("words", () => {
  it("of findings, errors and explanations stand in the catalogue, apart from the code that finds them", () => {
    expect(sources.length).toBeGreaterThan(400);
    expect(sources.flatMap(saidIn)).toEqual([]);
  });

  it("in the catalogue are all used", () => {
    const code = everything.map((file) => readFileSync(join(root, file), "utf8")).join("\n");
    const entries = Object.entries(english).flatMap(([room, words]) => Object.keys(words).map((key) => [room, key]));
    expect(entries.length).toBeGreaterThan(900);
    // `say().table.row(…)`, or through the room: `words.row()`, `table.row`.
    // The catalogue itself calls none of its entries.
    const isUsed = ([room, key]: string[]): boolean => new RegExp(`\\b(${room}|words)\\.${key}\\b`).test(code);
    expect(entries.filter((entry) => !isUsed(entry)).map((entry) => entry.join("."))).toEqual([]);
  });
});
