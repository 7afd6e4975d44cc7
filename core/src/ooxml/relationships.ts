/** Relationships as parts of a package are written: ISO/IEC 29500-2, 6.5. */

/** What types of relationships between parts of office files begin with, and the namespace of their ids. */
export const OFFICE_RELATIONS = "http://schemas.openxmlformats.org/officeDocument/2006/relationships";

/** A whole part of relationships, made of its elements. */
export function relationshipsXml(elements: readonly { toString(): string }[]): string {
  return `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${elements.join("")}</Relationships>`;
}
