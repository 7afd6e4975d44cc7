export { layDocument } from "./document/lay-document.js";
export { readImage } from "./image.js";
export { type Box, type ImageItem, type LineItem, type LinkItem, type Page, type PageItem, type RasterImage, type TextItem } from "./page.js";
export { type LaidPages, layWorkbook, type PrintFacts } from "./sheet/lay-sheet.js";
