/** Which days are worked, by a named calendar; Monday to Friday without one. */
import { partsFromSerial } from "../common/index.js";
import { type Calendar, calendarSchema, WEEKDAYS } from "./calendar.js";
import { pad, serialOf, weekdayIndex } from "./period.js";

/** Why a day is not worked, or half of it only. */
export interface DayNote {
  /** What it is called; nothing where it is off as a weekday. */
  readonly name: string | undefined;
  readonly half: boolean;
}

/** So many days are looked at for one that is worked; beyond that there is none. */
const MOST_DAYS = 800;

export class WorkingDays {
  private readonly working: ReadonlySet<number>;
  private readonly half: ReadonlySet<number>;
  private readonly days = new Map<number, DayNote>();
  private readonly yearly = new Map<string, DayNote>();

  /** `halfDays`: whether days of which half is worked count as worked. */
  constructor(
    calendar: Calendar | undefined,
    private readonly halfDays: "work" | "off" = "work",
  ) {
    const { working, half, off } = calendar ?? calendarSchema.parse({ title: "-" });
    this.working = new Set(working.map((one) => WEEKDAYS.indexOf(one)));
    this.half = new Set(half.map((one) => WEEKDAYS.indexOf(one)));
    for (const { day, until, name, half: isHalf } of off) {
      const note = { name, half: isHalf };
      if (day.length === 5) keepStricter(this.yearly, day, note);
      else for (let one = serialOf(day); one <= serialOf(until ?? day); one++) keepStricter(this.days, one, note);
    }
  }

  /** Why a day is off, or half off; nothing of a day that is worked. */
  noteOf(day: number): DayNote | undefined {
    const { month, day: date } = partsFromSerial(day);
    const weekday = weekdayIndex(day);
    const named = [this.days.get(day), this.yearly.get(`${pad(month)}-${pad(date)}`)].filter(
      (one) => one !== undefined,
    );
    const whole = named.find((one) => !one.half);
    if (whole) return whole;
    if (!this.working.has(weekday)) return { name: undefined, half: false };
    return named[0] ?? (this.half.has(weekday) ? { name: undefined, half: true } : undefined);
  }

  isWorked(day: number): boolean {
    const note = this.noteOf(day);
    return note === undefined || (note.half && this.halfDays === "work");
  }

  /** The nearest day that is worked, the day itself included; `step` 1 looks forward, -1 back. */
  nearest(day: number, step: 1 | -1): number | undefined {
    for (let one = day, seen = 0; seen < MOST_DAYS; one += step, seen++) if (this.isWorked(one)) return one;
    return undefined;
  }

  /** The nth working day between two days, both included, from the end where n is negative; nothing where there are fewer. */
  nth(from: number, to: number, n: number): number | undefined {
    let left = Math.abs(n);
    const step = n > 0 ? 1 : -1;
    for (let one = n > 0 ? from : to; one >= from && one <= to; one += step)
      if (this.isWorked(one) && --left === 0) return one;
    return undefined;
  }
}

/** Where a day stands twice, being off goes before being half off. */
function keepStricter<Key>(notes: Map<Key, DayNote>, key: Key, note: DayNote): void {
  const known = notes.get(key);
  if (known === undefined || known.half) notes.set(key, note);
}
