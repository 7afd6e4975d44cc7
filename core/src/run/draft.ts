/** A definition looked at while it is written: what it makes of the data there are, as far as it goes, and what stands in its way. */
import { CorbixError, type Finding } from "../common/index.js";
import type { StepAccount } from "../prepare/index.js";
import type { Matched } from "../recipients/index.js";
import type { Report } from "../report/index.js";
import { type Cell, type ColumnInfo, columnInfo } from "../table/index.js";
import { lookedAt } from "./answer.js";
import { type ConditionCount, countConditions } from "./condition-counts.js";
import type { RowAccount } from "./plan/account.js";
import type { ControlTotal } from "./plan/control-totals.js";
import { contextOf, loadedRows, type Planned, planRun } from "./plan/plan.js";
import type { PlanInput } from "./plan/plan-input.js";
import type { PlannedFile } from "./plan/plan-parcel.js";
import { plannedMessages } from "./planned-messages.js";
import { chooseGroup, messagesFor, type TriedMessage } from "./try-out.js";

/** A group as the list of all shows it. */
export interface DraftGroup {
  readonly key: string;
  readonly label: string;
  readonly rows: number;
  readonly people: number;
  /** Why nobody receives. */
  readonly nobody: string | undefined;
  readonly totals: Readonly<Record<string, string>>;
}

/** What one group would get. */
export interface DraftParcel extends DraftGroup {
  readonly number: number;
  readonly cells: readonly (readonly Cell[])[];
  readonly rowNumbers: readonly number[];
  readonly files: readonly PlannedFile[];
  readonly attachments: readonly string[];
  readonly recipients: readonly Matched[];
  readonly messages: TriedMessage["messages"];
}

export interface DraftLook {
  readonly columns: readonly ColumnInfo[];
  readonly steps: readonly StepAccount[];
  readonly rows: RowAccount;
  readonly totals: readonly ControlTotal[];
  readonly findings: readonly Finding[];
  /** The first of the groups that were asked for, the wanted one among them, and how many there are. */
  readonly groups: readonly DraftGroup[];
  readonly groupCount: number;
  /** How many of all groups nobody receives for, whichever are listed. */
  readonly groupsWithoutPeople: number;
  /** How many messages would go out. */
  readonly messageCount: number;
  /** Missing where there is no group. */
  readonly parcel: DraftParcel | undefined;
  /** The columns as they were loaded, and over the rows of the period what each condition that was asked for holds for. */
  readonly loadedColumns: readonly ColumnInfo[];
  readonly conditions: readonly ConditionCount[];
  /** What keeps parts of the definition from being looked at; what does not hang on them is shown nevertheless. */
  readonly problems: readonly CorbixError[];
}

export interface DraftWish {
  /** Key or label; one of middling size without it. */
  readonly group?: string | undefined;
  /** Part of a group's name. */
  readonly search?: string | undefined;
  /** Conditions over the rows as they were loaded, each counted for itself. */
  readonly conditions?: readonly string[] | undefined;
}

/** So many groups are listed, and so many rows of one are shown. */
const LISTED = 500;
const SHOWN = 500;

/** What is left away, one after the other, until the rest can be looked at: what hangs on least first. */
const WITHOUT: readonly ((report: Report) => Report)[] = [
  (report) => report,
  ({ message: _, ...report }) => report,
  ({ message: _, ...report }) => ({ ...report, files: {} }),
  ({ message: _, ...report }) => ({
    ...report,
    files: {},
    totals: {},
    lines: {},
    delivery: { ...report.delivery, to: "recipients" },
  }),
];

/** Throws `BAD_DEFINITION` or `BAD_EXPRESSION` only where rows or groups themselves cannot be made. */
export function lookAtDraft(given: PlanInput, wish: DraftWish = {}): DraftLook {
  const input = lookedAt(given);
  const { planned, report, problems } = planAsFarAsItGoes(input);
  const { plan } = planned;
  const wanted = wish.search?.toLowerCase();
  const listed = plan.parcels.filter(({ group }) => wanted === undefined || group.label.toLowerCase().includes(wanted));
  const found = problems.slice();
  const parcel = plan.parcels.length === 0 ? undefined : parcelOf(planned, { ...input, report }, wish.group, found);
  return {
    columns: plan.table.columns.map(columnInfo),
    steps: plan.steps,
    rows: plan.rows,
    totals: plan.totals,
    findings: plan.findings,
    groups: listed.slice(0, LISTED).map(groupOf),
    groupCount: plan.parcels.length,
    groupsWithoutPeople: plan.parcels.filter(({ recipients }) => recipients.length === 0).length,
    messageCount: plan.parcels.reduce(
      (sum, { recipients }) => sum + plannedMessages(input.report, recipients).length,
      0,
    ),
    parcel,
    loadedColumns: input.table.columns.map(columnInfo),
    conditions: wish.conditions ? countConditions(loadedRows(input).table, wish.conditions, contextOf(input)) : [],
    problems: found,
  };
}

function planAsFarAsItGoes(input: PlanInput): { planned: Planned; report: Report; problems: CorbixError[] } {
  const problems: CorbixError[] = [];
  for (const without of WITHOUT) {
    const report = without(input.report);
    try {
      return { planned: planRun({ ...input, report }), report, problems };
    } catch (error) {
      if (!(error instanceof CorbixError)) throw error;
      // The same is found again by what is left.
      if (!problems.some((one) => one.message === error.message && one.where === error.where)) problems.push(error);
    }
  }
  throw problems.at(-1);
}

type PlannedParcel = Planned["plan"]["parcels"][number];

function groupOf({ group, recipients, nobody, totals }: PlannedParcel): DraftGroup {
  return { key: group.key, label: group.label, rows: group.rows.length, people: recipients.length, nobody, totals };
}

function parcelOf(
  planned: Planned,
  input: PlanInput,
  wanted: string | undefined,
  problems: CorbixError[],
): DraftParcel {
  const { plan } = planned;
  const groups = plan.parcels.map((parcel) => parcel.group);
  const isThere = wanted !== undefined && groups.some(({ key, label }) => key === wanted || label === wanted);
  const group = chooseGroup(groups, isThere ? wanted : undefined);
  const at = groups.indexOf(group);
  const parcel = plan.parcels[at];
  const rows = group.rows.slice(0, SHOWN);
  let messages: TriedMessage["messages"] = [];
  try {
    messages = messagesFor(planned, at, input);
  } catch (error) {
    if (!(error instanceof CorbixError)) throw error;
    problems.push(error);
  }
  return {
    ...groupOf(parcel),
    number: parcel.number,
    cells: rows.map((row) => plan.table.columns.map((column) => column.values[row])),
    rowNumbers: rows.map((row) => plan.table.rowNumbers[row]),
    files: parcel.files,
    attachments: parcel.attachments,
    recipients: parcel.recipients,
    messages,
  };
}
