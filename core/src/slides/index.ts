export {
  aboutShape,
  Deck,
  type DeckSlide,
  isTitle,
  openDeck,
  type Placeholder,
  placeholderOf,
  relationOf,
  titleOf,
} from "./deck.js";
export { withoutChartBooks } from "./fill/chart-book.js";
export { DeckEditor, type MadeSlide } from "./fill/deck-editor.js";
export {
  deckPeriods,
  growDeck,
  type PeriodDeck,
  periodSection,
} from "./join/grow-deck.js";
export { joinDecks } from "./join/join-decks.js";
export { frameIn, Placeholders, rootsOf } from "./placeholders.js";
export { type PlainDeckSpec, type PlainSlideSpec, plainDeckTemplate } from "./plain/plain-deck.js";
export { BoundDeck, type FilledDeck, SlideTemplate } from "./template/template.js";
export { compareDecks, type DeckComparison, type ShapeDifference } from "./tools/compare-decks.js";
