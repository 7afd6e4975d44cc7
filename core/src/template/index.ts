export {
  type BoundText,
  bindField,
  cutMarks,
  gatherMarks,
  hasMarks,
  type MarkPiece,
  type PlacedMark,
  parseMark,
  parseTextTemplate,
  type TextTemplate,
  withPlace,
} from "./marks.js";
export { type BoundStructure, bindStructure, cutStructures, type Structure } from "./structure.js";
