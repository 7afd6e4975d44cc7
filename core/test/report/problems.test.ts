import { parseReport } from "@corbix/core/report";
import { describe, expect, it } from "vitest";

const BEGIN = "report: visits\ntitle: Visits\ndata: visits\nsplit: [Site]\n";

function refusal(text: string): string {
  try {
    parseReport(text, "visits.yaml");
    return "";
  } catch (error) {
    return (error as Error).message.replace(/^Cannot read the report: /, "");
  }
}

describe("what is wrong with a definition", () => {
  it("is told in the words of whoever wrote it, with the field", () => {
    expect(refusal("report: visits\ndata: visits\nsplit: [Site]")).toBe("title: is missing, expected a text.");
    expect(refusal(`${BEGIN}files: 12`)).toBe("files: expected named fields, not a number.");
    expect(refusal(`${BEGIN}files: { list: { table: {}, name: list, pdf: maybe } }`)).toBe(
      "files.list.pdf: expected one of no, too, only.",
    );
    expect(refusal(`${BEGIN}files: { list: { table: {}, name: list, foot: 1 } }`)).toBe(
      "files.list: there is no field `foot` here.",
    );
    expect(refusal(BEGIN.replace("[Site]", "5"))).toBe("split: expected one of a text, a list, named fields.");
  });

  it("of a field that has several forms, is told of the form that was meant", () => {
    const message = (body: string): string => refusal(`${BEGIN}message: { subject: Visits, body: ${body} }`);
    expect(message("{ html: 2 }")).toBe("message.body.html: expected a text, not a number.");
    const to = `${BEGIN}message: { subject: Visits, body: { text: Hello } }\ndelivery: { to: { addresses: [nobody] } }`;
    expect(refusal(to)).toBe("delivery.to.addresses.0: expected a mail address, such as office@lifts.example.");
  });

  it("never names a kind of value as programs do", () => {
    const wrong = ["report: 12", "split: { one: [] }", `${BEGIN}totals: 3`, `${BEGIN}delivery: { approvals: many }`];
    for (const text of [...wrong, `${BEGIN}period: { column: 1 }`, `${BEGIN}schedule: []`, "[]", "just words"]) {
      const words = refusal(text);
      expect(words, text).not.toBe("");
      expect(words, text).not.toMatch(/invalid|undefined|null|string|object|array|boolean|received|unrecognized/i);
    }
  });
});
