/** A deck of ten slides as a template, and the same ten filled, as pages of HTML. */
import { writeFileSync } from "node:fs";
import PptxGenJS from "pptxgenjs";
import { record } from "./record.mjs";

/** Rows that each table shows. */
export const DECK_LINES = 10;
const COLUMNS = ["visit_date", "unit", "kind", "result", "hours"];
const SLIDES = 10;
const BULLETS = [
  "Doors, ropes and brake were looked at",
  "What was found is in the table",
  "Next dates follow by mail",
];

export async function makeDeck(path) {
  const deck = new PptxGenJS();
  deck.layout = "LAYOUT_WIDE";
  for (let number = 1; number <= SLIDES; number++) {
    const slide = deck.addSlide();
    slide.addText(`{{ site }}: part ${number}`, { x: 0.6, y: 0.4, w: 12, h: 0.8, fontSize: 28, bold: true });
    slide.addText(
      BULLETS.map((text) => ({ text: `${text} at {{ site }}`, options: { bullet: true, breakLine: true } })),
      { x: 0.6, y: 1.4, w: 4.6, h: 4.5, fontSize: 18, valign: "top" },
    );
    const mark = (column, index, all) =>
      `${index === 0 ? "{{repeat line}}" : ""}{{ line.${column} }}${index === all.length - 1 ? "{{end}}" : ""}`;
    slide.addTable(
      [
        COLUMNS.map((text) => ({ text, options: { bold: true, fill: { color: "2F6B57" }, color: "FFFFFF" } })),
        COLUMNS.map((column, index, all) => ({ text: mark(column, index, all) })),
      ],
      { x: 5.4, y: 1.4, w: 7.3, fontSize: 11, border: { type: "solid", color: "B0B8B8", pt: 0.5 } },
    );
    slide.addShape(deck.ShapeType.roundRect, { x: 0.6, y: 6.2, w: 4.6, h: 0.7, fill: { color: "E6EEEA" } });
  }
  writeFileSync(path, await deck.write({ outputType: "nodebuffer", compression: true }));
}

export function deckPages() {
  const { site, lines } = record();
  const rows = lines
    .slice(0, DECK_LINES)
    .map((line) => `<tr>${COLUMNS.map((column) => `<td>${line[column]}</td>`).join("")}</tr>`)
    .join("");
  const head = `<tr>${COLUMNS.map((column) => `<th>${column}</th>`).join("")}</tr>`;
  const bullets = BULLETS.map((text) => `<li>${text} at ${site}</li>`).join("");
  const pages = Array.from(
    { length: SLIDES },
    (_, index) =>
      `<section><h1>${site}: part ${index + 1}</h1><ul>${bullets}</ul><table>${head}${rows}</table><div></div></section>`,
  );
  const style = `@page { margin: 0 } body { margin: 0; font: 18pt Carlito, sans-serif }
section { position: relative; width: 13.333in; height: 7.5in; break-after: page }
h1, ul, table, div { position: absolute; margin: 0 }
h1 { left: .6in; top: .4in; font-size: 28pt } ul { left: .6in; top: 1.4in; width: 4.6in }
table { left: 5.4in; top: 1.4in; width: 7.3in; font-size: 11pt; border-collapse: collapse }
td, th { border: .5pt solid #b0b8b8 } th { background: #2f6b57; color: #fff }
div { left: .6in; top: 6.2in; width: 4.6in; height: .7in; border-radius: 8pt; background: #e6eeea }`;
  return `<style>${style}</style>${pages.join("")}`;
}
