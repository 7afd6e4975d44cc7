/** Words by which a definition says what becomes of a slide deck. */

/** What is put on a page: a slide, a slide with its notes, or so many slides. */
export const DECK_PAGES = ["slide", "notes", "two", "four", "six"] as const;
export type DeckPages = (typeof DECK_PAGES)[number];

/** Where a period's slides are put in a deck that grows: behind all, before all, or behind the section that the hidden slide stands in. */
export const GROWTH_PLACES = ["end", "start", "section"] as const;
export type GrowthPlace = (typeof GROWTH_PLACES)[number];

/** Kinds of charts in a deck that is made without a template. */
export const CHART_KINDS = ["upright", "lying", "line", "area", "pie"] as const;
export type ChartKind = (typeof CHART_KINDS)[number];
