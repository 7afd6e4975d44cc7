import { beforeEach, describe, expect, it } from "vitest";
import { userEvent } from "vitest/browser";
import { render } from "vitest-browser-svelte";
import { Draft } from "../../src/lib/report/draft.svelte.js";
import RowSteps from "../../src/parts/prepare/RowSteps.svelte";
import { answering, COLUMNS, draftOf, lookOf } from "./support.js";

const BASE = "report: x\ntitle: X\ndata: visits\nsplit: Site\n";
const columns = ["Site", "Manager", "Phone"].map((name) => ({ name, type: "text" }));
const datasets = [{ name: "visits" }, { name: "sites", newest: { columns } }] as never;

const shown = (draft: Draft) =>
  render(RowSteps, { draft, datasets, loaded: COLUMNS, valuesOf: () => ["Dock", "Quay"] });
const account = (kind: string, more: object = {}) => ({
  kind,
  what: "",
  rowsIn: 9,
  rowsOut: 7,
  leftOut: [],
  made: 0,
  columnsAdded: [],
  columnsDropped: [],
  findings: [],
  ...more,
});

describe("steps over the rows", () => {
  beforeEach(() => {
    answering();
  });

  it("begin as something that works already, of each kind there is", async () => {
    const draft = await draftOf(BASE);
    const screen = await shown(draft);
    for (const button of screen.getByRole("group", { name: "Steps to add" }).getByRole("button").all())
      await button.click();
    expect(draft.get(["prepare"])).toEqual([
      { keep: 'fee <> ""' },
      { add: { "New column": "site" } },
      { bring: { from: "sites", match: { Site: "Site" }, columns: ["Manager", "Phone"] } },
      { replace: { column: "Site", list: {} } },
      { fold: { into: "Together", columns: ["Site"], where: 'value <> ""' } },
      { stack: { columns: ["Fee"], name: "Name", value: "Value" } },
      { sort: ["Visit date"] },
      { first: { per: ["Site"], by: ["Visit date"] } },
      { last: { per: ["Site"], by: ["Visit date"] } },
      { distinct: [] },
    ]);
  });

  it("begin with columns that are there while nothing has been looked at yet", async () => {
    answering({ "/drafts/look": undefined });
    const draft = new Draft();
    draft.text = BASE;
    const screen = await shown(draft);
    await screen.getByRole("button", { name: "Several columns as one text" }).click();
    expect(draft.get(["prepare", 0, "fold", "columns"])).toEqual(["Site"]);
  });

  it("replace values by pairs that are chosen among those the column has, or by a list kept as a dataset", async () => {
    const draft = await draftOf(`${BASE}prepare: [{ replace: { column: Site, list: {} } }]\n`);
    const screen = await shown(draft);
    await screen.getByLabelText("Values it has").selectOptions("Dock");
    await screen.getByLabelText("What Dock becomes").fill("Dockside");
    await userEvent.tab();
    expect(draft.get(["prepare", 0, "replace"])).toEqual({ column: "Site", list: { Dock: "Dockside" } });
    await screen.getByLabelText("What each becomes").selectOptions("stands in the dataset sites");
    await screen.getByLabelText("Its column of what they become").selectOptions("Phone");
    expect(draft.get(["prepare", 0, "replace"])).toEqual({
      column: "Site",
      from: "sites",
      match: "Site",
      take: "Phone",
    });
  });

  it("fold columns that are ticked, where their value is one that is said, and write of each what is chosen", async () => {
    const draft = await draftOf(`${BASE}prepare: [{ fold: { into: Notes, columns: [Site], where: 'value <> ""' } }]\n`);
    const screen = await shown(draft);
    (screen.getByRole("checkbox", { name: "Visit date" }).element() as HTMLElement).click();
    await screen.getByLabelText("A column counts where its value").selectOptions("is …");
    await screen.getByLabelText("Value", { exact: true }).fill('say "no"');
    await userEvent.tab();
    await screen.getByLabelText("Of each is written").selectOptions("its value");
    expect(draft.get(["prepare", 0, "fold"])).toEqual({
      into: "Notes",
      columns: ["Site", "Visit date"],
      where: 'value = "say ""no"""',
      show: "value",
    });
  });

  it("tell what each did, have the columns the steps before left, and what stands in the way of each at its place", async () => {
    const problem = { code: "BAD_DEFINITION", title: "Cannot find the column `Gone`.", where: "step 2, distinct" };
    const steps = [
      account("stack", { columnsAdded: ["Name", "Value"], columnsDropped: ["Fee"], made: 12, rowsOut: 12 }),
      account("distinct", { leftOut: [{ reason: "doubles", count: 2, rowNumbers: [] }] }),
    ];
    answering({ "/drafts/look": lookOf({ steps, problems: [problem as never] }) });
    const draft = await draftOf(
      `${BASE}prepare: [{ stack: { columns: [Fee], name: Name, value: Value } }, { distinct: [Site] }]\n`,
    );
    const screen = await shown(draft);
    const [stack, distinct] = screen.getByRole("listitem").all();
    await expect.element(stack).toHaveTextContent("9 rows in, 12 out; adds Name, Value; 12 rows made");
    await expect.element(distinct).toHaveTextContent("9 rows in, 7 out; 2 doubles");
    await expect.element(distinct.getByRole("alert")).toHaveTextContent("Cannot find the column `Gone`.");
    await expect.element(distinct.getByRole("checkbox", { name: "Value" })).toBeVisible();
    expect(distinct.getByRole("checkbox", { name: "Fee" }).query()).toBeNull();
    await expect.element(stack.getByRole("checkbox", { name: "Fee" })).toBeVisible();
  });

  it("are put into another order by dragging, and taken out", async () => {
    const draft = await draftOf(`${BASE}prepare: [{ sort: [Fee] }, { distinct: [] }]\n`);
    const screen = await shown(draft);
    await userEvent.dragAndDrop(screen.getByLabelText("Drag step 2"), screen.getByLabelText("Drag step 1"));
    expect(draft.get(["prepare"])).toEqual([{ distinct: [] }, { sort: ["Fee"] }]);
    await screen.getByRole("button", { name: "Take out step 1" }).click();
    expect(draft.get(["prepare"])).toEqual([{ sort: ["Fee"] }]);
  });
});
