/** Pictures, shapes, text boxes, groups and charts by their markup, and what is said where one cannot be drawn. */
import type { ImageItem, PageItem } from "@corbix/core/page";
import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { layRaw, p, type RawParts, r, t, words } from "../../../support/raw-document.js";

const PT = 12_700;
const picture = PNG.sync.write(new PNG({ width: 4, height: 2, fill: true }));
const WITH_PICTURE: RawParts = {
  parts: { "word/media/a.png": picture, "word/media/b.emf": Buffer.from("EMF") },
  rels: [
    ["rIdA", "image", "media/a.png"],
    ["rIdB", "image", "media/b.emf"],
    ["rIdGone", "image", "media/gone.png"],
    ["rIdOut", "image", "https://lifts.example/a.png"],
  ],
};
const frame = (width: number, height: number, content: string, more = "") =>
  r(
    `<w:drawing><wp:inline><wp:extent cx="${width * PT}" cy="${height * PT}"/><wp:docPr id="1" name="x" ${more}/><a:graphic><a:graphicData>${content}</a:graphicData></a:graphic></wp:inline></w:drawing>`,
  );
const anchor = (content: string, wrap = "<wp:wrapSquare/>", attributes = "", place = "") =>
  r(
    `<w:drawing><wp:anchor distT="0" distB="0" distL="0" distR="0" ${attributes}><wp:positionH relativeFrom="page">${place || `<wp:posOffset>${100 * PT}</wp:posOffset>`}</wp:positionH><wp:positionV relativeFrom="page"><wp:posOffset>${200 * PT}</wp:posOffset></wp:positionV><wp:extent cx="${80 * PT}" cy="${40 * PT}"/>${wrap}<wp:docPr id="1" name="x"/><a:graphic><a:graphicData>${content}</a:graphicData></a:graphic></wp:anchor></w:drawing>`,
  );
const pic = (id: string, crop = "") =>
  `<pic:pic><pic:blipFill><a:blip r:embed="${id}"/>${crop}</pic:blipFill><pic:spPr/></pic:pic>`;
const xfrm = (x: number, y: number, width: number, height: number) =>
  `<a:xfrm><a:off x="${x * PT}" y="${y * PT}"/><a:ext cx="${width * PT}" cy="${height * PT}"/></a:xfrm>`;
const box = (text: string, body = "<wps:bodyPr/>", outline = '<a:prstGeom prst="rect"/>') =>
  `<wps:wsp><wps:spPr>${xfrm(0, 0, 100, 50)}${outline}<a:solidFill><a:srgbClr val="DDEEFF"/></a:solidFill></wps:spPr>${text === "" ? "" : `<wps:txbx><w:txbxContent>${text}</w:txbxContent></wps:txbx>`}${body}</wps:wsp>`;
const image = (items: readonly PageItem[]) => items.find((item): item is ImageItem => item.kind === "image");
const not = (what: string) => [`The PDF does not show ${what}.`];

describe("a picture", () => {
  it("stands in the line at its size, and says what it shows", () => {
    const { items, laid, found } = layRaw(
      p(t("before ") + frame(40, 20, pic("rIdA"), 'descr="The lift"')),
      WITH_PICTURE,
    );
    expect(image(items)).toMatchObject({ width: 40, height: 20 });
    const figures = laid.pages[0].items.flatMap(function all(item): PageItem[] {
      return item.kind === "figure" ? [item] : "items" in item ? item.items.flatMap(all) : [];
    });
    expect(figures).toMatchObject([{ kind: "figure", description: "The lift" }]);
    expect(found).toEqual([]);
  });

  it("is cut where it is cropped: the rest of it lies outside of its frame", () => {
    const { items } = layRaw(p(frame(40, 20, pic("rIdA", '<a:srcRect l="25000" t="50000"/>'))), WITH_PICTURE);
    expect(image(items)?.width).toBeCloseTo(40 / 0.75, 3);
    expect(image(items)?.height).toBeCloseTo(40, 3);
  });

  it.each([
    [pic("rIdGone"), "a picture that is missing in the file"],
    [pic("rIdNone"), "a picture that is missing in the file"],
    [pic("rIdOut"), "a picture that lies elsewhere"],
    [pic("rIdB"), "a picture of the kind EMF"],
    ['<c:chart r:id="rIdNone"/>', "a chart that is missing in the file"],
    ["<dgm:relIds/>", "a diagram"],
    ["<a:odd/>", "a drawing of a kind that cannot be drawn"],
    ["", "a drawing of a kind that cannot be drawn"],
    ["<wpg:wgp><wpg:grpSpPr/></wpg:wgp>", "a group of drawings"],
  ])("or what it is not is named: %s", (content, what) => {
    expect(layRaw(p(frame(40, 20, content)), WITH_PICTURE).found).toEqual(not(what));
  });

  it("without a size or content is a drawing that cannot be drawn", () => {
    expect(layRaw(p(r("<w:drawing/>"))).found).toEqual(not("a drawing of a kind that cannot be drawn"));
    expect(layRaw(p(r("<mc:AlternateContent><mc:Fallback/></mc:AlternateContent>"))).found).toEqual(not("a drawing"));
  });

  it("takes the first of two ways that it is written, or the second where there is no first", () => {
    const way = (name: string, content: string) =>
      `<mc:${name}>${content.replace(/^<w:r>|<\/w:r>$/g, "")}</mc:${name}>`;
    const both = way("Choice", frame(30, 10, pic("rIdA"))) + way("Fallback", frame(60, 10, pic("rIdA")));
    const width = (content: string) =>
      image(layRaw(p(r(`<mc:AlternateContent>${content}</mc:AlternateContent>`)), WITH_PICTURE).items)?.width;
    expect([width(both), width(way("Fallback", frame(60, 10, pic("rIdA"))))]).toEqual([30, 60]);
  });
});

describe("a thing beside the text", () => {
  it.each([
    ["at a distance from the page's edge", "", 100],
    ["at the page's right", "<wp:align>right</wp:align>", 595.3 - 80],
    ["in its middle", "<wp:align>center</wp:align>", (595.3 - 80) / 2],
  ])("lies %s", (_, place, x) => {
    const { items } = layRaw(p(anchor(pic("rIdA"), "<wp:wrapNone/>", "", place) + t("text")), WITH_PICTURE);
    expect(image(items)?.x).toBeCloseTo(x, 0);
    expect(image(items)?.y).toBeCloseTo(200, 1);
  });

  it("is flowed around, stood clear of, or lies before or behind the text", () => {
    const at = (wrap: string, attributes = "") => {
      const offset = `<wp:posOffset>${72 * PT}</wp:posOffset>`;
      const raw = anchor(pic("rIdA"), wrap, attributes, offset).replace(`${200 * PT}`, `${72 * PT}`);
      const { items, texts } = layRaw(p(raw + t("text")), WITH_PICTURE);
      const [pictureAt, textAt] = [
        items.findIndex((one) => one.kind === "image"),
        items.findIndex((one) => one.kind === "text"),
      ];
      return { x: texts[0].x, y: texts[0].y, isBehind: pictureAt < textAt };
    };
    const free = at("<wp:wrapNone/>");
    expect(at("<wp:wrapSquare/>").x).toBeGreaterThan(free.x + 70);
    expect(at("<wp:wrapTopAndBottom/>").y).toBeGreaterThan(free.y + 30);
    expect([free.isBehind, at("<wp:wrapNone/>", 'behindDoc="1"').isBehind]).toEqual([false, true]);
  });
});

describe("a text box", () => {
  const placed = (content: string) => layRaw(p(frame(100, 50, content)));

  it("has its text inside its insets, at the top, in the middle or at the bottom", () => {
    const y = (anchored: string) => placed(box(p(t("inside")), `<wps:bodyPr ${anchored}/>`)).texts[0].y;
    expect(y('anchor="ctr"') - y("")).toBeGreaterThan(8);
    expect(y('anchor="b"') - y('anchor="ctr"')).toBeGreaterThan(8);
    const x = (inset: string) => placed(box(p(t("inside")), `<wps:bodyPr ${inset}/>`)).texts[0].x;
    expect(x(`lIns="${20 * PT}"`) - x("")).toBeCloseTo(20 - 7.2, 1);
  });

  it("grows with its text where it may, and says where it may not", () => {
    const long = Array.from({ length: 9 }, (_, at) => p(t(`line ${at}`))).join("");
    expect(placed(box(long, "<wps:bodyPr><a:spAutoFit/></wps:bodyPr>")).found).toEqual([]);
    expect(placed(box(long)).found).toEqual(not("all of a text box: its text is longer than the box"));
  });

  it("without a text is a shape, and an outline that is not known a rectangle that is named", () => {
    const plain = placed(box(""));
    expect([plain.texts, plain.found]).toEqual([[], []]);
    expect(
      plain.items.some(
        (item) => (item.kind === "path" || item.kind === "fill") && JSON.stringify(item).includes("DDEEFF"),
      ),
    ).toBe(true);
    expect(placed(box("", "<wps:bodyPr/>", '<a:prstGeom prst="oddShape"/>')).found[0]).toContain("oddShape");
  });
});

describe("a group", () => {
  const group = (parts: string) =>
    `<wpg:wgp><wpg:grpSpPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="${100 * PT}" cy="${50 * PT}"/><a:chOff x="0" y="0"/><a:chExt cx="${200 * PT}" cy="${100 * PT}"/></a:xfrm></wpg:grpSpPr>${parts}</wpg:wgp>`;

  it("scales its parts into its frame, and names those that cannot be drawn", () => {
    const part = `<pic:pic><pic:blipFill><a:blip r:embed="rIdA"/></pic:blipFill><pic:spPr>${xfrm(100, 50, 80, 40)}</pic:spPr></pic:pic>`;
    const odd = `<wpg:odd><a:spPr>${xfrm(0, 0, 1, 1)}</a:spPr></wpg:odd>`;
    const text = box(p(t("inside"))).replace(xfrm(0, 0, 100, 50), xfrm(0, 0, 160, 80));
    const { items, texts, found } = layRaw(p(frame(100, 50, group(`${part + odd + text}<wpg:empty/>`))), WITH_PICTURE);
    expect(image(items)).toMatchObject({ width: 40, height: 20 });
    expect(texts.map(words).join("")).toBe("inside");
    expect(found).toEqual(not("a drawing of a kind that cannot be drawn"));
  });
});

describe("drawings of older files", () => {
  const old = (style: string, content: string, shape = "shape", more = "") =>
    r(`<w:pict><v:${shape} style="${style}" ${more}>${content}</v:${shape}></w:pict>`);
  const pictured = '<v:imagedata r:id="rIdA"/>';

  it.each([
    ["width:40pt;height:20pt", 40, 20],
    ["width:1in;height:2.54cm", 72, 72],
    ["width:25.4mm;height:96px", 72, 72],
  ])("have the size of their style: %s", (style, width, height) => {
    const drawn = image(layRaw(p(old(style, pictured)), WITH_PICTURE).items);
    expect([drawn?.width, drawn?.height].map((one) => Math.round(Number(one)))).toEqual([width, height]);
  });

  it("lie beside the text where their style says so, with what stands in a text box", () => {
    const style = "position:absolute;margin-left:30pt;margin-top:40pt;width:90pt;height:30pt;z-index:-1";
    const boxed = `<v:textbox><w:txbxContent>${p(t("old"))}</w:txbxContent></v:textbox>`;
    const beside = layRaw(p(old(style, `${boxed}<w10:wrap type="square"/>`, "rect") + t("text")));
    expect(beside.texts.map(words).sort()).toEqual(["old", "text"]);
    const right = layRaw(
      p(old(`${style};mso-position-horizontal:right;mso-position-horizontal-relative:page`, pictured)),
      WITH_PICTURE,
    );
    expect(image(right.items)?.x).toBeCloseTo(595.3 - 90, 0);
    const set = layRaw(
      p(old(`${style};mso-position-horizontal:absolute;mso-position-horizontal-relative:page`, pictured)),
      WITH_PICTURE,
    );
    expect(image(set.items)?.x).toBeCloseTo(30, 0);
    expect(layRaw(p(old("width:90pt;height:30pt", boxed))).text).toBe("old");
  });

  it.each([
    [old("width:40pt", pictured), "an old drawing"],
    [old("width:x;height:20pt", pictured), "an old drawing"],
    [old("width:40pt;height:20pt", ""), "an old drawing"],
    [old("width:40pt;height:20pt", '<v:imagedata r:id="rIdGone"/>'), "a picture that is missing in the file"],
    [old("width:40pt;height:20pt", pictured, "group"), "an old drawing"],
    [r("<w:pict/>"), "an old drawing"],
    [r("<w:object/>"), "an embedded object"],
  ])("or what they are not is named (%#)", (content, what) => {
    expect(layRaw(p(content), WITH_PICTURE).found).toEqual(not(what));
  });
});
