/** What an import changes in the shared list, before it does, and two lists of its history against each other. */
import { foldAddress } from "./addresses.js";
import type { Recipient } from "./recipient.js";

export interface ListChange {
  readonly kind: "added" | "changed" | "removed";
  readonly group: string;
  readonly name: string;
  readonly before?: Recipient;
  readonly after?: Recipient;
  /** What is different, in words: `name`, `addresses`, … */
  readonly fields: readonly string[];
}

/** `replace`: the file is the whole list. `merge`: who is not in the file stays as they are. */
export type MergeMode = "replace" | "merge";

export interface MergedList {
  readonly recipients: readonly Recipient[];
  readonly changes: readonly ListChange[];
  readonly unchanged: number;
}

/** The list after an import. Who is meant by a row is told by group, dataset and name, or else by group and address. */
export function mergeRecipients(before: readonly Recipient[], file: readonly Recipient[], mode: MergeMode): MergedList {
  const left = new Set(before);
  const changes: ListChange[] = [];
  let unchanged = 0;
  const partners = new Map<Recipient, Recipient>();
  for (const same of [sameName, sharesAddress])
    for (const one of file) {
      if (partners.has(one)) continue;
      const partner = [...left].find(
        (candidate) => candidate.key === one.key && candidate.dataset === one.dataset && same(candidate, one),
      );
      if (!partner) continue;
      partners.set(one, partner);
      left.delete(partner);
    }
  for (const one of file) {
    const partner = partners.get(one);
    if (!partner) changes.push({ kind: "added", group: one.group, name: one.name, after: one, fields: [] });
    else {
      const fields = differences(partner, one);
      if (fields.length === 0) unchanged++;
      else changes.push({ kind: "changed", group: one.group, name: one.name, before: partner, after: one, fields });
    }
  }
  if (mode === "replace")
    for (const one of left)
      changes.push({ kind: "removed", group: one.group, name: one.name, before: one, fields: [] });
  const replaced = new Map([...partners].map(([one, partner]) => [partner, one]));
  const merged =
    mode === "replace"
      ? [...file]
      : [...before.map((one) => replaced.get(one) ?? one), ...file.filter((one) => !partners.has(one))];
  return { recipients: numbered(merged), changes, unchanged: unchanged + (mode === "merge" ? left.size : 0) };
}

/** Rows are counted anew, as an export would number them: below a heading in row 1, one row for all groups a line named. */
function numbered(recipients: readonly Recipient[]): Recipient[] {
  return recipients.map((one, index) => ({ ...one, row: index + 2 }));
}

function sameName(a: Recipient, b: Recipient): boolean {
  return a.name.trim().toLowerCase() === b.name.trim().toLowerCase();
}

function sharesAddress(a: Recipient, b: Recipient): boolean {
  const own = a.to.map(({ address }) => foldAddress(address));
  return b.to.some(({ address }) => own.includes(foldAddress(address)));
}

function differences(a: Recipient, b: Recipient): string[] {
  const compared: Record<string, (one: Recipient) => unknown> = {
    group: (one) => one.group,
    name: (one) => one.name,
    addresses: (one) => one.to,
    copies: (one) => one.copies,
    "blind copies": (one) => one.blindCopies,
    role: (one) => one.role ?? "to",
    language: (one) => one.language ?? "",
    "active from": (one) => one.from ?? "",
    "active until": (one) => one.until ?? "",
    "never send": (one) => one.neverSend ?? false,
  };
  const found = Object.entries(compared)
    .filter(([, of]) => JSON.stringify(of(a)) !== JSON.stringify(of(b)))
    .map(([name]) => name);
  const names = new Set([...Object.keys(a.fields), ...Object.keys(b.fields)]);
  return [...found, ...[...names].filter((name) => (a.fields[name] ?? "") !== (b.fields[name] ?? ""))];
}
