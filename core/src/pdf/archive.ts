/** What a file for keeping needs beside its pages: ISO 19005-2, level B. */
import { escapeXml } from "../ooxml/index.js";

/**
 * Metadata as XMP, saying the same as the document's own properties (6.6): of a file made for keeping, or of one whose
 * structure is told to those who do not see it (ISO 14289-1, 5).
 */
export function metadataOf(
  properties: { readonly title: string; readonly author?: string | undefined },
  kind: "archive" | "accessible",
): string {
  const [schema, claim] =
    kind === "archive"
      ? [
          'xmlns:pdfaid="http://www.aiim.org/pdfa/ns/id/"',
          "<pdfaid:part>2</pdfaid:part><pdfaid:conformance>B</pdfaid:conformance>",
        ]
      : ['xmlns:pdfuaid="http://www.aiim.org/pdfua/ns/id/"', "<pdfuaid:part>1</pdfuaid:part>"];
  const author = properties.author
    ? `<dc:creator><rdf:Seq><rdf:li>${escapeXml(properties.author)}</rdf:li></rdf:Seq></dc:creator>`
    : "";
  return `<?xpacket begin="\u00ef\u00bb\u00bf" id="W5M0MpCehiHzreSzNTczkc9d"?>\n<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#"><rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:pdf="http://ns.adobe.com/pdf/1.3/" ${schema}>${claim}<dc:title><rdf:Alt><rdf:li xml:lang="x-default">${Buffer.from(escapeXml(properties.title), "utf8").toString("latin1")}</rdf:li></rdf:Alt></dc:title>${Buffer.from(author, "utf8").toString("latin1")}<pdf:Producer>Corbix</pdf:Producer></rdf:Description></rdf:RDF></x:xmpmeta>\n<?xpacket end="w"?>`;
}

/** A profile of the colours of IEC 61966-2-1, as ISO 15076-1 lays one out: what red, green and blue mean in the file. */
export function colourProfile(): Uint8Array {
  const tags: [string, Buffer][] = [
    ["desc", description("sRGB colours")],
    ["cprt", text("No rights reserved")],
    ["wtpt", xyz(0.9642, 1, 0.8249)],
    ["rXYZ", xyz(0.43607, 0.22249, 0.01392)],
    ["gXYZ", xyz(0.38515, 0.71687, 0.09708)],
    ["bXYZ", xyz(0.14307, 0.06061, 0.7141)],
    ["rTRC", curve()],
    ["gTRC", curve()],
    ["bTRC", curve()],
  ];
  const table = Buffer.alloc(4 + tags.length * 12);
  table.writeUInt32BE(tags.length, 0);
  let at = 128 + table.length;
  tags.forEach(([name, bytes], index) => {
    table.write(name, 4 + index * 12, "latin1");
    table.writeUInt32BE(at, 8 + index * 12);
    table.writeUInt32BE(bytes.length, 12 + index * 12);
    at += bytes.length;
  });
  const header = Buffer.alloc(128);
  header.writeUInt32BE(at, 0);
  header.writeUInt32BE(0x02100000, 8);
  header.write("mntrRGB XYZ ", 12, "latin1");
  // A day that stands for none: a profile has to have one.
  [2000, 1, 1].forEach((part, index) => {
    header.writeUInt16BE(part, 24 + index * 2);
  });
  header.write("acsp", 36, "latin1");
  xyzNumbers(0.9642, 1, 0.8249).copy(header, 68);
  return Buffer.concat([header, table, ...tags.map(([, bytes]) => bytes)]);
}

function fixed(value: number): Buffer {
  const bytes = Buffer.alloc(4);
  bytes.writeInt32BE(Math.round(value * 65_536));
  return bytes;
}

function xyzNumbers(...values: readonly number[]): Buffer {
  return Buffer.concat(values.map(fixed));
}

function xyz(...values: readonly number[]): Buffer {
  return Buffer.concat([Buffer.from("XYZ \0\0\0\0", "latin1"), xyzNumbers(...values)]);
}

function text(words: string): Buffer {
  return even(Buffer.from(`text\0\0\0\0${words}\0`, "latin1"));
}

function description(words: string): Buffer {
  const head = Buffer.from("desc\0\0\0\0", "latin1");
  const length = Buffer.alloc(4);
  length.writeUInt32BE(words.length + 1);
  return even(Buffer.concat([head, length, Buffer.from(`${words}\0`, "latin1"), Buffer.alloc(78)]));
}

function even(bytes: Buffer): Buffer {
  return Buffer.concat([bytes, Buffer.alloc((4 - (bytes.length % 4)) % 4)]);
}

/** The standard's curve from stored numbers to light, at 1024 places. */
function curve(): Buffer {
  const count = 1024;
  const bytes = Buffer.alloc(12 + count * 2);
  bytes.write("curv", 0, "latin1");
  bytes.writeUInt32BE(count, 8);
  for (let at = 0; at < count; at++) {
    const value = at / (count - 1);
    const light = value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
    bytes.writeUInt16BE(Math.round(light * 65_535), 12 + at * 2);
  }
  return bytes;
}
