import { CellError, type Scalar } from "@corbix/core/formula";
import { parseXml } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { refreshChart } from "../../../src/workbook/fill/chart-values.js";

const chart = (inside: string) => parseXml(`<c:ser xmlns:c="urn:c">${inside}</c:ser>`, "x").root;
const reference = (kind: "num" | "str", formula: string, cache: string) =>
  `<c:${kind}Ref><c:f>${formula}</c:f><c:${kind}Cache>${cache}</c:${kind}Cache></c:${kind}Ref>`;
const VALUES: Readonly<Record<string, { list: Scalar[]; width: number }>> = {
  "Visits!$A$2:$A$4": { list: ["Dock & Quay", null, "Pier"], width: 1 },
  "Visits!$B$2:$B$4": { list: [1.5, null, 3], width: 1 },
  "Visits!$C$2:$C$4": { list: [true, CellError.of("#N/A"), "none"], width: 1 },
  "Visits!$A$2:$B$5": { list: ["North", "Dock", null, "Quay", "South", "Pier", null, "Mill"], width: 2 },
  "Visits!$B$1:$E$2": { list: ["North", null, "South", null, "Dock", "Quay", "Pier", "Mill"], width: 4 },
};
const refreshed = (inside: string) => refreshChart(chart(inside), (formula) => VALUES[formula]);
const points = (inside: string) =>
  refreshed(inside)
    .descendants("pt")
    .map((point) => `${point.attr("idx")} ${point.text}`);

describe("the values a chart stores", () => {
  it("are those of the cells it refers to; blanks are points that are not there", () => {
    const inside = `<c:val>${reference("num", "Visits!$B$2:$B$4", '<c:formatCode>0.0</c:formatCode><c:ptCount val="1"/><c:pt idx="0"><c:v>9</c:v></c:pt>')}</c:val>`;
    expect(points(inside)).toEqual(["0 1.5", "2 3"]);
    const cache = refreshed(inside).descendants("numCache")[0];
    expect([cache.child("formatCode")?.text, cache.child("ptCount")?.attr("val")]).toEqual(["0.0", "3"]);
  });

  it("are texts, truth values and errors as a chart writes them", () => {
    expect(points(`<c:cat>${reference("str", "Visits!$A$2:$A$4", "")}</c:cat>`)).toEqual(["0 Dock & Quay", "2 Pier"]);
    expect(points(`<c:cat>${reference("str", "Visits!$C$2:$C$4", "")}</c:cat>`)).toEqual([
      "0 TRUE",
      "1 #N/A",
      "2 none",
    ]);
    expect(points(`<c:val>${reference("num", "Visits!$C$2:$C$4", "")}</c:val>`)).toEqual(["0 1", "1 #N/A"]);
  });

  it("are names where the template had numbers, of categories alone", () => {
    const made = refreshed(`<c:cat>${reference("num", "Visits!$A$2:$A$4", "")}</c:cat>`);
    expect(made.descendants("strRef")).toHaveLength(1);
    expect(made.descendants("numRef")).toHaveLength(0);
    expect(refreshed(`<c:val>${reference("num", "Visits!$A$2:$A$4", "")}</c:val>`).descendants("numRef")).toHaveLength(
      1,
    );
  });

  it("stay where nothing is known of their cells", () => {
    const inside = `<c:val>${reference("num", "Other!$B$2", '<c:pt idx="0"><c:v>9</c:v></c:pt>')}</c:val>`;
    expect(refreshed(inside).toString()).toBe(chart(inside).toString());
  });

  it.each([
    ["columns", "Visits!$A$2:$B$5"],
    ["rows", "Visits!$B$1:$E$2"],
  ])("of two levels in %s name each point, and the groups above", (_, formula) => {
    const inside = `<c:cat><c:multiLvlStrRef><c:f>${formula}</c:f><c:multiLvlStrCache><c:ptCount val="1"/><c:lvl/><c:lvl/></c:multiLvlStrCache></c:multiLvlStrRef></c:cat>`;
    const levels = refreshed(inside)
      .descendants("lvl")
      .map((level) => level.elements("pt").map((point) => `${point.attr("idx")} ${point.text}`));
    expect(levels).toEqual([
      ["0 Dock", "1 Quay", "2 Pier", "3 Mill"],
      ["0 North", "2 South"],
    ]);
    expect(refreshed(inside).descendants("ptCount")[0].attr("val")).toBe("4");
  });
});
