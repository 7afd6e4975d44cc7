import { deflateRawSync } from "node:zlib";
import { CorbixError } from "@corbix/core/common";
import { deflateEntry, inflateEntry, OoxmlPackage, parseXml, readZip, writeZip } from "@corbix/core/ooxml";
import { describe, expect, it } from "vitest";

describe("the zip package", () => {
  const entries = [
    deflateEntry("a.xml", Buffer.from("<a/>".repeat(100))),
    deflateEntry("b/ü.bin", Buffer.from([1, 2, 3])),
  ];

  it("gives back what was put in, and the same bytes each time", () => {
    const zip = writeZip(entries);
    expect(Buffer.compare(zip, writeZip(entries))).toBe(0);
    const read = readZip(zip);
    expect(read.map((entry) => entry.name)).toEqual(["a.xml", "b/ü.bin"]);
    expect(Buffer.from(inflateEntry(read[0])).toString()).toBe("<a/>".repeat(100));
  });

  it("keeps untouched parts byte for byte when one is changed", () => {
    const opened = OoxmlPackage.open(writeZip(entries));
    const changed = readZip(opened.with(new Map([["a.xml", "<b/>"]])).toBytes());
    expect(Buffer.compare(changed[1].packed, entries[1].packed)).toBe(0);
    expect(Buffer.from(inflateEntry(changed[0])).toString()).toBe("<b/>");
  });

  it("refuses names that lead out, wrong checksums, and sizes that lie", () => {
    const bad = (name: string) => writeZip([{ ...entries[0], name }]);
    expect(() => readZip(bad("../../etc/passwd"))).toThrow("points outside");
    expect(() => readZip(bad("/etc/passwd"))).toThrow("points outside");
    expect(() => inflateEntry(readZip(writeZip([{ ...entries[0], crc: 1 }]))[0])).toThrow("checksum");
    expect(() => inflateEntry(readZip(writeZip([{ ...entries[0], size: 10 }]))[0])).toThrow(CorbixError);
    const bomb = deflateRawSync(Buffer.alloc(5_000_000));
    expect(() => readZip(writeZip([{ name: "bomb", method: 8, crc: 0, size: 4_000_000_000, packed: bomb }]))).toThrow(
      "over the limit",
    );
  });
});

describe("the XML tree", () => {
  const sources = [
    `<?xml version="1.0"?>\n<!-- note --><w:p xmlns:w="x"  a = '1' b="&quot;&#x41;"><w:t xml:space="preserve"> a &amp; b </w:t><w:e/><![CDATA[<x>]]></w:p>\n`,
    `<a><b c="d>e"/></a>`,
  ];

  it.each(sources)("writes back letter for letter what it did not change: %s", (source) => {
    const { head, root, tail } = parseXml(source);
    expect(head + root.toString() + tail).toBe(source);
  });

  it("reads entities and attributes in either quotes", () => {
    const { root } = parseXml(sources[0]);
    expect(root.attr("a")).toBe("1");
    expect(root.attr("b")).toBe('"A');
    expect(root.child("t")?.text).toBe(" a & b ");
  });

  it("changes one attribute and leaves the others as they stood", () => {
    const { root } = parseXml(`<r  x="1"   y='2'/>`);
    expect(root.withAttr("x", "<$1>").toString()).toBe(`<r  x="&lt;$1&gt;"   y='2'/>`);
    expect(root.withAttr("z", "3").toString()).toBe(`<r  x="1"   y='2' z="3"/>`);
    expect(root.withAttr("y", undefined).toString()).toBe(`<r  x="1"  />`);
  });

  it("has cells and texts of slides once for those who only read, in whatever part they stand", () => {
    const cell = (words: string): string =>
      `<a:tc><a:txBody><a:p><a:r><a:t>${words}</a:t></a:r></a:p></a:txBody></a:tc>`;
    const part = (...cells: string[]): string => `<p:sld>\n<a:tr>${cells.map(cell).join("")}</a:tr></p:sld>`;
    const source = part("L1", "12 &amp; 3", "L1");
    const { root } = parseXml(source, "slide1.xml", true);
    expect(root.toString()).toBe(source);
    const [first, second, third] = root.descendants("tc");
    expect([third === first, second === first, second.text]).toEqual([true, false, "12 & 3"]);
    expect(parseXml(part("L1"), "slide2.xml", true).root.descendants("tc")[0]).toBe(first);
    expect(parseXml(part("L1")).root.descendants("tc")[0]).not.toBe(first);
    for (const broken of ["a &nope; b", "a</a:r>", "<a:x>"]) {
      const told = (isOnlyRead: boolean): string => {
        try {
          return parseXml(part("L1", broken), "slide1.xml", isOnlyRead).root.name;
        } catch (error) {
          return error instanceof CorbixError ? error.toLine() : String(error);
        }
      };
      expect(told(true)).toBe(told(false));
      expect(told(true)).toMatch(/slide1\.xml, line 2, column \d+/);
    }
  });

  it.each([
    ["<a><b></a>", "closes nothing"],
    ["<a>", "is not closed"],
    ["", "is empty"],
    ["<a/><b/>", "second root"],
    ['<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a>&x;</a>', "document type"],
    ["<a>&nope;</a>", "entity"],
    [`${"<a>".repeat(400)}`, "nested deeper"],
  ])("refuses %s", (source, words) => {
    expect(() => parseXml(source)).toThrow(words);
  });
});

describe("a package of the strict form", () => {
  const pack = (office: string): OoxmlPackage =>
    OoxmlPackage.open(
      writeZip([
        deflateEntry(
          "_rels/.rels",
          Buffer.from(
            `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r" Type="${office}/officeDocument" Target="word/document.xml"/></Relationships>`,
          ),
        ),
        deflateEntry("word/document.xml", Buffer.from("<d/>")),
      ]),
      "x",
    );
  const written =
    '<d xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships" uri="http://schemas.openxmlformats.org/drawingml/2006/chart"/>';

  it("has what is written into it in its own names, and one of the other form in its", () => {
    const change = new Map([["word/document.xml", written]]);
    const strict = pack("http://purl.oclc.org/ooxml/officeDocument/relationships").with(change);
    expect(strict.getText("word/document.xml")).toBe(
      '<d xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006" xmlns:r="http://purl.oclc.org/ooxml/officeDocument/relationships" uri="http://purl.oclc.org/ooxml/drawingml/chart"/>',
    );
    const usual = pack("http://schemas.openxmlformats.org/officeDocument/2006/relationships").with(change);
    expect(usual.getText("word/document.xml")).toBe(written);
  });
});
