/** Steps over rows as they are begun, numbered and told beside what they did. */
import type { Dataset, DraftLook } from "../client.js";
import { meant } from "./choices.js";
import { writeName } from "./conditions.js";
import type { Path } from "./definition.js";

export const STEP_KINDS = [
  "keep",
  "add",
  "bring",
  "replace",
  "fold",
  "stack",
  "sort",
  "first",
  "last",
  "distinct",
] as const;
export type StepKind = (typeof STEP_KINDS)[number];

/** What a kind of step is for, as it is offered and as a step of it is headed. */
export const STEP_WORDS: Readonly<Record<StepKind, { readonly title: string; readonly what: string }>> = {
  keep: { title: "Keep rows where", what: "A condition over the rows as they are by then, new columns among them." },
  add: { title: "New columns", what: "Columns with a formula, once the steps before are done." },
  bring: { title: "Columns from another dataset", what: "Found by a key that both have." },
  replace: { title: "Replace values", what: "By pairs written here, or by a list that is kept as a dataset." },
  fold: { title: "Several columns as one text", what: "Such as the names of all columns that say “yes”." },
  stack: { title: "Columns under each other", what: "A row for each of several columns, such as one for each month." },
  sort: { title: "Sort", what: "The order in which the steps behind see the rows." },
  first: { title: "The first row of each", what: "Of rows with the same value one stays: the first." },
  last: { title: "The last row of each", what: "Of rows with the same value one stays: the last." },
  distinct: { title: "Leave out doubles", what: "Of rows that are alike one stays." },
};

interface Column {
  readonly name: string;
  readonly type: string;
}
type Look = DraftLook | undefined;

/** Steps that stand before those of `prepare`. */
export function stepsBefore(draft: { readonly get: (path: Path) => unknown }): number {
  const count = (field: string): number => Object.keys((draft.get([field]) ?? {}) as object).length;
  return (draft.get(["keep"]) === undefined ? 0 : 1) + count("bring") + count("add");
}

/** Columns as a step finds them, by what the steps before it added and took away. */
export function columnsBefore(look: Look, at: number): string[] {
  return (look?.steps ?? []).slice(0, at).reduce<string[]>(
    (names, { columnsAdded, columnsDropped }) => [
      ...names.filter((name) => !columnsDropped.includes(name)),
      ...columnsAdded,
    ],
    (look?.loadedColumns ?? []).map(({ name }) => name),
  );
}

/** What stands in a step's way: problems tell its number among all steps, or its place in the definition, both from 1. */
export function troublesOf<T extends { readonly where: string }>(problems: readonly T[], at: number, own: number): T[] {
  return problems.filter(({ where }) => {
    const [, step] = /^step (\d+)\b/.exec(where) ?? [];
    const [, place] = /\bprepare[,.]\s*(\d+)/.exec(where) ?? [];
    return step !== undefined ? Number(step) === at + 1 : place !== undefined && Number(place) === own + 1;
  });
}

/** A step that already does something with the columns there are, to be changed from there. */
export function begunStep(
  kind: StepKind,
  columns: readonly Column[],
  { split, other }: { readonly split?: unknown; readonly other?: Dataset | undefined } = {},
): object {
  const names = columns.map(({ name }) => name);
  const [first = "column"] = names;
  const texts = columns.filter(({ type }) => type === "text").map(({ name }) => name);
  const numbers = columns.filter(({ type }) => type === "number").map(({ name }) => name);
  const day = columns.find(({ type }) => type === "date" || type === "datetime")?.name;
  switch (kind) {
    case "keep":
      return { keep: `${writeName(names.at(-1) ?? first)} <> ""` };
    case "add":
      return { add: { [freeIn(names, "New column")]: writeName(first) } };
    case "bring":
      return { bring: begunBring(names, other) };
    case "replace":
      return { replace: { column: texts.at(-1) ?? first, list: {} } };
    case "fold":
      return {
        fold: {
          into: freeIn(names, "Together"),
          columns: texts.length > 1 ? texts.slice(-2) : [first],
          where: 'value <> ""',
        },
      };
    case "stack":
      return {
        stack: {
          columns: numbers.length > 0 ? numbers : [first],
          name: freeIn(names, "Name"),
          value: freeIn(names, "Value"),
        },
      };
    case "sort":
      return { sort: [day ?? first] };
    case "first":
    case "last":
      return {
        [kind]: { per: [typeof split === "string" ? split : first], ...(day === undefined ? {} : { by: [day] }) },
      };
    case "distinct":
      return { distinct: [] };
  }
}

const namesOf = (dataset: Dataset | undefined): string[] => (dataset?.newest?.columns ?? []).map(({ name }) => name);

/** Columns of another dataset that rows do not have yet. */
export const newTo = (names: readonly string[], other: Dataset | undefined): string[] =>
  namesOf(other).filter((one) => meant(one, names) === undefined);

/** Columns of another dataset, by a key that is said or that both have by name. */
export function begunBring(
  names: readonly string[],
  other: Dataset | undefined,
  match?: Readonly<Record<string, string>>,
): object {
  const there = namesOf(other);
  const key = there.find((name) => meant(name, names) !== undefined) ?? there[0] ?? "";
  const by = match ?? { [meant(key, names) ?? names[0] ?? ""]: key };
  const columns = newTo(names, other).filter((one) => !Object.values(by).includes(one));
  return { from: other?.name ?? "", match: by, columns };
}

function freeIn(names: readonly string[], wanted: string): string {
  const taken = new Set(names.map(writeName));
  let name = wanted;
  for (let number = 2; taken.has(writeName(name)); number++) name = `${wanted} ${number}`;
  return name;
}
