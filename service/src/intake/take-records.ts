/** Records that come in one by one: each an edition of its own kind, with a run of its own, once for its key. */
import { createHash } from "node:crypto";
import { periodsFor } from "@corbix/core/calendar";
import { bytesFromText, CorbixError, columnKey } from "@corbix/core/common";
import { keyOfRecord, packTable, recordTable } from "@corbix/core/edition";
import type { Report } from "@corbix/core/report";
import type { Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { calendarsOf } from "../library/calendars.js";
import { getReport } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import {
  addRecordEdition,
  getEdition,
  giveBackRecordKey,
  keepRecordRun,
  type RecordKey,
  type ReportVersionRow,
  takeRecordKey,
} from "../records/index.js";
import { startRun } from "../run/start-run.js";

export type RecordFields = Readonly<Record<string, unknown>>;

/** What became of a record: a run of its own, or the one it had before. */
export interface TakenRecord {
  readonly key: string;
  readonly run: string;
  readonly edition: number;
  readonly isNew: boolean;
}

export interface RecordCall {
  readonly report: string;
  readonly records: readonly RecordFields[];
  /** The caller's own key, where it gives one. */
  readonly key: string | undefined;
  readonly callback: string | undefined;
  readonly sender: number | undefined;
  readonly by: string;
}

const MOST_RECORDS = 1_000;

/** Throws `BAD_RECORD` for what cannot be read, before anything is kept; `KEY_REUSED` for another record under a known key. */
export async function takeRecords(context: Context, call: RecordCall): Promise<TakenRecord[]> {
  const version = await getReport(context, call.report);
  const report = version.definition;
  if (!report.records)
    throw new CorbixError("BAD_REQUEST", say().serviceIntake.takesNoRecords({ report: report.report }), {
      where: "reports",
      advice: say().serviceIntake.sayTakesRecords(),
    });
  checkCallback(report, call.callback);
  if (call.records.length === 0 || call.records.length > MOST_RECORDS)
    throw new CorbixError("BAD_REQUEST", say().serviceIntake.noRecords({ most: MOST_RECORDS }), { where: "body" });
  const { columns } = await getEdition(context.database, report.data);
  // All are read before one is kept.
  const read = call.records.map((record, at): ReadRecord => {
    const table = recordTable([record], columns, report.records?.lines, at + 1);
    const place = say().edition.record({ number: at + 1 });
    return { table, record, key: keyFor(report, table, call, at, place), place };
  });
  const taken: TakenRecord[] = [];
  for (const one of read) taken.push(await takeOne(context, version, one, call));
  return taken;
}

interface ReadRecord {
  readonly table: Table;
  readonly record: RecordFields;
  readonly key: string;
  readonly place: string;
}

function keyFor(report: Report, table: Table, { key, records }: RecordCall, at: number, place: string): string {
  const columns = report.records?.key;
  if (columns) return keyOfRecord(table, columns, place);
  if (key !== undefined) return records.length === 1 ? key : `${key} / ${at + 1}`;
  throw new CorbixError("BAD_RECORD", say().serviceIntake.recordWithoutKey(), {
    where: place,
    advice: say().serviceIntake.sendKey(),
  });
}

async function takeOne(
  context: Context,
  version: ReportVersionRow,
  one: ReadRecord,
  call: RecordCall,
): Promise<TakenRecord> {
  const { database } = context;
  const report = version.definition;
  const { key, table, record } = one;
  const text = `${JSON.stringify(record, null, 2)}\n`;
  const digest = createHash("sha256").update(text).digest("hex");
  const known = await takeRecordKey(database, {
    report: report.report,
    key,
    digest,
    process: context.process,
    callback: call.callback ?? null,
    sender: call.sender ?? null,
  });
  if (known) return takenBefore(known, digest, one.place);
  try {
    const edition = await addRecordEdition(database, {
      dataset: report.data,
      origin: say().serviceIntake.recordOrigin({ key }),
      sha256: await context.store.put(bytesFromText(text)),
      rowCount: table.rowCount,
      columns: table.columns.map(({ values: _, ...info }) => info),
      pieces: packTable(table),
      createdBy: call.by,
    });
    const period = await periodOfRecord(context, report, table);
    const wish = { report: report.report, edition: edition.number, record: key, ...(period ? { period } : {}) };
    const run = await startRun(context, wish, call.by, { version, edition });
    await keepRecordRun(database, { report: report.report, key, edition: edition.number, run: run.id });
    await noteAction(database, call.by, "record taken", report.report, { key, run: run.id });
    return { key, run: run.id, edition: edition.number, isNew: true };
  } catch (error) {
    await giveBackRecordKey(database, report.report, key);
    throw error;
  }
}

function takenBefore({ key, run, edition, digest: had }: RecordKey, digest: string, place: string): TakenRecord {
  if (had !== digest)
    throw new CorbixError("KEY_REUSED", say().serviceIntake.otherRecordUnderKey({ key }), {
      where: place,
      advice: say().serviceIntake.giveNewKey(),
    });
  if (run === null || edition === null)
    throw new CorbixError("CONFLICT", say().serviceIntake.recordBeingTaken({ key }), {
      where: place,
      advice: say().serviceIntake.askAgainInAMoment(),
    });
  return { key, run, edition, isNew: false };
}

/** The period that the day of a record lies in; nothing where the report has none, or the day of the run says it. */
async function periodOfRecord(context: Context, report: Report, table: Table): Promise<string | undefined> {
  const { period } = report;
  if (period?.column === undefined) return undefined;
  const column = table.columns.find((one) => columnKey(one.name) === columnKey(period.column ?? ""));
  const day = column?.values.find((value) => typeof value === "number");
  if (typeof day !== "number") return undefined;
  const calendar = (await calendarsOf(context, { period, schedule: undefined })).period;
  return periodsFor(period, calendar).maybeOf(day)?.key;
}

function checkCallback({ records }: Report, callback: string | undefined): void {
  if (callback === undefined) return;
  const allowed = records?.callbacks ?? [];
  if (URL.canParse(callback) && allowed.some((one) => isBelow(new URL(callback), new URL(one)))) return;
  throw new CorbixError("NOT_ALLOWED", say().serviceIntake.callbackNotAllowed({ callback }), {
    where: "callback",
    advice: say().serviceIntake.allowCallback(),
  });
}

function isBelow(address: URL, allowed: URL): boolean {
  return address.origin === allowed.origin && address.pathname.startsWith(allowed.pathname);
}
