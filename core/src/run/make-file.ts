/** One file of a group: filled, with values only where that is asked for, protected, and as pages. */

import { periodLabel, previousPeriod } from "../calendar/index.js";
import { CorbixError, type Finding, type GrowthPlace, isoFromSerial } from "../common/index.js";
import {
  type BoundDocument,
  type FilledDocument,
  growDocument,
  joinDocuments,
  openDocument,
  periodsOf,
} from "../document/index.js";
import type { Env, Expression } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { fitDeck } from "../layout/index.js";
import { encryptPackage, type OoxmlPackage } from "../ooxml/index.js";
import type { LaidPages, StreamedPages } from "../page/index.js";
import { writePdf } from "../pdf/index.js";
import type { FileSpec } from "../report/index.js";
import {
  type BoundDeck,
  Deck,
  deckPeriods,
  type FilledDeck,
  growDeck,
  joinDecks,
  openDeck,
  periodSection,
  withoutChartBooks,
} from "../slides/index.js";
import type { BoundText } from "../template/index.js";
import { say } from "../words/index.js";
import { type FilledWorkbook, protectSheets, valuesOnly, withStoredValues } from "../workbook/index.js";
import { layOffice, type OfficeKind } from "./office-file.js";
import type { RunFacts } from "./scope.js";

export type FileKind = OfficeKind | "pdf";

/** One output of a file of the report. */
export interface MadeFile {
  /** Name of the file in the report. */
  readonly file: string;
  readonly kind: FileKind;
  readonly bytes: Uint8Array;
  readonly pages?: number;
  /** Of a document that grows: this period's section alone, to be put in order with others later. */
  readonly section?: Uint8Array;
}

export interface MadeFiles {
  readonly files: readonly MadeFile[];
  readonly findings: readonly Finding[];
}

export interface BoundFile {
  readonly name: string;
  readonly spec: FileSpec;
  readonly fileName: BoundText;
  readonly folder: BoundText | undefined;
  readonly when: Expression | undefined;
  readonly password: BoundText | undefined;
  readonly sheetPassword: BoundText | undefined;
  /** The sheets that stay, where not all do. */
  readonly sheets: readonly BoundText[] | undefined;
  /** Where rows of all groups stand: in sheets by their names, or in what cannot be taken out. */
  readonly showing: readonly { readonly sheet: BoundText | undefined }[];
  readonly template:
    | { readonly kind: "xlsx"; readonly bound: { readonly fill: (env: Env) => FilledWorkbook } }
    | { readonly kind: "docx"; readonly bound: BoundDocument; readonly followers: readonly Follower<BoundDocument>[] }
    | { readonly kind: "pptx"; readonly bound: BoundDeck; readonly followers: readonly Follower<BoundDeck>[] };
}

/** A document or deck put behind another where its condition is true. */
export interface Follower<Bound> {
  readonly when: Expression | undefined;
  readonly bound: Bound;
}

/** What a document that grows goes on from: what the group was delivered for earlier periods, in whatever order that was. */
export interface EarlierPeriods {
  /** Delivered periods before this one, in their own order, each with its own section where that was kept. */
  readonly periods: readonly { readonly period: string; readonly section: (() => Uint8Array) | undefined }[];
  /** The newest whole document that was delivered. */
  readonly whole: () => Uint8Array;
}

export type EarlierDocument = (file: string) => EarlierPeriods | undefined;

export function makeOne(
  file: BoundFile,
  env: Env,
  about: {
    readonly fonts: FontLibrary;
    readonly facts: RunFacts;
    readonly title: string;
    readonly locale: string;
    readonly earlier: EarlierDocument | undefined;
  },
): MadeFiles & { readonly source: OoxmlPackage } {
  const { pdf } = file.spec;
  const { kind } = file.template;
  const raw: FilledWorkbook & { readonly section?: OoxmlPackage } =
    file.template.kind === "docx"
      ? fillDocument(file, file.template, env, about.facts, about.earlier)
      : file.template.kind === "pptx"
        ? fillDeckFile(file, file.template, env, about)
        : file.template.bound.fill(env);
  const filled = file.spec.values && kind === "xlsx" ? withValuesOnly(file, raw, env) : raw;
  const source = filled.package;
  const password = secretOf(file.password, env, "password");
  const files: MadeFile[] =
    pdf === "only"
      ? []
      : [
          {
            file: file.name,
            kind,
            bytes: protectedBytes(file, source, env, password),
            ...(raw.section ? { section: raw.section.toBytes() } : {}),
          },
        ];
  if (pdf === "no") return { files, findings: filled.findings, source };
  const printed = isoFromSerial(about.facts.date);
  const laid: LaidPages | StreamedPages = layOffice(kind, filled.package, about.fonts, {
    file: `${about.title}.xlsx`,
    date: printed,
    time: about.facts.time ?? "00:00",
    today: about.facts.date,
    locale: about.locale,
    pages: file.spec.pages,
    withHidden: file.spec.hiddenSlides,
  });
  const permissions = file.spec.protect?.allow;
  const bytes = writePdf(laid.pages, {
    title: about.title,
    language: about.locale,
    outline: laid.outline,
    structure: laid.structure,
    archive: file.spec.archive,
    ...(password !== undefined || permissions ? { lock: { password: password ?? "", permissions } } : {}),
  });
  files.push({ file: file.name, kind: "pdf", bytes, pages: laid.pages.length });
  return { files, findings: [...filled.findings, ...laid.findings], source };
}

function withValuesOnly(file: BoundFile, raw: FilledWorkbook, env: Env): FilledWorkbook {
  const stored = withStoredValues(raw.package, env.today);
  const keep = file.sheets?.map((sheet) => sheet.fill(env));
  return { package: valuesOnly(stored.package, keep), findings: [...raw.findings, ...stored.findings] };
}

/** A document with those that follow it, behind what it held in earlier periods if it grows. */
function fillDocument(
  file: BoundFile,
  template: BoundFile["template"] & { readonly kind: "docx" },
  env: Env,
  facts: RunFacts,
  earlier: EarlierDocument | undefined,
): FilledDocument & { readonly section?: OoxmlPackage } {
  const filled = template.bound.fill(env);
  let whole = filled.package;
  for (const { when, bound } of template.followers)
    if (!when || when.evaluate(env) === true) whole = joinDocuments(whole, bound.fill(env).package);
  if (!file.spec.grows) return { ...filled, package: whole };
  const period = facts.period?.key ?? isoFromSerial(facts.date);
  return { ...filled, ...grown(file, whole, { period, facts, earlier, findings: filled.findings }, DOCUMENTS) };
}

/** A deck with those that follow it, its text and tables made to fit, beside the slides of earlier periods if it grows. */
function fillDeckFile(
  file: BoundFile,
  template: BoundFile["template"] & { readonly kind: "pptx" },
  env: Env,
  about: Pick<Parameters<typeof makeOne>[2], "fonts" | "facts" | "earlier">,
): Omit<FilledDeck, "heads"> & { readonly section?: OoxmlPackage } {
  const { bound } = template;
  const { fonts, facts, earlier } = about;
  const { grows } = file.spec;
  const filled = grows ? bound.fillPeriod(env) : { ...bound.fill(env), grown: [] };
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
  if (file.spec.values) whole = withoutChartBooks(whole);
  if (!grows) return { package: whole, findings };
  const period = facts.period?.key ?? isoFromSerial(facts.date);
  // Slides on which a table goes on belong to the period too.
  const ids = filled.grown.flatMap((id) => [id, ...(fitted.added.get(id) ?? [])]);
  const section = periodSection({ package: whole, grown: ids }, period);
  const place: GrowthPlace = grows === true ? "end" : grows;
  return grown(file, section, { period, facts, earlier, findings }, decks(place));
}

/** How a kind of file grows. */
interface Growing {
  readonly open: (bytes: Uint8Array, where: string) => OoxmlPackage;
  readonly periods: (opened: OoxmlPackage) => readonly string[];
  readonly grow: (earlier: OoxmlPackage | undefined, section: OoxmlPackage, period: string) => OoxmlPackage;
}

const DOCUMENTS: Growing = { open: openDocument, periods: periodsOf, grow: growDocument };

const decks = (place: GrowthPlace): Growing => ({
  open: openDeck,
  periods: deckPeriods,
  grow: (earlier, section) => growDeck(earlier, section, place),
});

/** A period's section beside what was delivered of earlier ones. */
function grown(
  file: BoundFile,
  section: OoxmlPackage,
  about: {
    readonly period: string;
    readonly facts: RunFacts;
    readonly earlier: EarlierDocument | undefined;
    readonly findings: readonly Finding[];
  },
  growing: Growing,
): { package: OoxmlPackage; section: OoxmlPackage; findings: Finding[] } {
  const { period, facts, earlier, findings } = about;
  const before = earlier?.(file.name);
  const where = say().run.earlierPeriod({ name: file.name });
  return {
    package: growing.grow(before && earlierPackage(before, where, growing), section, period),
    section,
    findings: [...findings, ...gapFindings(before, period, facts, file.name)],
  };
}

/** What was delivered of earlier periods as one file, in the order of the periods. */
function earlierPackage({ periods, whole }: EarlierPeriods, where: string, growing: Growing): OoxmlPackage {
  const newest = growing.open(whole(), where);
  const wanted = periods.map((one) => one.period).join(" ");
  // Delivered in order, the newest file is it. Where a section was not kept, as in older records, it has to do.
  if (growing.periods(newest).join(" ") === wanted) return newest;
  const sections = periods.flatMap(({ period, section }) => (section ? [{ period, section }] : []));
  if (sections.length < periods.length) return newest;
  return (
    sections.reduce<OoxmlPackage | undefined>(
      (file, { period, section }) => growing.grow(file, growing.open(section(), where), period),
      undefined,
    ) ?? newest
  );
}

/** Periods named in a finding. */
const GAPS_NAMED = 6;

/** Periods between the first that a document holds and its newest that were not delivered, so are not in it. */
function gapFindings(before: EarlierPeriods | undefined, key: string, facts: RunFacts, file: string): Finding[] {
  if (!before || !facts.period) return [];
  const there = new Set(before.periods.map((one) => one.period));
  const missing: string[] = [];
  for (let one = previousPeriod(facts.period.from, facts.period.kind); ; ) {
    if (one.key < (before.periods[0]?.period ?? key)) break;
    if (!there.has(one.key)) missing.unshift(periodLabel(one, facts.locale));
    one = previousPeriod(one.from, one.kind);
  }
  if (missing.length === 0) return [];
  const named = missing.slice(0, GAPS_NAMED).join(", ");
  return [
    {
      code: "period-missing-in-document",
      severity: "warn",
      where: say().place.file({ name: file }),
      what: say().run.documentGoesWithoutDeliveredGroup({
        named,
        missingCount: missing.length,
        gapsNamed: GAPS_NAMED,
        missingCount2: missing.length - GAPS_NAMED,
      }),
      advice: say().run.deliverMissingFirstLetGo(),
    },
  ];
}

/** A password as it is for this group. A blank one would let the file leave open. */
function secretOf(text: BoundText | undefined, env: Env, what: string): string | undefined {
  const secret = text?.fill(env);
  if (secret === undefined || secret.trim() !== "") return secret;
  throw new CorbixError("BAD_DEFINITION", say().run.cannotProtectFileBlank({ what }), {
    where: say().run.protect({ what }),
    advice: say().run.fillGroupDataRecipientList(),
  });
}

function protectedBytes(file: BoundFile, source: OoxmlPackage, env: Env, password: string | undefined): Uint8Array {
  const { protect } = file.spec;
  if (!protect) return source.toBytes();
  const { sheets, readOnly } = protect;
  const locked =
    file.template.kind === "xlsx"
      ? protectSheets(source, { sheets, readOnly, password: secretOf(file.sheetPassword, env, "sheetPassword") })
      : source;
  const bytes = locked.toBytes();
  return password === undefined ? bytes : encryptPackage(bytes, password);
}
