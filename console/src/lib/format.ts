import type { Cell, Column, Person } from "./client.js";

/** Numbers and dates stand as the reader is used to, whatever language the words are in. */
export const language = globalThis.navigator?.language || "en-GB";
const number = new Intl.NumberFormat(language);
const TIME = { day: "numeric", month: "short", year: "numeric", hour: "2-digit", minute: "2-digit" } as const;
const WHOLE = { weekday: "short", ...TIME, timeZoneName: "short" } as const;
let timeFormat = new Intl.DateTimeFormat(language, TIME);
let wholeFormat = new Intl.DateTimeFormat(language, WHOLE);

/** Times stand in this zone from now on; without one in the browser's own. */
export function setZone(zone: string | null): void {
  const own = zone === null ? {} : { timeZone: zone };
  timeFormat = new Intl.DateTimeFormat(language, { ...TIME, ...own });
  wholeFormat = new Intl.DateTimeFormat(language, { ...WHOLE, ...own });
}
const dayFormat = new Intl.DateTimeFormat(language, {
  day: "2-digit",
  month: "2-digit",
  year: "numeric",
  timeZone: "UTC",
});
const longDay = new Intl.DateTimeFormat(language, { dateStyle: "long", timeZone: "UTC" });

export const count = (value: number): string => number.format(value);

/** A time in the viewer's zone. */
export const time = (iso: string | null): string => (iso ? timeFormat.format(new Date(iso)) : "");
export const wholeTime = (iso: string): string => wholeFormat.format(new Date(iso));

/** A day without a time, such as 2 November 2026. */
export const day = (iso: string): string => longDay.format(new Date(`${iso.slice(0, 10)}T00:00:00Z`));

/** A single small word that readers see: the catalogue takes it for a text, as it takes whole sentences by itself. */
export const word = (text: string): string => text;

/** What a template makes, by its name. */
export function kindOfTemplate(name: string): string {
  if (/\.docx$/i.test(name)) return word("document");
  return /\.pptx$/i.test(name) ? word("slide deck") : word("workbook");
}

/** The form of a language for a number, by default the two of English; `#` in it is the number. */
export function plural(value: number, forms: readonly string[], choose = (n: number): number => (n === 1 ? 0 : 1)) {
  return (forms[choose(value)] ?? forms[forms.length - 1]).replace("#", count(value));
}

export function bytes(size: number): string {
  return size < 1024
    ? `${size} B`
    : size < 1048576
      ? `${(size / 1024).toFixed(0)} kB`
      : size < 1073741824
        ? `${(size / 1048576).toFixed(1)} MB`
        : `${(size / 1073741824).toFixed(1)} GB`;
}

/** How long something took or waits, as tables have it: 0.4 s, 12 min, 3 h. */
export function lasting(seconds: number): string {
  if (seconds < 60) return `${seconds < 10 ? Number(seconds.toFixed(1)) : Math.round(seconds)} s`;
  return seconds < 3600 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds / 3600)} h`;
}

/** A money-like total as text: two places unless it is whole everywhere. */
export function amount(text: string, places: number): string {
  return Number(text).toLocaleString(language, { minimumFractionDigits: places, maximumFractionDigits: places });
}

/** A cell as people read it: a date without a time behind it. */
export function cell(value: Cell, column: Pick<Column, "type" | "unit">): string {
  if (value === null) return "";
  if (typeof value === "boolean") return value ? word("yes") : word("no");
  if (typeof value === "string") return isoText(value, column.type);
  return column.unit === "%" ? `${Number((value * 100).toPrecision(12))} %` : String(value);
}

/** Dates and times come as ISO 8601 spells them. */
function isoText(value: string, type: Column["type"]): string {
  const day = (): string => dayFormat.format(new Date(`${value.slice(0, 10)}T00:00:00Z`));
  if (type === "date") return day();
  if (type === "datetime") return `${day()} ${value.slice(11, 16)}`;
  return type === "time" ? value.slice(0, 5) : value;
}

/** What stands between a whole number and its places. */
const point = number.formatToParts(0.5).find(({ type }) => type === "decimal")?.value ?? ".";

/** An exact decimal text with thousands apart, no more places than it has. */
export function exact(text: string): string {
  const [whole, places] = text.split(".");
  return places === undefined
    ? count(Number(whole))
    : `${Number(whole).toLocaleString(language)}${point}${places}`.replace(
        /^0(?=\D)/,
        text.startsWith("-") ? "-0" : "0",
      );
}

export const people = (list: Person[]): string =>
  list.map((one) => (one.name ? `${one.name} <${one.address}>` : one.address)).join(", ");

/** A stretch of time as people say it. */
export function duration(seconds: number): string {
  if (seconds < 5) return "a few seconds";
  if (seconds < 90) return plural(Math.round(seconds), ["# second", "# seconds"]);
  if (seconds < 5_400) return plural(Math.round(seconds / 60), ["# minute", "# minutes"]);
  if (seconds < 129_600) return plural(Math.round(seconds / 3_600), ["# hour", "# hours"]);
  return plural(Math.round(seconds / 86_400), ["# day", "# days"]);
}

/** What the two buttons of a number's field are called. */
export const steppers = (id: "increment" | "decrement"): string => (id === "increment" ? "One more" : "One less");
