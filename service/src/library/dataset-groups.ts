import { columnKey, groupKey } from "@corbix/core/common";
import type { Partners } from "@corbix/core/edition";
import { splitColumns } from "@corbix/core/report";
import type { GroupList } from "@corbix/core/split";
import type { Context } from "../process/context.js";
import { type EditionRow, getDataset, getEdition, newestRecipients, packedEdition } from "../records/index.js";
import { newestReports } from "./definitions.js";

/** Columns of an edition that the reports of its dataset split by; of the first report, where they differ. */
export async function splitColumnsOf(
  context: Context,
  dataset: string,
  edition: Pick<EditionRow, "columns">,
): Promise<string[]> {
  const own = (await newestReports(context)).filter(({ definition }) => definition.data === dataset);
  // A report over all rows at once splits by nothing; one with a group for each row names rows, not groups.
  const splits = own.flatMap(({ definition: { split } }) =>
    typeof split === "string" || Array.isArray(split) ? [splitColumns({ split })] : [],
  );
  const there = new Set(edition.columns.map(({ name }) => columnKey(name)));
  // A column that a report makes itself tells nothing of the rows as they come.
  const usable = splits.filter((columns) => columns.every((column) => there.has(columnKey(column))));
  return [...(usable[0] ?? [])];
}

/** The groups of an edition by columns; by those a report splits by, or the first, where none are named. */
export async function groupsOfEdition(
  context: Context,
  dataset: string,
  edition: EditionRow,
  named: readonly string[] | undefined,
): Promise<GroupList> {
  const { database } = context;
  const usual = named ?? (await splitColumnsOf(context, dataset, edition));
  const by = usual.length > 0 ? usual : edition.columns.slice(0, 1).map((column) => column.name);
  const { settings } = await getDataset(database, dataset);
  const before =
    edition.number > 1 ? await getEdition(database, dataset, edition.number - 1).catch(() => undefined) : undefined;
  const list = await newestRecipients(database);
  const old = before ? namesOf(before, by) : [];
  return context.threads.isolated("groups", {
    table: await packedEdition(database, edition, { columns: namesOf(edition, by) }),
    by,
    aliases: settings.aliases ?? [],
    ...(before && old.length === by.length ? { before: await packedEdition(database, before, { columns: old }) } : {}),
    ...(list ? { recipientKeys: list.recipients.map((recipient) => groupKey(recipient.group)) } : {}),
  });
}

/** Columns by which rows of a dataset find rows of another: those that share their values, in the newest editions. */
export async function partnersOf(context: Context, dataset: string, other: string): Promise<Partners[]> {
  const { database, threads } = context;
  return threads.isolated("partners", {
    table: await packedEdition(database, await getEdition(database, dataset)),
    other: await packedEdition(database, await getEdition(database, other)),
  });
}

/** Only the columns that make the groups are read. */
function namesOf(edition: EditionRow, by: readonly string[]): string[] {
  return edition.columns
    .filter((one) => by.some((name) => columnKey(name) === columnKey(one.name)))
    .map((one) => one.name);
}
