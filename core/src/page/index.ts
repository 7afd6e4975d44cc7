export { readImage } from "./image.js";
export type { LaidPages, OutlineEntry, PageStream, StreamedPages } from "./laid-pages.js";
export {
  type Box,
  boxIn,
  eachItem,
  type FigureItem,
  type FillItem,
  type GroupItem,
  holdsItems,
  type ImageItem,
  inSystem,
  type LineItem,
  type LinkItem,
  type Matrix,
  moveItems,
  type Page,
  type PageItem,
  type PathCommand,
  type PathItem,
  type PlaceItem,
  type RasterImage,
  type Recolor,
  type ShadeItem,
  type ShadeStop,
  type StructureNode,
  type TaggedItem,
  type TextItem,
  type TileItem,
  type TurnedItem,
  untagged,
} from "./page.js";
export { ellipse, rectangle } from "./paths.js";
export { breakOpportunities, shapeWords, widthOf, wrapText } from "./text-lines.js";
