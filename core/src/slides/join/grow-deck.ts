/** Decks that keep the slides they had and get new ones for each period, made from a hidden slide: once, in order. */
import { CorbixError, type GrowthPlace } from "../../common/index.js";
import { customProperty, type OoxmlPackage, withCustomProperty } from "../../ooxml/index.js";
import { say } from "../../words/index.js";
import { Deck } from "../deck.js";
import { joinDecks } from "./join-decks.js";

/** Periods with the ids of their slides: `2026-09=260,261 2026-10=262`. */
const NAME = "Corbix periods";

interface PeriodSlides {
  readonly period: string;
  readonly ids: readonly number[];
}

function readPeriods(opened: OoxmlPackage): PeriodSlides[] {
  return customProperty(opened, NAME)
    .split(" ")
    .flatMap((one) => {
      const [period, ids = ""] = one.split("=");
      return period === "" ? [] : [{ period, ids: ids.split(",").filter(Boolean).map(Number) }];
    });
}

function withPeriods(opened: OoxmlPackage, periods: readonly PeriodSlides[]): OoxmlPackage {
  return withCustomProperty(opened, NAME, periods.map(({ period, ids }) => `${period}=${ids.join(",")}`).join(" "));
}

/** The periods a deck holds slides for, in order. */
export function deckPeriods(opened: OoxmlPackage): string[] {
  return readPeriods(opened).map(({ period }) => period);
}

/** What filling made for a period: the whole deck, and in it the slides that were made from hidden ones. */
export interface PeriodDeck {
  readonly package: OoxmlPackage;
  readonly grown: readonly number[];
}

/** The period's deck with what it is for written into it, so that it can be put in order with others later. */
export function periodSection({ package: opened, grown }: PeriodDeck, period: string): OoxmlPackage {
  return withPeriods(opened, [{ period, ids: grown }]);
}

/**
 * A deck with a period's slides beside those it has, which stay as they were; without an earlier deck the period's own, its slides
 * where they are to stand. Throws `CONFLICT` where the period has its slides already, or comes before one that has.
 */
export function growDeck(earlier: OoxmlPackage | undefined, section: OoxmlPackage, place: GrowthPlace): OoxmlPackage {
  const [own] = readPeriods(section);
  const { period, ids } = own ?? { period: "", ids: [] };
  const deck = new Deck(section);
  const slides = deck.slides.filter(({ id }) => ids.includes(id));
  const inSection = deck.sections.find((one) => one.slides.some((id) => ids.includes(id)))?.name;
  if (!earlier) {
    if (slides.length === 0 || place === "section") return section;
    // The period's own slides stand where further ones will.
    const rest = deck.slides.filter(({ id }) => !ids.includes(id));
    const order = place === "start" ? [...slides, ...rest] : [...rest, ...slides];
    return reordered(
      section,
      deck,
      order.map(({ id }) => id),
    );
  }
  const periods = readPeriods(earlier);
  const last = periods[periods.length - 1]?.period;
  if (last !== undefined && last >= period)
    throw new CorbixError("CONFLICT", say().slides.cannotAddPeriod({ period, last }), {
      where: earlier.where,
      advice: say().document.runPeriodsOrderPeriodMade(),
    });
  const into = new Deck(earlier);
  const { package: joined, ids: added } = joinDecks(earlier, section, slides, {
    at: placeIn(into, place, inSection, periods),
    section: place === "section" ? inSection : undefined,
  });
  return withPeriods(joined, [...periods, { period, ids: added }]);
}

function placeIn(
  deck: Deck,
  place: GrowthPlace,
  section: string | undefined,
  periods: readonly PeriodSlides[],
): number {
  if (place === "start") return 0;
  if (place === "end") return deck.slides.length;
  const ids = deck.sections.find(({ name }) => name === section)?.slides;
  // Without sections they stand behind those of the period before.
  const known = ids ?? periods[periods.length - 1]?.ids ?? [];
  const at = deck.slides.reduce((most, { id }, index) => (known.includes(id) ? index + 1 : most), 0);
  return at === 0 ? deck.slides.length : at;
}

/** The deck with its slides in another order, those of each section in theirs. */
function reordered(opened: OoxmlPackage, deck: Deck, ids: readonly number[]): OoxmlPackage {
  const { presentation } = deck;
  const order = (list: typeof presentation): typeof presentation => {
    const at = (one: typeof presentation): number => ids.indexOf(Number(one.attr("id")));
    return list.withChildren([...list.elements("sldId")].sort((a, b) => at(a) - at(b)));
  };
  const change = (element: typeof presentation): typeof presentation =>
    element.local === "sldIdLst"
      ? order(element)
      : element.withChildren(element.children.map((child) => (child.kind === "element" ? change(child) : child)));
  const text = opened.getText(opened.main);
  return opened.with(
    new Map([[opened.main, text.slice(0, text.indexOf(presentation.open)) + change(presentation).toString()]]),
  );
}
