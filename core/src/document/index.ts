export { pictureSize } from "./pictures.js";
export { BoundDocument, DocumentTemplate, type FilledDocument, openDocument } from "./template.js";
