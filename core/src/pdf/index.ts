export { type JoinedPart, type JoinOptions, joinPdfs } from "./join.js";
export type { PdfLock, PdfPermission } from "./protect.js";
export { type PdfProperties, writePdf } from "./write.js";
