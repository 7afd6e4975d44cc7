/** What a message's writer can put in, and how words are set off in each way of writing. */
import { writeName } from "./report/conditions.js";

export interface Insertion {
  readonly name: string;
  readonly mark: string;
}

interface Column {
  readonly name: string;
  readonly type: string;
}

/** Columns a table of lines is begun with; the writer takes out or adds. */
const TABLE_COLUMNS = 6;
const TABLE = "Table of the rows";

/** What can be put into a text; `hasPeriod` where the report has one. */
export function insertable(columns: readonly Column[], hasPeriod = true): Insertion[] {
  const numbers = columns.filter((column) => column.type === "number");
  const asCell = ({ name, type }: Column): string =>
    `${writeName(name)} headed "${name.replaceAll('"', "'")}"${type === "date" ? ' as "dd/mm/yyyy"' : ""}`;
  const period = [
    { name: "Period", mark: "{{ period.label }}" },
    { name: "Period as a key", mark: "{{ period.key }}" },
  ];
  return [
    { name: "Name of the person", mark: "{{ recipient.name }}" },
    { name: "Name of the group", mark: "{{ group.key }}" },
    ...(hasPeriod ? period : []),
    { name: "Count of the rows", mark: "{{ count(line) }}" },
    { name: "Day of the run", mark: "{{ run.date }}" },
    {
      name: TABLE,
      mark: `{{table line: ${columns.slice(0, TABLE_COLUMNS).map(asCell).join(", ")}}}`,
    },
    ...numbers.map(({ name }) => ({
      name: `Sum of ${name}`,
      mark: `{{ sum(line.${writeName(name)}) as "#,##0.00" }}`,
    })),
    ...columns.map(({ name }) => ({ name: `${name}, the same in all rows`, mark: `{{ ${writeName(name)} }}` })),
  ];
}

/** What can be put into a text of one line, such as a subject or the name of a file. */
export function insertableInLine(columns: readonly Column[], hasPeriod: boolean): Insertion[] {
  return insertable(columns, hasPeriod).filter(({ name }) => name !== TABLE);
}

/** Whether a file of the library can stand in a message as a picture. */
export const isPicture = (name: string): boolean => /\.(?:png|jpe?g|gif)$/i.test(name);

/** A table of a group's rows, to be put into a message. */
export function tableMark(columns: readonly Column[]): string {
  return insertable(columns).find(({ name }) => name === TABLE)?.mark ?? "";
}

/** What stands before and after words that are set off. */
export function wrapped(kind: "html" | "markdown", what: "bold" | "heading" | "list" | "link"): [string, string] {
  const html: Record<typeof what, [string, string]> = {
    bold: ["<strong>", "</strong>"],
    heading: ["<h2>", "</h2>"],
    list: ["<ul>\n<li>", "</li>\n</ul>"],
    link: ['<a href="https://">', "</a>"],
  };
  const markdown: Record<typeof what, [string, string]> = {
    bold: ["**", "**"],
    heading: ["\n## ", "\n"],
    list: ["\n- ", "\n"],
    link: ["[", "](https://)"],
  };
  return (kind === "html" ? html : markdown)[what];
}
