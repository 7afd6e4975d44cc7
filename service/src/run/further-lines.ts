/** Lines beside the groups' own as a run keeps and reads them. */
import type { FurtherLines } from "@corbix/core/expression";
import type { Report } from "@corbix/core/report";
import { belonging, furtherLines } from "@corbix/core/run";
import type { ColumnInfo, Table } from "@corbix/core/table";
import type { Context } from "../process/context.js";
import { linesOfParcel, type RunLines, runLines, unpackLines } from "../records/index.js";

/** The further lines of the run this process works on; those of everybody are unpacked once. */
let last: { readonly run: string; readonly lines: readonly (RunLines & { readonly table: Table })[] } | undefined;

async function readRunLines({ database }: Context, run: string) {
  if (last?.run === run) return last.lines;
  const lines = (await runLines(database, run)).map((one) => ({
    ...one,
    table: unpackLines(one.columns, one.lines ? [one.lines] : []),
  }));
  last = { run, lines };
  return lines;
}

/** Columns of a run's further lines by their name; `undefined` where it has none. */
export async function furtherColumnsOf(
  context: Context,
  run: string,
): Promise<Record<string, readonly ColumnInfo[]> | undefined> {
  const lines = (await readRunLines(context, run)).filter(({ period }) => period === "");
  return lines.length === 0 ? undefined : Object.fromEntries(lines.map((one) => [one.name, one.columns]));
}

/** The further lines of one parcel, beside its own; of a period that the run makes up for where one is named. */
export async function parcelLines(
  context: Context,
  about: { readonly run: string; readonly parcel: string; readonly report: Report; readonly own: Table },
  caught = "",
): Promise<ReadonlyMap<string, FurtherLines>> {
  const all = (await readRunLines(context, about.run)).filter(({ period }) => period === caught);
  if (all.length === 0) return new Map();
  const found = await linesOfParcel(context.database, about.parcel, caught);
  return new Map(
    all.map(({ name, columns, lines, table: shared }) => {
      const bytes = found.get(name);
      const table = lines ? shared : unpackLines(columns, bytes ? [bytes] : []);
      const match = about.report.lines[name]?.match;
      const belongs = belonging(about.own, table, match, `lines, ${name}`);
      return [name, furtherLines({ table, rows: table.rowNumbers.map((_, row) => row), belongs })];
    }),
  );
}
