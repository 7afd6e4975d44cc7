/** Which messages a group's people get: one for all, one for each language, or one for each person. */
import { foldAddress, type Recipient } from "../recipients/index.js";

export interface MessagePart {
  /** Tells the messages of a group apart; blank where there is one. */
  readonly part: string;
  /** The language whose texts it is written in; nothing for the report's own. */
  readonly language?: string;
  readonly recipients: readonly Recipient[];
}

/** People who get copies only are named in the first message, and once. */
export function messageParts(
  recipients: readonly Recipient[],
  how: { readonly each: "group" | "person"; readonly languages: readonly string[] },
): MessagePart[] {
  const readers = recipients.filter((one) => (one.role ?? "to") === "to");
  const others = recipients.filter((one) => (one.role ?? "to") !== "to");
  if (readers.length === 0) return [];
  const parts = how.each === "person" ? byPerson(readers, how.languages) : byLanguage(readers, how.languages);
  return parts.map((one, index) => (index === 0 ? { ...one, recipients: [...one.recipients, ...others] } : one));
}

function byLanguage(readers: readonly Recipient[], languages: readonly string[]): MessagePart[] {
  const groups = new Map<string, Recipient[]>();
  // An address that stands for two readers gets one message, in the language of the first.
  const seen = new Map<string, string>();
  for (const one of readers) {
    const language = languageFor(one.language, languages) ?? "";
    const to = one.to.filter(({ address }) => (seen.get(foldAddress(address)) ?? language) === language);
    for (const { address } of to) seen.set(foldAddress(address), language);
    if (to.length === 0) continue;
    groups.set(language, [...(groups.get(language) ?? []), { ...one, to }]);
  }
  return [...groups].map(([language, own]) => ({
    part: language,
    ...(language === "" ? {} : { language }),
    recipients: own,
  }));
}

function byPerson(readers: readonly Recipient[], languages: readonly string[]): MessagePart[] {
  const seen = new Set<string>();
  return readers.flatMap((one) => {
    const language = languageFor(one.language, languages);
    return one.to.flatMap((address, index): MessagePart[] => {
      const part = foldAddress(address.address);
      if (seen.has(part)) return [];
      seen.add(part);
      // Copies go with the first of a person's addresses.
      const own = { ...one, to: [address], ...(index === 0 ? {} : { copies: [], blindCopies: [] }) };
      return [{ part, ...(language === undefined ? {} : { language }), recipients: [own] }];
    });
  });
}

/** The texts for a language tag: its own, or those of the language without its region. */
export function languageFor(tag: string | undefined, languages: readonly string[]): string | undefined {
  if (tag === undefined) return undefined;
  const folded = tag.toLowerCase();
  return (
    languages.find((one) => one.toLowerCase() === folded) ??
    languages.find((one) => one.toLowerCase() === folded.split("-")[0])
  );
}
