/** One file of a group: filled, with values only where that is asked for, protected, and as pages. */

import { CorbixError, type Finding, isoFromSerial } from "../common/index.js";
import type { BoundDocument } from "../document/index.js";
import type { Env, Expression } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import { type BoundList, LIST_KINDS, type ListKind } from "../list/index.js";
import { encryptPackage, type OoxmlPackage } from "../ooxml/index.js";
import type { LaidPages, StreamedPages } from "../page/index.js";
import { writePdf } from "../pdf/index.js";
import type { FileSpec } from "../report/index.js";
import type { BoundDeck } from "../slides/index.js";
import type { BoundText } from "../template/index.js";
import { say } from "../words/index.js";
import { type FilledWorkbook, protectSheets, valuesOnly, withStoredValues } from "../workbook/index.js";
import { type Filled, type GrowthFacts, growingDeck, growingDocument, grown } from "./growing.js";
import { layOffice, OFFICE_KINDS } from "./office-file.js";

/** Kinds of made files, by their endings. */
export const FILE_KINDS = [...OFFICE_KINDS, "pdf", ...LIST_KINDS] as const;
export type FileKind = (typeof FILE_KINDS)[number];

/** One output of a file of the report. */
export interface MadeFile {
  /** Name of the file in the report. */
  readonly file: string;
  readonly kind: FileKind;
  readonly bytes: Uint8Array;
  readonly pages?: number;
  /** Of a file that grows: the section of each period that is new in it, to be put in order with others later. */
  readonly sections?: readonly { readonly period: string; readonly bytes: Uint8Array }[];
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
    | { readonly kind: "pptx"; readonly bound: BoundDeck; readonly followers: readonly Follower<BoundDeck>[] }
    | { readonly kind: ListKind; readonly list: BoundList };
}

/** A document or deck put behind another where its condition is true. */
export interface Follower<Bound> {
  readonly when: Expression | undefined;
  readonly bound: Bound;
}

interface Making extends GrowthFacts {
  readonly fonts: FontLibrary;
  readonly title: string;
  readonly locale: string;
}

/** What was made, and what of it can be searched for names: a package, or a text. */
export interface MadeOne extends MadeFiles {
  readonly source: OoxmlPackage | string;
}

export function makeOne(file: BoundFile, env: Env, about: Making): MadeOne {
  const { template } = file;
  if ("list" in template) {
    const { bytes, text, findings } = template.list.write(env);
    return { files: [{ file: file.name, kind: template.kind, bytes }], findings, source: text };
  }
  return makeOffice({ ...file, template }, env, about);
}

/** A file made from a template, or as one. */
type OfficeFile = BoundFile & { readonly template: Exclude<BoundFile["template"], { list: BoundList }> };

function makeOffice(file: OfficeFile, env: Env, about: Making): MadeOne {
  const { pdf } = file.spec;
  const { kind } = file.template;
  const raw = fillFile(file, env, about);
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
            ...(raw.sections
              ? { sections: raw.sections.map(({ period, section }) => ({ period, bytes: section.toBytes() })) }
              : {}),
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

function fillFile(file: OfficeFile, env: Env, about: Making): Filled {
  const { template } = file;
  if (template.kind === "xlsx") return template.bound.fill(env);
  const growing = template.kind === "docx" ? growingDocument(template) : growingDeck(file, template, about.fonts);
  return file.spec.grows ? grown(file, env, about, growing) : growing.fill(env);
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

function protectedBytes(file: OfficeFile, source: OoxmlPackage, env: Env, password: string | undefined): Uint8Array {
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
