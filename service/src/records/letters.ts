/** What the letterbox got, and the rules by which it does something wrong. */

import type { Database } from "./database/database.js";
import { findRow } from "./database/find.js";
import { containing, type ListPage, type PageWish, selectPage, textLike } from "./database/page.js";
import type { LetterRow } from "./database/row-types.js";

export type ListedLetter = Omit<LetterRow, "raw">;

export function pageOfLetters(
  database: Database,
  search: string | undefined,
  wish: PageWish,
): Promise<ListPage<ListedLetter>> {
  return selectPage<ListedLetter>(
    database,
    {
      select:
        'id::text, received_at AS "receivedAt", mail_from AS "mailFrom", rcpt_to AS "rcptTo", subject, message_id AS "messageId", size, attachments',
      from: "letters",
      where: [[`subject ILIKE ? OR mail_from ILIKE ? OR ${textLike("rcpt_to")}`, containing(search)]],
      order: [{ sql: "letters.id", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}

export async function maybeLetter(database: Database, id: string): Promise<LetterRow | undefined> {
  return findRow(database.models.Letter, { where: { id } });
}

export interface RuleRow<Rule> {
  readonly id: number;
  readonly rule: Rule;
  readonly used: number;
}

export function letterboxRulesOf<Rule>(database: Database): Promise<RuleRow<Rule>[]> {
  return database.select<RuleRow<Rule>>("SELECT id, rule, used FROM letterbox_rules ORDER BY id");
}

export async function addLetterboxRule(database: Database, rule: object, by: string): Promise<number> {
  const { id } = await database.one<{ id: number }>(
    "INSERT INTO letterbox_rules (rule, created_by) VALUES ($1, $2) RETURNING id",
    [JSON.stringify(rule), by],
  );
  return id;
}

export async function removeLetterboxRule(database: Database, id: number): Promise<boolean> {
  return (await database.execute("DELETE FROM letterbox_rules WHERE id = $1", [id])) > 0;
}

export async function countLetterboxUse(database: Database, id: number): Promise<void> {
  await database.execute("UPDATE letterbox_rules SET used = used + 1 WHERE id = $1", [id]);
}

/** Keeps a letter; gives its number. */
export async function addLetter(database: Database, letter: Omit<LetterRow, "id" | "receivedAt">): Promise<string> {
  const { mailFrom, rcptTo, subject, messageId, size, attachments, raw } = letter;
  const { id } = await database.one<{ id: string }>(
    `INSERT INTO letters (mail_from, rcpt_to, subject, message_id, size, attachments, raw) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id::text`,
    [mailFrom, JSON.stringify(rcptTo), subject, messageId, size, attachments, raw],
  );
  return id;
}
