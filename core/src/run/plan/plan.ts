import { CorbixError, type Finding, known, sortFindings, suggestName } from "../../common/index.js";
import { onceOf } from "../../delivery/index.js";
import type { Env } from "../../expression/index.js";
import { foldFileName, safeFolder, safeName, uniqueName } from "../../naming/index.js";
import {
  findColumn,
  type LeftOutRows,
  leftOutOf,
  type PrepareContext,
  preparedColumns,
  prepareTable,
  type StepAccount,
} from "../../prepare/index.js";
import { type Matched, matchRecipients, type Recipient } from "../../recipients/index.js";
import { type Report, splitColumns } from "../../report/index.js";
import { type Alias, applyAliases, type Group, splitTable } from "../../split/index.js";
import { type ColumnInfo, type Table, takeRows } from "../../table/index.js";
import { withPlace } from "../../template/index.js";
import type { WantedFile } from "../bind-report.js";
import type { FileKind } from "../make-file.js";
import { Blanks } from "../marks/blanks.js";
import { ReportMaker } from "../report-maker.js";
import {
  ALL_LINES,
  type FurtherAccount,
  type FurtherTable,
  findFurther,
  furtherColumns,
  furtherOf,
} from "../rows/further.js";
import { rowsInPeriod } from "../rows/in-period.js";
import { linesDigest } from "../rows/lines-digest.js";
import { type GroupPlace, groupEnv, groupScope, type RunFacts, recipientFields } from "../scope.js";
import { accountFindings, blankKeys, mergeReasons, type RowAccount, unchosen } from "./account.js";
import { type ControlTotal, controlTotals, totalsOf } from "./control-totals.js";

export interface PlannedFile {
  /** Name of the file in the report. */
  readonly file: string;
  readonly kind: FileKind;
  /** Folder and name under which it is given out. */
  readonly path: string;
}

/** What one group gets. */
export interface PlannedParcel {
  readonly number: number;
  readonly group: Group;
  /** Who receives, each with the rule that says so. */
  readonly recipients: readonly Matched[];
  /** Why nobody does. */
  readonly nobody?: string;
  readonly files: readonly PlannedFile[];
  /** Files that go with the message, as paths. */
  readonly attachments: readonly string[];
  /** Files that go with it and are not made: to be fetched by whoever runs the plan. */
  readonly enclosed: readonly WantedFile[];
  /** By the folded name of further lines that belong to groups: the rows of this one. */
  readonly further: Readonly<Record<string, readonly number[]>>;
  /** Control totals by name, as exact decimal text. */
  readonly totals: Readonly<Record<string, string>>;
  readonly rowsDigest: string;
}

export interface Plan {
  readonly table: Table;
  readonly parcels: readonly PlannedParcel[];
  readonly rows: RowAccount;
  /** Lines beside the groups' own. */
  readonly further: readonly FurtherTable[];
  /** Where the rows of further lines went. */
  readonly furtherRows: readonly FurtherAccount[];
  /** What each step of the preparation did. */
  readonly steps: readonly StepAccount[];
  /** Names of all groups, chosen or not, where the report is sealed. */
  readonly sealedNames?: readonly string[];
  /** Names of all groups, chosen or not. */
  readonly groupNames: readonly string[];
  readonly totals: readonly ControlTotal[];
  readonly findings: readonly Finding[];
}

export interface PlanInput {
  readonly report: Report;
  readonly table: Table;
  readonly others: ReadonlyMap<string, Table>;
  readonly recipients: readonly Recipient[];
  readonly templates: ReadonlyMap<string, Uint8Array>;
  readonly facts: RunFacts;
  /** Rows of the edition that were not even read, since none of them lies in the period. */
  readonly notRead?: readonly LeftOutRows[];
  /** Spellings that count as one group. */
  readonly aliases?: readonly Alias[];
  /** Only these rows of the edition, by their number in the origin; the rest counts as left out. */
  readonly onlyRows?: { readonly rowNumbers: ReadonlySet<number>; readonly why: string };
  /** Only these groups, by cleaned key; the rest counts as left out. */
  readonly only?: readonly string[];
  /** Keys of the groups that this report has had before, if it has run before. */
  readonly knownGroups?: ReadonlySet<string>;
  /** Rows of a group that have gone out before and do so once only: by row of the prepared table, why it is left out. */
  readonly delivered?: (table: Table, group: Group) => ReadonlyMap<number, string>;
  /** Called now and then while thousands of groups are planned, for whoever has to look after memory meanwhile. */
  readonly meanwhile?: () => void;
}

/** Groups that are planned between two looks at what else there is to do. */
const MEANWHILE_EVERY = 250;

export interface Planned {
  readonly plan: Plan;
  readonly maker: ReportMaker;
}

/** Checks a report against the columns it will meet, and against the list where it is known. Throws what is wrong, with the place. */
export function checkAgainst(
  report: Report,
  columns: readonly ColumnInfo[],
  others: ReadonlyMap<string, readonly ColumnInfo[]>,
  templates: ReadonlyMap<string, Uint8Array>,
  recipients: readonly Recipient[] = [],
): ReportMaker {
  const prepared = preparedColumns(columns, report, others);
  if (report.period) findColumn(columns, report.period.column, "period, column");
  for (const name of splitColumns(report)) findColumn(prepared, name, "split");
  const { to } = report.delivery;
  const once = onceOf(report);
  for (const name of once.per) findColumn(prepared, name, "once, per");
  if (to !== "recipients")
    for (const name of [to.column, to.name]) if (name !== undefined) findColumn(prepared, name, "delivery, to");
  return new ReportMaker(
    report,
    groupScope(
      prepared,
      recipientFields(recipients),
      furtherColumns(report, prepared, new Map([[report.data, columns], ...others])),
    ),
    templates,
  );
}

/** Everything that can be known before a file is made. Throws where the definition cannot work at all. */
export function planRun(input: PlanInput): Planned {
  const { report, facts } = input;
  const others = new Map([...input.others].map(([name, table]) => [name, table.columns]));
  const maker = checkAgainst(report, input.table.columns, others, input.templates, input.recipients);
  const context: PrepareContext = { others: input.others, today: facts.date, locale: report.locale };
  const aliases = input.aliases ?? [];
  const inPeriod = rowsInPeriod(
    applyAliases(input.table, aliases),
    report.period?.column,
    facts.period,
    "period, column",
  );
  const found = rowsFound(inPeriod.table, input);
  const prepared = prepareTable(found.table, report, context);
  const split = splitTable(prepared.table, splitColumns(report));
  const further = findFurther({
    report,
    master: input.table,
    own: prepared.table,
    groups: split.groups,
    context,
    period: facts.period,
    aliases,
  });
  const beside = further.tables.filter((one) => one.name !== ALL_LINES || maker.uses(ALL_LINES));
  const due = dueGroups(prepared.table, split.groups, input.delivered);
  const chosen = input.only === undefined ? due.groups : chooseGroups(due.groups, input.only, split.groups);
  const isChosen = new Set(chosen);
  const notChosen = due.groups.filter((group) => !isChosen.has(group));
  const numbers = new Map(due.groups.map((group, index) => [group, index + 1]));
  const present = new Set(split.groups.map((group) => group.key));
  const matching = matchRecipients(chosen, input.recipients, matchRules(input, prepared.table, present));
  const findings: Finding[] = [
    ...prepared.findings,
    ...split.findings,
    ...missedBySelectors(split.groups, report),
    ...further.findings,
    ...matching.findings,
    ...maker.travelFindings(),
  ];
  const place = (group: Group): GroupPlace => ({
    number: known(numbers, group),
    count: due.groups.length,
    further: furtherOf(beside, group),
  });
  const taken = new Map<string, Set<string>>();
  const parcels = chosen.map((group, index): PlannedParcel => {
    if (index % MEANWHILE_EVERY === 0) input.meanwhile?.();
    const people = { recipients: matching.byGroup.get(group.key) ?? [], nobody: matching.nobody.get(group.key) };
    const planned = planParcel({ maker, table: prepared.table, beside, facts, taken }, group, place(group), people);
    findings.push(...planned.findings);
    return planned.parcel;
  });
  const leftOut = [
    ...mergeReasons([...inPeriod.leftOut, ...(input.notRead ?? [])]),
    ...found.leftOut,
    ...prepared.leftOut,
    ...blankKeys(prepared.table, split.blankRows, report),
    ...due.leftOut,
    ...unchosen(prepared.table, notChosen),
  ];
  const outside = [...split.blankRows, ...due.rows, ...notChosen.flatMap((group) => group.rows)];
  const totals = controlTotals(maker, prepared.table, parcels, outside, { facts, further: beside });
  const inGroups = parcels.reduce((sum, parcel) => sum + parcel.group.rows.length, 0);
  const rows: RowAccount = {
    master: input.table.rowCount + (input.notRead ?? []).reduce((sum, entry) => sum + entry.count, 0),
    ...(prepared.made === 0 ? {} : { made: prepared.made }),
    inGroups,
    leftOut,
  };
  findings.push(...accountFindings(rows, totals, parcels));
  return {
    plan: {
      table: prepared.table,
      parcels,
      rows,
      steps: prepared.steps,
      ...(report.sealed ? { sealedNames: split.groups.map((group) => group.label) } : {}),
      further: beside,
      furtherRows: further.accounts,
      groupNames: split.groups.map((group) => group.label),
      totals,
      findings: sortFindings(findings),
    },
    maker,
  };
}

function matchRules(
  { report, facts, knownGroups }: PlanInput,
  table: Table,
  present: ReadonlySet<string>,
): Parameters<typeof matchRecipients>[2] {
  const { to, narrow, instead } = report.delivery;
  return {
    dataset: report.data,
    date: facts.date,
    table,
    present,
    ...(knownGroups ? { known: knownGroups } : {}),
    ...(narrow ? { narrow } : {}),
    ...(instead ? { instead } : {}),
    ...(to === "recipients" ? {} : { column: columnRule(to) }),
  };
}

/** What all parcels of a run have in common. */
interface ParcelsOf {
  readonly maker: ReportMaker;
  readonly table: Table;
  readonly beside: readonly FurtherTable[];
  readonly facts: RunFacts;
  /** Names that are given out, by the folder. */
  readonly taken: Map<string, Set<string>>;
}

function planParcel(
  { maker, table, beside, facts, taken }: ParcelsOf,
  group: Group,
  place: GroupPlace,
  { recipients, nobody }: { readonly recipients: readonly Matched[]; readonly nobody: string | undefined },
): { readonly parcel: PlannedParcel; readonly findings: readonly Finding[] } {
  const where = `group ${group.label}`;
  const env = groupEnv(table, group, place, recipients, facts);
  const blanks = new Blanks();
  const telling: Env = { ...env, onBlank: (at, source) => blanks.add(at, source) };
  const files = withPlace(where, () => planFiles(maker, telling, taken));
  const parcel: PlannedParcel = {
    number: place.number,
    group,
    further: Object.fromEntries(
      beside.filter((one) => one.belongs).map((one) => [one.name, place.further?.get(one.name)?.lines ?? []]),
    ),
    recipients,
    ...(nobody === undefined ? {} : { nobody }),
    files,
    attachments: attachmentPaths(maker.report, files),
    enclosed: withPlace(where, () => maker.enclosed(env)),
    totals: withPlace(where, () => totalsOf(maker.totals, env)),
    rowsDigest: linesDigest({ table, lines: group.rows }, place.further),
  };
  return { parcel, findings: blanks.findings(env) };
}

function columnRule(to: { readonly column: string; readonly name?: string | undefined; readonly besides: boolean }) {
  return { column: to.column, besides: to.besides, ...(to.name === undefined ? {} : { name: to.name }) };
}

/** The rows of a search that were sent on for a run of their own. */
function rowsFound(table: Table, { onlyRows }: PlanInput): { table: Table; leftOut: LeftOutRows[] } {
  if (!onlyRows) return { table, leftOut: [] };
  const inside: number[] = [];
  const outside: number[] = [];
  for (let row = 0; row < table.rowCount; row++)
    (onlyRows.rowNumbers.has(table.rowNumbers[row]) ? inside : outside).push(row);
  return { table: takeRows(table, inside), leftOut: leftOutOf(table, outside, onlyRows.why) };
}

/** Groups without the rows that have gone out before; one that has no other rows is not among them. */
function dueGroups(
  table: Table,
  groups: readonly Group[],
  delivered: PlanInput["delivered"],
): { groups: readonly Group[]; leftOut: LeftOutRows[]; rows: number[] } {
  if (!delivered) return { groups, leftOut: [], rows: [] };
  const reasons = new Map<string, number[]>();
  const left = groups.flatMap((group): Group[] => {
    const gone = delivered(table, group);
    if (gone.size === 0) return [group];
    for (const [row, why] of gone) reasons.set(why, [...(reasons.get(why) ?? []), row]);
    const rows = group.rows.filter((row) => !gone.has(row));
    return rows.length === 0 ? [] : [{ ...group, rows }];
  });
  return {
    groups: left,
    leftOut: [...reasons].flatMap(([why, rows]) => leftOutOf(table, rows, why)),
    rows: [...reasons.values()].flat(),
  };
}

/** Formulas that compare with the group's name in a cell of the template find the rows of one spelling. */
function missedBySelectors(groups: readonly Group[], report: Report): Finding[] {
  if (!Object.values(report.files).some((file) => Object.keys(file.cells ?? {}).length > 0)) return [];
  return groups
    .filter((group) => new Set(group.spellings.map((spelling) => spelling.toLowerCase())).size > 1)
    .map((group) => ({
      code: "selector-misses-spelling",
      severity: "warn",
      where: `group ${group.label}`,
      what: `The rows of "${group.label}" are written in ${group.spellings.length} ways: ${group.spellings.map((spelling) => `"${spelling}"`).join(", ")}. Formulas of a template that look for its name in its own rows miss the others; in rows of all groups (lines: all) they are written alike.`,
      advice: "Write the rows alike in the preparation (replace), or fill the data area with lines: all.",
    }));
}

/** The named groups that something is due for. Throws `UNKNOWN_NAME` for a name that is no group's. */
function chooseGroups(groups: readonly Group[], only: readonly string[], all: readonly Group[]): Group[] {
  const known = new Set(all.map((group) => group.key));
  const unknown = only.filter((key) => !known.has(key));
  if (unknown.length > 0)
    throw new CorbixError(
      "UNKNOWN_NAME",
      `Cannot find the group${unknown.length === 1 ? "" : "s"} ${unknown.map((key) => `\`${key}\``).join(", ")}.`,
      {
        where: "groups",
        advice: suggestName(
          unknown[0],
          all.map((group) => group.label),
          "groups",
        ),
      },
    );
  const wanted = new Set(only);
  return groups.filter((group) => wanted.has(group.key));
}

function planFiles(maker: ReportMaker, env: Env, taken: Map<string, Set<string>>): PlannedFile[] {
  return maker.files.flatMap((file) => {
    if (file.when && file.when.evaluate(env) !== true) return [];
    // A slash in a value is a letter: only the definition makes folders.
    const folder = file.folder ? safeFolder(file.folder.fill(env, (value) => value.replace(/[/\\]/g, "-"))) : "";
    const inFolder = taken.get(foldFileName(folder)) ?? new Set<string>();
    taken.set(foldFileName(folder), inFolder);
    const name = safeName(file.fileName.fill(env));
    return maker.outputs(file.name).map((kind): PlannedFile => {
      const unique = uniqueName(name, `.${kind}`, inFolder);
      return { file: file.name, kind, path: folder === "" ? unique : `${folder}/${unique}` };
    });
  });
}

/** `statement` is the file as it is kept, `statement.pdf` its PDF; a file with a condition may be missing. */
function attachmentPaths(report: Report, files: readonly PlannedFile[]): string[] {
  return (report.message?.attach ?? []).flatMap((wanted) => {
    if (typeof wanted !== "string") return [];
    const isPdf = wanted.endsWith(".pdf");
    const name = isPdf ? wanted.slice(0, -4) : wanted;
    const found = files.find((file) => file.file === name && (!isPdf || file.kind === "pdf"));
    return found ? [found.path] : [];
  });
}
