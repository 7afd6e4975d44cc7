import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Env } from "@corbix/core/expression";
import { decryptPackage, encryptPackage, OoxmlPackage, readCompoundFile } from "@corbix/core/ooxml";
import { writePdf } from "@corbix/core/pdf";
import { parseReport } from "@corbix/core/report";
import { groupScope, ReportMaker } from "@corbix/core/run";
import { loadTable } from "@corbix/core/table";
import { protectSheets } from "@corbix/core/workbook";
import { describe, expect, it } from "vitest";
import { makeWorkbook, openElsewhere } from "../../support/helpers.js";
import { problemsOf } from "../../support/validate.js";

const page = {
  widthPt: 200,
  heightPt: 100,
  items: [{ kind: "link", target: "https://lifts.example/a", x: 0, y: 0, width: 9, height: 9 }],
} as const;

/** Runs a reader over a file; gives its exit code and what it printed. */
function run(bytes: Uint8Array, program: string, args: (file: string) => string[]): { code: number; text: string } {
  const folder = mkdtempSync(join(tmpdir(), "corbix-lock-"));
  try {
    const file = join(folder, "file.pdf");
    writeFileSync(file, bytes);
    return {
      code: 0,
      text: execFileSync(program, args(file), { encoding: "utf8", stdio: ["ignore", "pipe", "pipe"] }),
    };
  } catch (error) {
    const failed = error as { status?: number; stderr?: string; stdout?: string };
    return { code: failed.status ?? -1, text: `${failed.stdout}${failed.stderr}` };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

describe("a password to open a workbook", () => {
  it.each([0, 1, 63, 4095, 4096, 4097, 9_000_000])("gives %i bytes back, and only to those who know it", (length) => {
    const content = new Uint8Array(length).map((_, at) => at % 251);
    const locked = encryptPackage(content, "Grün & 7");
    expect(Buffer.compare(decryptPackage(locked, "Grün & 7", "x"), content)).toBe(0);
    expect(() => decryptPackage(locked, "grün & 7", "x")).toThrow("the password is not the right one");
    expect(locked.length % 512).toBe(0);
  });

  it("says in its container what is encrypted, and seals the bytes against change", () => {
    const streams = readCompoundFile(encryptPackage(new Uint8Array(5000), "a"), "x");
    expect([...streams.keys()].sort()).toEqual(
      [
        "\u0006Primary",
        "DataSpaceMap",
        "EncryptedPackage",
        "EncryptionInfo",
        "StrongEncryptionDataSpace",
        "Version",
      ].sort(),
    );
    const info = Buffer.from(streams.get("EncryptionInfo") ?? []).toString("latin1");
    expect(info).toMatch(/<dataIntegrity encryptedHmacKey="[^"]{80,}" encryptedHmacValue="[^"]{80,}"\/>/);
    expect(info).toContain('keyBits="256"');
    const names = Buffer.from(streams.get("DataSpaceMap") ?? []).toString("utf16le");
    expect(names).toContain("EncryptedPackage");
  });

  it("makes no two files alike, so that nobody sees which hold the same", () => {
    const [one, two] = [1, 2].map(() => Buffer.from(encryptPackage(new Uint8Array(100), "a")));
    expect(one.equals(two)).toBe(false);
  });
});

describe("sheet protection", () => {
  it("locks every sheet with the hash of its password, before what stands behind it in order", async () => {
    const bytes = await makeWorkbook((book, sheet) => {
      sheet.addRow(["a", 1]);
      sheet.autoFilter = "A1:B1";
      sheet.mergeCells("A2:B2");
      book.addWorksheet("Two");
    });
    const opened = protectSheets(OoxmlPackage.open(bytes), { sheets: true, password: "key", readOnly: true });
    expect(problemsOf(opened.toBytes())).toEqual([]);
    const xml = opened.getText("xl/worksheets/sheet1.xml");
    expect(xml).toMatch(/<\/sheetData><sheetProtection [^>]*sheet="1"[^>]*\/><autoFilter/);
    const [, hash, salt] = /hashValue="([^"]+)" saltValue="([^"]+)" spinCount="100000"/.exec(xml) ?? [];
    let expected = createHash("sha512")
      .update(Buffer.from(salt, "base64"))
      .update(Buffer.from("key", "utf16le"))
      .digest();
    for (let round = 0; round < 100_000; round++) {
      const number = Buffer.alloc(4);
      number.writeUInt32LE(round);
      expected = createHash("sha512").update(expected).update(number).digest();
    }
    expect(hash).toBe(expected.toString("base64"));
    expect(opened.getText("xl/worksheets/sheet2.xml")).toContain("<sheetProtection");
    expect(opened.getText("xl/workbook.xml")).toMatch(/<fileSharing readOnlyRecommended="1"\/><workbookPr/);
    expect((await openElsewhere(opened.toBytes())).worksheets).toHaveLength(2);
  });
});

describe("a protected PDF", () => {
  it("opens with its password only, with strings and streams encrypted and every check passed", () => {
    const bytes = writePdf([page], { title: "Visits of Zürich", lock: { password: "Grün 7", permissions: ["print"] } });
    expect(run(bytes, "qpdf", (file) => ["--check", file]).text).toContain("invalid password");
    const { text } = run(bytes, "qpdf", (file) => ["--password=Grün 7", "--show-encryption", "--check", file]);
    expect(text).toContain("R = 6");
    expect(text).toContain("AESv3");
    expect(text).toMatch(/print high resolution: allowed/);
    expect(text).toMatch(/extract for any purpose: not allowed/);
    expect(text).toContain("No syntax or stream encoding errors");
    expect(run(bytes, "pdfinfo", (file) => ["-upw", "Grün 7", file]).text).toContain("Visits of Zürich");
    expect(Buffer.from(bytes).includes("https://lifts.example")).toBe(false);
  });

  it("made for keeping says so in its metadata, with colours defined and nothing encrypted", () => {
    const bytes = writePdf([page], { title: "Tom & Zürich", archive: true, lock: { password: "x" } });
    const text = Buffer.from(bytes).toString("utf8");
    expect(text).toContain("<pdfaid:part>2</pdfaid:part>");
    expect(text).toContain("Tom &amp; Zürich");
    expect(text).toContain("/GTS_PDFA1");
    expect(text).not.toContain("/Encrypt");
    expect(run(bytes, "qpdf", (file) => ["--check", file]).text).toContain("No syntax or stream encoding errors");
    expect(run(bytes, "pdfinfo", (file) => [file]).text).toMatch(/PDF subtype:\s+PDF\/A-2B|Title:\s+Tom & Zürich/);
  });
});

describe("protection in a report", () => {
  const { table } = loadTable(Buffer.from("site,unit,pin\nDock,L1,s3cret\nQuay,Q1,\n"), "t.csv");
  const make = async (lines: readonly number[], says: string) => {
    const template = await makeWorkbook((_, sheet) => sheet.addRow(["{{ line.unit }}"]));
    const source = `report: a\ntitle: A\ndata: t\nsplit: site\nfiles:\n  rows:\n    name: x\n    template: t.xlsx\n${says}`;
    const maker = new ReportMaker(parseReport(source, "r"), groupScope(table.columns), new Map([["t.xlsx", template]]));
    const env: Env = { table, lines, row: -1, spaces: {}, locale: "en-GB", today: 46_328 };
    return maker.make(env, ["rows"], undefined as never, {} as never).files;
  };

  it("takes each group's password from its data, and stops where there is none", async () => {
    const [file] = await make([0], '    protect: { password: "{{ pin }}" }');
    const opened = OoxmlPackage.open(decryptPackage(file.bytes, "s3cret", "x"));
    expect((await openElsewhere(opened.toBytes())).worksheets[0].getCell("A1").value).toBe("L1");
    await expect(make([1], '    protect: { password: "{{ pin }}" }')).rejects.toThrow("its password is blank");
  });

  it.each([
    ['    protect: { sheetPassword: "x" }', "a sheetPassword needs sheets: true"],
    ['    archive: true\n    protect: { password: "x" }', "made for keeping takes no password"],
    ["    protect: { allow: [printing] }", "allow"],
  ])("refuses %s", async (says, words) => {
    await expect(make([0], says)).rejects.toThrow(words);
  });
});
