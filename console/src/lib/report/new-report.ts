/** What a new report begins with: what its data suggest. */
interface Column {
  readonly name: string;
  readonly type: string;
}

interface Figures {
  readonly name: string;
  readonly distinct: number;
  readonly count: number;
  readonly blanks: number;
  readonly frequent?: readonly { readonly value: unknown }[];
}

/** A column that rows can be put into groups by: one that people receive for, or a text that several rows share and nearly all have. */
export function suggestedSplit(
  columns: readonly Column[],
  figures: readonly Figures[],
  listed: readonly string[] = [],
): string | undefined {
  const people = new Set(listed.map(folded));
  const of = new Map(figures.map((one) => [one.name, one]));
  const worth = columns
    .filter(({ type }) => type === "text")
    .flatMap(({ name }) => {
      const one = of.get(name);
      if (!one || one.distinct < 2 || one.count === 0) return [];
      const perGroup = one.count / one.distinct;
      // Too many rows to a group are a word such as a result; about one is a key.
      return perGroup < 1.5
        ? []
        : [{ name, score: Math.log(one.distinct) - 3 * (one.blanks / (one.count + one.blanks)) + inList(one, people) }];
    })
    .sort((a, b) => b.score - a.score);
  return worth[0]?.name ?? columns.find(({ type }) => type === "text")?.name ?? columns[0]?.name;
}

const folded = (text: string): string => text.trim().replace(/\s+/g, " ").toLowerCase();
/** What somebody receives for is what the rows are put into groups by, whatever else would do. */
const WEIGHT_OF_LIST = 20;

function inList({ frequent = [] }: Figures, people: ReadonlySet<string>): number {
  const found = frequent.filter(({ value }) => typeof value === "string" && people.has(folded(value))).length;
  return frequent.length === 0 ? 0 : (WEIGHT_OF_LIST * found) / frequent.length;
}

/** A name as it is, or with a number behind it where it is taken. */
export function freeOf(name: string, taken: readonly string[]): string {
  for (let number = 1; ; number++) {
    const numbered = number === 1 ? name : `${name}-${number}`;
    if (!taken.includes(numbered)) return numbered;
  }
}

/** A name for addresses and fields, made of somebody's words, that is not taken. */
export function freeName(wanted: string, taken: readonly string[], otherwise = "report"): string {
  const plain =
    wanted
      .normalize("NFD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 50) || otherwise;
  return freeOf(plain, taken);
}

export function newReport(
  name: string,
  title: string,
  data: string,
  columns: readonly Column[],
  figures: readonly Figures[],
  /** Groups of the shared list of recipients. */
  listed: readonly string[] = [],
): string {
  const quoted = (text: string): string => JSON.stringify(text);
  const day = columns.find(({ type }) => type === "date" || type === "datetime");
  const split = suggestedSplit(columns, figures, listed);
  return [
    `report: ${name}`,
    `title: ${quoted(title)}`,
    `data: ${data}`,
    ...(day ? [`period: { column: ${quoted(day.name)}, every: month }`] : []),
    `split: ${quoted(split ?? "")}`,
    "",
  ].join("\n");
}
