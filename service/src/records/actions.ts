/** The trail: what was done by whom, when and from where, each entry chained to the one before. */
import { bytesFromText, sha256 } from "@corbix/core/common";
import type { Database } from "./database/database.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";

/** What was done by whom. */
export interface NewAction {
  readonly who: string;
  readonly what: string;
  readonly subject: string;
  readonly facts: object;
}

export interface ActionRow extends NewAction {
  readonly id: string;
  readonly at: Date;
  /** The address it was called from, and by what; nothing for what the service does by itself. */
  readonly calledFrom: string | null;
  readonly hash: string;
  /** Whether what it told was erased for somebody's sake; the chain goes on over the digest of it. */
  readonly isErased: boolean;
}

/** Writes down what was done, in this order. */
export async function addActions(
  database: Database,
  actions: readonly NewAction[],
  calledFrom: string | null,
): Promise<void> {
  await database.execute(
    `INSERT INTO actions (who, what, subject, facts, called_from)
     SELECT who, what, subject, facts, $2 FROM json_to_recordset($1) AS one (who text, what text, subject text, facts json)`,
    [JSON.stringify(actions), calledFrom],
  );
}

export interface TrailFilter {
  readonly who?: string | undefined;
  readonly what?: string | undefined;
  readonly subject?: string | undefined;
  readonly hash?: string | undefined;
  readonly since?: string | undefined;
  readonly until?: string | undefined;
}

const ACTION =
  'id::text, at, who, what, subject, facts, called_from AS "calledFrom", hash, erased IS NOT NULL AS "isErased"';

/** Entries that meet all that is asked, the newest first. */
export function pageOfTrail(database: Database, filter: TrailFilter, wish: PageWish): Promise<ListPage<ActionRow>> {
  return selectPage<ActionRow>(
    database,
    {
      select: ACTION,
      from: "actions",
      where: [
        ["who = ?", filter.who],
        ["what = ?", filter.what],
        ["subject = ?", filter.subject],
        ["hash = ?", filter.hash],
        ["at >= ?::date", filter.since],
        ["at < ?::date + 1", filter.until],
      ],
      order: [{ sql: "actions.id", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}

/** The last entry and its digest, which stands for all before it. */
export async function headOfTrail(
  database: Database,
): Promise<{ readonly id: string; readonly hash: string } | undefined> {
  const [head] = await database.select<{ id: string; hash: string }>(
    "SELECT id::text, hash FROM actions ORDER BY actions.id DESC LIMIT 1",
  );
  return head;
}

/** All entries about one thing, in their order. */
export function trailOf(database: Database, subject: string): Promise<ActionRow[]> {
  return database.select<ActionRow>(`SELECT ${ACTION} FROM actions WHERE subject = $1 ORDER BY actions.id`, [subject]);
}

/** What was done so far, each once. */
export async function trailWords(database: Database): Promise<string[]> {
  const found = await database.select<{ what: string }>("SELECT DISTINCT what FROM actions ORDER BY what");
  return found.map(({ what }) => what);
}

/** Entries that are read at a time. */
const AT_ONCE = 2_000;

export interface WholeAction extends ActionRow {
  readonly told: string;
  /** 1: chained by what it tells; 2: by the digest of that. */
  readonly form: number;
  /** Digest of what it told, where that was erased. */
  readonly erased: string | null;
}

/** All entries in their order, piece by piece. */
export async function* wholeTrail(database: Database): AsyncGenerator<readonly WholeAction[]> {
  for (let after = "0"; ; ) {
    const some = await database.select<WholeAction>(
      `SELECT ${ACTION}, action_text(actions) AS told, form, erased FROM actions WHERE actions.id > $1::bigint ORDER BY actions.id LIMIT ${AT_ONCE}`,
      [after],
    );
    if (some.length > 0) yield some;
    if (some.length < AT_ONCE) return;
    after = some.at(-1)?.id ?? after;
  }
}

/** Whether the trail is what was written. */
export interface TrailCheck {
  readonly entries: number;
  /** Digest of the last entry, which stands for all before it. */
  readonly head: string | null;
  /** The first entry whose digest is not what it says and the one before make it, or which was erased without an entry that says so. */
  readonly brokenAt: string | null;
  /** Entries that name nobody any more. */
  readonly erased: number;
}

/** What is written down where somebody was erased, with the entries of the trail that name them no more. */
export const ERASURE = "person erased";

function hashOf({ told, form, erased }: WholeAction, before: string | null): string {
  const carried = form === 1 ? told : (erased ?? sha256(bytesFromText(told)));
  return sha256(bytesFromText(`${before ?? ""}\n${carried}`));
}

/** Goes through the whole chain. */
export async function checkTrail(database: Database): Promise<TrailCheck> {
  let [entries, head]: [number, string | null] = [0, null];
  const erased = new Set<string>();
  const named = new Set<string>();
  for await (const some of wholeTrail(database))
    for (const one of some) {
      if (hashOf(one, head) !== one.hash) return { entries, head, brokenAt: one.id, erased: erased.size };
      [entries, head] = [entries + 1, one.hash];
      if (one.erased !== null) erased.add(one.id);
      if (one.what === ERASURE) for (const id of (one.facts as { entries?: string[] }).entries ?? []) named.add(id);
    }
  const [unnamed = null] = [...erased].filter((id) => !named.has(id));
  return { entries, head, brokenAt: unnamed, erased: erased.size };
}
