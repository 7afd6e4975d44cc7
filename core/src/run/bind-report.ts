/** A report's templates, texts and conditions read once, with every name in them checked. */

import { CorbixError, columnKey, suggestName, textFromBytes } from "../common/index.js";
import { bookmarkTables, DocumentTemplate } from "../document/index.js";
import {
  addedLines,
  compileExpression,
  type Env,
  type Expression,
  isPerLine,
  type LinesColumns,
  namesIn,
  parseExpression,
  type Scope,
} from "../expression/index.js";
import { bindList } from "../list/index.js";
import { type BoundMessage, MessageTemplate } from "../message/index.js";
import type { OoxmlPackage } from "../ooxml/index.js";
import { bodyOf, type FileSpec, type Report } from "../report/index.js";
import { plainDeckTemplate, SlideTemplate } from "../slides/index.js";
import { workbookFromPackage } from "../spreadsheet/index.js";
import { type BoundText, linesNamed, parseTextTemplate, withPlace } from "../template/index.js";
import { say } from "../words/index.js";
import { type FilledWorkbook, PlainWorkbook, placeByName, SheetPerGroup, WorkbookTemplate } from "../workbook/index.js";
import type { BoundFile, Follower } from "./make-file.js";
import { officeKind } from "./office-file.js";
import { unsharedLines } from "./rows/further.js";

/** A control total, with the lines that it adds up where what the groups have adds up to what all have. */
export interface BoundTotal {
  readonly name: string;
  readonly expression: Expression;
  readonly adds: ReadonlySet<string> | undefined;
}

/** A file that is wanted beside the made ones: one among the templates, or what a pattern finds. */
export interface WantedFile {
  readonly kind: "fixed" | "found";
  /** As people read it. */
  readonly name: string;
  /** As it is matched: `*` and `?` are the definition's, and what comes from data is literal. */
  readonly pattern: string;
  /** `group`: without it the group is left out. */
  readonly needed: boolean | "group";
  /** Whether several groups may get the same file. */
  readonly forAll: boolean;
}

/** Names before a dot whose values are the same for every group of a run. */
const ALIKE_FOR_ALL: ReadonlySet<string> = new Set(["period", "run", "groups"]);

export interface BoundEnclosure {
  readonly kind: WantedFile["kind"];
  readonly name: Pick<BoundText, "fill">;
  readonly needed: WantedFile["needed"];
  readonly forAll: boolean;
}

/** What goes to a way out besides mail. */
export interface BoundWay {
  /** Name of the way out. */
  readonly way: string;
  /** Names of files as in attachments; all where there are none. */
  readonly files: readonly string[] | undefined;
  readonly folder: BoundText | undefined;
  readonly fileName: BoundText | undefined;
  readonly when: Expression | undefined;
  readonly over: boolean;
}

/** Reads what a report says against the columns it will meet: each thing once, for all groups. */
export class ReportBinder {
  /** Names of lines that anything of the report looks at. */
  readonly used = new Set<string>();
  readonly totals: readonly BoundTotal[];
  /** Whether a message shows rows of all groups. */
  showsInMessage = false;
  private readonly scope: Scope;
  private readonly further: readonly string[];
  private readonly unshared: LinesColumns;

  constructor(
    private readonly report: Report,
    scope: Scope,
    private readonly templates: ReadonlyMap<string, Uint8Array>,
  ) {
    this.scope = { ...scope, onLines: (name) => this.used.add(name) };
    this.further = Object.keys(scope.further ?? {});
    this.unshared = Object.fromEntries(unsharedLines(report).map((name) => [name, scope.further?.[name] ?? []]));
    this.totals = Object.entries(report.totals).map(([name, source]) => ({
      name,
      expression: withPlace(`totals, ${name}`, () => compileExpression(source, this.scope)),
      adds: addedLines(parseExpression(source), this.further),
    }));
  }

  files(): BoundFile[] {
    return Object.entries(this.report.files).map(([name, spec]) => this.bindFile(name, spec));
  }

  /** Files that go with a message and are not made. */
  enclosures(): BoundEnclosure[] {
    return (this.report.message?.attach ?? []).flatMap((one): BoundEnclosure[] => {
      if (typeof one === "string") return [];
      if ("found" in one) return [this.bindFound(one)];
      getTemplate(one.fixed, this.templates, "message, attach");
      return [{ kind: "fixed", name: { fill: () => one.fixed }, needed: true, forAll: true }];
    });
  }

  /** Where files go besides mail. */
  waysOut(): BoundWay[] {
    return Object.entries(this.report.waysOut).map(([way, { files, folder, name, when, over }]) => ({
      way,
      files,
      over,
      folder: this.maybeName(folder, `waysOut, ${way}, folder`),
      fileName: this.maybeName(name, `waysOut, ${way}, name`),
      when: this.maybeCondition(when, `waysOut, ${way}, when`),
    }));
  }

  private bindFile(name: string, spec: FileSpec): BoundFile {
    const where = `files, ${name}`;
    const named = {
      name,
      spec,
      fileName: this.bindName(spec.name, `${where}, name`),
      folder: spec.folder === undefined ? undefined : this.bindName(spec.folder, `${where}, folder`),
      password: this.maybeName(spec.protect?.password, `${where}, protect, password`),
      sheetPassword: this.maybeName(spec.protect?.sheetPassword, `${where}, protect, sheetPassword`),
      sheets: spec.sheets?.map((sheet) => this.bindName(sheet, `${where}, sheets`)),
      when: this.maybeCondition(spec.when, `${where}, when`),
    };
    if (spec.table) {
      const shown = linesNamed(spec.table.lines, this.scope, `${where}, table, lines`);
      const plain = PlainWorkbook.bind(spec.table, this.scope, `${where}, table`);
      return {
        ...named,
        showing: Object.hasOwn(this.unshared, shown) ? [{ sheet: undefined }] : [],
        template: {
          kind: "xlsx",
          bound: this.perGroup(spec, plain.opened, where, (xml, env) => plain.withWidths(xml, env)) ?? plain,
        },
      };
    }
    if (spec.list) {
      const list = bindList(spec.list, this.scope, `${where}, list`);
      const showing = Object.hasOwn(this.unshared, list.lines) ? [{ sheet: undefined }] : [];
      return { ...named, showing, template: { kind: list.kind, list } };
    }
    if (spec.slides) {
      const at = `${where}, slides`;
      return { ...named, ...this.bindDeck(spec, plainDeckTemplate(spec.slides), at, where) };
    }
    // The schema sees to it that there is one or the other.
    const { template: file = "" } = spec;
    const bytes = getTemplate(file, this.templates, where);
    const kind = officeKind(file);
    if (kind === undefined) {
      throw new CorbixError("BAD_DEFINITION", say().run.cannotFillExpectedTemplateEnding({ file }), { where });
    }
    if (kind === "docx" && (spec.cells || spec.sheetPer))
      throw new CorbixError("BAD_DEFINITION", say().run.cannotUseCellsSheetperDocument(), {
        where,
        advice: say().run.useMarksBookmarksDocument(),
      });
    if (kind === "pptx" && (spec.cells || spec.sheetPer || spec.tables))
      throw new CorbixError("BAD_DEFINITION", say().run.cannotFillDeckByName(), {
        where,
        advice: say().run.useMarksOfDeck(),
      });
    const bound =
      kind === "docx"
        ? this.bindDocument(spec, bytes, file, where)
        : kind === "pptx"
          ? this.bindDeck(spec, bytes, file, where)
          : this.bindWorkbook(spec, bytes, file, where);
    return { ...named, ...bound };
  }

  private bindDeck(
    spec: FileSpec,
    bytes: Uint8Array,
    file: string,
    where: string,
  ): Pick<BoundFile, "template" | "showing"> {
    const template = readTemplate(SlideTemplate, bytes, file, this.further);
    const bound = template.bind(this.scope, this.templates);
    if (spec.grows && !bound.canGrow)
      throw new CorbixError("BAD_DEFINITION", say().slides.noHiddenSlide(), {
        where: `${where}, grows`,
        advice: say().slides.hideTheSlide(),
      });
    let isShowing = template.shows(this.unshared);
    const followers = this.followers(spec, where, (content, name) => {
      const follower = readTemplate(SlideTemplate, content, name, this.further);
      isShowing ||= follower.shows(this.unshared);
      return follower.bind(this.scope, this.templates);
    });
    return { showing: isShowing ? [{ sheet: undefined }] : [], template: { kind: "pptx", bound, followers } };
  }

  /** Templates that follow a file's own, each of its kind. */
  private followers<Bound>(
    spec: FileSpec,
    where: string,
    bind: (content: Uint8Array, name: string) => Bound,
  ): Follower<Bound>[] {
    return (spec.followedBy ?? []).map((one) => {
      const { template: name, when } = typeof one === "string" ? { template: one, when: undefined } : one;
      const at = `${where}, followedBy, ${name}`;
      return { when: this.maybeCondition(when, at), bound: bind(getTemplate(name, this.templates, at), name) };
    });
  }

  private bindDocument(
    spec: FileSpec,
    bytes: Uint8Array,
    file: string,
    where: string,
  ): Pick<BoundFile, "template" | "showing"> {
    const read = (content: Uint8Array, name: string): DocumentTemplate =>
      readTemplate(DocumentTemplate, content, name, this.further);
    const template = spec.tables
      ? DocumentTemplate.read(bytes, file, {
          tables: bookmarkTables(spec.tables, this.scope, `${where}, tables`),
          further: this.further,
        })
      : read(bytes, file);
    let isShowing = template.shows(this.unshared);
    const followers = this.followers(spec, where, (content, name) => {
      const follower = read(content, name);
      isShowing ||= follower.shows(this.unshared);
      return follower.bind(this.scope, this.templates);
    });
    return {
      showing: isShowing ? [{ sheet: undefined }] : [],
      template: { kind: "docx", bound: template.bind(this.scope, this.templates), followers },
    };
  }

  private bindWorkbook(
    spec: FileSpec,
    bytes: Uint8Array,
    file: string,
    where: string,
  ): Pick<BoundFile, "template" | "showing"> {
    const read = readTemplate(WorkbookTemplate, bytes, file, this.further);
    const opened = read.workbook.package;
    const isNamed = spec.cells !== undefined || spec.tables !== undefined;
    const placed = isNamed ? placeByName(opened, spec, this.scope, where) : opened;
    const template = isNamed ? WorkbookTemplate.of(workbookFromPackage(placed), { further: this.further }) : read;
    const perGroup = this.perGroup(spec, placed, where);
    const { sheets } = template.workbook;
    const showing = template.sheetsShowing(this.unshared).map((index) => ({
      // Sheets that are cloned have other names, and stay.
      sheet: index < 0 || perGroup ? undefined : this.bindName(sheets[index].name, `${where}, sheet`),
    }));
    return { showing, template: { kind: "xlsx", bound: perGroup ?? template.bind(this.scope) } };
  }

  /** Where a file has a sheet for each sub-group. */
  private perGroup(
    spec: FileSpec,
    opened: OoxmlPackage,
    where: string,
    finish?: (xml: string, env: Env) => string,
  ): { readonly fill: (env: Env) => FilledWorkbook } | undefined {
    const { sheetPer } = spec;
    if (!sheetPer) return undefined;
    const at = `${where}, sheetPer`;
    const made = withPlace(at, () => new SheetPerGroup(opened, sheetPer, this.scope, this.totals, at));
    return { fill: (env) => made.fill(env, finish) };
  }

  private maybeCondition(source: string | undefined, where: string): Expression | undefined {
    return source === undefined ? undefined : withPlace(where, () => compileExpression(source, this.scope));
  }

  private maybeName(source: string | undefined, where: string): BoundText | undefined {
    return source === undefined ? undefined : this.bindName(source, where);
  }

  private bindName(source: string, where: string): BoundText {
    const template = parseTextTemplate(source, where);
    if (template.fields.some((field) => isPerLine(field.ast, this.further)))
      throw new CorbixError("BAD_MARK", say().run.cannotUseFieldLinesName(), {
        where,
        advice: say().run.useValueGroupSharesFirst(),
      });
    return template.bind(this.scope);
  }

  /** By language; the report's own under a blank. */
  messages(): Map<string, BoundMessage> {
    const { message } = this.report;
    if (!message) return new Map();
    const texts = { "": message, ...message.languages };
    return new Map(Object.entries(texts).map(([language, words]) => [language, this.bindMessage(words, language)]));
  }

  private bindMessage(
    { subject, body, text }: Pick<NonNullable<Report["message"]>, "subject" | "body" | "text">,
    language: string,
  ): BoundMessage {
    const place = language === "" ? "message" : `message, languages, ${language}`;
    const read = (name: string): string => textFromBytes(getTemplate(name, this.templates, `${place}, body`));
    const written = "template" in body ? bodyOf(body.template, read(body.template)) : body;
    const template = MessageTemplate.read(
      { subject, body: written, text: typeof text === "object" ? read(text.template) : text },
      "template" in body ? body.template : place,
      (name) => this.templates.has(name),
    );
    this.showsInMessage ||= template.shows(this.unshared);
    return template.bind(this.scope);
  }

  /** A file looked for by name has to name its group by something of the group, unless it is for all. */
  private bindFound(one: { readonly found: string; readonly needed: boolean | "group"; readonly forAll: boolean }) {
    const where = "message, attach";
    const names = parseTextTemplate(one.found, where).fields.flatMap((field) => namesIn(field.ast));
    const isOwn = names.some(([first, ...rest]) => rest.length === 0 || !ALIKE_FOR_ALL.has(columnKey(first)));
    if (!isOwn && !one.forAll)
      throw new CorbixError("BAD_DEFINITION", say().run.cannotLookNothingNamesGroup({ found: one.found }), {
        where,
        advice: say().run.nameGroupSuchSayAll(),
      });
    return {
      kind: "found" as const,
      name: this.bindName(one.found, where),
      needed: one.needed,
      forAll: one.forAll,
    };
  }
}

interface TemplateReader<T> {
  read(bytes: Uint8Array, where: string, reading: { readonly further: readonly string[] }): T;
}

type AnyTemplate = WorkbookTemplate | DocumentTemplate | SlideTemplate;

const READ = new WeakMap<Uint8Array, Map<string, AnyTemplate>>();

/** A template read once per process for as long as its bytes are held. */
function readTemplate<T extends AnyTemplate>(
  kind: TemplateReader<T>,
  bytes: Uint8Array,
  where: string,
  further: readonly string[],
): T {
  const all = READ.get(bytes) ?? new Map<string, AnyTemplate>();
  READ.set(bytes, all);
  const known = all.get(further.join(" "));
  if (known) return known as T;
  const template = kind.read(bytes, where, { further });
  all.set(further.join(" "), template);
  return template;
}

function getTemplate(name: string, templates: ReadonlyMap<string, Uint8Array>, where: string): Uint8Array {
  const bytes = templates.get(name);
  if (bytes) return bytes;
  throw new CorbixError("BAD_DEFINITION", say().run.cannotFindTemplate({ name }), {
    where,
    advice: suggestName(name, [...templates.keys()], "templates"),
  });
}
