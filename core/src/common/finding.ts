/** `stop` keeps a run from being released, `warn` wants a look, `note` is for the record. */
export type Severity = "stop" | "warn" | "note";

/** A named thing somebody should look at. Collected, never thrown. */
export interface Finding {
  readonly code: string;
  readonly severity: Severity;
  /** The place: a file, sheet and cell, a column, a group. */
  readonly where: string;
  /** What is the case, as a sentence with its facts. */
  readonly what: string;
  /** What to do about it. */
  readonly advice: string;
  /** How many cells, rows or groups it concerns. */
  readonly count?: number;
  /** Where to look in the table: a column, and the first of the rows by their number in the origin. */
  readonly cells?: { readonly column?: string; readonly rows: readonly number[] };
}

const ORDER: Record<Severity, number> = { stop: 0, warn: 1, note: 2 };

/** Findings with what stops first, otherwise in the order they were found. */
export function sortFindings(findings: readonly Finding[]): Finding[] {
  return [...findings].sort((a, b) => ORDER[a.severity] - ORDER[b.severity]);
}

export function hasStop(findings: readonly Finding[]): boolean {
  return findings.some((finding) => finding.severity === "stop");
}
