import { FontWatch } from "@corbix/core/fonts";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";

const library = openFonts();
const watch = () => new FontWatch(library);

describe("families", () => {
  it.each([
    ["Calibri", "Carlito", true],
    ["ARIAL", "Arimo", true],
    ["Times New Roman", "Tinos", true],
    ["Courier New", "Cousine", true],
    ["Cambria", "Caladea", true],
    ["Georgia", expect.any(String), false],
    ["Nobody's Sans", "Carlito", false],
  ])("%s is drawn in %s", (asked, family, exact) => {
    expect(library.standIn(asked)).toMatchObject({ family, exact });
  });

  it("that are stood in for by others are told once, with those", () => {
    const fonts = watch();
    for (const family of ["Calibri", "Nobody's Sans", "Nobody's Sans"]) fonts.face(family, false, false);
    expect(fonts.used.map(({ asked }) => asked)).toEqual(["Calibri", "Nobody's Sans"]);
    const findings = fonts.findings("file letter");
    expect(findings.map(({ code, severity, where }) => [code, severity, where])).toEqual([
      ["font-substituted", "note", "file letter"],
    ]);
    expect(findings[0].what).toContain('"Nobody\'s Sans" is not there; Carlito stands in for it');
  });

  it("have a face for each style, the same each time", () => {
    const fonts = watch();
    const plain = fonts.face("Calibri", false, false);
    expect(fonts.face("Calibri", false, false)).toBe(plain);
    const bold = fonts.face("Calibri", true, false);
    expect([bold.bold, plain.bold]).toEqual([true, false]);
    expect(bold.shape("Lift").width).not.toBe(plain.shape("Lift").width);
  });
});

describe("a face", () => {
  const face = library.face("Calibri", false, false);

  it("is as wide as the sum of its words, and twice as wide for twice the text", () => {
    expect(face.shape("Lift").width).toBeGreaterThan(0);
    expect(face.shape("LiftLift").width).toBeCloseTo(2 * face.shape("Lift").width, 6);
    expect(face.shape("").width).toBe(0);
  });

  it("takes letters it lacks from others, and tells those that nobody has", () => {
    const shaped = face.shape("Lift Δ");
    expect(shaped.runs.flatMap((run) => run.texts).join("")).toBe("Lift Δ");
    const fonts = watch();
    fonts.look({ items: [{ kind: "group", items: [{ kind: "text", shaped: face.shape("a\u{10fffd}b") }] }] });
    expect(fonts.findings("x")).toMatchObject([{ code: "glyph-missing", severity: "warn", count: 1 }]);
    expect(fonts.findings("x")[0].what).toContain("\u{10fffd}");
  });

  it("has its measures: what rises, and what hangs", () => {
    const { ascent, descent } = face.metrics;
    expect(ascent).toBeGreaterThan(0.5);
    expect(descent).toBeGreaterThan(0);
    expect(descent).toBeLessThan(ascent);
  });
});

describe("words broken by their language", () => {
  it("show where they may be, and not at all in a language that is not known", () => {
    expect(library.hyphenate("inspection", "en-GB")).toContain("\u00ad");
    expect(library.hyphenate("inspection", "xx")).toBeUndefined();
  });
});
