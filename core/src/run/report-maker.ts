import { CorbixError, columnKey, type Finding, suggestName, textFromBytes } from "../common/index.js";
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
import type { FontLibrary } from "../fonts/index.js";
import {
  type BoundMessage,
  type ComposedMessage,
  type MessagePart,
  MessageTemplate,
  messageParts,
} from "../message/index.js";
import { literalInPattern } from "../naming/index.js";
import type { OoxmlPackage } from "../ooxml/index.js";
import type { Recipient } from "../recipients/index.js";
import { bodyOf, type FileSpec, type Report } from "../report/index.js";
import { workbookFromPackage } from "../spreadsheet/index.js";
import { type BoundText, linesNamed, parseTextTemplate, withPlace } from "../template/index.js";
import { type FilledWorkbook, PlainWorkbook, placeByName, SheetPerGroup, WorkbookTemplate } from "../workbook/index.js";
import {
  type BoundFile,
  type EarlierDocument,
  type FileKind,
  type Follower,
  type MadeFile,
  type MadeFiles,
  makeOne,
} from "./make-file.js";
import { Blanks, groupWords } from "./marks/blanks.js";
import { unsharedLines } from "./rows/further.js";
import { leftFindings, travels } from "./rows/travelling-rows.js";
import type { RunFacts } from "./scope.js";
import { leakFindings, type Seal } from "./seal.js";

/** The names of all groups, and the one whose files are made. */
export interface OwnSeal {
  readonly seal: Seal;
  readonly own: string;
}

/** A report with its templates read and every name in it checked: made once, then used for all its groups. */
export class ReportMaker {
  readonly files: readonly BoundFile[];
  /** With the lines that each adds up, where what the groups have adds up to what all have. */
  readonly totals: readonly {
    readonly name: string;
    readonly expression: Expression;
    readonly adds: ReadonlySet<string> | undefined;
  }[];
  /** Folded names of lines beside the group's own, and of those among them that are everybody's. */
  private readonly further: readonly string[];
  private readonly scope: Scope;
  private readonly used = new Set<string>();
  private readonly unshared: LinesColumns;
  private readonly enclosures: readonly BoundEnclosure[];
  private showsInMessage = false;
  /** By language; the report's own under a blank. */
  readonly messages: ReadonlyMap<string, BoundMessage>;

  /** Throws `BAD_DEFINITION`, `BAD_EXPRESSION`, `BAD_MARK` or what is wrong with a template, with the place. */
  constructor(
    readonly report: Report,
    scope: Scope,
    templates: ReadonlyMap<string, Uint8Array>,
  ) {
    this.scope = { ...scope, onLines: (name) => this.used.add(name) };
    this.further = Object.keys(scope.further ?? {});
    this.unshared = Object.fromEntries(unsharedLines(report).map((name) => [name, scope.further?.[name] ?? []]));
    this.totals = Object.entries(report.totals).map(([name, source]) => ({
      name,
      expression: withPlace(`totals, ${name}`, () => compileExpression(source, this.scope)),
      adds: addedLines(parseExpression(source), this.further),
    }));
    this.files = Object.entries(report.files).map(([name, spec]) => this.bindFile(name, spec, templates));
    this.messages = this.bindMessages(templates);
    this.enclosures = (report.message?.attach ?? []).flatMap((one): BoundEnclosure[] => {
      if (typeof one === "string") return [];
      if ("found" in one) return [this.bindFound(one)];
      getTemplate(one.fixed, templates, "message, attach");
      return [{ kind: "fixed", name: { fill: () => one.fixed }, needed: true, forAll: true }];
    });
  }

  /** Whether anything of the report looks at lines of this name. */
  uses(lines: string): boolean {
    return this.used.has(lines);
  }

  /** Files and messages that would carry rows of other groups, by what is known before they are made. */
  travelFindings(): Finding[] {
    const { message } = this.report;
    const inFiles = this.files.flatMap(({ name, showing, spec, sheets }) =>
      showing.length > 0 && !(spec.values && sheets && showing.every((one) => one.sheet)) ? [name] : [],
    );
    return [
      ...inFiles.map((name) =>
        travels(
          `file ${name}`,
          "It is filled with rows of all groups, and would leave with them.",
          "Let it leave with values only and without the sheet that holds them: values: true, and under sheets those that stay. Or give the lines a match.",
        ),
      ),
      ...(message && this.showsInMessage
        ? [travels("message", "It shows rows of all groups.", "Show sums over them only, or give the lines a match.")]
        : []),
    ];
  }

  /** The outputs a file has, the one that is kept as it is first. */
  outputs(name: string): FileKind[] {
    const file = this.files.find((candidate) => candidate.name === name);
    if (!file) return [];
    if (file.spec.pdf === "only") return ["pdf"];
    return file.spec.pdf === "too" ? [file.template.kind, "pdf"] : [file.template.kind];
  }

  /** Makes the chosen files of one group. */
  make(
    env: Env,
    names: readonly string[],
    fonts: FontLibrary,
    facts: RunFacts,
    seal?: OwnSeal,
    earlier?: EarlierDocument,
  ): MadeFiles {
    const files: MadeFile[] = [];
    const findings: Finding[] = [];
    const blanks = new Blanks();
    const telling: Env = {
      ...env,
      onBlank: (where, source) => blanks.add(where, source),
      onNote: (finding) => findings.push(finding),
    };
    for (const file of this.files) {
      if (!names.includes(file.name)) continue;
      const title = file.fileName.fill(env);
      const made = withPlace(`${groupWords(env)}, file ${file.name}`, () =>
        makeOne(file, telling, { fonts, facts, title, locale: this.report.locale, earlier }),
      );
      findings.push(...leftFindings(file, env, made.source));
      files.push(...made.files);
      findings.push(...made.findings);
      if (seal) findings.push(...leakFindings(seal.seal.inPackage(made.source, seal.own), title));
    }
    return { files, findings: [...findings, ...blanks.findings(env)] };
  }

  /** Files that go with a group's message without being made. */
  enclosed(env: Env): WantedFile[] {
    return this.enclosures.map(({ kind, name, needed, forAll }) => ({
      kind,
      name: name.fill(env),
      // Values come from data: a star in one of them is a star, and no value leads into another folder.
      pattern: name.fill(env, (value) => literalInPattern(value.replace(/[/\\]/g, "-"))),
      needed,
      forAll,
    }));
  }

  /** A file looked for by name has to name its group by something of the group, unless it is for all. */
  private bindFound(one: { readonly found: string; readonly needed: boolean | "group"; readonly forAll: boolean }) {
    const where = "message, attach";
    const names = parseTextTemplate(one.found, where).fields.flatMap((field) => namesIn(field.ast));
    const isOwn = names.some(([first, ...rest]) => rest.length === 0 || !ALIKE_FOR_ALL.has(columnKey(first)));
    if (!isOwn && !one.forAll)
      throw new CorbixError(
        "BAD_DEFINITION",
        `Cannot look for \`${one.found}\`: nothing in it names the group, so every group would get the same file.`,
        { where, advice: "Name the group in it, such as {{ group.label }}, or say that it is for all: forAll: true." },
      );
    return {
      kind: "found" as const,
      name: this.bindName(one.found, where),
      needed: one.needed,
      forAll: one.forAll,
    };
  }

  /** The messages that a group's people get. */
  parts(recipients: readonly Recipient[]): MessagePart[] {
    const { message } = this.report;
    if (!message) return [];
    // A page of links is one person's.
    const each = this.report.delivery.files === "link" ? "person" : message.each;
    return messageParts(recipients, { each, languages: Object.keys(message.languages) });
  }

  /** A group's message in a language; with a seal also what of other groups stands in it. */
  compose(
    env: Env,
    seal?: OwnSeal,
    language = "",
  ): { readonly message: ComposedMessage; readonly findings: readonly Finding[] } | undefined {
    const blanks = new Blanks();
    const telling: Env = { ...env, onBlank: (where, source) => blanks.add(where, source) };
    const message = withPlace(groupWords(env), () => this.messages.get(language)?.compose(telling));
    if (!message) return undefined;
    const text = `${message.subject}\n${message.html}\n${message.text}`;
    const findings = seal ? leakFindings(seal.seal.inText(text, seal.own, ""), `message to ${seal.own}`) : [];
    return { message, findings: [...findings, ...blanks.findings(env)] };
  }

  private bindFile(name: string, spec: FileSpec, templates: ReadonlyMap<string, Uint8Array>): BoundFile {
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
    // The schema sees to it that there is one or the other.
    const { template: file = "" } = spec;
    const bytes = getTemplate(file, templates, where);
    const ending = file.slice(file.lastIndexOf(".") + 1).toLowerCase();
    if (ending !== "xlsx" && ending !== "xlsm" && ending !== "docx") {
      throw new CorbixError(
        "BAD_DEFINITION",
        `Cannot fill \`${file}\`, expected a template ending in .xlsx or .docx.`,
        { where },
      );
    }
    if (ending === "docx" && (spec.cells || spec.sheetPer))
      throw new CorbixError("BAD_DEFINITION", "Cannot use cells or sheetPer with a document.", {
        where,
        advice: "Use marks or bookmarks in the document.",
      });
    return {
      ...named,
      ...(ending === "docx"
        ? this.bindDocument(spec, bytes, file, templates, where)
        : this.bindWorkbook(spec, bytes, file, where)),
    };
  }

  private bindDocument(
    spec: FileSpec,
    bytes: Uint8Array,
    file: string,
    templates: ReadonlyMap<string, Uint8Array>,
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
    const followers = (spec.followedBy ?? []).map((one): Follower => {
      const { template: name, when } = typeof one === "string" ? { template: one, when: undefined } : one;
      const at = `${where}, followedBy, ${name}`;
      const follower = read(getTemplate(name, templates, at), name);
      isShowing ||= follower.shows(this.unshared);
      return {
        when: this.maybeCondition(when, at),
        bound: follower.bind(this.scope, templates),
      };
    });
    return {
      showing: isShowing ? [{ sheet: undefined }] : [],
      template: { kind: "docx", bound: template.bind(this.scope, templates), followers },
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
      throw new CorbixError("BAD_MARK", "Cannot use a field of lines in a name: a group has many lines.", {
        where,
        advice: "Use a value the group shares, or first(…).",
      });
    return template.bind(this.scope);
  }

  private bindMessages(templates: ReadonlyMap<string, Uint8Array>): Map<string, BoundMessage> {
    const { message } = this.report;
    if (!message) return new Map();
    const texts = { "": message, ...message.languages };
    return new Map(
      Object.entries(texts).map(([language, words]) => [language, this.bindMessage(words, language, templates)]),
    );
  }

  private bindMessage(
    { subject, body, text }: Pick<NonNullable<Report["message"]>, "subject" | "body" | "text">,
    language: string,
    templates: ReadonlyMap<string, Uint8Array>,
  ): BoundMessage {
    const place = language === "" ? "message" : `message, languages, ${language}`;
    const read = (name: string): string => textFromBytes(getTemplate(name, templates, `${place}, body`));
    const written = "template" in body ? bodyOf(body.template, read(body.template)) : body;
    const template = MessageTemplate.read(
      { subject, body: written, text: typeof text === "object" ? read(text.template) : text },
      "template" in body ? body.template : place,
      (name) => templates.has(name),
    );
    this.showsInMessage ||= template.shows(this.unshared);
    return template.bind(this.scope);
  }
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

interface BoundEnclosure {
  readonly kind: WantedFile["kind"];
  readonly name: Pick<BoundText, "fill">;
  readonly needed: WantedFile["needed"];
  readonly forAll: boolean;
}

interface TemplateReader<T> {
  read(bytes: Uint8Array, where: string, reading: { readonly further: readonly string[] }): T;
}

const READ = new WeakMap<Uint8Array, Map<string, WorkbookTemplate | DocumentTemplate>>();

/** A template read once per process for as long as its bytes are held. */
function readTemplate<T extends WorkbookTemplate | DocumentTemplate>(
  kind: TemplateReader<T>,
  bytes: Uint8Array,
  where: string,
  further: readonly string[],
): T {
  const all = READ.get(bytes) ?? new Map<string, WorkbookTemplate | DocumentTemplate>();
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
  throw new CorbixError("BAD_DEFINITION", `Cannot find the template \`${name}\`.`, {
    where,
    advice: suggestName(name, [...templates.keys()], "templates"),
  });
}
