import { inflateEntry, readZip } from "@corbix/core/ooxml";
import { readCards } from "@corbix/core/recipients";
import { planRun } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { parse } from "csv-parse/sync";
import ICAL from "ical.js";
import iconv from "iconv-lite";
import { describe, expect, it } from "vitest";
import { inputOf, parcelsOf, type SmallRun } from "../support/small-run.js";

const ROWS = [
  "Site,Unit,Visit,Hours,Fee,Remark,Next,Contact,Mail",
  'Dock,L1,2026-10-05,1.5,"1234.5","Doors, ""stiff""",2026-11-02 09:30,Ann Brook,ann@dock.example',
  "Dock,L2,2026-10-20,2,0.1,=1+1,,Ann Brook,ann@dock.example",
  'Dock,L3,2026-10-21,0.25,-12,"two\nlines",2026-12-24 16:00,Ben Żak,ben@dock.example',
  "Quay,E1,2026-10-07,3,7,+41 44 000,2026-11-09 08:00,Cem,cem@quay.example",
].join("\n");

const of = (list: string, more: Partial<SmallRun> = {}) => {
  const run: SmallRun = {
    rows: ROWS,
    report: `split: Site\nfiles: { out: { name: "{{ site }}", list: ${list} } }\n`,
    ...more,
  };
  const parcel = parcelsOf(run).get("Dock");
  const file = parcel?.files[0];
  if (!parcel || !file) throw new Error("no file");
  return { ...file, text: Buffer.from(file.bytes).toString("utf8"), findings: parcel.findings };
};
const refusal = (list: string, more: Partial<SmallRun> = {}): string => {
  try {
    of(list, more);
  } catch (error) {
    const { message, where, advice } = error as { message: string; where: string; advice: string };
    return [where, message, advice].join(" | ");
  }
  throw new Error("nothing was refused");
};

describe("delimited text", () => {
  it("is read back as it was by another reader: quotes, line ends, exact numbers, ISO days", () => {
    const made = of("{ form: delimited }");
    expect([made.kind, made.path]).toEqual(["csv", "Dock.csv"]);
    expect(made.text.startsWith("Site,Unit,Visit,Hours,Fee,Remark,Next,Contact,Mail\r\n")).toBe(true);
    const rows = parse(made.text, { columns: true }) as Record<string, string>[];
    expect(rows.map(({ Unit, Visit, Hours, Fee, Next }) => [Unit, Visit, Hours, Fee, Next])).toEqual([
      ["L1", "2026-10-05", "1.5", "1234.5", "2026-11-02T09:30:00"],
      ["L2", "2026-10-20", "2", "0.1", ""],
      ["L3", "2026-10-21", "0.25", "-12", "2026-12-24T16:00:00"],
    ]);
    expect(rows.map(({ Remark }) => Remark)).toEqual(['Doors, "stiff"', "'=1+1", "two\nlines"]);
  });

  it("guards against texts that a spreadsheet would calculate, and tells", () => {
    expect(of("{ form: delimited }").findings).toMatchObject([
      { code: "text-like-formula", severity: "note", what: expect.stringContaining("1 text that a spreadsheet") },
    ]);
    const open = of("{ form: delimited, guard: false }");
    expect(open.text).toContain(",=1+1,");
    expect(open.findings).toMatchObject([{ code: "text-like-formula", severity: "warn" }]);
    // A telephone number is no formula, and a negative number is a number.
    const phones = parcelsOf({
      rows: "Site,Phone,Fee\nDock,+41 44 000,-3\nDock,-12 (a),4\n",
      report: 'split: Site\nfiles: { out: { name: "{{ site }}", list: { form: delimited } } }\n',
    }).get("Dock");
    expect(Buffer.from(phones?.files[0]?.bytes ?? []).toString()).toBe(
      "Site,Phone,Fee\r\nDock,+41 44 000,-3\r\nDock,'-12 (a),4\r\n",
    );
  });

  it("has the delimiter, quotes, decimal sign, line ends, columns and formats that are asked for", () => {
    const made = of(
      '{ form: delimited, ending: txt, delimiter: ";", quotes: text, decimal: ",", lineEnds: lf, columns: [unit, { column: fee, heading: "Fee CHF" }, { column: visit, format: "dd.mm.yyyy" }] }',
    );
    expect(made.path).toBe("Dock.txt");
    expect(made.text).toBe(
      '"Unit";"Fee CHF";"Visit"\n"L1";1234,5;05.10.2026\n"L2";0,1;20.10.2026\n"L3";-12;21.10.2026\n',
    );
    // The sign that is asked for holds for formats too, whatever the report's language.
    const formatted = (decimal: string, locale: string) =>
      of(
        `{ form: delimited, delimiter: ";", decimal: "${decimal}", headings: false, columns: [{ column: fee, format: "#,##0.00" }] }`,
        {
          report: `split: Site\nlocale: ${locale}\nfiles: { out: { name: "{{ site }}", list: { form: delimited, delimiter: ";", decimal: "${decimal}", headings: false, columns: [{ column: fee, format: "#,##0.00" }] } } }\n`,
        },
      ).text;
    for (const locale of ["en-GB", "de-CH", "de"]) {
      expect(formatted(",", locale)).toBe("1.234,50\r\n0,10\r\n-12,00\r\n");
      expect(formatted(".", locale)).toBe("1,234.50\r\n0.10\r\n-12.00\r\n");
    }
    expect(of("{ form: delimited, delimiter: tab, headings: false, columns: [unit, hours] }").text).toBe(
      "L1\t1.5\r\nL2\t2\r\nL3\t0.25\r\n",
    );
    expect(of("{ form: delimited, quotes: all, columns: [unit] }").text).toBe('"Unit"\r\n"L1"\r\n"L2"\r\n"L3"\r\n');
    expect(refusal("{ form: delimited, quotes: none }")).toContain(
      "without quotes: it holds the delimiter or a line end",
    );
  });

  it("is in the encoding that is asked for, and never loses a sign without a word", () => {
    const made = of("{ form: delimited, encoding: windows-1250, columns: [contact] }");
    expect(iconv.decode(Buffer.from(made.bytes), "windows-1250")).toContain("Ben Żak");
    expect([...of("{ form: delimited, encoding: utf-8-bom, columns: [unit] }").bytes.subarray(0, 3)]).toEqual([
      0xef, 0xbb, 0xbf,
    ]);
    expect([...of("{ form: delimited, encoding: utf-16le, columns: [unit] }").bytes.subarray(0, 4)]).toEqual([
      0xff, 0xfe, 0x55, 0x00,
    ]);
    expect(refusal("{ form: delimited, encoding: windows-1252, columns: [contact] }")).toMatch(
      /encoding \| Cannot write the file in windows-1252: it has no sign for Ż\. \| Choose utf-8/,
    );
  });

  it("names a column there is not with the nearest, and refuses one heading twice", () => {
    expect(refusal("{ form: delimited, columns: [unt] }")).toMatch(/files, out, list, columns \|.*`unt`.*\| .*Unit/);
    expect(refusal("{ form: json, columns: [unit, { column: fee, heading: Unit }] }")).toContain(
      "two columns under the heading",
    );
    expect(refusal("{ form: delimited, event: { title: x, begins: visit } }")).toContain("icalendar needs an event");
  });
});

describe("text of fixed widths", () => {
  it("puts each value in its place, numbers to the right", () => {
    const made = of(
      "{ form: fixed-width, headings: false, columns: [{ column: unit, width: 4 }, { column: fee, width: 9 }, { column: visit, width: 12, align: right }] }",
    );
    expect(made.text).toBe("L1     1234.5  2026-10-05\r\nL2        0.1  2026-10-20\r\nL3        -12  2026-10-21\r\n");
  });

  it("cuts nothing: a value that is too long stops, with its line", () => {
    expect(refusal("{ form: fixed-width, columns: [{ column: contact, width: 8 }] }")).toMatch(
      /line 1 \| Cannot write `Ann Brook` in the column Contact: it has 9 signs, and there is room for 8/,
    );
    expect(refusal("{ form: fixed-width, columns: [unit] }")).toContain("the column Unit has none");
  });
});

describe("JSON", () => {
  it("keeps numbers as numbers, days as ISO texts, blanks as null", () => {
    const columns = "columns: [unit, fee, visit, next]";
    expect(JSON.parse(of(`{ form: json, ${columns} }`).text)).toEqual([
      { Unit: "L1", Fee: 1234.5, Visit: "2026-10-05", Next: "2026-11-02T09:30:00" },
      { Unit: "L2", Fee: 0.1, Visit: "2026-10-20", Next: null },
      { Unit: "L3", Fee: -12, Visit: "2026-10-21", Next: "2026-12-24T16:00:00" },
    ]);
    const lines = of(`{ form: json-lines, ${columns} }`);
    expect(lines.path).toBe("Dock.jsonl");
    expect(
      lines.text
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line).Unit),
    ).toEqual(["L1", "L2", "L3"]);
  });
});

describe("an OpenDocument spreadsheet", () => {
  it("is read back with its types, and begins with its media type", () => {
    const made = of(
      '{ form: ods, title: "{{ site }}", columns: [unit, visit, { column: fee, format: "#,##0.00" }, remark, next] }',
    );
    expect(made.path).toBe("Dock.ods");
    expect(Buffer.from(made.bytes.subarray(30, 84)).toString()).toBe(
      "mimetypeapplication/vnd.oasis.opendocument.spreadsheet",
    );
    const { table } = loadTable(made.bytes, "Dock.ods");
    expect(table.columns.map(({ name, type }) => `${name} ${type}`)).toEqual([
      "Unit text",
      "Visit date",
      "Fee number",
      "Remark text",
      "Next datetime",
    ]);
    expect(table.columns[2].values).toEqual([1234.5, 0.1, -12]);
    expect(table.columns[3].values).toEqual(['Doors, "stiff"', "=1+1", "two\nlines"]);
    const content = readZip(made.bytes).find(({ name }) => name === "content.xml");
    const xml = content ? Buffer.from(inflateEntry(content)).toString() : "";
    expect(xml).toContain('number:decimal-places="2"');
    expect(xml).toContain('table:name="Dock"');
  });
});

describe("a table of HTML", () => {
  it("is a page of its own in which no value is markup", () => {
    const made = of('{ form: html, title: "Visits at {{ site }}" }', {
      rows: ROWS.replace("Ben Żak", "<script>x</script>"),
    });
    expect(made.path).toBe("Dock.html");
    expect(made.text).toContain("<caption>Visits at Dock</caption>");
    expect(made.text).toContain("&lt;script&gt;x&lt;/script&gt;");
    expect(made.text).not.toContain("<script>");
    expect(made.text).toContain("<td>05/10/2026</td>");
  });
});

describe("entries", () => {
  it("for a calendar are read by another reader: days, times in a zone, reminders; lines without a day are told", () => {
    const made = of(
      '{ form: icalendar, event: { title: "Inspection {{ line.unit }}, {{ site }}", id: "{{ line.unit }}", begins: line.next, minutes: 45, zone: Europe/Zurich, place: "{{ site }}; hall", text: "{{ line.remark }}", remind: 60 } }',
    );
    expect(made.path).toBe("Dock.ics");
    expect(made.text.split("\r\n").every((line) => Buffer.byteLength(line) <= 75)).toBe(true);
    const events = new ICAL.Component(ICAL.parse(made.text))
      .getAllSubcomponents("vevent")
      .map((one) => new ICAL.Event(one));
    expect(
      events.map(({ summary, location, startDate, endDate }) => [
        summary,
        location,
        startDate.toString(),
        endDate.toString(),
      ]),
    ).toEqual([
      ["Inspection L1, Dock", "Dock; hall", "2026-11-02T08:30:00Z", "2026-11-02T09:15:00Z"],
      ["Inspection L3, Dock", "Dock; hall", "2026-12-24T15:00:00Z", "2026-12-24T15:45:00Z"],
    ]);
    expect(events[1]?.description).toBe("two\nlines");
    expect(made.findings).toMatchObject([
      { code: "entry-without-day", what: expect.stringContaining("1 line has no day") },
    ]);
    // The same visit at another time is the same entry.
    const moved = of(
      '{ form: icalendar, event: { title: "Inspection {{ line.unit }}", id: "{{ line.unit }}", begins: line.next } }',
      { rows: ROWS.replace("2026-11-02 09:30", "2026-11-03 10:00") },
    );
    expect(/^UID:.*$/m.exec(moved.text)?.[0]).toBe(/^UID:.*$/m.exec(made.text)?.[0]);
    const whole = of(
      '{ form: icalendar, event: { title: "{{ line.unit }}", begins: line.visit, ends: line.visit + 1 } }',
    );
    expect(whole.text).toContain("DTSTART;VALUE=DATE:20261005\r\nDTEND;VALUE=DATE:20261007");
    expect(refusal("{ form: icalendar, event: { title: x, begins: line.unit } }")).toContain(
      "Cannot read `L1` as a day",
    );
  });

  it("of people are cards, each person once", () => {
    const made = of(
      '{ form: vcard, card: { name: "{{ line.contact }}", email: "{{ line.mail }}", organization: "{{ site }}", note: "A; B, C" } }',
    );
    const { recipients } = readCards(made.text, "x.vcf");
    expect(made.text.match(/BEGIN:VCARD/g)).toHaveLength(2);
    expect(made.text).toContain("NOTE:A\\; B\\, C\r\n");
    expect(recipients.length).toBeLessThanOrEqual(2);
    expect(made.text).toContain("FN:Ben Żak");
  });
});

describe("lists", () => {
  it("hold further lines, and rows of all groups stop the run", () => {
    const costs = { others: { costs: "Place,Kind\nDock,parts\nDock,labour\nQuay,parts\n" } };
    const report = (lines: string) =>
      `split: Site\nlines: { costs: { data: costs, match: { site: place } } }\nfiles: { out: { name: "{{ site }}", list: { form: delimited, lines: ${lines} } } }\n`;
    const parcel = parcelsOf({ rows: ROWS, report: report("costs"), ...costs }).get("Dock");
    expect(Buffer.from(parcel?.files[0]?.bytes ?? []).toString()).toBe("Place,Kind\r\nDock,parts\r\nDock,labour\r\n");
    const { plan } = planRun(inputOf({ rows: ROWS, report: report("all"), ...costs }));
    expect(plan.findings.map(({ code }) => code)).toContain("rows-of-others");
  });

  it("are searched for names of other groups where the report is sealed", () => {
    const parcel = parcelsOf({
      rows: ROWS.replace("Doors,", "like Quay,"),
      report: 'split: Site\nsealed: true\nfiles: { out: { name: "{{ site }}", list: { form: delimited } } }\n',
    }).get("Dock");
    expect(parcel?.findings.map(({ code }) => code)).toContain("other-group-inside");
  });

  it("make a file and a folder for each of 188 groups", () => {
    const rows = Array.from({ length: 188 * 3 }, (_, at) => `Site ${at % 188},${at}`);
    const made = parcelsOf({
      rows: ["Site,Fee", ...rows].join("\n"),
      report: 'split: Site\nfiles: { out: { name: "rows", folder: "{{ site }}", list: { form: delimited } } }\n',
    });
    const paths = [...made.values()].flatMap(({ files }) => files.map(({ path }) => path));
    expect(new Set(paths).size).toBe(188);
    expect(paths[187]).toMatch(/^Site \d+\/rows\.csv$/);
  });
});
