import { fitDeck, layDeck } from "@corbix/core/layout";
import { eachItem, type Page } from "@corbix/core/page";
import { Deck, openDeck, SlideTemplate, titleOf } from "@corbix/core/slides";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { content, handDeck, paragraph, run, shape, table, title } from "../../support/hand-deck.js";
import { record } from "../../support/helpers.js";
import { problemsOfDeck } from "../../support/validate-deck.js";

const fonts = openFonts();

function made(shapes: string, lines: object[], more: object = {}) {
  const bytes = handDeck({ slides: [{ shapes, notes: "Say it" }, { shapes: title("Behind") }] });
  const template = SlideTemplate.read(bytes, "deck.pptx");
  const { scope, env } = record({ lines, ...more });
  const { package: filled, heads } = template.bind(scope).fill(env);
  const { package: fitted } = fitDeck(filled, fonts, { before: template.opened, heads });
  expect(problemsOfDeck(fitted.toBytes())).toEqual([]);
  return { fitted, filled, laid: layDeck(fitted, fonts) };
}
const words = (page: Page): string =>
  [...eachItem(page.items)]
    .map((item) => (item.kind === "text" ? item.shaped.runs.flatMap((each) => each.texts).join("") : ""))
    .join(" ");
const units = (count: number) => Array.from({ length: count }, (_, at) => ({ unit: `L${at + 1}`, fee: at }));

describe("text that was filled", () => {
  const remarks = (length: number) => ({ remarks: "Doors and ropes of every lift were looked at. ".repeat(length) });
  const box = (body: string) =>
    shape({
      name: "Box",
      at: [50, 150, 400, 120],
      preset: "rect",
      body,
      text: paragraph(run("{{ remarks }}", ' sz="2400"')),
    });

  it("has the size it fits with where its frame shrinks it, so that editors and pages agree", () => {
    const { fitted, laid } = made(box("<a:normAutofit/>"), units(1), remarks(14));
    const [fit] = fitted.getXml("ppt/slides/slide1.xml").descendants("normAutofit");
    const scale = Number(fit.attr("fontScale")) / 100_000;
    expect(scale).toBeLessThan(0.8);
    const sizes = [...eachItem(laid.pages[0].items)].flatMap((item) => (item.kind === "text" ? [item.size] : []));
    expect(sizes[0]).toBeCloseTo(24 * scale, 5);
    expect(laid.findings).toEqual([]);
  });

  it("has its full size again where it has become short", () => {
    const stored = box('<a:normAutofit fontScale="40000" lnSpcReduction="20000"/>');
    const { fitted } = made(stored, units(1), remarks(1));
    expect(fitted.getXml("ppt/slides/slide1.xml").descendants("normAutofit")[0].open).toBe("<a:normAutofit/>");
  });

  it("makes its frame higher where that grows, downwards, upwards or both", () => {
    const heights = ["t", "ctr", "b"].map((anchor) => {
      const { fitted } = made(
        shape({
          name: "Box",
          at: [50, 250, 400, 30],
          preset: "rect",
          body: "<a:spAutoFit/>",
          text: paragraph(run("{{ remarks }}", ' sz="1200"')),
        }).replace("<a:bodyPr>", `<a:bodyPr anchor="${anchor}">`),
        units(1),
        remarks(10),
      );
      const frame = fitted.getXml("ppt/slides/slide1.xml").descendants("sp")[0];
      return [
        Number(frame.descendants("off")[0].attr("y")) / 12_700,
        Number(frame.descendants("ext")[0].attr("cy")) / 12_700,
      ];
    });
    const [[top, height], [middle], [bottom, same]] = heights;
    expect(height).toBeGreaterThan(60);
    expect(same).toBeCloseTo(height, 3);
    expect(top).toBe(250);
    expect(250 - bottom).toBeCloseTo(height - 30, 2);
    expect(250 - middle).toBeCloseTo((height - 30) / 2, 2);
  });

  it("that stayed as it was in the template is left alone", () => {
    const plain = shape({
      name: "Box",
      at: [50, 150, 400, 60],
      preset: "rect",
      body: "<a:normAutofit/>",
      text: "Doors and ropes. ".repeat(40),
    });
    const { fitted, filled } = made(plain, units(1));
    expect(fitted.getText("ppt/slides/slide1.xml")).toBe(filled.getText("ppt/slides/slide1.xml"));
  });
});

describe("a table that is too long for its slide", () => {
  const long =
    title("Fees") +
    table(
      [60, 140, 400, 60],
      [
        ["Unit", "Fee"],
        ["{{ line.unit }}", "{{ line.fee }}"],
      ],
    );

  it("goes on on further slides, its heading on each, no row lost, none below the slide", () => {
    const { fitted, laid } = made(long, units(40));
    const deck = new Deck(fitted);
    const titles = deck.slides.map(({ part }) => titleOf(fitted.getXml(part)));
    const count = titles.length - 1;
    expect(count).toBeGreaterThan(1);
    expect(titles).toEqual([...Array.from({ length: count }, (_, at) => `Fees (${at + 1} of ${count})`), "Behind"]);
    const rows = deck.slides.slice(0, -1).map(({ part }) =>
      fitted
        .getXml(part)
        .descendants("tr")
        .map((row) => row.descendants("t")[0].text),
    );
    for (const own of rows) expect(own[0]).toBe("Unit");
    expect(rows.flatMap((own) => own.slice(1))).toEqual(units(40).map(({ unit }) => unit));
    expect(laid.findings).toEqual([]);
    expect(words(laid.pages[1])).toContain("Fees (2 of");
  });

  it("has the rows above those that repeat as its heading, also where it says nothing of a first row", () => {
    const rows = [
      ["Fees", ""],
      ["Unit", "Fee"],
      ["{{ line.unit }}", "{{ line.fee }}"],
    ];
    const { fitted } = made(title("Fees") + table([60, 140, 400, 60], rows, ""), units(40));
    const heads = new Deck(fitted).slides.slice(0, -1).map(({ part }) =>
      fitted
        .getXml(part)
        .descendants("tr")
        .slice(0, 2)
        .map((row) => row.descendants("t")[0].text),
    );
    expect(heads.length).toBeGreaterThan(1);
    for (const own of heads) expect(own).toEqual(["Fees", "Unit"]);
  });

  it("stays above what stands at the slide's foot, and leaves notes and other pictures to the first", () => {
    const foot = shape({ name: "Footer", ph: 'type="ftr" sz="quarter" idx="3"', text: "Office" });
    const { fitted } = made(long + foot + content("{{ count(line) }} units"), units(40));
    const deck = new Deck(fitted);
    const [first, second] = deck.slides;
    const bottom = (part: string): number => {
      const [frame] = fitted.getXml(part).descendants("graphicFrame");
      return (Number(frame.descendants("off")[0].attr("y")) + Number(frame.descendants("ext")[0].attr("cy"))) / 12_700;
    };
    expect(bottom(first.part)).toBeLessThan(540 * 0.925);
    const names = (part: string) =>
      fitted
        .getXml(part)
        .descendants("cNvPr")
        .map((one) => one.attr("name"));
    expect(names(first.part)).toContain("Content");
    expect(names(second.part)).not.toContain("Content");
    expect(names(second.part)).toContain("Footer");
    expect(deck.relatedPart(first.part, "notesSlide")).toBeDefined();
    expect(deck.relatedPart(second.part, "notesSlide")).toBeUndefined();
  });

  it("is left as it is where it fits, or where one row alone is higher than the slide", () => {
    expect(made(long, units(5)).laid.pages).toHaveLength(2);
    const tall = [{ unit: "Doors and ropes. ".repeat(400), fee: 1 }];
    const { laid } = made(long, tall);
    expect(laid.findings).toEqual([expect.objectContaining({ code: "table-overflows" })]);
  });
});

describe("a deck that nobody filled", () => {
  it("stays as it is", () => {
    const bytes = handDeck({ slides: [{ shapes: title("x") + content("y") }] });
    const opened = openDeck(bytes, "deck.pptx");
    const { package: fitted } = fitDeck(opened, fonts, { before: opened });
    for (const part of opened.names) expect(fitted.getBytes(part)).toEqual(opened.getBytes(part));
  });
});
