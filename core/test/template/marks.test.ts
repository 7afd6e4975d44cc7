import { CorbixError } from "@corbix/core/common";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  cutMarks,
  gatherMarks,
  hasMarks,
  parseMark,
  parseTextTemplate,
  STRUCTURE,
  withPlace,
} from "../../src/template/marks.js";
import { record } from "../support/helpers.js";

describe("a text cut at its marks", () => {
  it("is what stands between them, and what stands in them", () => {
    expect(cutMarks("Dear {{ name }}, {{fee}}", "x")).toEqual([
      { kind: "text", text: "Dear " },
      { kind: "mark", source: "name", at: 5 },
      { kind: "text", text: ", " },
      { kind: "mark", source: "fee", at: 17 },
    ]);
    expect([cutMarks("", "x"), cutMarks("{ no } mark }}", "x"), hasMarks("{ no }")]).toEqual([
      [],
      [{ kind: "text", text: "{ no } mark }}" }],
      false,
    ]);
  });

  it("with one that is not closed is refused, with the beginning of it and its place", () => {
    const cut = () => cutMarks("Dear {{ name, hello", "letter, paragraph 2");
    expect(cut).toThrow("Cannot read the mark `{{ name, hello`: it is not closed.");
    expect(cut).toThrow(CorbixError);
  });

  it("is whole again when its pieces are put together", () => {
    const piece = fc.oneof(
      fc.string({ unit: fc.constantFrom(..."ab {}\n") }).filter((text) => !text.includes("{{")),
      fc.constantFrom("{{a}}", "{{ b c }}"),
    );
    fc.assert(
      fc.property(fc.array(piece), (parts) => {
        const text = parts.join("");
        let cut: ReturnType<typeof cutMarks>;
        try {
          cut = cutMarks(text, "x");
        } catch (error) {
          expect(error).toBeInstanceOf(CorbixError);
          return;
        }
        const whole = cut.map((one) =>
          one.kind === "text" ? one.text : text.slice(one.at, text.indexOf("}}", one.at) + 2),
        );
        expect(whole.join("")).toBe(text);
      }),
    );
  });
});

describe("marks broken over runs", () => {
  it("are gathered where they begin, and every other letter stays in its run", () => {
    expect(gatherMarks(["Dear {", "{ na", "me }}, hello"])).toEqual(["Dear {{ name }}", "", ", hello"]);
    expect(gatherMarks(["{{a}}{", "{b}", "}c"])).toEqual(["{{a}}{{b}}", "", "c"]);
    expect(gatherMarks(["no ", "marks"])).toEqual(["no ", "marks"]);
  });

  it("lose and double nothing, wherever they are broken", () => {
    const text = 'Dear {{ name }}, you owe {{ fee as "0.00" }} by {{ day }}.';
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: text.length })), (places) => {
        const cuts = [0, ...places.sort((a, b) => a - b), text.length];
        const runs = cuts.slice(1).map((end, at) => text.slice(cuts[at], end));
        const gathered = gatherMarks(runs);
        expect(gathered).toHaveLength(runs.length);
        expect(gathered.join("")).toBe(text);
        for (const run of gathered) expect(run.split("{{").length).toBe(run.split("}}").length);
      }),
    );
  });
});

describe("what stands in a mark", () => {
  it.each(["repeat line", "when fee > 1", "otherwise", "end", "table line"])(
    "%s is a structure, and no field",
    (source) => {
      expect(STRUCTURE.test(source)).toBe(true);
      expect(() => parseMark(source, "subject")).toThrow(`Cannot use \`{{${source}}}\` here.`);
    },
  );

  it.each(["ending", "tables", "end.of", "when(1)", "repeated"])("%s is a field", (source) => {
    expect(STRUCTURE.test(source)).toBe(false);
  });

  it("that is no expression is refused with its place", () => {
    expect(() => parseMark("fee +", "subject")).toThrow(CorbixError);
    try {
      parseMark("fee +", "subject");
    } catch (error) {
      expect((error as CorbixError).where).toMatch(/^subject/);
    }
  });
});

describe("a text with fields", () => {
  const { scope, env } = record({ site: "Dock & Quay", contact: "", fee: 12.5 });
  const filled = (text: string, escape?: (value: string) => string) => {
    const blank: string[] = [];
    const made = parseTextTemplate(text, "subject")
      .bind(scope)
      .fill({ ...env, onBlank: (where, source) => blank.push(`${where}: ${source}`) }, escape);
    return { made, blank };
  };

  it("is filled, each value escaped as it has to be and nothing else", () => {
    expect(filled('<b>{{ site }}</b>: {{ fee as "0.00" }}', (value) => value.replaceAll("&", "&amp;")).made).toBe(
      "<b>Dock &amp; Quay</b>: 12.50",
    );
  });

  it("tells a mark that comes out blank beside words, and not where it stands alone or says what stands instead", () => {
    expect(filled("Dear {{ contact }},").blank).toEqual(["subject: contact"]);
    expect(filled("{{ contact }}").blank).toEqual([]);
    expect(filled("Hello\n{{ contact }}\nthere").blank).toEqual([]);
    expect(filled('Dear {{ coalesce(contact, "") }},').blank).toEqual([]);
  });

  it("with an unknown name is refused with its place", () => {
    expect(() => parseTextTemplate("{{ sitte }}", "subject").bind(scope)).toThrow(/sitte/);
  });
});

describe("a place", () => {
  it("stands before that of the error, and leaves other errors as they are", () => {
    const fail = () => {
      throw new CorbixError("BAD_MARK", "wrong", { where: "cell B2", advice: "mend it" });
    };
    expect(() => withPlace("sheet Visits", fail)).toThrow(
      expect.objectContaining({ where: "sheet Visits, cell B2", advice: "mend it" }),
    );
    const plain = new TypeError("a defect");
    expect(() =>
      withPlace("x", () => {
        throw plain;
      }),
    ).toThrow(plain);
    expect(withPlace("x", () => 7)).toBe(7);
  });
});
