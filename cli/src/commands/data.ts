import { basename } from "node:path";
import { CorbixError, dateFromSerial, type Finding, isoFromSerial } from "@corbix/core/common";
import type { EditionDifference } from "@corbix/core/edition";
import type { ColumnProfile, GridFilter, GridQuery } from "@corbix/core/grid";
import type { StepAccount } from "@corbix/core/prepare";
import type { GroupList } from "@corbix/core/split";
import type { Cell, ColumnInfo, IntakeRules } from "@corbix/core/table";
import type { Client } from "../client.js";
import { findingLines, type Output, tableText } from "../output.js";
import type { EditionAnswer } from "../shapes.js";

export interface LoadFileOptions {
  readonly sheet?: string;
  readonly table?: string;
  readonly headerRow?: string;
  readonly append?: boolean;
  readonly key?: string;
  readonly look?: boolean;
}

/** Loads a file, or with `look` only says how it would be read. The password comes from CORBIX_FILE_PASSWORD. */
export async function load(
  client: Client,
  dataset: string,
  path: string,
  options: LoadFileOptions,
  output: Output,
): Promise<number> {
  const file = basename(path);
  const password = process.env.CORBIX_FILE_PASSWORD;
  const key = options.key?.split(",").map((one) => one.trim());
  if (options.look) {
    const { upload } = await client.uploadFile<{ upload: string }>(
      `/api/uploads?${new URLSearchParams({ file })}`,
      path,
    );
    const rules: IntakeRules = {
      ...(options.sheet === undefined ? {} : { sheet: options.sheet }),
      ...(options.table === undefined ? {} : { table: options.table }),
      ...(options.headerRow === undefined ? {} : { headerRow: wholeNumber(options.headerRow, "--header-row") }),
    };
    const reading = await client.send<EditionAnswer>("POST", `/api/datasets/${dataset}/preview`, {
      upload,
      file,
      rules,
      ...(password ? { password } : {}),
      ...(options.append ? { mode: "append" } : {}),
      ...(key ? { key } : {}),
    });
    output.line(`${file} would be ${readingSentence(reading)}. Nothing was kept.`);
    tellReading(reading, output);
    output.line(`\nLoad it: corbix load ${dataset} ${path}`);
    output.value(reading);
    return 0;
  }
  const query = new URLSearchParams({
    file,
    ...(options.sheet === undefined ? {} : { sheet: options.sheet }),
    ...(options.table === undefined ? {} : { table: options.table }),
    ...(options.headerRow === undefined ? {} : { headerRow: options.headerRow }),
    ...(options.append ? { mode: "append" } : {}),
    ...(options.key === undefined ? {} : { key: options.key }),
  });
  const headers: Record<string, string> = password ? { "Corbix-File-Password": encodeURIComponent(password) } : {};
  const edition = await client.uploadFile<EditionAnswer>(`/api/datasets/${dataset}/editions?${query}`, path, headers);
  output.line(`${dataset} edition ${edition.number}: ${readingSentence(edition)}`);
  for (const line of findingLines(edition.findings)) output.line(line);
  output.line(`\nLook: corbix look ${dataset}   How it was read: corbix look ${dataset} --decisions`);
  output.value(edition);
  return 0;
}

function wholeNumber(text: string, option: string): number {
  const number = Number(text);
  if (Number.isInteger(number) && number > 0) return number;
  throw new CorbixError("BAD_REQUEST", `Cannot use ${option} ${text}, expected a whole number from 1.`, {});
}

function readingSentence(reading: EditionAnswer): string {
  const left = reading.leftOut.reduce((sum, one) => sum + one.count, 0);
  const reasons = reading.leftOut.map((one) => `${one.reason} ${one.count.toLocaleString("en")}`).join(", ");
  const rows = `${reading.rowCount.toLocaleString("en")} rows and ${reading.columns.length} columns`;
  const added = reading.appended
    ? ` (${reading.appended.added.toLocaleString("en")} added, ${reading.appended.replaced.toLocaleString("en")} replaced)`
    : "";
  return `${rows}${added}, ${left.toLocaleString("en")} lines left out${left === 0 ? "" : ` (${reasons})`}`;
}

function tellReading(reading: EditionAnswer, output: Output): void {
  const decided = new Set(reading.decisions.map((one) => one.what));
  const told = Object.entries(reading.reading)
    .filter(([what]) => !decided.has(what))
    .map(([what, chosen]) => [what, chosen, "told by the content"]);
  output.line("");
  output.line(
    tableText(
      ["What", "Chosen", "Why"],
      [
        ...told,
        ...reading.decisions.map((one) => [one.what, one.chosen, one.corrected ? `${one.why} (corrected)` : one.why]),
      ],
    ),
  );
  if (reading.findings.length > 0) output.line("");
  for (const line of findingLines(reading.findings)) output.line(line);
}

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

interface LookAnswer {
  readonly columns: readonly ColumnInfo[];
  readonly rowNumbers: readonly number[];
  readonly rows: readonly (readonly Cell[])[];
  readonly total: number;
  readonly of: number;
}

/** Rows of an edition or of a step of a preparation, its columns in figures, how it was read, or its changed cells. */
export async function look(client: Client, dataset: string, options: LookOptions, output: Output): Promise<number> {
  const edition = await findEdition(client, dataset, options.edition);
  const base = `/api/datasets/${dataset}/editions/${edition.number}`;
  const head = `${dataset} edition ${edition.number}, from ${edition.origin}`;
  if (options.decisions) {
    output.line(`${head}: ${readingSentence(edition)}`);
    tellReading(edition, output);
    output.value(edition);
    return 0;
  }
  if (options.changes) return tellChanges(client, base, head, options, output);
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
  const found = await client.send<LookAnswer>("POST", `${base}/look`, {
    ...sight,
    first: options.from === undefined ? 0 : wholeNumber(options.from, "--from") - 1,
    count: Math.min(2000, options.rows === undefined ? 20 : wholeNumber(options.rows, "--rows")),
  });
  const amount =
    found.total === found.of
      ? `${found.of.toLocaleString("en")} rows`
      : `${found.total.toLocaleString("en")} of ${found.of.toLocaleString("en")} rows`;
  if (options.columns) {
    const profiles = await client.send<readonly ColumnProfile[]>("POST", `${base}/profile`, {
      ...sight,
      columns: found.columns.map((column) => column.name),
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

async function findEdition(client: Client, dataset: string, number: string | undefined): Promise<EditionAnswer> {
  const { editions } = await client.get<{ editions: readonly EditionAnswer[] }>(`/api/datasets/${dataset}`);
  const found =
    number === undefined ? editions[0] : editions.find((one) => one.number === wholeNumber(number, "--edition"));
  if (found) return found;
  throw new CorbixError("NOT_FOUND", `Cannot find edition ${number ?? 1} of \`${dataset}\`.`, {
    where: "datasets",
    advice: `The editions there are: ${editions.map((one) => one.number).join(", ") || "none"}.`,
  });
}

async function tellChanges(
  client: Client,
  base: string,
  head: string,
  options: LookOptions,
  output: Output,
): Promise<number> {
  const count = options.rows === undefined ? 50 : wholeNumber(options.rows, "--rows");
  const first = options.from === undefined ? 0 : wholeNumber(options.from, "--from") - 1;
  const changes = await client.get<{
    total: number;
    cells: readonly { row: number; column: string; kind: string; raw: string }[];
  }>(`${base}/changes?first=${first}&count=${Math.min(2000, count)}`);
  output.line(`${head}: ${changes.total.toLocaleString("en")} cells stand otherwise than in the file`);
  if (changes.cells.length > 0) {
    output.line("");
    output.line(
      tableText(
        ["Row", "Column", "What", "Stood there"],
        changes.cells.map((one) => [String(one.row), one.column, one.kind, JSON.stringify(one.raw)]),
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
    if (found) return { column: found[1], is, value: (found[2] ?? "").replace(/^"(.*)"$/, "$1") };
  }
  throw new CorbixError("BAD_REQUEST", `Cannot understand the filter \`${text}\`.`, {
    where: "--where",
    advice: 'Write "Fee >= 9", "Site = Dock", "Remarks has oil", "Result is blank".',
  });
}

const WIDEST = 28;

export function cellText(cell: Cell, { type, unit }: ColumnInfo): string {
  if (cell === null) return "";
  if (typeof cell === "boolean") return cell ? "yes" : "no";
  if (typeof cell === "string")
    return cell.length > WIDEST ? `${cell.slice(0, WIDEST - 1)}…` : cell.replaceAll("\n", " ");
  if (type === "date") return isoFromSerial(cell);
  if (type === "datetime") return isoFromSerial(cell).slice(0, 16).replace("T", " ");
  if (type === "time") return dateFromSerial(cell).toISOString().slice(11, 16);
  if (unit === "%") return `${Number((cell * 100).toPrecision(12)).toLocaleString("en")}%`;
  return cell.toLocaleString("en", { maximumFractionDigits: 12, useGrouping: false });
}

function rowsTable(found: LookAnswer): string {
  return tableText(
    ["Row", ...found.columns.map((column) => column.name)],
    found.rows.map((row, at) => [
      String(found.rowNumbers[at]),
      ...row.map((cell, index) => cellText(cell, found.columns[index])),
    ]),
  );
}

function profileTable(profiles: readonly ColumnProfile[]): string {
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

function frequentText(profile: ColumnProfile): string {
  return profile.frequent
    .slice(0, 2)
    .map((one) => `${cellText(one.value, profile)} ${one.count.toLocaleString("en")}`)
    .join(", ");
}

export interface CorrectOptions {
  readonly sheet?: string;
  readonly table?: string;
  readonly headerRow?: string;
  readonly headerLines?: string;
  readonly firstColumn?: string;
  readonly lastColumn?: string;
  readonly end?: string;
  readonly type: readonly string[];
  readonly append?: boolean;
  readonly replace?: boolean;
  readonly key?: string;
  readonly reset?: boolean;
}

interface SettingsAnswer {
  readonly rules: IntakeRules;
  readonly mode: string;
  readonly key: readonly string[];
  readonly aliases: readonly { readonly column: string; readonly from: string; readonly to: string }[];
  readonly mailbox: { readonly name: string; readonly senders: readonly string[] } | null;
  readonly address: string | null;
  readonly hasPassword: boolean;
}

/** Shows what is set for a dataset, or changes how its files are read. */
export async function correct(
  client: Client,
  dataset: string,
  options: CorrectOptions,
  output: Output,
): Promise<number> {
  const path = `/api/datasets/${dataset}/settings`;
  const before = await client.get<SettingsAnswer>(path);
  const change = changeOf(before.rules, options);
  const after = Object.keys(change).length === 0 ? before : await client.send<SettingsAnswer>("PUT", path, change);
  const rules = Object.entries(after.rules).map(([name, rule]) => [
    name,
    typeof rule === "string" ? rule : JSON.stringify(rule),
  ]);
  output.line(
    tableText(
      ["Setting", "Value"],
      [
        ["a new file", after.mode === "append" ? "adds to the edition before" : "replaces what is shown"],
        ["key", after.key.join(", ") || "none"],
        ["password", after.hasPassword ? "kept" : "none"],
        [
          "by mail",
          after.address ?? (after.mailbox ? `${after.mailbox.name}@… (intakeMailPort is not set)` : "not taken"),
        ],
        ["aliases", String(after.aliases.length)],
        ...rules,
      ],
    ),
  );
  if (rules.length === 0) output.line("\nNo corrections: everything is found by itself.");
  else if (after !== before) output.line("\nCorrections hold from the next load on.");
  output.value(after);
  return 0;
}

function changeOf(rules: IntakeRules, options: CorrectOptions): Record<string, unknown> {
  const end = options.end;
  const given: Record<string, unknown> = {
    ...(options.sheet === undefined ? {} : { sheet: options.sheet }),
    ...(options.table === undefined ? {} : { table: options.table }),
    ...(options.headerRow === undefined ? {} : { headerRow: wholeNumber(options.headerRow, "--header-row") }),
    ...(options.headerLines === undefined ? {} : { headerLines: wholeNumber(options.headerLines, "--header-lines") }),
    ...(options.firstColumn === undefined ? {} : { firstColumn: options.firstColumn }),
    ...(options.lastColumn === undefined ? {} : { lastColumn: options.lastColumn }),
    ...(end === undefined ? {} : { end: /^\d+$/.test(end) ? { row: Number(end) } : end }),
  };
  if (options.type.length > 0)
    given.types = { ...(options.reset ? {} : rules.types), ...Object.fromEntries(options.type.map(parseType)) };
  const hasRules = options.reset || Object.keys(given).length > 0;
  return {
    ...(hasRules ? { rules: { ...(options.reset ? {} : rules), ...given } } : {}),
    ...(options.append ? { mode: "append" } : options.replace ? { mode: "replace" } : {}),
    ...(options.key === undefined ? {} : { key: options.key.split(",").map((one) => one.trim()) }),
  };
}

/** `Due=date day-first`, `Fee=number comma`. */
function parseType(text: string): [string, Record<string, string>] {
  const found = /^(.+)=\s*(\w+)(?:\s+(day-first|month-first|point|comma))?$/.exec(text);
  if (!found) {
    throw new CorbixError("BAD_REQUEST", `Cannot understand the type \`${text}\`.`, {
      where: "--type",
      advice: 'Write "Due=date day-first", "Fee=number comma" or "Code=text".',
    });
  }
  const [, column, type, detail] = found;
  const name = detail?.endsWith("first") ? "order" : "decimal";
  return [column.trim(), { type, ...(detail === undefined ? {} : { [name]: detail }) }];
}

/** Takes files for a dataset by mail, or with no sender stops it. */
export async function receive(
  client: Client,
  dataset: string,
  options: { readonly at?: string; readonly from: readonly string[]; readonly stop?: boolean },
  output: Output,
): Promise<number> {
  if (!options.stop && options.from.length === 0)
    throw new CorbixError("BAD_REQUEST", "Cannot take files from anybody: no sender is named.", {
      where: "--from",
      advice: "Name an address, or a domain as @lifts.example; or give --stop.",
    });
  const mailbox = options.stop ? null : { name: options.at ?? dataset, senders: options.from };
  const after = await client.send<SettingsAnswer>("PUT", `/api/datasets/${dataset}/settings`, { mailbox });
  output.line(
    after.mailbox === null
      ? `${dataset} takes no files by mail.`
      : `${dataset} takes files at ${after.address ?? `${after.mailbox.name}@… once intakeMailPort is set`} from ${after.mailbox.senders.join(", ")}.`,
  );
  output.value(after);
  return 0;
}

export async function compare(
  client: Client,
  dataset: string,
  options: { readonly edition?: string; readonly with?: string },
  output: Output,
): Promise<number> {
  const edition = await findEdition(client, dataset, options.edition);
  const other = options.with === undefined ? "" : `?with=${wholeNumber(options.with, "--with")}`;
  const found = await client.get<EditionDifference & { before: number; after: number }>(
    `/api/datasets/${dataset}/editions/${edition.number}/difference${other}`,
  );
  const number = (value: number): string => value.toLocaleString("en");
  output.line(`${dataset} edition ${found.after} beside edition ${found.before}`);
  output.line(
    `rows    ${number(found.rows.before)} → ${number(found.rows.after)}: ${number(found.added.count)} added, ${number(found.gone.count)} gone, ${found.changed ? `${number(found.changed.count)} changed, ` : ""}${number(found.same)} the same`,
  );
  const names = (what: string, list: readonly string[]): void => {
    if (list.length > 0)
      output.line(`        ${what}: ${list.slice(0, 20).join(", ")}${list.length > 20 ? ", …" : ""}`);
  };
  names("new columns", found.columns.added);
  names("columns gone", found.columns.gone);
  for (const group of found.groups) {
    output.line(`groups  by ${group.column}: ${number(group.before)} → ${number(group.after)}`);
    names("new", group.added);
    names("gone", group.gone);
  }
  if (found.totals.length > 0) {
    output.line("");
    const amount = (text: string): string => Number(text).toLocaleString("en", { maximumFractionDigits: 6 });
    output.line(
      tableText(
        ["Total", "Before", "After", "Difference"],
        found.totals.map((one) => [one.column, amount(one.before), amount(one.after), amount(one.difference)]),
      ),
    );
  }
  if (found.changed && found.changed.examples.length > 0) {
    output.line("");
    output.line(
      tableText(
        ["Key", "Column", "Before", "After"],
        found.changed.examples
          .slice(0, 20)
          .map((one) => [one.key, one.column, String(one.before ?? ""), String(one.after ?? "")]),
      ),
    );
  }
  output.value(found);
  return 0;
}

export async function groups(
  client: Client,
  dataset: string,
  options: { readonly by?: string; readonly edition?: string },
  output: Output,
): Promise<number> {
  const edition = await findEdition(client, dataset, options.edition);
  const query = options.by === undefined ? "" : `?${new URLSearchParams({ by: options.by })}`;
  const found = await client.get<GroupList>(`/api/datasets/${dataset}/editions/${edition.number}/groups${query}`);
  output.line(
    `${found.groups.length.toLocaleString("en")} groups by ${found.by.join(", ")}, ${found.blank.count.toLocaleString("en")} rows with none\n`,
  );
  output.line(
    tableText(
      ["Group", "Rows", "Remarks"],
      found.groups.map((group) => [
        group.label,
        group.count,
        [
          group.isNew ? "new" : "",
          group.hasRecipients === false ? "nobody to receive" : "",
          group.spellings.length > 1
            ? `also ${group.spellings
                .slice(1)
                .map((one) => JSON.stringify(one))
                .join(", ")}`
            : "",
        ]
          .filter((remark) => remark !== "")
          .join("; "),
      ]),
    ),
  );
  if (found.findings.length > 0) output.line("");
  for (const line of findingLines(found.findings)) output.line(line);
  for (const { from, to } of found.near)
    output.line(`      Merge: corbix merge ${dataset} ${quoted(found.by[0])} ${quoted(from)} ${quoted(to)}`);
  output.value(found);
  return 0;
}

function quoted(text: string): string {
  return /^[\w.-]+$/.test(text) ? text : JSON.stringify(text);
}

/** Two spellings as one group from now on, or with `undo` as two again. */
export async function merge(
  client: Client,
  dataset: string,
  column: string,
  from: string,
  to: string | undefined,
  options: { readonly undo?: boolean },
  output: Output,
): Promise<number> {
  const path = `/api/datasets/${dataset}/settings`;
  const { aliases } = await client.get<SettingsAnswer>(path);
  const others = aliases.filter((alias) => alias.column !== column || alias.from !== from);
  if (!options.undo && to === undefined)
    throw new CorbixError("BAD_REQUEST", "Cannot merge: the spelling it counts as is missing.", {
      advice: `corbix merge ${dataset} ${quoted(column)} ${quoted(from)} "…"`,
    });
  const after = await client.send<SettingsAnswer>("PUT", path, {
    aliases: options.undo ? others : [...others, { column, from, to }],
  });
  output.line(
    options.undo ? `"${from}" is a group of its own again.` : `"${from}" counts as "${to}" in ${column} from now on.`,
  );
  output.value(after.aliases);
  return 0;
}

export async function steps(
  client: Client,
  report: string,
  options: { readonly edition?: string },
  output: Output,
): Promise<number> {
  const query = options.edition === undefined ? "" : `?edition=${wholeNumber(options.edition, "--edition")}`;
  const found = await client.get<readonly StepAccount[]>(`/api/reports/${report}/steps${query}`);
  if (found.length === 0) output.line("The report takes the rows as they are.");
  else {
    output.line(
      tableText(
        ["", "Step", "What", "Rows in", "Left out", "Made", "Rows out"],
        found.map((step, at) => [
          String(at + 1),
          step.kind,
          step.what.length > 60 ? `${step.what.slice(0, 59)}…` : step.what,
          step.rowsIn,
          step.leftOut.reduce((sum, one) => sum + one.count, 0),
          step.made,
          step.rowsOut,
        ]),
      ),
    );
    const reasons = found.flatMap((step, at) =>
      step.leftOut.map((one) => `step ${at + 1}: ${one.count.toLocaleString("en")} ${one.reason}`),
    );
    if (reasons.length > 0) output.line(`\n${reasons.join("\n")}`);
    const findings: Finding[] = found.flatMap((step) => [...step.findings]);
    for (const line of findingLines(findings)) output.line(line);
    output.line(`\nRows after a step: corbix look DATASET --report ${report} --step 1`);
  }
  output.value(found);
  return 0;
}

export async function arrivals(client: Client, output: Output): Promise<number> {
  const all =
    await client.get<
      readonly {
        at: string;
        way: string;
        sender: string;
        file: string;
        dataset: string | null;
        outcome: string;
        edition: number | null;
        message: string | null;
      }[]
    >("/api/arrivals");
  output.line(
    all.length === 0
      ? "Nothing came by the watched folder or by mail yet."
      : tableText(
          ["When", "By", "From", "File", "Outcome"],
          all.map((one) => [
            one.at.slice(0, 16).replace("T", " "),
            one.way,
            one.sender,
            one.file,
            one.outcome === "loaded" ? `edition ${one.edition} of ${one.dataset}` : `refused: ${one.message}`,
          ]),
        ),
  );
  output.value(all);
  return 0;
}
