/** The shared list from a table with a header. */

import { cleanText, columnKey, type Finding, groupKey, maybeSerialFromIso } from "../common/index.js";
import type { Table } from "../table/index.js";
import { say } from "../words/index.js";
import { type Address, addressFindings, readAddresses } from "./addresses.js";
import { ALL_GROUPS, type Recipient, type Role } from "./recipient.js";

export interface RecipientList {
  readonly recipients: readonly Recipient[];
  readonly findings: readonly Finding[];
}

/** Names under which a column is known, folded; the first is the one an export writes. */
export const LIST_COLUMNS = {
  group: ["group", "groups", "site", "key", "client", "supplier", "branch", "department"],
  name: ["name", "recipient", "contact"],
  to: ["addresses", "address", "email", "e_mail", "mail", "to"],
  copies: ["copies", "copy", "cc"],
  blindCopies: ["blind_copies", "blind_copy", "bcc"],
  role: ["role", "receives_as"],
  dataset: ["dataset", "only_for"],
  language: ["language", "lang"],
  from: ["active_from", "from", "since"],
  until: ["active_until", "until"],
  neverSend: ["never_send", "never"],
} as const;
type ListColumn = keyof typeof LIST_COLUMNS;

const ROLES: Readonly<Record<string, Role>> = {
  "": "to",
  to: "to",
  copy: "copy",
  cc: "copy",
  blind: "blind",
  blind_copy: "blind",
  bcc: "blind",
};

/** Kinds of findings that say of an entry that it cannot be used as it is written. */
export const ENTRY_FAULTS: ReadonlySet<string> = new Set([
  "bad-address",
  "bad-role",
  "bad-date",
  "recipient-without-group",
  "recipient-without-address",
]);

/** Reads group, name, addresses, copies and the rest; a row that cannot be used is a finding. */
export function readRecipients(table: Table, where: string): RecipientList {
  const findings: Finding[] = [];
  const at = Object.fromEntries(
    Object.entries(LIST_COLUMNS).map(([kind, names]) => [kind, columnOf(table, names)]),
  ) as Record<ListColumn, number>;
  for (const kind of ["group", "to"] as const) {
    if (at[kind] >= 0) continue;
    findings.push({
      code: "column-missing",
      severity: "stop",
      where,
      what: say().recipients.listColumn({ kind }),
      advice: say().recipients.callLike({ listColumns: LIST_COLUMNS[kind].slice(0, 4).join(", ") }),
    });
  }
  if (findings.length > 0) return { recipients: [], findings };
  const used = new Set<number>(Object.values(at));
  const recipients: Recipient[] = [];
  for (let row = 0; row < table.rowCount; row++) {
    const cell = (kind: ListColumn): string =>
      at[kind] < 0 ? "" : cleanText(String(table.columns[at[kind]].values[row] ?? ""));
    const place = say().place.rowIn({ where, number: table.rowNumbers[row] });
    const fields = Object.fromEntries(
      table.columns.flatMap((column, index) =>
        used.has(index) ? [] : [[column.name, cleanText(String(column.values[row] ?? ""))] as const],
      ),
    );
    const dates = {
      from: dayOf(at.from < 0 ? null : table.columns[at.from].values[row], place, findings),
      until: dayOf(at.until < 0 ? null : table.columns[at.until].values[row], place, findings),
    };
    const lines = at.to < 0 ? "" : String(table.columns[at.to].values[row] ?? "");
    recipients.push(
      ...recipientsOf(
        { ...dates, cell, fields, row: table.rowNumbers[row], to: readAddresses(lines, place, findings) },
        place,
        findings,
      ),
    );
  }
  return { recipients, findings: [...findings, ...addressFindings(recipients, where)] };
}

function columnOf(table: Table, names: readonly string[]): number {
  for (const wanted of names) {
    const index = table.columns.findIndex((column) => columnKey(column.name) === wanted);
    if (index >= 0) return index;
  }
  return -1;
}

interface ListRow {
  readonly cell: (kind: ListColumn) => string;
  readonly to: readonly Address[];
  readonly from: number | undefined;
  readonly until: number | undefined;
  readonly fields: Readonly<Record<string, string>>;
  readonly row: number;
}

/** One row as a recipient of each group it names. */
function recipientsOf(
  { cell, to, from, until, fields, row }: ListRow,
  place: string,
  findings: Finding[],
): Recipient[] {
  const groups = groupsIn(cell("group"));
  const who = cell("name") || cell("to");
  if (groups.length === 0) {
    findings.push({
      code: "recipient-without-group",
      severity: "warn",
      where: place,
      what: say().recipients.standsGroup({ who }),
      advice: say().recipients.fillGroupAll(),
    });
    return [];
  }
  if (to.length === 0) {
    findings.push({
      code: "recipient-without-address",
      severity: "warn",
      where: place,
      what: say().recipients.addressCanUsed({ cell: cell("name") || groups[0] }),
      advice: say().recipients.fillAddress(),
    });
    return [];
  }
  const role = ROLES[columnKey(cell("role"))];
  if (role === undefined) {
    findings.push({
      code: "bad-role",
      severity: "warn",
      where: place,
      what: say().recipients.roleLeftOut({ cell: cell("role"), who }),
      advice: say().recipients.writeCopyBlindCopy(),
    });
    return [];
  }
  const copies = readAddresses(cell("copies"), place, findings);
  const blindCopies = readAddresses(cell("blindCopies"), place, findings);
  const dataset = cell("dataset");
  const language = cell("language");
  return groups.map((group) => ({
    group,
    key: group === ALL_GROUPS ? ALL_GROUPS : groupKey(group),
    ...(dataset === "" || dataset === ALL_GROUPS ? {} : { dataset: columnKey(dataset) }),
    name: cell("name") || to[0].name || to[0].address,
    ...(role === "to" ? {} : { role }),
    to,
    copies,
    blindCopies,
    ...(language === "" ? {} : { language }),
    ...(from === undefined ? {} : { from }),
    ...(until === undefined ? {} : { until }),
    ...(isYes(cell("neverSend")) ? { neverSend: true } : {}),
    fields,
    row,
  }));
}

/** Several groups in one cell are parted by semicolons or line ends. */
function groupsIn(cell: string): string[] {
  const groups = cell.split(/[;\r\n]+/).map((one) => one.trim());
  return [...new Set(groups.filter((one) => one !== "").map((one) => (/^(?:\*|all)$/i.test(one) ? ALL_GROUPS : one)))];
}

function isYes(text: string): boolean {
  return /^(?:yes|y|x|true|1|never|ja|oui|sì|si)$/i.test(text);
}

function dayOf(value: unknown, place: string, findings: Finding[]): number | undefined {
  if (value === null || value === undefined || value === "") return undefined;
  const day = typeof value === "number" ? Math.floor(value) : maybeSerialFromIso(String(value).trim());
  if (day !== undefined && Number.isFinite(day)) return day;
  findings.push({
    code: "bad-date",
    severity: "warn",
    where: place,
    what: say().recipients.dateRowCountsActive({ value: String(value) }),
    advice: say().recipients.write(),
  });
  return undefined;
}
