import { reportSchema } from "@corbix/core/report";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import type { Path } from "../../../src/lib/report/definition.js";
import { FIELD_WORDS } from "../../../src/lib/report/field-words.js";
import {
  beginning,
  kindOf,
  type Schema,
  schemaAt,
  shapeOf,
  shapesOf,
  valuesOf,
} from "../../../src/lib/report/schema.js";
import { STEPS, stateOfSteps, stepOf } from "../../../src/lib/report/steps.js";

/** Every field there is, with its schema: what a control has to be there for. */
function everyField(schema: Schema, path: Path = []): { readonly path: Path; readonly schema: Schema }[] {
  const own = path.length === 0 ? [] : [{ path, schema }];
  const inner = [
    ...Object.entries(schema.properties ?? {}).flatMap(([name, one]) => everyField(one, [...path, name])),
    ...(typeof schema.additionalProperties === "object" ? everyField(schema.additionalProperties, [...path, "*"]) : []),
    ...(schema.items ? everyField(schema.items, [...path, 0]) : []),
    ...shapesOf(schema).flatMap((one) => everyField(one, path).slice(1)),
  ];
  return [...own, ...inner];
}

const schema = z.toJSONSchema(reportSchema, { io: "input" }) as Schema;

describe("fields of a definition", () => {
  it("and their values are called something, each in the catalogue", () => {
    const fields = everyField(schema);
    const named = fields.flatMap(({ path }) => path.slice(-1)).filter((one) => typeof one === "string" && one !== "*");
    const valued = fields.flatMap((one) => valuesOf(one.schema)).filter((one) => typeof one === "string");
    expect(named.length).toBeGreaterThan(100);
    expect([...named, ...valued].filter((one) => FIELD_WORDS[String(one)] === undefined)).toEqual([]);
  });

  it("have a control each, that knows what to begin with", () => {
    const fields = everyField(schema);
    expect(fields.length).toBeGreaterThan(150);
    for (const { path, schema: own } of fields) {
      const kind = kindOf(own);
      if (kind === "pick") expect(valuesOf(own).length, path.join(".")).toBeGreaterThan(0);
      if (kind === "choice")
        for (const [at, shape] of shapesOf(own).entries()) {
          // What a shape begins with is of that shape, so that choosing it shows its fields.
          const begun = beginning(shape);
          const found = shapeOf(own, begun);
          expect([at, shapesOf(own)[found] && kindOf(shapesOf(own)[found])], path.join(".")).toEqual([
            at,
            kindOf(shape),
          ]);
        }
      expect(beginning(own), path.join(".")).toBeDefined();
      expect(schemaAt(schema, path), path.join(".")).toBeDefined();
    }
  });

  it("belong to a step, every one of them, and to one only", () => {
    const listed = STEPS.flatMap(({ fields }) => fields as readonly string[]);
    expect(new Set(listed).size).toBe(listed.length);
    const top = Object.keys(schema.properties ?? {}).flatMap((name) =>
      name === "delivery"
        ? Object.keys(schema.properties?.delivery.properties ?? {}).map((one) => `delivery.${one}`)
        : [name],
    );
    expect([...listed].sort()).toEqual([...top].sort());
  });
});

describe("the step of a place", () => {
  it.each([
    ["files, statement, name", "files"],
    ["delivery, to", "people"],
    ["delivery.replyTo", "when"],
    ["message, subject", "message"],
    ["subject", "message"],
    ["keep", "rows"],
    ["step 1, keep, `fees > 1`, character 1", "rows"],
    ["split", "groups"],
    ["total fees", "groups"],
    ["definition, files, share, sheets, 2", "files"],
    ["parts.xlsx, sheet Parts, cell C5, `line.lieferant`, character 1", "files"],
    ["notice of 2026.docx, paragraph 3", "files"],
    ["monthly.html, `sum(x)`", "message"],
    ["report", "check"],
    ["", "check"],
  ])("%s is %s", (where, step) => {
    expect(stepOf(where)).toBe(step);
  });
});

describe("the state of the steps", () => {
  const facts = {
    problems: [],
    has: () => true,
    hasData: true,
    groupCount: 3,
    groupsWithoutPeople: 0,
    isChanged: false,
  };
  it.each([
    ["is fine where nothing is missing", {}, {}],
    ["tells a problem at its step", { problems: ["files, rows, name"] }, { files: "look" }],
    ["tells groups without people", { groupsWithoutPeople: 1 }, { people: "look" }],
    ["tells that no group is left", { groupCount: 0 }, { groups: "missing" }],
    ["tells data that are gone", { hasData: false }, { data: "missing" }],
    ["tells that something is not saved", { isChanged: true }, { check: "missing" }],
    [
      "wants files or a message",
      { has: (field: string) => field === "split" },
      { files: "missing", message: "missing" },
    ],
    ["takes a message alone", { has: (field: string) => field !== "files" }, {}],
  ])("%s", (_, some, states) => {
    const fine = Object.fromEntries(STEPS.map(({ key }) => [key, "fine"]));
    expect(stateOfSteps({ ...facts, ...some })).toEqual({ ...fine, ...states });
  });
});
