/** What an auditor asks of one run: what it was made from and by whom, and what went to whom. */
import type { Envelope } from "@corbix/core/message";
import type { Database } from "./database/database.js";
import type { EnclosedFile, MessageState, RunRow } from "./database/row-types.js";

/** A version of something that a run was made from. */
export interface UsedVersion {
  readonly name: string;
  readonly number: number;
  readonly sha256: string;
  readonly createdBy: string;
  readonly createdAt: Date;
}

/** The editions of a run's datasets, by name. */
export function editionsOfRun(
  database: Database,
  run: Pick<RunRow, "editions">,
): Promise<(UsedVersion & { readonly origin: string; readonly rowCount: number })[]> {
  return database.select(
    `SELECT datasets.name, editions.number, editions.sha256, editions.created_by AS "createdBy", editions.created_at AS "createdAt",
       editions.origin, editions.row_count AS "rowCount"
     FROM json_each_text($1) AS used JOIN datasets ON datasets.name = used.key
       JOIN editions ON editions.dataset_id = datasets.id AND editions.number = used.value::int
     ORDER BY datasets.name`,
    [JSON.stringify(run.editions)],
  );
}

/** The templates of a run that its report names, by name: of versions that are the same bytes the first. */
export function templatesOfRun(
  database: Database,
  run: Pick<RunRow, "templates">,
  names: readonly string[],
): Promise<UsedVersion[]> {
  const used = Object.fromEntries(Object.entries(run.templates).filter(([name]) => names.includes(name)));
  return database.select(
    `SELECT DISTINCT ON (name) name, number, sha256, created_by AS "createdBy", created_at AS "createdAt"
     FROM json_each_text($1) AS used JOIN template_versions ON name = used.key AND sha256 = used.value ORDER BY name, number`,
    [JSON.stringify(used)],
  );
}

/** The version of the recipient list that a run used. */
export async function listOfRun(
  database: Database,
  id: number,
): Promise<
  { readonly origin: string; readonly sha256: string; readonly createdBy: string; readonly createdAt: Date } | undefined
> {
  const [found] = await database.select<{ origin: string; sha256: string; createdBy: string; createdAt: Date }>(
    `SELECT origin, sha256, created_by AS "createdBy", created_at AS "createdAt" FROM recipient_lists WHERE id = $1`,
    [id],
  );
  return found;
}

/** One message, or a group that has none, with digests of what it held. */
export interface WentRow {
  readonly number: number;
  readonly label: string;
  readonly leftOut: string | null;
  readonly part: string | null;
  readonly way: string | null;
  readonly envelope: Envelope | null;
  readonly state: MessageState | null;
  readonly response: string | null;
  readonly again: number;
  readonly againReason: string | null;
  readonly sentAt: Date | null;
  readonly messageId: string | null;
  readonly sha256: string | null;
  readonly packed: string | null;
  readonly files: readonly { readonly path: string; readonly sha256: string }[];
  /** What went along and was not made of the group's rows. */
  readonly enclosed: readonly Pick<EnclosedFile, "name" | "sha256">[];
}

/** Rows that are read at a time. */
const AT_ONCE = 2_000;

/** All of a run's groups in order, each with its messages; files stand with each of them that may have held them. */
export async function* whatWent(database: Database, run: string): AsyncGenerator<readonly WentRow[]> {
  for (let after = 0; ; ) {
    const some = await database.select<WentRow>(
      `SELECT parcels.number, parcels.label, parcels.left_out AS "leftOut", messages.part, messages.way, messages.envelope, messages.state, messages.response,
         coalesce(messages.again, 0) AS again, messages.again_reason AS "againReason", messages.sent_at AS "sentAt", messages.message_id AS "messageId",
         messages.sha256, messages.packed,
         coalesce((SELECT json_agg(json_build_object('path', path, 'sha256', sha256) ORDER BY files.id) FROM files
           WHERE files.parcel_id = parcels.id), '[]') AS files, parcels.enclosed
       FROM (SELECT * FROM parcels WHERE run_id = $1 AND number > $2 ORDER BY number LIMIT ${AT_ONCE}) AS parcels
         LEFT JOIN messages ON messages.parcel_id = parcels.id
       ORDER BY parcels.number, messages.id`,
      [run, after],
    );
    if (some.length === 0) return;
    yield some;
    after = some.at(-1)?.number ?? after;
  }
}
