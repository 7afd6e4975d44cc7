import { layDeck } from "@corbix/core/layout";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { Deck, openDeck, SlideTemplate, titleOf } from "@corbix/core/slides";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import {
  content,
  frame,
  type HandSlide,
  handDeck,
  paragraph,
  picture,
  run,
  shape,
  solid,
  table,
  title,
} from "../support/hand-deck.js";
import { record } from "../support/helpers.js";
import { agenda, charts, corporate, SAMPLE_DECKS, squares } from "../support/sample-decks.js";
import { strictDeck } from "../support/strict-deck.js";
import { problemsOfDeck } from "../support/validate-deck.js";

const LINES = [
  { district: "North", site: "Dock", unit: "L1", month: "May", fee: 10, note: "one\ntwo", page: "dock-l1" },
  { district: "South", site: "Mill", unit: "L2", month: "May", fee: 20.5, note: "**stop** at once", page: "mill-l2" },
  { district: "North", site: "Dock", unit: "L3", month: "June", fee: 30, note: "", page: "dock-l3" },
];

function fill(
  bytes: Uint8Array,
  lines: object[] = LINES,
  pictures?: ReadonlyMap<string, Uint8Array>,
  more: object = {},
) {
  const { scope, env } = record({ client: "Harbour & Co", photo: "door.png", lines, ...more });
  const made = SlideTemplate.read(bytes, "deck.pptx").bind(scope, pictures).fill(env);
  // What the template's writer did is not ours to mend; nothing may be added to it, in whatever slide.
  const plain = (problem: string): string => problem.replace(/\d+/g, "#");
  const before = new Set(problemsOfDeck(bytes).map(plain));
  expect(problemsOfDeck(made.package.toBytes()).filter((problem) => !before.has(plain(problem)))).toEqual([]);
  return made;
}
const one = (shapes: string, more: Partial<HandSlide> = {}) => handDeck({ slides: [{ shapes, ...more }] });

/** What each slide says, shape by shape, paragraphs apart. */
function said(opened: OoxmlPackage): string[][] {
  return new Deck(opened).slides.map(({ part }) =>
    opened
      .getXml(part)
      .descendants("txBody")
      .map((body) =>
        body
          .elements("p")
          .map((each) =>
            each
              .elements()
              .map((child) => (child.local === "br" ? "|" : (child.child("t")?.text ?? "")))
              .join(""),
          )
          .join("/"),
      ),
  );
}
const titles = (opened: OoxmlPackage): string[] =>
  new Deck(opened).slides.map(({ part }) => titleOf(opened.getXml(part)));
const notesOf = (opened: OoxmlPackage): string[] =>
  new Deck(opened).slides.map(({ part }) => {
    const notes = opened.relationships(part).find((relation) => relation.type === "notesSlide")?.target;
    return notes === undefined
      ? ""
      : opened
          .getXml(notes)
          .descendants("t")
          .map((text) => text.text)
          .join("/");
  });

/** Decks of a writer that does not keep to every order. */
const WRITTEN = ["tables", "charts", "four-by-three"];

describe("a deck without marks", () => {
  it.each(Object.keys(SAMPLE_DECKS))("stays as it is, part by part: %s", async (name) => {
    const bytes = await SAMPLE_DECKS[name]();
    const { scope, env } = record({ lines: LINES });
    const made = SlideTemplate.read(bytes, "deck.pptx").bind(scope).fill(env).package;
    const before = OoxmlPackage.open(bytes, "before");
    expect(made.names).toEqual(before.names);
    for (const part of before.names) expect(made.getBytes(part), part).toEqual(before.getBytes(part));
    if (!WRITTEN.includes(name)) expect(problemsOfDeck(bytes)).toEqual([]);
  });
});

describe("a mark on a slide", () => {
  it("is filled wherever text stands: titles, boxes, tables, groups, notes, alternative texts", () => {
    const group = `<p:grpSp><p:nvGrpSpPr><p:cNvPr id="50" name="Group"/><p:cNvGrpSpPr/><p:nvPr/></p:nvGrpSpPr><p:grpSpPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="9" cy="9"/><a:chOff x="0" y="0"/><a:chExt cx="9" cy="9"/></a:xfrm></p:grpSpPr>${shape({ name: "Inner", at: [0, 0, 9, 9], text: "of {{ client }}" })}</p:grpSp>`;
    const { package: made } = fill(
      one(
        title("For {{ client }}") +
          shape({
            name: "Box",
            descr: "Fees of {{ client }}",
            at: [0, 0, 90, 20],
            text: '{{ sum(line.fee) as "0.00" }}',
          }) +
          group +
          table([0, 0, 100, 40], [["Client", "{{ client }}"]]),
        { notes: "Say {{ count(line) }}" },
      ),
    );
    expect(said(made)).toEqual([["For Harbour & Co", "60.50", "of Harbour & Co", "Client", "Harbour & Co"]]);
    expect(notesOf(made)).toEqual(["Say 3"]);
    const described = made
      .getXml("ppt/slides/slide1.xml")
      .descendants("cNvPr")
      .map((shape) => shape.attr("descr"));
    expect(described).toContain("Fees of Harbour & Co");
  });

  it("may be broken over runs, and has the looks of its first letter", () => {
    const broken = paragraph(
      `${run("Dear {", ' b="1"')}${run("{ cli", ' i="1"')}${run("ent }", "")}${run("}, hello", ' u="sng"')}`,
    );
    const { package: made } = fill(one(shape({ name: "Box", at: [0, 0, 9, 9], text: broken })));
    const runs = made.getXml("ppt/slides/slide1.xml").descendants("r");
    expect(runs.map((each) => [each.child("t")?.text, each.child("rPr")?.open.match(/ ([biu])="/)?.[1]])).toEqual([
      ["Dear Harbour & Co", "b"],
      [", hello", "u"],
    ]);
  });

  it("breaks its lines where the value does, and shows what is strong", () => {
    const { package: made } = fill(
      one(
        shape({ name: "Note", at: [0, 0, 9, 9], text: "{{ first(line.note) }}" }) +
          shape({
            name: "Strong",
            at: [0, 0, 9, 9],
            text: paragraph(run('{{ list(line.note where line.unit = "L2") as "emphasis" }}', ' i="1"')),
          }),
      ),
    );
    expect(said(made)[0][0]).toBe("one|two");
    const strong = made
      .getXml("ppt/slides/slide1.xml")
      .descendants("r")
      .find((each) => each.child("t")?.text === "stop");
    expect(strong?.child("rPr")?.open).toBe('<a:rPr lang="en-GB" i="1" b="1"/>');
  });

  it("stands in the address of a link, also one for each line", () => {
    const linked =
      paragraph(`{{repeat line}}`) +
      `<a:p><a:r><a:rPr lang="en-GB"><a:hlinkClick r:id="rId9"/></a:rPr><a:t>{{ line.unit }}</a:t></a:r></a:p>` +
      paragraph("{{end}}");
    const { package: made } = fill(
      one(shape({ name: "Links", at: [0, 0, 9, 9], text: linked }), {
        related: {
          rId9: { type: "hyperlink", target: "https://lifts.example/%7B%7B%20line.page%20%7D%7D", external: true },
        },
      }),
    );
    const links = new Map(
      made.relationships("ppt/slides/slide1.xml").map((relation) => [relation.id, relation.target]),
    );
    const clicks = made
      .getXml("ppt/slides/slide1.xml")
      .descendants("hlinkClick")
      .map((click) => links.get(click.attr("r:id") ?? ""));
    expect(clicks).toEqual(["dock-l1", "mill-l2", "dock-l3"].map((page) => `https://lifts.example/${page}`));
  });

  it("stands in footers of layouts, and in the deck's properties", () => {
    const bytes = handDeck({
      slides: [{ shapes: title("Fees") }],
      layouts: [{ name: "Plain", shapes: shape({ name: "Foot", at: [0, 0, 9, 9], text: "For {{ client }}" }) }],
      parts: {
        "docProps/core.xml": {
          type: "application/vnd.openxmlformats-package.core-properties+xml",
          content: `<cp:coreProperties xmlns:cp="http://schemas.openxmlformats.org/package/2006/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>Fees of {{ client }}</dc:title></cp:coreProperties>`,
        },
      },
    });
    const opened = OoxmlPackage.open(bytes, "deck");
    const related = opened.with(
      new Map([
        [
          "_rels/.rels",
          opened
            .getText("_rels/.rels")
            .replace(
              "</Relationships>",
              '<Relationship Id="rId2" Type="http://schemas.openxmlformats.org/package/2006/relationships/metadata/core-properties" Target="docProps/core.xml"/></Relationships>',
            ),
        ],
      ]),
    );
    const { package: made } = fill(related.toBytes());
    expect(
      made
        .getXml("ppt/slideLayouts/slideLayout1.xml")
        .descendants("t")
        .map((text) => text.text),
    ).toEqual(["For Harbour & Co"]);
    expect(made.getText("docProps/core.xml")).toContain("<dc:title>Fees of Harbour &amp; Co</dc:title>");
  });

  it("that cannot be filled is told with slide and shape", () => {
    const { scope } = record({ lines: LINES });
    const refused = (text: string) => () =>
      SlideTemplate.read(
        handDeck({ slides: [{ shapes: title("One") }, { shapes: shape({ name: "Fees", at: [0, 0, 9, 9], text }) }] }),
        "deck.pptx",
      ).bind(scope);
    expect(refused("{{ clinet }}")).toThrow(
      expect.objectContaining({ where: expect.stringMatching(/^deck\.pptx, slide 2, Fees, mark/) }),
    );
    expect(refused("{{ line.fee }}")).toThrow(
      expect.objectContaining({ code: "BAD_MARK", where: expect.stringContaining("slide 2, Fees") }),
    );
    expect(refused("{{repeat line}} x")).toThrow("Cannot find");
  });
});

describe("what repeats on a slide", () => {
  it("are paragraphs with their bullets and levels, and what a condition leaves of them", () => {
    const lines =
      paragraph("{{repeat line by district}}") +
      paragraph("{{ district }}") +
      paragraph("{{repeat line}}") +
      paragraph("{{ line.unit }}{{when line.fee > 15}}, dear{{end}}", '<a:pPr lvl="1"/>') +
      paragraph("{{end}}") +
      paragraph("{{end}}");
    const { package: made } = fill(one(title("Units") + content(lines)));
    expect(said(made)).toEqual([["Units", "North/L1/L3, dear/South/L2, dear"]]);
    const levels = made
      .getXml("ppt/slides/slide1.xml")
      .descendants("pPr")
      .map((properties) => properties.attr("lvl"));
    expect(levels).toEqual(["1", "1", "1"]);
  });

  it("are rows of tables, by themselves; a table without rows goes", () => {
    const deck = one(
      title("Fees") +
        table(
          [0, 0, 100, 40],
          [
            ["Unit", "Fee"],
            ["{{ line.unit }}", '{{ line.fee as "0.00" }}'],
          ],
        ),
    );
    const { package: made } = fill(deck);
    expect(said(made)[0].slice(1)).toEqual(["Unit", "Fee", "L1", "10.00", "L2", "20.50", "L3", "30.00"]);
    // The frame is as high as its rows.
    const framed = made.getXml("ppt/slides/slide1.xml").descendants("graphicFrame")[0];
    expect(framed.child("xfrm")?.child("ext")?.attr("cy")).toBe(String(4 * 20 * 12_700));
    const bare = one(title("Fees") + table([0, 0, 100, 40], [["{{ line.unit }}", "x"]]));
    expect(fill(bare, []).package.getXml("ppt/slides/slide1.xml").descendants("graphicFrame")).toEqual([]);
  });

  it("are columns of tables, the same in each row, within the table's width", () => {
    const deck = one(
      table(
        [0, 0, 300, 40],
        [
          ["Unit", "{{repeat line by month across}}{{ month }}{{end}}", "All"],
          [
            `<a:p>${run("{{repeat line by unit}}")}${run("{{ unit }}")}</a:p>`,
            '{{ sum(line.fee) as "0" }}',
            `<a:p>${run('{{ sum(line.fee) as "0" }}')}${run("{{end}}")}</a:p>`,
          ],
        ],
      ),
    );
    const { package: made } = fill(deck);
    const rows = made
      .getXml("ppt/slides/slide1.xml")
      .descendants("tr")
      .map((row) =>
        row.elements("tc").map((cell) =>
          cell
            .descendants("t")
            .map((text) => text.text)
            .join(""),
        ),
      );
    expect(rows).toEqual([
      ["Unit", "May", "June", "All"],
      ["L1", "10", "0", "10"],
      ["L2", "21", "0", "21"],
      ["L3", "0", "30", "30"],
    ]);
    const widths = made
      .getXml("ppt/slides/slide1.xml")
      .descendants("gridCol")
      .map((column) => Number(column.attr("w")));
    expect(widths).toHaveLength(4);
    expect(widths.reduce((sum, width) => sum + width, 0)).toBeLessThanOrEqual(300 * 12_700);
    expect(widths.reduce((sum, width) => sum + width, 0)).toBeGreaterThan(299 * 12_700);
  });

  it("are shapes in a row, and below each other where there is no more room", () => {
    const card = (name: string, x: number, text: string) =>
      shape({ name, at: [x, 100, 180, 80], preset: "rect", paint: solid("accent1"), text });
    const many = Array.from({ length: 7 }, (_, at) => ({ unit: `L${at + 1}`, fee: at }));
    const deck = one(
      card("Card", 60, "{{repeat line across}}{{ line.unit }}{{end}}") +
        shape({ name: "Other", at: [0, 0, 9, 9], text: "stays" }),
    );
    const inside = (made: OoxmlPackage) =>
      made
        .getXml("ppt/slides/slide1.xml")
        .descendants("sp")
        .map((each) => [
          each.descendants("t")[0]?.text,
          Number(each.descendants("off")[0].attr("x")) / 12_700,
          Number(each.descendants("off")[0].attr("y")) / 12_700,
        ]);
    // Begun and ended in one shape it is the text that repeats.
    expect(inside(fill(deck, many).package)[0][0]).toBe("L1");
    const apart = one(
      shape({ name: "Begin", at: [0, 500, 9, 9], text: "{{repeat line across}}" }) +
        card("Card", 60, "{{ line.unit }}") +
        shape({ name: "End", at: [0, 500, 9, 9], text: "{{end}}" }) +
        shape({ name: "Other", at: [0, 0, 9, 9], text: "stays" }),
    );
    const { package: made, findings } = fill(apart, many);
    const places = inside(made);
    expect(places.map(([text]) => text)).toEqual(["L1", "L2", "L3", "L4", "L5", "L6", "L7", "stays"]);
    expect(places.slice(0, 5).map(([, x]) => Math.round(Number(x)))).toEqual([60, 246, 433, 619, 60]);
    expect(new Set(places.slice(0, 4).map(([, , y]) => y))).toEqual(new Set([100]));
    expect(Number(places[4][2])).toBeGreaterThan(180);
    expect(findings).toEqual([]);
    const crowded = Array.from({ length: 40 }, (_, at) => ({ unit: `L${at}` }));
    expect(fill(apart, crowded).findings).toEqual([
      expect.objectContaining({ code: "shapes-leave-slide", where: "deck.pptx, slide 1" }),
    ]);
  });

  it("is a whole table in the frame of a text box, in the style of the deck's tables", () => {
    const deck = one(title("Fees") + content('{{table line: unit, fee headed "Fee" as "0.00" total, note}}'));
    const { package: made } = fill(deck);
    const [framed] = made.getXml("ppt/slides/slide1.xml").descendants("graphicFrame");
    const rows = framed.descendants("tr").map((row) =>
      row.elements("tc").map((cell) =>
        cell
          .descendants("p")
          .map((each) => each.text)
          .join("/"),
      ),
    );
    expect(rows).toEqual([
      ["Unit", "Fee", "Note"],
      ["L1", "10.00", "one/two"],
      ["L2", "20.50", "**stop** at once"],
      ["L3", "30.00", ""],
      ["Total", "60.50", ""],
    ]);
    // In the frame of the placeholder it stood in.
    expect(framed.child("xfrm")?.child("off")?.attr("y")).toBe(String(Math.round(540 * 0.27 * 12_700)));
    expect(() =>
      SlideTemplate.read(one(table([0, 0, 9, 9], [["{{table line}}"]])), "deck.pptx").bind(
        record({ lines: LINES }).scope,
      ),
    ).toThrow("Cannot put a table where");
  });
});

describe("whole slides", () => {
  const cards = (mark: string): HandSlide[] => [
    { shapes: title("All of {{ client }}") },
    {
      shapes: title("{{ district }}") + content('{{ sum(line.fee) as "0.00" }}'),
      notes: `${paragraph(mark)}${paragraph("about {{ district }}")}`,
    },
    { shapes: title("End") },
  ];

  it("stand for each sub-group, with their notes, in order; the first keeps its part", () => {
    const { package: made } = fill(handDeck({ slides: cards("{{repeat slide line by district}}") }));
    expect(titles(made)).toEqual(["All of Harbour & Co", "North", "South", "End"]);
    expect(said(made).map(([, text]) => text)).toEqual([undefined, "40.00", "20.50", undefined]);
    expect(notesOf(made)).toEqual(["", "about North", "about South", ""]);
    expect(new Deck(made).slides.map(({ part }) => part)).toEqual([
      "ppt/slides/slide1.xml",
      "ppt/slides/slide2.xml",
      "ppt/slides/slide4.xml",
      "ppt/slides/slide3.xml",
    ]);
  });

  it("stand for each line, which they may name without repeating it", () => {
    const { package: made } = fill(
      handDeck({
        slides: [
          {
            shapes:
              shape({ name: "Sign", at: [0, 0, 9, 9], text: "{{repeat slide line where fee > 15}}" }) +
              title("{{ line.unit }}: {{ line.fee }}"),
          },
        ],
      }),
    );
    expect(titles(made)).toEqual(["L2: 20.5", "L3: 30"]);
    // The text box of the mark is gone.
    expect(
      made
        .getXml("ppt/slides/slide1.xml")
        .descendants("cNvPr")
        .map((each) => each.attr("name")),
    ).not.toContain("Sign");
  });

  it("of several go together, nested, and go where their condition is false", () => {
    const slides: HandSlide[] = [
      { shapes: title("{{ district }}"), notes: paragraph("{{repeat slides line by district}}") },
      { shapes: title("{{ line.unit }}"), notes: paragraph("{{repeat slide line}}") },
      {
        shapes: title("Dear in {{ district }}"),
        notes: `${paragraph("{{when slide sum(line.fee) > 30}}")}${paragraph("{{end slides}}")}`,
      },
      { shapes: title("Nobody"), notes: paragraph("{{when slide count(line) = 0}}") },
      { shapes: title("Much"), notes: paragraph("{{when slides count(line) > 2}}") },
      { shapes: title("Little"), notes: `${paragraph("{{otherwise slides}}")}${paragraph("{{end slides}}")}` },
    ];
    const { package: made } = fill(handDeck({ slides }));
    expect(titles(made)).toEqual(["North", "L1", "L3", "Dear in North", "South", "L2", "Much"]);
    expect(titles(fill(handDeck({ slides }), LINES.slice(0, 1)).package)).toEqual(["North", "L1", "Little"]);
    // Slides that are not shown are not there, and neither are their notes.
    const { package: short } = fill(handDeck({ slides }), LINES.slice(0, 1));
    expect(short.names.filter((name) => name.startsWith("ppt/notesSlides/") && name.endsWith(".xml"))).toHaveLength(3);
  });

  it("take their sections with them", () => {
    const sections = (names: readonly (readonly [string, readonly number[]])[]) =>
      `<p:extLst><p:ext uri="{521415D9-36F7-43E2-AB2F-B90AF26B5E84}"><p14:sectionLst xmlns:p14="http://schemas.microsoft.com/office/powerpoint/2010/main">${names.map(([name, ids], at) => `<p14:section name="${name}" id="{00000000-0000-0000-0000-00000000000${at}}"><p14:sldIdLst>${ids.map((id) => `<p14:sldId id="${id}"/>`).join("")}</p14:sldIdLst></p14:section>`).join("")}</p14:sectionLst></p:ext></p:extLst>`;
    const { package: made } = fill(
      handDeck({
        presentation: sections([
          ["Opening", [256]],
          ["District {{ district }}", [257, 258]],
        ]),
        slides: [
          { shapes: title("Opening") },
          { shapes: title("{{ district }}"), notes: paragraph("{{repeat slides line by district}}") },
          { shapes: title("More of {{ district }}"), notes: paragraph("{{end slides}}") },
        ],
      }),
    );
    const deck = new Deck(made);
    const inOrder = new Map(deck.slides.map((slide) => [slide.id, titleOf(made.getXml(slide.part))]));
    expect(deck.sections.map(({ name, slides }) => [name, slides.map((id) => inOrder.get(id))])).toEqual([
      ["Opening", ["Opening"]],
      ["District North", ["North", "More of North"]],
      ["District South", ["South", "More of South"]],
    ]);
  });

  it("keep what belongs to them: transitions, links between slides, charts with their workbooks", async () => {
    const opened = OoxmlPackage.open(await charts(), "charts");
    const marked = opened
      .getText("ppt/slides/slide1.xml")
      .replace("Visits and faults", "{{repeat slide line by district}}{{ district }}");
    const { package: made } = fill(opened.with(new Map([["ppt/slides/slide1.xml", marked]])).toBytes());
    const slides = new Deck(made).slides.map(({ part }) => part);
    expect(slides).toHaveLength(3);
    const chartsOf = (part: string) =>
      made
        .relationships(part)
        .filter(({ type }) => type === "chart")
        .map(({ target }) => target);
    expect(new Set([...chartsOf(slides[0]), ...chartsOf(slides[1])]).size).toBe(8);
    const { package: again } = fill(agenda());
    expect(again.getText("ppt/slides/slide1.xml")).toContain("<p:transition");
  });

  it("that are begun and not ended, or ended and not begun, are refused where they stand", () => {
    const read = (mark: string) => () =>
      SlideTemplate.read(handDeck({ slides: [{ shapes: title("x"), notes: paragraph(mark) }] }), "deck.pptx");
    expect(read("{{repeat slides line}}")).toThrow(
      expect.objectContaining({ where: "deck.pptx, slide 1, notes, Notes" }),
    );
    expect(read("{{end slides}}")).toThrow("Cannot find");
  });
});

describe("charts of slides", () => {
  const chartDeck = async (description: string): Promise<Uint8Array> => {
    const opened = OoxmlPackage.open(await charts(), "charts");
    let first = true;
    const text = opened.getText("ppt/slides/slide1.xml").replace(/<p:cNvPr\b[^>]*name="Chart[^>]*>/g, (open) => {
      if (!first) return open;
      first = false;
      return open.replace(/\sdescr="[^"]*"/, "").replace(/(\/?)>$/, ` descr="${description}"$1>`);
    });
    return opened.with(new Map([["ppt/slides/slide1.xml", text]])).toBytes();
  };

  it("are made from the lines, with the figures in the workbook behind", async () => {
    const { package: made } = fill(
      await chartDeck("{{chart line: month, fee headed &quot;Fees&quot;, unit headed &quot;Units&quot;}}"),
    );
    const [part] = made
      .relationships("ppt/slides/slide1.xml")
      .filter(({ id }) => id.startsWith("corbix"))
      .map(({ target }) => target);
    const series = made
      .getXml(part)
      .descendants("ser")
      .map((one) => [
        one.child("tx")?.descendants("v")[0].text,
        one
          .child("cat")
          ?.descendants("v")
          .map((value) => value.text),
        one
          .child("val")
          ?.descendants("v")
          .map((value) => value.text),
      ]);
    expect(series).toEqual([
      ["Fees", ["May", "June"], ["30.5", "30"]],
      ["Units", ["May", "June"], ["2", "1"]],
    ]);
    const book = made.relationships(part).find(({ type }) => type === "package")?.target ?? "";
    const sheet = openWorkbook(made.getBytes(book), "book.xlsx").package.getXml("xl/worksheets/sheet1.xml");
    expect(sheet.descendants("c").map((cell) => [cell.attr("r"), cell.text])).toEqual([
      ["B1", "Fees"],
      ["C1", "Units"],
      ["A2", "May"],
      ["B2", "30.5"],
      ["C2", "2"],
      ["A3", "June"],
      ["B3", "30"],
      ["C3", "1"],
    ]);
    // What was behind it before is gone, with what led there.
    expect(made.names.filter((name) => name.startsWith("ppt/embeddings/"))).toHaveLength(8);
  });

  it("whose workbook has marks follow its cells", async () => {
    const opened = OoxmlPackage.open(await charts(), "charts");
    const chart = opened.relationships("ppt/slides/slide1.xml").find(({ type }) => type === "chart")?.target ?? "";
    const book = opened.relationships(chart).find(({ type }) => type === "package")?.target ?? "";
    const { Workbook } = await import("exceljs").then((module) => module.default);
    const workbook = new Workbook();
    const sheet = workbook.addWorksheet("Sheet1");
    sheet.addRow(["", "Fees of {{ client }}", "Twice"]);
    sheet.addRow(["{{ line.unit }}", "{{ line.fee }}", "{{ line.fee * 2 }}"]);
    const bytes = new Uint8Array((await workbook.xlsx.writeBuffer()) as ArrayBuffer);
    const refs = opened
      .getText(chart)
      .replace(/<c:f>Sheet1!\$([ABC])\$2:\$[ABC]\$7<\/c:f>/g, "<c:f>Sheet1!$$$1$$2:$$$1$$2</c:f>");
    const { package: made } = fill(
      opened
        .with(
          new Map<string, string | Uint8Array>([
            [book, bytes],
            [chart, refs],
          ]),
        )
        .toBytes(),
    );
    const series = made
      .getXml(chart)
      .descendants("ser")
      .map((one) => [
        one.child("tx")?.descendants("v")[0].text,
        one.child("cat")?.descendants("f")[0].text,
        one
          .child("cat")
          ?.descendants("v")
          .map((value) => value.text),
        one
          .child("val")
          ?.descendants("v")
          .map((value) => value.text),
      ]);
    expect(series).toEqual([
      ["Fees of Harbour & Co", "Sheet1!$A$2:$A$4", ["L1", "L2", "L3"], ["10", "20.5", "30"]],
      ["Twice", "Sheet1!$A$2:$A$4", ["L1", "L2", "L3"], ["20", "41", "60"]],
    ]);
    const filled = openWorkbook(made.getBytes(book), "book.xlsx");
    expect(filled.package.names.filter((name) => /drawing|chart/i.test(name))).toEqual([]);
  });

  it("have marks in their titles", async () => {
    const opened = OoxmlPackage.open(await charts(), "charts");
    const chart = opened.relationships("ppt/slides/slide1.xml").find(({ type }) => type === "chart")?.target ?? "";
    const text = opened.getText(chart).replace(">By month<", ">For {{ client }}<");
    const { package: made } = fill(opened.with(new Map([[chart, text]])).toBytes());
    expect(
      made
        .getXml(chart)
        .descendants("t")
        .map((each) => each.text),
    ).toContain("For Harbour & Co");
  });
});

describe("pictures of slides", () => {
  const door = new Map([["door.png", squares(200, 100)]]);
  const placeOf = (made: OoxmlPackage) => {
    const [pic] = made.getXml("ppt/slides/slide1.xml").descendants("pic");
    const [off, ext] = [pic.descendants("off")[0], pic.descendants("ext")[0]];
    return [off.attr("x"), off.attr("y"), ext.attr("cx"), ext.attr("cy")].map((value) => Number(value) / 12_700);
  };
  const deck = (more = "", mark = "{{ photo }}") =>
    one(picture([100, 100, 200, 200], "rIdA", mark, "", more), {
      related: { rIdA: { type: "image", target: "../media/a.png" } },
    }) &&
    handDeck({
      parts: { "ppt/media/a.png": { content: squares(), type: "" } },
      slides: [
        {
          shapes: picture([100, 100, 200, 200], "rIdA", mark, "", more),
          related: { rIdA: { type: "image", target: "../media/a.png" } },
        },
      ],
    });

  it("are chosen by a mark, stand wholly in the middle of their frame, and say what they are", () => {
    const { package: made } = fill(deck(), LINES, door);
    expect(placeOf(made)).toEqual([100, 150, 200, 100]);
    expect(made.getXml("ppt/slides/slide1.xml").descendants("cNvPr").at(-1)?.attr("descr")).toBe("door");
    const id = made.getXml("ppt/slides/slide1.xml").descendants("blip")[0].attr("r:embed");
    const target = made.relationships("ppt/slides/slide1.xml").find((relation) => relation.id === id)?.target ?? "";
    expect(made.getBytes(target)).toEqual(door.get("door.png"));
  });

  it("fill frames that crop or are round, without distortion", () => {
    for (const more of ["ellipse", '<a:srcRect l="1000"/>']) {
      const { package: made } = fill(deck(more), LINES, door);
      expect(placeOf(made)).toEqual([100, 100, 200, 200]);
      const [cut] = made.getXml("ppt/slides/slide1.xml").descendants("srcRect");
      expect(["l", "t", "r", "b"].map((side) => cut.attr(side))).toEqual(["25000", "0", "25000", "0"]);
    }
  });

  it("are codes, none without a value, and refused where there is no such file", () => {
    expect(placeOf(fill(deck("", "{{ qr client }}")).package)).toEqual([100, 100, 200, 200]);
    expect(fill(deck(), LINES, door, { photo: "" }).package.getXml("ppt/slides/slide1.xml").descendants("pic")).toEqual(
      [],
    );
    expect(() => fill(deck(), LINES, new Map([["dors.png", squares()]]))).toThrow(
      "Cannot find the picture `door.png`.",
    );
  });

  it("go into placeholders that wait for one", () => {
    const waiting = handDeck({
      layouts: [
        {
          name: "Photo",
          shapes: shape({ name: "Photo", ph: 'type="pic" idx="5"', at: [300, 50, 400, 400], text: "" }),
        },
      ],
      slides: [{ shapes: shape({ name: "Photo", ph: 'type="pic" idx="5"', descr: "{{ photo }}" }) }],
    });
    const { package: made } = fill(waiting, LINES, door);
    expect(placeOf(made)).toEqual([300, 150, 400, 200]);
  });
});

describe("a deck in the strict form", () => {
  it("stays as it is without marks, and is filled in its own namespaces", async () => {
    const { scope, env } = record({ lines: LINES });
    for (const write of Object.values(SAMPLE_DECKS)) {
      const bytes = strictDeck(await write());
      const made = SlideTemplate.read(bytes, "deck.pptx").bind(scope).fill(env).package;
      const before = OoxmlPackage.open(bytes, "before");
      for (const part of before.names) expect(made.getBytes(part), part).toEqual(before.getBytes(part));
    }
    const deck = one(
      title("{{ client }}") +
        content('{{table line: unit, fee headed "Fee" total}}') +
        picture([10, 10, 50, 50], "rIdA", "{{ photo }}"),
      {
        notes: paragraph("{{repeat slide line by district}}"),
        related: { rIdA: { type: "image", target: "../media/a.png" } },
      },
    );
    const bound = SlideTemplate.read(strictDeck(deck), "deck.pptx");
    const shown = record({ client: "Harbour", photo: "door.png", lines: LINES });
    const { package: made } = bound.bind(shown.scope, new Map([["door.png", squares(200, 100)]])).fill(shown.env);
    expect(titles(made)).toEqual(["Harbour", "Harbour"]);
    for (const name of made.names.filter((each) => /slides\/.*\.(?:xml|rels)$/.test(each)))
      expect(made.getText(name).match(/http:\/\/schemas\.openxmlformats\.org\/(?!package)[^"]*/g), name).toBeNull();
    const { pages, findings } = layDeck(made, openFonts());
    expect([pages.length, findings]).toEqual([2, []]);
  });
});

describe("a deck of a corporate master", () => {
  it("is filled in its placeholders, whatever they inherit", () => {
    const opened = openDeck(corporate(), "corporate");
    const text = opened
      .getText("ppt/slides/slide2.xml")
      .replace("2,391 visits at 25 sites", "{{ count(line) }} visits for {{ client }}");
    const { package: made } = fill(opened.with(new Map([["ppt/slides/slide2.xml", text]])).toBytes());
    expect(said(made)[1][1]).toMatch(/^3 visits for Harbour & Co\/of them/);
    expect(frame(0, 0, 1, 1)).toContain("<a:off");
  });
});
