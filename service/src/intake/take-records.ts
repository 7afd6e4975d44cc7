/** Records that come in one by one: each an edition of its own kind, with a run of its own, once for its key. */
import { createHash } from "node:crypto";
import { periodsFor, takenPeriod } from "@corbix/core/calendar";
import { bytesFromText, CorbixError, columnKey, isoFromSerial, made } from "@corbix/core/common";
import { keyOfRecord, packTable, recordTable } from "@corbix/core/edition";
import type { Report } from "@corbix/core/report";
import type { ColumnInfo, Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { deed, noteActions } from "../audit/audit.js";
import { getReport } from "../library/definitions.js";
import type { Context } from "../process/context.js";
import { type Outcome, Together } from "../process/together.js";
import {
  addRecordEditions,
  getEdition,
  keepRecordRuns,
  type NewRecordEdition,
  type NewRecordKey,
  type RecordKey,
  type ReportVersionRow,
  takeRecordKeys,
} from "../records/index.js";
import { addStarted, type NewRun, newRun, type StartFacts, startFacts, tellStarted } from "../run/start-run.js";

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
/** Calls that are taken by one transaction. */
const CALLS_AT_ONCE = 100;

/** Throws `BAD_RECORD` for what cannot be read, before anything is kept; `KEY_REUSED` for another record under a known key. */
export async function takeRecords(context: Context, call: RecordCall): Promise<TakenRecord[]> {
  if (call.records.length === 0 || call.records.length > MOST_RECORDS)
    throw new CorbixError("BAD_REQUEST", say().serviceIntake.noRecords({ most: MOST_RECORDS }), { where: "body" });
  return togetherFor(context, call.report).do(call);
}

/** Calls for one report that come at the same time are taken together, those of each service by itself. */
const TOGETHER = new WeakMap<Context, Map<string, Together<RecordCall, TakenRecord[]>>>();

function togetherFor(context: Context, report: string): Together<RecordCall, TakenRecord[]> {
  const own = TOGETHER.get(context) ?? new Map<string, Together<RecordCall, TakenRecord[]>>();
  TOGETHER.set(context, own);
  const known = own.get(report);
  if (known) return known;
  const together = new Together<RecordCall, TakenRecord[]>(
    (calls) => takeTogether(context, report, calls),
    CALLS_AT_ONCE,
    () => own.delete(report),
  );
  own.set(report, together);
  return together;
}

interface ReadRecord extends NewRecordKey {
  readonly table: Table;
  /** As it is kept. */
  readonly text: string;
  readonly place: string;
  readonly by: string;
}

/** Reads what a call brings, all of it before anything is kept. Throws `BAD_RECORD` or `NOT_ALLOWED`. */
function readCall(report: Report, columns: readonly ColumnInfo[], call: RecordCall): ReadRecord[] {
  checkCallback(report, call.callback);
  const { callback = null, sender = null, by } = call;
  return call.records.map((record, at): ReadRecord => {
    const table = recordTable([record], columns, report.records?.lines, at + 1);
    const place = say().edition.record({ number: at + 1 });
    const text = `${JSON.stringify(record, null, 2)}\n`;
    const digest = createHash("sha256").update(text).digest("hex");
    return { table, text, digest, key: keyFor(report, table, call, at, place), place, callback, sender, by };
  });
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

/** What came of each call: each is taken whole, or not at all. */
async function takeTogether(
  context: Context,
  name: string,
  calls: readonly RecordCall[],
): Promise<Outcome<TakenRecord[]>[]> {
  const version = await getReport(context, name);
  const report = version.definition;
  if (!report.records)
    throw new CorbixError("BAD_REQUEST", say().serviceIntake.takesNoRecords({ report: report.report }), {
      where: "reports",
      advice: say().serviceIntake.sayTakesRecords(),
    });
  const { columns } = await getEdition(context.database, report.data);
  const read = calls.map((call) => outcomeOf(() => readCall(report, columns, call)));
  const records = read.flatMap((one) => ("done" in one ? one.done : []));
  const taken = await keepRecords(context, version, records);
  return read.map((one) => ("done" in one ? outcomeOf(() => one.done.map((record) => takenAs(record, taken))) : one));
}

function outcomeOf<Done>(work: () => Done): Outcome<Done> {
  try {
    return { done: work() };
  } catch (error) {
    return { error };
  }
}

/** What is known of the records' keys by now, with those that were taken just now. */
interface TakenKeys {
  readonly known: ReadonlyMap<string, RecordKey>;
  readonly started: ReadonlyMap<string, StartedRecord>;
}

/** Keeps records with the runs that they start, all in one: whoever finds a record finds its run. Of several with one key the first. */
async function keepRecords(
  context: Context,
  version: ReportVersionRow,
  all: readonly ReadRecord[],
): Promise<TakenKeys> {
  const first = new Map<string, ReadRecord>();
  for (const one of all) if (!first.has(one.key)) first.set(one.key, one);
  const read = [...first.values()];
  if (read.length === 0) return { known: new Map(), started: new Map() };
  const { database } = context;
  const { report, data } = version.definition;
  const facts = await startFacts(context, version);
  const stored = await context.store.putAll(read.map(({ text }) => bytesFromText(text)));
  const taken = await database.transaction(async (transaction): Promise<TakenKeys> => {
    const known = await takeRecordKeys(database, { report, process: context.process }, read, transaction);
    const fresh = read.flatMap((one, at) => (known.has(one.key) ? [] : [{ one, sha256: stored[at] ?? "" }]));
    const editions = await addRecordEditions(database, data, fresh.map(editionOf), transaction);
    const started = fresh.map(({ one }, at): StartedRecord => {
      const edition = made(editions[at], "a kept record");
      const period = { chosen: periodOfRecord(version.definition, one.table, facts), open: [], isNamed: true };
      const run = newRun(facts, { report }, edition, period, { who: one.by, record: one.key });
      return { one, edition: edition.number, run };
    });
    const runs = started.map(({ run }) => run);
    await addStarted(context, version, runs, transaction);
    const keys = started.map(({ one, edition, run }) => ({ key: one.key, edition, run: run.id }));
    await keepRecordRuns(database, report, keys, transaction);
    return { known, started: new Map(started.map((record) => [record.one.key, record])) };
  });
  await tellTaken(context, report, [...taken.started.values()]);
  return taken;
}

/** What a record came to. Throws `KEY_REUSED` where another one has its key. */
function takenAs(record: ReadRecord, { known, started }: TakenKeys): TakenRecord {
  const { key, digest, place } = record;
  const own = started.get(key);
  if (own?.one === record) return { key, run: own.run.id, edition: own.edition, isNew: true };
  const before = own ? { digest: own.one.digest, run: own.run.id, edition: own.edition } : known.get(key);
  const { run, edition, digest: had } = made(before, "what a key was taken for");
  if (had === digest)
    return {
      key,
      run: made(run, "the run of a record that was taken"),
      edition: made(edition, "the edition of a record that was taken"),
      isNew: false,
    };
  throw new CorbixError("KEY_REUSED", say().serviceIntake.otherRecordUnderKey({ key }), {
    where: place,
    advice: say().serviceIntake.giveNewKey(),
  });
}

interface StartedRecord {
  readonly one: ReadRecord;
  readonly edition: number;
  readonly run: NewRun;
}

function editionOf({ one, sha256 }: { readonly one: ReadRecord; readonly sha256: string }): NewRecordEdition {
  const { table } = one;
  return {
    origin: say().serviceIntake.recordOrigin({ key: one.key }),
    sha256,
    rowCount: table.rowCount,
    columns: table.columns.map(({ values: _, ...info }) => info),
    pieces: packTable(table),
    createdBy: one.by,
  };
}

async function tellTaken(context: Context, report: string, started: readonly StartedRecord[]): Promise<void> {
  if (started.length === 0) return;
  await tellStarted(
    context,
    started.map(({ run }) => run),
    "record",
  );
  await noteActions(
    context.database,
    started.map(({ one, run }) => deed(one.by, "record taken", report, { key: one.key, run: run.id })),
  );
}

/** The period that the day of a record lies in, or else the one that the day of the run says; that day where the report has none. */
function periodOfRecord({ period }: Report, table: Table, { calendar, runDate }: StartFacts): string {
  if (!period) return isoFromSerial(runDate);
  const periods = periodsFor(period, calendar);
  const column = table.columns.find((one) => columnKey(one.name) === columnKey(period.column ?? ""));
  const day = column?.values.find((value) => typeof value === "number");
  const own = typeof day === "number" ? periods.maybeOf(day) : undefined;
  return (own ?? takenPeriod(periods, period.take, runDate)).key;
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
