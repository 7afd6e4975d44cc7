import { OoxmlPackage } from "@corbix/core/ooxml";

/** Namespaces of the transitional form, and those of the strict one (ECMA-376 part 1 and 4). */
const NAMESPACES: readonly (readonly [string, string])[] = [
  ["http://schemas.openxmlformats.org/presentationml/2006/main", "http://purl.oclc.org/ooxml/presentationml/main"],
  ["http://schemas.openxmlformats.org/drawingml/2006/", "http://purl.oclc.org/ooxml/drawingml/"],
  [
    "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
    "http://purl.oclc.org/ooxml/officeDocument/relationships",
  ],
  [
    "http://schemas.openxmlformats.org/officeDocument/2006/extended-properties",
    "http://purl.oclc.org/ooxml/officeDocument/extendedProperties",
  ],
  [
    "http://schemas.openxmlformats.org/officeDocument/2006/custom-properties",
    "http://purl.oclc.org/ooxml/officeDocument/customProperties",
  ],
];
const SHARES = /<a:(lumMod|lumOff|alpha|tint|shade|satMod|spcPct|buSzPct)\b([^>]*?)\bval="(-?\d+)"/g;

/** The same deck as writers of the strict form have it: other namespaces, shares with a percent sign. */
export function strictDeck(bytes: Uint8Array): Uint8Array {
  const opened = OoxmlPackage.open(bytes, "deck.pptx");
  const parts = opened.names.filter((name) => /\.(?:xml|rels)$/.test(name) && name !== "[Content_Types].xml");
  return opened
    .with(
      new Map(
        parts.map((name) => {
          const text = NAMESPACES.reduce((made, [from, to]) => made.replaceAll(from, to), opened.getText(name)).replace(
            SHARES,
            (_, local: string, before: string, value: string) => `<a:${local}${before}val="${Number(value) / 1000}%"`,
          );
          return [name, text] as const;
        }),
      ),
    )
    .toBytes();
}
