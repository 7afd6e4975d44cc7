import { parseXml } from "@corbix/core/ooxml";
import { readTheme } from "@corbix/core/spreadsheet";
import { describe, expect, it } from "vitest";
import { isDateCode, mixColors, readStyles } from "../../src/spreadsheet/styles.js";

const read = (inside: string) =>
  readStyles(parseXml(`<styleSheet>${inside}</styleSheet>`, "x").root, readTheme(undefined));
const one = (lists: string, xf: string) => read(`${lists}<cellXfs>${xf}</cellXfs>`).formats[0];

describe("formats of cells", () => {
  it("refer to their font, ground, lines and code", () => {
    const format = one(
      `<numFmts><numFmt numFmtId="170" formatCode="dd.mm.yyyy"/></numFmts>
       <fonts><font/><font><b/><i val="0"/><u/><strike val="true"/><sz val="14"/><color rgb="FF112233"/><name val="Sans"/><vertAlign val="superscript"/></font></fonts>
       <fills><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="solid"><fgColor rgb="FFEEDDCC"/></patternFill></fill></fills>
       <borders><border/><border><left style="thin"><color rgb="FF000001"/></left><top style="none"/><diagonal style="double"><color rgb="FF000002"/></diagonal></border></borders>`,
      '<xf numFmtId="170" fontId="1" fillId="1" borderId="1"><alignment horizontal="right" wrapText="1" indent="2" textRotation="45"/></xf>',
    );
    expect(format).toMatchObject({
      font: {
        name: "Sans",
        size: 14,
        bold: true,
        italic: false,
        underline: true,
        strike: true,
        color: "112233",
        raised: "superscript",
      },
      fill: "EEDDCC",
      border: { left: { style: "thin", color: "000001" } },
      alignment: { horizontal: "right", wrap: true, indent: 2, rotation: 45 },
      code: "dd.mm.yyyy",
      isDate: true,
    });
    expect(format.border.top).toBeUndefined();
  });

  it("that say nothing are the usual ones; codes the standard numbers are known", () => {
    expect(one("", "<xf/>")).toMatchObject({ font: { name: "Calibri", size: 11 }, fill: undefined, code: "General" });
    expect(read("").formats).toHaveLength(1);
    expect(one("", '<xf numFmtId="14"/>').isDate).toBe(true);
    expect(one("", '<xf numFmtId="9"/>').code).toBe("0%");
    // Formats of its own that the file does not hold: no day, and no fraction.
    for (const id of [59, 72, 166, 188, 999])
      expect(one("", `<xf numFmtId="${id}"/>`)).toMatchObject({ code: "General", isDate: false });
    expect(one("", '<xf fontId="7" fillId="7" borderId="7" numFmtId="999"/>')).toMatchObject({
      code: "General",
      border: {},
    });
  });

  it("have fine dots as one colour, lines as lines, and gradients with their stops", () => {
    const ground = (fill: string) => one(`<fills><fill>${fill}</fill></fills>`, "<xf/>");
    const pattern = (kind: string) =>
      `<patternFill patternType="${kind}"><fgColor rgb="FF000000"/><bgColor rgb="FFFFFFFF"/></patternFill>`;
    expect(ground(pattern("mediumGray"))).toMatchObject({ fill: "808080", ground: undefined });
    expect(ground(pattern("darkUp"))).toMatchObject({ fill: "FFFFFF", ground: { kind: "lines", pattern: "darkUp" } });
    expect(
      ground(
        '<gradientFill degree="90"><stop position="0"><color rgb="FF0000FF"/></stop><stop position="1"><color rgb="FFFFFFFF"/></stop></gradientFill>',
      ).ground,
    ).toMatchObject({
      kind: "gradient",
      degree: 90,
      stops: [
        { at: 0, color: "0000FF" },
        { at: 1, color: "FFFFFF" },
      ],
    });
    expect(ground('<gradientFill type="path" left="0.5" right="0.5"/>').ground).toMatchObject({
      degree: undefined,
      inner: { left: 0.5 },
    });
  });
});

describe("what rules change", () => {
  it("is only what they say, and their ground lies behind", () => {
    const [change] = read(
      '<dxfs><dxf><font><b val="0"/><color rgb="FFAA0000"/></font><fill><patternFill><bgColor rgb="FF00BB00"/></patternFill></fill></dxf></dxfs>',
    ).changes;
    expect(change.font).toEqual({ bold: false, color: "AA0000" });
    expect(change.fill).toBe("00BB00");
    expect(change.code).toBeUndefined();
  });
});

describe("codes of dates", () => {
  it.each(["yyyy-mm-dd", "d mmm", "hh:mm", "[h]:mm", "[$-809]d mmmm yyyy", 'dd"."mm', "mm:ss.0"])(
    "%s is one",
    (code) => {
      expect(isDateCode(code)).toBe(true);
    },
  );

  it.each([
    "General",
    "0.00",
    "#,##0",
    "0%",
    '0 "days"',
    '"Dock"',
    "[Red]0",
    "0.00E+00",
    "\\d0",
    "[$CHF] 0",
    "@",
    "_d0",
  ])("%s is none", (code) => {
    expect(isDateCode(code)).toBe(false);
  });
});

describe("mixed colours", () => {
  it("are as near to the first as its share says", () => {
    expect(mixColors("FF0000", "0000FF", 1)).toBe("FF0000");
    expect(mixColors("FF0000", "0000FF", 0)).toBe("0000FF");
    expect(mixColors("FF0000", "000000", 0.5)).toBe("800000");
  });
});
