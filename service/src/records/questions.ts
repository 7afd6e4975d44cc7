/** What was asked of reports, by whom, and what was made of the answers. */
import type { FilledField, Values } from "@corbix/core/enquiry";
import type { FileKind } from "@corbix/core/run";
import type { Database } from "./database/database.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";

/** Somebody who may ask without a sign-in, by an address of their own. */
export interface ColleagueRow {
  readonly id: number;
  readonly name: string;
  /** Reports that may be asked; all without any. */
  readonly reports: readonly string[] | null;
  readonly createdBy: string;
  readonly createdAt: Date;
  readonly usedAt: Date | null;
}

export interface QuestionRow {
  readonly id: string;
  readonly report: string;
  readonly version: number;
  /** By dataset the number of the edition that was asked. */
  readonly editions: Readonly<Record<string, number>>;
  /** Serial of the day that was `today()`. */
  readonly day: number;
  readonly given: Values;
  readonly filled: readonly FilledField[];
  readonly found: number;
  /** Rows there were to be found. */
  readonly rows: number;
  readonly askedBy: string;
  readonly colleagueId: number | null;
  readonly askedAt: Date;
}

/** A file that was made of an answer. */
export interface AnswerRow {
  readonly questionId: string;
  readonly form: string;
  readonly kind: FileKind;
  /** Number of the one row it shows. */
  readonly row: number | null;
  readonly sha256: string;
  readonly size: number;
  readonly madeBy: string;
  readonly madeAt: Date;
}

const COLLEAGUE = 'id, name, reports, created_by AS "createdBy", created_at AS "createdAt", used_at AS "usedAt"';

export function colleagues(database: Database): Promise<ColleagueRow[]> {
  return database.select<ColleagueRow>(`SELECT ${COLLEAGUE} FROM colleagues ORDER BY name`);
}

export async function colleagueOfToken(database: Database, digest: string): Promise<ColleagueRow | undefined> {
  return (await database.select<ColleagueRow>(`SELECT ${COLLEAGUE} FROM colleagues WHERE digest = $1`, [digest]))[0];
}

/** Adds a colleague, or gives a known one another address and other reports. */
export async function saveColleague(
  database: Database,
  {
    name,
    digest,
    reports,
    createdBy,
  }: Pick<ColleagueRow, "name" | "reports" | "createdBy"> & { readonly digest: string },
): Promise<void> {
  await database.execute(
    `INSERT INTO colleagues (name, digest, reports, created_by) VALUES ($1, $2, $3, $4)
     ON CONFLICT (name) DO UPDATE SET digest = excluded.digest, reports = excluded.reports, created_by = excluded.created_by, created_at = now(), used_at = NULL`,
    [name, digest, reports === null ? null : JSON.stringify(reports), createdBy],
  );
}

export async function deleteColleague(database: Database, name: string): Promise<boolean> {
  return (await database.execute("DELETE FROM colleagues WHERE name = $1", [name])) > 0;
}

/** Notes when somebody last asked; not at every click. */
export async function noteColleagueUse(database: Database, id: number): Promise<void> {
  await database.execute(
    "UPDATE colleagues SET used_at = now() WHERE id = $1 AND (used_at IS NULL OR used_at < now() - interval '1 minute')",
    [id],
  );
}

const QUESTION = `id, report, version, editions, day, given, filled, found, rows, asked_by AS "askedBy", colleague_id AS "colleagueId", asked_at AS "askedAt"`;

export async function addQuestion(database: Database, question: QuestionRow): Promise<void> {
  const { id, report, version, editions, day, given, filled, found, rows, askedBy, colleagueId, askedAt } = question;
  await database.execute(
    `INSERT INTO questions (id, report, version, editions, day, given, filled, found, rows, asked_by, colleague_id, asked_at)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)`,
    [
      id,
      report,
      version,
      JSON.stringify(editions),
      day,
      JSON.stringify(given),
      JSON.stringify(filled),
      found,
      rows,
      askedBy,
      colleagueId,
      askedAt,
    ],
  );
}

export async function maybeQuestion(database: Database, id: string): Promise<QuestionRow | undefined> {
  return (await database.select<QuestionRow>(`SELECT ${QUESTION} FROM questions WHERE id = $1`, [id]))[0];
}

/** Deletes what was asked longer ago, with what was noted of the files made of it. Gives how many. */
export function deleteOldQuestions(database: Database, now: Date, months: number): Promise<number> {
  return database.execute("DELETE FROM questions WHERE asked_at < $1::timestamptz - $2 * interval '1 month'", [
    now,
    months,
  ]);
}

/** The newest first. */
export function pageOfQuestions(
  database: Database,
  filter: {
    readonly report?: string | undefined;
    readonly colleague?: number | undefined;
    readonly among?: readonly string[] | undefined;
    /** Only what somebody asked who is signed in. */
    readonly by?: string | undefined;
  },
  wish: PageWish,
): Promise<ListPage<QuestionRow>> {
  return selectPage<QuestionRow>(
    database,
    {
      select: QUESTION,
      from: "questions",
      where: [
        ["report = ?", filter.report],
        ["colleague_id = ?", filter.colleague],
        ["report = ANY(?)", filter.among],
        ["colleague_id IS NULL AND asked_by = ?", filter.by],
      ],
      order: [{ sql: "questions.number", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}

export async function addAnswer(database: Database, answer: AnswerRow): Promise<void> {
  const { questionId, form, kind, row, sha256, size, madeBy, madeAt } = answer;
  await database.execute(
    "INSERT INTO answers (question_id, form, kind, row, sha256, size, made_by, made_at) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
    [questionId, form, kind, row, sha256, size, madeBy, madeAt],
  );
}

export function answersOf(database: Database, questions: readonly string[]): Promise<AnswerRow[]> {
  return database.select<AnswerRow>(
    `SELECT question_id AS "questionId", form, kind, row, sha256, size, made_by AS "madeBy", made_at AS "madeAt" FROM answers
     WHERE question_id = ANY($1) ORDER BY made_at`,
    [questions],
  );
}
