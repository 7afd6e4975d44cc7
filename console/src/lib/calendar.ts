/** A calendar as its page shows and changes it. */
import type { Schemas } from "./client";

export type Weekday = "MO" | "TU" | "WE" | "TH" | "FR" | "SA" | "SU";
export const WEEKDAYS: readonly Weekday[] = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];

export interface DayOff {
  day: string;
  until?: string | undefined;
  name?: string | undefined;
  half?: boolean | undefined;
}

export interface OwnPeriod {
  from: string;
  to: string;
  key?: string | undefined;
  label?: string | undefined;
}

export interface Labels {
  year: string;
  quarter: string;
  month: string;
}

export type Fiscal =
  | { begins: number; named: "begin" | "end"; labels?: Labels }
  | {
      weeks: "4-4-5" | "4-5-4" | "5-4-4";
      ends: Weekday;
      near: "last" | "nearest";
      month: number;
      named: "begin" | "end";
      labels?: Labels;
    };

export interface CalendarForm {
  title: string;
  working: Weekday[];
  half: Weekday[];
  off: DayOff[];
  fiscal?: Fiscal | undefined;
  periods: OwnPeriod[];
}

export type CalendarYear = Schemas["CalendarYear"];
export type CalendarSummary = Schemas["CalendarSummary"];

export const BLANK: CalendarForm = {
  title: "",
  working: ["MO", "TU", "WE", "TH", "FR"],
  half: [],
  off: [],
  periods: [],
};

/** What is sent: without fields that were left blank. */
export function asSent(form: CalendarForm): CalendarForm {
  const plain = <T extends object>(one: T): T =>
    Object.fromEntries(Object.entries(one).filter(([, value]) => value !== "" && value !== undefined)) as T;
  return plain({ ...form, off: form.off.map(plain), periods: form.periods.map(plain) });
}

/** Days of both, each once; what a file brings does not stand twice. */
export function merged<T extends object>(before: readonly T[], more: readonly T[], key: (one: T) => string): T[] {
  const known = new Map([...before, ...more].map((one) => [key(one), one]));
  return [...known.values()].sort((a, b) => key(a).localeCompare(key(b)));
}
