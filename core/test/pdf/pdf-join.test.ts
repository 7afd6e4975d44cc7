import { execFileSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openDocument } from "@corbix/core/document";
import { layDocument } from "@corbix/core/layout";
import { joinPdfs, writePdf } from "@corbix/core/pdf";
import { openFonts } from "@corbix/fonts";
import { Document, Packer, Paragraph } from "docx";
import { describe, expect, it } from "vitest";

async function pdf(pages: readonly string[], lock?: { password: string }): Promise<Uint8Array> {
  const children = pages.map((text, index) => new Paragraph({ text, pageBreakBefore: index > 0 }));
  const bytes = await Packer.toBuffer(new Document({ sections: [{ children }] }));
  const laid = layDocument(openDocument(new Uint8Array(bytes), "x"), openFonts());
  return writePdf(laid.pages, {
    title: "x",
    outline: laid.outline,
    structure: laid.structure,
    ...(lock ? { lock } : {}),
  });
}

/** Pages' texts, as another reader has them; it has to find nothing wrong with the file. */
function textsOf(bytes: Uint8Array): string[] {
  const folder = mkdtempSync(join(tmpdir(), "corbix-join-"));
  try {
    const path = join(folder, "all.pdf");
    writeFileSync(path, bytes);
    execFileSync("qpdf", ["--check", path]);
    const text = execFileSync("pdftotext", ["-layout", path, "-"], { encoding: "utf8" });
    return text
      .split("\f")
      .slice(0, -1)
      .map((one) => one.trim());
  } finally {
    rmSync(folder, { recursive: true });
  }
}

describe("files put behind each other for printing", () => {
  it("keep their pages in order, each on sheets of its own if asked for", async () => {
    const parts = [
      { bytes: await pdf(["one", "two", "three"]), where: "a" },
      { bytes: await pdf(["four"]), where: "b" },
      { bytes: await pdf(["five", "six Größe"]), where: "c" },
    ];
    expect(textsOf(joinPdfs(parts, { title: "all" }))).toEqual(["one", "two", "three", "four", "five", "six Größe"]);
    const sheets = joinPdfs(parts, { title: "all", sheets: true });
    expect(textsOf(sheets)).toEqual(["one", "two", "three", "", "four", "", "five", "six Größe"]);
    // Fonts that the parts share are in it once.
    expect(sheets.length).toBeLessThan(parts[0].bytes.length * 1.5);
  });

  it("are refused where a password protects one, or another program wrote it", async () => {
    const locked = { bytes: await pdf(["secret"], { password: "x" }), where: "locked.pdf" };
    expect(() => joinPdfs([locked], { title: "all" })).toThrow("a password protects it");
    const foreign = { bytes: Buffer.from("%PDF-1.4\nnonsense"), where: "scan.pdf" };
    expect(() => joinPdfs([foreign], { title: "all" })).toThrow("it was not written here");
  });
});
