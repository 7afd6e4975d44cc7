/** Texts of reports that are not saved yet, kept by the browser so that a closed page loses nothing. */
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

/** @returns Names of the reports for which something is kept, in the order of the alphabet. */
export function unsavedDrafts(): string[] {
  return Object.keys(localStorage)
    .filter((key) => key.startsWith(KEY))
    .map((key) => key.slice(KEY.length))
    .filter((name) => keptDraft(name) !== undefined)
    .sort();
}
