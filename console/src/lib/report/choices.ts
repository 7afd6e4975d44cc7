/** What a field can be filled with, as far as it is known. */
import type { TemplatePlace } from "../client.js";
import { writeName } from "./conditions.js";
import type { Path } from "./definition.js";

export interface Known {
  /** Columns as the report's preparation leaves them. */
  readonly columns: readonly string[];
  readonly datasets: readonly string[];
  readonly templates: readonly string[];
  readonly identities: readonly string[];
  /** Names of the report's files. */
  readonly files: readonly string[];
  /** Names of the report's further lines. */
  readonly lines?: readonly string[];
  /** What can be named in the template of the file whose fields are shown. */
  readonly places?: readonly TemplatePlace[];
}

/** Something to choose, and how it is told apart. */
export interface Option {
  readonly value: string;
  readonly text: string;
}

/** @returns Whether a field holds the name of a column. */
export function isColumnField(path: Path): boolean {
  return COLUMN_FIELDS.has(String(path.findLast((part) => typeof part === "string")));
}

/** @returns Of known names the one a text means; columns may be written as the table has them or as formulas do. */
export function meant(text: string, names: readonly string[]): string | undefined {
  return names.find((name) => name === text) ?? names.find((name) => writeName(name) === writeName(text));
}

const MARKED = new Set(["name", "folder", "title", "subject", "password", "sheetPassword", "found"]);
const MARKED_ENTRIES = new Set(["cells", "fields"]);

/** @returns Whether a group's own values can stand in a field, as marks in double braces. */
export function takesMarks(path: Path): boolean {
  const [first, , , ...inner] = path;
  const last = String(path[path.length - 1]);
  if (MARKED_ENTRIES.has(String(path[path.length - 2]))) return true;
  if (first === "message") return last === "subject" || last === "found";
  if (first === "waysOut") return last === "folder" || last === "name";
  return first === "files" && MARKED.has(last) && !inner.includes("columns");
}

const COLUMN_FIELDS = new Set(["column", "split", "per", "by", "sort", "columns", "distinct"]);

/** Of a text field the values that are known; none where anything can stand there. */
export function optionsFor(path: Path, known: Known): readonly string[] {
  const names = path.filter((part) => typeof part === "string");
  const last = names[names.length - 1] ?? "";
  if (last === "data" || (last === "from" && names.some((name) => name === "bring" || name === "replace")))
    return known.datasets;
  if (last === "template" || last === "fixed") return known.templates;
  if (names.join(".") === "delivery.from") return known.identities;
  if (last === "lines" && names.length > 1) return ["all", ...(known.lines ?? [])];
  if (last === "attach" || (names[0] === "waysOut" && last === "files"))
    return known.files.flatMap((file) => [file, `${file}.pdf`]);
  if (names.join(".") === "delivery.to.name") return known.columns;
  if (last === "columns" && names.includes("bring")) return [];
  if (last === "sheet" && names.includes("sheetPer") && !names.includes("contents"))
    return placed(known, ["sheet"]).map(({ name }) => name);
  if (last === "sort") return known.columns.flatMap((name) => [name, `-${name}`]);
  return COLUMN_FIELDS.has(last) ? known.columns : [];
}

const placed = ({ places = [] }: Known, kinds: readonly TemplatePlace["kind"][]): TemplatePlace[] =>
  places.filter(({ kind }) => kinds.includes(kind));

/** Of entries that are named as the template has it: which names there are. */
export function entryNames(path: Path, known: Known): readonly Option[] {
  const last = path[path.length - 1];
  if (path[0] !== "files") return [];
  const option = ({ name, where }: TemplatePlace): Option => ({ value: name, text: `${name}, ${where}` });
  if (last === "cells") return placed(known, ["cell"]).map(option);
  if (last === "tables") return placed(known, ["table", "bookmark", "area", "cell"]).map(option);
  if (last !== "fields") return [];
  const table = placed(known, ["table"]).find(
    ({ name }) => writeName(name) === writeName(String(path[path.length - 2])),
  );
  return (table?.headings ?? []).map((heading) => ({ value: heading, text: heading }));
}

/** @returns What an option is called: a column with a minus before it sorts downwards. */
export function optionText(path: Path, option: string): string {
  return path.includes("sort") && option.startsWith("-") ? `${option.slice(1)}, the greatest first` : option;
}
