/** The shared recipient list: imported with a preview, changed entry by entry, kept with its whole history. */

import { CorbixError, columnKey, type Finding, greatest, sha256 } from "@corbix/core/common";
import { CONTENT_TYPES } from "@corbix/core/message";
import type { PersonWords } from "@corbix/core/person";
import {
  type Address,
  addressFindings,
  ENTRY_FAULTS,
  foldAddress,
  type ListChange,
  listAsRows,
  type MergedList,
  type MergeMode,
  mergeRecipients,
  type Recipient,
  type RecipientList,
  readCards,
  readRecipients,
  writeCards,
} from "@corbix/core/recipients";
import type { Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { PlainWorkbook } from "@corbix/core/workbook";
import { stringify } from "csv-stringify/sync";
import { noteAction } from "../audit/audit.js";
import { announce } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  addRecipientList,
  namesBefore,
  newestRecipients,
  type PageWish,
  pageOfRecipientLists,
  type RecipientListRow,
  type Transaction,
} from "../records/index.js";
import { checkExpected } from "./expected.js";

/** Reads a list from a stored file: a table, or vCards. Throws `BAD_TABLE_FILE` where nobody could be found in it. */
export async function readListFile(
  context: Context,
  digest: string,
  name: string,
  sheet: string | undefined,
): Promise<RecipientList> {
  const path = context.store.pathOf(digest);
  const list = /\.vcf$/i.test(name)
    ? readCards(Buffer.from(await context.store.get(digest)).toString("utf8"), name)
    : await context.threads.isolated("recipients", {
        path,
        sha256: digest,
        where: name,
        options: sheet === undefined ? {} : { sheet },
      });
  const stop = list.findings.find((finding) => finding.severity === "stop");
  if (stop)
    throw new CorbixError("BAD_TABLE_FILE", say().serviceLibrary.cannotUseRecipientList({ what: stop.what }), {
      where: stop.where,
      advice: stop.advice,
    });
  return list;
}

/** What an import would change; nothing is kept. */
export async function previewList(
  context: Context,
  list: RecipientList,
  mode: MergeMode,
): Promise<MergedList & { readonly findings: readonly Finding[] }> {
  const before = (await newestRecipients(context.database))?.recipients ?? [];
  return { ...mergeRecipients(before, list.recipients, mode), findings: list.findings };
}

/** Imports a list; from then on it is the shared one. Throws `CHANGED_MEANWHILE` where the list is not the expected version. */
export async function importList(
  context: Context,
  file: { readonly name: string; readonly sha256: string },
  list: RecipientList,
  { mode, expected }: { readonly mode: MergeMode; readonly expected?: string | undefined },
  by: string,
): Promise<RecipientListRow> {
  const stored = (await context.store.has(file.sha256)) ? file.sha256 : null;
  return changeList(context, expected, by, (before) => {
    const merged = mergeRecipients(before, list.recipients, mode);
    // A file alone keeps its own row numbers, which its findings name.
    const recipients = mode === "replace" ? list.recipients : merged.recipients;
    const findings = mode === "replace" ? list.findings : addressFindings(recipients, "list");
    return {
      origin: file.name,
      sha256: file.sha256,
      stored,
      recipients,
      findings,
      what: mode === "replace" ? "recipients imported" : "recipients merged",
      changes: merged.changes.length,
    };
  });
}

/** One entry as a person types it, all of it as text. */
export interface ListEntry {
  readonly group: string;
  readonly name: string;
  readonly addresses: string;
  readonly copies?: string | undefined;
  readonly blindCopies?: string | undefined;
  readonly role?: string | undefined;
  readonly dataset?: string | undefined;
  readonly language?: string | undefined;
  readonly activeFrom?: string | undefined;
  readonly activeUntil?: string | undefined;
  readonly neverSend?: boolean | undefined;
  readonly fields?: Readonly<Record<string, string>> | undefined;
}

/** Adds an entry, or puts it in place of those of a row. Throws `BAD_REQUEST` with what is wrong with it, or `CHANGED_MEANWHILE`. */
export async function setEntry(
  context: Context,
  row: number | undefined,
  entry: ListEntry,
  by: string,
  expected?: string,
): Promise<RecipientListRow> {
  return changeList(context, expected, by, (before) => {
    const at =
      row ??
      greatest(
        before.map((one) => one.row),
        1,
      ) + 1;
    if (row !== undefined && !before.some((one) => one.row === row)) throw noRow(row);
    const { recipients, findings } = readRecipients(entryTable(entry, at), "entry");
    const wrong = findings.find((finding) => ENTRY_FAULTS.has(finding.code));
    if (wrong)
      throw new CorbixError("BAD_REQUEST", say().serviceLibrary.cannotKeepEntry({ what: wrong.what }), {
        where: "entry",
        advice: wrong.advice,
      });
    const first = before.findIndex((one) => one.row === row);
    const others = before.filter((one) => one.row !== row);
    const place = first < 0 ? others.length : before.slice(0, first).filter((one) => one.row !== row).length;
    const after = [...others.slice(0, place), ...recipients, ...others.slice(place)];
    return changedByHand(before, after, row === undefined ? "recipient added" : "recipient changed");
  });
}

export async function removeEntry(
  context: Context,
  row: number,
  by: string,
  expected?: string,
): Promise<RecipientListRow> {
  return changeList(context, expected, by, (before) => {
    const after = before.filter((one) => one.row !== row);
    if (after.length === before.length) throw noRow(row);
    return changedByHand(before, after, "recipient removed");
  });
}

/** Writes other addresses in place of those that turned out wrong, wherever they stand in the list. Gives how many entries changed. */
export async function correctAddresses(
  context: Context,
  corrections: readonly Correction[],
  by: string,
): Promise<number> {
  const right = new Map(corrections.map(({ address, to }) => [foldAddress(address), to]));
  const all = (addresses: readonly Address[]): Address[] =>
    addresses.map((one) => ({ ...one, address: right.get(foldAddress(one.address)) ?? one.address }));
  const correct = (one: Recipient): Recipient => ({
    ...one,
    to: all(one.to),
    copies: all(one.copies),
    blindCopies: all(one.blindCopies),
  });
  const concerns = ({ to, copies, blindCopies }: Recipient): boolean =>
    [...to, ...copies, ...blindCopies].some(({ address }) => right.has(foldAddress(address)));
  const found = ((await newestRecipients(context.database))?.recipients ?? []).filter(concerns).length;
  if (found > 0)
    await changeList(context, undefined, by, (before) =>
      changedByHand(
        before,
        before.map((one) => (concerns(one) ? correct(one) : one)),
        "addresses corrected",
      ),
    );
  return found;
}

/**
 * People who are in the list for one dataset only stay so when that is renamed: in the same transaction, so that nobody is left out
 * between. Throws `CHANGED_MEANWHILE`.
 */
export async function followDataset(
  context: Context,
  { from, to, by }: { readonly from: string; readonly to: string; readonly by: string },
  transaction: Transaction,
): Promise<void> {
  const newest = await newestRecipients(context.database);
  const before = newest?.recipients ?? [];
  const after = withDatasets(before, new Map([[from, to]]));
  if (!newest || after.every((one, at) => one === before[at])) return;
  const { what: _, changes: __, ...list } = changedByHand(before, after, "");
  const kept = await addRecipientList(context.database, { ...list, follows: newest.id, createdBy: by }, transaction);
  if (!kept)
    throw new CorbixError("CHANGED_MEANWHILE", say().serviceLibrary.cannotRenameSomebodyChangedRecipient(), {
      where: "recipients",
      advice: say().serviceLibrary.tryAgain(),
    });
}

/** A list without a person: without their entries, and without their addresses among those of others. */
export function entriesWithout(all: readonly Recipient[], person: PersonWords): readonly Recipient[] {
  const others = (addresses: readonly Address[]): readonly Address[] =>
    addresses.filter(({ address, name }) => !person.isIn(address) && !person.isIn(name ?? ""));
  return all.flatMap((one) => {
    if (!person.isWithin(one)) return [one];
    const to = others(one.to);
    const isOwn = person.isIn(one.name) || to.length === 0;
    const { fields, copies, blindCopies } = one;
    return isOwn
      ? []
      : [{ ...one, to, copies: others(copies), blindCopies: others(blindCopies), fields: person.withoutAll(fields) }];
  });
}

/** Takes a person out of the list as it is. */
export async function takePersonOut(context: Context, person: PersonWords, by: string): Promise<void> {
  await changeList(context, undefined, by, (before) =>
    changedByHand(before, entriesWithout(before, person), "person taken out of the list"),
  );
}

/** Entries whose dataset is called otherwise now say so; the others are the same. */
function withDatasets(all: readonly Recipient[], names: ReadonlyMap<string, string>): readonly Recipient[] {
  const now = new Map([...names].map(([from, to]) => [columnKey(from), columnKey(to)]));
  return all.map((one) => {
    const dataset = one.dataset === undefined ? undefined : now.get(one.dataset);
    return dataset === undefined ? one : { ...one, dataset };
  });
}

/** An address that turned out wrong, and the right one. */
export interface Correction {
  readonly address: string;
  readonly to: string;
}

function noRow(row: number): CorbixError {
  return new CorbixError("NOT_FOUND", say().serviceLibrary.cannotFindRowList({ row }), {
    where: "recipients",
    advice: say().serviceLibrary.lookListAgainSomebodyMay(),
  });
}

function entryTable(entry: ListEntry, row: number): Table {
  const cells: Record<string, string> = {
    Group: entry.group,
    Name: entry.name,
    Addresses: entry.addresses,
    Copies: entry.copies ?? "",
    "Blind copies": entry.blindCopies ?? "",
    Role: entry.role ?? "",
    Dataset: entry.dataset ?? "",
    Language: entry.language ?? "",
    "Active from": entry.activeFrom ?? "",
    "Active until": entry.activeUntil ?? "",
    "Never send": entry.neverSend ? "yes" : "",
    ...entry.fields,
  };
  return {
    columns: Object.entries(cells).map(([name, value]) => ({ name, type: "text" as const, values: [value] })),
    rowCount: 1,
    rowNumbers: [row],
  };
}

/** A list as it becomes, with what is said of the change. */
interface NextList extends Pick<RecipientListRow, "origin" | "sha256" | "stored" | "recipients" | "findings"> {
  readonly what: string;
  readonly changes: number;
}

function changedByHand(before: readonly Recipient[], after: readonly Recipient[], what: string): NextList {
  return {
    origin: "the console",
    recipients: after,
    findings: addressFindings(after, "list"),
    sha256: sha256(JSON.stringify(after)),
    stored: null,
    what,
    changes: mergeRecipients(before, after, "replace").changes.length,
  };
}

/** Changes the list as it is: where somebody else did meanwhile, theirs is changed, or, with an expected version, nothing is. */
async function changeList(
  context: Context,
  expected: string | undefined,
  by: string,
  change: (before: readonly Recipient[]) => NextList,
): Promise<RecipientListRow> {
  for (;;) {
    const newest = await newestRecipients(context.database);
    checkExpected(expected, newest?.id, "recipients", newest?.createdBy);
    const { what, changes, ...given } = change(newest?.recipients ?? []);
    // A list that is kept elsewhere may say what a dataset was called before.
    const list = {
      ...given,
      recipients: withDatasets(given.recipients, await namesBefore(context.database, "datasets")),
    };
    const kept = await addRecipientList(context.database, { ...list, follows: newest?.id ?? null, createdBy: by });
    if (!kept) continue;
    await noteAction(context.database, by, what, list.origin, { count: list.recipients.length, changes });
    await announce(context.database, { kind: "recipients", subject: list.origin });
    return kept;
  }
}

/** Changes of one version that its history names. */
const NAMED_CHANGES = 50;

/** Who changed what and when, newest first. */
export async function listHistory(context: Context, wish: PageWish) {
  const page = await pageOfRecipientLists(context.database, wish);
  const items = page.items.map((version) => {
    // Of what was deleted, or followed it, nobody knows any more what changed.
    const isKnown = version.emptiedAt === null && (version.before !== null || version.follows === null);
    const { changes } = isKnown
      ? mergeRecipients(version.before ?? [], version.recipients, "replace")
      : { changes: [] };
    const count = (kind: ListChange["kind"]): number => changes.filter((change) => change.kind === kind).length;
    return {
      id: String(version.id),
      origin: version.origin,
      createdAt: version.createdAt.toISOString(),
      createdBy: version.createdBy,
      recipients: version.recipients.length,
      emptiedAt: version.emptiedAt?.toISOString() ?? null,
      added: count("added"),
      changed: count("changed"),
      removed: count("removed"),
      // A whole import is told by its counts.
      changes: changes.slice(0, NAMED_CHANGES).map(({ kind, group, name, fields }) => ({ kind, group, name, fields })),
    };
  });
  return { items, next: page.next };
}

/** The list as a file that can be imported again. */
export async function exportList(
  context: Context,
  as: "csv" | "xlsx" | "vcf",
): Promise<{ readonly bytes: Uint8Array; readonly type: string }> {
  const recipients = (await newestRecipients(context.database))?.recipients ?? [];
  if (as === "vcf") return { bytes: Buffer.from(writeCards(recipients)), type: "text/vcard; charset=utf-8" };
  const { header, rows } = listAsRows(recipients);
  if (as === "csv") {
    // A cell that a spreadsheet would take for a formula is marked as text.
    const text = stringify([header, ...rows], { bom: true, escape_formulas: true, record_delimiter: "windows" });
    return { bytes: Buffer.from(text), type: "text/csv; charset=utf-8" };
  }
  const table: Table = {
    columns: header.map((name, index) => ({ name, type: "text", values: rows.map((row) => row[index] ?? null) })),
    rowCount: rows.length,
    rowNumbers: rows.map((_, index) => index + 2),
  };
  const plain = PlainWorkbook.bind(
    { sheet: "Recipients", colour: "2f6b57" },
    { mode: "group", columns: table.columns, spaces: {} },
    "recipients",
  );
  const lines = rows.map((_, index) => index);
  const filled = plain.fill({ table, lines, row: -1, locale: "en-GB", today: 0, spaces: {} });
  return {
    bytes: filled.package.toBytes(),
    type: CONTENT_TYPES.xlsx,
  };
}
