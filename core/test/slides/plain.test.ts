import { fitDeck, layDeck } from "@corbix/core/layout";
import { Deck, type PlainSlideSpec, plainDeckTemplate, SlideTemplate, titleOf } from "@corbix/core/slides";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { record } from "../support/helpers.js";
import { squares } from "../support/sample-decks.js";
import { problemsOfDeck } from "../support/validate-deck.js";

const LINES = [
  { unit: "L1", month: "May", fee: 10, result: "pass" },
  { unit: "L2", month: "May", fee: 20.5, result: "fail" },
  { unit: "L1", month: "June", fee: 30, result: "pass" },
];
function make(
  list: readonly (Partial<PlainSlideSpec> & { title: string })[],
  more: object = {},
  lines: object[] = LINES,
) {
  const spec = {
    size: "wide",
    colour: "2f6b57",
    font: "Calibri",
    list: list.map((slide) => ({ cover: false, ...slide })),
    ...more,
  } as const;
  const template = plainDeckTemplate(spec);
  expect(problemsOfDeck(template).filter((problem) => !problem.includes("r:embed"))).toEqual([]);
  const { scope, env } = record({ site: 'Harbour "Old" & Co', lines });
  const pictures = new Map([["plan.png", squares(200, 100)]]);
  const made = SlideTemplate.read(template, "slides").bind(scope, pictures).fill(env).package;
  const filled = fitDeck(made, openFonts()).package;
  expect(problemsOfDeck(filled.toBytes())).toEqual([]);
  const laid = layDeck(filled, openFonts());
  expect(laid.findings).toEqual([]);
  const deck = new Deck(filled);
  return { filled, deck, laid, titles: deck.slides.map(({ part }) => titleOf(filled.getXml(part))) };
}

/** Paragraphs with their levels. */
function paragraphsOf({ filled, deck }: ReturnType<typeof make>, slide: number): string[] {
  const { part } = deck.slides[slide];
  return filled
    .getXml(part)
    .descendants("p")
    .map((paragraph) => {
      const level = paragraph.child("pPr")?.attr("lvl") ?? "0";
      const text = paragraph.descendants("t").map(({ text: said }) => said);
      return `${level} ${text.join("")}`;
    });
}

describe("a deck made from a list of slides", () => {
  it("has covers, texts, bullets on their levels, feet and notes, all with their marks filled", () => {
    const made = make(
      [
        { title: "{{ site }}", cover: true, text: "First\nSecond {{ count(line) }}" },
        {
          title: "What was done",
          bullets: ["{{ count(line) }} visits", "{{repeat line}}", "> {{ line.unit }}", ">>deeper", "{{end}}", "Over"],
          notes: "Say {{ sum(line.fee) }}.\nThen stop.",
        },
      ],
      { foot: "{{ site }} & more" },
    );
    expect(made.titles).toEqual(['Harbour "Old" & Co', "What was done"]);
    expect(paragraphsOf(made, 0)).toEqual(['0 Harbour "Old" & Co', "0 First", "0 Second 3"]);
    expect(paragraphsOf(made, 1)).toEqual([
      "0 What was done",
      "0 3 visits",
      "1 L1",
      "2 deeper",
      "1 L2",
      "2 deeper",
      "1 L1",
      "2 deeper",
      "0 Over",
      "0 2",
    ]);
    const notes = made.filled.names.filter((name) => name.startsWith("ppt/notesSlides/n"));
    expect(notes).toHaveLength(1);
    expect(made.filled.getXml(notes[0]).text).toBe("Say 60.5.Then stop.");
    const layouts = made.filled.names.filter((name) => name.startsWith("ppt/slideLayouts/s"));
    expect(layouts.map((name) => made.filled.getXml(name).text).join()).toContain('Harbour "Old" & Co & more');
  });

  it("has a slide for each line or each sub-group, and none where its condition is not met", () => {
    const made = make([
      { title: "{{ line.unit }} in {{ line.month }}", each: { lines: "line", where: "line.fee > 15" } },
      {
        title: "{{ unit }}: {{ sum(line.fee) }}",
        each: { lines: "line", by: "unit" },
        table: "month, fee total",
      },
      { title: "Failures", when: 'count(line where line.result = "fail") > 0', text: "Look at them." },
      { title: "Closed", when: 'count(line where line.result = "closed") > 0', text: "None." },
    ]);
    expect(made.titles).toEqual(["L2 in May", "L1 in June", "L1: 40", "L2: 20.5", "Failures"]);
    const cells = made.deck.slides.slice(2, 4).map(({ part }) =>
      made.filled
        .getXml(part)
        .descendants("tc")
        .map((cell) => cell.text),
    );
    expect(cells[0]).toEqual(["Month", "Fee", "May", "10", "June", "30", "Total", "40"]);
    expect(cells[1]).toEqual(["Month", "Fee", "May", "20.5", "Total", "20.5"]);
  });

  it("has charts of every kind, with a workbook an editor opens, and pictures", async () => {
    const kinds = ["upright", "lying", "line", "area", "pie"] as const;
    const made = make([
      ...kinds.map((kind) => ({ title: kind, chart: { kind, of: 'unit, fee headed "Fees"' } })),
      { title: "Plan", picture: "plan.png", text: "As it stands" },
      { title: "Code", picture: "{{ qr site }}" },
    ]);
    const charts = made.filled.names.filter((name) => /^ppt\/charts\/chart\d+\.xml$/.test(name));
    const elements = charts.map((name) => made.filled.getXml(name).descendants("plotArea")[0].elements()[1].local);
    expect(elements).toEqual(["barChart", "barChart", "lineChart", "areaChart", "pieChart"]);
    for (const name of charts) {
      const values = made.filled.getXml(name).descendants("v");
      expect(values.map(({ text }) => text)).toEqual(["Fees", "L1", "L2", "40", "20.5"]);
    }
    const books = made.filled.names.filter((name) => name.endsWith(".xlsx"));
    expect(books).toHaveLength(5);
    const sheet = openWorkbook(made.filled.getBytes(books[0])).sheets[0];
    expect(sheet.name).not.toBe("");
    const pictures = made.filled.names.filter((name) => name.startsWith("ppt/media/"));
    expect(pictures).toHaveLength(2);
    expect(made.laid.pages).toHaveLength(7);
  });

  it("goes on on further slides where a table is too long, in 4 to 3 too", () => {
    const lines = Array.from({ length: 40 }, (_, index) => ({ unit: `L${index}`, fee: index }));
    const made = make([{ title: "Visits", table: "unit, fee total" }], { size: "standard" }, lines);
    const { length } = made.titles;
    expect(length).toBeGreaterThan(2);
    expect(made.titles).toEqual(made.titles.map((_, index) => `Visits (${index + 1} of ${length})`));
    const cells = made.deck.slides.flatMap(({ part }) => made.filled.getXml(part).descendants("tc"));
    const firsts = cells.map((cell) => cell.text).filter((said) => /^L\d+$/.test(said));
    expect(firsts).toEqual(lines.map(({ unit }) => unit));
    const [page] = made.laid.pages;
    expect(page.widthPt / page.heightPt).toBeCloseTo(4 / 3, 3);
  });

  it("shows columns whose names hold signs, in tables and charts", () => {
    const lines = [{ "Net (CHF)": 5, "Tax, %": 8, "Kind/sort": "yearly" }];
    const table = '`Kind/sort`, line.`Tax, %` as "0.0", `Net (CHF)` headed "Net" total';
    const made = make(
      [
        { title: "A", table },
        { title: "B", chart: { kind: "pie", of: "`Kind/sort`, `Net (CHF)`" } },
      ],
      {},
      lines,
    );
    const cells = made.filled.getXml(made.deck.slides[0].part).descendants("tc");
    expect(cells.map((cell) => cell.text)).toEqual([
      "Kind/sort",
      "Tax, %",
      "Net",
      "yearly",
      "8.0",
      "5",
      "Total",
      "",
      "5",
    ]);
    const [chart] = made.filled.names.filter((name) => /^ppt\/charts\/chart\d+\.xml$/.test(name));
    const values = made.filled.getXml(chart).descendants("v");
    expect(values.map(({ text }) => text)).toEqual(["Net (CHF)", "yearly", "5"]);
  });
});
