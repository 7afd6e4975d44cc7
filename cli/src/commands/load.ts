import { basename } from "node:path";
import { CorbixError } from "@corbix/core/common";
import type { IntakeRules } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { type Client, fileBody, type Schemas } from "../client.js";
import { findingLines, type Output, tableText } from "../output.js";

/** How a file is read, as options say it. */
export interface ReadingOptions {
  readonly sheet?: string;
  readonly table?: string;
  readonly headerRow?: string;
  readonly names?: string;
  readonly encoding?: string;
  readonly delimiter?: string;
  readonly list?: string;
}

/** Corrections of how a file is read, as options say them. */
export function readingRules(options: ReadingOptions): IntakeRules {
  const { sheet, table, headerRow, names, encoding, delimiter, list } = options;
  return {
    ...(sheet === undefined ? {} : { sheet }),
    ...(table === undefined ? {} : { table }),
    ...(headerRow === undefined
      ? {}
      : headerRow === "none"
        ? { header: "none" as const }
        : { headerRow: wholeNumber(headerRow, "--header-row") }),
    ...(names === undefined ? {} : { header: "none" as const, names: names.split(",").map((one) => one.trim()) }),
    ...(encoding === undefined ? {} : { encoding }),
    ...(delimiter === undefined ? {} : { delimiter }),
    ...(list === undefined ? {} : { list }),
  };
}

export interface LoadFileOptions extends ReadingOptions {
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
    const { upload } = await client.post("/uploads", { query: { file }, body: await fileBody(path) });
    const rules = readingRules(options);
    const reading = await client.post("/datasets/{name}/preview", {
      path: { name: dataset },
      body: {
        upload,
        file,
        rules,
        ...(password ? { password } : {}),
        ...(options.append ? { mode: "append" as const } : {}),
        ...(key ? { key } : {}),
      },
    });
    output.line(`${file} would be ${readingSentence(reading)}. Nothing was kept.`);
    tellReading(reading, output);
    output.line(`\nLoad it: corbix load ${dataset} ${path}`);
    output.value(reading);
    return 0;
  }
  const rules = readingRules(options);
  const query = {
    file,
    ...(Object.keys(rules).length === 0 ? {} : { rules: JSON.stringify(rules) }),
    ...(options.append ? { mode: "append" as const } : {}),
    ...(options.key === undefined ? {} : { key: options.key }),
  };
  const headers: Record<string, string> = password ? { "Corbix-File-Password": encodeURIComponent(password) } : {};
  const edition = await client.post("/datasets/{name}/editions", {
    path: { name: dataset },
    query,
    headers,
    body: await fileBody(path),
  });
  output.line(`${dataset} edition ${edition.number}: ${readingSentence(edition)}`);
  for (const line of findingLines(edition.findings)) output.line(line);
  output.line(`\nLook: corbix look ${dataset}   How it was read: corbix look ${dataset} --decisions`);
  output.value(edition);
  return 0;
}

export function wholeNumber(text: string, option: string): number {
  const number = Number(text);
  if (Number.isInteger(number) && number > 0) return number;
  throw new CorbixError("BAD_REQUEST", say().command.cannotUseExpectedWholeNumber({ option, text }), {});
}

/** What is told of how a file was read. */
type PreviewReading = Omit<Schemas["Preview"], "mode" | "drift" | "difference" | "preview">;

export function readingSentence(reading: PreviewReading): string {
  const left = reading.leftOut.reduce((sum, one) => sum + one.count, 0);
  const reasons = reading.leftOut.map((one) => `${one.reason} ${one.count.toLocaleString("en")}`).join(", ");
  const rows = `${reading.rowCount.toLocaleString("en")} rows and ${reading.columns.length} columns`;
  const added = reading.appended
    ? ` (${reading.appended.added.toLocaleString("en")} added, ${reading.appended.replaced.toLocaleString("en")} replaced)`
    : "";
  return `${rows}${added}, ${left.toLocaleString("en")} lines left out${left === 0 ? "" : ` (${reasons})`}`;
}

export function tellReading(reading: PreviewReading, output: Output): void {
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
