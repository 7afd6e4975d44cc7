export { layDocument } from "./document/lay-document.js";
export { readImage } from "./image.js";
export type { Box, ImageItem, LineItem, LinkItem, Page, PageItem, RasterImage, TextItem } from "./page.js";
export { type LaidPages, layWorkbook, type PrintFacts } from "./sheet/lay-sheet.js";
