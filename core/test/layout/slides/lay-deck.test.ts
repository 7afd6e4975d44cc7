import { layDeck } from "@corbix/core/layout";
import { relationshipsXml, xmlElement } from "@corbix/core/ooxml";
import { eachItem, holdsItems, type Page, type PageItem, type StructureNode, type TextItem } from "@corbix/core/page";
import { writePdf } from "@corbix/core/pdf";
import { openDeck } from "@corbix/core/slides";
import { readTheme } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { chartTheme } from "../../../src/layout/chart/chart-theme.js";
import {
  content,
  handDeck,
  paragraph,
  run,
  shape,
  solid,
  TEXT_STYLES,
  table,
  theme,
  title,
} from "../../support/hand-deck.js";
import { drawnPdf } from "../../support/pdf-page.js";
import { agenda, corporate, pictures, poster, SAMPLE_DECKS, squares } from "../../support/sample-decks.js";
import { strictDeck } from "../../support/strict-deck.js";

const fonts = openFonts();
const lay = (bytes: Uint8Array, facts: Parameters<typeof layDeck>[2] = {}) =>
  layDeck(openDeck(bytes, "deck.pptx"), fonts, facts);
const one = (shapes: string) => lay(handDeck({ slides: [{ shapes }] }));

const textsOf = (page: Page): TextItem[] =>
  [...eachItem(page.items)].filter((item): item is TextItem => item.kind === "text");
const said = (item: TextItem): string => item.shaped.runs.flatMap((each) => each.texts).join("");
const words = (page: Page): string => textsOf(page).map(said).join(" ");
const find = (page: Page, text: string): TextItem => {
  const found = textsOf(page).find((item) => said(item).includes(text));
  if (!found) throw new Error(`There is no "${text}" on the page: ${words(page)}`);
  return found;
};
const roles = (node: StructureNode): string[] => [node.role, ...node.children.flatMap(roles)];
/** Texts with the place they are seen at, whatever they stand in. */
function places(
  items: readonly PageItem[],
  at = (x: number, y: number): [number, number] => [x, y],
): [string, number, number][] {
  return items.flatMap((item): [string, number, number][] => {
    if (item.kind === "text") return [[said(item), ...at(item.x, item.y)]];
    if (!holdsItems(item)) return [];
    if (item.kind !== "turned") return places(item.items, at);
    const [a, b, c, d, e, f] = item.matrix;
    return places(item.items, (x, y) => at(a * x + c * y + e, b * x + d * y + f));
  });
}

describe("decks of every sort", () => {
  it.each(Object.keys(SAMPLE_DECKS))("print with every word that is on their slides: %s", async (name) => {
    const bytes = await SAMPLE_DECKS[name]();
    const opened = openDeck(bytes, name);
    const { pages, findings, structure, outline } = lay(bytes);
    const printed = pages.map(words).join(" ").replace(/\s+/g, "");
    const shown = opened.names.filter(
      (part) => /^ppt\/slides\/slide\d+\.xml$/.test(part) && opened.getXml(part).attr("show") !== "0",
    );
    expect(pages).toHaveLength(shown.length);
    for (const part of shown)
      for (const text of opened.getXml(part).descendants("t")) {
        // Letters of lines that run backwards stand in the order they are seen in.
        if (/[\u0590-\u06ff]/.test(text.text)) continue;
        for (const word of text.text.split(/\s+/))
          expect(printed.toLowerCase(), `${part}: ${word}`).toContain(word.toLowerCase());
      }
    expect(findings.map((finding) => finding.code).filter((code) => code === "not-drawn")).toEqual([]);
    const pdf = writePdf(pages, { title: name, structure, outline });
    expect(Buffer.from(pdf.slice(0, 5)).toString()).toBe("%PDF-");
  });
});

describe("decks in the strict form", () => {
  it.each(Object.keys(SAMPLE_DECKS))("print as those of the other form do: %s", async (name) => {
    const bytes = await SAMPLE_DECKS[name]();
    const [usual, strict] = [bytes, strictDeck(bytes)].map((each) => lay(each));
    const [paper, other] = [usual, strict].map(({ pages }) => writePdf(pages, { title: name }));
    expect(Buffer.compare(other, paper)).toBe(0);
    expect(strict.findings).toEqual(usual.findings);
  });
});

describe("a placeholder", () => {
  const { pages } = lay(corporate());

  it("takes its place and looks from the layout, and what that leaves open from the master", () => {
    const [first, second] = pages;
    const heading = find(first, "Lifts");
    expect([heading.size, heading.color]).toEqual([54, "1F2A33"]);
    // Centred on the slide, at the foot of its frame.
    const middle = heading.x + (heading.shaped.width * heading.size) / 2;
    expect(middle).toBeGreaterThan(420);
    expect(heading.y).toBeLessThan(270);
    expect(find(first, "What was inspected").color).toBe("0F6E84");
    // The master's title, at forty points at the left.
    expect([find(second, "What was done").size, Math.round(find(second, "What was done").x)]).toEqual([40, 74]);
  });

  it("has the sizes and bullets of its levels", () => {
    const [, page] = pages;
    expect(["2,391", "of them", "and 2"].map((text) => find(page, text).size)).toEqual([28, 24, 20]);
    const [a, b, c] = ["2,391", "of them", "and 2"].map((text) => find(page, text).x);
    expect(b - a).toBeCloseTo(36, 1);
    expect(c - b).toBeCloseTo(36, 1);
    expect(textsOf(page).filter((item) => said(item) === "•")).toHaveLength(6);
  });

  it("has pictures for bullets, from the part whose list names them", () => {
    const [own, other] = [squares(20, 20), squares(40, 20)];
    const bullet = (id: string): string => `<a:buBlip><a:blip r:embed="${id}"/></a:buBlip>`;
    const lines = ["First", "Second"]
      .map((text) => paragraph(run(text), `<a:pPr>${bullet("rIdDot")}</a:pPr>`))
      .join("");
    const lists = `<a:lvl1pPr marL="228600" indent="-228600">${bullet("rIdLogo")}<a:defRPr sz="2000"/></a:lvl1pPr>`;
    const deck = handDeck({
      slides: [
        { shapes: content(lines), related: { rIdDot: { type: "image", target: "../media/dot.png" } } },
        { shapes: shape({ ph: 'type="body" idx="7"', text: "Third" }) },
        { shapes: content(lines) },
      ],
      master: {
        styles: TEXT_STYLES.replace(/<p:bodyStyle>[\s\S]*<\/p:bodyStyle>/, `<p:bodyStyle>${lists}</p:bodyStyle>`),
      },
      parts: {
        "ppt/media/dot.png": { content: own, type: "" },
        "ppt/media/logo.png": { content: other, type: "" },
      },
    });
    const { pages, structure } = lay(deck);
    const drawn = pages.map((page) =>
      [...eachItem(page.items)].flatMap((item) =>
        item.kind === "image" ? [[item.image.width, Math.round(item.width), Math.round(item.height)]] : [],
      ),
    );
    // A picture that is not there is a sign.
    expect(drawn).toEqual([
      [
        [20, 14, 14],
        [20, 14, 14],
      ],
      [[40, 28, 14]],
      [],
    ]);
    expect(words(pages[2])).toBe("• First • Second");
    expect(places(pages[0].items).map(([text]) => text)).toEqual(["First", "Second"]);
    expect(structure ? roles(structure).filter((role) => role === "LI") : []).toHaveLength(5);
  });

  it("counts its numbered lines, and has none where it says so", () => {
    const [, , page] = pages;
    expect(textsOf(page).map(said)).toEqual(expect.arrayContaining(["1.", "2.", "3."]));
    expect(textsOf(page).filter((item) => said(item) === "•")).toHaveLength(1);
  });

  it("shows dates, footers and numbers where the slide has them, and the master's drawings unless its layout hides them", () => {
    expect(words(pages[1])).toContain("Lift inspection office, confidential");
    expect(words(pages[1])).toMatch(/1 October 2026.*2$/);
    expect(words(pages[0])).not.toContain("confidential");
    const images = pages.map((page) => [...eachItem(page.items)].filter((item) => item.kind === "image").length);
    expect(images).toEqual([1, 1, 1, 0]);
  });

  it("shows the day of the run in dates that change", () => {
    const [, page] = lay(corporate(), { today: 46_336 }).pages;
    expect(words(page)).toContain("10 November 2026");
  });

  it("shows nothing while it is empty", () => {
    const { pages: empty } = one(title("Here") + shape({ name: "Content", ph: 'idx="1"', text: "" }));
    expect(words(empty[0]).trim()).toBe("Here");
  });
});

describe("text of a slide", () => {
  it("is as small as it was made to fit its frame, and smaller where it has become longer", () => {
    const long = "Doors, ropes, brakes, cabs, pits and machine rooms of every lift. ".repeat(30);
    const box = (body: string): TextItem =>
      textsOf(
        one(
          shape({
            name: "Box",
            at: [50, 50, 400, 200],
            preset: "rect",
            body,
            text: paragraph(run(long, ' sz="2400"')),
          }),
        ).pages[0],
      )[0];
    expect(box("<a:noAutofit/>").size).toBe(24);
    const shrunk = box("<a:normAutofit/>").size;
    expect(shrunk).toBeLessThan(15);
    const stored = '<a:normAutofit fontScale="40000" lnSpcReduction="20000"/>';
    expect(box(stored).size).toBeCloseTo(9.6, 5);
  });

  it("that is longer than a frame that does not shrink is told with slide and shape", () => {
    const { findings } = one(
      shape({ name: "Remarks", at: [50, 50, 200, 40], preset: "rect", text: "Doors, ropes and brakes. ".repeat(20) }),
    );
    expect(findings).toEqual([
      expect.objectContaining({ code: "text-overflows", where: "deck.pptx, slide 1, Remarks" }),
    ]);
    expect(findings[0].what).toMatch(/^The text of "Remarks" is \d+ pt higher than its frame\.$/);
  });

  it("stands in columns, one after the other", () => {
    const { pages } = one(
      shape({
        name: "Columns",
        at: [0, 0, 620, 100],
        body: ' numCol="2" spcCol="254000" lIns="0" rIns="0"',
        text: "one two three four five six seven eight nine ten ".repeat(8),
      }),
    );
    const starts = new Set(textsOf(pages[0]).map((item) => Math.round(item.x)));
    expect([...starts]).toEqual([0, 320]);
  });

  it("is turned with its body, and runs upright", () => {
    const { pages } = one(
      shape({
        name: "Upright",
        at: [100, 100, 40, 200],
        preset: "rect",
        body: ' vert="vert270" anchor="ctr"',
        text: "Upright",
      }),
    );
    const [[, x, y]] = places(pages[0].items);
    // It begins at the lower edge and runs upwards in the middle of the frame.
    expect(y).toBeGreaterThan(280);
    expect(x).toBeGreaterThan(110);
    expect(x).toBeLessThan(140);
  });

  it("has the colours of the shape's style, and its own where it says so", () => {
    const style =
      '<p:style><a:lnRef idx="2"><a:schemeClr val="accent1"/></a:lnRef><a:fillRef idx="1"><a:schemeClr val="accent1"/></a:fillRef><a:effectRef idx="0"><a:schemeClr val="accent1"/></a:effectRef><a:fontRef idx="minor"><a:schemeClr val="lt1"/></a:fontRef></p:style>';
    const { pages } = one(
      shape({
        name: "Styled",
        at: [10, 10, 200, 80],
        preset: "rect",
        style,
        text: paragraph(`${run("white ")}${run("red", "").replace("/>", `>${solid("C00000")}</a:rPr>`)}`),
      }),
    );
    expect([find(pages[0], "white").color, find(pages[0], "red").color]).toEqual(["FFFFFF", "C00000"]);
    const fills = [...eachItem(pages[0].items)].flatMap((item) =>
      item.kind === "path" && item.fill ? [item.fill] : [],
    );
    expect(fills).toContain("4472C4");
  });
});

describe("what a part says over the theme", () => {
  const override = `<a:themeOverride xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"><a:clrScheme name="O">${[
    "dk1:222222",
    "lt1:FFFFFF",
    "dk2:44546A",
    "lt2:E7E6E6",
    "accent1:BB0011",
    "accent2:ED7D31",
    "accent3:A5A5A5",
    "accent4:FFC000",
    "accent5:5B9BD5",
    "accent6:70AD47",
    "hlink:0563C1",
    "folHlink:954F72",
  ]
    .map((one) => one.split(":"))
    .map(([name, value]) => `<a:${name}><a:srgbClr val="${value}"/></a:${name}>`)
    .join("")}</a:clrScheme></a:themeOverride>`;
  const parts = {
    "ppt/theme/themeOverride1.xml": {
      content: override,
      type: "application/vnd.openxmlformats-officedocument.themeOverride+xml",
    },
  };
  const target = "../theme/themeOverride1.xml";
  const shapes = shape({ at: [40, 60, 100, 40], preset: "rect", paint: solid("accent1"), text: "Sign" });

  it("counts for that slide alone, and leaves its fonts as they are", () => {
    const deck = handDeck({
      slides: [{ shapes, related: { rIdO: { type: "themeOverride", target } } }, { shapes }],
      parts,
    });
    const looks = lay(deck).pages.map((page) => {
      const fills = [...eachItem(page.items)].flatMap((item) => (item.kind === "path" && item.fill ? [item.fill] : []));
      return [...fills, find(page, "Sign").color];
    });
    expect(looks).toEqual([
      ["FFFFFF", "BB0011", "222222"],
      ["FFFFFF", "4472C4", "000000"],
    ]);
  });

  it("counts for a chart that brings its own along", () => {
    const chart = "ppt/charts/chart1.xml";
    const opened = openDeck(handDeck({ slides: [{ shapes }], parts }), "deck.pptx").with(
      new Map([
        [chart, "<c:chartSpace/>"],
        [
          "ppt/charts/_rels/chart1.xml.rels",
          relationshipsXml([xmlElement("Relationship", { Id: "r", Type: "urn:x/themeOverride", Target: target })]),
        ],
      ]),
    );
    const plain = readTheme(undefined);
    expect(chartTheme(opened, chart, plain).colors[4]).toBe("BB0011");
    expect(chartTheme(opened, chart, plain)).toBe(chartTheme(opened, chart, plain));
    expect(chartTheme(opened, "ppt/slides/slide1.xml", plain)).toBe(plain);
  });
});

describe("a ground that fades", () => {
  const stop = (at: number, alpha: number): string =>
    `<a:gs pos="${at * 1000}"><a:srgbClr val="000000"><a:alpha val="${alpha * 1000}"/></a:srgbClr></a:gs>`;
  const faded = (way: string, turn = ""): ((x: number, y: number) => number[]) => {
    const paint = `<a:gradFill><a:gsLst>${stop(0, 100)}${stop(100, 0)}</a:gsLst>${way}</a:gradFill><a:ln><a:noFill/></a:ln>`;
    const laid = one(shape({ at: [100, 100, 200, 100], turn, preset: "rect", paint }));
    return drawnPdf(writePdf(laid.pages, { title: "x" }));
  };

  it("shows as much of what is behind as each of its stops says", () => {
    const pixel = faded('<a:lin ang="0" scaled="0"/>');
    const greys = [105, 150, 200, 250, 295].map((x) => pixel(x, 150)[0]);
    const off = [6, 64, 127, 191, 249].map((grey, at) => Math.abs(greys[at] - grey));
    expect(Math.max(...off)).toBeLessThan(8);
    // Beside it nothing fades.
    expect([pixel(90, 150)[0], pixel(310, 150)[0]]).toEqual([255, 255]);
  });

  it("turns with its shape, and goes outwards in circles", () => {
    const turnedRound = faded('<a:lin ang="0" scaled="0"/>', ' rot="10800000"');
    expect(turnedRound(105, 150)[0]).toBeGreaterThan(230);
    expect(turnedRound(295, 150)[0]).toBeLessThan(25);
    const round = faded('<a:path path="circle"><a:fillToRect l="50000" t="50000" r="50000" b="50000"/></a:path>');
    expect(round(200, 150)[0]).toBeLessThan(15);
    expect(round(290, 150)[0]).toBeGreaterThan(round(240, 150)[0]);
  });
});

describe("members of a group", () => {
  it("stand where the group puts them: scaled, mirrored, turned, their letters never mirrored", () => {
    const [page] = lay(poster()).pages;
    const seen = places(page.items).filter(([text]) => text === "In" || text === "Out");
    const [[, plainIn], [, plainOut], [, mirroredIn], [, mirroredOut]] = seen;
    expect(plainOut).toBeGreaterThan(plainIn);
    expect(mirroredOut).toBeLessThan(mirroredIn);
    const mirrors = (items: readonly PageItem[], sign = 1): number[] =>
      items.flatMap((item): number[] => {
        if (item.kind === "text") return [sign];
        if (!holdsItems(item)) return [];
        const [a, b, c, d] = item.kind === "turned" ? item.matrix : [1, 0, 0, 1];
        return mirrors(item.items, sign * Math.sign(a * d - b * c));
      });
    expect(new Set(mirrors(page.items))).toEqual(new Set([1]));
  });
});

describe("a table of a slide", () => {
  const rows = (count: number): string[][] => [
    ["Unit", "Fee"],
    ...Array.from({ length: count }, (_, at) => [`L${at + 1}`, `${at * 10}.00`]),
  ];

  it("has the looks of its style: a head in the accent's colour, bands, lines", () => {
    const { pages, structure } = one(table([50, 50, 400, 120], rows(3)));
    const fills = [...eachItem(pages[0].items)].flatMap((item) =>
      item.kind === "path" && item.fill ? [item.fill] : [],
    );
    expect(fills.slice(1)).toEqual(["4472C4", "4472C4", "CFD5EA", "CFD5EA", "E9EBF5", "E9EBF5", "CFD5EA", "CFD5EA"]);
    expect([find(pages[0], "Unit").color, find(pages[0], "L1").color]).toEqual(["FFFFFF", "000000"]);
    const found = structure ? roles(structure) : [];
    expect(found.filter((role) => role === "TH")).toHaveLength(2);
    expect(found.filter((role) => role === "TR")).toHaveLength(4);
  });

  it("has rows as high as their words, and is told where it reaches below the slide", () => {
    const tall = [
      ["Unit", "Remarks"],
      ["L1", "Doors, ropes, brakes and all that. ".repeat(10)],
      ["L2", ""],
    ];
    const { pages } = one(table([50, 50, 300, 60], tall));
    expect(find(pages[0], "L2").y - find(pages[0], "L1").y).toBeGreaterThan(100);
    const { findings } = one(table([50, 300, 300, 60], rows(20)));
    expect(findings).toEqual([expect.objectContaining({ code: "table-overflows", severity: "warn" })]);
    expect(findings[0].where).toMatch(/^deck\.pptx, slide 1, Table \d+$/);
  });
});

describe("what is written alike", () => {
  const words = "Doors and ropes of every lift were looked at. ".repeat(6);
  const shapes = (font = "Calibri"): string =>
    title("Doors") +
    shape({ at: [40, 100, 300, 80], text: paragraph(run(words, ' sz="1400"')), lists: "" }) +
    shape({
      at: [40, 300, 300, 40],
      text: `<a:p><a:r><a:rPr><a:latin typeface="${font}"/></a:rPr><a:t>Sign</a:t></a:r></a:p>`,
    }) +
    shape({ at: [600, 480, 60, 20], text: '<a:p><a:fld id="{1}" type="slidenum"><a:rPr/><a:t>9</a:t></a:fld></a:p>' }) +
    table(
      [400, 100, 300, 120],
      [
        ["Unit", "Fee"],
        ["L1", "120.00"],
        ["L2", "120.00"],
      ],
    );
  const twice = (font?: string) => handDeck({ slides: [{ shapes: shapes(font) }, { shapes: shapes(font) }] });

  it("is drawn alike on each slide and in each deck, but for what tells where it stands", () => {
    const print = (): Uint8Array => {
      const laid = lay(twice());
      return writePdf(laid.pages, { title: "x", outline: laid.outline, structure: laid.structure });
    };
    expect(Buffer.compare(Buffer.from(print()), Buffer.from(print()))).toBe(0);
    const { pages, structure } = lay(twice());
    const [first, second] = pages.map((page) => places(page.items));
    expect(first.map(([text, x, y]) => [text === "1" ? "2" : text, x, y])).toEqual(second);
    expect([first.some(([text]) => text === "1"), second.some(([text]) => text === "1")]).toEqual([true, false]);
    // Each slide has a structure of its own.
    const [one, two] = structure?.children.map(roles) ?? [];
    expect(one).toEqual(two);
    expect(one.filter((role) => /^(?:TH|TD)$/.test(role))).toHaveLength(6);
  });

  it("is told each time where its font is not there", () => {
    const told = () => lay(twice("Nowhere Sans")).findings.filter(({ code }) => code === "font-substituted");
    expect(told()).toHaveLength(1);
    expect(told()).toEqual(told());
  });

  it("has the colours, fonts and sizes of the deck it stands in", () => {
    const colors = ["112233", "FFFFFF", "44546A", "E7E6E6", "AA0000", "ED7D31", "A5A5A5", "FFC000", "5B9BD5", "70AD47"];
    const looks = (theme: string | undefined): string[] => {
      const [page] = lay(
        handDeck({ slides: [{ shapes: shapes() + content("Sign") }], ...(theme ? { theme } : {}) }),
      ).pages;
      const at = textsOf(page).map((item) => `${said(item)} ${item.color} ${Math.round(item.size)}`);
      const fills = [...eachItem(page.items)].flatMap((item) => (item.kind === "path" && item.fill ? [item.fill] : []));
      return [
        ...at.filter((one) => /^(?:Doors \w{6} 4|Sign|L1)/.test(one)),
        fills[0] === "FFFFFF" ? fills[1] : fills[0],
      ];
    };
    expect(looks(undefined)).toEqual(["Doors 000000 40", "Sign 000000 18", "L1 000000 18", "Sign 000000 28", "4472C4"]);
    expect(looks(theme(colors))).toEqual([
      "Doors 112233 40",
      "Sign 112233 18",
      "L1 112233 18",
      "Sign 112233 28",
      "AA0000",
    ]);
  });

  it("has one line for each edge of a table, the wider where both sides want one", () => {
    const lines = (style?: string) =>
      [
        ...eachItem(
          one(
            table(
              [50, 50, 400, 120],
              [
                ["a", "b"],
                ["c", "d"],
              ],
              ' firstRow="1"',
              style,
            ),
          ).pages[0].items,
        ),
      ].flatMap((item) => (item.kind === "path" && item.stroke ? [[item.stroke.width, item.commands.length / 2]] : []));
    // Four lines around and two between; with a head its line below is three times as wide.
    expect(lines("{5940675A-B579-460E-94D1-54222C63F5DA}")).toEqual([[1, 6]]);
    expect(lines()).toEqual(expect.arrayContaining([[3, 1]]));
  });
});

describe("pages of a deck", () => {
  it("are its shown slides, and hidden ones where they are asked for", () => {
    const titles = (facts = {}) => lay(agenda(), facts).outline.map((entry) => entry.title);
    expect(titles()).toEqual(["Agenda", "North", "South"]);
    expect(titles({ withHidden: true })).toEqual(["Agenda", "North", "South", "Only for us"]);
  });

  it("lead from links to other slides, and outside", () => {
    const { pages } = lay(agenda());
    const targets = [...eachItem(pages[0].items)].flatMap((item) => (item.kind === "link" ? [item.target] : []));
    const places = pages.map((page) =>
      [...eachItem(page.items)].flatMap((item) => (item.kind === "place" ? [item.name] : [])),
    );
    expect(targets).toEqual([`#${places[1][0]}`, `#${places[2][0]}`, "https://lifts.example/office"]);
  });

  it("show the notes below each slide, or two, four and six slides", () => {
    const notes = lay(corporate(), { pages: "notes" });
    expect(notes.pages.map((page) => [page.widthPt, page.heightPt])).toEqual(Array(4).fill([540, 720]));
    expect(words(notes.pages[1])).toContain("Doors: three of four were old.");
    expect(words(notes.pages[1])).toContain("What was done");
    expect(words(notes.pages[3])).toContain("ESCALATORS");
    const counts = (["two", "four", "six"] as const).map((pages) => lay(corporate(), { pages }).pages.length);
    expect(counts).toEqual([2, 1, 1]);
    const [page] = lay(corporate(), { pages: "four" }).pages;
    expect(words(page)).toContain("Slide 4");
    const boundsOf = textsOf(page).map((item) => item.x);
    expect(Math.min(...boundsOf)).toBeGreaterThanOrEqual(36);
  });

  it("say what is a heading, a list, a figure, and what pictures show", () => {
    const { structure } = lay(corporate());
    expect(roles(structure ?? { role: "", children: [] }).slice(0, 5)).toEqual(["Document", "Sect", "H1", "P", "Sect"]);
    const found = roles(structure ?? { role: "", children: [] });
    expect(found.filter((role) => role === "LI").length).toBeGreaterThan(8);
    const { pages } = lay(pictures());
    const described = pages[0].items.flatMap(function figures(item: PageItem): string[] {
      if (item.kind === "figure") return [item.description];
      return holdsItems(item) ? item.items.flatMap(figures) : [];
    });
    expect(described).toEqual([
      "A door",
      "Its upper left quarter",
      "Round",
      "In grey",
      "In two colours",
      "Brighter",
      "See-through",
    ]);
  });

  it("are cut at the slide's edges, and pictures as their frames cut them", () => {
    const [page] = lay(pictures()).pages;
    expect(page.items[0]).toMatchObject({ kind: "group", clip: { width: 960, height: 540 } });
    const images = [...eachItem(page.items)].filter((item) => item.kind === "image");
    expect(images.map((item) => Math.round(item.width))).toEqual([190, 380, 190, 190, 190, 190, 190]);
    expect(images[6].opacity).toBe(0.4);
    expect(images[4].recolor).toEqual([{ kind: "between", dark: "14475C", light: "FFFFFF" }]);
  });
});

describe("a file that is no deck", () => {
  it.each([
    [new Uint8Array(), "it is empty"],
    [new TextEncoder().encode("hello"), "it is no .pptx file"],
  ])("is refused with what it is", (bytes, why) => {
    expect(() => openDeck(bytes, "x.pptx")).toThrow(why);
  });

  it("is refused where it is a package of another kind", () => {
    const deck = openDeck(handDeck({ slides: [{ shapes: content("x") }] }), "deck.pptx");
    const other = deck.with(
      new Map([
        [
          "ppt/presentation.xml",
          '<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"/>',
        ],
      ]),
    );
    expect(() => openDeck(other.toBytes(), "x.pptx")).toThrow("it is of another kind");
  });
});
