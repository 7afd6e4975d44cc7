/** One group's parcel as the service and the command make it: files, pages, locks, messages, and what is found on the way. */
import { type Period, plainPeriods } from "@corbix/core/calendar";
import { CorbixError } from "@corbix/core/common";
import { decryptPackage, OoxmlPackage } from "@corbix/core/ooxml";
import {
  furtherOf,
  periodsMissed,
  planCaughtUp,
  planRun,
  planSentences,
  tryMessage,
  tryOut,
  withCaughtUp,
} from "@corbix/core/run";
import { Deck, titleOf } from "@corbix/core/slides";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { handDeck, title } from "../support/hand-deck.js";
import { makeWorkbook, openElsewhere, readDocumentElsewhere, readPdf, shown } from "../support/helpers.js";
import { inputOf, letter, parcelsOf, type SmallRun } from "../support/small-run.js";
import { problemsOf } from "../support/validate.js";
import { problemsOfDeck } from "../support/validate-deck.js";

const ROWS =
  "Site,Unit,Day,Fee,Key\nDock,L1,2026-10-02,10,open-dock\nDock,L2,2026-10-04,5,open-dock\nQuay,L3,2026-10-05,20.5,\n";
const PEOPLE =
  "Site,Name,Addresses,Language,Copies,Role\nDock,Ann,ann@dock.example,,chief@dock.example,\nDock,Bruno,bruno@dock.example,de-CH,,\nDock,Chris,chris@dock.example,,,copy\nQuay,Dora,dora@quay.example,,,\n";
const sheet = await makeWorkbook((_, one) => {
  one.addRow(["Unit", "Fee"]);
  one.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
  one.addRow(["Total", { formula: "SUM(B2:B2)", result: 0 }]);
  one.getCell("B3").protection = { locked: false };
});
const statement = await letter("Statement for {{ site }}", "{{ count(line) }} visits, {{ sum(line.fee) }} francs");
const extra = await letter("Terms for {{ site }}");
const month = { "m.docx": await letter("{{ period.label }}: {{ count(line) }} visits") };
const templates = { "s.xlsx": sheet, "l.docx": statement, "terms.docx": extra };

const run = (report: string, more: Partial<SmallRun> = {}): SmallRun => ({
  report: `split: Site\n${report}`,
  rows: ROWS,
  templates,
  ...more,
});
const text = (bytes: Uint8Array | undefined) => readDocumentElsewhere(bytes as Uint8Array);
const thrown = (work: () => unknown): CorbixError => {
  try {
    work();
  } catch (error) {
    if (error instanceof CorbixError) return error;
    throw error;
  }
  throw new Error("nothing was thrown");
};

describe("a parcel's files", () => {
  it("are made as planned, each under its path, with pages where they are asked for", () => {
    const files =
      "files:\n  rows: { name: '{{ site }} rows', folder: books, template: s.xlsx, pdf: too }\n  note: { name: 'Note {{ site }}', template: l.docx, pdf: only }\n  big: { name: Big, table: {}, when: sum(line.fee) > 18 }\n";
    const parcels = parcelsOf(run(files));
    expect(parcels.get("Dock")?.files.map((file) => file.path)).toEqual([
      "books/Dock rows.xlsx",
      "books/Dock rows.pdf",
      "Note Dock.pdf",
    ]);
    expect(parcels.get("Quay")?.files.map((file) => file.path)).toContain("Big.xlsx");
    const [book, pages, note] = parcels.get("Dock")?.files ?? [];
    expect(problemsOf(book.bytes)).toEqual([]);
    expect([book.pages, pages.pages, note.pages]).toEqual([undefined, 1, 1]);
    expect(readPdf(note.bytes, "pdftotext")).toContain("2 visits, 15 francs");
    expect(readPdf(pages.bytes, "pdftotext")).toMatch(/Total\s+15/);
    expect(readPdf(pages.bytes, "pdfinfo")).toMatch(/Title:\s+Dock rows/);
  });

  it("leave with values only where that is asked for, with the sheets that stay", async () => {
    const two = await makeWorkbook((book, one) => {
      one.addRow(["{{ line.unit }}", "{{ line.fee }}"]);
      book.addWorksheet("Sum").addRow([{ formula: "SUM('Sheet one'!B1:B1)", result: 0 }, "{{ site }}"]);
    });
    const files = "files: { f: { name: f, template: t.xlsx, values: true, sheets: [Sum] } }\n";
    const made = parcelsOf(run(files, { templates: { "t.xlsx": two } })).get("Dock")?.files[0].bytes as Uint8Array;
    const book = await openElsewhere(made);
    expect(book.worksheets.map((one) => one.name)).toEqual(["Sum"]);
    expect([book.worksheets[0].getCell("A1").value, shown(book.worksheets[0], "B1")]).toEqual([15, "Dock"]);
  });

  it("are locked: files open with the group's own password, pages too, and sheets are protected", () => {
    const lock =
      "protect: { password: '{{ key }}', sheets: true, sheetPassword: 'x{{ key }}', readOnly: true, allow: [print] }";
    const only = run(
      `files: { f: { name: f, template: s.xlsx, pdf: too, ${lock} }, l: { name: l, template: l.docx, ${lock.replace("sheets: true, sheetPassword: 'x{{ key }}', ", "")} } }\n`,
      {
        rows: ROWS.replace("20.5,\n", "20.5,quay-key\n"),
      },
    );
    const [book, pages, document] = parcelsOf(only).get("Dock")?.files ?? [];
    const opened = OoxmlPackage.open(decryptPackage(book.bytes, "open-dock", "f.xlsx"), "f.xlsx");
    expect(opened.getText("xl/worksheets/sheet1.xml")).toContain("<sheetProtection");
    expect(opened.getText("xl/workbook.xml")).toContain("readOnlyRecommended");
    expect(() => decryptPackage(book.bytes, "quay-key", "f.xlsx")).toThrow(CorbixError);
    expect(text(decryptPackage(document.bytes, "open-dock", "l.docx"))[0]).toBe("Statement for Dock");
    expect(() => readPdf(pages.bytes, "pdftotext")).toThrow(/password/i);
    expect(readPdf(pages.bytes, "pdfinfo", ["-upw", "open-dock"])).toMatch(/Encrypted:\s+yes \(print:yes copy:no/);
  });

  it("are slide decks too: locked, behind each other, as handouts, sealed, with provenance", () => {
    const deck = handDeck({
      slides: [
        { shapes: title("For {{ site }}"), notes: "{{ count(line) }} visits" },
        { shapes: title("{{ line.unit }}"), notes: "{{repeat slide line}}" },
        { shapes: title("Hidden"), isHidden: true },
      ],
    });
    const decks = {
      "d.pptx": deck,
      "end.pptx": handDeck({ slides: [{ shapes: title("Terms for {{ site }}, not Quay") }] }),
    };
    const deckOf = (bytes: Uint8Array): string[] => {
      const opened = OoxmlPackage.open(bytes, "d.pptx");
      return new Deck(opened).slides.map(({ part }) => titleOf(opened.getXml(part)));
    };
    const own = (file: string, more = ""): SmallRun =>
      run(`${more}files: { d: { name: '{{ site }} deck', template: d.pptx, ${file} } }\n`, { templates: decks });
    const [locked, pages] =
      parcelsOf({
        ...own("pdf: too, protect: { password: '{{ key }}' }"),
        rows: ROWS.replace("20.5,\n", "20.5,k\n"),
      }).get("Dock")?.files ?? [];
    expect(locked.path).toBe("Dock deck.pptx");
    expect(deckOf(decryptPackage(locked.bytes, "open-dock", "d.pptx"))).toEqual(["For Dock", "L1", "L2", "Hidden"]);
    expect(() => OoxmlPackage.open(locked.bytes, "d.pptx")).toThrow(CorbixError);
    expect(pages.pages).toBe(3);
    expect(() => readPdf(pages.bytes, "pdftotext")).toThrow(/password/i);
    expect(readPdf(pages.bytes, "pdfinfo", ["-upw", "open-dock"])).toMatch(/Title:\s+Dock deck/);

    const joined = parcelsOf(own("followedBy: [{ template: end.pptx, when: sum(line.fee) > 18 }]"));
    expect(deckOf(joined.get("Dock")?.files[0].bytes as Uint8Array)).toEqual(["For Dock", "L1", "L2", "Hidden"]);
    expect(deckOf(joined.get("Quay")?.files[0].bytes as Uint8Array).slice(-1)).toEqual(["Terms for Quay, not Quay"]);

    const paged = (more: string): number | undefined =>
      parcelsOf(own(`pdf: only, ${more}`)).get("Dock")?.files[0].pages;
    expect([paged("hiddenSlides: true"), paged("pages: two"), paged("pages: notes")]).toEqual([4, 2, 3]);

    const leaking = parcelsOf(own("followedBy: [end.pptx]", "sealed: true\n")).get("Dock")?.findings ?? [];
    expect(leaking.map((one) => `${one.severity} ${one.code}`)).toEqual(["stop other-group-inside"]);
    expect(leaking[0].where).toMatch(/^Dock deck, ppt\/slides\/slide\d\.xml$/);
  });

  it("are decks made from a list of slides", () => {
    const slides =
      "slides: { list: [{ title: '{{ site }}', cover: true }, { title: '{{ unit }}', each: { by: unit }, table: 'day, fee total' }] }";
    const files = parcelsOf(run(`files: { talk: { name: Talk, pdf: too, ${slides} } }\n`)).get("Dock")?.files ?? [];
    expect(files.map(({ path, pages }) => [path, pages])).toEqual([
      ["Talk.pptx", undefined],
      ["Talk.pdf", 3],
    ]);
    expect(readPdf(files[1].bytes, "pdftotext")).toMatch(/Dock[\s\S]*L1[\s\S]*L2/);
    const chart = "slides: { list: [{ title: Fees, chart: { of: 'unit, fee' } }] }";
    const [deck, plain] = ["", "values: true, "].map((values) => {
      const made = parcelsOf(run(`files: { talk: { name: Talk, ${values}${chart} } }\n`)).get("Dock")?.files[0].bytes;
      expect(problemsOfDeck(made as Uint8Array)).toEqual([]);
      return OoxmlPackage.open(made as Uint8Array, "x");
    });
    const books = (opened: OoxmlPackage): number => opened.names.filter((name) => name.endsWith(".xlsx")).length;
    expect([books(deck), books(plain)]).toEqual([1, 0]);
    const [shownChart] = plain.names.filter((name) => name.startsWith("ppt/charts/chart"));
    const values = plain.getXml(shownChart).descendants("v");
    expect(values.map((one) => one.text)).toEqual(["Fee", "L1", "L2", "10", "5"]);
    const both = "files: { talk: { name: Talk, template: s.xlsx, slides: { list: [{ title: x }] } } }\n";
    expect(thrown(() => parcelsOf(run(both))).message).toContain("either a template, a table, slides or a list");
    const cover = "files: { talk: { name: Talk, slides: { list: [{ title: x, cover: true, table: unit }] } } }\n";
    expect(thrown(() => parcelsOf(run(cover))).message).toContain("a cover has a title and a text");
    // What a deck cannot do is refused, not passed over: somebody counts on it.
    for (const [more, what] of [
      ["sheetPer: { by: unit }", "sheetPer belongs to a workbook"],
      ["values: true, sheets: [x]", "neither sheets nor protect, sheets"],
      ["protect: { sheets: true }", "neither sheets nor protect, sheets"],
      ["grows: true", "grows belong to"],
    ])
      expect(
        thrown(() => parcelsOf(run(`files: { talk: { name: Talk, ${more}, slides: { list: [{ title: x }] } } }\n`)))
          .message,
      ).toContain(what);
    for (const template of ["l.docx", "l.pptx"])
      expect(
        thrown(() => parcelsOf(run(`files: { f: { name: f, template: ${template}, protect: { sheets: true } } }\n`)))
          .message,
      ).toContain("neither sheets nor protect, sheets");
    const wrong = "files: { talk: { name: Talk, slides: { list: [{ title: '{{ sitte }}' }] } } }\n";
    const error = thrown(() => parcelsOf(run(wrong)));
    expect([error.where, error.message]).toEqual([
      expect.stringContaining("slide 1, Title"),
      expect.stringContaining("sitte"),
    ]);
  });

  it.each([
    ["password: '{{ key }}'", "protect, password"],
    ["sheets: true, sheetPassword: '{{ key }}'", "protect, sheetPassword"],
  ])("do not leave open where the group has no password: %s", (lock, where) => {
    const error = thrown(() => parcelsOf(run(`files: { f: { name: f, template: s.xlsx, protect: { ${lock} } } }\n`)));
    expect([error.code, error.where]).toEqual(["BAD_DEFINITION", `group Quay, file f, ${where}`]);
    expect(error.message).toContain("is blank");
  });

  it("limit what may be done with pages that anybody opens", () => {
    const lock = "files: { f: { name: f, template: s.xlsx, pdf: only, protect: { allow: [copy] } } }\n";
    const [pages] = parcelsOf(run(lock)).get("Quay")?.files ?? [];
    expect(readPdf(pages.bytes, "pdfinfo")).toMatch(/print:no copy:yes/);
    expect(readPdf(pages.bytes, "pdftotext")).toContain("L3");
  });

  it("hold the documents that follow, each on its condition", () => {
    const follow = "followedBy: [terms.docx, { template: l.docx, when: sum(line.fee) > 18 }]";
    const parcels = parcelsOf(run(`files: { f: { name: f, template: l.docx, ${follow} } }\n`));
    expect(text(parcels.get("Dock")?.files[0].bytes)).toEqual([
      "Statement for Dock",
      "2 visits, 15 francs",
      "Terms for Dock",
    ]);
    expect(text(parcels.get("Quay")?.files[0].bytes).slice(2)).toEqual([
      "Terms for Quay",
      "Statement for Quay",
      "1 visits, 20.5 francs",
    ]);
  });

  it("stop a run whose files or messages name another group, where it is sealed", async () => {
    const leaking = { "l.docx": await letter("For {{ site }}, not Quay") };
    const report =
      "sealed: true\nfiles: { f: { name: 'To {{ site }}', template: l.docx } }\nmessage: { subject: 'As Quay had', body: { text: hello } }\n";
    const findings = parcelsOf(run(report, { templates: leaking, people: PEOPLE })).get("Dock")?.findings ?? [];
    expect(findings.map((one) => `${one.severity} ${one.code} in ${one.where}`)).toEqual([
      "stop other-group-inside in To Dock, word/document.xml",
      "stop other-group-inside in message to Dock",
    ]);
    expect(parcelsOf(run(report, { templates: leaking, people: PEOPLE })).get("Quay")?.findings).toEqual([]);
  });

  it("say what a group's file came out without, once for each mark", () => {
    const [blank] =
      parcelsOf(run("files: { f: { name: f, table: { title: 'For {{ key }}, {{ key }}' } } }\n")).get("Quay")
        ?.findings ?? [];
    expect(blank).toMatchObject({ code: "blank-in-text", severity: "warn", count: 2 });
  });

  it.each([
    ["template: s.docm", "files, f", "expected a template ending in .xlsx, .docx or .pptx"],
    ["template: l.docx, cells: { A1: x }", "files, f", "Cannot use cells or sheetPer with a document"],
    ["template: l.docx, sheetPer: { by: line.unit }", "files, f", "Cannot use cells or sheetPer with a document"],
    ["template: gone.xlsx", "files, f", "Cannot find the template `gone.xlsx`"],
    ["template: l.docx, followedBy: [gone.docx]", "files, f, followedBy, gone.docx", "Cannot find the template"],
    ["template: s.xlsx, name: '{{ line.unit }}'", "files, f, name", "a group has many lines"],
    ["template: s.xlsx, folder: '{{ line.unit }}'", "files, f, folder", "a group has many lines"],
  ])("are refused before anything is made: %s", (spec, where, what) => {
    const named = spec.includes("name:") ? spec : `name: f, ${spec}`;
    const error = thrown(() =>
      parcelsOf(run(`files: { f: { ${named} } }\n`, { templates: { ...templates, "s.docm": extra } })),
    );
    expect(error.where).toBe(where);
    expect(error.message).toContain(what);
  });
});

describe("a document that grows", () => {
  const report = "period: { column: Day, every: month }\nfiles: { f: { name: f, template: m.docx, grows: true } }\n";
  const rows = "Site,Day\nDock,2026-06-01\nDock,2026-08-01\nDock,2026-09-03\nDock,2026-09-04\nDock,2026-10-01\n";
  const grow = (period: string, earlier?: NonNullable<Parameters<typeof parcelsOf>[1]>["earlier"]) =>
    parcelsOf(run(report, { rows, period, templates: month }), earlier ? { earlier } : {}).get("Dock");
  const kept = (period: string) => {
    const section = grow(period)?.files[0].sections?.[0].bytes as Uint8Array;
    return { period, section: () => section };
  };

  it("begins with its first period, and keeps that section apart", () => {
    const first = grow("2026-08");
    expect(text(first?.files[0].bytes)).toEqual(["August 2026: 1 visits"]);
    expect(first?.files[0].sections?.map(({ period, bytes }) => [period, text(bytes)])).toEqual([
      ["2026-08", ["August 2026: 1 visits"]],
    ]);
    expect(first?.findings).toEqual([]);
  });

  it("goes on behind what was delivered, as it was delivered", () => {
    const before = grow("2026-08")?.files[0].bytes as Uint8Array;
    const second = grow("2026-09", (file) =>
      file === "f" ? { periods: [kept("2026-08")], whole: () => before } : undefined,
    );
    expect(text(second?.files[0].bytes)).toEqual(["August 2026: 1 visits", "September 2026: 2 visits"]);
    expect(second?.findings).toEqual([]);
    const third = grow("2026-10", () => ({
      periods: [kept("2026-08"), kept("2026-09")],
      whole: () => second?.files[0].bytes as Uint8Array,
    }));
    expect(text(third?.files[0].bytes)).toHaveLength(3);
  });

  it("is put in the order of its periods, where one was delivered late", () => {
    // The newest document begins with October: September came after it.
    const late = grow("2026-10")?.files[0].bytes as Uint8Array;
    const whole = { periods: [kept("2026-08"), kept("2026-09")], whole: () => late };
    expect(text(grow("2026-10", () => whole)?.files[0].bytes)).toEqual([
      "August 2026: 1 visits",
      "September 2026: 2 visits",
      "October 2026: 1 visits",
    ]);
    // Records of old hold no sections: the newest whole document has to do.
    const old = {
      periods: [{ period: "2026-08", section: undefined }, kept("2026-09")],
      whole: () => whole.periods[1].section(),
    };
    expect(text(grow("2026-10", () => old)?.files[0].bytes)).toEqual([
      "September 2026: 2 visits",
      "October 2026: 1 visits",
    ]);
  });

  it("names the periods that are not in it, and how many more", () => {
    const whole = kept("2026-06");
    const gap = (period: string) =>
      grow(period, () => ({ periods: [whole], whole: () => whole.section() }))?.findings.map((one) => [
        one.code,
        one.severity,
        one.what,
      ]);
    expect(gap("2026-08")).toEqual([
      ["period-missing-in-document", "warn", "The file goes on without July 2026: not delivered to this group."],
    ]);
    const years = kept("2026-06");
    const long = parcelsOf(run(report, { rows: "Site,Day\nDock,2026-10-01\n", period: "2026-10", templates: month }), {
      earlier: () => ({ periods: [{ ...years, period: "2025-12" }], whole: () => years.section() }),
    }).get("Dock");
    expect(long?.findings[0].what).toBe(
      "The file goes on without January 2026, February 2026, March 2026, April 2026, May 2026, June 2026 and 3 more: not delivered to this group.",
    );
  });

  describe("makes up for the periods it goes on without", () => {
    const deck = handDeck({
      slides: [{ shapes: title("Cover") }, { shapes: title("{{ period.label }}: {{ count(line) }}"), isHidden: true }],
    });
    const decks = { "m.pptx": deck };
    const ofDeck = report.replace("m.docx", "m.pptx");
    const titles = (bytes: Uint8Array | undefined): string[] => {
      const opened = OoxmlPackage.open(bytes as Uint8Array, "deck");
      const shown = new Deck(opened).slides.filter(({ isHidden }) => !isHidden);
      return shown.map(({ part }) => titleOf(opened.getXml(part)));
    };
    /** A run of a period behind what the group Dock was delivered of others, by whole files with or without their sections. */
    const caughtUp = (period: string, held: readonly string[], { isKept = true, isDeck = true, lines = rows } = {}) => {
      const about = { rows: lines, templates: isDeck ? decks : month };
      const definition = isDeck ? ofDeck : report;
      const input = inputOf(run(definition, { ...about, period }));
      const sections = held.map((key) => {
        const made = parcelsOf(run(definition, { ...about, period: key })).get("Dock");
        return { period: key, section: () => made?.files[0].sections?.[0].bytes as Uint8Array };
      });
      const missed = periodsMissed([{ group: "dock", periods: held }], { period: input.facts.period as Period });
      const caught = missed.flatMap(({ period: one, ...whose }) => {
        const own = { ...input, facts: { ...input.facts, period: one } };
        return planCaughtUp(own, whose) ?? [];
      });
      const of = caught.flatMap(({ facts, plan }) =>
        plan.parcels.map(({ group }) => {
          const place = { number: 1, count: 1, further: furtherOf(plan.further, group) };
          return { table: plan.table, group, place, facts };
        }),
      );
      const made = parcelsOf(run(definition, { ...about, period }), {
        earlier: () => ({
          periods: sections.map((one) => (isKept ? one : { ...one, section: undefined })),
          whole: () => sections[sections.length - 1].section(),
        }),
        caughtUp: { periods: of, known: new Set(caught.map((one) => one.facts.period.key)) },
      }).get("Dock");
      return { made, caught, input };
    };

    it("a slide for each, in order, from the rows of each, and kept apart like its own", () => {
      const { made } = caughtUp("2026-09", ["2026-06"], { lines: `${rows}Dock,2026-07-01\nDock,2026-07-02\n` });
      const [file] = made?.files ?? [];
      expect(titles(file.bytes)).toEqual([
        "Cover",
        "June 2026: 1",
        "July 2026: 2",
        "August 2026: 1",
        "September 2026: 2",
      ]);
      expect(file.sections?.map((one) => one.period)).toEqual(["2026-07", "2026-08", "2026-09"]);
      expect(titles(file.sections?.[0].bytes)).toContain("July 2026: 2");
      expect(made?.findings).toEqual([]);
      expect(problemsOfDeck(file.bytes)).toEqual([]);
    });

    it("a section of a document for each, between those that were delivered before and after it", () => {
      const { made } = caughtUp("2026-10", ["2026-06", "2026-09"], { isDeck: false });
      expect(text(made?.files[0].bytes)).toEqual([
        "June 2026: 1 visits",
        "August 2026: 1 visits",
        "September 2026: 2 visits",
        "October 2026: 1 visits",
      ]);
      // Nobody has rows of July: that may be a month that was not loaded.
      expect(made?.findings.map((one) => one.what)).toEqual([
        "The file goes on without July 2026: not delivered to this group.",
      ]);
    });

    it("behind its end only, where the sections of old were not kept", () => {
      const { made } = caughtUp("2026-10", ["2026-06", "2026-09"], { isKept: false });
      // The whole file of this record begins with September.
      expect(titles(made?.files[0].bytes)).toEqual(["Cover", "September 2026: 2", "October 2026: 1"]);
      expect(made?.findings[0].what).toContain("goes on without July 2026, August 2026");
    });

    it("says nothing of a period in which others have rows and the group has none", () => {
      const { made } = caughtUp("2026-08", ["2026-06"], { lines: `${rows}Quay,2026-07-01\n` });
      expect(titles(made?.files[0].bytes)).toEqual(["Cover", "June 2026: 1", "August 2026: 1"]);
      expect(made?.findings).toEqual([]);
    });

    it("adds up: what of a period went to nobody is left out, and its sums are told apart", () => {
      const lines = `${rows}Dock,2026-07-01\nQuay,2026-07-01\nQuay,2026-07-02\nQuay,2026-08-02\n`;
      const { caught, input } = caughtUp("2026-08", ["2026-06"], { lines });
      expect(caught.map(({ facts, isWhole, plan }) => [facts.period.key, isWhole, plan.rows.inGroups])).toEqual([
        ["2026-07", false, 1],
      ]);
      const plain = planRun(input).plan;
      const plan = withCaughtUp(plain, caught);
      const told = planSentences(plan, 2);
      expect(told.at(-1)).toBe(
        "Made up for 2026-07 in the files that grow: 9 rows = 1 in 1 group + 8 left out (6 Day not in 2026-07, 2 in groups that were not chosen).",
      );
      // The group is made of these rows too; the other one is not.
      expect(plan.parcels.map((one, at) => one.rowsDigest === plain.parcels[at].rowsDigest)).toEqual([false, true]);
    });
  });

  it("keeps the names of groups sealed that are in a period it makes up for only", () => {
    const lines = `${rows}Quay,2026-07-01\nDock,2026-07-02\n`;
    const input = inputOf(run(`sealed: true\n${report}`, { rows: lines, period: "2026-08", templates: month }));
    const facts = { ...input.facts, period: plainPeriods("month").parse("2026-07") };
    const caught = planCaughtUp({ ...input, facts }, { owed: new Set(["dock"]), had: new Set() });
    const { plan } = planRun(input);
    expect(plan.sealedNames).toEqual(["Dock"]);
    expect(withCaughtUp(plan, caught ? [caught] : []).sealedNames).toEqual(["Dock", "Quay"]);
  });

  it("goes by the day where the report has no period, and says nothing of gaps", () => {
    const daily = "files: { f: { name: f, template: terms.docx, grows: true } }\n";
    const before = parcelsOf(run(daily)).get("Dock")?.files[0].bytes as Uint8Array;
    const again = parcelsOf(run(daily), {
      earlier: () => ({ periods: [{ period: "2026-10-01", section: () => before }], whole: () => before }),
    }).get("Dock");
    expect(text(again?.files[0].bytes)).toEqual(["Terms for Dock", "Terms for Dock"]);
    expect(again?.findings).toEqual([]);
  });
});

describe("a parcel's messages", () => {
  const message =
    "message:\n  subject: 'Visits of {{ site }}'\n  body: { text: 'Dear {{ recipient.name }}, {{ count(line) }} in {{ period.label }}' }\n  languages: { de: { subject: 'Besuche {{ site }}', body: { text: 'Guten Tag {{ recipient.name }}, {{ period.label }}' } } }\n";
  const period = { period: "2026-10", people: PEOPLE };
  const by = (each: string, more = "") =>
    parcelsOf(run(`period: { column: Day, every: month }\n${message}  each: ${each}\n${more}`, period)).get("Dock")
      ?.messages ?? [];
  const heads = (messages: ReturnType<typeof by>) =>
    messages.map((one) => [
      one.part.part,
      one.language,
      one.envelope.to.map((each) => each.address).join(" "),
      one.envelope.cc.map((each) => each.address).join(" "),
      one.message.text.trim(),
    ]);

  it("are written in the readers' languages; copies go with the first", () => {
    expect(heads(by("group"))).toEqual([
      ["", "en-GB", "ann@dock.example", "chris@dock.example chief@dock.example", "Dear Ann, 2 in October 2026"],
      ["de", "de", "bruno@dock.example", "", "Guten Tag Bruno, Oktober 2026"],
    ]);
    expect(heads(by("person")).map(([part]) => part)).toEqual(["ann@dock.example", "bruno@dock.example"]);
  });

  it("of files behind links are one for each person, and the report's own copies go with one only", () => {
    const links = "delivery: { files: link, copies: [file@lifts.example], blindCopies: [audit@lifts.example] }\n";
    const messages = by("group", links);
    expect(heads(messages).map(([part, , , cc]) => [part, cc])).toEqual([
      ["ann@dock.example", "chris@dock.example chief@dock.example file@lifts.example"],
      ["bruno@dock.example", ""],
    ]);
    expect(messages.map((one) => one.envelope.bcc.map((each) => each.address))).toEqual([["audit@lifts.example"], []]);
  });

  it("are known by what they deliver: the same again has the same Message-ID, another part or period another", () => {
    const ids = (messages: ReturnType<typeof by>) => messages.map((one) => one.messageId);
    expect(ids(by("group"))).toEqual(ids(by("group")));
    expect(new Set([...ids(by("group")), ...ids(by("person"))]).size).toBe(4);
    for (const id of ids(by("group"))) expect(id).toMatch(/^<[0-9a-f]{40}@lifts\.example>$/);
  });

  it("are none where nothing is to be sent, or where the report has no message; the files are made all the same", () => {
    const files = "files: { f: { name: f, table: {} } }\n";
    const silent = parcelsOf(run(files + message, { people: PEOPLE }), { isSilent: true }).get("Dock");
    expect([silent?.files.length, silent?.messages]).toEqual([1, []]);
    const none = parcelsOf(run(files, { people: PEOPLE })).get("Dock");
    expect([none?.files.length, none?.messages]).toEqual([1, []]);
  });
});

describe("a template tried with one group", () => {
  const rows = `${ROWS}Mill,L4,2026-10-06,1,k\nMill,L5,2026-10-06,1,k\nMill,L6,2026-10-06,1,k\n`;
  const file = (spec: string, more: Partial<SmallRun> = {}) =>
    inputOf(run(`files: { f: { name: '{{ site }}', ${spec} } }\n`, { rows, ...more }));

  it("shows pages and rows of the group in the middle by its rows, or the one that is asked for", () => {
    const middle = tryOut(file("template: s.xlsx"), "f", undefined, openFonts());
    expect(middle.groups).toEqual([
      { key: "dock", label: "Dock", rows: 2 },
      { key: "mill", label: "Mill", rows: 3 },
      { key: "quay", label: "Quay", rows: 1 },
    ]);
    expect([middle.group, middle.files.map((one) => one.kind)]).toEqual(["dock", ["xlsx", "pdf"]]);
    expect([middle.rowNumbers, middle.rows.map((row) => row[1])]).toEqual([
      [2, 3],
      ["L1", "L2"],
    ]);
    for (const wanted of ["Quay", "quay", " QUAY "])
      expect(tryOut(file("template: s.xlsx, pdf: only"), "f", wanted, openFonts())).toMatchObject({
        group: "quay",
        files: [{ kind: "pdf", pages: 1 }],
      });
  });

  it("opens without the password that the sent file has", () => {
    const tried = tryOut(file("template: s.xlsx, protect: { password: '{{ key }}' }"), "f", "Quay", openFonts());
    expect(problemsOf(tried.files[0].bytes)).toEqual([]);
  });

  it("tells of columns what they hold, units too", () => {
    const tried = tryOut(
      file("table: {}", { rows: "Site,Load\nDock,CHF 10\nDock,CHF 12\nQuay,CHF 9\n" }),
      "f",
      "Dock",
      openFonts(),
    );
    expect(tried.columns).toEqual([
      { name: "Site", type: "text" },
      { name: "Load", type: "number", unit: "CHF" },
    ]);
  });

  it("says which groups there are where the one wanted is none, and that a period has none at all", () => {
    const wrong = thrown(() => tryOut(file("table: {}"), "f", "Quai", openFonts()));
    expect([wrong.code, wrong.where, wrong.advice]).toEqual(["NOT_FOUND", "group", expect.stringContaining("Quay")]);
    const empty = inputOf(
      run("period: { column: Day, every: month }\nfiles: { f: { name: f, table: {} } }\n", { period: "2025-01" }),
    );
    expect(thrown(() => tryOut(empty, "f", undefined, openFonts()))).toMatchObject({
      code: "NOT_FOUND",
      where: "period",
    });
  });

  it("writes the messages in all languages, those nobody reads as well", () => {
    const message =
      "message: { subject: 'Visits {{ site }}', body: { text: 'Dear {{ recipient.name }}' }, languages: { de: { subject: Besuche, body: { text: 'Guten Tag {{ recipient.name }}' } }, fr: { subject: Visites, body: { text: 'Bonjour {{ recipient.name }}' } } } }\n";
    const tried = tryMessage(inputOf(run(message, { people: PEOPLE })), "Dock");
    expect(tried.group).toBe("dock");
    expect(tried.messages.map((one) => [one.language, one.people, one.text.trim()])).toEqual([
      ["", ["ann@dock.example", "chris@dock.example"], "Dear Ann"],
      ["de", ["bruno@dock.example"], "Guten Tag Bruno"],
      ["fr", [], "Bonjour Ann and Bruno"],
    ]);
    const quay = tryMessage(inputOf(run(message, { people: PEOPLE })), "quay");
    expect(quay.messages.map((one) => one.people.length)).toEqual([1, 0, 0]);
    expect(tryMessage(inputOf(run("", { people: PEOPLE })), undefined).messages).toEqual([]);
  });
});
