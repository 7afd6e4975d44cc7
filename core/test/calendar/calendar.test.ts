import {
  type Calendar,
  type CalendarSpec,
  calendarSchema,
  checkSchedule,
  nextTimes,
  type PeriodKind,
  PLAIN_KINDS,
  periodLabel,
  periodsFor,
  readCalendarFile,
  type Schedule,
  scheduleSentence,
  takenPeriod,
  timesBetween,
  timesWithin,
  WorkingDays,
} from "@corbix/core/calendar";
import { bytesFromText, isoFromSerial, maybeSerialFromIso, serialFromParts } from "@corbix/core/common";
import fc from "fast-check";
import rrule from "rrule";
import { describe, expect, it } from "vitest";

const at = (rule: string, time: string, zone: string, after: string, count = 3, until?: string) =>
  nextTimes({ rule, at: time, zone, from: "2026-01-01", ...(until ? { until } : {}) }, new Date(after), count).map(
    (one) => one.toISOString(),
  );
const calendar = (spec: Partial<CalendarSpec> = {}): Calendar => calendarSchema.parse({ title: "Office", ...spec });
const periods = (every: PeriodKind, spec?: Partial<CalendarSpec>) =>
  periodsFor({ every, calendar: "office" }, spec && calendar(spec));
const day = (iso: string): number => maybeSerialFromIso(iso) as number;
const span = ({ key, from, to }: { key: string; from: number; to: number }) =>
  `${key} ${isoFromSerial(from)} ${isoFromSerial(to)}`;

describe("periods", () => {
  it.each([
    ["2026-10", "month", 31, "October 2026"],
    ["2026-W53", "week", 7, "2026 W53"],
    ["2026-Q1", "quarter", 90, "Q1 2026"],
    ["2026", "year", 365, "2026"],
    ["2026-02-28", "day", 1, "28 February 2026"],
    ["2026-02-H2", "half-month", 13, "16–28 February 2026"],
    ["2026-10-H1", "half-month", 15, "1–15 October 2026"],
  ] as const)("%s is a %s of %i days", (key, kind, days, label) => {
    const period = periods(kind).parse(key);
    expect(period.to - period.from + 1).toBe(days);
    expect(periods(kind).maybeOf(period.from)).toEqual(period);
    expect(periods(kind).maybeOf(period.to + 0.9)).toEqual(period);
    expect(periodLabel(period, "en-GB").replace(/\u2009/g, "")).toBe(label);
  });

  it.each([
    ["2026-13", "month"],
    ["2026-W54", "week"],
    ["2026-02-30", "day"],
    ["October", "month"],
    ["2026-10-H3", "half-month"],
  ] as const)("refuses %s as a %s", (key, kind) => {
    expect(() => periods(kind).parse(key)).toThrow("Cannot read");
  });

  it("takes the last period that is over, the running one, or the next", () => {
    expect(periods("month").lastBefore(serialFromParts(2026, 11, 2))?.key).toBe("2026-10");
    expect(periods("month").lastBefore(serialFromParts(2026, 1, 1))?.key).toBe("2025-12");
    expect(periods("week").lastBefore(serialFromParts(2026, 1, 5))?.key).toBe("2026-W01");
    const on = serialFromParts(2026, 11, 15);
    expect(
      (["over", "running", "next"] as const).map((take) => takenPeriod(periods("half-month"), take, on).key),
    ).toEqual(["2026-10-H2", "2026-11-H1", "2026-11-H2"]);
  });

  it("of a fiscal year begin with any month, and are called after the year they end or begin in", () => {
    const ofApril = { fiscal: { begins: 4 } };
    expect(span(periods("fiscal-year", ofApril).parse("FY2026"))).toBe("FY2026 2025-04-01 2026-03-31");
    expect(span(periods("fiscal-year", { fiscal: { begins: 4, named: "begin" } }).parse("fy 2026"))).toBe(
      "FY2026 2026-04-01 2027-03-31",
    );
    expect(span(periods("fiscal-year", { fiscal: { begins: 1 } }).parse("FY2026"))).toBe(
      "FY2026 2026-01-01 2026-12-31",
    );
    expect(span(periods("fiscal-quarter", ofApril).maybeOf(day("2026-02-11")) as never)).toBe(
      "FY2026-Q4 2026-01-01 2026-03-31",
    );
    const month = periods("fiscal-month", {
      fiscal: { begins: 7, labels: { month: "Period {number} of {year} ({shortYear})" } },
    }).parse("FY2027-M1");
    expect([span(month), periodLabel(month, "de")]).toEqual([
      "FY2027-M01 2026-07-01 2026-07-31",
      "Period 1 of 2027 (27)",
    ]);
  });

  it("of whole weeks end on the weekday said, and have a fifty-third week when it falls so", () => {
    // The last Saturday of January: 2026-01-31, 2027-01-30, 2028-01-29.
    const last = { fiscal: { weeks: "4-4-5", ends: "SA", near: "last", month: 1 } } as const;
    expect(span(periods("fiscal-year", last).parse("FY2027"))).toBe("FY2027 2026-02-01 2027-01-30");
    expect(
      ["FY2027-M01", "FY2027-M02", "FY2027-M03", "FY2027-M04"].map((key) =>
        span(periods("fiscal-month", last).parse(key)),
      ),
    ).toEqual([
      "FY2027-M01 2026-02-01 2026-02-28",
      "FY2027-M02 2026-03-01 2026-03-28",
      "FY2027-M03 2026-03-29 2026-05-02",
      "FY2027-M04 2026-05-03 2026-05-30",
    ]);
    // The Sunday nearest to 31 December: 2025-12-28, 2027-01-03: 53 weeks.
    const nearest = { fiscal: { weeks: "5-4-4", ends: "SU", near: "nearest", month: 12 } } as const;
    const year = periods("fiscal-year", nearest).parse("FY2026");
    expect([span(year), (year.to - year.from + 1) / 7]).toEqual(["FY2026 2025-12-29 2027-01-03", 53]);
    const twelfth = periods("fiscal-month", nearest).parse("FY2026-M12");
    expect((twelfth.to - twelfth.from + 1) / 7).toBe(5);
    expect(periods("fiscal-year", nearest).maybeOf(day("2027-01-03"))?.key).toBe("FY2026");
  });

  it("of one's own are those of the table, with days between them that are in none", () => {
    const own = {
      periods: [
        { from: "2026-01-10", to: "2026-04-05", key: "2026-S1", label: "Winter" },
        { from: "2026-06-01", to: "2026-09-30", key: "2026-S2" },
      ],
    };
    const seasons = periods("own", own);
    expect(seasons.maybeOf(day("2026-05-01"))).toBeUndefined();
    expect(seasons.lastBefore(day("2026-05-01"))?.label).toBe("Winter");
    expect(seasons.nextFrom(day("2026-05-01"))?.key).toBe("2026-S2");
    expect(() => seasons.parse("2027-S1")).toThrow("Cannot find the period `2027-S1`");
    expect(() => takenPeriod(seasons, "over", day("2026-01-01"))).toThrow("No period of the calendar is over yet.");
    expect(() => periods("own")).toThrow("none is named or there");
    expect(() => periods("own", {})).toThrow("no periods of its own");
  });

  it("of every kind cover all days without a gap, and sort as they follow each other", () => {
    const spec = { fiscal: { weeks: "4-5-4", ends: "FR", near: "nearest", month: 6 } } as const;
    const kinds = [...PLAIN_KINDS, "fiscal-month", "fiscal-quarter", "fiscal-year"] as const;
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.integer({ min: day("1990-01-01"), max: day("2090-01-01") }),
        (kind, one) => {
          const all = periods(kind, spec);
          const own = all.maybeOf(one);
          const next = own && all.nextFrom(own.to + 1);
          if (!own || !next) throw new Error("a gap");
          expect(own.from <= one && one <= own.to && next.from === own.to + 1 && next.key > own.key).toBe(true);
          expect(all.lastBefore(next.from)).toEqual(own);
          expect(all.parse(own.key)).toEqual(own);
        },
      ),
      { numRuns: 600 },
    );
  });

  it("are refused where they overlap, or their keys do not sort as their days do", () => {
    const twice = calendarSchema.safeParse({
      title: "x",
      periods: [
        { from: "2026-01-01", to: "2026-02-01" },
        { from: "2026-02-01", to: "2026-03-01" },
      ],
    });
    expect(twice.error?.issues[0]?.message).toContain("before the period above it is over");
    const unsorted = calendarSchema.safeParse({
      title: "x",
      periods: [
        { from: "2026-01-01", to: "2026-02-01", key: "winter" },
        { from: "2026-03-01", to: "2026-04-01", key: "spring" },
      ],
    });
    expect(unsorted.error?.issues[0]?.message).toContain("sorts behind");
  });
});

describe("working days", () => {
  const office = calendar({
    half: ["FR"],
    off: [
      { day: "12-25", name: "Christmas Day" },
      { day: "12-24", name: "Christmas Eve", half: true },
      { day: "2026-07-27", until: "2026-08-07", name: "Closed" },
      { day: "2026-10-23", name: "Stocktaking" },
    ],
  });

  it("leave out weekends, days off of a year and of every year, and several days in a row", () => {
    const days = new WorkingDays(office);
    expect(days.noteOf(day("2031-12-25"))).toEqual({ name: "Christmas Day", half: false });
    expect(days.noteOf(day("2026-08-02"))?.name).toBe("Closed");
    expect(days.noteOf(day("2026-10-24"))).toEqual({ name: undefined, half: false });
    expect(days.noteOf(day("2026-12-24"))).toEqual({ name: "Christmas Eve", half: true });
    // A Friday that is off is no half day.
    expect(days.noteOf(day("2026-10-23"))).toEqual({ name: "Stocktaking", half: false });
    expect(days.noteOf(day("2026-10-22"))).toBeUndefined();
  });

  it("are counted from the start and from the end, half days or not", () => {
    const nth = (n: number, half: "work" | "off" = "work") => {
      const found = new WorkingDays(office, half).nth(day("2026-12-01"), day("2026-12-31"), n);
      return found && isoFromSerial(found);
    };
    expect([nth(1), nth(4), nth(4, "off"), nth(-1), nth(-6), nth(-6, "off"), nth(30)]).toEqual([
      "2026-12-01",
      "2026-12-04",
      "2026-12-07",
      "2026-12-31",
      "2026-12-23",
      "2026-12-22",
      undefined,
    ]);
  });
});

describe("recurrence", () => {
  it("keeps the wall-clock time over the change of summer time", () => {
    expect(at("FREQ=WEEKLY;BYDAY=TH", "16:30", "Europe/Zurich", "2026-10-20T00:00:00Z")).toEqual([
      "2026-10-22T14:30:00.000Z",
      "2026-10-29T15:30:00.000Z",
      "2026-11-05T15:30:00.000Z",
    ]);
  });

  it("finds each month's first working day", () => {
    expect(
      at("FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=1", "07:15", "Europe/Zurich", "2026-07-15T00:00:00Z"),
    ).toEqual(["2026-08-03T05:15:00.000Z", "2026-09-01T05:15:00.000Z", "2026-10-01T05:15:00.000Z"]);
  });

  it("moves a time that the clock skips, and ends at its last day", () => {
    expect(at("FREQ=DAILY", "02:30", "Europe/Zurich", "2026-03-28T12:00:00Z", 1)).toEqual(["2026-03-29T01:30:00.000Z"]);
    expect(at("FREQ=DAILY", "12:00", "Pacific/Auckland", "2026-01-01T00:00:00Z", 9, "2026-01-03")).toHaveLength(2);
    expect(at("FREQ=DAILY;COUNT=3", "12:00", "UTC", "2026-01-02T13:00:00Z", 9)).toEqual(["2026-01-03T12:00:00.000Z"]);
    expect(at("RRULE:FREQ=WEEKLY;UNTIL=20260110T000000Z", "12:00", "UTC", "2025-12-01T13:00:00Z", 9)).toHaveLength(2);
  });

  it.each([
    ["FREQ=MONTLY", "there is no frequency `MONTLY`", "MONTHLY"],
    ["FREQ=NEVER", "there is no frequency `NEVER`", ""],
    ["FREQ=HOURLY", "the smallest step is DAILY", ""],
    ["BYDAY=MO", "FREQ is missing", ""],
    ["FREQ=WEEKLY;BYDAI=MO", "there is no part `BYDAI`", "BYDAY"],
    ["FREQ=WEEKLY;BYDAY=MON", "`MON` in BYDAY is no weekday", "MO, TU"],
    ["FREQ=WEEKLY;BYDAY=1MO", "1MO counts weekdays of a month or year", ""],
    ["FREQ=MONTHLY;BYMONTHDAY=32", "BYMONTHDAY=32 is no whole number from -31 to 31", ""],
    ["FREQ=MONTHLY;BYMONTHDAY=0", "other than 0", ""],
    ["FREQ=MONTHLY;INTERVAL=0", "INTERVAL=0 is no whole number from 1 to 1000", ""],
    ["FREQ=DAILY;FREQ=WEEKLY", "FREQ stands twice", ""],
    ["FREQ=DAILY;COUNT=3;UNTIL=20261231", "UNTIL and COUNT do not go together", ""],
    ["FREQ=DAILY;UNTIL=soon", "UNTIL=SOON is no day", ""],
    ["FREQ=DAILY;BYHOUR=7", "BYHOUR is a time of the day", "`at`"],
    ["FREQ=MONTHLY;BYSETPOS=1", "BYSETPOS picks among days that another part names", ""],
  ])("says what is wrong with %s", (rule, what, advice) => {
    let told: { message?: string; advice?: string } = {};
    try {
      at(rule, "07:15", "UTC", "2026-01-01T00:00:00Z");
    } catch (error) {
      told = error as typeof told;
    }
    expect(told.message).toContain(what);
    expect(told.message).not.toContain("undefined");
    expect(told.advice ?? "").toContain(advice);
  });

  it.each([
    ["FREQ=DAILY", "7 o'clock", "Europe/Zurich"],
    ["FREQ=DAILY", "07:15", "Europe/Aldmoor"],
  ])("refuses %s at %s in %s", (rule, time, zone) => {
    expect(() => at(rule, time, zone, "2026-01-01T00:00:00Z")).toThrow(/Cannot/);
  });

  it("means the same days as another reader of the standard", () => {
    const some = <T>(values: readonly T[], max: number) => fc.subarray([...values], { minLength: 1, maxLength: max });
    const weekdays = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
    const ruleOf = fc
      .record(
        {
          FREQ: fc.constantFrom("DAILY", "WEEKLY", "MONTHLY", "YEARLY"),
          INTERVAL: fc.integer({ min: 1, max: 4 }),
          COUNT: fc.integer({ min: 1, max: 20 }),
          BYDAY: some(weekdays, 4),
          nth: fc.constantFrom("", "", "1", "2", "-1", "-2", "5"),
          BYMONTHDAY: some([1, 2, 13, 15, 28, 31, -1, -3], 2),
          BYMONTH: some([1, 2, 6, 12], 2),
          BYSETPOS: some([1, 2, -1], 1),
          WKST: fc.constantFrom("MO", "SU", "WE"),
        },
        { requiredKeys: ["FREQ", "nth"] },
      )
      .map(({ nth, BYDAY, BYSETPOS, BYMONTHDAY, BYMONTH, ...plain }) => {
        const isLong = plain.FREQ === "MONTHLY" || plain.FREQ === "YEARLY";
        const lists = {
          ...(BYDAY ? { BYDAY: BYDAY.map((one) => `${isLong ? nth : ""}${one}`) } : {}),
          // The standard has no days of a month in a week.
          ...(BYMONTHDAY && plain.FREQ !== "WEEKLY" ? { BYMONTHDAY } : {}),
          ...(BYMONTH ? { BYMONTH } : {}),
        };
        const picks = BYSETPOS && isLong && (lists.BYDAY || lists.BYMONTHDAY) ? { BYSETPOS } : {};
        return Object.entries({ ...plain, ...lists, ...picks })
          .map(([name, value]) => `${name}=${Array.isArray(value) ? value.join(",") : value}`)
          .join(";");
      });
    const first = fc.constantFrom("2026-01-01", "2026-02-28", "2025-12-31", "2024-02-29", "2026-06-17");
    let compared = 0;
    fc.assert(
      fc.property(ruleOf, first, (rule, from) => {
        const end = new Date("2032-01-01T00:00:00Z");
        const ours = timesBetween(
          { rule, at: "00:00", zone: "UTC", from },
          new Date("2020-01-01T00:00:00Z"),
          end,
          Number.POSITIVE_INFINITY,
        );
        // A rule that means no day keeps theirs busy until the year 9999.
        fc.pre(ours.length > 0);
        const theirs = new rrule.RRule({
          ...rrule.RRule.parseString(rule),
          dtstart: new Date(`${from}T00:00:00Z`),
        }).between(new Date("2020-01-01T00:00:00Z"), end, true);
        compared += theirs.length;
        expect([rule, from, ours.map((one) => one.toISOString())]).toEqual([
          rule,
          from,
          // A day that two positions name it gives twice.
          [...new Set(theirs.map((one) => one.toISOString()))],
        ]);
      }),
      { numRuns: 200, seed: 20261130 },
    );
    expect(compared).toBeGreaterThan(2000);
  }, 120_000);
});

describe("a schedule", () => {
  const office = calendar({
    off: [
      { day: "12-25", name: "Christmas Day" },
      { day: "2026-05-15", name: "Bridge day" },
    ],
  });
  const of = (schedule: Partial<Schedule>, after = "2026-04-20", days = 366) =>
    timesWithin(
      { at: "07:00", zone: "UTC", from: "2026-01-01", calendar: "office", ...schedule },
      new Date(`${after}T00:00:00Z`),
      { days, most: 400 },
      office,
    ).map(
      ({ day: on, movedFrom }) => on + (movedFrom ? ` for ${movedFrom.day} ${movedFrom.name ?? ""}`.trimEnd() : ""),
    );

  it("comes due on a working day of each period, counted from its start or end", () => {
    expect(of({ day: { working: 1, of: "month" } }, "2026-04-20", 70)).toEqual(["2026-05-01", "2026-06-01"]);
    expect(of({ day: { working: -3, of: "month" } }, "2026-04-20", 50)).toEqual(["2026-04-28", "2026-05-27"]);
    expect(of({ day: { working: 2, of: "week" } }, "2026-05-10", 14)).toEqual(["2026-05-12", "2026-05-19"]);
    expect(of({ day: { working: 1, of: "day" } }, "2026-05-13", 6)).toEqual(["2026-05-13", "2026-05-14", "2026-05-18"]);
  });

  it("comes due on the first working day of a fiscal period", () => {
    const fiscal = calendar({ fiscal: { weeks: "4-4-5", ends: "SU", near: "last", month: 6 } });
    expect(
      timesWithin(
        { at: "07:00", zone: "UTC", from: "2026-01-01", calendar: "f", day: { working: 1, of: "fiscal-month" } },
        new Date("2026-06-20T00:00:00Z"),
        { days: 80, most: 9 },
        fiscal,
      ).map(({ day: on }) => on),
    ).toEqual(["2026-06-29", "2026-07-27", "2026-08-24"]);
  });

  it("moves off days off, to the working day before or after, or leaves them out", () => {
    const fifteenth = { day: { date: 15, of: "month" } } as const;
    expect(of({ ...fifteenth, off: "before" }, "2026-05-01", 60)).toEqual([
      "2026-05-14 for 2026-05-15 Bridge day",
      "2026-06-15",
    ]);
    expect(of({ ...fifteenth, off: "after" }, "2026-05-01", 20)).toEqual(["2026-05-18 for 2026-05-15 Bridge day"]);
    expect(of({ ...fifteenth, off: "skip" }, "2026-05-01", 60)).toEqual(["2026-06-15"]);
    expect(of(fifteenth, "2026-05-01", 20)).toEqual(["2026-05-15"]);
    expect(of({ day: { date: 31, of: "month" } }, "2026-05-01", 70)).toEqual(["2026-05-31", "2026-06-30"]);
    expect(of({ rule: "FREQ=WEEKLY;BYDAY=FR", off: "after" }, "2026-12-20", 9)).toEqual([
      "2026-12-28 for 2026-12-25 Christmas Day",
    ]);
    // Three days that are moved to one are one.
    expect(of({ rule: "FREQ=DAILY", off: "after" }, "2026-12-24", 6)).toEqual([
      "2026-12-24",
      "2026-12-28 for 2026-12-25 Christmas Day",
      "2026-12-29",
    ]);
  });

  it.each([
    [{ rule: "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30" }, "BYMONTHDAY=-1"],
    [{ rule: "FREQ=DAILY;BYMONTH=2;BYMONTHDAY=31" }, "BYMONTHDAY=-1"],
    [{ rule: "FREQ=MONTHLY;BYDAY=MO;BYSETPOS=6" }, "BYSETPOS=-1"],
    [{ rule: "FREQ=MONTHLY;BYDAY=6MO" }, "BYDAY=1MO"],
    [{ rule: "FREQ=DAILY;INTERVAL=7;BYDAY=TU" }, "FREQ=DAILY;BYDAY=TU"],
    [{ rule: "FREQ=WEEKLY;BYDAY=SA,SU", off: "skip" }, "off: before"],
    [{ day: { working: 25, of: "month" } }, '"working":-1'],
    [{ day: { working: 7, of: "week" } }, '"working":-1'],
  ] as const)("that never comes due is refused with a near one: %j", (schedule, near) => {
    const told = (() => {
      try {
        checkSchedule({ at: "07:00", zone: "UTC", from: "2026-01-01", ...schedule }, office);
        return {};
      } catch (error) {
        return error as { message: string; advice: string };
      }
    })();
    expect(told).toMatchObject({
      message: expect.stringContaining("never comes due"),
      advice: expect.stringContaining(near),
    });
    expect(told).toMatchObject({ advice: expect.stringMatching(/comes due first on 20\d\d-/) });
  });

  it("that ends before it begins, or says neither rule nor day, is refused", () => {
    const base = { at: "07:00", zone: "UTC", from: "2026-05-01" };
    expect(() => checkSchedule({ ...base, rule: "FREQ=DAILY", until: "2026-04-30" })).toThrow("before it begins");
    expect(() => checkSchedule(base)).toThrow("either a `rule` or a `day`");
    expect(() => checkSchedule({ ...base, rule: "FREQ=DAILY", until: "2026-4-30" })).toThrow("for `until`");
  });

  it("says in words when it comes due", () => {
    expect(
      scheduleSentence({
        day: { working: -2, of: "fiscal-month" },
        at: "07:00",
        zone: "UTC",
        from: "2026-01-01",
        calendar: "office",
        off: "before",
      }),
    ).toBe(
      "on the 2nd last working day of each fiscal month at 07:00 in UTC; from a day off it goes to the working day before, by the calendar office",
    );
  });
});

describe("a calendar's file", () => {
  it("gives days off from events: single, several days, of every year, and by other rules", () => {
    const lines = [
      "BEGIN:VCALENDAR",
      "VERSION:2.0",
      "PRODID:-//Aldmoor//EN",
      "BEGIN:VEVENT\nUID:1\nDTSTART;VALUE=DATE:20260403\nSUMMARY:Good Friday\nEND:VEVENT",
      "BEGIN:VEVENT\nUID:2\nDTSTART;VALUE=DATE:20200101\nRRULE:FREQ=YEARLY\nSUMMARY:New Year\nEND:VEVENT",
      "BEGIN:VEVENT\nUID:3\nDTSTART;VALUE=DATE:20260727\nDTEND;VALUE=DATE:20260808\nSUMMARY:Closed\nEND:VEVENT",
      "BEGIN:VEVENT\nUID:4\nDTSTART;VALUE=DATE:20250915\nRRULE:FREQ=YEARLY;BYMONTH=9;BYDAY=3MO\nSUMMARY:Third Monday\nEND:VEVENT",
      "BEGIN:VEVENT\nUID:5\nDTSTART;VALUE=DATE:20260501\nSTATUS:CANCELLED\nSUMMARY:Not\nEND:VEVENT",
      "BEGIN:VEVENT\nUID:6\nDTSTART:20261224T120000\nDTEND:20261224T180000\nSUMMARY:Eve\nEND:VEVENT",
      "END:VCALENDAR",
    ];
    const { off, periods: none } = readCalendarFile(bytesFromText(lines.join("\n")), "days.ics", 2026);
    expect(none).toEqual([]);
    expect(off).toContainEqual({ day: "2026-04-03", name: "Good Friday", half: false });
    expect(off).toContainEqual({ day: "01-01", name: "New Year", half: false });
    expect(off).toContainEqual({ day: "2026-07-27", until: "2026-08-07", name: "Closed", half: false });
    expect(off).toContainEqual({ day: "2026-12-24", name: "Eve", half: true });
    expect(
      off
        .filter(({ name }) => name === "Third Monday")
        .map((one) => one.day)
        .slice(0, 3),
    ).toEqual(["2025-09-15", "2026-09-21", "2027-09-20"]);
    expect(off.some(({ name }) => name === "Not")).toBe(false);
    expect(calendarSchema.safeParse({ title: "x", off }).success).toBe(true);
  });

  it("gives periods and days off from tables, and says what is missing", () => {
    const table = "From,To,Key,Label\n2026-06-01,2026-09-30,2026-S2,Summer\n2026-01-10,2026-04-05,2026-S1,Winter\n";
    expect(readCalendarFile(bytesFromText(table), "seasons.csv", 2026).periods).toEqual([
      { from: "2026-01-10", to: "2026-04-05", key: "2026-S1", label: "Winter" },
      { from: "2026-06-01", to: "2026-09-30", key: "2026-S2", label: "Summer" },
    ]);
    expect(
      readCalendarFile(bytesFromText("Date,Name\n2026-04-03,Good Friday\n2026-05-14,Ascension\n"), "d.csv", 2026).off,
    ).toHaveLength(2);
    expect(() => readCalendarFile(bytesFromText("Site,Fee\nDock,3\nQuay,4\n"), "x.csv", 2026)).toThrow(
      "its columns are Site, Fee",
    );
    expect(() => readCalendarFile(bytesFromText("BEGIN:VCALENDAR\nrubbish"), "x.ics", 2026)).toThrow(
      "Cannot read the file as a calendar",
    );
  });
});
