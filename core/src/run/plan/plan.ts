import { type Finding, known, sortFindings } from "../../common/index.js";
import { onceOf } from "../../delivery/index.js";
import { checkEnquiry } from "../../enquiry/index.js";
import {
  findColumn,
  type LeftOutRows,
  type PrepareContext,
  type Prepared,
  preparedColumns,
  prepareTable,
  type StepAccount,
} from "../../prepare/index.js";
import { type MatchRules, matchRecipients, type Recipient } from "../../recipients/index.js";
import { type Report, splitColumns } from "../../report/index.js";
import { applyAliases, splitBy } from "../../split/index.js";
import type { ColumnInfo, Table } from "../../table/index.js";
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
import { groupScope, recipientFields } from "../scope.js";
import { accountFindings, blankKeys, mergeReasons, type RowAccount, unchosen } from "./account.js";
import { chooseGroups, type GroupChoice, missedBySelectors, rowsFound } from "./choose-groups.js";
import { type ControlTotal, controlTotals } from "./control-totals.js";
import type { PlanInput } from "./plan-input.js";
import type { ParcelsOf, PlannedParcel } from "./plan-parcel.js";
import { planParcel } from "./plan-parcel.js";

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

/** Groups that are planned between two looks at what else there is to do. */
const MEANWHILE_EVERY = 250;

export interface Planned {
  readonly plan: Plan;
  /** Of the plan's findings those about who receives, and about marks that came out blank. */
  readonly aboutPeople: ReadonlySet<Finding>;
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
  if (report.period?.column) findColumn(columns, report.period.column, "period, column");
  if (report.enquiry) checkEnquiry(report.enquiry, prepared, Object.keys(report.files));
  for (const name of splitColumns(report)) findColumn(prepared, name, "split");
  const { to } = report.delivery;
  const once = onceOf(report);
  for (const name of once.per) findColumn(prepared, name, "once, per");
  for (const name of columnsOfPeople(to)) findColumn(prepared, name, "delivery, to");
  for (const { column, role } of copyColumns(report))
    findColumn(prepared, column, role === "copy" ? "delivery, copies" : "delivery, blindCopies");
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
  const check = () => checkAgainst(report, input.table.columns, others, input.templates, input.recipients);
  const maker = input.checked?.(check) ?? check();
  const prepared = preparedRows(input);
  const { table } = prepared;
  const split = splitBy(table, report.split);
  const further = findFurther({
    report,
    master: input.table,
    own: table,
    groups: split.groups,
    context: contextOf(input),
    period: facts.period,
    aliases: input.aliases ?? [],
  });
  const beside = further.tables.filter((one) => one.name !== ALL_LINES || maker.uses(ALL_LINES));
  const choice = chooseGroups(table, split.groups, input);
  const present = new Set(split.groups.map((group) => group.key));
  const matching = matchRecipients(choice.chosen, input.recipients, matchRules(input, table, present));
  const { parcels, blanks } = planParcels({ maker, table, beside, facts, taken: new Map() }, choice, matching, input);
  const leftOut = [
    ...prepared.leftOut,
    ...blankKeys(table, split.blankRows, report),
    ...choice.leftOut,
    ...unchosen(table, choice.notChosen),
  ];
  const outside = [...split.blankRows, ...choice.goneRows, ...choice.notChosen.flatMap((group) => group.rows)];
  const totals = controlTotals(maker, table, parcels, outside, { facts, further: beside });
  const rows: RowAccount = {
    master: input.table.rowCount + (input.notRead ?? []).reduce((sum, entry) => sum + entry.count, 0),
    ...(prepared.made === 0 ? {} : { made: prepared.made }),
    inGroups: parcels.reduce((sum, parcel) => sum + parcel.group.rows.length, 0),
    leftOut,
  };
  // Where there is no message, nobody has to receive one.
  const told = report.message ? matching.findings : [];
  const groupNames = split.groups.map((group) => group.label);
  const findings = [
    ...prepared.findings,
    ...split.findings,
    ...missedBySelectors(split.groups, report),
    ...further.findings,
    ...told,
    ...maker.travelFindings(),
    ...blanks,
    ...accountFindings(rows, totals, parcels, isQuietly(input, prepared, split.blankRows, choice.goneRows)),
  ];
  return {
    plan: {
      table,
      parcels,
      rows,
      steps: prepared.steps,
      ...(report.sealed ? { sealedNames: groupNames } : {}),
      further: beside,
      furtherRows: further.accounts,
      groupNames,
      totals,
      findings: sortFindings(findings),
    },
    aboutPeople: new Set([...told, ...blanks]),
    maker,
  };
}

/**
 * Whether a run without groups has nothing to do: its rows were there, and conditions or earlier deliveries leave them out. Where
 * most of them have no group, or a group was asked for, something is wrong.
 */
function isQuietly(
  { report, only }: PlanInput,
  { byConditions }: { readonly byConditions: number },
  blankKeyRows: readonly number[],
  goneRows: readonly number[],
): boolean {
  const meant = byConditions + goneRows.length;
  return report.whenNothing !== "stop" && only === undefined && meant > 0 && meant >= blankKeyRows.length;
}

export function contextOf({ others, facts, report }: PlanInput): PrepareContext {
  return { others, today: facts.date, locale: report.locale };
}

/** The rows of the period, with spellings that count as one, before anything is prepared. */
export function loadedRows({ report, facts, table, aliases }: PlanInput): ReturnType<typeof rowsInPeriod> {
  return rowsInPeriod(applyAliases(table, aliases ?? []), report.period?.column, facts.period, "period, column");
}

/** The rows of the period that the run is about, prepared, and all others with the reason. */
function preparedRows(
  input: PlanInput,
): Omit<Prepared, "leftOut"> & { readonly leftOut: readonly LeftOutRows[]; readonly byConditions: number } {
  const { report } = input;
  const inPeriod = loadedRows(input);
  const found = rowsFound(inPeriod.table, input);
  const prepared = prepareTable(found.table, report, contextOf(input));
  return {
    ...prepared,
    byConditions: prepared.leftOut.reduce((sum, { count }) => sum + count, 0),
    leftOut: [...mergeReasons([...inPeriod.leftOut, ...(input.notRead ?? [])]), ...found.leftOut, ...prepared.leftOut],
  };
}

/** Each chosen group's parcel, and what is said of the marks that came out blank. */
function planParcels(
  common: ParcelsOf,
  { chosen, due }: GroupChoice,
  matching: ReturnType<typeof matchRecipients>,
  { meanwhile }: PlanInput,
): { readonly parcels: readonly PlannedParcel[]; readonly blanks: readonly Finding[] } {
  const numbers = new Map(due.map((group, index) => [group, index + 1]));
  const blanks: Finding[] = [];
  const parcels = chosen.map((group, index): PlannedParcel => {
    if (index % MEANWHILE_EVERY === 0) meanwhile?.();
    const place = { number: known(numbers, group), count: due.length, further: furtherOf(common.beside, group) };
    const people = { recipients: matching.byGroup.get(group.key) ?? [], nobody: matching.nobody.get(group.key) };
    const planned = planParcel(common, group, place, people);
    blanks.push(...planned.findings);
    return planned.parcel;
  });
  return { parcels, blanks };
}

function matchRules({ report, facts, knownGroups }: PlanInput, table: Table, present: ReadonlySet<string>): MatchRules {
  const { to, narrow, instead } = report.delivery;
  return {
    dataset: report.data,
    date: facts.date,
    table,
    present,
    ...(knownGroups ? { known: knownGroups } : {}),
    ...(narrow ? { narrow } : {}),
    ...(instead ? { instead } : {}),
    ...peopleRule(to),
    copyColumns: copyColumns(report),
  };
}

/** Columns of the rows that hold addresses for copies. */
function copyColumns({ delivery }: Report): { column: string; role: "copy" | "blind" }[] {
  const named = (list: Report["delivery"]["copies"], role: "copy" | "blind") =>
    list.flatMap((one) => (typeof one === "string" ? [] : [{ column: one.column, role }]));
  return [...named(delivery.copies, "copy"), ...named(delivery.blindCopies, "blind")];
}

type People = Report["delivery"]["to"];

function columnsOfPeople(to: People): string[] {
  if (to === "recipients" || "addresses" in to) return [];
  return "by" in to ? [to.by] : [to.column, ...(to.name === undefined ? [] : [to.name])];
}

function peopleRule(to: People): Pick<MatchRules, "column" | "by" | "always"> {
  if (to === "recipients") return {};
  if ("by" in to) return { by: to.by };
  const name = to.name === undefined ? {} : { name: to.name };
  if ("addresses" in to) return { always: { addresses: to.addresses, ...name } };
  return { column: { column: to.column, besides: to.besides, ...name } };
}
