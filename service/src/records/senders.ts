/** Other systems that may send records for one report, by a token or a signature. */
import type { Database } from "./database/database.js";

export interface SenderRow {
  readonly id: number;
  readonly report: string;
  readonly name: string;
  readonly way: "token" | "signature";
  /** Of its token. */
  readonly digest: string | null;
  /** What the sender signs with, sealed. */
  readonly secret: string | null;
  readonly header: string | null;
  readonly form: "hex" | "base64" | null;
  readonly perMinute: number;
  readonly createdBy: string;
  readonly createdAt: Date;
  readonly usedAt: Date | null;
}

const COLUMNS =
  'id, report, name, way, digest, secret, header, form, per_minute AS "perMinute", created_by AS "createdBy", created_at AS "createdAt", used_at AS "usedAt"';

export function sendersOf(database: Database, report: string): Promise<SenderRow[]> {
  return database.select<SenderRow>(`SELECT ${COLUMNS} FROM senders WHERE report = $1 ORDER BY name`, [report]);
}

export async function senderById(database: Database, id: number): Promise<SenderRow | undefined> {
  return (await database.select<SenderRow>(`SELECT ${COLUMNS} FROM senders WHERE id = $1`, [id]))[0];
}

/** Adds a sender, or gives a known one another secret. */
export async function saveSender(
  database: Database,
  sender: Omit<SenderRow, "id" | "createdAt" | "usedAt">,
): Promise<void> {
  const { report, name, way, digest, secret, header, form, perMinute, createdBy } = sender;
  await database.execute(
    `INSERT INTO senders (report, name, way, digest, secret, header, form, per_minute, created_by) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     ON CONFLICT (report, name) DO UPDATE SET way = excluded.way, digest = excluded.digest, secret = excluded.secret, header = excluded.header,
       form = excluded.form, per_minute = excluded.per_minute, created_by = excluded.created_by, created_at = now(), used_at = NULL`,
    [report, name, way, digest, secret, header, form, perMinute, createdBy],
  );
}

export async function removeSender(database: Database, report: string, name: string): Promise<boolean> {
  return (await database.execute("DELETE FROM senders WHERE report = $1 AND name = $2", [report, name])) > 0;
}

export async function noteSenderUse(database: Database, id: number): Promise<void> {
  await database.execute("UPDATE senders SET used_at = now() WHERE id = $1", [id]);
}
