/** Calls of the service's HTTP API; /openapi.json tells their shapes whole. */

export interface Finding {
  code: string;
  severity: "stop" | "warn" | "note";
  where: string;
  what: string;
  advice: string;
  count?: number;
  cells?: { column?: string; rows: number[] };
}
export interface Column {
  name: string;
  type: "text" | "number" | "date" | "datetime" | "time" | "boolean";
  unit?: string;
}
export type Cell = string | number | boolean | null;
export interface Rows {
  columns: Column[];
  rowNumbers: number[];
  rows: Cell[][];
  total: number;
}
/** What was found in a file. */
export interface Reading {
  rowCount: number;
  columns: Column[];
  reading: Record<string, string>;
  headerRow: number;
  leftOut: LeftOutLines[];
  decisions: Decision[];
  changes: { column: string; kind: string; count: number }[];
  rules: IntakeRules;
  appended: { added: number; replaced: number } | null;
  findings: Finding[];
}
export interface Edition extends Reading {
  dataset: string;
  number: number;
  origin: string;
  createdBy: string;
  createdAt: string;
}
export interface DatasetSummary {
  name: string;
  editions: number;
  newest: Edition | null;
}
export interface Person {
  address: string;
  name?: string;
}
export interface Recipient {
  group: string;
  name: string;
  role?: "to" | "copy" | "blind";
  to: Person[];
  copies: Person[];
  blindCopies: Person[];
  dataset?: string;
  language?: string;
  from?: number;
  until?: number;
  neverSend?: boolean;
  fields: Record<string, string>;
  row: number;
}
export interface ListChange {
  kind: "added" | "changed" | "removed";
  group: string;
  name: string;
  fields: string[];
}
export interface ListPreview {
  changes: ListChange[];
  unchanged: number;
  recipients: Recipient[];
  findings: Finding[];
}
export interface ListVersion {
  id: number;
  origin: string;
  createdAt: string;
  createdBy: string;
  recipients: number;
  added: number;
  changed: number;
  removed: number;
  changes: ListChange[];
}
/** Who would receive for a group, by which rule, or why nobody. */
export interface Matching {
  number: number;
  group: string;
  rows: number;
  nobody: string | null;
  people: { name: string; role: string; to: Person[]; language: string | null; why: string }[];
}
export interface Identity {
  name: string;
  settings: {
    from: string;
    host?: string;
    port: number;
    security: "tls" | "starttls" | "none";
    user?: string;
    senders: string[];
    domains: string[];
    perMinute: number;
    perHour?: number;
    connections: number;
    patienceHours: number;
    maxBytes: number;
    tooLarge: "stop" | "zip" | "link";
    dkim?: { domain: string; selector: string };
  };
  hasPassword: boolean;
  hasDkimKey: boolean;
  paused: boolean;
  restUntil: string | null;
  restWhy: string | null;
  waiting: number;
  sending: number;
  held: number;
  sentInHour: number;
  secondsLeft: number | null;
}
export interface LetterboxRule {
  id: number;
  used: number;
  rule: { does: string; to?: string; subject?: string; share: number; times?: number };
}
export interface RecipientList {
  origin: string;
  createdAt: string;
  createdBy: string;
  recipients: Recipient[];
  findings: Finding[];
}
export interface Template {
  name: string;
  number: number;
  size: number;
  createdBy: string;
  createdAt: string;
  marks?: string[];
  /** Files of reports that are made from it. */
  uses?: { report: string; file: string; title: string }[];
}
export interface Mark {
  where: string;
  mark: string;
  from: string;
  problem?: { what: string; advice?: string };
}
/** A file made for one group, to be looked at. */
export interface Trial {
  id: string;
  period: string | null;
  group: string;
  groups: { key: string; label: string; rows: number }[];
  files: { kind: string; size: number; pages?: number }[];
  findings: Finding[];
  columns: Rows["columns"];
  rowNumbers: number[];
  rows: Rows["rows"];
}
export interface Report {
  name: string;
  number: number;
  source: string;
  definition: {
    title: string;
    data: string;
    message?: object;
    period?: { every: string };
    schedule?: { rule: string; at: string; zone: string };
  };
  nextTimes: string[];
  createdBy: string;
  createdAt: string;
}
export interface MessageWords {
  subject: string;
  kind: "html" | "markdown" | "text";
  body: string;
  template?: string | undefined;
  text?: string | undefined;
}
export interface EditableMessage {
  version: number;
  words: Record<string, MessageWords>;
  columns: { name: string; type: string }[];
}
export interface TriedMessage {
  period: string | null;
  group: string;
  groups: { key: string; label: string; rows: number }[];
  messages: { language: string; people: string[]; subject: string; html: string; text: string }[];
}
export interface Run {
  id: string;
  report: string;
  title: string;
  data: string;
  edition: number;
  period: string;
  periodLabel: string;
  state: string;
  rehearsalTo: string | null;
  goesOn: boolean;
  parcelCount: number;
  sentences: string[];
  findings: Finding[];
  progress: { parcels: Record<string, number>; messages: Record<string, number> };
  proof: {
    mayBeReleased: boolean;
    messages: number;
    people: number;
    files: { planned: number; made: number; bytes: number };
    sample?: { number: number; label: string; why: string }[];
  } | null;
  paused: boolean;
  emptied: Record<string, string>;
  releaseAt: string | null;
  approvals: { by: string; at: string }[];
  approvalsWanted: number;
  /** What may happen once, as a sentence. */
  onceSentence: string;
  /** How it came to its period, where nobody named one. */
  periodSentence: string | null;
  /** What its release would do, while it is held. */
  outlook?: {
    groups: number;
    messages: number;
    had: number;
    some: number;
    again: number;
    sentences: string[];
    notable: { label: string; what: "some" | "again" | "had"; day?: string; run?: string }[];
  } | null;
  waitingFor: { message: string; advice?: string } | null;
  error: { message: string; where?: string; advice?: string } | null;
  startedBy: string;
  releasedBy: string | null;
  createdAt: string;
  releasedAt: string | null;
  finishedAt: string | null;
}
export interface MadeFile {
  id: string;
  path: string;
  kind: "xlsx" | "docx" | "pdf";
  size: number;
  pages: number | null;
  sha256: string;
  attached: boolean;
}
export interface Message {
  id: string;
  subject: string;
  envelope: { to: Person[]; cc: Person[]; bcc: Person[] };
  messageId: string;
  state: string;
  attempts: number;
  response: string | null;
  results: Record<string, { state: string; response: string }>;
  again: number;
  againReason: string | null;
  part: string;
  size: number | null;
  sentAt: string | null;
}
export interface Parcel {
  number: number;
  label: string;
  groupKey: string;
  rowCount: number;
  totals: Record<string, string>;
  state: string;
  error: { message: string; where?: string } | null;
  files: MadeFile[];
  message: Message | null;
  html?: string | null;
  text?: string | null;
  recipients: (Recipient & { why?: string })[];
  messages?: Message[];
  attempts?: {
    messageId: string;
    stage: string | null;
    number: number;
    startedAt: string;
    finishedAt: string | null;
    outcome: string | null;
    response: string | null;
  }[];
}
export interface OutboxEntry {
  id: string;
  runId: string;
  parcel: number;
  report: string;
  period: string;
  label: string;
  subject: string;
  rehearsalTo: string | null;
  envelope: { to: Person[]; cc: Person[]; bcc: Person[] };
  state: string;
  attempts: number;
  response: string | null;
  identity: string;
  againReason: string | null;
  sentAt: string | null;
  touchedAt: string;
  notBefore: string | null;
}
export interface LetterSummary {
  id: string;
  receivedAt: string;
  mailFrom: string;
  rcptTo: string[];
  subject: string;
  size: number;
  attachments: number;
}
export interface Letter {
  id: string;
  receivedAt: string;
  mailFrom: string;
  rcptTo: string[];
  subject: string;
  html: string | null;
  text: string;
  headers: string[];
  attachments: { index: number; filename: string; contentType: string; size: number }[];
}
export interface Overview {
  datasets: number;
  templates: number;
  reports: number;
  runs: number;
  held: number;
  onTheWay: number;
  sent: number;
  troubled: number;
  letters: number;
}

export interface Decision {
  what: string;
  chosen: string;
  why: string;
  corrected: boolean;
}
export interface ColumnRule {
  type: Column["type"];
  order?: "day-first" | "month-first";
  decimal?: "point" | "comma";
}
/** Corrections of how a file is read; what is left out is found by itself. */
export interface IntakeRules {
  encoding?: string;
  delimiter?: string;
  quote?: "quotation mark" | "apostrophe" | "none";
  list?: string;
  sheet?: string;
  table?: string;
  header?: "none";
  names?: string[];
  headerRow?: number;
  headerLines?: number;
  firstColumn?: string;
  lastColumn?: string;
  end?: "found" | "blank-row" | "last-row" | { row: number };
  types?: Record<string, ColumnRule>;
}
export interface LeftOutLines {
  reason: string;
  count: number;
  lines: { row: number; text: string }[];
}
export interface Difference {
  before: number;
  after: number;
  rows: { before: number; after: number };
  added: { count: number; rowNumbers: number[] };
  gone: { count: number; rowNumbers: number[] };
  changed: {
    count: number;
    columns: Record<string, number>;
    examples: { key: string; column: string; before: Cell; after: Cell }[];
  } | null;
  same: number;
  columns: { added: string[]; gone: string[] };
  groups: { column: string; before: number; after: number; added: string[]; gone: string[] }[];
  totals: { column: string; before: string; after: string; difference: string }[];
}
export interface Preview extends Reading {
  difference: Difference | null;
  preview: { rowNumbers: number[]; rows: Cell[][] };
}
export interface DatasetSettings {
  rules: IntakeRules;
  mode: "replace" | "append";
  key: string[];
  aliases: { column: string; from: string; to: string }[];
  mailbox: { name: string; senders: string[] } | null;
  address: string | null;
  /** Files put into it are taken by themselves. */
  folder: string | null;
  hasPassword: boolean;
}
export interface Arrival {
  id: number;
  at: string;
  way: string;
  sender: string;
  file: string;
  dataset: string | null;
  outcome: string;
  edition: number | null;
  message: string | null;
}
export type Comparison =
  | "equal"
  | "not-equal"
  | "containing"
  | "beginning"
  | "at-least"
  | "at-most"
  | "blank"
  | "filled";
export interface Filter {
  column: string;
  is: Comparison;
  value: string;
}
export interface Query {
  search: string;
  filters: Filter[];
  sort: string[];
}
export interface Look {
  columns: Column[];
  rowNumbers: number[];
  rows: Cell[][];
  first: number;
  total: number;
  of: number;
}
/** What a grid looks at: an edition, or what a report's preparation makes of it up to a step. */
export interface Sight {
  dataset: string;
  edition: number;
  report?: string;
  step?: number;
}
export interface Profile {
  name: string;
  type: Column["type"];
  unit?: string;
  count: number;
  blanks: number;
  distinct: number;
  min: Cell;
  max: Cell;
  sum: string | null;
  histogram: { from: number; to: number; count: number }[];
  frequent: { value: Cell; count: number }[];
}
export interface GroupList {
  by: string[];
  groups: {
    key: string;
    label: string;
    count: number;
    spellings: string[];
    isNew: boolean;
    hasRecipients: boolean | null;
  }[];
  blank: { count: number; rowNumbers: number[] };
  gone: string[];
  near: { from: string; to: string; why: string }[];
  findings: Finding[];
}
export interface Step {
  kind: string;
  what: string;
  rowsIn: number;
  rowsOut: number;
  leftOut: { reason: string; count: number; rowNumbers: number[] }[];
  made: number;
  columnsAdded: string[];
  columnsDropped: string[];
  findings: Finding[];
}

/** What the service says went wrong, where, and what to do (RFC 9457). */
export class Problem extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly where?: string,
    readonly advice?: string,
  ) {
    super(message);
  }
}

async function call(path: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(path, init).catch(() => {
    throw new Problem(
      "The service cannot be reached.",
      0,
      undefined,
      "See that it runs; this page tries again by itself.",
    );
  });
  if (response.ok) return response;
  const problem = await response.json().catch(() => ({}));
  throw new Problem(
    problem.title ?? `The service answered ${response.status}.`,
    response.status,
    problem.where,
    problem.advice,
  );
}

export async function get<T>(path: string): Promise<T> {
  return (await call(path)).json();
}

export async function getBytes(path: string): Promise<ArrayBuffer> {
  return (await call(path)).arrayBuffer();
}

export async function send<T>(method: string, path: string, body: unknown = {}): Promise<T> {
  return (
    await call(path, { method, headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) })
  ).json();
}

/** Sends a file, or a text, as it is. */
export async function upload<T>(method: string, path: string, body: Blob | string): Promise<T> {
  return (
    await call(path, {
      method,
      headers: { "Content-Type": typeof body === "string" ? "text/plain" : "application/octet-stream" },
      body,
    })
  ).json();
}
