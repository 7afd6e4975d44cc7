/** Very different slide decks of a lift inspection office, for tests: some by a general-purpose writer, some by hand in XML. */
import type { Buffer } from "node:buffer";
import { PNG } from "pngjs";
import Writing from "pptxgenjs";
import {
  content,
  EMU,
  frame,
  handDeck,
  paragraph,
  picture,
  RELATED,
  run,
  shape,
  solid,
  THEME_FONTS,
  table,
  theme,
  title,
  usualHolders,
} from "./hand-deck.js";

// The writer's module for Node is its own default.
type Writer = InstanceType<typeof Writing.default>;
const PptxWriter = ((Writing as unknown as { default?: unknown }).default ?? Writing) as new () => Writer;

/** A picture of squares, whose corners can be told apart. */
export function squares(width = 160, height = 120): Uint8Array {
  const png = new PNG({ width, height });
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      const dark = (Math.floor(x / 20) + Math.floor(y / 20)) % 2 === 0;
      png.data[at] = Math.round((x / width) * 255);
      png.data[at + 1] = dark ? 90 : 180;
      png.data[at + 2] = Math.round((y / height) * 255);
      png.data[at + 3] = 255;
    }
  return new Uint8Array(PNG.sync.write(png));
}

async function written(deck: Writer): Promise<Uint8Array> {
  return new Uint8Array((await deck.write({ outputType: "nodebuffer" })) as Buffer);
}

/** A master with a band, a logo and many layouts; levels, columns, footers, notes. */
export function corporate(): Uint8Array {
  const w = 960;
  const band = shape({
    name: "Band",
    at: [0, 0, w, 18],
    preset: "rect",
    paint: `<a:gradFill><a:gsLst><a:gs pos="0"><a:schemeClr val="accent1"/></a:gs><a:gs pos="100000"><a:schemeClr val="accent2"/></a:gs></a:gsLst><a:lin ang="0"/></a:gradFill>`,
  });
  const logo = picture([w - 110, 30, 80, 60], "rIdLogo", "The office's sign");
  const furniture = (number: number): string =>
    shape({
      name: "Date",
      ph: 'type="dt" sz="half" idx="10"',
      text: `<a:p><a:fld id="{1}" type="datetime3"><a:rPr lang="en-GB"/><a:t>1 October 2026</a:t></a:fld></a:p>`,
    }) +
    shape({ name: "Footer", ph: 'type="ftr" sz="quarter" idx="11"', text: "Lift inspection office, confidential" }) +
    shape({
      name: "Number",
      ph: 'type="sldNum" sz="quarter" idx="12"',
      text: `<a:p><a:fld id="{2}" type="slidenum"><a:rPr lang="en-GB"/><a:t>${number}</a:t></a:fld></a:p>`,
    });
  const holders =
    shape({ name: "Date", ph: 'type="dt" sz="half" idx="10"', text: "" }) +
    shape({ name: "Footer", ph: 'type="ftr" sz="quarter" idx="11"', text: "" }) +
    shape({ name: "Number", ph: 'type="sldNum" sz="quarter" idx="12"', text: "" });
  const half = (x: number, index: number): string =>
    shape({ name: `Half ${index}`, ph: `sz="half" idx="${index}"`, at: [x, 150, 400, 330], text: "" });
  return handDeck({
    theme: theme(
      ["1F2A33", "FFFFFF", "14475C", "EEF3F5", "0F6E84", "E08E2B", "7A9E3F", "B5473C", "5E5A8A", "8FA3AD"],
      THEME_FONTS("Georgia", "Calibri"),
    ),
    master: { shapes: band + logo },
    parts: { "ppt/media/logo.png": { content: squares(80, 60), type: "" } },
    layouts: [
      {
        name: "Title slide",
        more: 'type="title"',
        shapes:
          shape({
            name: "Title",
            ph: 'type="ctrTitle"',
            at: [120, 150, 720, 120],
            body: ' anchor="b"',
            lists: '<a:lvl1pPr algn="ctr"><a:defRPr sz="5400" b="1"/></a:lvl1pPr>',
            text: "",
          }) +
          shape({
            name: "Subtitle",
            ph: 'type="subTitle" idx="1"',
            at: [120, 285, 720, 90],
            lists: `<a:lvl1pPr marL="0" indent="0" algn="ctr"><a:buNone/><a:defRPr sz="2400">${solid("accent1")}</a:defRPr></a:lvl1pPr>`,
            text: "",
          }) +
          holders,
      },
      {
        name: "Title and content",
        shapes:
          shape({ name: "Title", ph: 'type="title"', text: "" }) +
          shape({ name: "Content", ph: 'idx="1"', text: "" }) +
          holders,
      },
      {
        name: "Two halves",
        shapes: shape({ name: "Title", ph: 'type="title"', text: "" }) + half(67, 1) + half(493, 2) + holders,
      },
      {
        name: "Section",
        shapes: shape({
          name: "Title",
          ph: 'type="title"',
          at: [67, 180, 826, 150],
          body: ' anchor="b"',
          lists: '<a:lvl1pPr><a:defRPr sz="6000" cap="all" spc="100"/></a:lvl1pPr>',
          text: "",
        }),
        more: 'showMasterSp="0"',
      },
    ],
    slides: [
      {
        layout: 1,
        shapes:
          shape({ name: "Title", ph: 'type="ctrTitle"', text: "Lifts in October" }) +
          shape({ name: "Subtitle", ph: 'type="subTitle" idx="1"', text: "What was inspected, what was found" }),
        notes: "Say who is here.",
      },
      {
        layout: 2,
        shapes:
          title("What was done") +
          content(
            [
              ["2,391 visits at 25 sites", 0],
              ["of them 9 cancelled", 1],
              ["and 2 without a site, which the office still has to find out about before the end of the month", 2],
              ["Fees of 184,220.50", 0],
              ["Doors were the most frequent fault", 0],
              ["mostly their safety edges", 1],
            ]
              .map(([text, level]) => paragraph(String(text), `<a:pPr lvl="${level}"/>`))
              .join(""),
          ) +
          furniture(2),
        notes: `${paragraph("Doors: three of four were old.")}${paragraph("Nobody was hurt.")}`,
      },
      {
        layout: 3,
        shapes:
          title("Before and after") +
          shape({
            name: "Left",
            ph: 'sz="half" idx="1"',
            text: ["Plan the month", "Visit", "Report"]
              .map((one) =>
                paragraph(
                  one,
                  '<a:pPr marL="457200" indent="-457200"><a:buFont typeface="+mj-lt"/><a:buAutoNum type="arabicPeriod"/></a:pPr>',
                ),
              )
              .join(""),
          }) +
          shape({
            name: "Right",
            ph: 'sz="half" idx="2"',
            text:
              paragraph(
                `${run("Bold", ' b="1"')}${run(", ")}${run("slanted", ' i="1"')}${run(", ")}${run("underlined", ' u="sng"')}${run(", ")}${run("struck", ' strike="sngStrike"')}${run(", H")}${run("2", ' baseline="-25000"')}${run("O, m")}${run("2", ' baseline="30000"')}`,
              ) + paragraph("Set in the middle", '<a:pPr algn="ctr"><a:buNone/></a:pPr>'),
          }) +
          furniture(3),
      },
      { layout: 4, shapes: title("Escalators"), background: `<p:bgPr>${solid("accent1")}<a:effectLst/></p:bgPr>` },
    ],
  });
}

/** Tables: plain, in styles, with joined cells, diagonal lines, turned text. */
export async function tables(): Promise<Uint8Array> {
  const deck = new PptxWriter();
  deck.layout = "LAYOUT_WIDE";
  const slide = deck.addSlide();
  slide.addText("Visits by district", { x: 0.5, y: 0.3, w: 12, h: 0.7, fontSize: 28, bold: true, color: "14475C" });
  const head = { bold: true, color: "FFFFFF", fill: { color: "0F6E84" } } as const;
  slide.addTable(
    [
      ["District", "Visits", "Faults", "Fees"].map((text) => ({ text, options: head })),
      ...["North", "South", "East", "West", "Harbour"].map((district, at) => [
        { text: district },
        { text: String(120 + at * 37), options: { align: "right" as const } },
        { text: String(at * 3), options: { align: "right" as const, color: at > 2 ? "B5473C" : "1F2A33" } },
        { text: `${(1200 + at * 333).toLocaleString("en")}.50`, options: { align: "right" as const } },
      ]),
      [
        { text: "All", options: { bold: true, colspan: 3 } },
        { text: "9,330.00", options: { bold: true, align: "right" as const } },
      ],
    ],
    { x: 0.5, y: 1.2, w: 8, border: { type: "solid", pt: 1, color: "8FA3AD" }, fontSize: 14 },
  );
  slide.addText(
    [
      { text: "Harbour", options: { bold: true, breakLine: true } },
      { text: "has the most visits, and the most faults: its doors are from 1974." },
    ],
    { x: 9, y: 1.2, w: 3.8, h: 2, fontSize: 16, fill: { color: "EEF3F5" }, margin: 12, valign: "top" },
  );
  return written(deck);
}

/** Tables by hand: the program's usual style, first columns, joined cells, cells turned. */
export function handTables(): Uint8Array {
  const cell = (text: string, more = "", properties = ""): string =>
    `<a:tc${more}><a:txBody><a:bodyPr/><a:lstStyle/>${paragraph(text)}</a:txBody><a:tcPr${properties.startsWith(" ") ? `${properties}/>` : `>${properties}</a:tcPr>`}</a:tc>`;
  return handDeck({
    slides: [
      {
        shapes:
          title("The usual style") +
          table(
            [67, 150, 400, 200],
            [
              ["Unit", "Hours", "Fee"],
              ["L1", "2", "120.00"],
              ["L2", "1.5", "90.00"],
              ["E7", "4", "240.00"],
            ],
          ) +
          table(
            [500, 150, 390, 200],
            [
              ["Unit", "May", "June"],
              ["L1", "12", "13"],
              ["All", "12", "13"],
            ],
            ' firstRow="1" firstCol="1" lastRow="1" bandCol="1"',
            "{F5AB1C69-6EDB-4FF4-983F-18BD219EF322}",
          ) +
          table(
            [67, 380, 400, 100],
            [
              ["a", "b"],
              ["c", "d"],
            ],
            "",
            "{5940675A-B579-460E-94D1-54222C63F5DA}",
          ),
      },
      {
        shapes:
          title("Joined and turned") +
          table(
            [67, 150, 826, 240],
            [
              [cell("District", ' gridSpan="2"'), cell("", ' hMerge="1"'), "Fee"],
              [
                cell("North", ' rowSpan="2"', ' vert="vert270" anchor="ctr"'),
                cell("Dock", "", ' anchor="ctr"'),
                cell("120.00", "", `<a:lnTlToBr w="12700">${solid("B5473C")}</a:lnTlToBr>`),
              ],
              [cell("", ' vMerge="1"'), cell("Mill", "", ' anchor="b"'), cell("90.00", "", solid("FFF2CC"))],
            ],
          ),
      },
    ],
  });
}

/** Charts: bars, stacked, lines, areas, a pie, a doughnut, points, a net. */
export async function charts(): Promise<Uint8Array> {
  const deck = new PptxWriter();
  const labels = ["May", "June", "July", "August", "September", "October"];
  const visits = { name: "Visits", labels, values: [120, 134, 98, 141, 155, 160] };
  const faults = { name: "Faults", labels, values: [12, 9, 14, 11, 16, 8] };
  const kinds = deck.ChartType;
  const first = deck.addSlide();
  first.addText("Visits and faults", { x: 0.4, y: 0.2, w: 9, h: 0.6, fontSize: 24 });
  first.addChart(kinds.bar, [visits, faults], {
    x: 0.3,
    y: 0.9,
    w: 4.6,
    h: 2.2,
    showLegend: true,
    legendPos: "b",
    showTitle: true,
    title: "By month",
  });
  first.addChart(kinds.line, [visits, faults], { x: 5.1, y: 0.9, w: 4.6, h: 2.2, showLegend: true });
  first.addChart(kinds.bar, [visits, faults], {
    x: 0.3,
    y: 3.2,
    w: 4.6,
    h: 2.2,
    barDir: "bar",
    barGrouping: "stacked",
    showValue: true,
  });
  first.addChart(kinds.area, [visits], { x: 5.1, y: 3.2, w: 4.6, h: 2.2, chartColors: ["0F6E84"] });
  const second = deck.addSlide();
  const share = [{ name: "Faults", labels: ["Doors", "Ropes", "Brakes", "Others"], values: [44, 21, 12, 23] }];
  second.addChart(kinds.pie, share, { x: 0.3, y: 0.4, w: 4.6, h: 2.4, showPercent: true, showLegend: true });
  second.addChart(kinds.doughnut, share, { x: 5.1, y: 0.4, w: 4.6, h: 2.4, showLegend: true, holeSize: 55 });
  second.addChart(
    kinds.scatter,
    [
      { name: "Age", values: [1, 5, 12, 20, 33] },
      { name: "Faults", values: [0, 1, 3, 4, 9] },
    ],
    { x: 0.3, y: 3, w: 4.6, h: 2.4 },
  );
  second.addChart(
    kinds.radar,
    [{ name: "North", labels: ["Doors", "Ropes", "Brakes", "Cabs", "Pits"], values: [4, 3, 5, 2, 1] }],
    { x: 5.1, y: 3, w: 4.6, h: 2.4 },
  );
  return written(deck);
}

/** An agenda whose lines lead to slides, sections, a hidden slide, a transition and an animation. */
export function agenda(): Uint8Array {
  const jump = (text: string, id: string): string =>
    paragraph(
      `<a:r><a:rPr lang="en-GB"><a:hlinkClick r:id="${id}" action="ppaction://hlinksldjump"/></a:rPr><a:t>${text}</a:t></a:r>`,
    );
  const slide = (number: number) => ({ type: "slide", target: `slide${number}.xml` });
  return handDeck({
    presentation: `<p:extLst><p:ext uri="{521415D9-36F7-43E2-AB2F-B90AF26B5E84}"><p14:sectionLst xmlns:p14="http://schemas.microsoft.com/office/powerpoint/2010/main"><p14:section name="Opening" id="{7B6C5F63-0E0A-4E0A-9F0B-000000000001}"><p14:sldIdLst><p14:sldId id="256"/></p14:sldIdLst></p14:section><p14:section name="Districts" id="{7B6C5F63-0E0A-4E0A-9F0B-000000000002}"><p14:sldIdLst><p14:sldId id="257"/><p14:sldId id="258"/><p14:sldId id="259"/></p14:sldIdLst></p14:section></p14:sectionLst></p:ext></p:extLst>`,
    slides: [
      {
        shapes:
          title("Agenda") +
          content(
            `${jump("North", "rId5")}${jump("South", "rId6")}${paragraph(`<a:r><a:rPr lang="en-GB"><a:hlinkClick r:id="rId7"/></a:rPr><a:t>The office's page</a:t></a:r>`)}`,
          ),
        related: {
          rId5: slide(2),
          rId6: slide(3),
          rId7: { type: "hyperlink", target: "https://lifts.example/office", external: true },
        },
        rest: '<p:transition spd="slow"><p:fade/></p:transition>',
      },
      {
        shapes: title("North") + content("Nine sites"),
        rest: '<p:timing><p:tnLst><p:par><p:cTn id="1" dur="indefinite" restart="never" nodeType="tmRoot"/></p:par></p:tnLst></p:timing>',
      },
      { shapes: title("South") + content("Seven sites") },
      { shapes: title("Only for us") + content("What we think of it"), isHidden: true },
    ],
  });
}

/** Pictures: cut, round, recoloured, see-through, filling shapes. */
export function pictures(): Uint8Array {
  const at = (column: number, row: number): [number, number, number, number] => [
    60 + column * 215,
    130 + row * 190,
    190,
    160,
  ];
  const fill = (more: string): string => `<a:blipFill><a:blip r:embed="rIdA"/>${more}</a:blipFill>`;
  return handDeck({
    parts: { "ppt/media/a.png": { content: squares(), type: "" } },
    slides: [
      {
        related: { rIdA: { type: "image", target: "../media/a.png" } },
        shapes:
          title("Doors, as found") +
          picture(at(0, 0), "rIdA", "A door") +
          picture(at(1, 0), "rIdA", "Its upper left quarter", "", '<a:srcRect r="50000" b="50000"/>') +
          picture(at(2, 0), "rIdA", "Round", "", "ellipse") +
          picture(at(3, 0), "rIdA", "In grey", "<a:grayscl/>") +
          picture(
            at(0, 1),
            "rIdA",
            "In two colours",
            `<a:duotone><a:srgbClr val="14475C"/><a:srgbClr val="FFFFFF"/></a:duotone>`,
          ) +
          picture(at(1, 1), "rIdA", "Brighter", '<a:lum bright="30000" contrast="-30000"/>') +
          picture(at(2, 1), "rIdA", "See-through", '<a:alphaModFix amt="40000"/>') +
          shape({
            name: "Tiled",
            at: at(3, 1),
            preset: "hexagon",
            paint: `${fill('<a:tile sx="30000" sy="30000" algn="tl"/>')}<a:ln w="25400">${solid("accent1")}</a:ln>`,
          }),
      },
    ],
  });
}

/** Text that runs from right to left, beside numbers and Latin words. */
export function rightToLeft(): Uint8Array {
  const rtl = (text: string, level = 0): string =>
    `<a:p><a:pPr lvl="${level}" algn="r" rtl="1"/><a:r><a:rPr lang="he-IL"/><a:t>${text}</a:t></a:r></a:p>`;
  return handDeck({
    slides: [
      {
        shapes:
          title(rtl("בדיקת מעליות באוקטובר 2026")) +
          content(
            rtl("נבדקו 25 אתרים") + rtl("מהם 9 בצפון", 1) + rtl("הדלתות של Dock House ישנות") + rtl("فحص المصاعد"),
          ),
      },
    ],
  });
}

/** Four to three: shapes of all sorts, connectors, text in them. */
export async function fourByThree(): Promise<Uint8Array> {
  const deck = new PptxWriter();
  deck.layout = "LAYOUT_4x3";
  const slide = deck.addSlide();
  slide.background = { color: "F7F4EC" };
  const kinds = deck.ShapeType;
  const shapes = [
    kinds.rect,
    kinds.roundRect,
    kinds.ellipse,
    kinds.triangle,
    kinds.rightArrow,
    kinds.chevron,
    kinds.cloud,
    kinds.star5,
    kinds.hexagon,
    kinds.heart,
    kinds.gear6,
    kinds.donut,
  ];
  shapes.forEach((kind, at) => {
    slide.addText(at % 3 === 0 ? "Lift" : "", {
      shape: kind,
      x: 0.4 + (at % 4) * 2.4,
      y: 0.4 + Math.floor(at / 4) * 1.8,
      w: 2,
      h: 1.4,
      fill: { color: ["0F6E84", "E08E2B", "7A9E3F", "B5473C"][at % 4] },
      line: { color: "1F2A33", width: 1.5 },
      color: "FFFFFF",
      align: "center",
      rotate: at === 4 ? 30 : 0,
    });
  });
  slide.addShape(kinds.line, {
    x: 0.4,
    y: 6,
    w: 9,
    h: 0.6,
    line: { color: "1F2A33", width: 2, dashType: "dash", endArrowType: "triangle", beginArrowType: "oval" },
  });
  slide.addText("Footnote: made with care", { x: 0.4, y: 6.8, w: 9, h: 0.4, fontSize: 12, italic: true });
  return written(deck);
}

/** A poster: large canvas, groups turned and flipped, gradients, patterns, columns, upright text, text that shrinks. */
export function poster(): Uint8Array {
  const [w, h] = [1685, 2384];
  const group = (inner: string, at: readonly [number, number, number, number], turn = ""): string =>
    `<p:grpSp><p:nvGrpSpPr><p:cNvPr id="9${at[0]}" name="Group"/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr><a:xfrm${turn}><a:off x="${at[0] * EMU}" y="${at[1] * EMU}"/><a:ext cx="${at[2] * EMU}" cy="${at[3] * EMU}"/><a:chOff x="0" y="0"/><a:chExt cx="${200 * EMU}" cy="${100 * EMU}"/></a:xfrm></p:grpSpPr>${inner}</p:grpSp>`;
  const pair = (): string =>
    shape({
      name: "Arrow",
      at: [0, 0, 120, 100],
      preset: "rightArrow",
      paint: solid("accent1"),
      text: "In",
      style: "",
    }) + shape({ name: "Box", at: [130, 20, 70, 60], preset: "rect", paint: solid("accent2"), text: "Out" });
  const words = "The office inspects lifts and escalators in the harbour, the old town and the hills. ".repeat(9);
  const big = (text: string): string => paragraph(run(text, ' sz="4800"'));
  return handDeck({
    size: [w * EMU, h * EMU],
    slides: [
      {
        background: '<p:bgRef idx="1003"><a:schemeClr val="bg2"/></p:bgRef>',
        shapes:
          title("Safe lifts", { at: [80, 60, 1525, 220], text: paragraph(run("Safe lifts", ' sz="12000"')) }) +
          shape({
            name: "Columns",
            at: [80, 320, 1525, 420],
            body: ' numCol="3" spcCol="457200"',
            text: paragraph(run(words, ' sz="2800"'), '<a:pPr algn="just"/>'),
          }) +
          shape({
            name: "Radial",
            at: [80, 780, 480, 300],
            preset: "ellipse",
            paint: `<a:gradFill><a:gsLst><a:gs pos="0"><a:srgbClr val="FFFFFF"/></a:gs><a:gs pos="100000"><a:srgbClr val="0F6E84"/></a:gs></a:gsLst><a:path path="circle"><a:fillToRect l="50000" t="50000" r="50000" b="50000"/></a:path></a:gradFill>`,
            body: ' anchor="ctr"',
            text: paragraph(run("Outwards", ' sz="4000"'), '<a:pPr algn="ctr"/>'),
          }) +
          shape({
            name: "Pattern",
            at: [600, 780, 480, 300],
            preset: "roundRect",
            paint: `<a:pattFill prst="wdUpDiag"><a:fgClr><a:srgbClr val="E08E2B"/></a:fgClr><a:bgClr><a:srgbClr val="FFF7EA"/></a:bgClr></a:pattFill><a:ln w="38100">${solid("E08E2B")}</a:ln>`,
          }) +
          shape({
            name: "Square",
            at: [1120, 780, 480, 300],
            preset: "rect",
            paint: `<a:gradFill><a:gsLst><a:gs pos="0"><a:srgbClr val="FFFFFF"/></a:gs><a:gs pos="100000"><a:srgbClr val="7A9E3F"/></a:gs></a:gsLst><a:path path="rect"><a:fillToRect l="40000" t="40000" r="40000" b="40000"/></a:path></a:gradFill><a:effectLst><a:outerShdw dist="101600" dir="2700000" blurRad="50800"><a:srgbClr val="000000"><a:alpha val="50000"/></a:srgbClr></a:outerShdw></a:effectLst>`,
          }) +
          group(pair(), [80, 1130, 480, 240]) +
          group(pair(), [640, 1130, 480, 240], ' flipH="1"') +
          group(pair(), [1160, 1130, 440, 240], ' rot="1800000"') +
          shape({
            name: "Upright",
            at: [80, 1420, 140, 520],
            preset: "rect",
            paint: solid("accent5"),
            body: ' vert="vert270" anchor="ctr"',
            text: big("Upright"),
          }) +
          shape({
            name: "Downwards",
            at: [240, 1420, 140, 520],
            preset: "rect",
            paint: solid("accent6"),
            body: ' vert="vert" anchor="ctr"',
            text: big("Downwards"),
          }) +
          shape({
            name: "Shrinks",
            at: [420, 1420, 560, 300],
            preset: "rect",
            paint: `<a:noFill/><a:ln w="19050">${solid("tx1")}</a:ln>`,
            body: "<a:normAutofit/>",
            text: paragraph(run(words, ' sz="3600"')),
          }) +
          shape({
            name: "Too small",
            at: [1020, 1420, 580, 120],
            preset: "rect",
            paint: `<a:noFill/><a:ln w="19050">${solid("tx1")}</a:ln>`,
            text: paragraph(run(words.slice(0, 300), ' sz="3200"')),
          }) +
          shape({
            name: "Turned",
            at: [1100, 1720, 400, 120],
            turn: ' rot="-1200000"',
            preset: "wedgeRoundRectCallout",
            paint: solid("FFC000"),
            text: big("Turned"),
          }) +
          shape({
            name: "Own outline",
            at: [420, 1780, 560, 260],
            paint: `<a:custGeom><a:avLst/><a:gdLst/><a:pathLst><a:path w="100" h="100"><a:moveTo><a:pt x="0" y="100"/></a:moveTo><a:cubicBezTo><a:pt x="20" y="0"/><a:pt x="80" y="0"/><a:pt x="100" y="100"/></a:cubicBezTo><a:close/></a:path></a:pathLst></a:custGeom>${solid("accent4")}<a:ln w="50800" cap="rnd">${solid("tx1")}<a:prstDash val="sysDot"/></a:ln>`,
          }) +
          `<p:cxnSp><p:nvCxnSpPr><p:cNvPr id="777" name="Way"/><p:cNvCxnSpPr/><p:nvPr/></p:nvCxnSpPr><p:spPr>${frame(100, 2080, 600, 180)}<a:prstGeom prst="bentConnector3"><a:avLst/></a:prstGeom><a:ln w="57150">${solid("tx1")}<a:headEnd type="diamond"/><a:tailEnd type="stealth"/></a:ln></p:spPr></p:cxnSp>` +
          `<p:cxnSp><p:nvCxnSpPr><p:cNvPr id="778" name="Curve"/><p:cNvCxnSpPr/><p:nvPr/></p:nvCxnSpPr><p:spPr>${frame(900, 2080, 600, 180, ' flipV="1"')}<a:prstGeom prst="curvedConnector3"><a:avLst/></a:prstGeom><a:ln w="57150">${solid("accent2")}<a:headEnd type="oval"/><a:tailEnd type="arrow"/></a:ln></p:spPr></p:cxnSp>`,
      },
    ],
  });
}

export const SAMPLE_DECKS: Readonly<Record<string, () => Uint8Array | Promise<Uint8Array>>> = {
  corporate,
  tables,
  "hand-tables": handTables,
  charts,
  agenda,
  pictures,
  "right-to-left": rightToLeft,
  "four-by-three": fourByThree,
  poster,
};

export { RELATED, usualHolders };
