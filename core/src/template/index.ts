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
  STRUCTURE,
  type TemplatePlace,
  type TextTemplate,
  withPlace,
} from "./marks.js";
export {
  type BoundStructure,
  bindStructure,
  columnsOf,
  cutStructures,
  lineField,
  linesNamed,
  parseStructure,
  plainColumn,
  repetitions,
  type Structure,
  type TableMarkColumn,
} from "./structure.js";
export { capitalise, parseTableColumns, type TableColumn } from "./table-columns.js";
