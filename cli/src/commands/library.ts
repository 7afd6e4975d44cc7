import { basename } from "node:path";
import { textFromBytes } from "@corbix/core/common";
import { parseReport } from "@corbix/core/report";
import type { Client } from "../client.js";
import { readInput } from "../files.js";
import { findingLines, type Output, tableText } from "../output.js";
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
            newest?.createdAt.slice(0, 16).replace("T", " ") ?? "",
          ]),
        ),
  );
  output.value(all);
  return 0;
}

export async function recipients(client: Client, path: string | undefined, output: Output): Promise<number> {
  if (path !== undefined) {
    const result = await client.upload<{ count: number; findings: EditionAnswer["findings"] }>(
      "PUT",
      `/api/recipients?${new URLSearchParams({ file: basename(path) })}`,
      await readInput(path),
    );
    output.line(`${result.count} recipients from ${basename(path)}`);
    for (const line of findingLines(result.findings)) output.line(line);
    output.value(result);
    return 0;
  }
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
          list.recipients.map((one) => [
            one.group.length > 40 ? `${one.group.slice(0, 39)}…` : one.group,
            one.name,
            shown(one.to),
            shown(one.copies),
          ]),
        )
      : "No recipients yet. Import them: corbix recipients FILE",
  );
  output.value(list);
  return 0;
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
          all.map((one) => [one.name, one.number, one.size, one.createdAt.slice(0, 16).replace("T", " ")]),
        ),
  );
  output.value(all);
  return 0;
}

export async function reports(client: Client, path: string | undefined, output: Output): Promise<number> {
  if (path !== undefined) {
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
