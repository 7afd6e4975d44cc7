import type { Finding } from "../../common/index.js";
import { say } from "../../words/index.js";
import type { Decision } from "../decision.js";
import { Kind, type RawColumn, type RawSheet } from "../formats/raw-sheet.js";
import type { ColumnRule } from "../rules.js";
import type { Cell, Column, ColumnType } from "../table.js";
import { CellReader, type ChangedCells } from "./cell-reader.js";
import { classifyText, type Judged } from "./classify-text.js";
import type { DayMonthOrder } from "./read-date.js";

/** A column keeps a type when at least so many of its filled cells have it; the rest is listed. */
const MAJORITY = 0.9;

/** What the texts of a file agree on; decides for columns whose own texts do not tell. */
export interface FileHabits {
  readonly order: DayMonthOrder | undefined;
  readonly orderFrom: string;
  readonly decimal: "point" | "comma" | undefined;
  readonly decimalFrom: string;
}

export interface TypedColumn {
  readonly column: Column;
  readonly changes: readonly ChangedCells[];
  readonly decision: Decision;
  readonly findings: readonly Finding[];
}

/** One column of a sheet: what its cells could be is counted first, then its type decided, then each cell read. */
export class ColumnTyper {
  private readonly counts: Record<ColumnType, number> = {
    text: 0,
    number: 0,
    date: 0,
    datetime: 0,
    time: 0,
    boolean: 0,
  };
  private filled = 0;
  private codes = 0;
  private fractions = 0;
  private percents = 0;
  private readonly currencies = new Map<string, number>();
  private readonly judged: (Judged | undefined)[];
  private readonly rule: ColumnRule | undefined;
  private orders = { dayFirst: 0, monthFirst: 0, either: 0 };
  private signs = { point: 0, comma: 0, either: 0 };
  private sample: string | undefined;

  constructor(
    private readonly name: string,
    private readonly raw: RawColumn,
    private readonly rows: Uint32Array,
    private readonly sheet: RawSheet,
    {
      judged,
      rule,
      currencies,
    }: {
      /** Texts of the sheet as far as they were looked at, for all its columns. */
      readonly judged: (Judged | undefined)[];
      readonly rule: ColumnRule | undefined;
      readonly currencies: ReadonlyMap<string, number> | undefined;
    },
  ) {
    this.judged = judged;
    this.rule = rule;
    for (const [currency, count] of currencies ?? []) this.currencies.set(currency, count);
    this.look();
  }

  /** The order of day and month its own texts show for sure. */
  get ownOrder(): DayMonthOrder | undefined {
    const { dayFirst, monthFirst } = this.orders;
    if (dayFirst > 0 && monthFirst === 0) return "day-first";
    return monthFirst > 0 && dayFirst === 0 ? "month-first" : undefined;
  }

  get ownDecimal(): "point" | "comma" | undefined {
    const { point, comma } = this.signs;
    if (point > 0 && comma === 0) return "point";
    return comma > 0 && point === 0 ? "comma" : undefined;
  }

  private look(): void {
    const { raw, rows } = this;
    for (let at = 0; at < rows.length; at++) {
      const kind = raw.kind(rows[at]);
      if (kind === Kind.blank || kind === Kind.error) continue;
      this.filled++;
      switch (kind) {
        case Kind.text:
          this.countText(this.judge(raw.number(rows[at])));
          break;
        case Kind.true:
        case Kind.false:
          this.counts.boolean++;
          break;
        case Kind.date:
          this.counts.date++;
          break;
        case Kind.datetime:
          this.counts[Number.isInteger(raw.number(rows[at])) ? "date" : "datetime"]++;
          break;
        case Kind.time:
          this.counts.time++;
          break;
        default:
          this.countNumber(kind, raw.number(rows[at]));
      }
    }
  }

  private countNumber(kind: number, number: number): void {
    this.counts.number++;
    if (kind === Kind.percent) this.percents++;
    if (!Number.isInteger(number)) this.fractions++;
    if (kind <= Kind.plain) return;
    // `1.234` in a text file may be one thousand two hundred and thirty-four.
    if (kind === Kind.plain + 3 && Math.abs(number) < 1000 && Math.abs(number) >= 1) this.signs.either++;
    else this.signs.point++;
  }

  private countText(text: Judged): void {
    if (text.isCode) {
      this.codes++;
      this.counts.text++;
    } else if (text.number) {
      this.counts.number++;
      if (text.number.sign !== "none") this.signs[text.number.sign]++;
      if (!Number.isInteger(text.number.point)) this.fractions++;
      if (text.number.isPercent) this.percents++;
      const { currency } = text.number;
      if (currency !== undefined) this.currencies.set(currency, (this.currencies.get(currency) ?? 0) + 1);
      if (text.number.sign !== "none") this.sample ??= text.clean;
    } else if (text.date) {
      this.counts[text.date.hasTime ? "datetime" : "date"]++;
      if (text.date.order === "day-first") this.orders.dayFirst++;
      else if (text.date.order === "month-first") this.orders.monthFirst++;
      else if (text.date.order === "either") this.orders.either++;
      if (text.date.order === "day-first" || text.date.order === "month-first") this.sample ??= text.clean;
    } else if (text.time !== undefined) this.counts.time++;
    else if (text.truth !== undefined && /^\p{L}{4,}$/u.test(text.clean) && !/^(nein|oui)$/i.test(text.clean))
      this.counts.boolean++;
    else this.counts.text++;
  }

  private judge(index: number): Judged {
    let known = this.judged[index];
    if (known === undefined) {
      known = classifyText(this.sheet.strings[index]);
      this.judged[index] = known;
    }
    return known;
  }

  /** Decides and reads. `habits` are those of the whole file. */
  type(habits: FileHabits): TypedColumn {
    const decided = this.rule === undefined ? this.decide() : { type: this.rule.type, why: say().table.corrected() };
    const order = this.rule?.order ?? this.ownOrder ?? habits.order;
    const decimal = this.rule?.decimal ?? this.decimalSign(habits);
    let { type, why } = decided;
    const isUndecided = (type === "date" || type === "datetime") && order === undefined && this.orders.either > 0;
    const real = this.counts.date + this.counts.datetime - this.orders.either;
    if (isUndecided && real < this.orders.either && this.rule === undefined) {
      type = "text";
      why = say().table.datesDayMonthCannotTold();
    }
    const reader = new CellReader(this.name, type, { order, decimal }, this.sheet, (index) => this.judge(index));
    const values = this.read(reader, type);
    const unit = type === "number" ? this.unit() : undefined;
    const column: Column = { name: this.name, type, ...(unit === undefined ? {} : { unit }), values };
    const details = [why, ...this.details(type, order, decimal, habits)].filter((text) => text !== "");
    return {
      column,
      changes: reader.changes(),
      decision: {
        what: say().table.type({ name: this.name }),
        chosen: unit === undefined ? type : `${type} (${unit})`,
        why: details.join("; "),
        corrected: this.rule !== undefined,
      },
      findings: this.report(type, reader, isUndecided),
    };
  }

  private decide(): { type: ColumnType; why: string } {
    const { counts, filled } = this;
    if (filled === 0) return { type: "text", why: say().table.allCellsBlank() };
    const share = (count: number): string =>
      say().table.allCells({ count, filled, floor: ((Math.floor((count / filled) * 1000) / 1000) * 100).toFixed(1) });
    const enough = filled * MAJORITY;
    if (counts.date + counts.datetime >= enough) {
      const type = counts.datetime > 0 ? "datetime" : "date";
      return {
        type,
        why: say().table.dates({ share: share(counts.date + counts.datetime), type }),
      };
    }
    // Numbers among which some begin with a zero are codes, as long as nothing has decimals.
    if (this.codes > 0 && this.fractions === 0 && this.codes + counts.number >= enough)
      return { type: "text", why: say().table.codesBeginZeroLongerNumber({ codes: this.codes }) };
    if (counts.number >= enough) return { type: "number", why: say().table.numbers({ share: share(counts.number) }) };
    if (counts.boolean >= enough)
      return { type: "boolean", why: say().table.trueFalse({ share: share(counts.boolean) }) };
    if (counts.time >= enough) return { type: "time", why: say().table.times({ share: share(counts.time) }) };
    const best = Math.max(counts.number, counts.date + counts.datetime, counts.time, counts.boolean);
    return {
      type: "text",
      why: say().table.onlyCouldReadAnythingElse({ best, filled: filled / 2, share: share(best) }),
    };
  }

  private decimalSign(habits: FileHabits): "point" | "comma" {
    if (this.ownDecimal !== undefined) return this.ownDecimal;
    const { point, comma } = this.signs;
    if (point + comma > 0) return point >= comma ? "point" : "comma";
    return habits.decimal ?? "point";
  }

  private unit(): string | undefined {
    if (this.percents > this.filled / 2) return "%";
    return this.currencies.size === 1 ? [...this.currencies.keys()][0] : undefined;
  }

  private details(
    type: ColumnType,
    order: DayMonthOrder | undefined,
    decimal: "point" | "comma",
    habits: FileHabits,
  ): string[] {
    const found: string[] = [];
    const asked = this.rule !== undefined;
    const { dayFirst, monthFirst, either } = this.orders;
    if ((type === "date" || type === "datetime") && dayFirst + monthFirst + either > 0 && order !== undefined) {
      const reason = say().table.orderWhy({
        ownOrder: this.ownOrder,
        asked,
        orderFrom: habits.orderFrom,
        sample: this.sample,
      });
      found.push(`${order.replace("-", " ")}, ${reason}`);
    }
    const { point, comma } = this.signs;
    if (type === "number" && point + comma + this.signs.either > 0 && (comma > 0 || this.signs.either > 0)) {
      const from = say().table.asIn({
        ownDecimal: this.ownDecimal,
        decimal: habits.decimal,
        decimalFrom: habits.decimalFrom,
      });
      found.push(say().table.decimal({ decimal, sample: this.sample, from }));
    }
    return found;
  }

  private read(reader: CellReader, type: ColumnType): Cell[] {
    const { raw, rows, sheet } = this;
    const values = new Array<Cell>(rows.length);
    // Texts that stand as they are need no second look.
    const asIs: (string | undefined)[] = [];
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at];
      const kind = raw.kind(row);
      const number = raw.number(row);
      if (kind === Kind.text && type === "text") {
        const known = asIs[number];
        if (known !== undefined) {
          values[at] = known;
          continue;
        }
        const { clean } = this.judge(number);
        if (clean === sheet.strings[number]) {
          asIs[number] = clean;
          values[at] = clean;
          continue;
        }
      }
      // By far most cells of a column of numbers are numbers.
      values[at] =
        type === "number" && (kind === Kind.number || (kind >= Kind.plain && kind !== Kind.plain + 3))
          ? number
          : kind === Kind.blank
            ? null
            : reader.read(kind, number, sheet.rowNumbers[row]);
    }
    return values;
  }

  private report(type: ColumnType, reader: CellReader, isUndecided: boolean): Finding[] {
    const where = say().place.columnIn({ where: this.sheet.where, name: this.name });
    const findings = reader.findings(where);
    const undecided = reader.count("ambiguous") || (isUndecided ? this.orders.either : 0);
    if (undecided > 0) {
      findings.push({
        code: "ambiguous-dates",
        severity: "warn",
        where,
        what: say().table.datesWrittenSoDayMonth({ undecided, type }),
        advice: say().table.sayOnceDatasetComesFirst(),
        count: undecided,
        cells: { column: this.name, rows: reader.rowsOf("ambiguous") },
      });
    }
    if (
      type === "number" &&
      this.signs.either > 0 &&
      this.signs.point + this.signs.comma === 0 &&
      !this.rule?.decimal
    ) {
      findings.push({
        code: "ambiguous-numbers",
        severity: "warn",
        where,
        what: say().table.numbersWrittenSignBeforeThree({ either: this.signs.either, sample: this.sample ?? "1.234" }),
        advice: say().table.lookFewSayOnceDataset(),
        count: this.signs.either,
      });
    }
    // Amounts beside words, such as a line of units below the header: no sum is made of them, so that has to be said.
    const { number } = this.counts;
    if (type === "text" && this.rule === undefined && this.codes === 0 && number >= 2 && number > this.filled / 2) {
      findings.push({
        code: "numbers-kept-as-text",
        severity: "warn",
        where,
        what: say().table.cellsNumbersOthersColumnKept({ number, filled: this.filled }),
        advice: say().table.lookOthersIfTheyNone(),
        count: this.filled - number,
      });
    }
    if (type === "number" && this.currencies.size > 1) {
      const all = [...this.currencies].map(([currency, count]) => say().table.inText({ count, currency })).join(", ");
      findings.push({
        code: "several-currencies",
        severity: "warn",
        where,
        what: say().table.amountsSeveralCurrenciesSumOver({ all }),
        advice: say().table.splitCurrencyKeepReport(),
      });
    }
    return findings;
  }
}
