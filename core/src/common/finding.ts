/** `stop` keeps a run from being released, `warn` wants a look, `note` is for the record. */
import { say } from "../words/index.js";

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

/** Findings of one kind told as one: the first of them, and how many there are. */
export interface SummedFinding extends Finding {
  readonly times: number;
}

/** So many findings of one kind are told one by one. */
const TOLD_APART = 5;

/**
 * Findings fit to be read: of those that say the same of many places the first stands for all, what stops first. Nothing is left out
 * of the counts.
 */
export function sumUpFindings(findings: readonly Finding[]): SummedFinding[] {
  const kinds = new Map<string, Finding[]>();
  for (const finding of sortFindings(findings)) {
    const kind = `${finding.severity} ${finding.code}`;
    const known = kinds.get(kind);
    if (known) known.push(finding);
    else kinds.set(kind, [finding]);
  }
  return [...kinds.values()].flatMap((own): SummedFinding[] => {
    if (own.length <= TOLD_APART) return own.map((finding) => ({ ...finding, times: 1 }));
    const { count: _, ...first } = own[0];
    return [
      { ...first, what: say().common.moreLike({ what: first.what, ownCount: own.length - 1 }), times: own.length },
    ];
  });
}
