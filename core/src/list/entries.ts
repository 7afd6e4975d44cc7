/** Entries made of the lines: events for calendars (iCalendar, RFC 5545), cards of people (vCard 4.0, RFC 6350). */
import { DateTime } from "luxon";
import { bytesFromText, CorbixError, type Finding, isoFromSerial, sha256 } from "../common/index.js";
import {
  compileExpression,
  DateValue,
  type Env,
  type Expression,
  linesOf,
  type Scope,
  type Value,
  withLine,
} from "../expression/index.js";
import { type BoundText, linesNamed, parseTextTemplate, withPlace } from "../template/index.js";
import { say } from "../words/index.js";
import type { WrittenText } from "./delimited.js";

export interface EventSpec {
  readonly title: string;
  /** What tells an event from others, so that a changed one takes the place of what was sent before. */
  readonly id?: string | undefined;
  readonly begins: string;
  readonly ends?: string | undefined;
  readonly minutes?: number | undefined;
  readonly place?: string | undefined;
  readonly text?: string | undefined;
  readonly zone?: string | undefined;
  readonly remind?: number | undefined;
}

export interface CardSpec {
  readonly name: string;
  readonly email?: string | undefined;
  readonly phone?: string | undefined;
  readonly organization?: string | undefined;
  readonly role?: string | undefined;
  readonly address?: string | undefined;
  readonly note?: string | undefined;
}

export interface BoundEntries {
  readonly write: (env: Env) => WrittenText;
}

type BoundFields<Name extends string> = Partial<Record<Name, BoundText>>;

function bindTexts<Name extends string>(
  spec: Partial<Record<Name, string | undefined>>,
  names: readonly Name[],
  scope: Scope,
  where: string,
): BoundFields<Name> {
  return Object.fromEntries(
    names.flatMap((name) => {
      const source = spec[name];
      return source === undefined
        ? []
        : [[name, withPlace(`${where}, ${name}`, () => parseTextTemplate(source, `${where}, ${name}`).bind(scope))]];
    }),
  ) as BoundFields<Name>;
}

/** Throws `BAD_EXPRESSION` or `BAD_MARK` with the place. `report`: what tells its events from others of the same rows. */
export function bindEvents(spec: EventSpec, linesName: string | undefined, scope: Scope, where: string): BoundEntries {
  const lines = linesNamed(linesName, scope, `${where}, lines`);
  const texts = bindTexts(spec, ["title", "place", "text", "id"], scope, where);
  const moment = (source: string | undefined, name: string): Expression | undefined =>
    source === undefined ? undefined : withPlace(`${where}, ${name}`, () => compileExpression(source, scope));
  const [begins, ends] = [moment(spec.begins, "begins"), moment(spec.ends, "ends")];
  const zone = spec.zone ?? "UTC";
  return {
    write: (env) => {
      const findings: Finding[] = [];
      const out = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Corbix//EN", "CALSCALE:GREGORIAN", "METHOD:PUBLISH"];
      let without = 0;
      const { table, lines: rows } = linesOf(env, lines);
      for (const row of rows) {
        const own = withLine(env, lines, row);
        const from = whenOf(begins?.evaluate(own), zone, `${where}, begins`);
        if (!from) {
          without += 1;
          continue;
        }
        const to = whenOf(ends?.evaluate(own), zone, `${where}, ends`) ?? laterBy(from, spec.minutes);
        const title = texts.title?.fill(own) ?? "";
        // The same event has the same name whenever it is written: a calendar that has it takes the newer one in its place.
        const told = texts.id ? [texts.id.fill(own)] : [title, ...table.columns.map(({ values }) => values[row])];
        const uid = sha256([env.spaces.group?.get("key"), ...told].map(String).join("\n")).slice(0, 32);
        out.push(
          "BEGIN:VEVENT",
          `UID:${uid}@corbix`,
          `DTSTAMP:${isoFromSerial(Math.floor(env.today)).replaceAll("-", "")}T000000Z`,
        );
        out.push(stamp("DTSTART", from));
        if (to) out.push(stamp("DTEND", from.isDay && to.isDay ? { ...to, at: to.at.plus({ days: 1 }) } : to));
        for (const [name, field] of [
          ["SUMMARY", title],
          ["LOCATION", texts.place?.fill(own)],
          ["DESCRIPTION", texts.text?.fill(own)],
        ] as const)
          if (field) out.push(`${name}:${escapeText(field)}`);
        if (spec.remind !== undefined)
          out.push(
            "BEGIN:VALARM",
            "ACTION:DISPLAY",
            `DESCRIPTION:${escapeText(title)}`,
            `TRIGGER:-PT${spec.remind}M`,
            "END:VALARM",
          );
        out.push("END:VEVENT");
      }
      out.push("END:VCALENDAR");
      if (without > 0)
        findings.push({
          code: "entry-without-day",
          severity: "warn",
          where,
          what: say().list.linesWithoutDay({ count: without, source: spec.begins }),
          advice: say().list.linesWithoutDayLeft(),
        });
      return folded(out, findings);
    },
  };
}

interface When {
  readonly at: DateTime;
  readonly isDay: boolean;
}

function whenOf(value: Value | undefined, zone: string, where: string): When | undefined {
  if (value === undefined || value === null || value === "") return undefined;
  if (!(value instanceof DateValue))
    throw new CorbixError("BAD_EXPRESSION", say().list.noDay({ value: String(value) }), { where });
  const isDay = value.type === "date";
  const iso = isoFromSerial(isDay ? Math.floor(value.serial) : Math.round(value.serial * 86_400) / 86_400);
  return { at: DateTime.fromISO(iso, { zone }), isDay };
}

function laterBy({ at, isDay }: When, minutes: number | undefined): When | undefined {
  return isDay || minutes === undefined ? undefined : { at: at.plus({ minutes }), isDay };
}

function stamp(name: string, { at, isDay }: When): string {
  return isDay
    ? `${name};VALUE=DATE:${at.toFormat("yyyyMMdd")}`
    : `${name}:${at.toUTC().toFormat("yyyyMMdd'T'HHmmss'Z'")}`;
}

/** Throws `BAD_MARK` with the place. */
export function bindCards(spec: CardSpec, linesName: string | undefined, scope: Scope, where: string): BoundEntries {
  const lines = linesNamed(linesName, scope, `${where}, lines`);
  const names = ["name", "email", "phone", "organization", "role", "address", "note"] as const;
  const texts = bindTexts(spec, names, scope, where);
  return {
    write: (env) => {
      const out: string[] = [];
      const seen = new Set<string>();
      for (const row of linesOf(env, lines).lines) {
        const own = withLine(env, lines, row);
        const of = (name: (typeof names)[number]): string => texts[name]?.fill(own).trim() ?? "";
        if (of("name") === "") continue;
        const card = ["BEGIN:VCARD", "VERSION:4.0", `FN:${escapeText(of("name"))}`];
        for (const [property, name] of [
          ["EMAIL", "email"],
          ["TEL", "phone"],
          ["ORG", "organization"],
          ["TITLE", "role"],
          ["NOTE", "note"],
        ] as const)
          if (of(name) !== "") card.push(`${property}:${escapeText(of(name))}`);
        if (of("address") !== "") card.push(`ADR:;;${escapeText(of("address"))};;;;`);
        card.push("END:VCARD");
        // Many rows may name the same person.
        if (seen.has(card.join("\n"))) continue;
        seen.add(card.join("\n"));
        out.push(...card);
      }
      return folded(out, []);
    },
  };
}

function escapeText(text: string): string {
  return text
    .replace(/[\\;,]/g, (sign) => `\\${sign}`)
    .replace(/\r\n?|\n/g, "\\n")
    .replace(/[\u0000-\u0008\u000b-\u001f]/g, "");
}

const LONGEST_LINE = 75;

/** Lines of no more than 75 octets (RFC 5545, 3.1; RFC 6350, 3.2), never within a character. */
function folded(lines: readonly string[], findings: readonly Finding[]): WrittenText {
  const text = lines.map((line) => `${fold(line)}\r\n`).join("");
  return { bytes: bytesFromText(text), text: lines.join("\n"), findings };
}

function fold(line: string): string {
  if (Buffer.byteLength(line) <= LONGEST_LINE) return line;
  const parts: string[] = [];
  let part = "";
  for (const sign of line) {
    // A line that goes on begins with a blank.
    if (Buffer.byteLength(part + sign) > LONGEST_LINE - (parts.length > 0 ? 1 : 0)) {
      parts.push(part);
      part = "";
    }
    part += sign;
  }
  return [...parts, part].join("\r\n ");
}
