import { lookAtDraft } from "@corbix/core/run";
import { describe, expect, it } from "vitest";
import { inputOf } from "../../../core/test/support/small-run.js";
import { insertable, insertableInLine, tableMark } from "../../src/lib/message.js";

const COLUMNS = [
  { name: "Site", type: "text" },
  { name: "Visit date", type: "date" },
  { name: "Fee (CHF)", type: "number" },
  { name: "in", type: "number" },
  { name: 'the "real" one', type: "text" },
];
const ROWS = 'Site,Visit date,Fee (CHF),in,"the ""real"" one"\nDock,2026-10-02,10,1,x\nDock,2026-10-02,10,1,x\n';

describe("what can be put into a message", () => {
  it.each(insertable(COLUMNS, false).map(({ name, mark }) => [name, mark]))("is filled: %s", (_, mark) => {
    const message = { subject: "Visits", body: { text: `${mark}` } };
    const report = `split: Site\nmessage: ${JSON.stringify(message)}\n`;
    const people = "Group,Name,To\nDock,Ann,ann@dock.example\n";
    const found = lookAtDraft(inputOf({ report, rows: ROWS, people }));
    expect(found.problems).toEqual([]);
    expect(found.parcel?.messages[0].text.trim()).not.toBe("");
  });

  it("has no table in one line, and no period where there is none", () => {
    const names = insertableInLine(COLUMNS, false).map(({ name }) => name);
    expect(names).not.toContain("Table of the rows");
    expect(names).not.toContain("Period");
    expect(names).toContain("Sum of Fee (CHF)");
    expect(tableMark(COLUMNS)).toContain(`headed "the 'real' one"`);
  });
});
