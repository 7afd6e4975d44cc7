/** Whole tables that a report's definition puts at bookmarks, as if `{{table …}}` stood there. */

import { CorbixError, columnKey, suggestName } from "../../common/index.js";
import { parseField, type Scope } from "../../expression/index.js";
import { columnsOf, lineField, linesNamed, type Structure } from "../../template/index.js";
import { say } from "../../words/index.js";

/** What a definition says of a table at a bookmark. */
interface NamedTable {
  /** The lines it shows; the group's own if left out. */
  readonly lines?: string | undefined;
  readonly fields?: unknown;
  readonly columns?:
    | readonly (
        | string
        | {
            readonly column: string;
            readonly heading?: string | undefined;
            readonly format?: string | undefined;
            readonly total?: string | undefined;
          }
      )[]
    | undefined;
  readonly style?: string | undefined;
  readonly lineTotal?: string | undefined;
}

/** By the bookmark's name, without regard to capitals. */
export type BookmarkTables = ReadonlyMap<string, Structure & { readonly kind: "table" }>;

/** Throws `BAD_DEFINITION` for an unknown column, or what tables of documents do not have. */
export function bookmarkTables(
  tables: Readonly<Record<string, NamedTable>>,
  scope: Scope,
  where: string,
): BookmarkTables {
  return new Map(
    Object.entries(tables).map(([name, table]) => {
      const at = `${where}, ${name}`;
      if (table.lineTotal !== undefined || table.fields !== undefined)
        throw new CorbixError("BAD_DEFINITION", say().document.cannotUseLinetotalFieldsTable(), {
          where: at,
          advice: say().document.nameColumnsTotalSumThose(),
        });
      const lines = linesNamed(table.lines, scope, at);
      const columns = columnsOf(lines, scope);
      const structure: Structure & { readonly kind: "table" } = {
        kind: "table",
        lines,
        columns: table.columns?.map((one) => {
          const { column, heading, format, total } = typeof one === "string" ? { column: one } : one;
          const info = columns.find((known) => columnKey(known.name) === columnKey(column));
          if (!info)
            throw new CorbixError("BAD_DEFINITION", say().document.cannotFindColumn({ column }), {
              where: at,
              advice: suggestName(
                column,
                columns.map((known) => known.name),
                "columns",
              ),
            });
          const code = format === undefined ? "" : ` as "${format.replaceAll('"', '""')}"`;
          return {
            heading: heading ?? info.name,
            field: parseField(`${lineField(lines, info.name)}${code}`),
            total: total === "sum",
          };
        }),
        where: undefined,
        style: table.style,
        source: say().document.table({ name }),
      };
      return [columnKey(name), structure];
    }),
  );
}
