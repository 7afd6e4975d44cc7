export { auditPdf } from "./audit-pdf.js";
export { type Block, writeDocument } from "./write-document.js";
