export { type DocumentFacts, layDocument } from "./document/lay-document.js";
export { layWorkbook, type PrintFacts, streamWorkbook } from "./sheet/paginate/lay-sheet.js";
export { fitDeck } from "./slides/fit-deck.js";
export { type DeckFacts, layDeck } from "./slides/lay-deck.js";
