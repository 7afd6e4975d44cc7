import { describe, expect, it } from "vitest";
import {
  bindStructure,
  columnsOf,
  cutStructures,
  lineField,
  linesNamed,
  parseStructure,
  plainColumn,
  repetitions,
} from "../../src/template/structure.js";
import { record } from "../support/helpers.js";

const parse = (source: string) => parseStructure(source, "cell B2");

describe("marks of structure", () => {
  it("repeat for lines, with a condition, a key, to the right or page by page", () => {
    expect(parse("repeat line")).toMatchObject({
      kind: "repeat",
      lines: "line",
      across: false,
      paged: false,
      where: undefined,
      by: undefined,
    });
    const all = parse('repeat Parts where kind = "by" by `where`');
    expect(all).toMatchObject({ lines: "parts", where: { source: 'kind = "by"' }, by: { source: "`where`" } });
    expect(parse("repeat line across")).toMatchObject({ across: true });
    expect(parse("repeat line paged by site")).toMatchObject({ paged: true, by: { source: "site" } });
  });

  it("show a whole table of lines", () => {
    const table = parse('table parts: kind, count headed "Number" as "0" total where count > 1 style "Grid Table 1"');
    expect(table).toMatchObject({
      kind: "table",
      lines: "parts",
      style: "Grid Table 1",
      where: { source: "count > 1" },
    });
    expect(
      table.kind === "table" && table.columns?.map(({ heading, field, total }) => [heading, field.source, total]),
    ).toEqual([
      ["Kind", "parts.`kind`", false],
      ["Number", 'parts.`count` as "0"', true],
    ]);
    expect(parse("table line")).toMatchObject({ columns: undefined, style: undefined });
  });

  it.each([
    "repeat",
    "repeat line by",
    "repeat line where",
    "repeat line sideways",
    "repeat line across page",
    "when",
    "table",
    "table line(1)",
  ])("%s is refused", (source) => {
    expect(() => parse(source)).toThrow("Cannot use");
  });

  it("are cut out of a text; fields stay in it", () => {
    const { structures, rest } = cutStructures("{{repeat line}}Unit {{ line.unit }}{{end}}!", "x");
    expect(structures.map(({ kind }) => kind)).toEqual(["repeat", "end"]);
    expect(rest).toBe("Unit {{line.unit}}!");
  });
});

describe("a structure over a group's lines", () => {
  const { scope, env } = record({
    site: "Dock",
    lines: [
      { unit: "L1", district: "North", fee: 1 },
      { unit: "L2", district: "SOUTH", fee: 2 },
      { unit: "L3", district: "south ", fee: 3 },
    ],
    parts: [{ kind: "rope" }, { kind: "brake" }],
  });
  const bind = (source: string) => bindStructure(parse(source), scope, "cell B2");
  const rows = (source: string) =>
    repetitions(bind(source), env).map(({ lines, row, further }) => [lines, row, further?.get("parts")?.row]);

  it("repeats for each line that counts, as the current one", () => {
    expect(rows("repeat line where fee > 1").map(([, row]) => row)).toEqual([1, 2]);
    expect(rows("repeat parts").map(([, , part]) => part)).toEqual([0, 1]);
  });

  it("repeats for each sub-group, spelled in whatever way, in the order in which they come", () => {
    expect(rows("repeat line by district").map(([lines]) => lines)).toEqual([[0], [1, 2]]);
    expect(rows("repeat line where fee < 3 by district").map(([lines]) => lines)).toEqual([[0], [1]]);
  });

  it("shows or leaves out what depends on the group", () => {
    expect([bind('when site = "Dock"').test?.(env), bind("when sum(line.fee) > 99").test?.(env)]).toEqual([
      true,
      false,
    ]);
    expect(() => bind("when site").test?.(env)).toThrow("the condition is neither true nor false");
  });

  it("of lines or columns that are not there is refused with a near name", () => {
    expect(() => bind("repeat pars")).toThrow("there are no lines called `pars`");
    expect(() => bind("repeat line where fea > 1")).toThrow(/fea/);
  });
});

describe("lines by their name", () => {
  const { scope } = record({ lines: [{ unit: "L1" }], parts: [{ kind: "rope" }] });

  it("are the group's own without one", () => {
    expect([linesNamed(undefined, scope, "x"), linesNamed("PARTS", scope, "x")]).toEqual(["line", "parts"]);
    expect(() => linesNamed("people", scope, "x")).toThrow("Cannot find the lines `people`.");
    expect(
      [columnsOf("line", scope), columnsOf("parts", scope), columnsOf("people", scope)].map((columns) =>
        columns.map(({ name }) => name),
      ),
    ).toEqual([["unit"], ["kind"], []]);
  });

  it("have columns that are called plainly, or with their name", () => {
    expect([
      plainColumn("fee", "line"),
      plainColumn("line.fee", "line"),
      plainColumn("line.`Fee due`", "line"),
    ]).toEqual(["fee", "fee", "Fee due"]);
    expect([plainColumn("parts.fee", "line"), plainColumn("fee * 2", "line"), plainColumn("sum(fee)", "line")]).toEqual(
      [undefined, undefined, undefined],
    );
    expect(lineField("parts", " Fee due ")).toBe("parts.`Fee due`");
  });
});
