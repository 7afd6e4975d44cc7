/** Lines of the journal that name somebody, and how they come to name nobody. */
import { join } from "node:path";
import { type JournalEntry, readJournal, starredLine } from "@corbix/core/delivery";
import type { Context } from "../process/context.js";
import { JOURNAL_FOLDER, journalFiles, readJournalFile, rewriteLines } from "./journal.js";

export interface NamingFile {
  readonly name: string;
  readonly entries: readonly JournalEntry[];
  /** Puts stars in place of what names them; each line stays as long as it was, so that its process can go on writing behind it. */
  readonly star: () => Promise<void>;
}

export async function* journalNaming(
  { settings }: Pick<Context, "settings">,
  isNamed: (text: string) => boolean,
): AsyncGenerator<NamingFile> {
  const folder = join(settings.data, JOURNAL_FOLDER);
  for (const name of await journalFiles(folder)) {
    const named: { readonly entry: JournalEntry; readonly start: number; readonly text: string }[] = [];
    for (const { entry, start } of readJournal(await readJournalFile(folder, name))) {
      const text = entry && starredLine(entry, isNamed);
      if (entry && text !== undefined) named.push({ entry, start, text });
    }
    if (named.length > 0)
      yield { name, entries: named.map(({ entry }) => entry), star: () => rewriteLines(folder, name, named) };
  }
}
