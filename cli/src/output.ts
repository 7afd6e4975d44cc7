import { CorbixError, type Finding, wordsOf } from "@corbix/core/common";
import { SingleBar } from "cli-progress";
import Table from "cli-table3";

/** Where a command writes: sentences for people, or one JSON value for scripts. */
export interface Output {
  readonly json: boolean;
  readonly line: (text?: string) => void;
  /** The one value of `--json`. */
  readonly value: (value: unknown) => void;
  readonly progress: (
    label: string,
    total: number,
  ) => { readonly step: (done: number) => void; readonly stop: () => void };
}

export function makeOutput(json: boolean): Output {
  return {
    json,
    line: (text = "") => {
      if (!json) process.stdout.write(`${text}\n`);
    },
    value: (value) => {
      if (json) process.stdout.write(`${JSON.stringify(value, null, 2)}\n`);
    },
    progress: (label, total) => {
      if (json || !process.stderr.isTTY || total < 2) return { step: () => {}, stop: () => {} };
      const bar = new SingleBar({
        format: `${label.padEnd(8)}{bar} {value} of {total}`,
        hideCursor: true,
        clearOnComplete: true,
        barsize: 30,
      });
      bar.start(total, 0);
      return { step: (done) => bar.update(done), stop: () => bar.stop() };
    },
  };
}

/** Rows under headings, numbers to the right. */
export function tableText(headings: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const isAmount = (cell: string | number): boolean => typeof cell === "number" || /^\s*-?[\d,]+(\.\d+)?$/.test(cell);
  const right = headings.map((_, column) => rows.length > 0 && rows.every((row) => isAmount(row[column] ?? "")));
  const blank = {
    top: "",
    "top-mid": "",
    "top-left": "",
    "top-right": "",
    bottom: "",
    "bottom-mid": "",
    "bottom-left": "",
    "bottom-right": "",
    left: "",
    "left-mid": "",
    mid: "",
    "mid-mid": "",
    right: "",
    "right-mid": "",
    middle: "  ",
  };
  const table = new Table({
    head: [...headings],
    chars: blank,
    colAligns: right.map((isRight) => (isRight ? "right" : "left")),
    style: { head: process.stdout.isTTY ? ["bold"] : [], border: [], "padding-left": 0, "padding-right": 0 },
  });
  for (const row of rows) table.push(row.map((cell) => (typeof cell === "number" ? cell.toLocaleString("en") : cell)));
  return table
    .toString()
    .split("\n")
    .map((line) => line.trimEnd())
    .join("\n");
}

/** A long text would push what follows it out of the window; --json has it whole. */
export function short(text: string, length = 40): string {
  return text.length > length ? `${text.slice(0, length - 1)}…` : text;
}

/** A moment as tables show it: UTC, to the minute. */
export function minute(iso: string): string {
  return iso.slice(0, 16).replace("T", " ");
}

/** Findings one below the other, what stops first. */
export function findingLines(findings: readonly Finding[]): string[] {
  return findings.flatMap((finding) => [
    `${finding.severity.padEnd(5)} ${finding.where}`,
    `      ${finding.what}`,
    ...(finding.advice === "Nothing to do." ? [] : [`      ${finding.advice}`]),
  ]);
}

/** Writes what went wrong and gives the exit code. */
export function reportError(error: unknown, json: boolean): number {
  const known = error instanceof CorbixError ? error : undefined;
  if (json)
    process.stderr.write(
      `${JSON.stringify({ error: { code: known?.code ?? "FAILED", message: wordsOf(error), where: known?.where, advice: known?.advice } })}\n`,
    );
  else if (known) {
    process.stderr.write(
      `${known.where ? `${known.where}:\n  ` : ""}${known.message}\n${known.advice ? `  ${known.advice}\n` : ""}`,
    );
  } else process.stderr.write(`${wordsOf(error) ?? String(error)}\n`);
  return known?.exitCode ?? 1;
}
