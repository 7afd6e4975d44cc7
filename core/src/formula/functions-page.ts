import { FUNCTION_NAMES } from "./functions/index.js";
import { OUTSIDE_THE_FILE, STANDARD_FUNCTIONS } from "./standard-functions.js";

/** A page, in Markdown, of every function with its state, made from what is calculated here. */
export function functionsPage(): string {
  const known = new Set(FUNCTION_NAMES);
  const standard = STANDARD_FUNCTIONS.flatMap(({ names }) => names);
  const listed = new Set(standard);
  const inFile = standard.filter((name) => !OUTSIDE_THE_FILE.has(name));
  const done = inFile.filter((name) => known.has(name));
  const later = FUNCTION_NAMES.filter((name) => !listed.has(name));
  const lines = [
    "# Formulas",
    "",
    "What is calculated here of the formulas in templates and workbooks. This page is made from the code (`npm run pages`), and a test holds it to it.",
    "",
    `Of the ${standard.length} functions of ECMA-376 part 1, 18.17.7, ${standard.length - inFile.length} ask cubes or live connections, which no file holds. Of the other ${inFile.length}, ${done.length} are calculated, and ${later.length} that came later.`,
    "",
    "A formula with a function that is not calculated keeps the value that is stored in the file; a finding names the function and the cell, and the workbook is marked to be calculated when it is opened.",
  ];
  for (const { title, names } of STANDARD_FUNCTIONS) {
    lines.push("", `## ${title}`, "", "| Function | State |", "|---|---|");
    for (const name of names) lines.push(`| ${name} | ${stateOf(name, known)} |`);
  }
  lines.push("", "## Later than the standard's list", "", later.map((name) => `${name}`).join(", "));
  lines.push(
    "",
    "## Where the standard leaves it open",
    "",
    "- Two numbers are the same where their first fifteen digits are.",
    "- Texts that read as a number, a day or a time are taken as one where a number is asked for: `(5)`, `$1,000`, `5%`, `2 Nov 2026`, `2:30 PM`. A day whose number and month could change places, such as `5/3/2026`, is `#VALUE!`: which it is hangs on the maker's country.",
    "- Days are counted as the 1900 system counts them, with its 29th of February 1900.",
    "- `RAND` and its relatives hang on the run's instant and the cell alone: the same run gives the same file.",
    "- `#SPILL!` and `#CALC!` are stored as `#VALUE!`, as files do that have no richer value.",
    "- `CELL` and `INFO` answer what a file knows of itself; of looks, folders and machines the stored value is kept, and a finding names it.",
    "- Functions of bytes (`LENB`) count letters.",
    "",
  );
  return lines.join("\n");
}

function stateOf(name: string, known: ReadonlySet<string>): string {
  if (OUTSIDE_THE_FILE.has(name)) return "of cubes and live connections: the stored value is kept";
  return known.has(name) ? "calculated" : "not calculated yet: the stored value is kept";
}
