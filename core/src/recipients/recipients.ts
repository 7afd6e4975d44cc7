import { cleanKey, cleanText, type Finding, foldName } from "../common/index.js";
import type { Group } from "../split/index.js";
import type { Table } from "../table/index.js";

export interface Address {
  readonly address: string;
  /** Name shown before the address. */
  readonly name?: string;
}

/** Who receives for a group. */
export interface Recipient {
  /** The group as written in the list. */
  readonly group: string;
  /** Cleaned key, matched with the group's. */
  readonly key: string;
  readonly name: string;
  readonly to: readonly Address[];
  readonly copies: readonly Address[];
  readonly blindCopies: readonly Address[];
  /** Further columns of the list, by their names. */
  readonly fields: Readonly<Record<string, string>>;
  /** Row in the list it came from. */
  readonly row: number;
}

export interface RecipientList {
  readonly recipients: readonly Recipient[];
  readonly findings: readonly Finding[];
}

const COLUMNS = {
  group: ["group", "site", "key", "client", "supplier", "branch", "department"],
  name: ["name", "recipient", "contact"],
  to: ["addresses", "address", "email", "e_mail", "mail", "to"],
  copies: ["copies", "copy", "cc"],
  blindCopies: ["blind_copies", "blind_copy", "bcc"],
} as const;

/** Reads the shared list from a table with a header: group, name, addresses, copies. Rows that cannot be used are findings. */
export function readRecipients(table: Table, where: string): RecipientList {
  const findings: Finding[] = [];
  const columnOf = (kind: keyof typeof COLUMNS): number => {
    for (const wanted of COLUMNS[kind]) {
      const index = table.columns.findIndex((column) => foldName(column.name) === wanted);
      if (index >= 0) return index;
    }
    return -1;
  };
  const at = {
    group: columnOf("group"),
    name: columnOf("name"),
    to: columnOf("to"),
    copies: columnOf("copies"),
    blindCopies: columnOf("blindCopies"),
  };
  for (const kind of ["group", "to"] as const) {
    if (at[kind] >= 0) continue;
    findings.push({
      code: "column-missing",
      severity: "stop",
      where,
      what: `The list has no column for the ${kind === "group" ? "group" : "addresses"}.`,
      advice: `Call it ${COLUMNS[kind].slice(0, 4).join(", ")} or the like.`,
    });
  }
  if (findings.length > 0) return { recipients: [], findings };
  const used = new Set<number>(Object.values(at));
  const recipients: Recipient[] = [];
  for (let row = 0; row < table.rowCount; row++) {
    const cell = (index: number): string =>
      index < 0 ? "" : cleanText(String(table.columns[index].values[row] ?? ""));
    const place = `${where}, row ${table.rowNumbers[row]}`;
    const group = cell(at.group);
    if (group === "") {
      findings.push({
        code: "recipient-without-group",
        severity: "warn",
        where: place,
        what: `"${cell(at.name) || cell(at.to)}" stands for no group.`,
        advice: "Fill in the group.",
      });
      continue;
    }
    const to = readAddresses(cell(at.to), place, findings);
    if (to.length === 0) {
      findings.push({
        code: "recipient-without-address",
        severity: "warn",
        where: place,
        what: `"${cell(at.name) || group}" has no address that can be used.`,
        advice: "Fill in an address.",
      });
      continue;
    }
    const extra = table.columns.flatMap((column, index) =>
      used.has(index) ? [] : [[column.name, cell(index)] as const],
    );
    recipients.push({
      group,
      key: cleanKey(group),
      name: cell(at.name) || to[0].name || to[0].address,
      to,
      copies: readAddresses(cell(at.copies), place, findings),
      blindCopies: readAddresses(cell(at.blindCopies), place, findings),
      fields: Object.fromEntries(extra),
      row: table.rowNumbers[row],
    });
  }
  return { recipients, findings };
}

/** One address of RFC 5321 as far as a list can be judged: no blanks, one sign, a domain with a dot or localhost. */
const ADDRESS =
  /^[^\s@<>()[\]\\,;:"]{1,64}@(?:[\p{L}\p{N}](?:[\p{L}\p{N}-]{0,61}[\p{L}\p{N}])?\.)+[\p{L}\p{N}-]{2,63}$/u;

/** Several addresses in one cell, separated by semicolon, comma or line end, with display names or without. */
function readAddresses(cell: string, where: string, findings: Finding[]): Address[] {
  const addresses: Address[] = [];
  for (const part of cell.match(/(?:"[^"]*"|[^;,\n"])+/g) ?? []) {
    const text = part.trim();
    if (text === "") continue;
    const named = /^(?:"([^"]*)"|([^<]*?))\s*<([^<>]*)>$/.exec(text);
    const address = (named ? named[3] : text).trim();
    const name = (named?.[1] ?? named?.[2] ?? "").trim();
    if (!ADDRESS.test(address)) {
      findings.push({
        code: "bad-address",
        severity: "warn",
        where,
        what: `"${text}" is no mail address.`,
        advice: "Correct it; write several with a semicolon between them.",
      });
      continue;
    }
    if (addresses.some((known) => known.address.toLowerCase() === address.toLowerCase())) continue;
    addresses.push(name === "" ? { address } : { address, name });
  }
  return addresses;
}

export interface Matching {
  /** The recipients of each group, by its key. */
  readonly byGroup: ReadonlyMap<string, readonly Recipient[]>;
  readonly findings: readonly Finding[];
}

/** Finds each group's people by cleaned key. Groups without people stop nothing: they are left out, and named. */
export function matchRecipients(groups: readonly Group[], recipients: readonly Recipient[]): Matching {
  const byGroup = new Map<string, Recipient[]>();
  const keys = new Set(groups.map((group) => group.key));
  const findings: Finding[] = [];
  for (const recipient of recipients) {
    if (!keys.has(recipient.key)) {
      findings.push({
        code: "recipient-without-rows",
        severity: "note",
        where: `recipient list, row ${recipient.row}`,
        what: `"${recipient.name}" receives for "${recipient.group}", which has no rows this time.`,
        advice: "Nothing is sent. If there should be rows, look at the spelling.",
      });
      continue;
    }
    byGroup.set(recipient.key, [...(byGroup.get(recipient.key) ?? []), recipient]);
  }
  for (const group of groups) {
    if (byGroup.has(group.key)) continue;
    findings.push({
      code: "group-without-recipient",
      severity: "warn",
      where: `group ${group.label}`,
      what: `Nobody receives for "${group.label}" (${group.rows.length} ${group.rows.length === 1 ? "row" : "rows"}): its files are made, but nothing is sent.`,
      advice: "Add a recipient for it to the list, then plan again.",
    });
  }
  return { byGroup, findings };
}

/** A name with its address as a mail header shows it. */
export function showAddress(address: Address): string {
  return address.name ? `${address.name} <${address.address}>` : address.address;
}
