export { BoundDocument, DocumentTemplate, type FilledDocument, openDocument } from "./template.js";
