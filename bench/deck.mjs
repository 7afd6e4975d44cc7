/** Decks of ten slides as templates, and the same ten filled, as pages of HTML. */
import { writeFileSync } from "node:fs";
import PptxGenJS from "pptxgenjs";
import { record } from "./record.mjs";

/** Rows that each table shows. */
export const DECK_LINES = 10;
const COLUMNS = ["visit_date", "unit", "kind", "result", "hours"];

const title = (text) => ({ kind: "text", text, x: 0.6, y: 0.4, w: 12, h: 0.8, size: 28, isBold: true });
const list = (lines, w = 12) => ({ kind: "list", lines, x: 0.6, y: 1.4, w, h: 4.5, size: 18 });
const table = (x, w) => ({ kind: "table", x, y: 1.4, w, size: 11 });
const box = (text, x, y, w, h) => ({ kind: "box", text, x, y, w, h, size: 16 });
const boxes = (texts) => texts.map((text, at) => box(text, 0.6 + at * 3.1, 1.6, 2.8, 1.4));
const foot = box("Aldmoor Lift Inspection Office, {{ period.label }}", 0.6, 6.8, 12, 0.5);

const LOOKED_AT = [
  "Doors, ropes and brake were looked at",
  "What was found is in the table",
  "Next dates follow by mail",
  "Keys are with the porter of {{ site }}",
  "The next visit is announced a week before",
];

/** What stands on the slides of each deck: as offices report a month, and ten tables with all there is of each. */
const DECKS = {
  deck: [
    [title("{{ site }}"), list(["Lift inspections, {{ period.label }}", "{{ street }}", "{{ town }}"]), foot],
    [title("What this is about"), list(LOOKED_AT), foot],
    [
      title("{{ site }}: the month in figures"),
      ...boxes(["{{ site }}", "{{ street }}", "{{ town }}", "{{ period.label }}"]),
      foot,
    ],
    [title("{{ site }}: what was found"), list(LOOKED_AT), foot],
    [title("{{ site }}: visits"), table(0.6, 12), foot],
    [title("{{ site }}: what follows"), list(LOOKED_AT.slice(2)), foot],
    [title("Who was there"), ...boxes(["A. Brandt", "{{ site }}", "{{ town }}"]), foot],
    [title("{{ site }}: visits again"), table(0.6, 12), foot],
    [title("What we ask for"), list([...LOOKED_AT].reverse()), foot],
    [title("Questions?"), list(["{{ town }}", "office@lifts.example"]), foot],
  ],
  tables: Array.from({ length: 10 }, (_, at) => [
    title(`{{ site }}: part ${at + 1}`),
    list(
      LOOKED_AT.slice(0, 3).map((text) => `${text} at {{ site }}`),
      4.6,
    ),
    table(5.4, 7.3),
    box("", 0.6, 6.2, 4.6, 0.7),
  ]),
};

export async function makeDeck(path, name) {
  const deck = new PptxGenJS();
  deck.layout = "LAYOUT_WIDE";
  for (const items of DECKS[name]) {
    const slide = deck.addSlide();
    for (const { kind, x, y, w, h, size, ...item } of items) {
      const at = { x, y, w, h, fontSize: size };
      if (kind === "text") slide.addText(item.text, { ...at, bold: item.isBold });
      else if (kind === "list")
        slide.addText(
          item.lines.map((text) => ({ text, options: { bullet: true, breakLine: true } })),
          { ...at, valign: "top" },
        );
      else if (kind === "box")
        slide.addText(item.text, { ...at, shape: deck.ShapeType.roundRect, fill: { color: "E6EEEA" } });
      else {
        const mark = (column, index, all) =>
          `${index === 0 ? "{{repeat line}}" : ""}{{ line.${column} }}${index === all.length - 1 ? "{{end}}" : ""}`;
        slide.addTable(
          [
            COLUMNS.map((text) => ({ text, options: { bold: true, fill: { color: "2F6B57" }, color: "FFFFFF" } })),
            COLUMNS.map((column, index, all) => ({ text: mark(column, index, all) })),
          ],
          { x, y, w, fontSize: size, border: { type: "solid", color: "B0B8B8", pt: 0.5 } },
        );
      }
    }
  }
  writeFileSync(path, await deck.write({ outputType: "nodebuffer", compression: true }));
}

export function deckPages(name) {
  const { lines, ...own } = record();
  const filled = (text) =>
    text.replace(/\{\{ ([\w.]+) \}\}/g, (_, mark) => mark.split(".").reduce((value, key) => value[key], own));
  const rows = lines
    .slice(0, DECK_LINES)
    .map((line) => `<tr>${COLUMNS.map((column) => `<td>${line[column]}</td>`).join("")}</tr>`)
    .join("");
  const inside = {
    text: ({ text }) => ["h1", filled(text)],
    list: (item) => ["ul", item.lines.map((text) => `<li>${filled(text)}</li>`).join("")],
    box: ({ text }) => ["div", filled(text)],
    table: () => ["table", `<tr>${COLUMNS.map((column) => `<th>${column}</th>`).join("")}</tr>${rows}`],
  };
  const pages = DECKS[name].map((items) => {
    const drawn = items.map((item) => {
      const [tag, content] = inside[item.kind](item);
      const height = item.h === undefined ? "" : `;height:${item.h}in`;
      return `<${tag} style="left:${item.x}in;top:${item.y}in;width:${item.w}in${height};font-size:${item.size}pt">${content}</${tag}>`;
    });
    return `<section>${drawn.join("")}</section>`;
  });
  const style = `@page { margin: 0 } body { margin: 0; font: 18pt Carlito, sans-serif }
section { position: relative; width: 13.333in; height: 7.5in; break-after: page }
h1, ul, table, div { position: absolute; margin: 0 } table { border-collapse: collapse }
td, th { border: .5pt solid #b0b8b8 } th { background: #2f6b57; color: #fff }
div { border-radius: 8pt; background: #e6eeea }`;
  return `<style>${style}</style>${pages.join("")}`;
}
