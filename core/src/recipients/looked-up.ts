/** What the list of recipients is asked for. */

import { columnKey, type Finding, groupKey } from "../common/index.js";
import { isoCell } from "../grid/index.js";
import type { Group } from "../split/index.js";
import type { Table } from "../table/index.js";
import { say } from "../words/index.js";

export interface LookedUp {
  /** What the list is asked for. */
  readonly key: string;
  /** The column it stands in, where it is not the group's name. */
  readonly column?: string;
  readonly value?: string;
}

/** What the list is asked for: the group, or what its rows have in a column. Rows that name several are nobody's. */
export function lookedUp(
  group: Group,
  by: string | undefined,
  table: Table | undefined,
  findings: Finding[],
): LookedUp | { readonly why: string } {
  if (by === undefined) return { key: group.key };
  const values = new Map<string, string>();
  for (const text of textsOf(group, by, table)) if (!values.has(groupKey(text))) values.set(groupKey(text), text);
  const [first] = values;
  if (first === undefined) return { why: say().recipients.rowsLookUpList({ by }) };
  if (values.size === 1) return { key: first[0], column: by, value: first[1] };
  findings.push({
    code: "several-looked-up",
    severity: "stop",
    where: say().recipients.groupColumn({ label: group.label, by }),
    what: say().recipients.rowsValuesPeopleFoundThem({
      label: group.label,
      valueCount: values.size,
      by,
      shownFew: shownFew([...values.values()]),
    }),
    advice: say().recipients.splitWellLookPeopleUp({ by }),
    count: values.size,
  });
  return { why: say().recipients.rowsSeveralValues({ by }) };
}

/** Values that are named in a sentence. */
const FEW = 5;
const shownFew = (texts: readonly string[]): string =>
  texts
    .slice(0, FEW)
    .map((text) => `"${text}"`)
    .join(", ") + (texts.length > FEW ? ", …" : "");

/** The different texts that a group's rows have in a column. */
export function textsOf(group: Group, wanted: string, table: Table | undefined): string[] {
  const found = table?.columns.find((one) => columnKey(one.name) === columnKey(wanted));
  return found
    ? [
        ...new Set(
          group.rows
            .map((row) => String(isoCell(found.type, found.values[row]) ?? "").trim())
            .filter((text) => text !== ""),
        ),
      ]
    : [];
}
