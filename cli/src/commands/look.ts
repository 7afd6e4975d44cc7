import { CorbixError } from "@corbix/core/common";
import type { GridFilter, GridQuery } from "@corbix/core/grid";
import { say } from "@corbix/core/words";
import type { Client, Schemas } from "../client.js";
import { type Output, tableText } from "../output.js";
import { readingSentence, tellReading, wholeNumber } from "./load.js";

export interface LookOptions {
  readonly edition?: string;
  readonly decisions?: boolean;
  readonly changes?: boolean;
  readonly columns?: boolean;
  readonly where: readonly string[];
  readonly search?: string;
  readonly sort?: string;
  readonly rows?: string;
  readonly from?: string;
  readonly report?: string;
  readonly step?: string;
}

/** Rows of an edition or of a step of a preparation, its columns in figures, how it was read, or its changed cells. */
export async function look(client: Client, dataset: string, options: LookOptions, output: Output): Promise<number> {
  const edition = await findEdition(client, dataset, options.edition);
  const path = { name: dataset, number: edition.number };
  const head = `${dataset} edition ${edition.number}, from ${edition.origin}`;
  if (options.decisions) {
    output.line(`${head}: ${readingSentence(edition)}`);
    tellReading(edition, output);
    output.value(edition);
    return 0;
  }
  if (options.changes) return tellChanges(client, path, head, options, output);
  const query: GridQuery = {
    search: options.search ?? "",
    filters: options.where.map(parseFilter),
    sort: options.sort === undefined ? [] : options.sort.split(",").map((one) => one.trim()),
  };
  const sight = {
    query,
    ...(options.report === undefined ? {} : { report: options.report }),
    ...(options.step === undefined ? {} : { step: wholeNumber(options.step, "--step") - 1 }),
  };
  const found = await client.post("/datasets/{name}/editions/{number}/look", {
    path,
    body: {
      ...sight,
      first: options.from === undefined ? 0 : wholeNumber(options.from, "--from") - 1,
      limit: Math.min(2000, options.rows === undefined ? 20 : wholeNumber(options.rows, "--rows")),
    },
  });
  const amount =
    found.total === found.of
      ? `${found.of.toLocaleString("en")} rows`
      : `${found.total.toLocaleString("en")} of ${found.of.toLocaleString("en")} rows`;
  if (options.columns) {
    const { columns: profiles } = await client.post("/datasets/{name}/editions/{number}/profile", {
      path,
      body: { ...sight, columns: found.columns.map((column) => column.name) },
    });
    output.line(`${head}: ${amount}, ${found.columns.length} columns\n`);
    output.line(profileTable(profiles));
    output.value(profiles);
    return 0;
  }
  output.line(`${head}: ${amount}\n`);
  output.line(rowsTable(found));
  if (found.rows.length < found.total)
    output.line(
      `\n${(found.total - found.rows.length).toLocaleString("en")} more: --rows, --from, --where, --search; columns in figures: --columns`,
    );
  output.value(found);
  return 0;
}

export async function findEdition(
  client: Client,
  dataset: string,
  number: string | undefined,
): Promise<Schemas["Edition"]> {
  if (number !== undefined)
    return client.get("/datasets/{name}/editions/{number}", {
      path: { name: dataset, number: wholeNumber(number, "--edition") },
    });
  const { newest } = await client.get("/datasets/{name}", { path: { name: dataset } });
  if (newest) return newest;
  throw new CorbixError("NOT_FOUND", say().command.cannotFindEdition({ dataset }), {
    where: "datasets",
    advice: say().command.loadFileFirst(),
  });
}

async function tellChanges(
  client: Client,
  path: { readonly name: string; readonly number: number },
  head: string,
  options: LookOptions,
  output: Output,
): Promise<number> {
  const count = options.rows === undefined ? 50 : wholeNumber(options.rows, "--rows");
  const call = { path, query: { limit: Math.min(2000, count) } };
  const changes = await client.get("/datasets/{name}/editions/{number}/changes", call);
  output.line(`${head}: ${changes.total.toLocaleString("en")} cells stand otherwise than in the file`);
  if (changes.items.length > 0) {
    output.line("");
    output.line(
      tableText(
        ["Row", "Column", "What", "Stood there"],
        changes.items.map((one) => [String(one.row), one.column, one.kind, JSON.stringify(one.raw)]),
      ),
    );
  }
  output.value(changes);
  return 0;
}

const SIGNS: readonly (readonly [RegExp, GridFilter["is"]])[] = [
  [/^(.+?)\s+is blank$/i, "blank"],
  [/^(.+?)\s+is filled$/i, "filled"],
  [/^(.+?)\s*>=\s*(.+)$/, "at-least"],
  [/^(.+?)\s*<=\s*(.+)$/, "at-most"],
  [/^(.+?)\s*<>\s*(.*)$/, "not-equal"],
  [/^(.+?)\s*=\s*(.*)$/, "equal"],
  [/^(.+?)\s+has\s+(.+)$/i, "containing"],
  [/^(.+?)\s+begins\s+(.+)$/i, "beginning"],
];

/** `Fee >= 9`, `Site = Dock`, `Remarks has oil`, `Result is blank`. */
export function parseFilter(text: string): GridFilter {
  for (const [pattern, is] of SIGNS) {
    const found = pattern.exec(text.trim());
    if (found) return { column: found[1] ?? "", is, value: (found[2] ?? "").replace(/^"(.*)"$/, "$1") };
  }
  throw new CorbixError("BAD_REQUEST", say().command.cannotUnderstandFilter({ text }), {
    where: "--where",
    advice: say().command.writeFeeSiteDockRemarks(),
  });
}

const WIDEST = 28;

function cellText(cell: Schemas["Cell"], { type, unit }: Pick<Schemas["Column"], "type" | "unit">): string {
  if (cell === null) return "";
  if (typeof cell === "boolean") return cell ? "yes" : "no";
  if (typeof cell === "string" && type === "datetime") return cell.slice(0, 16).replace("T", " ");
  if (typeof cell === "string" && type === "time") return cell.slice(0, 5);
  if (typeof cell === "string")
    return cell.length > WIDEST ? `${cell.slice(0, WIDEST - 1)}…` : cell.replaceAll("\n", " ");
  if (unit === "%") return `${Number((cell * 100).toPrecision(12)).toLocaleString("en")}%`;
  return cell.toLocaleString("en", { maximumFractionDigits: 12, useGrouping: false });
}

export function rowsTable(found: Pick<Schemas["Look"], "columns" | "rows" | "rowNumbers">): string {
  return tableText(
    ["Row", ...found.columns.map((column) => column.name)],
    found.rows.map((row, at) => [
      String(found.rowNumbers[at]),
      ...row.map((cell, index) => cellText(cell, found.columns[index] ?? { type: "text" })),
    ]),
  );
}

function profileTable(profiles: readonly Schemas["Profile"][]): string {
  return tableText(
    ["Column", "Type", "Filled", "Blank", "Distinct", "Lowest", "Highest", "Sum", "Shape"],
    profiles.map((one) => [
      one.name,
      one.unit === undefined ? one.type : `${one.type} ${one.unit}`,
      one.count - one.blanks,
      one.blanks,
      one.distinct,
      cellText(one.min, one),
      cellText(one.max, one),
      one.sum === null ? "" : Number(one.sum).toLocaleString("en", { maximumFractionDigits: 6 }),
      one.histogram.length > 0 ? bars(one.histogram.map((bar) => bar.count)) : frequentText(one),
    ]),
  );
}

const BARS = "▁▂▃▄▅▆▇█";

function bars(counts: readonly number[]): string {
  const most = Math.max(...counts, 1);
  return counts.map((count) => (count === 0 ? " " : BARS[Math.min(7, Math.floor((count / most) * 7.99))])).join("");
}

function frequentText(profile: Schemas["Profile"]): string {
  return profile.frequent
    .slice(0, 2)
    .map((one) => `${cellText(one.value, profile)} ${one.count.toLocaleString("en")}`)
    .join(", ");
}
