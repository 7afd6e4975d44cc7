import type { Finding } from "../../common/index.js";
import type { Env, Scope } from "../../expression/index.js";
import { escapeXml, type OoxmlPackage } from "../../ooxml/index.js";
import { type BoundText, hasMarks, parseTextTemplate } from "../../template/index.js";
import { say } from "../../words/index.js";
import { StyleEditor } from "../edit/style-editor.js";
import { computePivots } from "../pivot/index.js";
import { type BoundSheet, bindSheet } from "../template/bind.js";
import { parseFormulaText } from "../template/formula-text.js";
import type { WorkbookTemplate } from "../template/template.js";
import type { RepeatedSpan } from "./axis-map.js";
import { Filling, type RecalculatedCell } from "./fill-run.js";
import { withHead } from "./related-parts.js";
import { type SharedTable, sharedTable } from "./shared-texts.js";

export interface FilledWorkbook {
  /** The filled package; `toBytes()` gives the file. */
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
}

/** A defined name, with its marks if there are any. */
export interface BoundName {
  readonly name: string;
  readonly sheet: number | undefined;
  readonly formula: string;
  readonly marks: { readonly fill: (env: Env) => string } | undefined;
}

/** A sheet that shows a part of the lines only. */
export interface OwnSheet {
  readonly env: Env;
  readonly name: string | undefined;
}

/** A template checked against a scope, ready to be filled many times. */
export class BoundWorkbook {
  readonly sheets: readonly BoundSheet[];
  private readonly isPlain: boolean;
  /** The template with the cell formats that its marks ask for: packed once, shared by all files filled from it. */
  private readonly base: OoxmlPackage;
  private readonly shared: SharedTable | undefined;
  private readonly texts: readonly { part: string; bound: BoundText }[];
  readonly names: readonly BoundName[];

  constructor(
    private readonly template: WorkbookTemplate,
    scope: Scope,
    /** Rows of a sheet that repeat whatever its marks say. */
    repeated?: { readonly sheet: number; readonly rows: readonly RepeatedSpan[] },
  ) {
    const { workbook } = template;
    const stylesPart = workbook.package
      .relationships(workbook.part)
      .find((relation) => relation.type === "styles")?.target;
    const editor = stylesPart ? new StyleEditor(workbook.package.getXml(stylesPart)) : undefined;
    this.sheets = template.sheets.map((sheet) =>
      bindSheet(sheet, scope, template, editor, repeated?.sheet === sheet.index ? repeated.rows : undefined),
    );
    const isNamed = workbook.sheets.some((sheet) => sheet.name.includes("{{"));
    this.names = workbook.names.map((name) => ({ ...name, marks: bindName(name, scope, workbook.package.where) }));
    const isMarked = this.names.some((name) => name.marks !== undefined);
    this.isPlain =
      !isNamed && !isMarked && template.texts.length === 0 && this.sheets.every((sheet) => !sheet.hasMarks);
    const styled = editor?.finish();
    this.base =
      styled && stylesPart
        ? workbook.package.with(new Map([[stylesPart, withHead(workbook.package, stylesPart, styled)]]))
        : workbook.package;
    this.texts = template.texts.map(({ part, template: text }) => ({ part, bound: text.bind(scope) }));
    this.shared = sharedTable(workbook);
  }

  /** The workbook with every formula evaluated again and stored where it differs; it must hold no marks. */
  recalculate(env: Env): FilledWorkbook & { readonly cells: readonly RecalculatedCell[] } {
    const opened = this.template.workbook.package;
    const filling = new Filling(this.template, this, env, this.shared, { base: opened });
    const parts = filling.parts();
    return {
      package: this.template.workbook.package.with(parts),
      findings: [...this.template.findings, ...filling.findings],
      cells: filling.recalculated(),
    };
  }

  /** One group's workbook. The template is not touched. `own` are sheets with lines and names of their own, by index. */
  fill(env: Env, own?: ReadonlyMap<number, OwnSheet>): FilledWorkbook {
    // Without a mark there is nothing to fill, and nothing of the file is touched.
    if (this.isPlain && !own) return { package: this.template.workbook.package, findings: this.template.findings };
    const texts = new Map(this.texts.map(({ part, bound }) => [part, bound.fill(env, escapeXml)]));
    const base = texts.size > 0 ? this.base.with(texts) : this.base;
    const filling = new Filling(this.template, this, env, this.shared, { base, own });
    const filled = base.with(filling.parts());
    const pivots = computePivots(filled, filling.stalePivots, (opened) => this.template.recalculated(opened, env));
    return {
      package: pivots.package,
      findings: [...this.template.findings, ...filling.findings, ...pivots.findings],
    };
  }
}

/** Marks in a name's formula stand in a text in quotes, where a quote is doubled; those of sheets' names are theirs. */
function bindName(
  name: { readonly name: string; readonly formula: string },
  scope: Scope,
  where: string,
): BoundName["marks"] {
  const pieces = parseFormulaText(name.formula);
  if (!pieces.some((piece) => typeof piece === "string" && hasMarks(piece))) return undefined;
  const bound = pieces.map((piece) =>
    typeof piece === "string"
      ? parseTextTemplate(piece, say().workbook.nameIn({ where, name: name.name })).bind(scope)
      : piece.written,
  );
  return {
    fill: (env) =>
      bound
        .map((piece) => (typeof piece === "string" ? piece : piece.fill(env, (value) => value.replaceAll('"', '""'))))
        .join(""),
  };
}
