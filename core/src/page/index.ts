export { readImage } from "./image.js";
export type { LaidPages, OutlineEntry, PageStream, StreamedPages } from "./laid-pages.js";
export {
  type Box,
  eachItem,
  type FigureItem,
  type FillItem,
  type GroupItem,
  type ImageItem,
  type LineItem,
  type LinkItem,
  moveItems,
  type Page,
  type PageItem,
  type PathCommand,
  type PathItem,
  type PlaceItem,
  type RasterImage,
  type ShadeItem,
  type StructureNode,
  type TaggedItem,
  type TextItem,
} from "./page.js";
export { breakOpportunities, shapeWords, widthOf, wrapText } from "./text-lines.js";
