import type { GrowthPlace } from "@corbix/core/common";
import type { OoxmlPackage } from "@corbix/core/ooxml";
import { Deck, deckPeriods, growDeck, openDeck, periodSection, SlideTemplate, titleOf } from "@corbix/core/slides";
import { describe, expect, it } from "vitest";
import {
  content,
  type HandDeck,
  handDeck,
  paragraph,
  picture,
  shape,
  solid,
  theme,
  title,
} from "../support/hand-deck.js";
import { record } from "../support/helpers.js";
import { squares } from "../support/sample-decks.js";
import { strictDeck } from "../support/strict-deck.js";
import { problemsOfDeck } from "../support/validate-deck.js";

const SECTIONS = `<p:extLst><p:ext uri="{521415D9-36F7-43E2-AB2F-B90AF26B5E84}"><p14:sectionLst xmlns:p14="http://schemas.microsoft.com/office/powerpoint/2010/main"><p14:section name="Opening" id="{00000000-0000-0000-0000-000000000001}"><p14:sldIdLst><p14:sldId id="256"/></p14:sldIdLst></p14:section><p14:section name="Months" id="{00000000-0000-0000-0000-000000000002}"><p14:sldIdLst><p14:sldId id="257"/></p14:sldIdLst></p14:section><p14:section name="Closing" id="{00000000-0000-0000-0000-000000000003}"><p14:sldIdLst><p14:sldId id="258"/></p14:sldIdLst></p14:section></p14:sectionLst></p:ext></p:extLst>`;

const deck = (more: Partial<HandDeck> = {}, text = "{{ sum(line.fee) }}"): Uint8Array =>
  handDeck({
    presentation: SECTIONS,
    parts: { "ppt/media/a.png": { content: squares(), type: "" } },
    slides: [
      { shapes: title("Fees of {{ client }}") },
      {
        shapes: title("{{ month }}") + content(text) + picture([600, 300, 100, 80], "rIdA"),
        isHidden: true,
        notes: "Say {{ month }}",
        related: { rIdA: { type: "image", target: "../media/a.png" } },
      },
      { shapes: title("Thank you") },
    ],
    ...more,
  });

const TEMPLATE = deck();

function section(period: string, fees: readonly number[], bytes = TEMPLATE): OoxmlPackage {
  const { scope, env } = record({
    client: "Harbour",
    month: `Month ${period.slice(-2)}`,
    lines: fees.map((fee) => ({ fee })),
  });
  const made = SlideTemplate.read(bytes, "deck.pptx").bind(scope).fillPeriod(env);
  expect(made.grown).toHaveLength(1);
  return periodSection(made, period);
}
function grown(places: readonly OoxmlPackage[], place: GrowthPlace): OoxmlPackage {
  const made = places.reduce<OoxmlPackage | undefined>((earlier, one) => growDeck(earlier, one, place), undefined);
  if (!made) throw new Error("There is nothing to grow.");
  expect(problemsOfDeck(made.toBytes())).toEqual([]);
  return made;
}
const titles = (opened: OoxmlPackage): string[] =>
  new Deck(opened).slides.map(({ part }) => titleOf(opened.getXml(part)));
const MONTHS = [section("2026-08", [1, 2]), section("2026-09", [3]), section("2026-10", [4, 5])];

describe("a deck that grows", () => {
  it.each<[GrowthPlace, string[]]>([
    ["end", ["Fees of Harbour", "Thank you", "Month 08", "Month 09", "Month 10"]],
    ["start", ["Month 10", "Month 09", "Month 08", "Fees of Harbour", "Thank you"]],
    ["section", ["Fees of Harbour", "Month 08", "Month 09", "Month 10", "Thank you"]],
  ])("gets a shown slide for each period from its hidden one: at the %s", (place, expected) => {
    const made = grown(MONTHS, place);
    expect(titles(made)).toEqual(expected);
    expect(new Deck(made).slides.filter(({ isHidden }) => isHidden)).toEqual([]);
    expect(deckPeriods(made)).toEqual(["2026-08", "2026-09", "2026-10"]);
  });

  it.each([
    ["strict", "transitional"],
    ["transitional", "strict"],
  ])("is of one form where a %s deck gets slides of a %s one", (base) => {
    const strict = (bytes: Uint8Array): OoxmlPackage => openDeck(strictDeck(bytes), "deck.pptx");
    const [first, second] = MONTHS;
    const own = base === "strict" ? strict(first.toBytes()) : first;
    const others = base === "strict" ? second : strict(second.toBytes());
    const made = growDeck(own, others, "end");
    const opened = openDeck(made.toBytes(), "deck.pptx");
    expect(new Deck(opened).slides.map(({ part }) => titleOf(opened.getXml(part)))).toContain("Month 09");
    const texts = opened.names
      .filter((name) => /^ppt\/.*\.(?:xml|rels)$/.test(name))
      .map((name) => opened.getText(name));
    const hasStrict = texts.some((text) =>
      /purl\.oclc\.org\/ooxml\/(?:drawing|presentation|officeDocument\/rel)/.test(text),
    );
    const hasOther = texts.some((text) =>
      /schemas\.openxmlformats\.org\/(?:drawing|presentation|officeDocument\/2006\/rel)/.test(text),
    );
    expect([hasStrict, hasOther]).toEqual([base === "strict", base !== "strict"]);
    if (base === "transitional") expect(problemsOfDeck(made.toBytes())).toEqual([]);
  });

  it("has them in the section of the hidden slide, with their notes and pictures", () => {
    const made = grown(MONTHS, "section");
    const all = new Deck(made);
    const inOrder = new Map(all.slides.map((slide) => [slide.id, titleOf(made.getXml(slide.part))]));
    expect(all.sections.map(({ name, slides }) => [name, slides.map((id) => inOrder.get(id))])).toEqual([
      ["Opening", ["Fees of Harbour"]],
      ["Months", ["Month 08", "Month 09", "Month 10"]],
      ["Closing", ["Thank you"]],
    ]);
    const notes = all.slides.flatMap(({ part }) => {
      const own = all.relatedPart(part, "notesSlide");
      return own
        ? [
            made
              .getXml(own)
              .descendants("t")
              .map((text) => text.text)
              .join(""),
          ]
        : [];
    });
    expect(notes).toEqual(["Say Month 08", "Say Month 09", "Say Month 10"]);
    // The picture is there once, whatever shows it, and so are the master and its layouts.
    expect(made.names.filter((name) => name.startsWith("ppt/media/"))).toHaveLength(1);
    expect(made.names.filter((name) => /slideMasters\/slide/.test(name))).toHaveLength(1);
  });

  it("keeps earlier slides byte for byte, whatever became of the template", () => {
    const first = grown(MONTHS.slice(0, 2), "end");
    const changed = section(
      "2026-10",
      [9],
      deck(
        {
          theme: theme([
            "222222",
            "FFFFFF",
            "333333",
            "EEEEEE",
            "AA0000",
            "00AA00",
            "0000AA",
            "AAAA00",
            "00AAAA",
            "AA00AA",
          ]),
          master: { shapes: shape({ name: "New band", at: [0, 0, 960, 40], preset: "rect", paint: solid("accent1") }) },
        },
        "Now {{ sum(line.fee) }}",
      ),
    );
    const made = grown([...MONTHS.slice(0, 2), changed], "end");
    for (const { part } of new Deck(first).slides) {
      expect(made.getBytes(part)).toEqual(first.getBytes(part));
      const layout = new Deck(first).relatedPart(part, "slideLayout") ?? "";
      expect(new Deck(made).relatedPart(part, "slideLayout")).toBe(layout);
      expect(made.getBytes(layout)).toEqual(first.getBytes(layout));
    }
    // The new slide has the new looks, from a master that came along.
    const all = new Deck(made);
    const last = all.slides.at(-1)?.part ?? "";
    const master = all.relatedPart(all.relatedPart(last, "slideLayout") ?? "", "slideMaster") ?? "";
    expect(made.getText(master)).toContain("New band");
    expect(made.names.filter((name) => /slideMasters\/slide/.test(name))).toHaveLength(2);
    expect(
      made
        .getXml(last)
        .descendants("t")
        .map((text) => text.text),
    ).toContain("Now 9");
  });

  it("takes each period once, in order", () => {
    expect(() => growDeck(grown(MONTHS.slice(0, 2), "end"), MONTHS[1], "end")).toThrow(
      "Cannot add slides for 2026-09: the deck goes on to 2026-09 already.",
    );
    expect(() => growDeck(grown([MONTHS[1]], "end"), MONTHS[0], "end")).toThrow("goes on to 2026-09");
  });

  it("grows by several slides where the hidden one repeats", () => {
    const bytes = handDeck({
      slides: [
        { shapes: title("Cover") },
        { shapes: title("{{ line.unit }}"), isHidden: true, notes: paragraph("{{repeat slide line}}") },
      ],
    });
    const { scope, env } = record({ lines: [{ unit: "L1" }, { unit: "L2" }] });
    const one = periodSection(SlideTemplate.read(bytes, "deck.pptx").bind(scope).fillPeriod(env), "2026-08");
    const two = periodSection(SlideTemplate.read(bytes, "deck.pptx").bind(scope).fillPeriod(env), "2026-09");
    expect(titles(grown([one, two], "end"))).toEqual(["Cover", "L1", "L2", "L1", "L2"]);
  });

  it("leaves hidden slides without marks hidden", () => {
    const bytes = handDeck({ slides: [{ shapes: title("Cover") }, { shapes: title("Only for us"), isHidden: true }] });
    const { scope } = record({ lines: [{ unit: "L1" }] });
    expect(SlideTemplate.read(bytes, "deck.pptx").bind(scope).canGrow).toBe(false);
    expect(
      SlideTemplate.read(deck(), "deck.pptx").bind(record({ client: "x", month: "y", lines: [{ fee: 1 }] }).scope)
        .canGrow,
    ).toBe(true);
    expect(openDeck(bytes, "x").names.length).toBeGreaterThan(5);
  });
});
