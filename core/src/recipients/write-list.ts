/** The shared list as a table of texts, with the headings an import reads. */
import { isoFromSerial } from "../common/index.js";
import { showAddress } from "./addresses.js";
import type { Recipient } from "./recipient.js";

const ROLE_WORDS = { to: "", copy: "copy", blind: "blind copy" } as const;

/** A heading and a row for each recipient; columns that nobody fills are left out beyond the first four. */
export function listAsRows(recipients: readonly Recipient[]): { header: string[]; rows: string[][] } {
  const fields = [...new Set(recipients.flatMap((one) => Object.keys(one.fields)))];
  const day = (serial: number | undefined): string => (serial === undefined ? "" : isoFromSerial(serial));
  const columns: readonly (readonly [string, (one: Recipient) => string])[] = [
    ["Group", (one) => one.group],
    ["Name", (one) => one.name],
    ["Addresses", (one) => one.to.map(showQuoted).join("; ")],
    ["Copies", (one) => one.copies.map(showQuoted).join("; ")],
    ["Blind copies", (one) => one.blindCopies.map(showQuoted).join("; ")],
    ["Role", (one) => ROLE_WORDS[one.role ?? "to"]],
    ["Dataset", (one) => one.dataset ?? ""],
    ["Language", (one) => one.language ?? ""],
    ["Active from", (one) => day(one.from)],
    ["Active until", (one) => day(one.until)],
    ["Never send", (one) => (one.neverSend ? "yes" : "")],
    ...fields.map((field) => [field, (one: Recipient) => one.fields[field] ?? ""] as const),
  ];
  const kept = columns.filter(([, of], index) => index < 4 || recipients.some((one) => of(one) !== ""));
  return { header: kept.map(([name]) => name), rows: recipients.map((one) => kept.map(([, of]) => of(one))) };
}

/** A name that holds a separator stands in quotes. */
function showQuoted(address: Recipient["to"][number]): string {
  return address.name && /[;,"<>@()]/.test(address.name)
    ? `"${address.name.replace(/["\\]/g, "")}" <${address.address}>`
    : showAddress(address);
}
