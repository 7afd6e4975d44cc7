import { parseXml, type XmlElement } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";
import { NotComputed, readPivot, sharedValue } from "../../../src/workbook/pivot/read-pivot.js";

const xml = (text: string): XmlElement => parseXml(text, "x").root;
const cache = (
  fields = '<cacheField name="District"><sharedItems><s v="North"/><d v="2026-11-02T00:00:00"/></sharedItems></cacheField><cacheField name="Fee"/>',
  more = "",
) => xml(`<pivotCacheDefinition><cacheFields>${fields}</cacheFields>${more}</pivotCacheDefinition>`);
interface Parts {
  readonly attributes?: string;
  readonly district?: string;
  readonly items?: string;
  readonly rows?: string;
  readonly columns?: string;
  readonly data?: string;
  readonly more?: string;
  readonly location?: string;
}
const definition = ({
  attributes = "",
  district = "",
  items = '<item x="0"/><item x="1" h="1"/><item t="default"/>',
  rows = '<field x="0"/>',
  columns = "",
  data = '<dataField name="Fees" fld="1"/>',
  more = "",
  location = 'firstDataRow="1" firstDataCol="1"',
}: Parts = {}) =>
  xml(
    `<pivotTableDefinition name="P" ${attributes}><location ref="B2:C9" ${location}/><pivotFields><pivotField axis="axisRow" ${district}><items>${items}</items></pivotField><pivotField dataField="1"/></pivotFields><rowFields>${rows}</rowFields>${columns}<dataFields>${data}</dataFields>${more}</pivotTableDefinition>`,
  );

describe("a pivot's definition", () => {
  it("says its place, its fields and what they show", () => {
    const pivot = readPivot(definition({ attributes: 'grandTotalCaption="All districts"' }), cache());
    expect(pivot).toMatchObject({
      name: "P",
      area: { top: 1, left: 1, bottom: 8, right: 2 },
      rows: [{ index: 0, isCompact: true, isOutline: true, hasSubtotal: true, sort: "manual" }],
      data: [{ index: 1, name: "Fees", summary: "sum", share: "none" }],
      hasGrandRow: true,
      hasGrandColumn: false,
      grandCaption: "All districts",
    });
    expect(pivot.rows[0].known?.map(({ key, isHidden }) => [key, isHidden])).toEqual([
      ["text north", false],
      ["number 46328", true],
    ]);
  });

  it("finds the days it knows again in workbooks that count from 1904", () => {
    const [, day] = readPivot(definition(), cache(), true).rows[0].known ?? [];
    expect(day).toMatchObject({ key: `number ${46_328 - 1462}`, isHidden: true });
  });

  it("keeps captions, what is folded up, and the order", () => {
    const { rows } = readPivot(
      definition({
        district: 'sortType="descending" compact="0" outline="0" defaultSubtotal="0"',
        items: '<item x="0" n="The north" sd="0"/>',
      }),
      cache(),
    );
    expect(rows[0]).toMatchObject({
      sort: "descending",
      isCompact: false,
      isOutline: false,
      hasSubtotal: false,
      known: [{ caption: "The north", isCollapsed: true }],
    });
  });

  it.each<[string, Parts, string, string]>([
    ["filters", { more: "<filters/>" }, "", "a filter"],
    ["merged labels", { attributes: 'mergeItem="1"' }, "", "merged"],
    ["a drop zone of old", { attributes: 'gridDropZones="1"' }, "", "a way of its own"],
    ["totals of hidden rows", { attributes: 'subtotalHiddenItems="1"' }, "", "hidden rows"],
    ["other subtotals", { district: 'avgSubtotal="1"' }, "", "subtotals of another kind"],
    ["blank rows", { district: 'insertBlankRow="1"' }, "", "blank rows"],
    ["values below each other", { rows: '<field x="0"/><field x="-2"/>' }, "", "below each other"],
    ["no rows", { rows: "" }, "", "no field in its rows"],
    ["no values", { data: "" }, "", "no values"],
    ["a field that is not there", { rows: '<field x="7"/>' }, "", "not there"],
    ["running totals", { data: '<dataField name="x" fld="1" showDataAs="runTotal"/>' }, "", "in relation to others"],
    ["another place", { location: 'firstDataRow="3" firstDataCol="1"' }, "", "a way of its own"],
    [
      "months",
      {},
      '<cacheField name="District"><fieldGroup/></cacheField><cacheField name="Fee"/>',
      "groups dates or numbers",
    ],
    [
      "computed fields",
      {},
      '<cacheField name="District"/><cacheField name="Fee" formula="1" databaseField="0"/>',
      "fields of its own",
    ],
  ])("with %s is not computed, and says why", (_, parts, fields, why) => {
    const read = () => readPivot(definition(parts), fields === "" ? cache() : cache(fields));
    expect(read).toThrow(NotComputed);
    expect(read).toThrow(why);
  });
});

describe("values of a cache's list", () => {
  it.each([
    ['<s v="Dock"/>', "Dock"],
    ['<n v="12.5"/>', 12.5],
    ['<b v="1"/>', true],
    ["<m/>", null],
    ['<d v="2026-11-02T12:00:00"/>', 46_328.5],
  ])("%s is %s", (text, value) => {
    expect(sharedValue(xml(text))).toBe(value);
  });
});
