/** What a message's writer can put in, and how words are set off in each way of writing. */

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

/** A column's name as marks write it. */
function fieldName(name: string): string {
  return name
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, "_");
}

/** Names that can stand in a mark without more ado. */
function isPlain(name: string): boolean {
  return /^[\p{L}_][\p{L}\p{N}_]*$/u.test(fieldName(name));
}

export function insertable(columns: readonly Column[]): Insertion[] {
  const plain = columns.filter((column) => isPlain(column.name));
  const numbers = plain.filter((column) => column.type === "number");
  const asCell = ({ name, type }: Column): string =>
    `${fieldName(name)} headed "${name}"${type === "date" ? ' as "dd/mm/yyyy"' : ""}`;
  return [
    { name: "Name of the person", mark: "{{ recipient.name }}" },
    { name: "Period", mark: "{{ period.label }}" },
    { name: "Count of the rows", mark: "{{ count(line) }}" },
    {
      name: "Table of the rows",
      mark: `{{table line: ${plain.slice(0, TABLE_COLUMNS).map(asCell).join(", ")}}}`,
    },
    ...numbers.map(({ name }) => ({
      name: `Sum of ${name}`,
      mark: `{{ sum(line.${fieldName(name)}) as "#,##0.00" }}`,
    })),
    ...plain.map(({ name }) => ({ name: `${name}, the same in all rows`, mark: `{{ ${fieldName(name)} }}` })),
  ];
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
