import type { Finding } from "../../common/index.js";
import { say } from "../../words/index.js";
import { Kind, type RawSheet, showRaw } from "../formats/raw-sheet.js";
import { rowList } from "../left-out.js";
import type { Cell, ColumnType } from "../table.js";
import type { Judged } from "./classify-text.js";
import type { DayMonthOrder } from "./read-date.js";

/** Cells of a column that stand in the edition otherwise than in the file. */
export interface ChangedCells {
  readonly column: string;
  /** `blanks` folded, `read-as` the column's type, `unreadable`, `ambiguous` or an `error` value: the last three are blank now. */
  readonly kind: "blanks" | "read-as" | "unreadable" | "ambiguous" | "error";
  /** Row numbers in the origin. */
  readonly rows: readonly number[];
  /** The cells as they stood. */
  readonly raw: readonly string[];
}

type ChangeKind = ChangedCells["kind"];

/** Reads the cells of one column as its type, and remembers each that stood otherwise. */
export class CellReader {
  private readonly found = new Map<ChangeKind, { rows: number[]; raw: string[] }>();
  private zones = 0;

  constructor(
    private readonly name: string,
    private readonly type: ColumnType,
    private readonly signs: { readonly order: DayMonthOrder | undefined; readonly decimal: "point" | "comma" },
    private readonly sheet: RawSheet,
    private readonly judge: (index: number) => Judged,
  ) {}

  read(kind: number, number: number, row: number): Cell {
    if (kind === Kind.error) return this.change("error", row, this.sheet.strings[number]);
    if (kind === Kind.text) return this.readText(number, row);
    return this.type === "text" ? showRaw(kind, number, this.sheet.strings) : this.readTyped(kind, number, row);
  }

  private readText(index: number, row: number): Cell {
    const raw = this.sheet.strings[index];
    const judged = this.judge(index);
    if (this.type === "text") {
      if (judged.clean !== raw) this.change("blanks", row, raw);
      return judged.clean === "" ? null : judged.clean;
    }
    if (judged.clean === "") return null;
    const value = this.valueOf(judged);
    if (value === undefined) return this.change("unreadable", row, raw);
    if (value === "ambiguous") return this.change("ambiguous", row, raw);
    if (judged.date?.hasZone) this.zones++;
    if (this.sheet.isTyped || judged.clean !== raw) this.change(this.sheet.isTyped ? "read-as" : "blanks", row, raw);
    return value;
  }

  private valueOf(judged: Judged): Cell | "ambiguous" | undefined {
    switch (this.type) {
      case "number":
        return judged.isCode
          ? Number(judged.clean)
          : judged.number && (this.signs.decimal === "comma" ? judged.number.comma : judged.number.point);
      case "boolean":
        return judged.truth;
      case "time":
        return judged.time ?? (judged.date?.hasTime ? judged.date.dayFirst % 1 : undefined);
      default: {
        const { date } = judged;
        if (!date) return undefined;
        if (date.order === "either" && this.signs.order === undefined) return "ambiguous";
        const serial = this.signs.order === "month-first" ? date.monthFirst : date.dayFirst;
        return this.type === "date" ? Math.floor(serial) : serial;
      }
    }
  }

  private readTyped(kind: number, number: number, row: number): Cell {
    const shown = (): string => showRaw(kind, number, this.sheet.strings);
    const isNumber = kind === Kind.number || kind >= Kind.percent;
    switch (this.type) {
      case "number":
        if (kind === Kind.plain + 3 && this.signs.decimal === "comma" && Math.abs(number) >= 1)
          return Math.round(number * 1000);
        if (isNumber) return number;
        if (kind === Kind.true || kind === Kind.false) return this.change("unreadable", row, shown());
        this.change("read-as", row, shown());
        return number;
      case "boolean":
        if (kind === Kind.true || kind === Kind.false) return kind === Kind.true;
        if (isNumber && (number === 0 || number === 1)) {
          this.change("read-as", row, shown());
          return number === 1;
        }
        return this.change("unreadable", row, shown());
      case "time":
        if (kind === Kind.time) return number;
        return kind === Kind.datetime ? number % 1 : this.change("unreadable", row, shown());
      default:
        return this.readSerial(kind, number, row, shown);
    }
  }

  private readSerial(kind: number, number: number, row: number, shown: () => string): Cell {
    if (kind === Kind.date || kind === Kind.datetime) return this.type === "date" ? Math.floor(number) : number;
    // A bare number in a column of dates is a serial whose format was lost, as long as it lies in our times.
    if (kind !== Kind.number || number < 20_000 || number > 80_000) return this.change("unreadable", row, shown());
    this.change("read-as", row, shown());
    return this.type === "date" ? Math.floor(number) : number;
  }

  private change(kind: ChangeKind, row: number, raw: string): null {
    const known = this.found.get(kind);
    if (known) {
      known.rows.push(row);
      known.raw.push(raw);
    } else this.found.set(kind, { rows: [row], raw: [raw] });
    return null;
  }

  count(kind: ChangeKind): number {
    return this.found.get(kind)?.rows.length ?? 0;
  }

  rowsOf(kind: ChangeKind): readonly number[] {
    return this.found.get(kind)?.rows.slice(0, 20) ?? [];
  }

  changes(): ChangedCells[] {
    return [...this.found].map(([kind, { rows, raw }]) => ({ column: this.name, kind, rows, raw }));
  }

  findings(where: string): Finding[] {
    const found: Finding[] = [];
    const add = (
      kind: ChangeKind,
      code: string,
      severity: Finding["severity"],
      what: (count: string, isOne: boolean, list: string, raw: string) => string,
      advice: string,
    ): void => {
      const changed = this.found.get(kind);
      if (!changed) return;
      const { rows, raw } = changed;
      const amount = `${rows.length.toLocaleString("en")} ${rows.length === 1 ? "cell" : "cells"}`;
      found.push({
        code,
        severity,
        where,
        what: what(amount, rows.length === 1, rowList(rows), raw[0]),
        advice,
        count: rows.length,
        cells: { column: this.name, rows: rows.slice(0, 20) },
      });
    };
    add(
      "blanks",
      "blanks-folded",
      "note",
      (count, isOne, list) => say().table.blanksEndsDoubledInsideThey({ count, isOne, list }),
      say().table.nothingDo(),
    );
    add(
      "read-as",
      "read-as-type",
      "note",
      (count, isOne, list, raw) => say().table.storedSuchRead({ count, isOne, article: article(this.type), raw, list }),
      say().table.nothingDo(),
    );
    add(
      "unreadable",
      "unreadable-cell",
      "warn",
      (count, isOne, list, raw) =>
        say().table.cannotReadSuchTakenBlank({ count, article: article(this.type), raw, isOne, list }),
      say().table.correctSourceLoadAgain(),
    );
    add(
      "error",
      "error-value",
      "warn",
      (count, isOne, list, raw) => say().table.errorValueSuchTakenBlank({ count, isOne, raw, list }),
      say().table.correctFormulaSourceLoadAgain(),
    );
    if (this.zones > 0) {
      found.push({
        code: "zone-dropped",
        severity: "note",
        where,
        what: say().table.timesNameZoneOffsetThey({ zones: this.zones }),
        advice: say().table.ifTheyLocalTimesLet(),
        count: this.zones,
      });
    }
    return found;
  }
}

function article(type: ColumnType): string {
  return say().table.dateTime({ type });
}
