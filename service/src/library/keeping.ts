/**
 * Reports, datasets and templates after they were made: renamed with all that refers to them, copied, archived and brought back, and
 * deleted. What hangs on them is told first, and what would break is refused with the reason.
 */

import { scheduleSentence } from "@corbix/core/calendar";
import { CorbixError } from "@corbix/core/common";
import { asCopy, bodiesOf, datasetsOf, nameSchema, type Report, templatesOf, withNames } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { noteAction } from "../audit/audit.js";
import { announce, type ServiceEvent } from "../events/events.js";
import type { Context } from "../process/context.js";
import {
  addReportVersion,
  archivedOf,
  bringBack,
  copyDataset,
  deleteVersions,
  forgetSettings,
  formerNames,
  getDataset,
  hangingOn,
  holdVersions,
  isTaken,
  type Kind,
  lockName,
  maybeReport,
  moveName,
  nameNow,
  type PutAwayRow,
  putAway,
  putAwayOf,
  type ReportVersionRow,
  replaceDefinition,
  setNextRun,
  type Transaction,
  versionsOfReport,
} from "../records/index.js";
import { planNextRun } from "./calendars.js";
import {
  addReport,
  addTemplate,
  checkReportAgainstStore,
  getReport,
  getTemplate,
  newestReports,
  newestTemplates,
  readDefinition,
  templateBytes,
} from "./definitions.js";
import { followDataset } from "./recipient-list.js";

/** What may be done to something that is kept. */
export type Deed = "rename" | "archive" | "delete";

/** What hangs on something, and what that keeps from being done. */
export interface Hanging {
  readonly what:
    | "versions"
    | "editions"
    | "runs"
    | "running"
    | "deliveries"
    | "schedule"
    | "reports"
    | "archivedReports"
    | "texts"
    | "mailbox";
  readonly count: number;
  /** Of reports their titles, of runs their ids, of texts where they stand; the first of them. */
  readonly names: readonly string[];
  readonly stops: readonly Deed[];
}

export interface Kept {
  readonly kind: Kind;
  readonly name: string;
  readonly formerNames: readonly string[];
  readonly archived: PutAwayRow | undefined;
  readonly hanging: readonly Hanging[];
  /** Whether deleting leaves it to the runs that were made with it, until their own time is over. */
  readonly isKeptForRuns: boolean;
}

/** What is archived, by name, with the titles of reports. */
export async function archivedThings(
  context: Context,
  kind: Kind,
): Promise<(PutAwayRow & { readonly title: string })[]> {
  const all = await archivedOf(context.database, kind);
  if (kind !== "reports") return all.map((one) => ({ ...one, title: one.name }));
  return Promise.all(
    all.map(async (one) => ({
      ...one,
      title: (await maybeReport(context.database, one.name))?.definition.title ?? one.name,
    })),
  );
}

/** What a thing of the library is called in an address, whatever it was called when the address was written. */
export async function calledNow({ database }: Context, kind: Kind, name: string): Promise<string> {
  return (await nameNow(database, kind, name)) ?? name;
}

/** So many of a kind are named. */
const NAMED = 12;
/** What one of a kind is called, in sentences and in what is announced. */
const CALLED = {
  reports: "report",
  datasets: "dataset",
  templates: "template",
} as const satisfies Readonly<Record<Kind, ServiceEvent["kind"]>>;

/** Something that is kept, with what hangs on it. Throws `NOT_FOUND`. */
export async function keptOf(context: Context, kind: Kind, asked: string): Promise<Kept> {
  const { database } = context;
  const name = await existing(context, kind, asked);
  const hanging = await hangingOf(context, kind, name);
  return {
    kind,
    name,
    formerNames: await formerNames(database, kind, name),
    archived: await putAwayOf(database, kind, name),
    hanging,
    isKeptForRuns: hanging.some((one) => one.what === "runs"),
  };
}

/** The name of what is there, whether it was asked for by that or by one it had before. Throws `NOT_FOUND`. */
async function existing(context: Context, kind: Kind, name: string): Promise<string> {
  if (kind === "reports") return (await getReport(context, name)).name;
  if (kind === "templates") return (await getTemplate(context, name)).name;
  return (await getDataset(context.database, name)).name;
}

async function hangingOf(context: Context, kind: Kind, name: string, transaction?: Transaction): Promise<Hanging[]> {
  const { versions, runs, running, deliveries } = await hangingOn(context.database, kind, name, transaction);
  const own: Hanging[] = [
    listed(kind === "datasets" ? "editions" : "versions", [], [], versions),
    listed("runs", [], [], runs),
    // A dataset or template goes on under its new name in what has begun; a report's run has the report's name in all it writes.
    listed("running", running, kind === "reports" ? ["rename", "archive", "delete"] : ["archive", "delete"]),
    listed("deliveries", [], [], deliveries),
  ];
  const more =
    kind === "reports"
      ? await scheduleOf(context, name)
      : [...(await usesIn(context, kind, name)), ...(kind === "datasets" ? await mailboxOf(context, name) : [])];
  return [...own, ...more].filter(({ count }) => count > 0);
}

function listed(
  what: Hanging["what"],
  names: readonly string[],
  stops: readonly Deed[],
  count = names.length,
): Hanging {
  return { what, count, names: names.slice(0, NAMED), stops };
}

async function scheduleOf(context: Context, name: string): Promise<Hanging[]> {
  const { definition } = await getReport(context, name);
  return definition.schedule ? [listed("schedule", [scheduleSentence(definition.schedule)], [])] : [];
}

async function mailboxOf(context: Context, name: string): Promise<Hanging[]> {
  const { settings } = await getDataset(context.database, name);
  return settings.mailbox ? [listed("mailbox", [settings.mailbox.name], [])] : [];
}

interface Users {
  readonly there: readonly ReportVersionRow[];
  readonly archived: readonly ReportVersionRow[];
}

const namesOf = (kind: Kind, report: Report): readonly string[] =>
  kind === "datasets" ? datasetsOf(report) : templatesOf(report);

/** Reports whose newest version names a dataset or template; those that are archived apart. */
async function usersOf(context: Context, kind: Kind, name: string): Promise<Users> {
  const uses = ({ definition }: ReportVersionRow): boolean => namesOf(kind, definition).includes(name);
  const archived: ReportVersionRow[] = [];
  for (const one of await archivedOf(context.database, "reports")) {
    const report = await maybeReport(context.database, one.name);
    if (report && uses(report)) archived.push(report);
  }
  return { there: (await newestReports(context)).filter(uses), archived };
}

async function usesIn(context: Context, kind: Kind, name: string): Promise<Hanging[]> {
  const { there, archived } = await usersOf(context, kind, name);
  const titles = (all: readonly ReportVersionRow[]): string[] => all.map(({ definition }) => definition.title);
  const texts = kind === "templates" ? await textsNaming(context, name) : [];
  return [
    listed("reports", titles(there), ["archive", "delete"]),
    listed("archivedReports", titles(archived), ["delete"]),
    listed("texts", texts, ["rename", "archive", "delete"]),
  ];
}

/** Where a file's name stands in a text that shows it, such as a picture in a mail's body: that is not followed by renaming. */
async function textsNaming(context: Context, name: string): Promise<string[]> {
  const found: string[] = [];
  for (const { definition, source } of await newestReports(context))
    if (standsIn(source, name) && standsIn(textBesidePlaces(source, name), name)) found.push(definition.title);
  const bodies = (await newestTemplates(context)).filter(
    (one) => one.name !== name && /\.(html|md|txt)$/i.test(one.name),
  );
  const texts = await templateBytes(context, Object.fromEntries(bodies.map((one) => [one.name, one.sha256])));
  for (const [body, bytes] of texts) if (standsIn(Buffer.from(bytes).toString("utf8"), name)) found.push(body);
  return found;
}

/** Whether a file is named in a text, not another whose name only ends or begins so. */
function standsIn(text: string, name: string): boolean {
  const literal = name.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
  return new RegExp(`(?<![\\p{L}\\p{N}_-])${literal}(?![\\p{L}\\p{N}_-])`, "u").test(text);
}

/** A definition's text without the places that refer to a file as such. */
function textBesidePlaces(source: string, name: string): string {
  const ending = name.slice(name.lastIndexOf("."));
  try {
    return withNames(source, { templates: new Map([[name, `•${ending}`]]) });
  } catch (error) {
    // Behind an anchor a place cannot be told from a text.
    if (error instanceof CorbixError) return source;
    throw error;
  }
}

function checkAllowed(kept: Pick<Kept, "kind" | "name" | "hanging">, deed: Deed): void {
  const [first] = kept.hanging.filter(({ stops }) => stops.includes(deed));
  if (!first) return;
  const names = `${first.names.join(", ")}${first.count > first.names.length ? ` and ${first.count - first.names.length} more` : ""}`;
  throw new CorbixError(
    "CONFLICT",
    say().serviceLibrary.cannot({ deed, called: CALLED[kept.kind], name: kept.name, whyNot: whyNot(first, names) }),
    {
      where: kept.kind,
      advice: wayOut(first.what),
    },
  );
}

function whyNot({ what }: Hanging, names: string): string {
  if (what === "running") return say().serviceLibrary.runOver({ names });
  if (what === "texts") return say().serviceLibrary.nameStandsText({ names });
  if (what === "archivedReports") return say().serviceLibrary.archivedReportMade({ names });
  return say().serviceLibrary.reportMade({ names });
}

function wayOut(what: Hanging["what"]): string {
  const words = say().serviceLibrary;
  if (what === "running") return words.releaseFirst();
  if (what === "texts") return words.changeNameFirst();
  if (what === "reports") return words.archiveReportFirst();
  return what === "archivedReports" ? words.deleteReportFirst() : "";
}

async function told(
  context: Context,
  kind: Kind,
  name: string,
  by: string,
  what: string,
  facts: object,
): Promise<void> {
  await noteAction(context.database, by, `${CALLED[kind]} ${what}`, name, facts);
  await announce(context.database, { kind: CALLED[kind], subject: name });
}

/** Throws `BAD_REQUEST` for what is no name of the kind, `CONFLICT` for one that is taken. */
async function checkNewName(
  context: Context,
  kind: Kind,
  from: string,
  to: string,
  transaction?: Transaction,
): Promise<void> {
  const ending = from.slice(from.lastIndexOf(".")).toLowerCase();
  const isName =
    kind === "templates"
      ? TEMPLATE_NAME.test(to) && to.toLowerCase().endsWith(ending)
      : nameSchema.safeParse(to).success;
  if (!isName)
    throw new CorbixError("BAD_REQUEST", say().serviceLibrary.cannotUseFileSName({ kind, to, ending }), {
      where: "to",
    });
  const isOwn = (await formerNames(context.database, kind, from)).includes(to);
  if (!isOwn && (await isTaken(context.database, kind, to, transaction)))
    throw new CorbixError("CONFLICT", say().serviceLibrary.cannotUseNameTaken({ to }), {
      where: "to",
      advice: say().serviceLibrary.chooseAnother(),
    });
}

/** Letters of a template's name before its ending; the endings are told where templates are added. */
const TEMPLATE_NAME = /^[\p{L}\p{N}][\p{L}\p{N} ._-]{0,100}$/u;

/**
 * Gives something another name. Reports that refer to it say the new one in their next version, what came under the old one goes on
 * under the new one, and the old one leads there. All of it, or nothing. Throws `NOT_FOUND`, `BAD_REQUEST` or `CONFLICT`.
 */
export async function renameKept(
  context: Context,
  kind: Kind,
  asked: string,
  { to, title, by }: NewName,
): Promise<string> {
  const from = await existing(context, kind, asked);
  if (from === to) {
    if (kind === "reports" && title !== undefined) await retitle(context, from, title, by);
    return to;
  }
  const changed = await context.database.transaction(async (transaction) => {
    // Always in one order, so that two who rename do not wait for each other.
    for (const name of [from, to].sort()) await lockName(context.database, kind, name, transaction);
    await hold(context, kind, from, transaction);
    await checkNewName(context, kind, from, to, transaction);
    checkAllowed({ kind, name: from, hanging: await hangingOf(context, kind, from, transaction) }, "rename");
    await moveName(context.database, kind, { from, to }, transaction);
    if (kind === "reports") return renameInOwn(context, { from, to, title, by }, transaction);
    if (kind === "datasets") await followDataset(context, { from, to, by }, transaction);
    return renameInUsers(context, kind, { from, to, by }, transaction);
  });
  if (kind === "datasets") await announce(context.database, { kind: "recipients", subject: to });
  await told(context, kind, to, by, "renamed", { from, reports: changed });
  await announce(context.database, { kind: CALLED[kind], subject: from });
  return to;
}

/** What something is called from now on. */
interface NewName {
  readonly to: string;
  /** Of a report; it stays if left out. */
  readonly title?: string | undefined;
  readonly by: string;
}

/** The next version of a report says another title; nothing else. */
async function retitle(context: Context, name: string, title: string, by: string): Promise<void> {
  const { source, definition, number } = await getReport(context, name);
  if (definition.title === title) return;
  const note = `Titled ${definition.title} before`;
  await addReport(context, withNames(source, { title }), by, name, { expected: String(number), note });
}

async function hold(context: Context, kind: Kind, name: string, transaction: Transaction): Promise<void> {
  if (!(await holdVersions(context.database, kind, name, transaction)))
    throw new CorbixError("CHANGED_MEANWHILE", say().serviceLibrary.cannotChangeSomebodyElseJust({ name }), {
      where: kind,
      advice: say().serviceLibrary.seeListAgain(),
    });
}

interface Renaming {
  readonly from: string;
  readonly to: string;
  readonly by: string;
}

/** Every version says the new name where it is read, the text of a next version where it is written. */
async function renameInOwn(
  context: Context,
  { from, to, title, by }: Renaming & Pick<NewName, "title">,
  transaction: Transaction,
): Promise<string[]> {
  const { database } = context;
  for (const version of await versionsOfReport(database, to, transaction))
    await replaceDefinition(
      database,
      { id: version.id, definition: { ...version.definition, report: to } },
      transaction,
    );
  const before = await newestVersion(context, to, transaction);
  const names = { report: to, ...(title === undefined ? {} : { title }) };
  const source = withNames(before.source, names);
  const definition = { ...before.definition, ...names };
  await keepNext(context, before, { source, definition, note: `Renamed, ${from} before`, createdBy: by }, transaction);
  return [to];
}

async function keepNext(
  context: Context,
  { name, number }: ReportVersionRow,
  next: Pick<ReportVersionRow, "source" | "definition" | "note" | "createdBy">,
  transaction: Transaction,
): Promise<void> {
  if (await addReportVersion(context.database, { name, number: number + 1, ...next }, transaction)) return;
  throw new CorbixError("CHANGED_MEANWHILE", say().serviceLibrary.cannotRenameSomebodyElseSaved({ name }), {
    where: "reports",
    advice: say().serviceLibrary.tryAgain(),
  });
}

async function newestVersion(context: Context, name: string, transaction: Transaction): Promise<ReportVersionRow> {
  const found = await maybeReport(context.database, name, transaction);
  if (!found) throw new Error(`the report ${name} that was just renamed is not there`);
  return found;
}

async function renameInUsers(
  context: Context,
  kind: "datasets" | "templates",
  { from, to, by }: Renaming,
  transaction: Transaction,
): Promise<string[]> {
  const { there, archived } = await usersOf(context, kind, from);
  const names = new Map([[from, to]]);
  for (const { name } of [...there, ...archived]) {
    await holdVersions(context.database, "reports", name, transaction);
    const before = await newestVersion(context, name, transaction);
    const source = withNames(before.source, kind === "datasets" ? { datasets: names } : { templates: names });
    const definition = await readDefinition(context, source, "report");
    const next = { source, definition, note: `${from} is called ${to} now`, createdBy: by };
    await keepNext(context, before, next, transaction);
  }
  return [...there, ...archived].map(({ name }) => name);
}

/** Puts something away: it is in no list, nothing starts or comes in by itself, all that was done stays. Throws `NOT_FOUND` or `CONFLICT`. */
export async function archiveKept(context: Context, kind: Kind, asked: string, by: string): Promise<void> {
  const name = await existing(context, kind, asked);
  await context.database.transaction(async (transaction) => {
    await hold(context, kind, name, transaction);
    checkAllowed({ kind, name, hanging: await hangingOf(context, kind, name, transaction) }, "archive");
    await putAway(context.database, { kind, name, state: "archived", by }, transaction);
  });
  if (kind === "reports") await setNextRun(context.database, name, undefined);
  await told(context, kind, name, by, "archived", {});
}

/** Takes something out of the archive; a report runs by itself from now on again. Throws `NOT_FOUND` or `BAD_DEFINITION`. */
export async function bringBackKept(context: Context, kind: Kind, asked: string, by: string): Promise<void> {
  const name = await existing(context, kind, asked);
  if (!(await bringBack(context.database, kind, name, "archived"))) return;
  if (kind === "reports") await planNextRun(context, (await getReport(context, name)).definition, context.now());
  await told(context, kind, name, by, "brought back", {});
}

/**
 * Deletes something. What no run was made with is gone; anything else is in no list any more and stays only for its runs, so that what
 * was delivered can still be told, and is not delivered again. Throws `NOT_FOUND` or `CONFLICT`.
 */
export async function deleteKept(
  context: Context,
  kind: Kind,
  asked: string,
  by: string,
): Promise<{ readonly name: string; readonly keptForRuns: boolean }> {
  const name = await existing(context, kind, asked);
  const isKept = await context.database.transaction(async (transaction) => {
    await hold(context, kind, name, transaction);
    const hanging = await hangingOf(context, kind, name, transaction);
    checkAllowed({ kind, name, hanging }, "delete");
    if (!hanging.some(({ what }) => what === "runs")) {
      await deleteVersions(context.database, kind, name, transaction);
      return false;
    }
    if (kind === "datasets") await forgetSettings(context.database, name, transaction);
    await putAway(context.database, { kind, name, state: "deleted", by }, transaction);
    return true;
  });
  if (kind === "reports" && isKept) await setNextRun(context.database, name, undefined);
  await told(context, kind, name, by, "deleted", { keptForRuns: isKept });
  return { name, keptForRuns: isKept };
}

/**
 * Makes a copy under another name. Of a report it starts nothing by itself and has message bodies of its own; of a dataset it has the
 * settings, without the address for mail, and the newest edition. Throws `NOT_FOUND`, `BAD_REQUEST` or `CONFLICT`.
 */
export async function copyKept(context: Context, kind: Kind, asked: string, { to, title, by }: NewName): Promise<void> {
  const from = await existing(context, kind, asked);
  await checkNewName(context, kind, from, to);
  if (kind === "templates") {
    const { sha256 } = await getTemplate(context, from);
    await addTemplate(context, to, await context.store.get(sha256), by, "");
  } else if (kind === "datasets") {
    const { id, settings } = await getDataset(context.database, from);
    const { mailbox: _, ...own } = settings;
    await context.database.transaction(async (transaction) => {
      await lockName(context.database, kind, to, transaction);
      await checkNewName(context, kind, from, to, transaction);
      await copyDataset(context.database, { from: id, to, settings: own, by }, transaction);
    });
    await told(context, kind, to, by, "copied", { from });
  } else await copyReport(context, from, { to, title, by });
}

async function copyReport(context: Context, from: string, { to, title, by }: NewName): Promise<void> {
  const { source, definition } = await getReport(context, from);
  const taken = (await newestTemplates(context)).map(({ name }) => name);
  // The body of a message is edited with its report: each report has its own.
  const bodies = new Map(bodiesOf(definition).map((body) => [body, freeFile(body, to, taken)]));
  const copy = asCopy(source, { report: to, title: title ?? `${definition.title} (copy)`, templates: bodies });
  const texts = await templateBytes(
    context,
    Object.fromEntries(
      await Promise.all([...bodies.keys()].map(async (body) => [body, (await getTemplate(context, body)).sha256])),
    ),
  );
  const own = new Map([...texts].map(([body, bytes]) => [bodies.get(body) ?? body, bytes]));
  const report = await readDefinition(context, copy, "report");
  await checkReportAgainstStore(context, report, own);
  for (const [body, bytes] of own) await addTemplate(context, body, bytes, by);
  await addReport(context, copy, by, to, { expected: "", note: `A copy of ${from}` });
}

/** A name for a copy of a file that nothing has yet. */
function freeFile(file: string, report: string, taken: readonly string[]): string {
  const dot = file.lastIndexOf(".");
  const [stem, ending] = [file.slice(0, dot).slice(0, 60), file.slice(dot)];
  for (let count = 1; ; count++) {
    const name = `${stem}-${report.slice(0, 30)}${count === 1 ? "" : `-${count}`}${ending}`;
    if (!taken.includes(name)) return name;
  }
}
