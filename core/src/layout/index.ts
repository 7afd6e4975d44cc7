export { type DocumentFacts, layDocument } from "./document/lay-document.js";
export { layWorkbook, type PrintFacts, streamWorkbook } from "./sheet/paginate/lay-sheet.js";
