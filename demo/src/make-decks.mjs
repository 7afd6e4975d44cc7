import { writeFile } from "node:fs/promises";
import Writing from "pptxgenjs";
import { OFFICE } from "./scenario.mjs";

const Writer = Writing.default ?? Writing;

const TEAL = "0F5C5C";
const DEEP = "0B3B3F";
const SAND = "F4F1EA";
const AMBER = "C77F1A";
const GREY = "5A6B6B";
const INK = "1C2A2A";
const [WIDTH, HEIGHT] = [13.333, 7.5];

/** What an empty picture shows until a mark puts another in its place: one grey point. */
const POINT =
  "image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mM8cODAfwAGgALOa8mOzgAAAABJRU5ErkJggg==";

/** A deck with the office's masters: a cover, and slides with a title, a line below it and a foot. */
function deckOf(title, logo) {
  const deck = new Writer();
  deck.layout = "LAYOUT_WIDE";
  deck.author = OFFICE.name;
  deck.company = OFFICE.name;
  deck.title = title;
  deck.theme = { headFontFace: "Calibri", bodyFontFace: "Calibri" };
  const picture = `image/png;base64,${logo.toString("base64")}`;
  deck.defineSlideMaster({
    title: "Cover",
    background: { color: DEEP },
    objects: [
      { rect: { x: 0, y: HEIGHT - 0.35, w: WIDTH, h: 0.35, fill: { color: AMBER } } },
      { rect: { x: 0.8, y: 0.7, w: 1.3, h: 1.3, fill: { color: "FFFFFF" } } },
      { image: { x: 0.95, y: 0.85, w: 1, h: 1, data: picture } },
      {
        placeholder: {
          options: {
            name: "title",
            type: "title",
            x: 0.8,
            y: 2.6,
            w: 11.5,
            h: 1.5,
            fontSize: 44,
            bold: true,
            color: "FFFFFF",
            valign: "bottom",
            align: "left",
            margin: 0,
            fit: "shrink",
          },
          text: "",
        },
      },
      {
        placeholder: {
          options: {
            name: "about",
            type: "body",
            x: 0.8,
            y: 4.2,
            w: 11.5,
            h: 1.2,
            fontSize: 22,
            color: "D9E5E5",
            align: "left",
            margin: 0,
          },
          text: "",
        },
      },
    ],
  });
  deck.defineSlideMaster({
    title: "Content",
    background: { color: "FFFFFF" },
    objects: [
      { rect: { x: 0, y: 0, w: 0.22, h: HEIGHT, fill: { color: TEAL } } },
      { line: { x: 0.7, y: 1.25, w: 11.95, h: 0, line: { color: "A6B2B2", width: 1 } } },
      { text: { text: OFFICE.name, options: { x: 0.7, y: 6.98, w: 7, h: 0.3, fontSize: 11, color: GREY, margin: 0 } } },
      {
        placeholder: {
          options: {
            name: "title",
            type: "title",
            x: 0.7,
            y: 0.4,
            w: 11.95,
            h: 0.8,
            fontSize: 30,
            bold: true,
            color: TEAL,
            valign: "middle",
            align: "left",
            margin: 0,
          },
          text: "",
        },
      },
    ],
    slideNumber: { x: 12, y: 6.98, w: 0.65, h: 0.3, fontSize: 11, color: GREY, align: "right" },
  });
  return deck;
}

/** A figure with what it counts below it. */
function card(slide, at, figure, about) {
  const x = 0.7 + at * 3.05;
  slide.addText(
    [
      { text: figure, options: { fontSize: 34, bold: true, color: TEAL, breakLine: true } },
      { text: about, options: { fontSize: 15, color: GREY } },
    ],
    {
      x,
      y: 1.7,
      w: 2.8,
      h: 1.5,
      fill: { color: SAND },
      align: "center",
      valign: "middle",
      objectName: `Figure ${at + 1}`,
    },
  );
}

const TABLE = { border: { type: "solid", pt: 0.75, color: "D5DCDC" }, fontSize: 14, color: INK, valign: "middle" };
const head = (text, align = "left") => ({
  text,
  options: { bold: true, color: "FFFFFF", fill: { color: TEAL }, align },
});
const right = (text) => ({ text, options: { align: "right" } });

/** Series to be replaced: a chart needs something to be drawn from until the lines are there. */
const SAMPLE = [{ name: "Fees", labels: ["July", "August", "September"], values: [3, 2, 4] }];
const CHART = {
  chartColors: [TEAL, AMBER],
  barGapWidthPct: 60,
  catAxisLabelFontSize: 13,
  valAxisLabelFontSize: 12,
  valAxisLabelFormatCode: "#,##0",
  valGridLine: { style: "solid", color: "E3E8E8", size: 0.75 },
  showLegend: false,
};

/** The quarter of one site: figures, fees by unit, all visits, a slide for each unit that did not pass. */
export async function writeQuarter(path, logo) {
  const deck = deckOf("Quarter of a site", logo);
  const cover = deck.addSlide({ masterName: "Cover" });
  cover.addText("{{ site }}", { placeholder: "title" });
  cover.addText("Lift inspections, {{ period.label }}", { placeholder: "about" });

  const figures = deck.addSlide({ masterName: "Content" });
  figures.addText("The quarter in figures", { placeholder: "title" });
  card(figures, 0, "{{ count(line) }}", "visits");
  card(figures, 1, "{{ distinct(line.unit) }}", "units");
  card(figures, 2, '{{ sum(line.hours) as "0.0" }}', "hours");
  card(figures, 3, '{{ sum(line.fee) as "#,##0" }}', "fees in pounds");
  figures.addText(
    [
      { text: '{{when count(line where line.result = "fail") = 0}}', options: { breakLine: true } },
      { text: "All units passed.", options: { bullet: true, breakLine: true } },
      { text: "{{otherwise}}", options: { breakLine: true } },
      {
        text: '{{ count(line where line.result = "fail") }} of {{ count(line) }} visits ended without a pass:',
        options: { bullet: true, breakLine: true },
      },
      { text: '{{repeat line where result = "fail"}}', options: { breakLine: true } },
      {
        text: '{{ line.unit }}, {{ line.visit_date as "d mmmm" }}',
        options: { bullet: true, indentLevel: 1, breakLine: true },
      },
      { text: "{{end}}", options: { breakLine: true } },
      { text: "{{end}}" },
    ],
    {
      x: 0.7,
      y: 3.6,
      w: 11.95,
      h: 3.1,
      fontSize: 20,
      color: INK,
      valign: "top",
      fit: "shrink",
      margin: 0,
      objectName: "What was found",
    },
  );
  figures.addNotes("Figures of {{ site }} for {{ period.label }}; fees without tax.");

  const units = deck.addSlide({ masterName: "Content" });
  units.addText("Fees by unit", { placeholder: "title" });
  units.addChart(deck.charts.BAR, SAMPLE, {
    ...CHART,
    x: 0.7,
    y: 1.5,
    w: 7.6,
    h: 5.2,
    altText: '{{chart line: unit, fee headed "Fees" as "#,##0"}}',
    objectName: "Fees by unit",
  });
  units.addTable(
    [
      [head("Unit"), head("Visits", "right"), head("Fees", "right")],
      [
        "{{repeat line by unit}}{{ unit }}",
        right("{{ count(line) }}"),
        right('{{ sum(line.fee) as "#,##0.00" }}{{end}}'),
      ],
      [
        { text: "Quarter", options: { bold: true } },
        right("{{ count(line) }}"),
        right('{{ sum(line.fee) as "#,##0.00" }}'),
      ],
    ],
    { ...TABLE, fontSize: 12, x: 8.7, y: 1.5, w: 3.95, colW: [1.45, 1, 1.5], objectName: "Units" },
  );

  const visits = deck.addSlide({ masterName: "Content" });
  visits.addText("All visits", { placeholder: "title" });
  visits.addTable(
    [
      [head("Day"), head("Unit"), head("Result"), head("Hours", "right"), head("Fee", "right"), head("Remarks")],
      [
        '{{ line.visit_date as "d mmm" }}',
        "{{ line.unit }}",
        "{{ line.result }}",
        right('{{ line.hours as "0.0" }}'),
        right('{{ line.fee as "#,##0.00" }}'),
        "{{ line.remarks }}",
      ],
    ],
    { ...TABLE, fontSize: 12, x: 0.7, y: 1.5, w: 11.95, colW: [1.1, 1.5, 1.3, 1, 1.35, 5.7], objectName: "Visits" },
  );

  const failed = deck.addSlide({ masterName: "Content" });
  failed.addText("{{ line.unit }} did not pass", { placeholder: "title" });
  failed.addText(
    [
      {
        text: '{{ line.visit_date as "dddd, d mmmm yyyy" }}',
        options: { fontSize: 20, bold: true, color: AMBER, breakLine: true },
      },
      { text: "{{ line.remarks }}", options: { fontSize: 24, color: INK } },
    ],
    { x: 0.7, y: 1.6, w: 8, h: 3.6, valign: "top", fit: "shrink", margin: 0, objectName: "What was wrong" },
  );
  failed.addImage({
    data: POINT,
    x: 9.4,
    y: 1.6,
    w: 3.2,
    h: 3.2,
    altText: "{{ qr line.unit }}",
    objectName: "Code of the unit",
  });
  failed.addNotes('{{repeat slide line where result = "fail"}}');

  const end = deck.addSlide({ masterName: "Cover" });
  end.addText("Questions?", { placeholder: "title" });
  end.addText(`${OFFICE.phone}, ${OFFICE.mail}`, { placeholder: "about" });
  await writeFile(path, await deck.write({ outputType: "nodebuffer" }));
}

/** The office's own deck: a cover, a slide for each month made from the hidden one, and an end. */
export async function writeOfficeMonths(path, logo) {
  const deck = deckOf("The office month by month", logo);
  for (const title of ["Opening", "Months", "Closing"]) deck.addSection({ title });
  const cover = deck.addSlide({ masterName: "Cover", sectionTitle: "Opening" });
  cover.addText("The office month by month", { placeholder: "title" });
  cover.addText(OFFICE.name, { placeholder: "about" });
  const month = deck.addSlide({ masterName: "Content", sectionTitle: "Months" });
  month.hidden = true;
  month.addText("{{ period.label }}", { placeholder: "title" });
  card(month, 0, "{{ count(line) }}", "visits");
  card(month, 1, "{{ distinct(line.site) }}", "sites");
  card(month, 2, '{{ count(line where line.result = "fail") }}', "without a pass");
  card(month, 3, '{{ sum(line.fee) as "#,##0" }}', "fees in pounds");
  month.addChart(deck.charts.BAR, SAMPLE, {
    ...CHART,
    x: 0.7,
    y: 3.4,
    w: 11.95,
    h: 3.4,
    altText: '{{chart line: site, fee headed "Fees" as "#,##0"}}',
    catAxisLabelFontSize: 10,
    objectName: "Fees by site",
  });
  const end = deck.addSlide({ masterName: "Cover", sectionTitle: "Closing" });
  end.addText("Thank you", { placeholder: "title" });
  end.addText(OFFICE.mail, { placeholder: "about" });
  await writeFile(path, await deck.write({ outputType: "nodebuffer" }));
}
