/** What stands in the rows of each table. */
import type { Calendar } from "@corbix/core/calendar";
import type { Finding } from "@corbix/core/common";
import type { Envelope } from "@corbix/core/message";
import type { StepAccount } from "@corbix/core/prepare";
import type { Recipient } from "@corbix/core/recipients";
import type { Report } from "@corbix/core/report";
import type {
  CaughtAccount,
  ControlTotal,
  FileKind,
  FurtherAccount,
  GroupSince,
  PlannedFile,
  PlannedWay,
  Proof,
  RunSince,
} from "@corbix/core/run";
import type { Alias } from "@corbix/core/split";
import type { ChangedCells, ColumnInfo, Decision, IntakeRules, LeftOutLines } from "@corbix/core/table";
import type { MessageState, RunState } from "./row-types.js";

export type { MessageState, RunState } from "@corbix/core/delivery";

export interface DatasetRow {
  id: number;
  name: string;
  settings: DatasetSettings;
  createdAt: Date;
}

export interface EditionRow {
  id: number;
  datasetId: number;
  number: number;
  origin: string;
  sha256: string;
  /** Digest of the file as it is kept; nothing where it was deleted with the rows. */
  stored: string | null;
  /** When its rows and its file were deleted. */
  emptiedAt: Date | null;
  /** How often somebody was erased from it. */
  rewritten: number;
  rowCount: number;
  columns: readonly ColumnInfo[];
  reading: Readonly<Record<string, string>>;
  headerRow: number;
  leftOut: readonly LeftOutLines[];
  decisions: readonly Decision[];
  /** How many cells stand otherwise than in the file, by column and kind. */
  changes: readonly ChangeCount[];
  /** The corrections it was read with. */
  rules: IntakeRules;
  /** How many rows were added and replaced, where it adds to the edition before. */
  appended: { readonly added: number; readonly replaced: number } | null;
  findings: readonly Finding[];
  createdBy: string;
  createdAt: Date;
}

export interface ChangeCount {
  readonly column: string;
  readonly kind: ChangedCells["kind"];
  readonly count: number;
}

/** What is set once for a dataset and holds for its later editions. */
export interface DatasetSettings {
  readonly rules?: IntakeRules;
  /** The workbook's password, sealed. */
  readonly password?: string;
  /** `append` adds to the edition before by `key`; otherwise a file replaces it. */
  readonly mode?: "replace" | "append";
  readonly key?: readonly string[];
  readonly aliases?: readonly Alias[];
  /** Months after which rows of editions before the newest are deleted. */
  readonly keepMonths?: number;
  /** Name before the @ of the address that takes files for it by mail, and who may send them. */
  readonly mailbox?: { readonly name: string; readonly senders: readonly string[] };
}

export interface RecipientListRow {
  id: number;
  origin: string;
  sha256: string;
  /** Digest of the file it was read from, if it was. */
  stored: string | null;
  /** When its entries were deleted. */
  emptiedAt: Date | null;
  /** The version it was made from. */
  follows: number | null;
  recipients: readonly Recipient[];
  findings: readonly Finding[];
  createdBy: string;
  createdAt: Date;
}

export interface TemplateVersionRow {
  id: number;
  name: string;
  number: number;
  sha256: string;
  size: number;
  createdBy: string;
  createdAt: Date;
}

export interface ReportVersionRow {
  id: number;
  name: string;
  number: number;
  source: string;
  definition: Report;
  /** Why it was saved. */
  note: string | null;
  createdBy: string;
  createdAt: Date;
}

export interface Approval {
  readonly by: string;
  readonly at: string;
  /** Of what it was given for; those of older versions have none, and stand for nothing. */
  readonly digest?: string;
  /** Keys of the groups it was given for; null for all. */
  readonly groups?: readonly string[] | null;
}

/** How a run came to its period where nobody named one. */
export interface PeriodChoice {
  readonly chosen: string;
  /** Other periods that are over and not delivered, the earliest first. */
  readonly open: readonly string[];
  /** Those that the files of the run make up for, as far as they have rows. */
  readonly along?: readonly string[];
}

export interface RunPlan {
  readonly rows: Proof["rows"];
  /** What each step of the preparation did; runs from before steps were counted have none. */
  readonly steps?: readonly StepAccount[];
  /** Names of all groups, where the report is sealed. */
  readonly sealedNames?: readonly string[];
  readonly totals: readonly ControlTotal[];
  /** Where the rows of further lines went; runs without them have none. */
  readonly furtherRows?: readonly FurtherAccount[];
  /** Periods that files which grow make up for; most runs have none. */
  readonly caughtUp?: readonly CaughtAccount[];
  readonly findings: readonly Finding[];
}

export interface RunRow {
  id: string;
  report: string;
  reportVersion: number;
  period: string;
  /** What its deliveries are for, as the ledger keeps it. */
  occasion: string;
  /** Where the period was not named: what was chosen and what else is open. */
  periodChoice: PeriodChoice | null;
  /** What its periods go by, as it stood when it was started. */
  calendar: Calendar | null;
  state: RunState;
  /** What a run that waits is waiting for, and the state it goes back to. */
  waitingFor: {
    readonly state: RunState;
    readonly code: string;
    readonly message: string;
    readonly advice?: string;
  } | null;
  editionId: number;
  /** Datasets with the edition that is used of each. */
  editions: Readonly<Record<string, number>>;
  recipientListId: number | null;
  /** Templates with the SHA-256 of the version that is used. */
  templates: Readonly<Record<string, string>>;
  runDate: number;
  rehearsalTo: string | null;
  onlyGroups: readonly string[] | null;
  againReason: string | null;
  /** Of what set it going, as logs and traces name it. */
  trace: string | null;
  /** Rows of the edition that alone are used, with the words for the others. */
  onlyRows: { readonly rowNumbers: readonly number[]; readonly why: string } | null;
  /** Its waiting messages stay where they are until it is resumed. */
  paused: boolean;
  /** What of it was deleted when its time was over, and when. */
  emptied: Readonly<Partial<Record<"files" | "messages" | "rows", string>>>;
  /** When it releases itself. */
  releaseAt: Date | null;
  /** Who said that it may go, where more than one has to. */
  approvals: readonly Approval[];
  columns: readonly ColumnInfo[] | null;
  plan: RunPlan | null;
  proof: Proof | null;
  since: SinceRow | null;
  error: { readonly code: string; readonly message: string; readonly where?: string; readonly advice?: string } | null;
  parcelCount: number;
  startedBy: string;
  releasedBy: string | null;
  createdAt: Date;
  touchedAt: Date;
  releasedAt: Date | null;
  finishedAt: Date | null;
}

/** A file that goes with a parcel's message and was not made of its rows. */
export interface EnclosedFile {
  readonly name: string;
  readonly sha256: string;
  readonly size: number;
  /** `fixed`: the same for all, from the library. `found`: in the folder of attachments, for this group. */
  readonly kind: "fixed" | "found";
  /** Where it was found, within the folder of attachments. */
  readonly origin: string;
  /** The run and group it was found for. */
  readonly run: string;
  readonly group: string;
}

export interface ParcelRow {
  id: string;
  runId: string;
  number: number;
  groupKey: string;
  label: string;
  rowCount: number;
  rowsDigest: string;
  recipients: readonly Recipient[];
  planned: readonly PlannedFile[];
  attachments: readonly string[];
  enclosed: readonly EnclosedFile[];
  /** Where its files go besides mail. */
  ways: readonly PlannedWay[];
  totals: Readonly<Record<string, string>>;
  /** Deflated JSON: `{ rowNumbers, columns }` of the group's prepared rows. */
  lines: Buffer;
  /** What tells its rows apart, where rows go out once. */
  rowKeys: readonly string[] | null;
  /** Why its group is left out. */
  leftOut: string | null;
  state: "planned" | "made" | "failed";
  error: RunRow["error"];
  findings: readonly Finding[];
  /** What the group had in the run of the period before; of a group that is new, or of a run without one, nothing. */
  since: Omit<GroupSince, "moved"> | null;
  /** How much of that is another now. */
  moved: number | null;
}

/** A run beside the one of the period before. */
export interface SinceRow {
  readonly run: string;
  readonly period: string;
  readonly newCount: number;
  readonly movedCount: number;
  readonly resizedCount: number;
  readonly goneCount: number;
  /** The first of them. */
  readonly gone: RunSince["gone"];
}

export interface FileRow {
  id: string;
  runId: string;
  parcelId: string;
  file: string;
  kind: FileKind;
  path: string;
  sha256: string;
  size: number;
  pages: number | null;
  groupKey: string;
  rowsDigest: string;
  provenance: Readonly<Record<string, unknown>>;
  createdAt: Date;
  /** When its bytes were deleted, its time being over. */
  removedAt: Date | null;
}

/** What became of one address of a message. */
export interface AddressResult {
  readonly state: "taken" | "later" | "refused" | "returned" | "delayed" | "delivered";
  readonly response: string;
}

export interface MessageRow {
  id: string;
  runId: string;
  parcelId: string;
  groupKey: string;
  /** Which of several messages of a parcel: a language or a person; blank where there is one. */
  part: string;
  /** 0 for the first; counts each "send again". */
  again: number;
  againReason: string | null;
  /** Name of the sending identity, or of the way out. */
  identity: string;
  /** Name of the way out by which files go in place of mail; addresses are folders and names there. */
  way: string | null;
  carried: Omit<PlannedWay, "way"> | null;
  language: string | null;
  subject: string;
  html: string;
  text: string;
  envelope: Envelope;
  messageId: string;
  state: MessageState;
  /** When it was let go; nothing goes without. */
  releasedAt: Date | null;
  attempts: number;
  response: string | null;
  /** By address. */
  results: Readonly<Record<string, AddressResult>>;
  notBefore: Date | null;
  /** The date it bears, from its first attempt on. */
  datedAt: Date | null;
  /** Its bytes as sent, deflated, with a mark where each attachment's go. */
  mime: Buffer | null;
  /** Digest of the zip file its attachments went in, where they did. */
  packed: string | null;
  /** Digest and number of its bytes as sent. */
  sha256: string | null;
  size: number | null;
  findings: readonly Finding[];
  worker: string | null;
  sentAt: Date | null;
  touchedAt: Date;
}

export interface LetterRow {
  id: string;
  receivedAt: Date;
  mailFrom: string;
  rcptTo: readonly string[];
  subject: string;
  messageId: string;
  size: number;
  attachments: number;
  raw: Buffer;
}
