export { bookmarkTables } from "./fill/bookmark-tables.js";
export { growDocument, periodsOf } from "./join/grow-document.js";
export { joinDocuments } from "./join/join-documents.js";
export {
  BoundDocument,
  DocumentTemplate,
  documentPlaces,
  type FilledDocument,
  openDocument,
} from "./template/template.js";
