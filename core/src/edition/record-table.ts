/** Records that come in by themselves, as rows of their dataset: typed as its columns are, lists inside a record as its lines. */
import { CorbixError, columnKey, Exact, maybeSerialFromIso, suggestName } from "../common/index.js";
import { type Cell, type Column, type ColumnInfo, type ColumnType, flatRecord, type Table } from "../table/index.js";
import { say } from "../words/index.js";

type Fields = Readonly<Record<string, unknown>>;

const MOST_ROWS = 100_000;
const MOST_DIGITS = 15;

/**
 * One table of one or several records. A list of records inside of one, under `lines` or the only such list, gives a row each, with
 * the record's other fields beside it; lists of plain values become one text. Fields that the dataset has not are further columns.
 * Throws `BAD_RECORD` with record and field.
 */
export function recordTable(
  records: readonly Fields[],
  columns: readonly ColumnInfo[],
  lines: string | undefined,
  first = 1,
): Table {
  const rows = records.flatMap((record, at) => linesOfRecord(record, lines, at + first));
  if (rows.length > MOST_ROWS)
    throw new CorbixError("LIMIT_EXCEEDED", say().edition.tooManyLines({ most: MOST_ROWS }), { where: "records" });
  const known = new Map(columns.map((column) => [columnKey(column.name), column]));
  const further = new Map<string, string>();
  for (const { fields } of rows)
    for (const name of Object.keys(fields)) if (!known.has(columnKey(name))) further.set(columnKey(name), name);
  const read = (column: ColumnInfo): Column => ({
    ...column,
    values: rows.map(({ fields, place }) => cellOf(fieldOf(fields, column.name), column, place)),
  });
  const others = [...further.values()].map((name) =>
    read({ name, type: typeOf(rows.map(({ fields }) => fieldOf(fields, name))) }),
  );
  return {
    columns: [...columns.map(read), ...others],
    rowCount: rows.length,
    rowNumbers: rows.map((_, at) => at + 1),
  };
}

interface LineOfRecord {
  readonly fields: Fields;
  readonly place: string;
}

function linesOfRecord(record: Fields, lines: string | undefined, number: number): LineOfRecord[] {
  const place = say().edition.record({ number });
  const named =
    lines === undefined ? undefined : Object.keys(record).find((one) => columnKey(one) === columnKey(lines));
  const inner = named === undefined ? undefined : record[named];
  // A record without the list, or with an empty one, has one line: its own fields.
  const list = Array.isArray(inner) && inner.some(isObject) ? named : undefined;
  const rows = flat(record, place, list);
  return rows.map((fields, at) => ({
    fields,
    place: rows.length === 1 ? place : say().edition.lineOfRecord({ place, number: at + 1 }),
  }));
}

function isObject(value: unknown): boolean {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function flat(record: Fields, place: string, list: string | undefined): Fields[] {
  try {
    return flatRecord(record, place, list);
  } catch (error) {
    if (!(error instanceof CorbixError) || error.code !== "NO_TABLE") throw error;
    throw new CorbixError("BAD_RECORD", error.message, { where: place, advice: say().edition.nameTheLines() });
  }
}

/** A field by its name as columns are looked up; capitals and signs between words do not count. */
function fieldOf(fields: Fields, name: string): unknown {
  if (Object.hasOwn(fields, name)) return fields[name];
  const key = columnKey(name);
  return Object.entries(fields).find(([one]) => columnKey(one) === key)?.[1];
}

function typeOf(values: readonly unknown[]): ColumnType {
  const filled = values.filter((one) => one !== null && one !== undefined && one !== "");
  if (filled.length === 0) return "text";
  if (filled.every((one) => typeof one === "number")) return "number";
  if (filled.every((one) => typeof one === "boolean")) return "boolean";
  const serials = filled.map((one) => (typeof one === "string" ? maybeSerialFromIso(withoutZone(one)) : undefined));
  if (serials.some((one) => one === undefined)) return "text";
  return serials.every((one) => Number.isInteger(one)) ? "date" : "datetime";
}

function withoutZone(text: string): string {
  return text.replace(/(T\d{2}:\d{2}(?::\d{2})?)(?:\.\d+)?(?:Z|[+-]\d{2}:?\d{2})?$/, "$1");
}

function cellOf(value: unknown, { name, type }: ColumnInfo, place: string): Cell {
  const plain = Array.isArray(value) ? value.filter((one) => one !== null).join(", ") : value;
  if (plain === null || plain === undefined || plain === "") return null;
  const bad = (expected: string): never => {
    throw new CorbixError("BAD_RECORD", say().edition.cannotReadField({ name, value: shown(plain), expected }), {
      where: place,
      advice: say().edition.asTheDatasetHas(),
    });
  };
  if (typeof plain === "object") return bad(say().edition.aPlainValue());
  switch (type) {
    case "number": {
      if (typeof plain === "number") return plain;
      const text = String(plain).trim();
      if (!/^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?$/i.test(text)) return bad(say().edition.aNumber());
      // More digits than a number holds would be other digits.
      return new Exact(text).precision() > MOST_DIGITS ? bad(say().edition.aShorterNumber()) : Number(text);
    }
    case "boolean": {
      if (typeof plain === "boolean") return plain;
      const text = String(plain).trim().toLowerCase();
      if (["true", "yes", "1", "on"].includes(text)) return true;
      return ["false", "no", "0", "off"].includes(text) ? false : bad(say().edition.trueOrFalse());
    }
    case "date":
    case "datetime": {
      const serial = maybeSerialFromIso(withoutZone(String(plain).trim()));
      if (serial === undefined) return bad(say().edition.aDay());
      return type === "date" ? Math.floor(serial) : serial;
    }
    case "time": {
      const [, hours, minutes, seconds = "0"] = /^(\d{1,2}):(\d{2})(?::(\d{2}))?$/.exec(String(plain).trim()) ?? [];
      if (hours === undefined || Number(hours) > 23 || Number(minutes) > 59) return bad(say().edition.aTime());
      return (Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds)) / 86_400;
    }
    default:
      return String(plain);
  }
}

function shown(value: unknown): string {
  return (typeof value === "object" ? JSON.stringify(value) : String(value)).slice(0, 60);
}

/** What tells a record from others: the values of some columns, each the same in all its rows. Throws `BAD_RECORD` for none, or several. */
export function keyOfRecord(table: Table, names: readonly string[], place: string): string {
  const parts = names.map((name) => {
    const column = table.columns.find((one) => columnKey(one.name) === columnKey(name));
    if (!column)
      throw new CorbixError("BAD_RECORD", say().edition.noKeyColumn({ name }), {
        where: place,
        advice: suggestName(
          name,
          table.columns.map((one) => one.name),
          "columns",
        ),
      });
    const values = [...new Set(column.values.map((value) => (value === null ? "" : String(value).trim())))];
    if (values.length !== 1 || values[0] === "")
      throw new CorbixError("BAD_RECORD", say().edition.noOneKey({ name, count: values.filter(Boolean).length }), {
        where: place,
        advice: say().edition.fillTheKey(),
      });
    return values[0];
  });
  return parts.join(" / ");
}
