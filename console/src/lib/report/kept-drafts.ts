/** Texts of reports that are not saved yet, kept by the browser so that a closed page loses nothing. */
import { Definition } from "./definition.js";

const KEY = "corbix-report-";

export interface KeptDraft {
  text: string;
  /** The version it was begun from; 0 for a report that is not saved yet. */
  version: number;
}

/** @returns What is kept for a report; nothing if the browser's store holds something else there. */
export function keptDraft(name: string): KeptDraft | undefined {
  const stored = localStorage.getItem(KEY + name);
  if (stored === null) return;
  try {
    const { text, version } = (JSON.parse(stored) ?? {}) as Partial<KeptDraft>;
    return typeof text === "string" && typeof version === "number" ? { text, version } : undefined;
  } catch {
    return;
  }
}

export function keepDraft(name: string, kept: KeptDraft | undefined): void {
  if (kept === undefined) localStorage.removeItem(KEY + name);
  else localStorage.setItem(KEY + name, JSON.stringify(kept));
}

/** What was begun in this browser goes on under a report's new name: renaming made the next version, and changed nothing else. */
export function moveDraft(from: string, to: string): void {
  const kept = keptDraft(from);
  if (!kept || from === to) return;
  keepDraft(from, undefined);
  if (keptDraft(to) === undefined)
    keepDraft(to, { text: new Definition(kept.text).with(["report"], to).text, version: kept.version + 1 });
}

/** @returns Names of the reports for which something is kept, in the order of the alphabet. */
export function unsavedDrafts(): string[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(KEY))
    .map((key) => key.slice(KEY.length))
    .filter((name) => keptDraft(name) !== undefined)
    .sort();
}
