/** Who receives for each group, by which rule, and why nobody does. */

import { columnKey, editDistance, type Finding, groupKey, isoFromSerial, suggestName } from "../common/index.js";
import type { Group } from "../split/index.js";
import type { Table } from "../table/index.js";
import { say } from "../words/index.js";
import { type Address, foldAddress, readAddresses } from "./addresses.js";
import { type LookedUp, lookedUp, textsOf } from "./looked-up.js";
import { ALL_GROUPS, type Recipient } from "./recipient.js";

/** Someone who receives, and the rule that says so. */
export interface Matched extends Recipient {
  readonly why: string;
}

export interface Matching {
  /** The recipients of each group, by its key. */
  readonly byGroup: ReadonlyMap<string, readonly Matched[]>;
  /** Groups nobody receives for, with the reason. */
  readonly nobody: ReadonlyMap<string, string>;
  readonly findings: readonly Finding[];
}

/** What a report says about who receives. */
export interface MatchRules {
  /** Name of the report's dataset, for entries of the list that are for one dataset only. */
  readonly dataset?: string;
  /** The day that decides who is active, as a serial. */
  readonly date?: number;
  /** Only people whose field has one of these values. */
  readonly narrow?: Readonly<Record<string, string | readonly string[]>>;
  /** A column of the report's rows that holds addresses. */
  readonly column?: { readonly column: string; readonly name?: string; readonly besides: boolean };
  /** A column of the report's rows whose value is looked up in the list in place of the group's name. */
  readonly by?: string;
  /** The same people for every group. */
  readonly always?: { readonly addresses: readonly string[]; readonly name?: string };
  /** Columns of the report's rows that hold addresses for copies. */
  readonly copyColumns?: readonly { readonly column: string; readonly role: "copy" | "blind" }[];
  /** Who receives for some groups in place of the list. */
  readonly instead?: readonly {
    readonly group: string;
    readonly to: string;
    readonly name?: string | undefined;
    readonly copies?: string | undefined;
  }[];
  readonly table?: Table;
  /** Keys of all groups that have rows, where not all of them are matched. */
  readonly present?: ReadonlySet<string>;
  /** Keys of groups that this report has had before; without them every group of the list may be one of its own. */
  readonly known?: ReadonlySet<string>;
}

/** Finds each group's people by cleaned key. Groups without people stop nothing: they are left out, and named. */
export function matchRecipients(
  groups: readonly Group[],
  recipients: readonly Recipient[],
  rules: MatchRules = {},
): Matching {
  const findings: Finding[] = [];
  const keys = new Set([...groups.map((group) => group.key), ...(rules.present ?? [])]);
  const judged = recipients.map((recipient) => ({ recipient, against: reasonAgainst(recipient, rules) }));
  const entries = entriesByKey(judged);
  for (const one of rules.instead ?? [])
    if (!keys.has(groupKey(one.group)))
      findings.push({
        code: "instead-without-rows",
        severity: "warn",
        where: say().recipients.deliveryInstead(),
        what: say().recipients.somebodyReceivesPlaceListRows({ group: one.group }),
        advice: suggestName(
          one.group,
          groups.map((group) => group.label),
          "groups",
        ),
      });
  const byGroup = new Map<string, readonly Matched[]>();
  const nobody = new Map<string, string>();
  for (const group of groups) {
    const looked = lookedUp(group, rules.by, rules.table, findings);
    const own =
      "why" in looked ? { people: [], why: looked.why } : peopleOf(group, entries(looked.key), rules, findings, looked);
    const found = { ...own, people: [...own.people, ...columnCopies(group, rules, findings)] };
    findings.push(...twiceFindings(group, found.people));
    // Copies alone are no message.
    if (found.people.some((one) => (one.role ?? "to") === "to")) {
      byGroup.set(group.key, found.people);
      continue;
    }
    const why = found.people.length > 0 ? say().recipients.onlyPeopleWhoGetCopies() : found.why;
    nobody.set(group.key, why);
    findings.push({
      code: "group-without-recipient",
      severity: "warn",
      where: say().place.group({ name: group.label }),
      what: say().recipients.nobodyReceivesSinceFilesMade({ label: group.label, rowCount: group.rows.length, why }),
      advice: say().recipients.addRecipientListThenPlan(),
    });
  }
  // A list that is looked up otherwise, or not at all, says nothing about groups that have no rows.
  const isByGroup = rules.by === undefined && rules.always === undefined;
  const idle = judged.filter(
    ({ recipient, against }) =>
      isByGroup && recipient.key !== ALL_GROUPS && !keys.has(recipient.key) && !against?.isForOthers,
  );
  findings.push(...idleFindings(idle, [...nobody.keys()], rules));
  return { byGroup, nobody, findings };
}

/** Letters in which a group's name may differ from one that nobody receives for, to be pointed at. */
const NEAR = 2;
/** Groups without people that names are compared with. */
const COMPARED = 200;

/** People whose group has no rows: of a shared list only those that concern this report, since it had the group before, or nearly has it. */
function idleFindings(idle: readonly Judged[], nobody: readonly string[], { known }: MatchRules): Finding[] {
  const lonely = nobody.slice(0, COMPARED);
  return idle.flatMap(({ recipient }) => {
    const near = lonely.find((key) => editDistance(key, recipient.key, NEAR) <= NEAR);
    if (known && !known.has(recipient.key) && near === undefined) return [];
    return [
      {
        code: "recipient-without-rows",
        severity: "note" as const,
        where: say().recipients.recipientListRow({ row: recipient.row }),
        what: say().recipients.receivesRowsTime({ name: recipient.name, group: recipient.group }),
        advice: say().recipients.nothingSentIfShouldRows({ near }),
      },
    ];
  });
}

/** An address that stands twice for a group gets one message all the same, and is named. */
function twiceFindings(group: Group, people: readonly Matched[]): Finding[] {
  const seen = new Map<string, string>();
  const twice = new Map<string, string>();
  for (const { to, name } of people)
    for (const { address } of to) {
      const folded = foldAddress(address);
      const before = seen.get(folded);
      if (before !== undefined) twice.set(address, say().recipients.and({ before, name }));
      seen.set(folded, name);
    }
  return [...twice].map(([address, names]) => ({
    code: "address-twice",
    severity: "warn" as const,
    where: say().place.group({ name: group.label }),
    what: say().recipients.standsTwiceGetsMessage({ address, label: group.label, names }),
    advice: say().recipients.takeEntriesOutList(),
  }));
}

interface Judged {
  readonly recipient: Recipient;
  readonly against: Against | undefined;
}

/** The entries that stand for a group or for all, in the order of the list; looked up, since there may be as many as groups. */
function entriesByKey(judged: readonly Judged[]): (key: string) => readonly Judged[] {
  const order = new Map(judged.map((one, index) => [one, index]));
  const byKey = new Map<string, Judged[]>();
  for (const one of judged) {
    const known = byKey.get(one.recipient.key);
    if (known) known.push(one);
    else byKey.set(one.recipient.key, [one]);
  }
  const forAll = byKey.get(ALL_GROUPS) ?? [];
  return (key) => {
    const own = key === ALL_GROUPS ? [] : (byKey.get(key) ?? []);
    if (forAll.length === 0) return own;
    return [...own, ...forAll].sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0));
  };
}

interface Against {
  readonly words: string;
  /** It is for other reports; this one need not speak of it. */
  readonly isForOthers: boolean;
}

/** Why an entry of the list does not count this time. */
function reasonAgainst(recipient: Recipient, { dataset, date, narrow }: MatchRules): Against | undefined {
  const row = say().recipients.rowNamed({ row: recipient.row, name: recipient.name });
  const here = (words: string): Against => ({ words: `${row} ${words}`, isForOthers: false });
  if (recipient.dataset !== undefined && dataset !== undefined && recipient.dataset !== columnKey(dataset))
    return { words: say().recipients.datasetOnly({ row, dataset: recipient.dataset }), isForOthers: true };
  if (recipient.neverSend) return here(say().recipients.neverSent());
  if (date !== undefined && recipient.from !== undefined && date < recipient.from)
    return here(say().recipients.active({ isoFromSerial: isoFromSerial(recipient.from) }));
  if (date !== undefined && recipient.until !== undefined && date > recipient.until)
    return here(say().recipients.activeUntil({ isoFromSerial: isoFromSerial(recipient.until) }));
  for (const [field, wanted] of Object.entries(narrow ?? {})) {
    const own = Object.entries(recipient.fields).find(([name]) => columnKey(name) === columnKey(field))?.[1] ?? "";
    const values = (typeof wanted === "string" ? [wanted] : wanted).map(groupKey);
    if (!values.includes(groupKey(own))) return { words: say().recipients.has({ row, own, field }), isForOthers: true };
  }
  return undefined;
}

function peopleOf(
  group: Group,
  meant: readonly Judged[],
  rules: MatchRules,
  findings: Finding[],
  looked: LookedUp,
): { people: Matched[]; why: string } {
  const own = rules.instead?.find((one) => groupKey(one.group) === group.key);
  if (own) {
    const where = say().recipients.reportInstead({ label: group.label });
    const to = readAddresses(own.to, where, findings);
    const people =
      to.length === 0
        ? []
        : [
            made(
              group,
              own.name,
              to,
              readAddresses(own.copies ?? "", where, findings),
              `the report names them for "${group.label}"`,
            ),
          ];
    return { people, why: say().recipients.reportNamesAddressCanUsed() };
  }
  if (rules.always) {
    const to = readAddresses(rules.always.addresses.join("; "), "delivery, to", findings);
    const always = made(group, rules.always.name, to, [], "the report names it for every group");
    return { people: to.length === 0 ? [] : [always], why: say().recipients.reportNamesNone() };
  }
  const fromColumn = rules.column ? columnPeople(group, rules.column, rules.table, findings) : [];
  if (fromColumn.length > 0 && !rules.column?.besides) return { people: fromColumn, why: "" };
  const people = meant
    .filter(({ against }) => against === undefined)
    .map(
      ({ recipient }): Matched => ({
        ...recipient,
        why: say().recipients.rowListStandsAllGroups({
          key: recipient.key,
          allGroups: ALL_GROUPS,
          row: recipient.row,
          group: recipient.group,
          column: looked.column,
        }),
      }),
    );
  const reasons = meant.flatMap(({ recipient, against }) =>
    against && recipient.key !== ALL_GROUPS ? [against.words] : [],
  );
  const missing = rules.column ? say().recipients.columnHoldsAddress({ column: rules.column.column }) : "";
  return {
    people: [...fromColumn, ...people],
    why: say().recipients.rowListNames({
      missing,
      reasonCount: reasons.length,
      reasons: reasons.join(", and "),
      value: looked.value,
      column: looked.column,
    }),
  };
}

/** Addresses that the group's own rows carry. */
function columnPeople(
  group: Group,
  { column, name }: NonNullable<MatchRules["column"]>,
  table: Table | undefined,
  findings: Finding[],
): Matched[] {
  const values = (wanted: string | undefined): string[] => (wanted === undefined ? [] : textsOf(group, wanted, table));
  const where = say().recipients.groupAndColumn({ label: group.label, column });
  const to = readAddresses(values(column).join("; "), where, findings);
  if (to.length === 0) return [];
  const names = values(name);
  const different = new Set(to.map((one) => foldAddress(one.address)));
  if (values(column).length > 1 && different.size > 1)
    findings.push({
      code: "several-addresses-in-rows",
      severity: "warn",
      where,
      what: say().recipients.rowsNameAddressesAllThem({
        label: group.label,
        differentCount: different.size,
        to: to.map((one) => one.address).join(", "),
        value: names.length > 1 ? ` (${names.join(", ")})` : "",
      }),
      advice: say().recipients.ifTheyDifferentPeopleS(),
    });
  return [
    made(
      group,
      names.length === 1 ? names[0] : undefined,
      to,
      [],
      `the column ${column} of its rows holds the address`,
    ),
  ];
}

/** People whose addresses the group's rows carry for copies. */
function columnCopies(group: Group, { copyColumns, table }: MatchRules, findings: Finding[]): Matched[] {
  return (copyColumns ?? []).flatMap(({ column, role }) => {
    const where = say().recipients.groupAndColumn({ label: group.label, column });
    const to = readAddresses(textsOf(group, column, table).join("; "), where, findings);
    if (to.length === 0) return [];
    return [{ ...made(group, undefined, to, [], say().recipients.columnForCopies({ column })), role }];
  });
}

function made(
  group: Group,
  name: string | undefined,
  to: readonly Address[],
  copies: readonly Address[],
  why: string,
): Matched {
  return {
    group: group.label,
    key: group.key,
    name: name ?? to[0].name ?? to[0].address,
    to,
    copies,
    blindCopies: [],
    fields: {},
    row: 0,
    why,
  };
}
