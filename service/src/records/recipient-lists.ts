/** The shared recipient list in versions, each following another. */

import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { findRow } from "./database/find.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";
import type { RecipientListRow } from "./database/row-types.js";
import { unlessTaken } from "./library.js";

/** The shared list as it is now; `undefined` where nobody has given one. */
export async function newestRecipients(database: Database): Promise<RecipientListRow | undefined> {
  return findRow(database.models.RecipientList, { order: [["id", "DESC"]] });
}

/** Which version that is, without its entries. */
export async function newestRecipientsId(database: Database): Promise<number | null> {
  return (await database.one<{ id: number | null }>("SELECT max(id) AS id FROM recipient_lists")).id;
}

/** Keeps a version after the one it was made from; `undefined` where another has followed that one meanwhile. */
export async function addRecipientList(
  database: Database,
  list: Omit<RecipientListRow, "id" | "createdAt" | "emptiedAt">,
  transaction?: Transaction,
): Promise<RecipientListRow | undefined> {
  const created = await unlessTaken(() =>
    database.models.RecipientList.create(list, transaction ? { transaction } : {}),
  );
  return created?.get({ plain: true });
}

/** Versions, newest first; with each the entries of the one before. */
export function pageOfRecipientLists(
  database: Database,
  wish: PageWish,
): Promise<ListPage<RecipientListRow & { readonly before: RecipientListRow["recipients"] | null }>> {
  return selectPage(
    database,
    {
      select: `lists.id, lists.origin, lists.recipients, lists.follows, lists.emptied_at AS "emptiedAt", lists.created_by AS "createdBy", lists.created_at AS "createdAt",
        (SELECT before.recipients FROM recipient_lists AS before WHERE before.id = lists.follows AND before.emptied_at IS NULL) AS before`,
      from: "recipient_lists AS lists",
      order: [{ sql: "lists.id", type: "int" }],
      downwards: true,
    },
    wish,
  );
}

/** Deletes the entries of versions that are older, besides the newest and those of runs under way; when and by whom they came stays. Gives how many. */
export function emptyOldLists(database: Database, now: Date, months: number): Promise<number> {
  return database.execute(
    `UPDATE recipient_lists SET recipients = '[]', findings = '[]', stored = NULL, emptied_at = now()
     WHERE emptied_at IS NULL AND created_at < $1::timestamptz - $2 * interval '1 month' AND id < (SELECT max(id) FROM recipient_lists)
       AND NOT EXISTS (SELECT 1 FROM runs WHERE recipient_list_id = recipient_lists.id AND state NOT IN ('done', 'stopped', 'failed'))`,
    [now, months],
  );
}

export async function recipientListById(database: Database, id: number): Promise<RecipientListRow | undefined> {
  return findRow(database.models.RecipientList, { where: { id } });
}
