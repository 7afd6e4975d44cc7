import { basename } from "node:path";
import { CorbixError, textFromBytes } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type Client, firstOf, type Schemas } from "../client.js";
import { readInput, saveDownload } from "../files.js";
import { findingLines, minute, type Output, short, tableText } from "../output.js";

export async function datasets(client: Client, output: Output): Promise<number> {
  const all = await firstOf(client.all("/datasets"));
  output.line(
    all.length === 0
      ? "No datasets yet. Load one: corbix load NAME FILE"
      : tableText(
          ["Dataset", "Editions", "Rows", "From", "Loaded"],
          all.map(({ name, editions, newest }) => [
            name,
            editions,
            newest?.rowCount ?? 0,
            newest?.origin ?? "",
            newest ? minute(newest.createdAt) : "",
          ]),
        ),
  );
  output.value(all);
  return 0;
}

export interface ListOptions {
  readonly merge?: boolean;
  readonly look?: boolean;
  readonly out?: string;
}

export async function recipients(
  client: Client,
  path: string | undefined,
  options: ListOptions,
  output: Output,
): Promise<number> {
  if (path !== undefined) return importRecipients(client, path, options, output);
  if (options.out !== undefined) return saveRecipients(client, options.out, output);
  const { list } = await client.get("/recipients", { query: { limit: 1 } });
  const entries = await firstOf(client.all("/recipients", { query: { limit: 1_000 } }));
  const shown = (addresses: readonly { address: string }[]): string =>
    addresses.map(({ address }) => address).join("; ");
  output.line(
    list
      ? tableText(
          ["Group", "Name", "Addresses", "Copies"],
          entries.map((one) => [short(one.group), one.name, shown(one.to), shown(one.copies)]),
        )
      : "No recipients yet. Import them: corbix recipients FILE",
  );
  output.value(list && { ...list, recipients: entries });
  return 0;
}

async function importRecipients(client: Client, path: string, options: ListOptions, output: Output): Promise<number> {
  const file = basename(path);
  const query = { file, mode: options.merge ? ("merge" as const) : ("replace" as const) };
  const bytes = await readInput(path);
  if (!options.look) {
    const result = await client.put("/recipients", { query, body: bytes });
    output.line(
      options.merge ? `${result.count} recipients, ${file} merged in` : `${result.count} recipients from ${file}`,
    );
    for (const line of findingLines(result.findings)) output.line(line);
    output.value(result);
    return 0;
  }
  const seen = await client.post("/recipients/preview", { query, body: bytes });
  for (const change of seen.changes)
    output.line(
      `${change.kind.padEnd(8)} ${change.group}: ${change.name}${change.fields.length > 0 ? ` (${change.fields.join(", ")})` : ""}`,
    );
  const { added, changed, removed } = seen;
  output.line(`${added + changed + removed} changes, ${seen.unchanged} entries as they are. Nothing was kept.`);
  for (const line of findingLines(seen.findings)) output.line(line);
  output.value(seen);
  return 0;
}

async function saveRecipients(client: Client, path: string, output: Output): Promise<number> {
  const ending = /\.(csv|xlsx|vcf)$/i.exec(path)?.[1]?.toLowerCase() as "csv" | "xlsx" | "vcf" | undefined;
  if (!ending)
    throw new CorbixError("BAD_REQUEST", say().command.cannotTellHowListShall(), {
      where: path,
      advice: say().command.letNameEndCsvXlsx(),
    });
  return saveDownload(client.get("/recipients/export", { query: { as: ending } }), path, output);
}

export async function templates(client: Client, path: string | undefined, output: Output): Promise<number> {
  if (path !== undefined) {
    const added = await client.put("/templates/{file}", {
      path: { file: basename(path) },
      body: await readInput(path),
    });
    output.line(`${added.name} version ${added.number}`);
    output.value(added);
    return 0;
  }
  const all = await firstOf(client.all("/templates"));
  output.line(
    all.length === 0
      ? "No templates yet. Add one: corbix templates FILE"
      : tableText(
          ["Template", "Version", "Bytes", "Added"],
          all.map((one) => [one.name, one.number, one.size, minute(one.createdAt)]),
        ),
  );
  output.value(all);
  return 0;
}

export async function reports(client: Client, path: string | undefined, output: Output): Promise<number> {
  if (path !== undefined) {
    const { parseReport } = await import("@corbix/core/report");
    const source = textFromBytes(await readInput(path));
    const name = parseReport(source, basename(path)).report;
    const saved = await client.put("/reports/{name}", { path: { name }, body: source });
    output.line(`${saved.name} version ${saved.number} saved`);
    printTimes(saved, output);
    output.value(saved);
    return 0;
  }
  const all = await firstOf(client.all("/reports"));
  output.line(
    all.length === 0
      ? "No reports yet. Save one: corbix reports FILE.yaml"
      : tableText(
          ["Report", "Version", "Title", "Data", "Next run"],
          all.map((one) => [
            one.name,
            one.number,
            one.title,
            one.data,
            one.nextTimes[0] ? localTime(one.nextTimes[0].at) : "by hand",
          ]),
        ),
  );
  output.value(all);
  return 0;
}

/** The next five times a report runs by itself. */
export async function times(client: Client, name: string, output: Output): Promise<number> {
  const report = await client.get("/reports/{name}", { path: { name } });
  printTimes(report, output);
  output.value({ report: name, nextTimes: report.nextTimes });
  return 0;
}

function printTimes(
  report: Pick<Schemas["Report"], "name" | "schedule" | "nextTimes" | "definition">,
  output: Output,
): void {
  const { schedule } = report;
  if (!schedule) {
    const onData = report.definition.startOnData !== undefined && report.definition.startOnData !== false;
    output.line(
      onData
        ? `${report.name} runs when new data arrives; it has no schedule.`
        : `${report.name} runs by hand only: it has no schedule.`,
    );
    return;
  }
  output.line(`${report.name} runs by itself ${schedule.says}. The times of a year, in your time zone:`);
  for (const { at, movedFrom } of report.nextTimes) {
    const why = movedFrom && `  in place of ${movedFrom.day}${movedFrom.name ? `, ${movedFrom.name}` : ""}`;
    output.line(`  ${localTime(at)}${why ?? ""}`);
  }
}

function localTime(iso: string): string {
  return new Intl.DateTimeFormat("en-GB", {
    weekday: "short",
    day: "numeric",
    month: "short",
    year: "numeric",
    hour: "2-digit",
    minute: "2-digit",
  }).format(new Date(iso));
}
