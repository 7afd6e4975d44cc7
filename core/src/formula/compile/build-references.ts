/** References and names of a formula. */
import { say } from "../../words/index.js";
import { type Evaluate, type EvaluateArea, type EvaluationMode, type FormulaNode, fromArea } from "../areas.js";
import { type EvaluationContext, Unsupported } from "../evaluation-context.js";
import { referenceOf, sheetsOf, tableReferenceOf } from "../references.js";
import { asMatrix, CellError, CellFunction, type Scalar } from "../value.js";
import { type Building, failing } from "./building.js";

export function buildReference(value: string, kind: string, asked: EvaluationMode, building: Building): FormulaNode {
  if (kind === "table") {
    const reference = tableReferenceOf(value);
    if (reference) return fromArea((context) => context.locateTable(reference), asked);
    building.unsupported.push(say().formula.tableReference({ value }));
    return failing("#REF!");
  }
  if (kind === "name") return buildName(value, asked, building);
  const deep = sheetsOf(value);
  if (deep) return overSheets(deep, building);
  const reference = referenceOf(value);
  if (!reference || reference.sheet?.includes(":")) {
    building.unsupported.push(say().formula.reference({ value }));
    return failing("#REF!");
  }
  return fromArea((context) => context.locate(reference) ?? CellError.of("#REF!"), asked);
}

/** `Jan:Mar!B2:B9`: the same cells of all sheets from one to another, one below the other (18.17.2.3). */
export function overSheets(
  { from, to, rest }: { from: string; to: string; rest: string },
  building: Building,
): FormulaNode {
  const reference = referenceOf(rest);
  if (!reference) {
    building.unsupported.push(say().formula.referenceAcross({ from, to, rest }));
    return failing("#REF!");
  }
  return {
    evaluate: (context) => {
      const rows: (readonly Scalar[])[] = [];
      for (const sheet of context.sheetsBetween(from, to) ?? []) {
        const place = context.locate({ ...reference, sheet });
        if (place) for (const row of asMatrix(context.cells(place))) rows.push(row);
      }
      return rows.length === 0 ? CellError.of("#REF!") : rows;
    },
    mayBeArray: true,
  };
}

export function buildName(name: string, asked: EvaluationMode, building: Building): FormulaNode {
  const at = building.locals.lastIndexOf(name.toLowerCase());
  if (at >= 0)
    return {
      evaluate: (context) => {
        const local = context.locals[at];
        return local instanceof CellFunction ? CellError.of("#CALC!") : local;
      },
      mayBeArray: true,
    };
  const found = (context: EvaluationContext): ReturnType<EvaluationContext["name"]> => {
    const entry = context.name(name);
    if (entry && entry.formula.unsupported.length > 0) throw new Unsupported(entry.formula.unsupported.join(", "));
    return entry;
  };
  const area: EvaluateArea = (context) => {
    const entry = found(context);
    return entry?.formula.area?.(entry.context);
  };
  const value: Evaluate = (context) => {
    const entry = found(context);
    return entry ? entry.formula.evaluate(entry.context) : CellError.of("#NAME?");
  };
  return fromArea(area, asked, value);
}
