/** Recipients as vCards (RFC 6350), and from them. */

import ICAL from "ical.js";
import type { Finding } from "../common/index.js";
import { groupKey, wordsOf } from "../common/index.js";
import { say } from "../words/index.js";
import { addressFindings, readAddresses } from "./addresses.js";
import type { RecipientList } from "./read-list.js";
import { ALL_GROUPS, type Recipient } from "./recipient.js";

type Property = readonly [string, Readonly<Record<string, string>>, string, ...unknown[]];
type Card = readonly [string, readonly Property[], readonly unknown[]];
/** Cards stand for the groups that their CATEGORIES name; a card without any stands for none, and is a finding. */
export function readCards(text: string, where: string): RecipientList {
  const findings: Finding[] = [];
  let cards: readonly Card[];
  try {
    const parsed: unknown = ICAL.parse(text.replace(/^\ufeff/, "").replace(/\r\n?|\n/g, "\r\n"));
    cards = (Array.isArray(parsed) && Array.isArray(parsed[0]) ? parsed : [parsed]) as readonly Card[];
  } catch (error) {
    return {
      recipients: [],
      findings: [
        {
          code: "bad-cards",
          severity: "stop",
          where,
          what: say().recipients.fileCannotReadVcards({ wordsOf: wordsOf(error) }),
          advice: say().recipients.exportPeopleAgainVcards(),
        },
      ],
    };
  }
  const recipients = cards.flatMap(([kind, properties], index): Recipient[] => {
    if (kind !== "vcard") return [];
    const place = say().recipients.card({ where, index: index + 1 });
    const values = (name: string): string[] =>
      properties
        .filter(([own]) => own === name)
        .flatMap(([, , , ...all]) => all.flat().map((one) => String(one).trim()))
        .filter((one) => one !== "");
    const name = values("fn")[0] ?? "";
    const to = readAddresses(values("email").join("; "), place, findings);
    const groups = values("categories").flatMap((one) => one.split(";"));
    const language = values("lang")[0];
    const fields = Object.fromEntries(
      (["title", "role", "org", "note"] as const).flatMap((field) => {
        const [value] = values(field);
        return value === undefined ? [] : [[CARD_FIELDS[field], value]];
      }),
    );
    if (to.length === 0 || groups.length === 0) {
      findings.push({
        code: to.length === 0 ? "recipient-without-address" : "recipient-without-group",
        severity: "warn",
        where: place,
        what: say().recipients.noAddressFor({ addresses: to.length, person: name, group: name || to[0].address }),
        advice: say().recipients.giveCardEmail({ toCount: to.length }),
      });
      return [];
    }
    return groups.map((group) => ({
      group: group.trim(),
      key: group.trim() === ALL_GROUPS ? ALL_GROUPS : groupKey(group),
      name: name || to[0].address,
      to,
      copies: [],
      blindCopies: [],
      ...(language === undefined ? {} : { language }),
      fields,
      row: index + 1,
    }));
  });
  return { recipients, findings: [...findings, ...addressFindings(recipients, where)] };
}

const CARD_FIELDS = { title: "Title", role: "Function", org: "Organisation", note: "Note" } as const;

/** One card a person; their groups are its categories. */
export function writeCards(recipients: readonly Recipient[]): string {
  const people = new Map<string, Recipient[]>();
  for (const one of recipients) {
    const key = JSON.stringify([one.name, one.to]);
    people.set(key, [...(people.get(key) ?? []), one]);
  }
  return [...people.values()]
    .map((entries) => {
      const [first] = entries;
      const properties: Property[] = [
        ["version", {}, "text", "4.0"],
        ["fn", {}, "text", first.name],
        ...first.to.map(({ address }): Property => ["email", {}, "text", address]),
        ["categories", {}, "text", ...entries.map((one) => one.group)],
        ...(first.language === undefined ? [] : [["lang", {}, "language-tag", first.language] satisfies Property]),
      ];
      return ICAL.stringify(["vcard", properties, []] as unknown as Parameters<typeof ICAL.stringify>[0]);
    })
    .join("\r\n")
    .concat("\r\n");
}
