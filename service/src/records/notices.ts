/** What somebody should be told. */
import type { NoticeKind } from "@corbix/api";
import type { Database } from "./database/database.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";

export interface Notice {
  readonly kind: NoticeKind;
  readonly report: string | null;
  readonly run: string | null;
  readonly what: string;
  readonly advice: string | null;
}

export interface NoticeRow extends Notice {
  readonly id: string;
  readonly at: Date;
}

export async function addNotice(database: Database, at: Date, notice: Notice): Promise<string> {
  const { id } = await database.one<{ id: string }>(
    "INSERT INTO notices (at, kind, report, run_id, what, advice) VALUES ($1, $2, $3, $4, $5, $6) RETURNING id::text",
    [at, notice.kind, notice.report, notice.run, notice.what, notice.advice],
  );
  return id;
}

export function pageOfNotices(
  database: Database,
  filter: {
    readonly kind?: string | undefined;
    readonly report?: string | undefined;
    readonly since?: string | undefined;
  },
  wish: PageWish,
): Promise<ListPage<NoticeRow>> {
  return selectPage<NoticeRow>(
    database,
    {
      select: "id::text, at, kind, report, run_id AS run, what, advice",
      from: "notices",
      where: [
        ["kind = ?", filter.kind],
        ["report = ?", filter.report],
        ["at >= ?::date", filter.since],
      ],
      order: [{ sql: "notices.id", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}
