import {
  CellError,
  calculate,
  type FormulaCell,
  type FormulaReference,
  type Place,
  type Scalar,
} from "../calculate/index.js";
import { bytesFromText, type Finding } from "../common/index.js";
import type { Env } from "../expression/index.js";
import { escapeXml, type XmlElement, xmlText } from "../ooxml/index.js";
import { cellName, MAX_COLUMNS, MAX_ROWS } from "../spreadsheet/index.js";
import type { BoundCell, BoundContent, BoundSheet } from "./bind.js";
import { isStored, placeValue, textElement, typeAttribute, writeScalar } from "./cell-xml.js";
import { type FormulaText, type Moves, moveRange, parseFormulaText, writeFormula } from "./formula-text.js";
import { writePlainRows } from "./plain-rows.js";
import { moveRelatedParts, withHead } from "./related-parts.js";
import { type Block, type Instance, RowMap } from "./row-map.js";
import { AddedTexts, type SharedTable } from "./shared-texts.js";
import { dropCalculationChain, type WorkbookTemplate } from "./template.js";
import type { TemplateSheet } from "./template-sheet.js";

/** A cell of a filled sheet on its way to being written; formulas get their value when all are known. */
interface OutputCell {
  readonly bound: BoundCell;
  readonly value: Scalar;
  readonly style: number;
  readonly formula?: FormulaCell;
  readonly instance?: Instance | undefined;
  /** The filled runs of rich text. */
  readonly runs?: readonly string[];
}

interface OutputRow {
  readonly number: number;
  readonly attributes: string;
  readonly cells: readonly OutputCell[];
  /** A repeated row without any lines: blank and hidden. */
  readonly isVoid: boolean;
  /** Many rows written already. */
  readonly written?: Uint8Array;
}

/** A formula that was evaluated again. */
export interface RecalculatedCell {
  readonly sheet: string;
  readonly cell: string;
  readonly formula: string;
  /** As it is shown without a format; errors by their names. */
  readonly stored: string | number | boolean | null;
  /** `null` also where it could not be evaluated; a finding says so then. */
  readonly value: string | number | boolean | null;
  readonly isSame: boolean;
}

function shownScalar(value: Scalar): string | number | boolean | null {
  return value instanceof CellError ? value.name : value;
}

const HIDDEN = / hidden="(?:1|true)"/;

/** One filling: places rows, evaluates, writes. */
export class Filling {
  readonly findings: Finding[] = [];
  private readonly maps = new Map<string, RowMap>();
  private readonly renamed = new Map<string, string>();
  private readonly indexes = new Map<string, number>();
  private readonly values: Map<number, Map<number, Scalar>>[] = [];
  private readonly hiddenRows: Set<number>[] = [];
  private readonly formulas: FormulaCell[] = [];
  private readonly results = new Map<FormulaCell, Scalar>();
  private mustRecalculate = false;
  private readonly hasFormulas: boolean;
  private readonly texts: AddedTexts | undefined;

  constructor(
    private readonly template: WorkbookTemplate,
    private readonly sheets: readonly BoundSheet[],
    private readonly names: readonly {
      readonly name: string;
      readonly sheet: number | undefined;
      readonly text: FormulaText;
      readonly formula: string;
    }[],
    private readonly env: Env,
    shared: SharedTable | undefined,
  ) {
    this.texts = shared && new AddedTexts(shared);
    template.workbook.sheets.forEach((info, index) => {
      this.indexes.set(info.name.toLowerCase(), index);
      this.values[index] = new Map();
      this.hiddenRows[index] = new Set();
    });
    this.hasFormulas = sheets.some((bound) => bound.hasFormulas);
    for (const { sheet, name } of sheets) {
      this.maps.set(sheet.info.name.toLowerCase(), new RowMap(sheet.blocks, env.lines.length));
      if (sheet.info.name.includes("{{"))
        this.renamed.set(sheet.info.name.toLowerCase(), this.sheetName(name.fill(env)));
    }
  }

  parts(): Map<string, Uint8Array | string | null> {
    const rows = this.sheets.map((bound) => this.place(bound));
    this.evaluate();
    const parts = new Map<string, Uint8Array | string | null>();
    this.sheets.forEach((bound, index) => {
      const { info } = bound.sheet;
      const map = this.mapOf(info.name) as RowMap;
      if (this.mustWrite(bound, map)) parts.set(info.part, this.writeSheet(bound, rows[index]));
      if (map.moves) {
        const moved = moveRelatedParts(this.template.workbook.package, info.part, map, this.movesOn(info.name));
        for (const [part, text] of moved.parts) parts.set(part, text);
        for (const what of moved.notFollowed)
          this.note("not-followed", `sheet ${info.name}`, `Rows moved, but ${what} did not follow.`);
      }
    });
    if (this.anyMoves) {
      for (const [part, text] of dropCalculationChain(this.template.workbook)) parts.set(part, text);
    }
    const added = this.texts?.part();
    if (added) parts.set(added.name, added.text);
    const workbookPart = this.writeWorkbook();
    if (workbookPart !== undefined) parts.set(this.template.workbook.part, workbookPart);
    return parts;
  }

  /** Every formula with what is stored and what it comes to now; to be asked after `parts`. */
  recalculated(): RecalculatedCell[] {
    return this.formulas.map((cell) => {
      const value = this.results.get(cell);
      return {
        sheet: this.template.workbook.sheets[cell.sheet].name,
        cell: cellName(cell.row, cell.column),
        formula: cell.formula.source,
        stored: shownScalar(cell.stored),
        value: value === undefined ? null : shownScalar(value),
        isSame: value !== undefined && isStored(cell, value),
      };
    });
  }

  /** A sheet is written anew where it has marks, its rows move or sheets got new names, or a result is not what was stored. */
  private mustWrite(bound: BoundSheet, map: RowMap): boolean {
    if (bound.hasMarks || map.moves || (bound.hasFormulas && (this.renamed.size > 0 || this.anyMoves))) return true;
    return this.formulas.some((cell) => cell.sheet === bound.sheet.index && !isStored(cell, this.results.get(cell)));
  }

  private get anyMoves(): boolean {
    return [...this.maps.values()].some((map) => map.moves);
  }

  private mapOf(sheet: string): RowMap | undefined {
    return this.maps.get(sheet.toLowerCase());
  }

  private movesOn(sheet: string, instance?: Instance): Moves {
    return { own: sheet, map: (name) => this.mapOf(name), renamed: this.renamed, ...(instance ? { instance } : {}) };
  }

  /** A sheet's name takes 31 characters and none of `[]:*?/\` (18.2.19). */
  private sheetName(text: string): string {
    const plain =
      text
        .replace(/[[\]:*?/\\]/g, " ")
        .replace(/^'+|'+$/g, "")
        .trim() || "Sheet";
    return [...plain].slice(0, 31).join("");
  }

  private place(bound: BoundSheet): OutputRow[] {
    const map = this.mapOf(bound.sheet.info.name) as RowMap;
    const rows: OutputRow[] = [];
    for (let index = 0; index < bound.rows.length; index++) {
      const { row } = bound.rows[index];
      const block = map.blockAt(row);
      if (!block) {
        rows.push(this.placeRow(bound, index, this.env, undefined));
        continue;
      }
      const inBlock = bound.rows.filter(
        (candidate) => candidate.row >= block.top && candidate.row <= block.bottom,
      ).length;
      this.placeBlock(bound, { block, first: index, height: inBlock }, rows);
      index += inBlock - 1;
    }
    return rows;
  }

  private placeBlock(bound: BoundSheet, at: { block: Block; first: number; height: number }, rows: OutputRow[]): void {
    const { lines } = this.env;
    const { plain, row } = bound.rows[at.first];
    if (plain && at.height === 1 && at.block.top === at.block.bottom && lines.length > 0) {
      const map = this.mapOf(bound.sheet.info.name) as RowMap;
      const values = this.values[bound.sheet.index];
      const see = (number: number, column: number, value: Scalar): void => {
        const known = values.get(number);
        if (known) known.set(column, value);
        else values.set(number, new Map([[column, value]]));
      };
      const first = map.at(row, 0);
      const { prefix } = bound.sheet;
      const written = writePlainRows(plain, this.env, first, prefix, this.texts, this.hasFormulas ? see : undefined);
      rows.push({ number: first, attributes: "", cells: [], isVoid: false, written });
      return;
    }
    for (let repetition = 0; repetition < Math.max(1, lines.length); repetition++) {
      const env = lines.length === 0 ? this.env : { ...this.env, row: lines[repetition] };
      for (let offset = 0; offset < at.height; offset++)
        rows.push(this.placeRow(bound, at.first + offset, env, { block: at.block, index: repetition }));
    }
  }

  private placeRow(bound: BoundSheet, index: number, env: Env, instance: Instance | undefined): OutputRow {
    const { row, attributes, cells } = bound.rows[index];
    const map = this.mapOf(bound.sheet.info.name) as RowMap;
    const number = map.at(row, instance?.index);
    // Without any lines the row stays as an anchor for formulas, blank and hidden.
    const isVoid = instance !== undefined && this.env.lines.length === 0;
    if (isVoid || HIDDEN.test(attributes)) this.hiddenRows[bound.sheet.index].add(number);
    const values = new Map<number, Scalar>();
    if (this.hasFormulas) this.values[bound.sheet.index].set(number, values);
    const placed = cells.map((cell) => {
      if (isVoid) return { bound: cell, value: null, style: cell.cell.style };
      const output = this.placeCell(bound.sheet, number, cell, env, instance);
      if (this.hasFormulas && output.value !== null && !output.formula) values.set(cell.cell.column, output.value);
      return output;
    });
    return {
      number,
      attributes: isVoid ? `${attributes.replace(/ hidden="[^"]*"/, "")} hidden="1"` : attributes,
      cells: placed,
      isVoid,
    };
  }

  private placeCell(
    sheet: TemplateSheet,
    number: number,
    cell: BoundCell,
    env: Env,
    instance: Instance | undefined,
  ): OutputCell {
    const { content } = cell;
    const { style } = cell.cell;
    switch (content.kind) {
      case "fixed":
        if (content.what) {
          const place = `sheet ${sheet.info.name}, cell ${cell.letters}${number + 1}`;
          this.note("kept-formula", place, `The cell holds ${content.what}; its stored value was kept.`);
        }
        return { bound: cell, value: content.value, style };
      case "formula": {
        const formula = this.formulaCell(sheet, number, cell, instance);
        this.formulas.push(formula);
        return { bound: cell, value: null, style, formula, instance };
      }
      case "value":
        return placeValue(cell, content, env);
      case "text":
        return { bound: cell, value: content.bound.fill(env), style };
      case "rich": {
        const runs = content.runs.map((run) => run.bound.fill(env));
        return { bound: cell, value: runs.join(""), style, runs };
      }
    }
  }

  private formulaCell(sheet: TemplateSheet, row: number, cell: BoundCell, instance: Instance | undefined): FormulaCell {
    const content = cell.content as BoundContent & { kind: "formula" };
    return {
      sheet: sheet.index,
      row,
      column: cell.cell.column,
      formula: content.compiled,
      stored: content.stored,
      locate: (reference) => this.locate(reference, sheet.info.name, instance),
    };
  }

  private locate(reference: FormulaReference, own: string, instance: Instance | undefined): Place | undefined {
    const name = reference.sheet ?? own;
    const sheet = this.indexes.get(name.toLowerCase());
    if (sheet === undefined) return undefined;
    const map = this.mapOf(name);
    const { range, single } = reference;
    const moved = map ? moveRange(range, single, map, name === own ? instance : undefined) : range;
    return {
      sheet,
      top: moved.top ?? 0,
      left: moved.left ?? 0,
      bottom: moved.bottom ?? MAX_ROWS - 1,
      right: moved.right ?? MAX_COLUMNS - 1,
    };
  }

  private evaluate(): void {
    if (this.formulas.length === 0) return;
    const calculation = calculate({
      values: this.values,
      formulas: this.formulas,
      name: (name, sheet) => this.definedName(name, sheet),
      now: this.env.today,
      hiddenRows: this.hiddenRows,
    });
    for (const { cell, value } of calculation.results) this.results.set(cell, value);
    for (const { cell, what } of calculation.unsupported) {
      this.mustRecalculate = true;
      this.note(
        "not-calculated",
        this.cellPlace(cell),
        `The cell uses ${what}, which is not calculated here; the workbook will be recalculated when it is opened, and a PDF shows the template's value.`,
        "warn",
      );
    }
    for (const cell of calculation.circular)
      this.note("circular", this.cellPlace(cell), "The formula leads back to itself.", "warn");
  }

  private definedName(name: string, sheet: number): { place: Place } | { value: Scalar } | undefined {
    const candidates = this.names.filter((entry) => entry.name.toLowerCase() === name.toLowerCase());
    const found =
      candidates.find((entry) => entry.sheet === sheet) ?? candidates.find((entry) => entry.sheet === undefined);
    if (!found) return undefined;
    const [piece] = found.text;
    if (found.text.length === 1 && typeof piece !== "string" && piece.sheet !== undefined) {
      const place = this.locate(piece, piece.sheet, undefined);
      return place ? { place } : undefined;
    }
    const number = Number(found.formula);
    if (found.formula.trim() !== "" && Number.isFinite(number)) return { value: number };
    const text = /^"((?:[^"]|"")*)"$/.exec(found.formula);
    return text ? { value: text[1].replaceAll('""', '"') } : undefined;
  }

  private cellPlace(cell: FormulaCell): string {
    return `sheet ${this.template.workbook.sheets[cell.sheet].name}, cell ${cellName(cell.row, cell.column)}`;
  }

  private note(code: string, where: string, what: string, severity: Finding["severity"] = "note"): void {
    const place = `${this.template.workbook.package.where}, ${where}`;
    if (this.findings.some((finding) => finding.code === code && finding.where === place)) return;
    this.findings.push({
      code,
      severity,
      where: place,
      what,
      advice: severity === "note" ? "Look at it once in the filled file." : "Use another formula in the template.",
    });
  }

  private writeSheet(bound: BoundSheet, rows: readonly OutputRow[]): string | Uint8Array {
    const { document, prefix, info } = bound.sheet;
    const map = this.mapOf(info.name) as RowMap;
    const around = { map, moves: this.movesOn(info.name), env: this.env };
    let data = "";
    const pieces: Uint8Array[] = [];
    for (const row of rows) {
      if (row.written !== undefined) {
        pieces.push(bytesFromText(data), row.written);
        data = "";
        continue;
      }
      data += `<${prefix}row r="${row.number + 1}"${row.attributes}>`;
      for (const cell of row.cells) data += this.writeCell(cell, row, prefix, info.name);
      data += `</${prefix}row>`;
    }
    const { root } = document;
    const open = root.open.endsWith("/>") ? `${root.open.slice(0, -2)}>` : root.open;
    const before = bound.before.map((write) => write(around)).join("");
    const after = bound.after.map((write) => write(around)).join("");
    const head = `${document.head}${open}${before}<${prefix}sheetData>`;
    const tail = `${data}</${prefix}sheetData>${after}</${root.name}>${document.tail}`;
    return pieces.length === 0 ? head + tail : Buffer.concat([bytesFromText(head), ...pieces, bytesFromText(tail)]);
  }

  private writeCell(output: OutputCell, row: OutputRow, prefix: string, sheet: string): string {
    const { bound, value, style, formula } = output;
    const { cell, content } = bound;
    const at = `<${prefix}c r="${bound.letters}${row.number + 1}"${style > 0 ? ` s="${style}"` : ""}`;
    if (row.isVoid) return `${at}${cell.attributes}/>`;
    if (formula && content.kind === "formula") {
      const text = writeFormula(content.text, this.movesOn(sheet, output.instance));
      const result = writeScalar(this.results.get(formula) ?? null);
      const stored = result.value === "" ? "" : `<${prefix}v>${result.value}</${prefix}v>`;
      return `${at}${typeAttribute(result.type)}${cell.attributes}><${prefix}f>${escapeXml(text)}</${prefix}f>${stored}</${prefix}c>`;
    }
    if (content.kind === "fixed") {
      if (content.written === "") return `${at}${cell.attributes}/>`;
      const { type } = cell.content as { type: string };
      return `${at}${typeAttribute(type === "n" ? undefined : type)}${cell.attributes}>${content.written}</${prefix}c>`;
    }
    if (content.kind === "rich" && output.runs) {
      const runs = content.runs
        .map(
          (run, index) =>
            `<${prefix}r>${run.properties}${textElement(prefix, output.runs?.[index] ?? "")}</${prefix}r>`,
        )
        .join("");
      return `${at} t="inlineStr"${cell.attributes}><${prefix}is>${runs}</${prefix}is></${prefix}c>`;
    }
    if (value === null || value === "") return `${at}${cell.attributes}/>`;
    if (typeof value === "string" && this.texts)
      return `${at} t="s"${cell.attributes}><${prefix}v>${this.texts.index(value)}</${prefix}v></${prefix}c>`;
    if (typeof value === "string") {
      return `${at} t="inlineStr"${cell.attributes}><${prefix}is>${textElement(prefix, value)}</${prefix}is></${prefix}c>`;
    }
    const written = writeScalar(value);
    return `${at}${typeAttribute(written.type)}${cell.attributes}><${prefix}v>${written.value}</${prefix}v></${prefix}c>`;
  }

  /** The workbook part with names moved, sheets renamed, and the wish to be recalculated where something could not be. */
  private writeWorkbook(): string | undefined {
    const { workbook } = this.template;
    const moves = [...this.maps.values()].some((map) => map.moves);
    if (!moves && this.renamed.size === 0 && !this.mustRecalculate) return undefined;
    const children = workbook.xml.children.map((child) => {
      if (child.kind !== "element") return child;
      if (child.local === "sheets")
        return child.withChildren(
          child.children.map((sheet) => (sheet.kind === "element" ? this.renameSheet(sheet) : sheet)),
        );
      if (child.local === "definedNames")
        return child.withChildren(child.children.map((name) => (name.kind === "element" ? this.moveName(name) : name)));
      return child.local === "calcPr" && this.mustRecalculate ? child.withAttr("fullCalcOnLoad", "1") : child;
    });
    return withHead(workbook.package, workbook.part, workbook.xml.withChildren(children));
  }

  private renameSheet(sheet: XmlElement): XmlElement {
    const name = this.renamed.get((sheet.attr("name") ?? "").toLowerCase());
    return name === undefined ? sheet : sheet.withAttr("name", name);
  }

  private moveName(name: XmlElement): XmlElement {
    return name.withChildren([xmlText(writeFormula(parseFormulaText(name.text), this.movesOn("")))]);
  }
}
