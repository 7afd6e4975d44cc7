export { isCompoundFile, readCompoundFile } from "./compound-file.js";
export { customProperty, withCustomProperty } from "./custom-properties.js";
export { decryptPackage, openedPackage } from "./decrypt.js";
export { encryptPackage, SPIN_COUNT, stretchPassword } from "./encrypt.js";
export { OoxmlPackage, type Relationship, relationshipsName } from "./package.js";
export { OFFICE_RELATIONS, relationshipsXml } from "./relationships.js";
export {
  escapeXml,
  mapElements,
  parseXml,
  unescapeXml,
  type XmlDocument,
  XmlElement,
  type XmlNode,
  type XmlText,
  xmlElement,
  xmlText,
} from "./xml.js";
export { deflateEntry, inflateEntry, readZip, storedEntry, writeZip, type ZipEntry } from "./zip.js";
