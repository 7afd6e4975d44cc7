import { hasStop } from "@corbix/core/common";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { Deck, titleOf } from "@corbix/core/slides";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { demo, demoRun } from "../support/helpers.js";
import { problemsOfDeck } from "../support/validate-deck.js";

describe("the demo's quarterly decks", () => {
  it("are made for every site: right by the format, each with its own visits, none below a slide", () => {
    const names = ["figures.xlsx", "report.docx", "repairs.docx", "quarter.pptx"];
    const { plan, maker, envs, facts } = demoRun("unit-figures", "2026-Q3", "quarter", names);
    const fonts = openFonts();
    // What the writer of the template did is not ours to mend.
    const plain = (problem: string): string => problem.replace(/\d+/g, "#");
    const before = new Set(problemsOfDeck(demo("templates/quarter.pptx")).map(plain));
    for (const [at, parcel] of plan.parcels.entries()) {
      const { files, findings } = maker.make(envs[at], ["slides"], fonts, facts);
      expect(findings, parcel.group.label).toEqual([]);
      expect(hasStop(findings)).toBe(false);
      const bytes = files.find(({ kind }) => kind === "pptx")?.bytes ?? new Uint8Array();
      expect(problemsOfDeck(bytes).filter((problem) => !before.has(plain(problem)))).toEqual([]);
      const opened = OoxmlPackage.open(bytes, "made.pptx");
      const deck = new Deck(opened);
      const slides = deck.slides.map(({ part }) => opened.getXml(part));
      const rows = slides
        .filter((slide) => titleOf(slide).startsWith("All visits"))
        .reduce((sum, slide) => sum + slide.descendants("tr").length - 1, 0);
      expect(rows).toBe(parcel.group.rows.length);
      expect(files.find(({ kind }) => kind === "pdf")?.pages).toBe(slides.length);
    }
  });
});
