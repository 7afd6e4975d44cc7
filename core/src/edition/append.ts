import { CorbixError, columnKey, type Finding, suggestName } from "../common/index.js";
import { type Cell, type Column, rowKey, showRowKey, type Table } from "../table/index.js";
import { say } from "../words/index.js";

export interface Appended {
  readonly table: Table;
  readonly added: number;
  /** Rows of the edition before whose key came again: the new row took their place. */
  readonly replaced: number;
  readonly findings: readonly Finding[];
}

/**
 * An edition that adds to the one before: rows with a known key take the place of the old row, others are put behind.
 * Columns are those of the addition, then those only the old edition had. Throws `BAD_DEFINITION` for a key column that is missing.
 */
export function appendTable(base: Table, addition: Table, key: readonly string[], where: string): Appended {
  const keyIn = (table: Table): Column[] =>
    key.map((name) => {
      const found = table.columns.find((column) => columnKey(column.name) === columnKey(name));
      if (found) return found;
      throw new CorbixError("BAD_DEFINITION", say().edition.cannotFindKeyColumn({ name }), {
        where,
        advice: suggestName(
          name,
          table.columns.map((column) => column.name),
          "columns",
        ),
      });
    });
  const [oldKey, newKey] = [keyIn(base), keyIn(addition)];
  const findings: Finding[] = [];
  const newest = new Map<string, number>();
  const doubles = new Set<string>();
  for (let row = 0; row < addition.rowCount; row++) {
    const text = rowKey(newKey, row);
    if (newest.has(text)) doubles.add(text);
    newest.set(text, row);
  }
  if (doubles.size > 0) {
    findings.push({
      code: "double-key",
      severity: "warn",
      where,
      what: say().edition.keysStandMoreOnceFile({ doubleCount: doubles.size, showRowKey: showRowKey([...doubles][0]) }),
      advice: say().edition.makeKeyUniqueSourceChoose(),
      count: doubles.size,
    });
  }
  /** For each row of the result where it comes from: below 0 the addition, else the base. */
  const rows: number[] = [];
  let replaced = 0;
  const taken = new Set<string>();
  for (let row = 0; row < base.rowCount; row++) {
    const text = rowKey(oldKey, row);
    const now = newest.get(text);
    if (now === undefined) rows.push(row);
    else if (!taken.has(text)) {
      taken.add(text);
      replaced++;
      rows.push(-1 - now);
    }
  }
  let added = 0;
  for (const [text, row] of newest) {
    if (taken.has(text)) continue;
    added++;
    rows.push(-1 - row);
  }
  const names = [
    ...addition.columns,
    ...base.columns.filter((old) => !addition.columns.some((one) => columnKey(one.name) === columnKey(old.name))),
  ];
  const columns = names.map((info): Column => {
    const old = base.columns.find((column) => columnKey(column.name) === columnKey(info.name));
    const now = addition.columns.find((column) => columnKey(column.name) === columnKey(info.name));
    const type = old && now && old.type !== now.type ? "text" : info.type;
    const show = (column: Column | undefined, row: number): Cell => {
      const value = column?.values[row] ?? null;
      return type === "text" && value !== null ? String(value) : value;
    };
    return { ...info, type, values: rows.map((row) => (row < 0 ? show(now, -1 - row) : show(old, row))) };
  });
  return {
    table: {
      columns,
      rowCount: rows.length,
      // Rows of several files have no number in one origin: they are counted through.
      rowNumbers: rows.map((_, at) => at + 1),
    },
    added,
    replaced,
    findings: [
      ...findings,
      {
        code: "appended",
        severity: "note",
        where,
        what: say().edition.rowsAddedReplacedKeyEdition({ added, replaced, rowCount: rows.length - added - replaced }),
        advice: say().edition.nothingDo(),
      },
    ],
  };
}
