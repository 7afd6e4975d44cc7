import { beforeEach, describe, expect, inject, it } from "vitest";
import { render } from "vitest-browser-svelte";
import type { Schema } from "../../src/lib/report/schema.js";
import EditionPick from "../../src/parts/build/EditionPick.svelte";
import FilesStep from "../../src/parts/build/steps/FilesStep.svelte";
import { answering, draftOf, KNOWN } from "./support.js";

const schema = JSON.parse(inject("reportSchema")) as Schema;
const BASE = "report: x\ntitle: X\ndata: visits\nsplit: Site\n";
const place = (kind: string, name: string, where: string, headings: string[] = []) => ({ kind, name, where, headings });

describe("what a template has names for", () => {
  beforeEach(() => {
    answering({
      "/templates/statement.xlsx/places": {
        items: [
          place("table", "Visits", "Parts", ["Unit", "Fee"]),
          place("cell", "grand_total", "Summary!D4"),
          place("sheet", "Summary", "Summary"),
          place("cell", "Summary!B2", "beside “Site”"),
        ],
        next: null,
      },
    });
  });

  it("is chosen: cells by their label, tables, their headings, and the sheet that is cloned", async () => {
    const draft = await draftOf(
      `${BASE}files: { list: { name: n, template: statement.xlsx, cells: {}, tables: {}, sheetPer: { by: Site, sheet: "" } } }\n`,
    );
    const screen = await render(FilesStep, { draft, known: KNOWN, schema, ontemplate: async () => {} });
    await screen.getByText("More about this file").click();
    await screen.getByLabelText("Add to cells").selectOptions("Summary!B2, beside “Site”");
    await screen.getByLabelText("Add to tables").selectOptions("Visits, Parts");
    await screen.getByLabelText("Sheet", { exact: true }).selectOptions("Summary");
    await screen.getByRole("button", { name: "Fields" }).click();
    await screen.getByLabelText("Add to fields").selectOptions("Fee");
    expect(draft.get(["files", "list"])).toEqual({
      name: "n",
      template: "statement.xlsx",
      cells: { "Summary!B2": "" },
      tables: { Visits: { fields: { Fee: "" } } },
      sheetPer: { by: "Site", sheet: "Summary" },
    });
  });
});

describe("the edition that is looked at", () => {
  it("is the newest until another is chosen, and is told then", async () => {
    const edition = (number: number) => ({
      number,
      rowCount: number * 10,
      origin: "visits.csv",
      createdAt: "2026-10-02T08:00:00Z",
    });
    answering({ "/datasets/visits/editions": { items: [edition(3), edition(2), edition(1)], next: null, total: 3 } });
    const chosen: (number | undefined)[] = [];
    const props = {
      name: "visits",
      newest: 3,
      chosen: undefined,
      onchange: (one: number | undefined) => chosen.push(one),
    };
    const screen = await render(EditionPick, props);
    await screen.getByLabelText("Edition").selectOptions("2");
    expect(chosen).toEqual([2]);
    await screen.rerender({ ...props, chosen: 2 });
    await expect.element(screen.getByRole("status")).toHaveTextContent("shown of edition 2");
    await screen.getByLabelText("Edition").selectOptions("3");
    expect(chosen).toEqual([2, undefined]);
  });
});
