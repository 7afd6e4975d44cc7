/** Months as calendars show them, Monday first. */
export interface Month {
  /** Such as 2026-11. */
  readonly key: string;
  /** Weeks of seven days each; `undefined` before the first and behind the last day. */
  readonly weeks: readonly (readonly (number | undefined)[])[];
}

/** The months from that of the first moment on, by the viewer's clock. */
export function monthsFrom(first: Date, count: number): Month[] {
  return Array.from({ length: count }, (_, more) => {
    const begin = new Date(first.getFullYear(), first.getMonth() + more, 1);
    const days = new Date(begin.getFullYear(), begin.getMonth() + 1, 0).getDate();
    const lead = (begin.getDay() + 6) % 7;
    const cells = Array.from({ length: Math.ceil((lead + days) / 7) * 7 }, (_, at) => {
      const day = at - lead + 1;
      return day >= 1 && day <= days ? day : undefined;
    });
    const weeks = Array.from({ length: cells.length / 7 }, (_, week) => cells.slice(week * 7, week * 7 + 7));
    return { key: `${begin.getFullYear()}-${String(begin.getMonth() + 1).padStart(2, "0")}`, weeks };
  });
}

/** The months of a year. */
export function monthsOfYear(year: number): Month[] {
  return monthsFrom(new Date(year, 0, 1), 12);
}

/** The day of a moment by the viewer's clock, such as 2026-11-02. */
export function dayOf(at: Date): string {
  const two = (part: number): string => String(part).padStart(2, "0");
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
}
