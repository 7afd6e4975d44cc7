import { describe, expect, it } from "vitest";
import { PdfCipher, type PdfLock } from "../../src/pdf/protect.js";
import { askPdf, pdfFile } from "../support/pdf-page.js";

const locked = (lock: PdfLock) =>
  pdfFile(1, (pdf) => ({ page: `/Contents ${pdf.stream("BT (secret) Tj ET")}` }), new PdfCipher(lock));
const check = (bytes: Uint8Array, password: string) =>
  askPdf(bytes, "qpdf", (file) => [`--password=${password}`, "--check", file]);
const encryption = (bytes: Uint8Array, password: string) =>
  askPdf(bytes, "qpdf", (file) => [`--password=${password}`, "--show-encryption", file]);

describe("a file with a password", () => {
  it.each(["quay-7", "Käfertal ©", "日本", "x".repeat(200)])("opens with %s and with nothing else", (password) => {
    const bytes = locked({ password });
    expect(check(bytes, password)).toContain("No syntax or stream encoding errors found");
    expect(() => check(bytes, `${password.slice(0, 3)}!`)).toThrow("invalid password");
    expect(() => check(bytes, "")).toThrow("invalid password");
    expect(Buffer.from(bytes).toString("latin1")).not.toContain("secret");
  });

  it("takes a password typed in parts of letters for the same", () => {
    expect(check(locked({ password: "Ka\u0308fertal" }), "Käfertal")).toContain("No syntax");
  });

  it("opens freely without one, with what a reader may do", () => {
    const said = encryption(locked({ password: "", permissions: ["print"] }), "");
    expect(said).toMatch(/print high resolution: allowed/);
    expect(said).toMatch(/extract for any purpose: not allowed/);
    expect(said).toMatch(/modify anything: not allowed/);
    expect(said).toMatch(/extract for accessibility: allowed/);
  });

  it.each([
    ["print", /print low resolution: allowed/],
    ["copy", /extract for any purpose: allowed/],
    ["change", /modify other: allowed/],
    ["comment", /modify annotations: allowed/],
  ] as const)("may be told to allow %s", (permission, said) => {
    expect(encryption(locked({ password: "", permissions: [permission] }), "")).toMatch(said);
    expect(encryption(locked({ password: "", permissions: [] }), "")).not.toMatch(said);
  });

  it("gives other bytes each time: nobody sees that two are alike", () => {
    const [first, second] = [locked({ password: "x" }), locked({ password: "x" })];
    expect(Buffer.from(first)).not.toEqual(Buffer.from(second));
  });
});
