import { reportSchema } from "@corbix/core/report";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import {
  beginning,
  everyField,
  kindOf,
  type Schema,
  schemaAt,
  shapeOf,
  shapesOf,
  valuesOf,
} from "../../../src/lib/report/schema.js";
import { STEPS, stepOf } from "../../../src/lib/report/steps.js";

const schema = z.toJSONSchema(reportSchema, { io: "input" }) as Schema;

describe("fields of a definition", () => {
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
    ["report", "check"],
    ["", "check"],
  ])("%s is %s", (where, step) => {
    expect(stepOf(where)).toBe(step);
  });
});
