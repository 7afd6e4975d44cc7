/** Files with one plain page, for objects that a page leads to; and what another reader makes of them. */
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PNG } from "pngjs";
import { PdfFile, type Ref } from "../../src/pdf/objects.js";
import type { PdfCipher } from "../../src/pdf/protect.js";

/** A file of pages of 100 by 100 points; `more` gives each page's entries and the catalog's. */
export function pdfFile(
  pages: number,
  build: (pdf: PdfFile, pages: readonly Ref[]) => { page?: string; catalog?: string },
  cipher?: PdfCipher,
): Uint8Array {
  const pdf = new PdfFile();
  const tree = pdf.reserve();
  const refs = Array.from({ length: pages }, () => pdf.reserve());
  const { page = "", catalog = "" } = build(pdf, refs);
  for (const ref of refs) pdf.set(ref, `<< /Type /Page /Parent ${tree} /MediaBox [0 0 100 100] ${page} >>`);
  pdf.set(tree, `<< /Type /Pages /Kids [${refs.join(" ")}] /Count ${pages} >>`);
  const info = pdf.add("<< /Title <FEFF0041> >>");
  return pdf.toBytes(pdf.add(`<< /Type /Catalog /Pages ${tree} ${catalog} >>`), info, cipher);
}

/** What a program says of a file. */
export function askPdf(bytes: Uint8Array, program: string, args: (file: string) => readonly string[]): string {
  return withFile(bytes, (file) => execFileSync(program, args(file), { encoding: "utf8", stdio: "pipe" }));
}

/** The first page as pixels, a point each. */
export function drawnPdf(bytes: Uint8Array): (x: number, y: number) => number[] {
  return withFile(bytes, (file) => {
    execFileSync("pdftoppm", ["-r", "72", "-png", "-singlefile", file, file]);
    const { width, data } = PNG.sync.read(readFileSync(`${file}.png`));
    return (x, y) => [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 3)];
  });
}

function withFile<T>(bytes: Uint8Array, use: (file: string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), "corbix-page-"));
  try {
    const file = join(folder, "file.pdf");
    writeFileSync(file, bytes);
    return use(file);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
