import type { Finding } from "../common/index.js";
import { say } from "../words/index.js";
import type { RawSheet } from "./formats/raw-sheet.js";

export type LeftOutReason =
  | "title"
  | "header"
  | "total"
  | "blank"
  | "note"
  | "repeated header"
  | "outside"
  | "other table";

/** Lines of the file with content that are no rows, by reason. */
export interface LeftOutLines {
  readonly reason: LeftOutReason;
  readonly count: number;
  /** The first of them. */
  readonly lines: readonly { readonly row: number; readonly text: string }[];
}

/** So many lines of each reason are listed; the count is of all. */
const LISTED_LINES = 20;

type ToldReason = "title" | "total" | "note" | "repeated header";

function whyNoRow(reason: ToldReason): string {
  const { table } = say();
  const why = {
    title: table.titlesNoData,
    total: table.totalLine,
    note: table.noteBelow,
    "repeated header": table.repeatsHeader,
  };
  return why[reason]();
}

/** Counts the lines of a sheet that are no rows, and keeps the first of each kind to be shown. */
export class LeftOut {
  private readonly found = new Map<LeftOutReason, { count: number; lines: { row: number; text: string }[] }>();

  constructor(private readonly sheet: RawSheet) {}

  add(row: number, reason: LeftOutReason): void {
    let known = this.found.get(reason);
    if (!known) {
      known = { count: 0, lines: [] };
      this.found.set(reason, known);
    }
    known.count++;
    if (known.lines.length < LISTED_LINES) known.lines.push({ row: this.sheet.rowNumbers[row], text: this.text(row) });
  }

  lines(): LeftOutLines[] {
    return [...this.found].map(([reason, found]) => ({ reason, ...found }));
  }

  /** A line as a reader recognises it. */
  text(row: number): string {
    return this.sheet
      .filled(row)
      .slice(0, 12)
      .map((column) => this.sheet.text(row, column))
      .join(" | ")
      .slice(0, 120);
  }

  findings(): Finding[] {
    return (["title", "total", "note", "repeated header"] as const satisfies ToldReason[]).flatMap(
      (reason): Finding[] => {
        const found = this.found.get(reason);
        if (!found) return [];
        const numbers = found.lines.slice(0, 5).map((line) => line.row);
        const place = say().table.rowsListed({
          count: found.count,
          only: numbers[0],
          listed: numbers.join(", "),
          rest: found.count > 5 ? ", …" : "",
        });
        return [
          {
            code: `${reason.replace(" ", "-")}-left-out`,
            severity: "note",
            where: this.sheet.where,
            what: say().table.linesLeftOut({
              place,
              why: whyNoRow(reason),
              text: found.lines[0].text,
              count: found.count,
              others: found.count - 1,
            }),
            advice: say().table.ifLineDataGiveKey({ reason }),
            count: found.count,
          },
        ];
      },
    );
  }
}

export function rowList(rows: readonly number[]): string {
  return say().common.listedRows({
    count: rows.length,
    numbers: `${rows.slice(0, 5).join(", ")}${rows.length > 5 ? ", …" : ""}`,
  });
}
