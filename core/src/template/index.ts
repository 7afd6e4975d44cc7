export {
  type BoundText,
  bindField,
  cutMarks,
  gatherMarks,
  hasMarks,
  type MarkPiece,
  parseMark,
  type PlacedMark,
  parseTextTemplate,
  type TextTemplate,
  withPlace,
} from "./marks.js";
export { type BoundStructure, bindStructure, cutStructures, type Structure } from "./structure.js";
