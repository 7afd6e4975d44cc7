/** Styles that every program knows by their names: of tables (ECMA-376 part 1, 18.5.1.5) and pivots (18.10.1.74), each family in its colours. */
import { layWorkbook } from "@corbix/core/layout";
import { OoxmlPackage } from "@corbix/core/ooxml";
import { eachItem, type FillItem, type TextItem } from "@corbix/core/page";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { openFonts } from "@corbix/fonts";
import { describe, expect, it } from "vitest";
import { makeWorkbook } from "../../support/helpers.js";
import { pivotTemplate } from "../../support/pivot-maker.js";

const words = (item: TextItem): string => item.shaped.runs.flatMap((run) => run.texts).join("");

/** How a text looks on the pages of a workbook: its own colour, whether its font is bold, and the last ground behind it. */
function looksOf(bytes: Uint8Array) {
  const laid = layWorkbook(openWorkbook(bytes, "t.xlsx"), openFonts(), { file: "", date: "2026-11-02", time: "" });
  const items = laid.pages.flatMap((page) => [...eachItem(page.items)]);
  return (text: string, occurrence = 0) => {
    const at = items.filter((item): item is TextItem => item.kind === "text" && words(item) === text)[occurrence];
    const behind = items.filter(
      (item): item is FillItem =>
        item.kind === "fill" &&
        at.x >= item.x - 1 &&
        at.x <= item.x + item.width + 1 &&
        at.y >= item.y - 1 &&
        at.y - 2 <= item.y + item.height,
    );
    return {
      color: at.color,
      bold: at.shaped.runs.some((run) => run.font.name.includes("-700-")),
      ground: behind.at(-1)?.color,
    };
  };
}

const table = (style: string, more: object = {}) =>
  makeWorkbook((_, sheet) => {
    sheet.addTable({
      name: "Visits",
      ref: "A1",
      totalsRow: true,
      style: { theme: style as never, showRowStripes: true, showFirstColumn: true, showLastColumn: true, ...more },
      columns: [{ name: "Unit", totalsRowLabel: "All" }, { name: "Fee", totalsRowFunction: "sum" }, { name: "Who" }],
      rows: [
        ["L1", 3, "Ann"],
        ["L2", 4, "Ben"],
        ["L3", 5, "Cleo"],
      ],
    });
  });

describe("a table in a style that is known by its name", () => {
  it.each([1, 2, 4, 8, 9, 14, 15, 16, 21].map((number) => [`TableStyleLight${number}`] as const))(
    "%s is light: no white text on its rows",
    async (style) => {
      const look = looksOf(await table(style));
      expect(look("Fee").bold).toBe(true);
      expect(look("L2").color).not.toBe("FFFFFF");
      expect(look("L2").bold).toBe(true);
      expect(look("3")).toMatchObject({ bold: false });
    },
  );

  it.each([1, 2, 7, 8, 9, 14, 15, 16, 21, 22, 23, 28].map((number) => [`TableStyleMedium${number}`] as const))(
    "%s has a heading that stands out",
    async (style) => {
      const look = looksOf(await table(style));
      const [heading, cell] = [look("Fee"), look("3")];
      expect(heading.bold).toBe(true);
      expect([heading.ground, heading.color]).not.toEqual([cell.ground, cell.color]);
      expect(look("3").ground === look("4").ground).toBe(false);
    },
  );

  it.each([1, 2, 7, 8, 9, 10, 11].map((number) => [`TableStyleDark${number}`] as const))(
    "%s is dark below its heading",
    async (style) => {
      const look = looksOf(await table(style));
      expect(look("Fee").bold).toBe(true);
      expect(look("3").ground).toMatch(/^[0-9A-F]{6}$/);
    },
  );

  it("goes by the colours of the theme: the first of each family in its text colour, the others in the accents", async () => {
    const grounds = await Promise.all(
      [2, 3, 4, 5, 6, 7].map(async (number) => looksOf(await table(`TableStyleMedium${number}`))("Fee").ground),
    );
    expect(new Set(grounds).size).toBe(6);
    expect(looksOf(await table("TableStyleMedium1"))("Fee").ground).toBe("000000");
  });

  it("leaves out what is not asked for, and a name that nobody knows looks plain", async () => {
    const plain = looksOf(
      await table("TableStyleMedium2", { showRowStripes: false, showFirstColumn: false, showLastColumn: false }),
    );
    expect([plain("3").ground, plain("4").ground, plain("L1").bold]).toEqual([undefined, undefined, false]);
    const odd = looksOf(await table("OfSomebodyElse"));
    expect([odd("Fee").ground, odd("Fee").bold]).toEqual([undefined, false]);
  });
});

const pivot = (name: string, flags = 'showRowHeaders="1" showColHeaders="1" showLastColumn="1"') =>
  pivotTemplate(["District", "Fee"], {
    rows: [{ name: "District" }],
    data: [{ name: "Fees", field: "Fee" }],
    elements: `<pivotTableStyleInfo name="${name}" ${flags}/>`,
    shown: [
      ["District", "Fees"],
      ["North", 7],
      ["All", 9],
    ],
    ref: "A1:B3",
  }).then((bytes) => {
    // The pages of the pivot's own sheet: that of the rows goes.
    const opened = OoxmlPackage.open(bytes);
    const book = opened.getText("xl/workbook.xml").replace(/<sheet ([^>]*name="Data")/, '<sheet state="hidden" $1');
    return looksOf(opened.with(new Map([["xl/workbook.xml", book]])).toBytes());
  });

describe("a pivot in a style that is known by its name", () => {
  it.each([1, 2, 7, 8, 14, 15, 16, 21, 28].map((number) => [`PivotStyleLight${number}`, number] as const))(
    "%s has bold headings and sums, from its fifteenth on with a ground",
    async (name, number) => {
      const look = await pivot(name);
      expect([look("Fees").bold, look("All").bold, look("North").bold]).toEqual([true, true, false]);
      expect([look("Fees").ground !== undefined, look("All").ground !== undefined]).toEqual([
        number >= 15,
        number >= 15,
      ]);
    },
  );

  it.each([1, 2, 7, 14, 15, 28].map((number) => [`PivotStyleMedium${number}`] as const))(
    "%s has white headings on its colour",
    async (name) => {
      const look = await pivot(name);
      expect(look("Fees")).toMatchObject({
        color: "FFFFFF",
        bold: true,
        ground: expect.stringMatching(/^[0-9A-F]{6}$/),
      });
      expect([look("North").ground, look("All").bold]).toEqual([undefined, true]);
    },
  );

  it.each([1, 2, 14, 28].map((number) => [`PivotStyleDark${number}`] as const))(
    "%s has white text on dark grounds",
    async (name) => {
      const look = await pivot(name);
      expect([look("North").color, look("Fees").color, look("Fees").ground]).toEqual(["FFFFFF", "FFFFFF", "000000"]);
      expect(look("All").ground).not.toBe(look("North").ground);
    },
  );

  it("says nothing of headings and lines that are not asked for, and looks plain by a name that nobody knows", async () => {
    const bare = await pivot("PivotStyleMedium2", 'showRowHeaders="0" showColHeaders="0"');
    expect([bare("Fees").bold, bare("All").bold]).toEqual([false, false]);
    const odd = await pivot("OfSomebodyElse");
    expect([odd("Fees").bold, odd("Fees").ground]).toEqual([false, undefined]);
  });
});
