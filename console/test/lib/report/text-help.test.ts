import { reportSchema } from "@corbix/core/report";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import type { Known } from "../../../src/lib/report/choices.js";
import type { Schema } from "../../../src/lib/report/schema.js";
import { offersAt, placeOf } from "../../../src/lib/report/text-help.js";

const schema = z.toJSONSchema(reportSchema, { io: "input" }) as Schema;
const known: Known = {
  columns: ["Site", "Visit date", "Fee: net"],
  datasets: ["visits", "costs"],
  templates: ["statement.xlsx"],
  identities: ["office"],
  files: ["statement"],
};

/** What is offered where the text ends. */
const labels = (text: string): string[] =>
  (offersAt(text, text.length, schema, known)?.offers ?? []).map(({ label }) => label);

describe("what can stand at a place of a definition", () => {
  it.each([
    ["re", ["report", "retention"]],
    ["report: x\n", ["title", "period", "delivery"]],
    ["report: x\ndata: ", ["visits", "costs"]],
    ["period:\n  every: month\n  column: ", ["Site", "Visit date"]],
    ["period: { every: ", ["day", "month", "quarter"]],
    ["period: { ", ["column", "every"]],
    ["sealed: ", ["true", "false"]],
    ["files:\n  statement:\n    ", ["template", "name", "pdf", "table"]],
    ["files:\n  statement:\n    template: a.xlsx\n    pdf: ", ["too", "only"]],
    ["files:\n  statement:\n    template: ", ["statement.xlsx"]],
    ["sort:\n  - ", ["Site", "-Site"]],
    ["bring:\n  - from: ", ["visits", "costs"]],
    ["bring:\n  - from: costs\n    ", ["match", "columns"]],
    ["bring:\n- from: costs\n  match: x\n- ", ["from", "match"]],
    ["delivery:\n  from: ", ["office"]],
  ])("%j", (text, some) => {
    expect(labels(text)).toEqual(expect.arrayContaining(some));
  });

  it.each([
    ["a title is anybody's own words", "title: "],
    ["names of files are chosen freely", "files:\n  "],
    ["the middle of a sentence", 'title: "The statement of'],
    ["behind a flow that is closed", "period: { column: x } "],
  ])("offers nothing where %s", (_, text) => {
    expect(labels(text)).toEqual([]);
  });

  it("takes the place of what is written already, and quotes what has to be", () => {
    expect(offersAt("report: x\nsp", 12, schema, known)?.from).toBe(10);
    const offers = offersAt("split: ", 7, schema, known)?.offers ?? [];
    expect(offers.map(({ text }) => text)).toEqual(["Site", "Visit date", '"Fee: net"']);
  });

  it("tells what a field is called in the clicks", () => {
    const [offer] = offersAt("spl", 3, schema, known)?.offers.filter(({ label }) => label === "split") ?? [];
    expect(offer).toEqual({ label: "split", detail: "Group by", text: "split: " });
  });
});

describe("where a trouble stands", () => {
  const text = 'report: x\nkeep: fees > 1\nfiles:\n  statement:\n    name: "{{ sight }}"\nbring:\n  - from: none\n';
  const at = (where: string): string => {
    const { from, to } = placeOf(text, where);
    return text.slice(from, to);
  };
  it.each([
    ["keep", "keep: fees > 1"],
    ["step 1, keep, `fees > 1`, character 1", "keep: fees > 1"],
    ["files, statement, name", 'name: "{{ sight }}"'],
    ["files.statement.name", 'name: "{{ sight }}"'],
    ["files, statement", "statement"],
    ["bring, 1, from", "from: none"],
    ["group Dock", "report: x"],
    ["", "report: x"],
  ])("%j is %s", (where, stretch) => {
    expect(at(where)).toBe(stretch);
  });

  it("is the first line of a text that cannot be read", () => {
    expect(placeOf("a: [1\nb: 2", "b")).toBeDefined();
    expect(placeOf("", "keep")).toEqual({ from: 0, to: 0 });
  });
});
