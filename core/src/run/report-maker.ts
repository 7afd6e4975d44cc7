import type { Finding } from "../common/index.js";
import type { Env, Scope } from "../expression/index.js";
import type { FontLibrary } from "../fonts/index.js";
import type { BoundMessage, ComposedMessage } from "../message/index.js";
import { literalInPattern } from "../naming/index.js";
import type { Report } from "../report/index.js";
import { withPlace } from "../template/index.js";
import { say } from "../words/index.js";
import { type BoundEnclosure, type BoundTotal, type BoundWay, ReportBinder, type WantedFile } from "./bind-report.js";
import type { CaughtUp, EarlierDocument } from "./growing.js";
import { type BoundFile, type FileKind, type MadeFile, type MadeFiles, makeOne } from "./make-file.js";
import { Blanks, groupWords } from "./marks/blanks.js";
import { leftFindings, travels } from "./rows/travelling-rows.js";
import type { RunFacts } from "./scope.js";
import { leakFindings, type Seal } from "./seal.js";

/** The names of all groups, and the one whose files are made. */
export interface OwnSeal {
  readonly seal: Seal;
  readonly own: string;
}

export interface MakeWish {
  readonly seal?: OwnSeal | undefined;
  /** Of files that grow, what the group was delivered before. */
  readonly earlier?: EarlierDocument | undefined;
  readonly caughtUp?: CaughtUp | undefined;
}

/** A report with its templates read and every name in it checked: made once, then used for all its groups. */
export class ReportMaker {
  readonly files: readonly BoundFile[];
  readonly totals: readonly BoundTotal[];
  readonly waysOut: readonly BoundWay[];
  /** By language; the report's own under a blank. */
  readonly messages: ReadonlyMap<string, BoundMessage>;
  private readonly enclosures: readonly BoundEnclosure[];
  private readonly binder: ReportBinder;

  /** Throws `BAD_DEFINITION`, `BAD_EXPRESSION`, `BAD_MARK` or what is wrong with a template, with the place. */
  constructor(
    readonly report: Report,
    scope: Scope,
    templates: ReadonlyMap<string, Uint8Array>,
  ) {
    this.binder = new ReportBinder(report, scope, templates);
    this.totals = this.binder.totals;
    this.files = this.binder.files();
    this.waysOut = this.binder.waysOut();
    this.messages = this.binder.messages();
    this.enclosures = this.binder.enclosures();
  }

  /** Whether anything of the report looks at lines of this name. */
  uses(lines: string): boolean {
    return this.binder.used.has(lines);
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
          say().place.file({ name }),
          say().run.filledRowsAllGroupsWould(),
          say().run.letLeaveValuesOnlyWithout(),
        ),
      ),
      ...(message && this.binder.showsInMessage
        ? [travels("message", say().run.showsRowsAllGroups(), say().run.showSumsOverThemOnly())]
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
    { seal, earlier, caughtUp }: MakeWish = {},
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
      const made = withPlace(say().run.fileOfGroup({ groupWords: groupWords(env), name: file.name }), () =>
        makeOne(file, telling, { fonts, facts, title, locale: this.report.locale, earlier, caughtUp }),
      );
      if (typeof made.source !== "string") findings.push(...leftFindings(file, env, made.source));
      files.push(...made.files);
      findings.push(...made.findings);
      if (seal) {
        const leaks =
          typeof made.source === "string"
            ? seal.seal.inText(made.source, seal.own, "")
            : seal.seal.inPackage(made.source, seal.own);
        findings.push(...leakFindings(leaks, title));
      }
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
    const findings = seal
      ? leakFindings(seal.seal.inText(text, seal.own, ""), say().run.message({ own: seal.own }))
      : [];
    return { message, findings: [...findings, ...blanks.findings(env)] };
  }
}
