import { type Finding, formatValue, greatest, hasStop, sortFindings } from "../common/index.js";
import { say } from "../words/index.js";
import type { RowAccount } from "./plan/account.js";
import type { CaughtAccount } from "./plan/catch-up.js";
import type { ControlTotal } from "./plan/control-totals.js";
import type { Plan } from "./plan/plan.js";

/** The part of a plan that is put against what was made. */
export type PlanFacts = Pick<Plan, "rows" | "totals" | "findings" | "sealedNames"> &
  Partial<Pick<Plan, "furtherRows">> & {
    /** Periods that files which grow make up for. */
    readonly caughtUp?: readonly CaughtAccount[];
  };

/** What was made of one planned parcel. */
export interface MadeParcel {
  readonly key: string;
  readonly label: string;
  readonly files: readonly {
    readonly path: string;
    readonly size: number;
    readonly plannedRowsDigest: string;
    readonly rowsDigest: string;
  }[];
  readonly plannedFiles: number;
  readonly people: number;
  readonly messages: number;
  /** Files that go to ways out besides mail, by the way's name. */
  readonly carried?: Readonly<Record<string, number>>;
  /** Its place among all groups, and how many rows it has. */
  readonly number?: number;
  readonly rows?: number;
  /** Bytes of its largest message as it goes out. */
  readonly mailBytes?: number;
  /** Whether the group has never been delivered by this report before. */
  readonly isNew?: boolean;
}

export interface SampledParcel {
  readonly number: number;
  readonly label: string;
  readonly why: string;
}

/** The run's check sheet. */
export interface Proof {
  readonly rows: Plan["rows"];
  readonly groups: number;
  readonly totals: readonly ControlTotal[];
  /** Runs from before empty files were counted have no count of them. */
  readonly files: { readonly planned: number; readonly made: number; readonly empty?: number; readonly bytes: number };
  readonly messages: number;
  readonly people: number;
  /** Files that go to ways out besides mail, by the way's name; runs from before there were any have none. */
  readonly carried?: Readonly<Record<string, number>>;
  /** Bytes of all messages as they go out, and of the largest; runs from before they were counted have none. */
  readonly mail?: { readonly bytes: number; readonly largest: number };
  /** Parcels worth opening before the release. */
  readonly sample?: readonly SampledParcel[];
  readonly findings: readonly Finding[];
  readonly mayBeReleased: boolean;
  /** The proof in sentences with numbers that add up. */
  readonly sentences: readonly string[];
}

/** Puts plan and parcels against each other. A `stop` finding keeps the run from being released. */
export function proveRun(plan: PlanFacts, parcels: readonly MadeParcel[]): Proof {
  const findings: Finding[] = [...plan.findings];
  for (const parcel of parcels) {
    const where = say().place.group({ name: parcel.label });
    if (parcel.files.length !== parcel.plannedFiles) {
      findings.push({
        code: "file-missing",
        severity: "stop",
        where,
        what: say().run.filesMade({ fileCount: parcel.files.length, plannedFiles: parcel.plannedFiles }),
        advice: say().run.makeRunAgain(),
      });
    }
    for (const file of parcel.files) {
      if (file.size === 0)
        findings.push({
          code: "file-empty",
          severity: "stop",
          where,
          what: say().run.fileEmpty({ path: file.path }),
          advice: say().run.makeRunAgain(),
        });
      if (file.rowsDigest !== file.plannedRowsDigest)
        findings.push({
          code: "wrong-rows",
          severity: "stop",
          where,
          what: say().run.madeGroupSRows({ path: file.path }),
          advice: say().run.doSendMakeRunAgain(),
        });
    }
  }
  const made = parcels.reduce((sum, parcel) => sum + parcel.files.length, 0);
  const facts = {
    rows: plan.rows,
    groups: parcels.length,
    totals: plan.totals,
    files: {
      planned: parcels.reduce((sum, parcel) => sum + parcel.plannedFiles, 0),
      made,
      empty: parcels.reduce((sum, parcel) => sum + parcel.files.filter((file) => file.size === 0).length, 0),
      bytes: parcels.reduce((sum, parcel) => sum + parcel.files.reduce((total, file) => total + file.size, 0), 0),
    },
    messages: parcels.reduce((sum, parcel) => sum + parcel.messages, 0),
    people: parcels.reduce((sum, parcel) => sum + (parcel.messages > 0 ? parcel.people : 0), 0),
    carried: carriedBy(parcels),
    mail: {
      bytes: parcels.reduce((sum, parcel) => sum + (parcel.mailBytes ?? 0) * parcel.messages, 0),
      largest: greatest(
        parcels.map((parcel) => parcel.mailBytes ?? 0),
        0,
      ),
    },
    sample: sampleOf(parcels),
  };
  return {
    ...facts,
    findings: sortFindings(findings),
    mayBeReleased: !hasStop(findings),
    sentences: [...planSentences(plan, parcels.length), ...madeSentences(facts), ...sealSentences(plan)],
  };
}

/** How many files of all groups go to each way out. */
function carriedBy(parcels: readonly MadeParcel[]): Record<string, number> {
  const carried: Record<string, number> = {};
  for (const parcel of parcels)
    for (const [way, files] of Object.entries(parcel.carried ?? {})) carried[way] = (carried[way] ?? 0) + files;
  return carried;
}

/** New groups shown in the sample. */
const NEW_SHOWN = 3;

/** The first and the last, the largest and the smallest, and groups nobody has looked at before; each once, with its reasons. */
export function sampleOf(parcels: readonly MadeParcel[]): SampledParcel[] {
  const numbered = parcels.flatMap(({ number: at, rows = 0, label, isNew = false }) =>
    at === undefined ? [] : [{ number: at, rows, label, isNew }],
  );
  if (numbered.length === 0) return [];
  const bySize = [...numbered].sort((a, b) => a.rows - b.rows);
  const [smallest, largest] = [bySize[0], bySize[bySize.length - 1]];
  const fresh = numbered.filter((parcel) => parcel.isNew);
  const picked: readonly (readonly [(typeof numbered)[number], string])[] = [
    [numbered[0], "first"],
    [numbered[numbered.length - 1], "last"],
    [largest, say().run.mostRows({ rows: number(largest.rows) })],
    [smallest, say().run.fewestRows({ rows: number(smallest.rows) })],
    // Where all are new it is the report that is.
    ...(fresh.length === numbered.length ? [] : fresh.slice(0, NEW_SHOWN).map((parcel) => [parcel, "new"] as const)),
  ];
  return numbered.flatMap((parcel) => {
    const why = picked.flatMap(([one, words]) => (one === parcel ? [words] : []));
    return why.length === 0 ? [] : [{ number: parcel.number, label: parcel.label, why: why.join(", ") }];
  });
}

function sealSentences({ sealedNames, findings }: PlanFacts): string[] {
  if (!sealedNames) return [];
  const found = findings.filter((finding) => finding.code === "other-group-inside").length;
  return [
    say().run.sealed({
      groups: say().common.groups({ count: sealedNames.length }),
      found,
      count: number(found),
    }),
  ];
}

/** What is known before anything is made. */
export function planSentences(plan: PlanFacts, groups: number): string[] {
  const sentences = [
    say().run.rowsAddUp({
      master: number(plan.rows.master),
      made: plan.rows.made,
      madeShown: number(plan.rows.made ?? 0),
      inGroups: number(plan.rows.inGroups),
      groups: say().common.groups({ count: groups }),
      leftOut: leftOutWords(plan.rows.leftOut),
    }),
    ...(plan.furtherRows ?? []).map(({ name, master, inGroups, leftOut }) =>
      say().run.furtherRowsAddUp({
        name,
        rows: say().common.rows({ count: master }),
        inGroups: number(inGroups),
        leftOut: leftOutWords(leftOut),
      }),
    ),
  ];
  for (const total of plan.totals) sentences.push(totalSentence(total));
  for (const { period, groups: count, rows, totals } of plan.caughtUp ?? [])
    if (count > 0)
      sentences.push(
        say().run.madeUpFor({ period, account: planSentences({ rows, totals, findings: [] }, count).join(" ") }),
      );
  return sentences;
}

function leftOutWords(leftOut: RowAccount["leftOut"]): string {
  const count = leftOut.reduce((sum, entry) => sum + entry.count, 0);
  const reasons = leftOut.map((entry) => `${number(entry.count)} ${entry.reason}`).join(", ");
  return say().run.leftOut({ count: number(count), reasons: reasons === "" ? "" : ` (${reasons})` });
}

function totalSentence(total: ControlTotal): string {
  const shown = (text: string): string => number(Number(text));
  if (total.parcels === undefined) return say().run.overAllRowsKept({ name: total.name, shown: shown(total.master) });
  const rest = say().run.rowsGroup({ leftOut: Number(total.leftOut), shown: shown(total.leftOut) });
  return say().run.totalAddsUp({
    name: total.name,
    master: shown(total.master),
    sign: total.agrees ? "=" : "≠",
    parcels: shown(total.parcels),
    rest,
  });
}

function madeSentences(facts: Pick<Proof, "files" | "messages" | "people" | "mail" | "carried">): string[] {
  const { made, planned, empty = 0 } = facts.files;
  const emptiness = say().run.noneEmpty({ made, empty, number: number(empty) });
  const { mail } = facts;
  const sizes =
    mail && mail.bytes > 0 ? say().run.sizes({ together: bytes(mail.bytes), largest: bytes(mail.largest) }) : "";
  return [
    say().run.filesMadeOf({ made: number(made), planned: number(planned), emptiness }),
    say().run.messagesTo({
      messages: say().common.messages({ count: facts.messages }),
      people: say().common.people({ count: facts.people }),
      sizes,
    }),
    ...Object.entries(facts.carried ?? {}).map(([way, files]) =>
      say().run.filesToWay({ way, files: say().common.files({ count: files }) }),
    ),
  ];
}

function number(value: number): string {
  return Number.isInteger(value) ? formatValue(value, "#,##0") : formatValue(value, "#,##0.00");
}

/** A size as people say it. */
function bytes(size: number): string {
  if (size < 1_000_000) return `${number(Math.max(1, Math.round(size / 1000)))} kB`;
  return `${formatValue(size / 1_000_000, "#,##0.0")} MB`;
}
