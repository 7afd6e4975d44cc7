import { encodedSize } from "@corbix/core/message";
import { describe, expect, it } from "vitest";
import { mailSize, weighed } from "../../../src/lib/report/mail-size.js";

describe("the size of a message", () => {
  it("is about what the service weighs it with", () => {
    for (const size of [10_000, 250_000, 4_000_000]) {
      const files = mailSize(0, [size]) - mailSize(0, []);
      expect(Math.abs(files - (encodedSize(size) + 300)) / files).toBeLessThan(0.02);
    }
    expect(mailSize(2_000, [])).toBe(3_320);
  });

  it("is of a file as it is kept, or of its PDF", () => {
    expect(weighed("statement")).toEqual({ file: "statement", isPdf: false });
    expect(weighed("statement.pdf")).toEqual({ file: "statement", isPdf: true });
  });
});
