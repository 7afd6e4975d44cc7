import { parseXml } from "@corbix/core/ooxml";
import { holdsItems, type PageItem, type PathCommand, type PathItem, type TextItem } from "@corbix/core/page";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { paintIn } from "../../../src/layout/drawing/colors.js";
import { outlinesOf } from "../../../src/layout/drawing/geometry.js";
import { fillOf, outlineOf } from "../../../src/layout/drawing/paint.js";
import { presetGeometry, presetNames } from "../../../src/layout/drawing/presets/index.js";
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

/** Items where they stand on the page, whatever they stand in. */
const flat = (items: readonly PageItem[]): PageItem[] =>
  items.flatMap((item): PageItem[] => {
    if (!holdsItems(item)) return [item];
    const inside = flat(item.items);
    if (item.kind !== "turned") return inside;
    const [a, b, c, d, e, f] = item.matrix;
    const at = (x: number, y: number): [number, number] => [a * x + c * y + e, b * x + d * y + f];
    return inside.map((one) =>
      one.kind === "path"
        ? {
            ...one,
            commands: one.commands.map((command): PathCommand => {
              if (command[0] === "Z") return command;
              const places: number[] = [];
              for (let index = 1; index < command.length; index += 2)
                places.push(...at(command[index] as number, command[index + 1] as number));
              return [command[0], ...places] as unknown as PathCommand;
            }),
          }
        : one,
    );
  });
const pathsOf = (items: readonly PageItem[]) => flat(items).filter((item): item is PathItem => item.kind === "path");
const textsOf = (items: readonly PageItem[]) => flat(items).filter((item): item is TextItem => item.kind === "text");
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
    ['<schemeClr val="tx1"><tint val="75000"/></schemeClr>', "898989"],
    ['<schemeClr val="accent1"><shade val="50000"/></schemeClr>', "2F528F"],
    ['<schemeClr val="accent1"><tint val="40000"/></schemeClr>', "CFD5EA"],
    ['<schemeClr val="accent1"><tint val="20000"/></schemeClr>', "E9EBF5"],
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
    for (const preset of ["rect", "ellipse"]) {
      const [held] = draw(shape(preset, gradient));
      expect(held).toMatchObject({ kind: "group", items: [{ kind: "shade", ...box, angle: 90 }] });
      // What lies outside of its outline does not show.
      expect(held.kind === "group" && held.outline?.length).toBeGreaterThan(4);
    }
  });

  it("changes outwards from a point or a rectangle", () => {
    const gradient = (path: string): string =>
      `<gradFill><gsLst><gs pos="0"><srgbClr val="FF0000"/></gs><gs pos="100000"><srgbClr val="0000FF"/></gs></gsLst><path path="${path}"><fillToRect l="25000" t="50000" r="75000" b="50000"/></path></gradFill>`;
    const [round] = flat(draw(shape("rect", gradient("circle"))));
    expect(round).toMatchObject({ kind: "shade", from: { x: 0.25, y: 0.5 } });
    const parts = flat(draw(shape("rect", gradient("rect"))));
    // Above, to the right, below, to the left: each away from the middle.
    expect(parts.map((item) => item.kind === "shade" && item.angle)).toEqual([270, 0, 90, 180, false]);
  });

  it("is a pattern in two colours, or a picture", () => {
    const pattern = `<pattFill prst="pct50"><fgClr><srgbClr val="112233"/></fgClr><bgClr><srgbClr val="DDEEFF"/></bgClr></pattFill>`;
    const [ground, tile] = flat(draw(shape("ellipse", pattern)));
    expect(ground).toMatchObject({ kind: "path", fill: "DDEEFF" });
    expect(tile).toMatchObject({ kind: "tile", cell: { width: 6, height: 6 } });
    // Half of the cell's 64 points are in the pattern's colour.
    const covered =
      tile.kind === "tile"
        ? tile.items.reduce((sum, item) => {
            const xs = item.kind === "path" ? points(item).map(([x]) => x) : [];
            return sum + (Math.max(...xs) - Math.min(...xs)) / 0.75;
          }, 0)
        : 0;
    expect(covered).toBe(32);
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
    expect(line.stroke?.color).toBe("2F528F");
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

  it("is turned about its middle, its text with it, and text is upright in a mirrored one", () => {
    const arrow = shape("rightArrow", solid("000000"), words(paragraph("Due")), ' rot="5400000"');
    const corners = points(pathsOf(draw(arrow))[0]);
    // Pointing down: its tip is below the box's middle by half of its length.
    expect(corners.some(([x, y]) => Math.abs(x - 140) < 0.01 && Math.abs(y - 110) < 0.01)).toBe(true);
    const text = draw(arrow).filter((item) => item.kind === "turned");
    expect(
      text.map((item) => item.kind === "turned" && item.matrix.slice(0, 4).map((one) => Math.round(one) + 0)),
    ).toEqual([
      [0, 1, -1, 0],
      [0, 1, -1, 0],
    ]);
    const mirrored = draw(shape("rightArrow", solid("000000"), words(paragraph("Due")), ' flipH="1"'));
    expect(mirrored.map((item) => item.kind === "turned" && item.matrix.slice(0, 4).map((one) => one + 0))).toEqual([
      [-1, 0, 0, 1],
      [1, 0, 0, 1],
    ]);
  });

  it("has the outline that its own formulas give", () => {
    const custom = `<custGeom><avLst/><gdLst><gd name="half" fmla="*/ w 1 2"/></gdLst><pathLst><path><moveTo><pt x="l" y="b"/></moveTo><lnTo><pt x="half" y="t"/></lnTo><lnTo><pt x="r" y="b"/></lnTo><close/></path><path w="100" h="100" fill="none"><moveTo><pt x="50" y="0"/></moveTo><arcTo wR="50" hR="50" stAng="16200000" swAng="5400000"/></path></pathLst></custGeom>`;
    const [filled, lined, arc] = pathsOf(
      draw(`<sp><spPr>${custom}${solid("AABBCC")}<ln>${solid("000000")}</ln></spPr></sp>`),
    );
    expect(points(filled)).toEqual([
      [100, 90],
      [140, 50],
      [180, 90],
    ]);
    expect(lined.commands).toEqual(filled.commands);
    // A quarter of the ellipse: from above its middle to its right.
    expect(
      points(arc)
        .at(-1)
        ?.map((one) => Math.round(one * 100) / 100),
    ).toEqual([180, 70]);
    expect(arc.fill).toBeUndefined();
  });

  it("is as much adjusted as it says, and no more than it can be", () => {
    const step = (value: number): number => {
      const adjusted = `<sp><spPr><prstGeom prst="homePlate"><avLst><gd name="adj" fmla="val ${value}"/></avLst></prstGeom>${solid("000000")}</spPr></sp>`;
      return points(pathsOf(draw(adjusted))[0])[1][0];
    };
    expect(step(25_000)).toBeCloseTo(170, 5);
    expect(step(100_000)).toBeCloseTo(140, 5);
    expect(step(9_000_000)).toBeCloseTo(100, 5);
  });

  it("ends its lines with the heads they ask for, and no further than they go", () => {
    const ends = `<ln w="25400">${solid("102030")}<headEnd type="oval"/><tailEnd type="triangle" w="lg" len="lg"/></ln>`;
    const [line, head, start] = pathsOf(draw(shape("line", ends)));
    expect(line.stroke?.color).toBe("102030");
    // The line stops behind the tip of its head.
    const [, end] = points(line);
    expect(Math.hypot(end[0] - 180, end[1] - 90)).toBeGreaterThan(5);
    expect(points(head)[0]).toEqual([180, 90]);
    expect(Math.hypot(points(head)[1][0] - 180, points(head)[1][1] - 90)).toBeCloseTo(Math.hypot(10, 5), 5);
    expect(start.commands).toHaveLength(6);
  });

  it("throws its shadow where the light comes from", () => {
    const shadow = `${solid("FFFFFF")}<effectLst><outerShdw dist="127000" dir="0"><srgbClr val="000000"><alpha val="40000"/></srgbClr></outerShdw></effectLst>`;
    const [cast, own] = pathsOf(draw(shape("rect", shadow)));
    expect(cast).toMatchObject({ fill: "000000", opacity: 0.4 });
    expect(points(cast)[0][0] - points(own)[0][0]).toBeCloseTo(10, 5);
  });

  it("runs from corner to corner where it is a line, falling or rising", () => {
    const line = (flips: string) =>
      points(pathsOf(draw(shape("line", `<ln>${solid("000000")}</ln>`, "", flips)))[0]).sort(([a], [b]) => a - b);
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
    expect(plainerOutline(read(shape("spaceship")))).toBe("spaceship");
    expect(plainerOutline(read("<sp><spPr><custGeom/></spPr></sp>"))).toBeUndefined();
    expect(plainerOutline(read("<cxnSp><spPr/></cxnSp>"))).toBeUndefined();
  });
});

describe("the standard's shapes", () => {
  const BUILT_IN = new Set(
    "w h l t r b hc vc ls ss cd2 cd4 cd8 3cd4 3cd8 5cd8 7cd8"
      .split(" ")
      .concat([2, 3, 4, 5, 6, 8, 10, 12, 16, 32].flatMap((part) => [`wd${part}`, `hd${part}`, `ssd${part}`])),
  );

  it("are all there, and each names nothing that it has not said before", () => {
    expect(presetNames()).toHaveLength(187);
    for (const name of presetNames()) {
      const geometry = presetGeometry(name);
      const known = new Set([...BUILT_IN, ...(geometry?.adjust.map(([guide]) => guide) ?? [])]);
      const unknown = (operands: readonly string[]): string[] =>
        operands.filter((operand) => !known.has(operand) && !/^-?\d+$/.test(operand));
      for (const [guide, formula] of geometry?.guides ?? []) {
        expect(unknown(formula.split(" ").slice(1)), `${name}, ${guide}`).toEqual([]);
        known.add(guide);
      }
      for (const path of geometry?.paths ?? [])
        expect(unknown(path.commands.flatMap((command) => command.slice(1))), name).toEqual([]);
      expect(unknown(geometry?.room ?? []), name).toEqual([]);
    }
  });

  it.each([
    [400, 100],
    [100, 400],
    [90, 90],
  ])("stay near their box, and have room for text in it, at %d by %d", (width, height) => {
    for (const name of presetNames()) {
      const geometry = presetGeometry(name);
      if (!geometry) continue;
      const { paths, room } = outlinesOf(geometry, width, height);
      const places = paths.flatMap(({ commands }) =>
        commands.flatMap((command) => (command[0] === "Z" ? [] : [command.slice(-2) as [number, number]])),
      );
      for (const [x, y] of places) {
        // Callouts reach out of it, and a slanted stroke in a tall one; nothing else does by more than a tenth.
        const far = /allout|NotEqual/.test(name) ? 0.7 : 0.1;
        expect(x, `${name} ${x}`).toBeGreaterThanOrEqual(-far * width - 0.01);
        expect(x, `${name} ${x}`).toBeLessThanOrEqual((1 + far) * width + 0.01);
        expect(y, `${name} ${y}`).toBeGreaterThanOrEqual(-far * height - 0.01);
        expect(y, `${name} ${y}`).toBeLessThanOrEqual((1 + far) * height + 0.01);
      }
      expect(places.length, name).toBeGreaterThan(1);
      expect(room.width, name).toBeGreaterThan(0);
      expect(room.height, name).toBeGreaterThan(0);
    }
  });

  it("are whole: what is filled ends where it began", () => {
    for (const name of presetNames()) {
      const geometry = presetGeometry(name);
      for (const path of geometry?.paths ?? [])
        if (path.fill !== "none") expect(path.commands.at(-1), name).toEqual(["Z"]);
    }
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
    const { ascent, descent, lineGap } = fonts.face("Carlito", false, false).metrics;
    expect(last - third).toBeCloseTo(2 * 11 * (ascent + descent + lineGap), 5);
  });
});
