import { parseXml } from "@corbix/core/ooxml";
import type { PageItem, PathItem, TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { fillOf, outlineOf, paintIn } from "../../../src/layout/drawing/paint.js";
import { drawShape, plainerOutline } from "../../../src/layout/drawing/shape.js";

const theme = {
  colors: ["FFFFFF", "000000", "E7E6E6", "44546A", "4472C4", "ED7D31", "A5A5A5", "FFC000", "5B9BD5", "70AD47"],
  majorFont: "Carlito",
  minorFont: "Carlito",
};
const fonts = openFonts();
const box = { x: 100, y: 50, width: 80, height: 40 };
const read = (xml: string) => parseXml(xml, "t").root;
const draw = (xml: string): PageItem[] => drawShape(read(xml), box, fonts, theme);
const shape = (preset: string, more = "", body = "", flips = ""): string =>
  `<sp><spPr><xfrm${flips}/><prstGeom prst="${preset}"/>${more}</spPr>${body}</sp>`;
const solid = (color: string): string => `<solidFill><srgbClr val="${color}"/></solidFill>`;
const words = (paragraphs: string, properties = ""): string => `<txBody><bodyPr${properties}/>${paragraphs}</txBody>`;
const paragraph = (text: string, properties = ""): string => `<p>${properties}<r><t>${text}</t></r></p>`;

const pathsOf = (items: readonly PageItem[]) => items.filter((item): item is PathItem => item.kind === "path");
const textsOf = (items: readonly PageItem[]) => items.filter((item): item is TextItem => item.kind === "text");
const said = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");
const points = (path: PathItem): [number, number][] =>
  path.commands.flatMap((command) => (command[0] === "Z" ? [] : [command.slice(-2) as [number, number]]));

describe("a colour of a drawing", () => {
  const channels = (color: string): number[] => [0, 2, 4].map((at) => Number.parseInt(color.slice(at, at + 2), 16));
  // What every program shows for its own choices "darker 25%", "lighter 40%" and so on of these theme colours.
  it.each([
    ['<schemeClr val="accent1"/>', "4472C4"],
    ['<schemeClr val="accent1"><lumMod val="75000"/></schemeClr>', "2F5597"],
    ['<schemeClr val="accent1"><lumMod val="60000"/><lumOff val="40000"/></schemeClr>', "8FAADC"],
    ['<schemeClr val="accent1"><lumMod val="20000"/><lumOff val="80000"/></schemeClr>', "DAE3F3"],
    ['<schemeClr val="accent2"><lumMod val="50000"/></schemeClr>', "843C0C"],
    ['<schemeClr val="tx1"><lumMod val="65000"/><lumOff val="35000"/></schemeClr>', "595959"],
    ['<schemeClr val="bg1"><lumMod val="85000"/></schemeClr>', "D9D9D9"],
    ['<schemeClr val="dk2"/>', "44546A"],
    ['<srgbClr val="00ff80"/>', "00FF80"],
    ['<srgbClr val="000000"><tint val="25000"/></srgbClr>', "BFBFBF"],
    ['<srgbClr val="FFFFFF"><shade val="50000"/></srgbClr>', "808080"],
    ['<srgbClr val="FF0000"><hueOff val="7200000"/></srgbClr>', "00FF00"],
    ['<srgbClr val="BF4040"><satMod val="0"/></srgbClr>', "808080"],
    ['<sysClr val="window" lastClr="fefefe"/>', "FEFEFE"],
    ['<prstClr val="purple"/>', "800080"],
  ])("is %s", (xml, expected) => {
    const color = paintIn(read(`<solidFill>${xml}</solidFill>`), theme)?.color ?? "";
    channels(color).forEach((channel, at) => {
      expect(Math.abs(channel - channels(expected)[at]), `${color} for ${expected}`).toBeLessThanOrEqual(1);
    });
  });

  it("is let through as much as it says, and open where nothing is said", () => {
    expect(paintIn(read('<f><srgbClr val="112233"><alpha val="40000"/></srgbClr></f>'), theme)).toEqual({
      color: "112233",
      opacity: 0.4,
    });
    expect(fillOf(read("<spPr/>"), theme)).toBeUndefined();
    expect(fillOf(read("<spPr><noFill/></spPr>"), theme)).toBe("none");
    expect(outlineOf(read('<spPr><ln w="12700"><noFill/></ln></spPr>'), theme)).toBe("none");
  });

  it("changes along a line by its stops, in their order", () => {
    const gradient = `<gradFill><gsLst><gs pos="100000"><srgbClr val="0000FF"/></gs><gs pos="0"><srgbClr val="FF0000"/></gs></gsLst><lin ang="5400000"/></gradFill>`;
    expect(fillOf(read(`<spPr>${gradient}</spPr>`), theme)).toMatchObject({
      gradient: {
        angle: 90,
        stops: [
          { at: 0, color: "FF0000" },
          { at: 1, color: "0000FF" },
        ],
      },
    });
    const [shade] = draw(shape("rect", gradient));
    expect(shade).toMatchObject({ kind: "shade", ...box, angle: 90 });
    // Other outlines have one colour: that of the first stop.
    expect(pathsOf(draw(shape("ellipse", gradient)))[0].fill).toBe("FF0000");
  });
});

describe("a shape", () => {
  it("has its fill and its line, as thick and dashed as it says", () => {
    const items = pathsOf(
      draw(shape("rect", `${solid("AABBCC")}<ln w="25400">${solid("112233")}<prstDash val="dash"/></ln>`)),
    );
    expect(items[0]).toMatchObject({ fill: "AABBCC" });
    expect(items[1].stroke).toEqual(expect.objectContaining({ color: "112233", width: 2, dash: [8, 6] }));
    expect(pathsOf(draw(shape("rect", "<noFill/><ln><noFill/></ln>")))).toEqual([]);
  });

  it("takes what it leaves open from its style", () => {
    const style = `<style><lnRef idx="2"><schemeClr val="accent1"><shade val="50000"/></schemeClr></lnRef><fillRef idx="1"><schemeClr val="accent1"/></fillRef></style>`;
    const [fill, line] = pathsOf(draw(shape("rect", "", style)));
    expect(fill.fill).toBe("4472C4");
    expect(line.stroke?.color).toBe("223962");
    const own = pathsOf(draw(shape("rect", solid("FFFFFF"), style.replace('lnRef idx="2"', 'lnRef idx="0"'))));
    expect(own.map((item) => item.fill)).toEqual(["FFFFFF"]);
  });

  it.each([
    "triangle",
    "rtTriangle",
    "diamond",
    "parallelogram",
    "trapezoid",
    "pentagon",
    "hexagon",
    "octagon",
    "homePlate",
    "chevron",
    "rightArrow",
    "leftArrow",
    "upArrow",
    "downArrow",
    "plus",
    "ellipse",
    "roundRect",
    "rect",
  ])("fills its box from edge to edge and is closed: %s", (preset) => {
    const [path] = pathsOf(draw(shape(preset, solid("000000"))));
    const [xs, ys] = [points(path).map(([x]) => x), points(path).map(([, y]) => y)];
    expect([Math.min(...xs), Math.max(...xs)].map(Math.round)).toEqual([100, 180]);
    expect([Math.min(...ys), Math.max(...ys)].map(Math.round)).toEqual([50, 90]);
    expect(path.commands.at(-1)).toEqual(["Z"]);
    expect(plainerOutline(read(shape(preset)))).toBeUndefined();
  });

  it("is mirrored where it says so", () => {
    const tip = (flips: string): [number, number] =>
      points(pathsOf(draw(shape("homePlate", solid("000000"), "", flips)))[0]).find(([, y]) => y === 70) ?? [0, 0];
    expect(tip("")[0]).toBe(180);
    expect(tip(' flipH="1"')[0]).toBe(100);
    expect(tip(' flipV="1"')[0]).toBe(180);
  });

  it("runs from corner to corner where it is a line, falling or rising", () => {
    const line = (flips: string) => points(pathsOf(draw(shape("line", `<ln>${solid("000000")}</ln>`, "", flips)))[0]);
    const falling = [
      [100, 50],
      [180, 90],
    ];
    const rising = [
      [100, 90],
      [180, 50],
    ];
    expect(line("")).toEqual(falling);
    expect(line(' flipV="1"')).toEqual(rising);
    expect(line(' flipH="1"')).toEqual(rising);
    expect(line(' flipH="1" flipV="1"')).toEqual(falling);
    // A line has no inside.
    expect(pathsOf(draw(shape("line", solid("123456"))))).toEqual([]);
  });

  it("is named where only a rectangle stands for it", () => {
    expect(plainerOutline(read(shape("cloudCallout")))).toBe("cloudCallout");
    expect(plainerOutline(read("<sp><spPr><custGeom/></spPr></sp>"))).toBe("custom");
    expect(plainerOutline(read("<cxnSp><spPr/></cxnSp>"))).toBeUndefined();
  });
});

describe("a shape's words", () => {
  const place = (anchor: string, align: string): TextItem =>
    textsOf(draw(shape("rect", "", words(paragraph("Due", `<pPr algn="${align}"/>`), ` anchor="${anchor}"`))))[0];

  it("stand at the top, in the middle or at the bottom, left, centred or right", () => {
    const [top, middle, bottom] = ["t", "ctr", "b"].map((anchor) => place(anchor, "l").y);
    expect(middle - top).toBeCloseTo(bottom - middle, 5);
    expect(bottom).toBeLessThan(90);
    const [left, centre, right] = ["l", "ctr", "r"].map((align) => place("t", align));
    // The usual insets are a tenth of an inch at the sides.
    expect(left.x).toBeCloseTo(107.2, 5);
    expect(right.x + right.shaped.width * right.size).toBeCloseTo(172.8, 5);
    expect(centre.x - left.x).toBeCloseTo(right.x - centre.x, 5);
  });

  it("are wrapped within the insets, none lost, however long a word is", () => {
    const text = "Inspection of the goods lift, including Schachtgrubenzugangstürverriegelung, is overdue";
    const items = textsOf(draw(shape("rect", "", words(paragraph(text)))));
    expect(items.map(said).join("").replaceAll(" ", "")).toBe(text.replaceAll(" ", ""));
    for (const item of items) {
      const end = item.x + item.shaped.width * item.size - (said(item).endsWith(" ") ? item.size * 0.25 : 0);
      expect(end).toBeLessThanOrEqual(173);
    }
    const one = textsOf(draw(shape("rect", "", words(paragraph(text), ' wrap="none"'))));
    expect(new Set(one.map((item) => item.y)).size).toBe(1);
  });

  it("change their looks from run to run, and break where they say", () => {
    const body = words(
      `<p><r><rPr sz="800" b="1"><solidFill><srgbClr val="C00000"/></solidFill></rPr><t>Stop </t></r><r><t>use</t></r><br/><r><t>now</t></r></p><p/><p><fld><t>3</t></fld></p>`,
    );
    const items = textsOf(draw(shape("rect", "", body)));
    expect(items.map((item) => [said(item).trim(), item.size, item.color])).toEqual([
      ["Stop", 8, "C00000"],
      ["use", 11, "000000"],
      ["now", 11, "000000"],
      ["3", 11, "000000"],
    ]);
    expect(items[0].y).toBe(items[1].y);
    const [, , third, last] = items.map((item) => item.y);
    // An empty paragraph takes a line of its own.
    expect(last - third).toBeCloseTo(2 * 11 * 1.2, 5);
  });
});
