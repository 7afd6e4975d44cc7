/** Files that grow: filled for a period, and put together with what was delivered of earlier ones. */

import { periodLabel } from "../calendar/index.js";
import { type Finding, type GrowthPlace, isoFromSerial, made } from "../common/index.js";
import { type FilledDocument, growDocument, joinDocuments, openDocument, periodsOf } from "../document/index.js";
import type { Env } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { fitDeck } from "../layout/index.js";
import type { OoxmlPackage } from "../ooxml/index.js";
import {
  Deck,
  deckPeriods,
  type FilledDeck,
  growDeck,
  joinDecks,
  openDeck,
  periodSection,
  withoutChartBooks,
} from "../slides/index.js";
import { say } from "../words/index.js";
import type { FilledWorkbook } from "../workbook/index.js";
import type { BoundFile } from "./make-file.js";
import { missedPeriods } from "./rows/missed-periods.js";
import type { RunFacts } from "./scope.js";

/** A period that a run makes up for, as a group sees it. */
export interface CaughtEnv {
  readonly facts: RunFacts;
  readonly env: Env;
}

/** Periods that a run makes up for in files that grow. */
export interface CaughtUp {
  /** Those of which the group has rows. */
  readonly periods: readonly CaughtEnv[];
  /** Keys of those of which anybody has rows: where the group has none of them, nothing is missing. */
  readonly known: ReadonlySet<string>;
}

/** What a document that grows goes on from: what the group was delivered for earlier periods, in whatever order that was. */
export interface EarlierPeriods {
  /** Delivered periods before this one, in their own order, each with its own section where that was kept. */
  readonly periods: readonly { readonly period: string; readonly section: (() => Uint8Array) | undefined }[];
  /** The newest whole document that was delivered. */
  readonly whole: () => Uint8Array;
}

export type EarlierDocument = (file: string) => EarlierPeriods | undefined;

export interface GrowthFacts {
  readonly facts: RunFacts;
  readonly earlier: EarlierDocument | undefined;
  readonly caughtUp: CaughtUp | undefined;
}

/** What one period put into a file that grows. */
export interface Section {
  readonly period: string;
  readonly section: OoxmlPackage;
}

export type Filled = FilledWorkbook & { readonly sections?: readonly Section[] };

/** How a kind of file is filled, and grows. */
export interface Growing {
  readonly fill: (env: Env) => FilledWorkbook;
  /** What one period puts into it. */
  readonly section: (env: Env, period: string) => FilledWorkbook;
  readonly open: (bytes: Uint8Array, where: string) => OoxmlPackage;
  readonly periods: (opened: OoxmlPackage) => readonly string[];
  readonly grow: (earlier: OoxmlPackage | undefined, section: OoxmlPackage, period: string) => OoxmlPackage;
}

/** A document with those that follow it. */
export function growingDocument({ bound, followers }: BoundFile["template"] & { readonly kind: "docx" }): Growing {
  const fill = (env: Env): FilledDocument => {
    const filled = bound.fill(env);
    let whole = filled.package;
    for (const follower of followers)
      if (!follower.when || follower.when.evaluate(env) === true)
        whole = joinDocuments(whole, follower.bound.fill(env).package);
    return { ...filled, package: whole };
  };
  return { fill, section: fill, open: openDocument, periods: periodsOf, grow: growDocument };
}

/** A deck with those that follow it, its text and tables made to fit. */
export function growingDeck(
  { spec }: BoundFile,
  template: BoundFile["template"] & { readonly kind: "pptx" },
  fonts: FontLibrary,
): Growing {
  const { bound } = template;
  const finish = (env: Env, filled: FilledDeck) => {
    const fitted = fitDeck(filled.package, fonts, { before: bound.opened, heads: filled.heads });
    const findings = [...filled.findings];
    let whole = fitted.package;
    for (const follower of template.followers) {
      if (follower.when && follower.when.evaluate(env) !== true) continue;
      const own = follower.bound.fill(env);
      const fits = fitDeck(own.package, fonts, { before: follower.bound.opened, heads: own.heads });
      findings.push(...own.findings);
      const { slides } = new Deck(fits.package);
      whole = joinDecks(whole, fits.package, slides, { at: new Deck(whole).slides.length }).package;
    }
    return { package: spec.values ? withoutChartBooks(whole) : whole, findings, added: fitted.added };
  };
  const place: GrowthPlace = typeof spec.grows === "string" ? spec.grows : "end";
  return {
    fill: (env) => finish(env, bound.fill(env)),
    section: (env, period) => {
      const filled = bound.fillPeriod(env);
      const { package: whole, findings, added } = finish(env, filled);
      // Slides on which a table goes on belong to the period too.
      const ids = filled.grown.flatMap((id) => [id, ...(added.get(id) ?? [])]);
      return { package: periodSection({ package: whole, grown: ids }, period), findings };
    },
    open: openDeck,
    periods: deckPeriods,
    grow: (earlier, section) => growDeck(earlier, section, place),
  };
}

/** The run's period, and those it makes up for, beside what was delivered of earlier ones. */
export function grown(file: BoundFile, env: Env, { facts, earlier, caughtUp }: GrowthFacts, growing: Growing): Filled {
  const before = earlier?.(file.name);
  const { onBlank, onNote } = env;
  const told = { ...(onBlank ? { onBlank } : {}), ...(onNote ? { onNote } : {}) };
  const held = before?.periods.map((one) => one.period) ?? [];
  const { period, calendar } = facts;
  const missed = period && before ? missedPeriods(held, { period, ...(calendar ? { calendar } : {}) }) : [];
  const caught = (caughtUp?.periods ?? []).filter((one) => missed.some(({ key }) => key === one.facts.period?.key));
  const findings: Finding[] = [];
  const fill = (facts: RunFacts, env: Env): Section => {
    const period = facts.period?.key ?? isoFromSerial(facts.date);
    const filled = growing.section(env, period);
    findings.push(...filled.findings);
    return { period, section: filled.package };
  };
  const own = fill(facts, env);
  const others = caught.map((one) => fill(one.facts, { ...one.env, ...told }));
  const where = say().run.earlierPeriod({ name: file.name });
  const { whole, sections } = putTogether(before, others, own, growing, where);
  const there = new Set(sections.map(({ period }) => period));
  const without = missed.filter(
    ({ key }) => !there.has(key) && (caught.some((one) => one.facts.period?.key === key) || !caughtUp?.known.has(key)),
  );
  const gaps = gapFindings(
    without.map((one) => periodLabel(one, facts.locale)),
    file.name,
  );
  return { package: whole, sections, findings: [...findings, ...gaps] };
}

/** A file with the new sections among what was delivered, in the order of the periods, and the sections that have a place in it. */
function putTogether(
  before: EarlierPeriods | undefined,
  others: readonly Section[],
  own: Section,
  growing: Growing,
  where: string,
): { readonly whole: OoxmlPackage; readonly sections: readonly Section[] } {
  const grow = (file: OoxmlPackage | undefined, sections: readonly Section[]): OoxmlPackage | undefined =>
    sections.reduce<OoxmlPackage | undefined>((one, { section, period }) => growing.grow(one, section, period), file);
  const newest = before && growing.open(before.whole(), where);
  const held = before?.periods.map((one) => one.period) ?? [];
  const last = held.at(-1) ?? "";
  const added = [...others, own];
  const behind = [...others.filter(({ period }) => period > last), own];
  const isInOrder = newest === undefined || growing.periods(newest).join(" ") === held.join(" ");
  // Where a section was not kept, as in older records, the newest file has to do, and what is missing in it stays so.
  const isKept = before?.periods.every(({ section }) => section !== undefined) ?? false;
  if (before && isKept && !(isInOrder && behind.length === added.length)) {
    const kept = before.periods.flatMap(({ period, section }) =>
      section ? [{ period, section: growing.open(section(), where) }] : [],
    );
    const all = [...kept, ...added].sort((a, b) => (a.period < b.period ? -1 : 1));
    return { whole: made(grow(undefined, all), "the sections of a file"), sections: added };
  }
  return { whole: made(grow(newest, behind), "the section of the run's period"), sections: behind };
}

/** Periods named in a finding. */
const GAPS_NAMED = 6;

/** Periods between the first that a file holds and its newest that are not in it. */
function gapFindings(missing: readonly string[], file: string): Finding[] {
  if (missing.length === 0) return [];
  return [
    {
      code: "period-missing-in-document",
      severity: "warn",
      where: say().place.file({ name: file }),
      what: say().run.documentGoesWithoutDeliveredGroup({
        named: missing.slice(0, GAPS_NAMED).join(", "),
        missingCount: missing.length,
        gapsNamed: GAPS_NAMED,
        missingCount2: missing.length - GAPS_NAMED,
      }),
      advice: say().run.deliverMissingFirstLetGo(),
    },
  ];
}
