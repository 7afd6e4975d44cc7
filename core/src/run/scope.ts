import { type Calendar, type Period, periodLabel } from "../calendar/index.js";
import { columnKey, Exact } from "../common/index.js";
import { DateValue, type Env, type FurtherLines, type Scope, type Value } from "../expression/index.js";
import { type Recipient, showAddress } from "../recipients/index.js";
import type { Group } from "../split/index.js";
import type { ColumnInfo, Table } from "../table/index.js";
import { say } from "../words/index.js";

/** What a run knows of itself; names in templates reach it as `run.` and `period.`. */
export interface RunFacts {
  readonly id: string;
  /** The run's own day as a serial: what `today()` gives. */
  readonly date: number;
  /** The run's own time of day, such as 09:15; what pages show where they ask for the time. */
  readonly time?: string;
  readonly period?: Period;
  /** What says how its periods fall, where a calendar does. */
  readonly calendar?: Calendar;
  /** Address the messages come from. */
  readonly sender: string;
  readonly locale: string;
}

/** Names that templates, file names and messages of a report may use. */
export function groupScope(
  columns: readonly ColumnInfo[],
  recipientFields: readonly string[] | "any" = "any",
  further?: Scope["further"],
): Scope {
  return {
    mode: "group",
    columns,
    ...(further ? { further } : {}),
    spaces: {
      recipient: recipientFields,
      period: ["key", "label", "from", "to"],
      run: ["id", "date", "sender"],
      group: ["key", "label", "number", "rows"],
      groups: ["count"],
    },
  };
}

/**
 * What a list can fill under `recipient.`: its own fields beside those that all have. A mark for another would leave a blank
 * after every greeting. Without a list nothing is known of it.
 */
export function recipientFields(recipients: readonly Recipient[]): readonly string[] | "any" {
  if (recipients.length === 0) return "any";
  const own = recipients.flatMap((recipient) => Object.keys(recipient.fields));
  return [...new Set(["name", "language", "address", "group", ...own])];
}

/** Where a group stands among all, and its lines beside its own. */
export interface GroupPlace {
  /** Counted from 1. */
  readonly number: number;
  readonly count: number;
  readonly further?: ReadonlyMap<string, FurtherLines>;
}

/** What a template sees of one group. */
export function groupEnv(
  table: Table,
  group: Group,
  place: GroupPlace,
  recipients: readonly Recipient[],
  facts: RunFacts,
): Env {
  return {
    table,
    lines: group.rows,
    row: -1,
    ...(place.further ? { further: place.further } : {}),
    locale: facts.locale,
    today: facts.date,
    spaces: {
      recipient: recipientNames(recipients),
      period: periodNames(facts),
      run: new Map<string, Value>([
        ["id", facts.id],
        ["date", new DateValue(facts.date, "date")],
        ["sender", facts.sender],
      ]),
      group: new Map<string, Value>([
        // What people and workbooks compare is the spelling of the rows; the cleaned key is the ledger's.
        ["key", group.label],
        ["label", group.label],
        ["number", new Exact(place.number)],
        ["rows", new Exact(group.rows.length)],
      ]),
      groups: new Map<string, Value>([["count", new Exact(place.count)]]),
    },
  };
}

/** Several recipients of one group share its message: their names are joined, other fields are the first's. */
function recipientNames(recipients: readonly Recipient[]): Map<string, Value> {
  const first = recipients.find((recipient) => (recipient.role ?? "to") === "to") ?? recipients[0];
  if (!first) return new Map();
  const names = new Map<string, Value>(Object.entries(first.fields).map(([name, value]) => [columnKey(name), value]));
  const readers = recipients.filter((recipient) => (recipient.role ?? "to") === "to");
  names.set("name", joinNames((readers.length > 0 ? readers : recipients).map((recipient) => recipient.name)));
  names.set("language", first.language ?? "");
  names.set("address", first.to.map(showAddress).join("; "));
  names.set("group", first.group);
  return names;
}

function joinNames(names: readonly string[]): string {
  return say().run.and({
    count: names.length,
    only: names[0] ?? "",
    first: names.slice(0, -1).join(", "),
    last: names[names.length - 1],
  });
}

/** Months and numbers are written as the reader's language has them. */
export function factsFor(facts: RunFacts, language: string | undefined): RunFacts {
  return language === undefined ? facts : { ...facts, locale: language };
}

function periodNames({ period, locale }: RunFacts): Map<string, Value> {
  if (!period) return new Map();
  return new Map<string, Value>([
    ["key", period.key],
    ["label", periodLabel(period, locale)],
    ["from", new DateValue(period.from, "date")],
    ["to", new DateValue(period.to, "date")],
  ]);
}
