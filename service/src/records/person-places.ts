/** Where words are kept that may name a person: tables with their columns, and what becomes of them. A test holds it against the database. */

/** How a column's words are kept. `blank`: they go whole where the row is about the person. `packed`: deflated JSON. */
export type Kept = "text" | "json" | "list" | "blank" | "packed";

/** A table whose words may name a person, and what becomes of them. */
export interface Place {
  readonly table: string;
  /** Its key's columns, and their types. */
  readonly key: readonly (readonly [column: string, type: string])[];
  readonly columns: Readonly<Record<string, Kept>>;
  /** Which of its rows, where not all: SQL. */
  readonly where?: string;
  /** What tells somebody which row it is: SQL. */
  readonly label: string;
  /** The run that it belongs to, where it does: SQL. What belongs to a run under way stays as it is. */
  readonly run?: string;
  /** When it was written, where duties go by that: SQL. */
  readonly at?: string;
  /** `change`: the words go. `delete`: the row goes. `told`: it is found and told, and is somebody's to change by hand. `ledger`: it tells what went out, and stays. */
  readonly how: "change" | "delete" | "told" | "ledger";
  /** What is deleted along with the words: SQL of an assignment. */
  readonly along?: string;
}

const ID = [["id", "bigint"]] as const;

/** In the order in which they are told. What somebody is called who did something stands under `ACTORS`, the trail by itself. */
export const PLACES = {
  parcels: {
    table: "parcels",
    key: ID,
    columns: { recipients: "json", findings: "json", error: "json", lines: "packed" },
    label: "run_id || ', ' || label",
    run: "run_id",
    how: "change",
  },
  furtherLines: {
    table: "parcel_lines",
    key: [
      ["parcel_id", "bigint"],
      ["name", "text"],
      ["period", "text"],
    ],
    columns: { lines: "packed" },
    label: "(SELECT run_id || ', ' || label FROM parcels WHERE parcels.id = parcel_id) || ', ' || name",
    run: "(SELECT run_id FROM parcels WHERE parcels.id = parcel_id)",
    how: "change",
  },
  runLines: {
    table: "run_lines",
    key: [
      ["run_id", "text"],
      ["name", "text"],
      ["period", "text"],
    ],
    columns: { lines: "packed" },
    label: "run_id || ', ' || name",
    run: "run_id",
    how: "change",
  },
  runs: {
    table: "runs",
    key: [["id", "text"]],
    columns: {
      plan: "json",
      only_groups: "json",
      since: "json",
      proof: "json",
      error: "json",
      rehearsal_to: "text",
      again_reason: "text",
      only_rows: "json",
      waiting_for: "json",
    },
    label: "id || ', ' || report || ' ' || period",
    run: "id",
    how: "change",
  },
  messages: {
    table: "messages",
    key: ID,
    columns: {
      envelope: "json",
      subject: "text",
      html: "blank",
      text: "blank",
      response: "text",
      results: "json",
      carried: "json",
      again_reason: "text",
      findings: "json",
    },
    label: "run_id || ', ' || subject",
    run: "run_id",
    how: "change",
    along: "mime = NULL, packed = NULL",
  },
  attempts: {
    table: "attempts",
    key: ID,
    columns: { response: "text" },
    label: "message_id::text",
    run: "(SELECT run_id FROM messages WHERE messages.id = attempts.message_id)",
    how: "change",
  },
  reports: {
    table: "delivery_reports",
    key: ID,
    columns: { facts: "json" },
    label: "at::text",
    run: "(SELECT run_id FROM messages WHERE messages.id = delivery_reports.message_id)",
    how: "delete",
  },
  letters: {
    table: "letters",
    key: ID,
    columns: { mail_from: "text", rcpt_to: "json", subject: "text" },
    label: "subject",
    how: "delete",
  },
  questions: {
    table: "questions",
    key: [["id", "text"]],
    columns: { given: "json", filled: "json" },
    label: "report || ', ' || asked_at::date",
    how: "delete",
  },
  colleagues: {
    table: "colleagues",
    key: ID,
    columns: { name: "text" },
    label: "name",
    how: "delete",
  },
  watchers: {
    table: "watchers",
    key: [["name", "text"]],
    columns: { name: "text", address: "text" },
    label: "name",
    how: "delete",
  },
  tellings: {
    table: "tellings",
    key: ID,
    columns: { watcher: "text", address: "text", error: "text" },
    label: "due_at::date::text",
    how: "change",
  },
  notices: {
    table: "notices",
    key: ID,
    columns: { what: "text", advice: "text" },
    label: "at::date::text",
    how: "change",
  },
  arrivals: {
    table: "arrivals",
    key: ID,
    columns: { sender: "text", file: "text", message: "text" },
    label: "at::date || ', ' || file",
    how: "change",
  },
  uploads: {
    table: "uploads",
    key: [["sha256", "text"]],
    columns: { file: "text" },
    label: "file",
    how: "told",
  },
  editions: {
    table: "editions",
    key: ID,
    columns: { origin: "text", columns: "json", left_out: "json", findings: "json", decisions: "json", rules: "json" },
    label: "(SELECT name FROM datasets WHERE datasets.id = dataset_id) || ', ' || number",
    how: "change",
  },
  changedCells: {
    table: "edition_changes",
    key: [
      ["edition_id", "int"],
      ["number", "int"],
    ],
    columns: { data: "packed" },
    label:
      "(SELECT datasets.name || ', ' || editions.number FROM editions JOIN datasets ON datasets.id = dataset_id WHERE editions.id = edition_id) || ', ' || column_name",
    how: "change",
  },
  people: {
    table: "users",
    key: ID,
    columns: { name: "text", shown_name: "text", address: "text", provider_subject: "text" },
    label: "name",
    how: "told",
  },
  definitions: {
    table: "report_versions",
    key: ID,
    columns: { source: "text", note: "text" },
    label: "name || ', ' || number",
    how: "told",
  },
  settings: {
    table: "identities",
    key: [["name", "text"]],
    columns: { settings: "json", rest_why: "text" },
    label: "name",
    how: "told",
  },
  datasetSettings: {
    table: "datasets",
    key: ID,
    columns: { name: "text", settings: "json" },
    label: "name",
    how: "told",
  },
  calendars: {
    table: "calendars",
    key: [["name", "text"]],
    columns: { definition: "json" },
    label: "name",
    how: "told",
  },
  letterboxRules: { table: "letterbox_rules", key: ID, columns: { rule: "json" }, label: "id::text", how: "told" },
  senders: { table: "senders", key: ID, columns: { name: "text" }, label: "report || ', ' || name", how: "told" },
  groups: {
    table: "parcels",
    key: ID,
    columns: {
      label: "text",
      group_key: "text",
      totals: "json",
      planned: "json",
      attachments: "json",
      enclosed: "json",
      row_keys: "list",
      left_out: "text",
      ways: "json",
      since: "json",
    },
    label: "run_id || ', ' || label",
    how: "ledger",
  },
  reached: {
    table: "ledger",
    key: [
      ["report", "text"],
      ["occasion", "text"],
      ["group_key", "text"],
      ["part", "text"],
    ],
    columns: { addresses: "list" },
    label: "report || ', ' || occasion",
    run: "run_id",
    how: "change",
  },
  ledger: {
    table: "ledger",
    key: [
      ["report", "text"],
      ["occasion", "text"],
      ["group_key", "text"],
      ["part", "text"],
    ],
    columns: { group_key: "text", occasion: "text" },
    label: "report || ', ' || occasion",
    how: "ledger",
  },
  found: {
    table: "found_left",
    key: ID,
    columns: { addresses: "list" },
    label: "report || ', ' || occasion",
    run: "run_id",
    how: "change",
  },
  foundGroups: {
    table: "found_left",
    key: ID,
    columns: { label: "text", group_key: "text", occasion: "text" },
    label: "report || ', ' || occasion",
    how: "ledger",
  },
  foundRows: {
    table: "delivered_rows",
    key: [
      ["found_id", "bigint"],
      ["row_key", "text"],
    ],
    where: "delivered_rows.found_id IS NOT NULL",
    columns: { row_key: "text", group_key: "text" },
    label: "report",
    how: "ledger",
  },
  halts: {
    table: "halts",
    key: ID,
    columns: { facts: "json", words: "text" },
    label: "at::date::text",
    how: "change",
  },
  deliveredRows: {
    table: "delivered_rows",
    where: "delivered_rows.found_id IS NULL",
    key: [
      ["message_id", "bigint"],
      ["row_key", "text"],
    ],
    columns: { row_key: "text", group_key: "text" },
    label: "report",
    how: "ledger",
  },
  recordKeys: {
    table: "record_keys",
    key: [
      ["report", "text"],
      ["key", "text"],
    ],
    columns: { key: "text" },
    label: "report",
    how: "ledger",
  },
} as const satisfies Readonly<Record<string, Place>>;

export type PlaceName = keyof typeof PLACES;

/** Columns that hold what somebody is called who did something: equal to it, whole. */
export const ACTORS: Readonly<Record<string, readonly string[]>> = {
  editions: ["created_by"],
  recipient_lists: ["created_by"],
  template_versions: ["created_by"],
  report_versions: ["created_by"],
  calendars: ["created_by"],
  colleagues: ["created_by"],
  letterbox_rules: ["created_by"],
  senders: ["created_by"],
  watchers: ["created_by"],
  uploads: ["created_by"],
  users: ["created_by"],
  questions: ["asked_by"],
  answers: ["made_by"],
  put_away: ["by"],
  runs: ["started_by", "released_by"],
  halts: ["by", "ended_by"],
  found_left: ["decided_by"],
};
