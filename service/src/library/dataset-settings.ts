/** What is set once for a dataset: corrections, key, aliases, password, mail address. */

import type { datasetEndpoints } from "@corbix/api";
import { CorbixError, columnKey, groupKey, suggestName } from "@corbix/core/common";
import type { Alias } from "@corbix/core/split";
import { say } from "@corbix/core/words";
import type { z } from "zod";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  allDatasets,
  type DatasetRow,
  type DatasetSettings,
  getDataset,
  getEdition,
  readEdition,
  replaceDatasetSettings,
  versionOf,
} from "../records/index.js";
import { checkExpected } from "./expected.js";

/** What of the settings is changed; what is left out stays. */
export type SettingsChange = z.output<(typeof datasetEndpoints)["changeDatasetSettings"]["body"]>;

/** Changes what is given, checked against the newest edition. Throws `BAD_REQUEST`, `CONFLICT` or `CHANGED_MEANWHILE`. */
export async function changeSettings(
  context: Context,
  name: string,
  change: SettingsChange,
  by: string,
  expected?: string,
): Promise<void> {
  const { database } = context;
  for (;;) {
    const dataset = await getDataset(database, name);
    checkExpected(expected, versionOf(dataset.settings), say().place.dataset({ name }), undefined);
    await checkColumns(context, name, change);
    await checkAliases(context, name, change.aliases ?? [], dataset.settings.aliases ?? []);
    if (change.mailbox) await checkMailbox(context, dataset, change.mailbox.name);
    if (!(await replaceDatasetSettings(database, dataset, nextSettings(context, dataset.settings, change)))) continue;
    await noteAction(database, by, "dataset settings changed", name, { what: Object.keys(change) });
    await announce(database, { kind: "dataset", subject: name });
    return;
  }
}

function nextSettings(context: Context, before: DatasetSettings, change: SettingsChange): DatasetSettings {
  const { password: secret, mailbox, keepMonths: months, ...plain } = change;
  const { password: oldSecret, mailbox: oldMailbox, keepMonths: oldMonths, ...old } = before;
  const sealed = secret === undefined ? oldSecret : secret === null ? undefined : context.secrets.seal(secret);
  const box = mailbox === undefined ? oldMailbox : (mailbox ?? undefined);
  const keepMonths = months === undefined ? oldMonths : (months ?? undefined);
  return {
    ...old,
    ...plain,
    ...(keepMonths === undefined ? {} : { keepMonths }),
    ...(sealed === undefined ? {} : { password: sealed }),
    ...(box === undefined ? {} : { mailbox: box }),
  } as DatasetSettings;
}

async function checkColumns(context: Context, name: string, change: SettingsChange): Promise<void> {
  const wanted = [...(change.key ?? []), ...(change.aliases ?? []).map((one) => one.column)];
  if (wanted.length === 0) return;
  const { columns } = await getEdition(context.database, name);
  for (const one of wanted) {
    if (columns.some((known) => columnKey(known.name) === columnKey(one))) continue;
    throw new CorbixError("BAD_REQUEST", say().serviceLibrary.cannotFindColumn({ one, name }), {
      where: "settings",
      advice: suggestName(
        one,
        columns.map((known) => known.name),
        "columns",
      ),
    });
  }
}

/** Two spellings are made one group only where both are there, or were made one before. Throws `UNKNOWN_NAME` with the nearest. */
async function checkAliases(
  context: Context,
  name: string,
  aliases: readonly Alias[],
  before: DatasetSettings["aliases"] & object,
): Promise<void> {
  const isKnown = (one: Alias): boolean =>
    before.some((old) => old.column === one.column && old.from === one.from && old.to === one.to);
  const fresh = aliases.filter((one) => !isKnown(one));
  if (fresh.length === 0) return;
  const edition = await getEdition(context.database, name);
  const values = new Map<string, readonly string[]>();
  for (const column of new Set(fresh.map((one) => columnKey(one.column)))) {
    const own = edition.columns.filter((one) => columnKey(one.name) === column).map((one) => one.name);
    const table = await readEdition(context.database, edition, { columns: own });
    values.set(column, [...new Set(table.columns.flatMap((one) => one.values.map((value) => String(value ?? ""))))]);
  }
  for (const one of fresh) {
    const there = values.get(columnKey(one.column)) ?? [];
    for (const [what, spelling] of [
      ["from", one.from],
      ["to", one.to],
    ] as const) {
      const isChain = what === "to" && before.some((old) => groupKey(old.to) === groupKey(spelling));
      if (isChain || there.some((value) => groupKey(value) === groupKey(spelling))) continue;
      throw new CorbixError(
        "UNKNOWN_NAME",
        say().serviceLibrary.cannotMergeRowNothingChanged({ what, spelling, name, column: one.column }),
        {
          where: "settings, aliases",
          advice: suggestName(spelling, there.filter(Boolean), "values"),
        },
      );
    }
  }
}

async function checkMailbox(context: Context, dataset: DatasetRow, box: string): Promise<void> {
  const all = await allDatasets(context.database);
  const taken = all.find((other) => other.id !== dataset.id && other.settings.mailbox?.name === box);
  if (!taken) return;
  throw new CorbixError("CONFLICT", say().serviceLibrary.cannotUseAddressTakesFiles({ box, name: taken.name }), {
    where: "mailbox",
    advice: say().serviceLibrary.chooseAnotherName(),
  });
}
