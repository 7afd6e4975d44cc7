/** Texts of reports that are not saved yet, kept by the browser so that a closed page loses nothing. */
const KEY = "corbix-report-";

export function keptDraft(name: string): string | undefined {
  return localStorage.getItem(KEY + name) ?? undefined;
}

export function keepDraft(name: string, text: string | undefined): void {
  if (text === undefined) localStorage.removeItem(KEY + name);
  else localStorage.setItem(KEY + name, text);
}
