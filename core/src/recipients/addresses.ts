/** Mail addresses as people write them in a list, and what about them wants a look. */

import addressparser from "nodemailer/lib/addressparser";
import { toUnicode } from "nodemailer/lib/punycode";
import { editDistance, type Finding } from "../common/index.js";
import { say } from "../words/index.js";
import type { Recipient } from "./recipient.js";

export interface Address {
  readonly address: string;
  /** Name shown before the address. */
  readonly name?: string;
}

/** A domain as it goes over the wire (RFC 5891); blank for what is none. */
function domainToASCII(domain: string): string {
  try {
    return new URL(`http://${domain}`).hostname;
  } catch {
    return "";
  }
}

function domainToUnicode(domain: string): string {
  return toUnicode(domain);
}

/** Local part of RFC 5321 with the letters of RFC 6531: words with dots between, or anything in quotes. */
const ATOM = "[\\p{L}\\p{M}\\p{N}!#$%&'*+/=?^_`{|}~-]+";
const LOCAL = new RegExp(`^(?:${ATOM}(?:\\.${ATOM})*|"(?:[^"\\\\\\r\\n]|\\\\[^\\r\\n])*")$`, "u");
/** RFC 5321, 4.5.3.1. */
const LONGEST_LOCAL = 64;
const LONGEST = 254;

/** What is wrong with an address by the standards; nothing where it can be sent to. */
export function addressFault(address: string): string | undefined {
  const at = address.lastIndexOf("@");
  if (at < 1) return say().recipients.nameBefore();
  const local = address.slice(0, at);
  const domain = address.slice(at + 1);
  if (!LOCAL.test(local)) return say().recipients.nameMailbox({ local });
  if (Buffer.byteLength(local) > LONGEST_LOCAL)
    return say().recipients.nameLongerBytes({ longestLocal: LONGEST_LOCAL });
  if (domain === "") return say().recipients.domain();
  if (/^\[.*\]$/.test(domain)) return say().recipients.namesMachineDomain();
  const plain = domainToASCII(domain);
  if (plain === "" || /[\s_/?#:@\\]/.test(domain)) return say().recipients.noDomain({ domain });
  const labels = plain.split(".");
  if (labels.length < 2) return say().recipients.dot({ domain });
  if (labels.some((label) => label === "" || label.length > 63 || !/^[a-z0-9](?:[a-z0-9-]*[a-z0-9])?$/.test(label)))
    return say().recipients.noDomain({ domain });
  if (/^\d+$/.test(labels[labels.length - 1])) return say().recipients.endsNumber({ domain });
  return Buffer.byteLength(address) > LONGEST ? say().recipients.longerBytes({ longest: LONGEST }) : undefined;
}

/** Several addresses in one cell, parted by semicolon, comma or line end, with display names or without. */
export function readAddresses(cell: string, where: string, findings: Finding[]): Address[] {
  const addresses: Address[] = [];
  const bad = (written: string, why: string): void => {
    findings.push({
      code: "bad-address",
      severity: "warn",
      where,
      what: say().recipients.mailAddress({ written, why }),
      advice: say().recipients.correctWriteSeveralSemicolonBetween(),
    });
  };
  for (const line of cell.split(/[\r\n]+/)) {
    // What looks like a header's name would make a list of its own.
    if (/^[^"<]*:/.test(line)) {
      bad(line.trim(), say().recipients.holdsColon());
      continue;
    }
    for (const { address = "", name = "" } of addressparser(line, { flatten: true })) {
      const written = name === "" ? address : address === "" ? name : `${name} <${address}>`;
      const fault = /@/.test(name) ? say().recipients.twoAddressesStandTogether() : addressFault(address);
      if (written.trim() === "") continue;
      if (fault !== undefined) bad(written, fault);
      else if (!addresses.some((known) => sameAddress(known.address, address)))
        addresses.push(name === "" ? { address } : { address, name });
    }
  }
  return addresses;
}

/** Whether two addresses are one mailbox for all practical purposes: capitals and the way a domain is written do not count. */
export function sameAddress(a: string, b: string): boolean {
  return foldAddress(a) === foldAddress(b);
}

/** The bare address of a sender such as `Office <office@lifts.example>`. */
export function bareAddress(from: string): string {
  return (/<([^<>]+)>\s*$/.exec(from)?.[1] ?? from).trim();
}

export function foldAddress(address: string): string {
  const at = address.lastIndexOf("@");
  return `${address.slice(0, at).toLowerCase()}@${domainOf(address)}`;
}

/** The domain as it goes over the wire. */
export function domainOf(address: string): string {
  const domain = address.slice(address.lastIndexOf("@") + 1);
  return domainToASCII(domain) || domain.toLowerCase();
}

/** A name with its address as a mail header shows it. */
export function showAddress(address: Address): string {
  return address.name ? `${address.name} <${address.address}>` : address.address;
}

/** Characters and pairs that look like others, as what they look like. */
const ALIKE: readonly (readonly [RegExp, string])[] = [
  [/rn/g, "m"],
  [/vv/g, "w"],
  [/cl/g, "d"],
  [/[01l|іiıɩ]/g, "l"],
  [/[оοօ]/g, "o"],
  [/0/g, "o"],
  [/[аα]/g, "a"],
  [/[еε]/g, "e"],
  [/[сϲ]/g, "c"],
  [/[рρ]/g, "p"],
  [/[хχ]/g, "x"],
  [/[уγ]/g, "y"],
  [/5/g, "s"],
  [/[-_]/g, ""],
];

function looksLike(domain: string): string {
  return ALIKE.reduce(
    (text, [from, to]) => text.replace(from, to),
    // What carries accents looks like what does not.
    domainToUnicode(domain).normalize("NFD").replace(/\p{M}/gu, "").toLowerCase(),
  );
}

/** Shorter names differ by a letter from others without meaning anything. */
const SHORTEST_LIKENESS = 6;

/** Doubles and addresses that do not seem to belong where they stand. */
export function addressFindings(recipients: readonly Recipient[], where: string): Finding[] {
  return [
    ...doubles(recipients, where),
    ...mixedScripts(recipients, where),
    ...lookAlikes(recipients, where),
    ...strangers(recipients, where),
  ];
}

interface Use {
  readonly recipient: Recipient;
  readonly address: string;
}

function usesOf(recipients: readonly Recipient[]): Use[] {
  return recipients.flatMap((recipient) =>
    [...recipient.to, ...recipient.copies, ...recipient.blindCopies].map(({ address }) => ({ recipient, address })),
  );
}

/** The same address twice for one group would be one message; that it stands there twice is worth a look. */
function doubles(recipients: readonly Recipient[], where: string): Finding[] {
  const seen = new Map<string, Use>();
  return usesOf(recipients).flatMap((use): Finding[] => {
    const { recipient, address } = use;
    const key = `${recipient.dataset ?? ""}|${recipient.key}|${foldAddress(address)}`;
    const first = seen.get(key);
    if (!first) {
      seen.set(key, use);
      return [];
    }
    return [
      {
        code: "double-address",
        severity: "note",
        where: say().place.rowIn({ where, number: recipient.row }),
        what: say().recipients.standsRowAlready({ address, group: recipient.group, row: first.recipient.row }),
        advice: say().recipients.getsMessageAllSameStronger(),
      },
    ];
  });
}

function mixedScripts(recipients: readonly Recipient[], where: string): Finding[] {
  return usesOf(recipients).flatMap(({ recipient, address }): Finding[] => {
    const domain = domainToUnicode(domainOf(address));
    const isMixed = domain
      .split(".")
      .some((label) => /\p{Script=Latin}/u.test(label) && /[\p{Script=Cyrillic}\p{Script=Greek}]/u.test(label));
    return isMixed
      ? [
          {
            code: "mixed-domain",
            severity: "warn",
            where: say().place.rowIn({ where, number: recipient.row }),
            what: say().recipients.domainMixesLettersTwoAlphabets({ address }),
            advice: say().recipients.askOwnerTypeAnew(),
          },
        ]
      : [];
  });
}

/** Domains that look like one that is used more often. */
function lookAlikes(recipients: readonly Recipient[], where: string): Finding[] {
  const uses = usesOf(recipients);
  const counts = new Map<string, number>();
  for (const { address } of uses) counts.set(domainOf(address), (counts.get(domainOf(address)) ?? 0) + 1);
  const domains = [...counts].sort((a, b) => b[1] - a[1]);
  const models = new Map<string, string>();
  for (const [domain, count] of domains)
    for (const [other, often] of domains) {
      if (often <= count || models.has(domain)) continue;
      const [own, known] = [domain.replace(/\.[^.]+$/, ""), other.replace(/\.[^.]+$/, "")];
      const isAlike =
        looksLike(domain) === looksLike(other) ||
        (own.length >= SHORTEST_LIKENESS &&
          Math.abs(own.length - known.length) <= 1 &&
          editDistance(domain, other, 1) === 1) ||
        (own === known && domain !== other);
      if (isAlike) models.set(domain, other);
    }
  return uses.flatMap(({ recipient, address }): Finding[] => {
    const model = models.get(domainOf(address));
    return model === undefined
      ? []
      : [
          {
            code: "look-alike-domain",
            severity: "warn",
            where: say().place.rowIn({ where, number: recipient.row }),
            what: say().recipients.domainLooksLikeListUses({ address, model }),
            advice: say().recipients.seeWhetherSpelledRight(),
          },
        ];
  });
}

/** Among several people of one domain, one of another that the list has nowhere else. */
function strangers(recipients: readonly Recipient[], where: string): Finding[] {
  const uses = usesOf(recipients);
  const everywhere = new Map<string, Set<string>>();
  const groups = new Map<string, Use[]>();
  for (const use of uses) {
    const domain = domainOf(use.address);
    everywhere.set(domain, (everywhere.get(domain) ?? new Set()).add(use.recipient.key));
    groups.set(use.recipient.key, [...(groups.get(use.recipient.key) ?? []), use]);
  }
  return [...groups.values()].flatMap((own) => {
    const domains = new Map<string, Use[]>();
    for (const use of own) domains.set(domainOf(use.address), [...(domains.get(domainOf(use.address)) ?? []), use]);
    const [home] = [...domains].sort((a, b) => b[1].length - a[1].length);
    if (!home || home[1].length < 2) return [];
    return own
      .filter(({ address }) => domainOf(address) !== home[0] && everywhere.get(domainOf(address))?.size === 1)
      .map(
        ({ recipient, address }): Finding => ({
          code: "outside-domain",
          severity: "warn",
          where: say().place.rowIn({ where, number: recipient.row }),
          what: say().recipients.onlyDomainOthersWhoReceive({ address, group: recipient.group, home: home[0] }),
          advice: say().recipients.seeWhetherPersonMeantReceive(),
        }),
      );
  });
}
