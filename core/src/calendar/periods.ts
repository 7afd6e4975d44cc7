/** How days fall into periods: by everybody's calendar, by a fiscal year, or by a table of one's own. */
import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";
import type { Calendar } from "./calendar.js";
import { type FiscalKind, fiscalPeriodFrom, fiscalPeriodOf } from "./fiscal.js";
import { type Period, type PeriodKind, type PlainKind, plainPeriodOf, plainStart, serialOf } from "./period.js";

/** Which periods a report is for; `calendar`: the name of the one that says how they fall. */
export interface PeriodRule {
  readonly every: PeriodKind;
  readonly calendar?: string | undefined;
}

export interface Periods {
  readonly kind: PeriodKind;
  /** The period a day lies in; own ones may leave days out. */
  maybeOf(day: number): Period | undefined;
  /** The last period that is over before a day; none before the first of one's own. */
  lastBefore(day: number): Period | undefined;
  /** The first that begins on a day or behind it. */
  nextFrom(day: number): Period | undefined;
  /** The period a key names. Throws `BAD_PERIOD`. */
  parse(key: string): Period;
}

/** Throws `BAD_DEFINITION` where the calendar that is needed is not named, or says nothing of such periods. */
export function periodsFor(rule: PeriodRule, calendar: Calendar | undefined): Periods {
  const { every } = rule;
  if (every === "own") return ownPeriods(calendarWith(rule, calendar, "periods"));
  if (isFiscal(every)) return fiscalPeriods(every, calendarWith(rule, calendar, "fiscal"));
  return plainPeriods(every);
}

export function plainPeriods(kind: PlainKind): Periods {
  const at = (day: number): Period => plainPeriodOf(day, kind);
  return stepping(kind, at, (key) => {
    const start = plainStart(key, kind);
    return start === undefined ? undefined : at(start);
  });
}

function fiscalPeriods(kind: FiscalKind, calendar: Calendar): Periods {
  const fiscal = calendar.fiscal as NonNullable<Calendar["fiscal"]>;
  return stepping(
    kind,
    (day) => fiscalPeriodOf(day, kind, fiscal),
    (key) => fiscalPeriodFrom(key, kind, fiscal),
  );
}

/** Periods that follow each other without gaps. */
function stepping(kind: PeriodKind, at: (day: number) => Period, from: (key: string) => Period | undefined): Periods {
  return {
    kind,
    maybeOf: at,
    lastBefore: (day) => at(at(day).from - 1),
    nextFrom: (day) => {
      const own = at(day);
      return own.from === Math.floor(day) ? own : at(own.to + 1);
    },
    parse: (key) => from(key.trim()) ?? unreadable(key, kind, EXAMPLES[kind]),
  };
}

function ownPeriods({ periods }: Calendar): Periods {
  const all = periods.map(
    ({ from, to, key = from, label = key }): Period => ({
      kind: "own",
      key,
      label,
      from: serialOf(from),
      to: serialOf(to),
    }),
  );
  return {
    kind: "own",
    maybeOf: (day) => all.find((one) => day >= one.from && day < one.to + 1),
    lastBefore: (day) => all.findLast((one) => one.to < Math.floor(day)),
    nextFrom: (day) => all.find((one) => one.from >= Math.floor(day)),
    parse: (key) =>
      all.find((one) => one.key.toLowerCase() === key.trim().toLowerCase()) ??
      unreadable(
        key,
        "own",
        all
          .slice(-3)
          .map((one) => one.key)
          .join(", "),
      ),
  };
}

function calendarWith(
  { every, calendar: name }: PeriodRule,
  calendar: Calendar | undefined,
  needs: "fiscal" | "periods",
): Calendar {
  const has = needs === "fiscal" ? calendar?.fiscal !== undefined : (calendar?.periods.length ?? 0) > 0;
  if (calendar && has) return calendar;
  throw new CorbixError(
    "BAD_DEFINITION",
    calendar === undefined
      ? say().calendar.periodsNeedCalendar({ every })
      : say().calendar.calendarHasNone({ name: name ?? calendar.title, needs }),
    { where: "period, calendar", advice: say().calendar.nameCalendarOfPeriods({ needs }) },
  );
}

/** Which period is meant on a day where nobody names one: the last that is over, the running one, or the next. */
export type Take = "over" | "running" | "next";

/** Throws `BAD_PERIOD` where there is none: a table of one's own may have ended. */
export function takenPeriod(periods: Periods, take: Take | undefined, day: number): Period {
  const found = maybeTakenPeriod(periods, take, day);
  if (found) return found;
  throw new CorbixError("BAD_PERIOD", say().calendar.noPeriodNow({ take: take ?? "over" }), {
    where: "period",
    advice: say().calendar.addPeriods(),
  });
}

/** The same; nothing where there is none. */
export function maybeTakenPeriod(periods: Periods, take: Take | undefined, day: number): Period | undefined {
  const running = periods.maybeOf(day);
  return {
    over: () => periods.lastBefore(day),
    running: () => running,
    next: () => periods.nextFrom(running ? running.to + 1 : day),
  }[take ?? "over"]();
}

export function isFiscal(kind: PeriodKind): kind is FiscalKind {
  return kind.startsWith("fiscal-");
}

/** Whether periods of a kind are said by a named calendar. */
export function needsCalendar(kind: PeriodKind): boolean {
  return kind === "own" || isFiscal(kind);
}

function unreadable(key: string, kind: PeriodKind, examples: string): never {
  throw new CorbixError("BAD_PERIOD", say().calendar.cannotReadExpectedSomethingLike({ key, kind, examples }), {
    where: "period",
  });
}

const EXAMPLES: Record<PeriodKind, string> = {
  day: "2026-10-05",
  week: "2026-W41",
  "half-month": "2026-10-H1",
  month: "2026-10",
  quarter: "2026-Q4",
  year: "2026",
  "fiscal-month": "FY2026-M03",
  "fiscal-quarter": "FY2026-Q1",
  "fiscal-year": "FY2026",
  own: "",
};
