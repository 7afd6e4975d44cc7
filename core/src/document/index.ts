export { bookmarkTables } from "./bookmark-tables.js";
export { growDocument, periodsOf } from "./grow-document.js";
export { joinDocuments } from "./join-documents.js";
export { pictureSize } from "./pictures.js";
export { BoundDocument, DocumentTemplate, type FilledDocument, openDocument } from "./template.js";
