/** A template tried with one group: the file as a run would make it, beside its rows, and nothing kept. */

import { CorbixError, type Finding, groupKey, suggestName } from "../common/index.js";
import type { FontLibrary } from "../fonts/index.js";
import type { ComposedMessage } from "../message/index.js";
import type { Group } from "../split/index.js";
import type { Cell, ColumnInfo } from "../table/index.js";
import { say } from "../words/index.js";
import { lookedAt } from "./answer.js";
import type { MadeFile } from "./make-file.js";
import { type Planned, planRun } from "./plan/plan.js";
import type { PlanInput } from "./plan/plan-input.js";
import { plannedMessages } from "./planned-messages.js";
import { furtherOf } from "./rows/further.js";
import { factsFor, groupEnv } from "./scope.js";

export interface TriedOut {
  readonly groups: readonly { readonly key: string; readonly label: string; readonly rows: number }[];
  /** Key of the group that was tried. */
  readonly group: string;
  readonly files: readonly MadeFile[];
  readonly findings: readonly Finding[];
  readonly columns: readonly ColumnInfo[];
  readonly rowNumbers: readonly number[];
  readonly rows: readonly (readonly Cell[])[];
}

/** Rows that are given back to be looked at. */
const SHOWN_ROWS = 2000;

/**
 * Makes a file of a report for one group, always with its pages. Throws what a run would, and `NOT_FOUND` for a group
 * there is not, or where there is none at all.
 */
export function tryOut(given: PlanInput, file: string, wanted: string | undefined, fonts: FontLibrary): TriedOut {
  const input = lookedAt(given, file);
  const spec = input.report.files[file];
  const shown = spec.pdf === "no" ? { ...spec, pdf: "too" as const } : spec;
  // Passwords are for what leaves the house.
  const { protect: _, ...open } = shown;
  const report = { ...input.report, files: { ...input.report.files, [file]: open } };
  const { plan, maker } = planRun({ ...input, report });
  const group = chooseGroup(
    plan.parcels.map((parcel) => parcel.group),
    wanted,
  );
  const at = plan.parcels.findIndex((parcel) => parcel.group === group);
  const place = { number: at + 1, count: plan.parcels.length, further: furtherOf(plan.further, group) };
  const env = groupEnv(plan.table, group, place, plan.parcels[at].recipients, input.facts);
  const made = maker.make(env, [file], fonts, input.facts);
  const rows = group.rows.slice(0, SHOWN_ROWS);
  return {
    groups: plan.parcels.map(shownGroup),
    group: group.key,
    files: made.files,
    findings: made.findings,
    columns: plan.table.columns.map(({ name, type, unit }) => ({
      name,
      type,
      ...(unit === undefined ? {} : { unit }),
    })),
    rowNumbers: rows.map((row) => plan.table.rowNumbers[row]),
    rows: rows.map((row) => plan.table.columns.map((column) => column.values[row])),
  };
}

export interface TriedMessage {
  readonly groups: TriedOut["groups"];
  /** Key of the group that was tried. */
  readonly group: string;
  /** Whom each message would go to, in which language, and what it says. */
  readonly messages: readonly (ComposedMessage & { readonly language: string; readonly people: readonly string[] })[];
}

/**
 * The messages of one group as a run would write them. A language that nobody of the group reads is written all the same,
 * with nobody as its people. Throws what a run would, and `NOT_FOUND` for a group there is not.
 */
export function tryMessage(input: PlanInput, wanted: string | undefined): TriedMessage {
  const planned = planRun(input);
  const groups = planned.plan.parcels.map((parcel) => parcel.group);
  const group = chooseGroup(groups, wanted);
  return {
    groups: planned.plan.parcels.map(shownGroup),
    group: group.key,
    messages: messagesFor(planned, groups.indexOf(group), input),
  };
}

/** Messages of one parcel of a plan, in each language. */
export function messagesFor(
  { plan, maker }: Planned,
  at: number,
  { report, facts }: Pick<PlanInput, "report" | "facts">,
): TriedMessage["messages"] {
  const { group, recipients } = plan.parcels[at];
  const place = { number: at + 1, count: plan.parcels.length, further: furtherOf(plan.further, group) };
  const messages = plannedMessages(report, recipients).map(({ part }) => ({
    language: part.language,
    people: part.recipients,
  }));
  const read = new Set(messages.map(({ language }) => language ?? ""));
  const unread = ["", ...Object.keys(report.message?.languages ?? {})].filter((one) => !read.has(one));
  const all = [...messages, ...unread.map((language) => ({ language: language || undefined, people: [] }))];
  return all.flatMap(({ language, people }) => {
    // A greeting wants somebody to greet: for a language nobody reads it is written as to the others.
    const to = people.length > 0 ? people : recipients;
    const written = maker.compose(
      groupEnv(plan.table, group, place, to, factsFor(facts, language)),
      undefined,
      language,
    );
    if (!written) return [];
    const addresses = people.flatMap((one) => one.to.map(({ address }) => address));
    return [{ ...written.message, language: language ?? "", people: addresses }];
  });
}

function shownGroup({ group }: { readonly group: Group }): TriedOut["groups"][number] {
  return { key: group.key, label: group.label, rows: group.rows.length };
}

/** The wanted group; without one that in the middle by number of rows, which shows most of what is usual. */
export function chooseGroup(groups: readonly Group[], wanted: string | undefined): Group {
  if (groups.length === 0)
    throw new CorbixError("NOT_FOUND", say().run.cannotTryTemplateReportMakes(), {
      where: "period",
      advice: say().run.choosePeriodRows(),
    });
  if (wanted === undefined) {
    const sorted = [...groups].sort((a, b) => a.rows.length - b.rows.length);
    return sorted[sorted.length >> 1];
  }
  const found = groups.find((group) => groupKey(group.key) === groupKey(wanted) || group.label === wanted);
  if (found) return found;
  throw new CorbixError("NOT_FOUND", say().run.cannotFindGroupPeriod({ wanted }), {
    where: "group",
    advice: suggestName(
      wanted,
      groups.map((group) => group.label),
      "groups",
    ),
  });
}
