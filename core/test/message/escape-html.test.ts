import fc from "fast-check";
import { htmlToText } from "html-to-text";
import { describe, expect, it } from "vitest";
import { escapeHtml } from "../../src/message/escape-html.js";

describe("a text in HTML", () => {
  it("can open no element and end no attribute", () => {
    fc.assert(fc.property(fc.string(), (text) => !/[<>"']/.test(escapeHtml(text))));
  });

  it("is read as what it was", () => {
    const text = `Lift "3" & <escalator> at O'Brien's &amp; sons`;
    expect(htmlToText(escapeHtml(text))).toBe(text);
  });
});
