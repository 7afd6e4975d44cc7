import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { parse } from "yaml";
import { Definition, type Path } from "../../../src/lib/report/definition.js";

const TEXT = `# The monthly statement.
report: site-statement
title: Monthly statement # seen by everybody
period: { column: visit_date, every: month }
add:
  # rounded to cents
  fee: round(hours * rate, 2)
sort: [visit_date, unit]
split: site
files:
  statement:
    template: statement.xlsx
    pdf: too # printed as well
delivery:
  hold: true
`;

describe("a definition changed by fields", () => {
  it("keeps comments, order, and the way everything else is written", () => {
    const changed = new Definition(TEXT)
      .with(["title"], "Weekly statement")
      .with(["files", "statement", "pdf"], "only")
      .with(["period", "every"], "week");
    expect(changed.text).toBe(
      TEXT.replace("Monthly statement #", "Weekly statement #")
        .replace("pdf: too", "pdf: only")
        .replace("every: month", "every: week"),
    );
  });

  it("gets fields that it has not, with what leads to them", () => {
    const changed = new Definition(TEXT)
      .with(["delivery", "to", "column"], "Mail")
      .with(["totals", "fees"], "sum(line.fee)");
    expect(changed.get(["delivery"])).toEqual({ hold: true, to: { column: "Mail" } });
    expect(changed.value.totals).toEqual({ fees: "sum(line.fee)" });
    expect(changed.text).toContain("# printed as well");
    expect(new Definition("").with(["split"], "site").text).toBe("split: site\n");
    expect(new Definition("").with(["prepare", 0, "keep"], "a > 1").value).toEqual({ prepare: [{ keep: "a > 1" }] });
  });

  it("loses what is taken out, and what is empty then, with its comment", () => {
    const changed = new Definition(TEXT)
      .with(["add", "fee"], undefined)
      .with(["files", "statement", "template"], undefined);
    expect(changed.text).not.toContain("add:");
    expect(changed.value.files).toEqual({ statement: { pdf: "too" } });
    expect(changed.with(["gone", "field"], undefined).text).toBe(changed.text);
  });

  it("moves entries of lists and fields among their neighbours, and calls fields otherwise", () => {
    expect(new Definition(TEXT).moved(["sort", 1], 0).value.sort).toEqual(["unit", "visit_date"]);
    const two = new Definition(TEXT).with(["add", "total"], "fee * 2");
    expect(Object.keys(two.moved(["add", "total"], 0).value.add as object)).toEqual(["total", "fee"]);
    const renamed = two.renamed(["add", "fee"], "cost");
    expect(Object.keys(renamed.value.add as object)).toEqual(["cost", "total"]);
    expect(renamed.text).toContain("# rounded to cents");
  });

  it("writes texts so that they are read as what they are", () => {
    for (const text of [
      "12",
      "true",
      "null",
      "2026-01-01",
      "a: b",
      "# no comment",
      "",
      " x ",
      "{{ site }}",
      "line\nanother\n",
      "- x",
      "'",
      '"',
      "=",
      "~",
      "1e3",
      "0x1F",
      "yes",
    ])
      expect(new Definition(TEXT).with(["title"], text).value.title).toBe(text);
  });

  it("that cannot be read says where, and is not changed", () => {
    const broken = new Definition("title: [a\nsplit: x\n");
    expect(broken.problem).toMatchObject({ line: expect.any(Number), what: expect.any(String) });
    expect(broken.value).toEqual({});
    expect(() => broken.with(["title"], "x")).toThrow();
    expect(new Definition("- a\n- b\n").value).toEqual({});
  });
});

describe("clicks and text", () => {
  const leaf = fc.oneof(
    fc.string(),
    fc.integer(),
    fc.boolean(),
    fc.constantFrom("{{ site }}", "a # b", "x: y", "line\nline", "", "null"),
  );
  const key = fc.stringMatching(/^[a-z][a-z0-9_-]{0,8}$/);
  const value: fc.Arbitrary<unknown> = fc.letrec((tie) => ({
    any: fc.oneof(
      { maxDepth: 3 },
      leaf,
      fc.dictionary(key, tie("any"), { maxKeys: 4 }),
      fc.array(tie("any"), { maxLength: 4 }),
    ),
  })).any;
  const root = fc.dictionary(key, value, { minKeys: 1, maxKeys: 5 });

  const paths = (at: unknown, path: Path = []): Path[] =>
    typeof at === "object" && at !== null
      ? Object.entries(at).flatMap(([name, inner]) => {
          const own = [...path, Array.isArray(at) ? Number(name) : name];
          return [own, ...paths(inner, own)];
        })
      : [];
  const setIn = (at: unknown, path: Path, to: unknown): unknown => {
    if (path.length === 0) return to;
    const [first, ...rest] = path;
    const copy: unknown = Array.isArray(at) ? [...at] : { ...(at as object) };
    (copy as Record<string | number, unknown>)[first] = setIn(
      (at as Record<string | number, unknown>)[first],
      rest,
      to,
    );
    return copy;
  };

  it("are the same thing both ways, whatever is set where", () => {
    fc.assert(
      fc.property(root, value, fc.nat(), (before, to, pick) => {
        // Every field by itself, as clicks set them, from nothing.
        let made = new Definition("# first\n");
        for (const [name, one] of Object.entries(before)) made = made.with([name], one);
        expect(parse(made.text)).toEqual(before);
        const all = paths(before);
        const path = all[pick % all.length];
        const changed = made.with(path, to);
        expect(changed.value).toEqual(setIn(before, path, to));
        expect(parse(changed.text)).toEqual(changed.value);
        expect(changed.text).toContain("# first");
      }),
      { numRuns: 300 },
    );
  });
});
