import { describe, expect, it } from "vitest";
import { runText } from "../../../src/document/template/word-text.js";

describe("a value inside a run", () => {
  it("is escaped", () => {
    expect(runText("Quay & <Dock>", "w:")).toBe("Quay &amp; &lt;Dock&gt;");
  });

  it.each(["\n", "\r\n", "\r"])("has a break for the line end %j", (end) => {
    expect(runText(`Dock${end}Quay`, "w:")).toBe('Dock</w:t><w:br/><w:t xml:space="preserve">Quay');
  });

  it("has tabs, and takes the prefix of its part", () => {
    expect(runText("a\tb", "")).toBe('a</t><tab/><t xml:space="preserve">b');
  });
});
