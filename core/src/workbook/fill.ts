import type { Finding } from "../common/index.js";
import type { Env, Scope } from "../expression/index.js";
import { escapeXml, type OoxmlPackage } from "../ooxml/index.js";
import type { BoundText } from "../template/index.js";
import { type BoundSheet, bindSheet } from "./bind.js";
import { Filling, type RecalculatedCell } from "./filling.js";
import { type FormulaText, parseFormulaText } from "./formula-text.js";
import { withHead } from "./related-parts.js";
import { type SharedTable, sharedTable } from "./shared-texts.js";
import { StyleEditor } from "./style-editor.js";
import type { WorkbookTemplate } from "./template.js";

export interface FilledWorkbook {
  /** The filled package; `toBytes()` gives the file. */
  readonly package: OoxmlPackage;
  readonly findings: readonly Finding[];
}

/** A template checked against a scope, ready to be filled many times. */
export class BoundWorkbook {
  private readonly sheets: readonly BoundSheet[];
  private readonly isPlain: boolean;
  /** The template with the cell formats that its marks ask for: packed once, shared by all files filled from it. */
  private readonly base: OoxmlPackage;
  private readonly shared: SharedTable | undefined;
  private readonly texts: readonly { part: string; bound: BoundText }[];
  private readonly names: readonly {
    readonly name: string;
    readonly sheet: number | undefined;
    readonly text: FormulaText;
    readonly formula: string;
  }[];

  constructor(
    private readonly template: WorkbookTemplate,
    scope: Scope,
  ) {
    const { workbook } = template;
    const stylesPart = workbook.package
      .relationships(workbook.part)
      .find((relation) => relation.type === "styles")?.target;
    const editor = stylesPart ? new StyleEditor(workbook.package.getXml(stylesPart)) : undefined;
    this.sheets = template.sheets.map((sheet) => bindSheet(sheet, scope, template, editor));
    const isNamed = workbook.sheets.some((sheet) => sheet.name.includes("{{"));
    this.isPlain = !isNamed && template.texts.length === 0 && this.sheets.every((sheet) => !sheet.hasMarks);
    const styled = editor?.finish();
    this.base =
      styled && stylesPart
        ? workbook.package.with(new Map([[stylesPart, withHead(workbook.package, stylesPart, styled)]]))
        : workbook.package;
    this.texts = template.texts.map(({ part, template: text }) => ({ part, bound: text.bind(scope) }));
    this.shared = sharedTable(workbook);
    this.names = workbook.names.map((name) => ({ ...name, text: parseFormulaText(name.formula) }));
  }

  /** The workbook with every formula evaluated again and stored where it differs; it must hold no marks. */
  recalculate(env: Env): FilledWorkbook & { readonly cells: readonly RecalculatedCell[] } {
    const filling = new Filling(this.template, this.sheets, this.names, env, this.shared);
    const parts = filling.parts();
    return {
      package: this.template.workbook.package.with(parts),
      findings: [...this.template.findings, ...filling.findings],
      cells: filling.recalculated(),
    };
  }

  /** One group's workbook. The template is not touched. */
  fill(env: Env): FilledWorkbook {
    // Without a mark there is nothing to fill, and nothing of the file is touched.
    if (this.isPlain) return { package: this.template.workbook.package, findings: this.template.findings };
    const filling = new Filling(this.template, this.sheets, this.names, env, this.shared);
    const parts = filling.parts();
    for (const { part, bound } of this.texts) parts.set(part, bound.fill(env, escapeXml));
    return {
      package: this.base.with(parts),
      findings: [...this.template.findings, ...filling.findings],
    };
  }
}
