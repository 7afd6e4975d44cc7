export { type DocumentFacts, layDocument } from "./document/lay-document.js";
export { readImage } from "./image.js";
export {
  type Box,
  eachItem,
  type FillItem,
  type GroupItem,
  type ImageItem,
  type LineItem,
  type LinkItem,
  type Page,
  type PageItem,
  type PathCommand,
  type PathItem,
  type RasterImage,
  type ShadeItem,
  type StructureNode,
  type TaggedItem,
  type TextItem,
} from "./page.js";
export {
  type LaidPages,
  layWorkbook,
  type OutlineEntry,
  type PageStream,
  type PrintFacts,
  type StreamedPages,
  streamWorkbook,
} from "./sheet/lay-sheet.js";
export { breakOpportunities } from "./text-lines.js";
