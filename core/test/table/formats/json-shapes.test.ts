import { CorbixError } from "@corbix/core/common";
import { type LoadOptions, loadTable } from "@corbix/core/table";
import { describe, expect, it } from "vitest";

type Fields = Record<string, unknown>;
interface Shape {
  readonly what: string;
  readonly records: readonly Fields[];
  /** What a row holds, by column; blank cells are left out. */
  readonly rows: readonly Fields[];
  readonly told?: string;
  readonly options?: LoadOptions;
}

const SHAPES: readonly Shape[] = [
  {
    what: "flat",
    records: [
      { site: "Dock", fee: 3 },
      { site: "Quay", fee: 4 },
    ],
    rows: [
      { site: "Dock", fee: 3 },
      { site: "Quay", fee: 4 },
    ],
  },
  {
    what: "fields that only some have",
    records: [{ site: "Dock" }, { site: "Quay", fee: 4 }],
    rows: [{ site: "Dock" }, { site: "Quay", fee: 4 }],
  },
  {
    what: "null and blank",
    records: [
      { site: "Dock", fee: null },
      { site: "Quay", fee: 4 },
    ],
    rows: [{ site: "Dock" }, { site: "Quay", fee: 4 }],
  },
  {
    what: "truth values",
    records: [
      { site: "Dock", open: true },
      { site: "Quay", open: false },
    ],
    rows: [
      { site: "Dock", open: true },
      { site: "Quay", open: false },
    ],
  },
  {
    what: "an object inside",
    records: [{ site: { name: "Dock", town: "Ahrstadt" }, fee: 3 }],
    rows: [{ "site.name": "Dock", "site.town": "Ahrstadt", fee: 3 }],
  },
  { what: "objects three deep", records: [{ a: { b: { c: "x", d: 2 } } }], rows: [{ "a.b.c": "x", "a.b.d": 2 }] },
  {
    what: "a list of words",
    records: [{ site: "Dock", days: ["Mon", "Tue"] }],
    rows: [{ site: "Dock", days: "Mon, Tue" }],
    told: "list-kept-as-text",
  },
  {
    what: "an empty list beside rows",
    records: [
      { site: "Dock", days: [] },
      { site: "Quay", days: ["Mon"] },
    ],
    rows: [{ site: "Dock" }, { site: "Quay", days: "Mon" }],
    told: "list-kept-as-text",
  },
  {
    what: "a ticket with people",
    records: [
      {
        ticket: 7,
        who: "Ann",
        people: [
          { name: "Ben", phone: "22" },
          { name: "Cem", phone: "33" },
        ],
      },
    ],
    rows: [
      { ticket: 7, who: "Ann", name: "Ben", phone: 22 },
      { ticket: 7, who: "Ann", name: "Cem", phone: 33 },
    ],
  },
  {
    what: "two tickets, one without people",
    records: [
      { ticket: 7, people: [{ name: "Ben" }] },
      { ticket: 8, people: [] },
    ],
    rows: [{ ticket: 7, name: "Ben" }, { ticket: 8 }],
  },
  {
    what: "a list that some records have not",
    records: [{ ticket: 7, people: [{ name: "Ben" }, { name: "Cem" }] }, { ticket: 8 }],
    rows: [{ ticket: 7, name: "Ben" }, { ticket: 7, name: "Cem" }, { ticket: 8 }],
  },
  {
    what: "fields behind the list",
    records: [{ ticket: 7, people: [{ name: "Ben" }, { name: "Cem" }], state: "open" }],
    rows: [
      { ticket: 7, state: "open", name: "Ben" },
      { ticket: 7, state: "open", name: "Cem" },
    ],
  },
  {
    what: "names that clash",
    records: [{ name: "T7", people: [{ name: "Ben" }, { name: "Cem" }] }],
    rows: [
      { name: "T7", "people.name": "Ben" },
      { name: "T7", "people.name": "Cem" },
    ],
  },
  {
    what: "objects inside the entries",
    records: [{ ticket: 7, people: [{ name: "Ben", home: { town: "Ahrstadt" } }] }],
    rows: [{ ticket: 7, name: "Ben", "home.town": "Ahrstadt" }],
  },
  {
    what: "a list inside an object",
    records: [{ ticket: 7, work: { by: "Ann", parts: [{ part: "rope" }, { part: "door" }] } }],
    rows: [
      { ticket: 7, "work.by": "Ann", part: "rope" },
      { ticket: 7, "work.by": "Ann", part: "door" },
    ],
  },
  {
    what: "a list in a list",
    records: [
      {
        site: "Dock",
        units: [
          { unit: "L-1", visits: [{ day: "Mon" }, { day: "Tue" }] },
          { unit: "L-2", visits: [] },
        ],
      },
    ],
    rows: [
      { site: "Dock", unit: "L-1", day: "Mon" },
      { site: "Dock", unit: "L-1", day: "Tue" },
      { site: "Dock", unit: "L-2" },
    ],
  },
  {
    what: "words in the entries' lists",
    records: [{ site: "Dock", units: [{ unit: "L-1", days: ["Mon", "Tue"] }] }],
    rows: [{ site: "Dock", unit: "L-1", days: "Mon, Tue" }],
    told: "list-kept-as-text",
  },
  {
    what: "entries that are no objects among those that are",
    records: [{ site: "Dock", units: [{ unit: "L-1" }, "L-2"] }],
    rows: [
      { site: "Dock", unit: "L-1" },
      { site: "Dock", units: "L-2" },
    ],
  },
  {
    what: "long numbers stay whole",
    records: [{ site: "Dock", id: "12345678901234567890", units: [{ unit: "98765432109876543210" }] }],
    rows: [{ site: "Dock", id: "12345678901234567890", unit: "98765432109876543210" }],
  },
  {
    what: "several lists, one of them named",
    records: [{ ticket: 7, people: [{ name: "Ben" }], parts: [{ part: "rope" }, { part: "door" }] }],
    rows: [
      { ticket: 7, people: '[{"name":"Ben"}]', part: "rope" },
      { ticket: 7, people: '[{"name":"Ben"}]', part: "door" },
    ],
    options: { list: "parts" },
    told: "list-kept-as-text",
  },
  {
    what: "only the outer of two lists, as named",
    records: [{ site: "Dock", units: [{ unit: "L-1", visits: [{ day: "Mon" }] }] }],
    rows: [{ site: "Dock", unit: "L-1", visits: '[{"day":"Mon"}]' }],
    options: { list: "units" },
    told: "list-kept-as-text",
  },
  {
    what: "an empty object inside",
    records: [{ site: "Dock", more: {}, fee: 3 }],
    rows: [{ site: "Dock", more: "{}", fee: 3 }],
  },
  {
    what: "names with dots",
    records: [{ "site.name": "Dock", site: { town: "Ahrstadt" } }],
    rows: [{ "site.name": "Dock", "site.town": "Ahrstadt" }],
  },
  { what: "one record", records: [{ site: "Dock", fee: 3 }], rows: [{ site: "Dock", fee: 3 }] },
];

const WRAPPERS: readonly {
  readonly name: string;
  readonly text: (records: readonly Fields[]) => string;
  readonly more?: Fields;
  readonly inner?: string;
}[] = [
  { name: "an array", text: (records) => JSON.stringify(records) },
  { name: "an array with line breaks", text: (records) => JSON.stringify(records, null, 2) },
  { name: "lines", text: (records) => records.map((one) => JSON.stringify(one)).join("\n") },
  {
    name: "an object around it",
    text: (records) => JSON.stringify({ made: "desk", visits: records }),
    more: { made: "desk" },
    inner: "visits.",
  },
];

const read = (text: string, options: LoadOptions = {}) => {
  const loaded = loadTable(Buffer.from(text), "file.json", options);
  const rows = Array.from({ length: loaded.table.rowCount }, (_, row) =>
    Object.fromEntries(
      loaded.table.columns.flatMap(({ name, values }) =>
        values[row] === null || values[row] === "" ? [] : [[name, values[row]]],
      ),
    ),
  );
  return { rows, codes: loaded.findings.map((one) => one.code), loaded };
};

const MADE = SHAPES.flatMap((shape) => WRAPPERS.map((wrapper) => [shape.what, wrapper.name, shape, wrapper] as const));

describe("shapes of JSON", () => {
  it.each(MADE)("%s in %s", (_, __, { records, rows, told, options }, { text, more = {}, inner = "" }) => {
    const list = options?.list === undefined ? {} : { list: `${inner}${options.list}` };
    const found = read(text(records), { ...options, ...list });
    expect(found.rows).toEqual(rows.map((row) => ({ ...more, ...row })));
    if (told !== undefined) expect(found.codes).toContain(told);
    else expect(found.codes).not.toContain("list-kept-as-text");
  });

  it.each(WRAPPERS.map((one) => [one.name, one] as const))(
    "asks which of several lists holds the rows, in %s",
    (_, { text }) => {
      const records = [{ ticket: 7, people: [{ name: "Ben" }], parts: [{ part: "rope" }] }];
      const failure = (() => {
        try {
          return read(text(records)).rows;
        } catch (error) {
          return error as CorbixError;
        }
      })();
      expect(failure).toBeInstanceOf(CorbixError);
      expect(failure).toMatchObject({ code: "NO_TABLE" });
      expect((failure as CorbixError).message).toMatch(/people.*parts/);
      expect((failure as CorbixError).advice).toContain("Correct the list");
    },
  );

  it("reads rows that are lists, with or without their names beside them", () => {
    const want = [
      { site: "Dock", fee: 3 },
      { site: "Quay", fee: 4 },
    ];
    expect(read('[["site","fee"],["Dock",3],["Quay",4]]').rows).toEqual(want);
    expect(read('{"data":[["site","fee"],["Dock",3],["Quay",4]]}').rows).toEqual(want);
    expect(read('{"columns":["site","fee"],"data":[["Dock",3],["Quay",4]]}').rows).toEqual(want);
  });

  it("refuses an export without records, and a list that is not there with the nearest name", () => {
    expect(() => read('{"made":"desk","visits":[]}')).toThrow("there are no rows");
    expect(() => read('[{"ticket":7,"people":[{"name":"Ben"}]}]', { list: "peoples" })).toThrow(CorbixError);
    expect(() => read('[{"site":"Dock"},"Quay"]')).toThrow("record that is no object");
  });
});
