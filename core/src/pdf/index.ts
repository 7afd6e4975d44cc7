export { type PdfProperties, writePdf } from "./write.js";
