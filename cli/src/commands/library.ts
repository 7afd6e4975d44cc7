import { basename } from "node:path";
import { CorbixError, textFromBytes } from "@corbix/core/common";
import type { ListChange } from "@corbix/core/recipients";
import type { Client } from "../client.js";
import { readInput, saveDownload } from "../files.js";
import { findingLines, minute, type Output, short, tableText } from "../output.js";
import type { EditionAnswer, ReportAnswer } from "../shapes.js";

export async function datasets(client: Client, output: Output): Promise<number> {
  const all =
    await client.get<readonly { name: string; editions: number; newest: EditionAnswer | null }[]>("/api/datasets");
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
  const list = await client.get<{
    origin: string;
    recipients: readonly {
      group: string;
      name: string;
      to: readonly { address: string }[];
      copies: readonly { address: string }[];
    }[];
  } | null>("/api/recipients");
  const shown = (addresses: readonly { address: string }[]): string =>
    addresses.map(({ address }) => address).join("; ");
  output.line(
    list
      ? tableText(
          ["Group", "Name", "Addresses", "Copies"],
          list.recipients.map((one) => [short(one.group), one.name, shown(one.to), shown(one.copies)]),
        )
      : "No recipients yet. Import them: corbix recipients FILE",
  );
  output.value(list);
  return 0;
}

async function importRecipients(client: Client, path: string, options: ListOptions, output: Output): Promise<number> {
  const file = basename(path);
  const query = new URLSearchParams({ file, mode: options.merge ? "merge" : "replace" });
  const bytes = await readInput(path);
  if (!options.look) {
    const result = await client.upload<{ count: number; findings: EditionAnswer["findings"] }>(
      "PUT",
      `/api/recipients?${query}`,
      bytes,
    );
    output.line(
      options.merge ? `${result.count} recipients, ${file} merged in` : `${result.count} recipients from ${file}`,
    );
    for (const line of findingLines(result.findings)) output.line(line);
    output.value(result);
    return 0;
  }
  const seen = await client.upload<{
    changes: readonly ListChange[];
    unchanged: number;
    findings: EditionAnswer["findings"];
  }>("POST", `/api/recipients/preview?${query}`, bytes);
  for (const change of seen.changes)
    output.line(
      `${change.kind.padEnd(8)} ${change.group}: ${change.name}${change.fields.length > 0 ? ` (${change.fields.join(", ")})` : ""}`,
    );
  output.line(`${seen.changes.length} changes, ${seen.unchanged} entries as they are. Nothing was kept.`);
  for (const line of findingLines(seen.findings)) output.line(line);
  output.value(seen);
  return 0;
}

async function saveRecipients(client: Client, path: string, output: Output): Promise<number> {
  const ending = /\.(csv|xlsx|vcf)$/i.exec(path)?.[1].toLowerCase();
  if (!ending)
    throw new CorbixError("BAD_REQUEST", "Cannot tell how the list shall be saved.", {
      where: path,
      advice: "Let the name end with .csv, .xlsx or .vcf.",
    });
  return saveDownload(client, `/api/recipients/export?as=${ending}`, path, output);
}

export async function templates(client: Client, path: string | undefined, output: Output): Promise<number> {
  if (path !== undefined) {
    const added = await client.upload<{ name: string; number: number }>(
      "PUT",
      `/api/templates/${encodeURIComponent(basename(path))}`,
      await readInput(path),
    );
    output.line(`${added.name} version ${added.number}`);
    output.value(added);
    return 0;
  }
  const all =
    await client.get<readonly { name: string; number: number; size: number; createdAt: string }[]>("/api/templates");
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
    const saved = await client.upload<ReportAnswer>("PUT", `/api/reports/${name}`, source);
    output.line(`${saved.name} version ${saved.number} saved`);
    printTimes(saved, output);
    output.value(saved);
    return 0;
  }
  const all = await client.get<readonly ReportAnswer[]>("/api/reports");
  output.line(
    all.length === 0
      ? "No reports yet. Save one: corbix reports FILE.yaml"
      : tableText(
          ["Report", "Version", "Title", "Data", "Next run"],
          all.map((one) => [
            one.name,
            one.number,
            one.definition.title,
            one.definition.data,
            one.nextTimes[0] ? localTime(one.nextTimes[0]) : "by hand",
          ]),
        ),
  );
  output.value(all);
  return 0;
}

/** The next five times a report runs by itself. */
export async function times(client: Client, name: string, output: Output): Promise<number> {
  const report = await client.get<ReportAnswer>(`/api/reports/${name}`);
  printTimes(report, output);
  output.value({ report: name, nextTimes: report.nextTimes });
  return 0;
}

function printTimes(report: ReportAnswer, output: Output): void {
  const { schedule } = report.definition;
  if (!schedule) {
    output.line(`${report.name} runs by hand only: it has no schedule.`);
    return;
  }
  output.line(
    `${report.name} runs by itself: ${schedule.rule} at ${schedule.at} in ${schedule.zone}. Next, in your time zone:`,
  );
  for (const time of report.nextTimes) output.line(`  ${localTime(time)}`);
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
