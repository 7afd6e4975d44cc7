import { CorbixError } from "../../common/index.js";
import type { Env, Scope } from "../../expression/index.js";
import type { Workbook } from "../../spreadsheet/index.js";
import { say } from "../../words/index.js";
import type { FilledWorkbook } from "../fill/fill.js";
import type { RecalculatedCell } from "../fill/fill-run.js";
import { WorkbookTemplate } from "../template/template.js";

export interface Recalculated extends FilledWorkbook {
  /** Every formula that is evaluated, in order of sheets and rows. */
  readonly cells: readonly RecalculatedCell[];
}

const NOTHING: Omit<Env, "today"> = {
  table: { columns: [], rowCount: 0, rowNumbers: [] },
  lines: [],
  row: -1,
  spaces: {},
  locale: "en-GB",
};

const NO_NAMES: Scope = { mode: "group", columns: [], spaces: {} };

/**
 * Evaluates all formulas of a workbook. `today` is the day, as a serial, that TODAY and NOW give.
 * Throws `NOT_A_WORKBOOK`, `BROKEN_PACKAGE`, `BROKEN_XML`, or `BAD_MARK` for a template that is still to be filled.
 */
export function recalculateWorkbook(bytes: Uint8Array, where: string, today: number): Recalculated {
  const template = WorkbookTemplate.read(bytes, where);
  const [field] = template.fields;
  if (field) {
    throw new CorbixError("BAD_MARK", say().workbook.cannotRecalculateTemplateHoldsMark({ source: field.source }), {
      where,
      advice: say().workbook.fillFirst(),
    });
  }
  return template.bind(NO_NAMES).recalculate({ ...NOTHING, today });
}

/** The same for a workbook that is open; what looks like a mark is a text as any other. */
export function recalculateLiterally(workbook: Workbook, today: number): Recalculated {
  return WorkbookTemplate.of(workbook, { literal: true })
    .bind(NO_NAMES)
    .recalculate({ ...NOTHING, today });
}
