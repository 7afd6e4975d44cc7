import { attachedSize, encodedSize, mailSize } from "@corbix/core/message";
import { describe, expect, it } from "vitest";

describe("the size of a message on its way", () => {
  it("is that of its words, formatted and plain, by their bytes, and of each file encoded", () => {
    const words = { html: "ä".repeat(500), text: "b".repeat(1_000) };
    expect(mailSize(words, [])).toBe(2_000 * 1.06 + 1_200);
    for (const size of [0, 57, 10_000, 4_000_000]) {
      expect(mailSize(words, [size, size]) - mailSize(words, [])).toBe(2 * attachedSize(size));
      expect(attachedSize(size)).toBe(encodedSize(size) + 300);
    }
  });
});
