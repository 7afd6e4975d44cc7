/** In which language the service speaks: to whom it answers in theirs, in what it keeps in that of the settings. */
import { AsyncLocalStorage } from "node:async_hooks";
import { readdir } from "node:fs/promises";
import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { CorbixError, wordsOf } from "@corbix/core/common";
import { english, say, speak, type Translation, translated, type Words } from "@corbix/core/words";

/** Where the words lie: a further language is one more file here, called by its tag (BCP 47), such as `de.js`. */
const FOLDER = new URL(".", import.meta.resolve("@corbix/core/words"));
const FILE = /^([a-z]{2,3}(?:-[A-Z]{2})?)\.m?js$/;

const asked = new AsyncLocalStorage<string>();
let known: ReadonlyMap<string, Words> = new Map([["en", english]]);
let home = "en";
let further: string | undefined;

/**
 * Reads the words of all languages there are, those of a further `folder` too, and speaks `language` from then on.
 * Throws `BAD_SETTING` if there are no words in it, or a file of the folder cannot be read.
 */
export async function openLanguages(language: string, folder?: string): Promise<void> {
  const found = new Map([["en", english]]);
  const own = folder === undefined ? [] : [pathToFileURL(`${resolve(folder)}/`)];
  for (const place of [FOLDER, ...own])
    for (const [tag, words] of await wordsFrom(place)) found.set(tag, translated(words));
  if (!found.has(language))
    throw new CorbixError("BAD_SETTING", say().serviceProcess.cannotSpeak({ language }), {
      where: "CORBIX_LANGUAGE",
      advice: say().serviceProcess.languagesThereAre({ languages: [...found.keys()].join(", ") }),
    });
  known = found;
  home = language;
  further = folder;
  speak(() => wordsIn(languageNow()));
}

async function wordsFrom(folder: URL): Promise<[string, Translation][]> {
  const read: [string, Translation][] = [];
  try {
    for (const name of await readdir(folder)) {
      const tag = FILE.exec(name)?.[1];
      if (tag === undefined) continue;
      const { words } = (await import(new URL(name, folder).href)) as { words?: Translation };
      if (words === undefined) throw new TypeError(say().serviceProcess.exportsNoWords({ file: name }));
      read.push([tag, words]);
    }
  } catch (cause) {
    throw new CorbixError("BAD_SETTING", say().serviceProcess.cannotReadWords({ why: wordsOf(cause) }), {
      where: "CORBIX_WORDS",
      advice: say().serviceProcess.writeWordsSo(),
      cause,
    });
  }
  return read;
}

/** The further folder of words, for threads, which have to read it too. */
export const furtherWords = (): string | undefined => further;

/** The languages there are words of, that of the settings first. */
export const languages = (): [string, ...string[]] => [home, ...[...known.keys()].filter((one) => one !== home)];

/** The language that is spoken now. */
export const languageNow = (): string => asked.getStore() ?? home;

/** Does something, all that it waits for included, in a language. */
export const speaking = <T>(language: string, work: () => T): T => asked.run(language, work);

const wordsIn = (language: string): Words => known.get(language) ?? english;
