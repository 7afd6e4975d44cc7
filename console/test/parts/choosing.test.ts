import { beforeEach, describe, expect, it, vi } from "vitest";
import { userEvent } from "vitest/browser";
import { render } from "vitest-browser-svelte";
import type { Condition } from "../../src/lib/report/conditions.js";
import BringColumns from "../../src/parts/build/BringColumns.svelte";
import ConditionRows from "../../src/parts/build/ConditionRows.svelte";
import FixedPeople from "../../src/parts/build/FixedPeople.svelte";
import MarksOfFile from "../../src/parts/build/MarksOfFile.svelte";
import SortRows from "../../src/parts/build/SortRows.svelte";
import GroupsStep from "../../src/parts/build/steps/GroupsStep.svelte";
import TableOfRows from "../../src/parts/build/TableOfRows.svelte";
import { answering, COLUMNS, draftOf, KNOWN, lookOf } from "./support.js";

beforeEach(() => {
  answering();
});
const BASE = "report: x\ntitle: X\ndata: visits\nsplit: Site\n";

describe("conditions", () => {
  const given = (condition: Condition) => ({
    condition,
    columns: [...COLUMNS],
    valuesOf: (column: string) => (column === "Site" ? ["Dock", "Quay"] : []),
    onchange: vi.fn<(next: Condition) => void>(),
    countOf: () => ({
      formula: "x",
      holds: 3,
      leavesOut: 1,
      rowNumbers: [7],
      cells: [["Mill", "2026-11-02", 5]],
      trouble: null,
    }),
    loaded: [...COLUMNS],
  });

  it("say how many rows each leaves out, and which", async () => {
    const props = given({ join: "and", clauses: [{ column: "Site", is: "is-not", values: ["Mill"] }] });
    const screen = await render(ConditionRows, props);
    await screen.getByText("leaves out 1 of 4 rows").click();
    await expect.element(screen.getByRole("cell", { name: "02/11/2026" })).toBeVisible();
    const either = await render(ConditionRows, { ...props, condition: { ...props.condition, join: "or" } });
    await expect.element(either.getByText("true of 3 of 4 rows").last()).toBeVisible();
  });

  it("refuse what is no number, and begin a comparison of several with the most frequent value", async () => {
    const props = given({
      join: "and",
      clauses: [
        { column: "Fee", is: "more-than", values: ["much"] },
        { column: "Site", is: "is-filled", values: [] },
      ],
    });
    const screen = await render(ConditionRows, props);
    await expect.element(screen.getByText("A number, such as 1234.5")).toBeVisible();
    await screen.getByLabelText("Comparison").last().selectOptions("is one of");
    expect(props.onchange.mock.lastCall?.[0].clauses[1]).toEqual({ column: "Site", is: "one-of", values: ["Dock"] });
    await screen.getByRole("button", { name: "Add brackets" }).click();
    expect(props.onchange.mock.lastCall?.[0].clauses).toHaveLength(3);
  });
});

describe("the order of rows", () => {
  it("is chosen column by column, upwards or downwards", async () => {
    const draft = await draftOf(BASE);
    const screen = await render(SortRows, { draft, names: KNOWN.columns });
    await screen.getByLabelText("Sort by", { exact: true }).selectOptions("Fee");
    await screen.getByLabelText("Direction of Fee").selectOptions("downwards");
    await screen.getByLabelText("Sort by", { exact: true }).selectOptions("Site");
    expect(draft.get(["sort"])).toEqual(["-Fee", "Site"]);
    await screen.getByRole("button", { name: "Do not sort by Fee" }).click();
    expect(draft.get(["sort"])).toEqual(["Site"]);
  });
});

describe("what makes a group", () => {
  it("is columns, each row, or all rows, and columns come back", async () => {
    const draft = await draftOf(BASE);
    const figures = (name: string, distinct: number) =>
      [name, { name, distinct, count: 4, blanks: 0, frequent: [] }] as const;
    const profiles = new Map([figures("Site", 2), figures("Fee", 4)]);
    const screen = await render(GroupsStep, {
      name: "x",
      draft,
      columns: [...COLUMNS],
      profiles: profiles as never,
      edition: undefined,
    });
    await screen.getByText("each row for itself, such as a letter for each").click();
    expect(draft.get(["split"])).toEqual({ row: ["Fee"] });
    await screen.getByText("all rows together: one file for everybody").click();
    await screen.getByLabelText("What it is called").fill("All sites");
    expect(draft.get(["split"])).toEqual({ one: "All sites" });
    await screen.getByText("the rows that have the same value in a column, or in several").click();
    expect(draft.get(["split"])).toBe("Site");
  });
});

describe("a table's columns", () => {
  it("are dragged to another place", async () => {
    const draft = await draftOf(`${BASE}files: { list: { name: n, table: { columns: [Site, Visit date, Fee] } } }\n`);
    const screen = await render(TableOfRows, { draft, path: ["files", "list", "table"], all: KNOWN.columns });
    await userEvent.dragAndDrop(screen.getByLabelText("Drag Fee"), screen.getByLabelText("Drag Site"));
    expect(draft.get(["files", "list", "table", "columns"])).toEqual(["Fee", "Site", "Visit date"]);
  });
});

describe("columns of another dataset", () => {
  it("are brought by what both have the same values in, with the partners counted", async () => {
    const partners = [{ column: "Site", partner: "Code", values: 28, found: 26, isUnique: true }];
    answering({ "/datasets/visits/partners/sites": { partners } });
    const draft = await draftOf(BASE);
    const columns = ["Code", "Manager", "Phone"].map((name) => ({ name, type: "text" }));
    const datasets = [{ name: "visits" }, { name: "sites", newest: { columns } }];
    const screen = await render(BringColumns, {
      draft,
      data: "visits",
      datasets: datasets as never,
      names: KNOWN.columns,
    });
    await screen.getByLabelText("Bring columns from another dataset").selectOptions("sites");
    await expect.element(screen.getByText("26 of 28 values are there, each once")).toBeVisible();
    await screen.getByRole("button", { name: "Site = Code of sites" }).click();
    expect(draft.get(["bring"])).toEqual([{ from: "sites", match: { Site: "Code" }, columns: ["Manager", "Phone"] }]);
    (screen.getByRole("checkbox", { name: "Phone" }).element() as HTMLElement).click();
    await screen.getByLabelText("Rows without a partner").selectOptions("are left out");
    expect(draft.get(["bring", 0])).toEqual({
      from: "sites",
      match: { Site: "Code" },
      columns: ["Manager"],
      partner: "needed",
    });
  });
});

describe("a mark that fits nothing", () => {
  it("is filled with a column that is chosen", async () => {
    const problem = { code: "BAD_MARK", title: "Cannot find the column `kunde`.", where: "letter.docx, paragraph 2" };
    answering({ "/drafts/look": lookOf({ problems: [problem as never] }) });
    const draft = await draftOf(`${BASE}files: { letter: { name: n, template: letter.docx } }\n`);
    const screen = await render(MarksOfFile, { draft, file: "letter", template: "letter.docx" });
    await screen.getByLabelText("Column for kunde").selectOptions("Visit date");
    expect(draft.get(["add"])).toEqual({ kunde: "visit_date" });
  });
});

describe("people named in the report", () => {
  it("are kept once each of them is an address", async () => {
    const draft = await draftOf(BASE);
    const screen = await render(FixedPeople, { draft, addresses: [], name: "", onwritten: () => {} });
    const field = screen.getByLabelText("Addresses");
    await field.fill("chief, deputy@lifts.example");
    await userEvent.keyboard("{Tab}");
    await expect.element(screen.getByText("“chief” is no address.")).toBeVisible();
    expect(draft.get(["delivery"])).toBeUndefined();
    await field.fill("chief@lifts.example; deputy@lifts.example");
    await userEvent.keyboard("{Tab}");
    expect(draft.get(["delivery", "to"])).toEqual({ addresses: ["chief@lifts.example", "deputy@lifts.example"] });
  });
});
