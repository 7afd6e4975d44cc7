/** What a run is planned of. */
import type { LeftOutRows } from "../../prepare/index.js";
import type { Recipient } from "../../recipients/index.js";
import type { Report } from "../../report/index.js";
import type { Alias, Group } from "../../split/index.js";
import type { Table } from "../../table/index.js";
import type { ReportMaker } from "../report-maker.js";
import type { RunFacts } from "../scope.js";

export interface PlanInput {
  readonly report: Report;
  readonly table: Table;
  readonly others: ReadonlyMap<string, Table>;
  readonly recipients: readonly Recipient[];
  readonly templates: ReadonlyMap<string, Uint8Array>;
  readonly facts: RunFacts;
  /** Rows of the edition that were not even read, since none of them lies in the period. */
  readonly notRead?: readonly LeftOutRows[];
  /** Spellings that count as one group. */
  readonly aliases?: readonly Alias[];
  /** Only these rows of the edition, by their number in the origin; the rest counts as left out. */
  readonly onlyRows?: { readonly rowNumbers: ReadonlySet<number>; readonly why: string };
  /** Only these groups, by cleaned key; the rest counts as left out. */
  readonly only?: readonly string[];
  /** Keys of the groups that this report has had before, if it has run before. */
  readonly knownGroups?: ReadonlySet<string>;
  /** Rows of a group that have gone out before and do so once only: by row of the prepared table, why it is left out. */
  readonly delivered?: (table: Table, group: Group) => ReadonlyMap<number, string>;
  /** Checks the report against its columns, or knows what came of that before. */
  readonly checked?: (check: () => ReportMaker) => ReportMaker;
  /** Called now and then while thousands of groups are planned, for whoever has to look after memory meanwhile. */
  readonly meanwhile?: () => void;
}
