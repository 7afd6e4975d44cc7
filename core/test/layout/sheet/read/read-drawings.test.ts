import { PNG } from "pngjs";
import { describe, expect, it } from "vitest";
import { readDrawings } from "../../../../src/layout/sheet/read/read-drawings.js";
import { workbookWith } from "../../../support/package-parts.js";

const PT = 12_700;
const NAMES =
  'xmlns:xdr="http://schemas.openxmlformats.org/drawingml/2006/spreadsheetDrawing" xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" xmlns:c="http://schemas.openxmlformats.org/drawingml/2006/chart" xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006"';
const point = (name: string, column: number, row: number, dx: number | string = 0) =>
  `<xdr:${name}><xdr:col>${column}</xdr:col><xdr:colOff>${typeof dx === "number" ? dx * PT : dx}</xdr:colOff><xdr:row>${row}</xdr:row><xdr:rowOff>0</xdr:rowOff></xdr:${name}>`;
const two = (content: string) =>
  `<xdr:twoCellAnchor>${point("from", 1, 2, 3)}${point("to", 4, 6)}${content}<xdr:clientData/></xdr:twoCellAnchor>`;
const named = (name: string, more = "") => `<xdr:nvPr><xdr:cNvPr id="1" name="${name}"${more}/></xdr:nvPr>`;
const pic = (id: string, name = "Logo", more = "", place = "") =>
  `<xdr:pic>${named(name, more)}<xdr:blipFill><a:blip r:embed="${id}"/></xdr:blipFill><xdr:spPr>${place}</xdr:spPr></xdr:pic>`;
const shape = (name: string, outline: string, place = "") =>
  `<xdr:sp>${named(name)}<xdr:spPr>${place}<a:prstGeom prst="${outline}"/></xdr:spPr></xdr:sp>`;
const xfrm = (x: number, y: number, width: number, height: number, more = "") =>
  `<a:xfrm><a:off x="${x}" y="${y}"/><a:ext cx="${width}" cy="${height}"/>${more}</a:xfrm>`;
const chart = (id: string) =>
  `<xdr:graphicFrame>${named("Fees")}<a:graphic><a:graphicData><c:chart r:id="${id}"/></a:graphicData></a:graphic></xdr:graphicFrame>`;
const space = (plots: string, more = "") =>
  `<c:chartSpace ${NAMES}><c:chart>${more}<c:plotArea>${plots}</c:plotArea></c:chart></c:chartSpace>`;

const PICTURE = new Uint8Array(PNG.sync.write(new PNG({ width: 4, height: 2, fill: true })));

async function drawn(content: string) {
  const workbook = await workbookWith({
    onSheet: '<drawing rel:id="rIdDrawing"/>',
    parts: {
      "xl/drawings/drawing1.xml": `<xdr:wsDr ${NAMES}>${content}</xdr:wsDr>`,
      "xl/media/a.png": PICTURE,
      "xl/media/b.emf": "EMF",
      "xl/media/c.png": PICTURE.subarray(0, 40),
      "xl/charts/chart1.xml": space("<c:barChart><c:ser><c:idx val='0'/></c:ser></c:barChart>", "<c:view3D/>"),
      "xl/charts/chart2.xml": space("<c:surfaceChart/>"),
    },
    relations: {
      "xl/worksheets/sheet1.xml": [["rIdDrawing", "drawing", "../drawings/drawing1.xml"]],
      "xl/drawings/drawing1.xml": [
        ["rIdA", "image", "../media/a.png"],
        ["rIdB", "image", "../media/b.emf"],
        ["rIdC", "image", "../media/c.png"],
        ["rId1", "chart", "../charts/chart1.xml"],
        ["rId2", "chart", "../charts/chart2.xml"],
      ],
    },
  });
  const { drawings, findings } = readDrawings(workbook, workbook.sheets[0], "Sheet one");
  return { drawings, told: findings.map(({ code, what }) => `${code}: ${what}`) };
}

describe("where a drawing stands", () => {
  it("is between two cells, with its offsets in points", async () => {
    const { drawings, told } = await drawn(two(pic("rIdA", "Logo", ' descr="The office"')));
    expect(drawings).toMatchObject([
      {
        name: "Logo",
        from: { column: 1, row: 2, dx: 3, dy: 0 },
        to: { column: 4, row: 6 },
        parts: [{ content: { kind: "image", description: "The office" }, place: { x: 0, y: 0, width: 1, height: 1 } }],
      },
    ]);
    expect(told).toEqual([]);
  });

  it("is from a cell on with a size, or at a place of the sheet, in whatever unit", async () => {
    const { drawings } = await drawn(
      `<xdr:oneCellAnchor>${point("from", 0, 1, "1cm")}<xdr:ext cx="${40 * PT}" cy="1in"/>${pic("rIdA")}</xdr:oneCellAnchor><xdr:absoluteAnchor><xdr:pos x="${10 * PT}" y="20pt"/><xdr:ext cx="${30 * PT}" cy="${5 * PT}"/>${pic("rIdA")}</xdr:absoluteAnchor>`,
    );
    expect(drawings[0].from.dx).toBeCloseTo(72 / 2.54, 6);
    expect(drawings[0].to).toEqual({ width: 40, height: 72 });
    expect(drawings[1]).toMatchObject({ from: { row: 0, column: 0, dx: 10, dy: 20 }, to: { width: 30, height: 5 } });
  });
});

describe("what a drawing holds", () => {
  it("a picture that cannot be drawn is told with why", async () => {
    const { drawings, told } = await drawn(two(pic("rIdB", "Old logo")) + two(pic("rIdC", "Torn logo")));
    expect(drawings).toEqual([]);
    expect(told).toEqual([
      'not-drawn: The PDF does not show "Old logo" (a picture of a kind that cannot be drawn).',
      'not-drawn: The PDF does not show "Torn logo" (a damaged picture).',
    ]);
  });

  it("members of groups stand at their share of the box, also of groups within", async () => {
    const inner = `<xdr:grpSp>${named("Inner")}<xdr:grpSpPr>${xfrm(100, 0, 100, 100, '<a:chOff x="0" y="0"/><a:chExt cx="10" cy="10"/>')}</xdr:grpSpPr>${shape("Box", "rect", xfrm(5, 5, 5, 5))}</xdr:grpSp>`;
    const outer = `<xdr:grpSp>${named("Outer")}<xdr:grpSpPr>${xfrm(0, 0, 200, 100, '<a:chOff x="0" y="0"/><a:chExt cx="200" cy="100"/>')}</xdr:grpSpPr>${pic("rIdA", "Logo", "", xfrm(0, 0, 50, 100))}${inner}</xdr:grpSp>`;
    const { drawings } = await drawn(two(outer));
    expect(drawings[0].parts.map(({ content, place }) => [content.kind, place])).toEqual([
      ["image", { x: 0, y: 0, width: 0.25, height: 1 }],
      ["shape", { x: 0.75, y: 0.5, width: 0.25, height: 0.5 }],
    ]);
  });

  it("an outline that is not known is drawn as its rectangle, and told", async () => {
    const { drawings, told } = await drawn(two(shape("Cloud", "spaceship")) + two(shape("Box", "rect")));
    expect(drawings).toHaveLength(2);
    expect(told).toEqual([
      'drawn-plainer: The PDF shows for "Cloud" its rectangle instead of the outline "spaceship".',
    ]);
  });

  it("charts in space are flat, those of unknown kinds and frames of others are told", async () => {
    const { drawings, told } = await drawn(two(chart("rId1")) + two(chart("rId2")) + two(chart("rId9")));
    expect(drawings.map(({ parts }) => parts.map(({ content }) => content.kind))).toEqual([["chart"]]);
    expect(told).toEqual([
      'drawn-plainer: The PDF shows for "Fees" a flat chart instead of one in space.',
      expect.stringContaining('not-drawn: The PDF does not show "Fees" (a chart of the kind '),
      'not-drawn: The PDF does not show "Fees" (a drawing of a kind that is not known).',
    ]);
  });

  it("of a choice the way that is known is taken; what picks rows is told", async () => {
    const choice = (usual: string, fallback: string) =>
      `<mc:AlternateContent><mc:Choice Requires="x">${usual}</mc:Choice><mc:Fallback>${fallback}</mc:Fallback></mc:AlternateContent>`;
    const { drawings, told } = await drawn(
      two(choice(pic("rIdA", "New"), shape("Old", "rect"))) +
        two(choice("<x:ink xmlns:x='urn:x'/>", shape("Old", "rect"))) +
        two(
          choice(
            `<xdr:graphicFrame>${named("District")}<sle:slicer xmlns:sle="urn:sle" name="District"/></xdr:graphicFrame>`,
            shape("Too old", "rect"),
          ),
        ),
    );
    expect(drawings.map(({ parts }) => parts[0].content.kind)).toEqual(["image", "shape"]);
    expect(told).toEqual(['not-drawn: The PDF does not show "District" (a slicer).']);
  });
});
