import { CorbixError, made } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Database } from "./database.js";

/** What part of a list is wanted. */
export interface PageWish {
  readonly limit: number;
  /** `next` of the page before. */
  readonly cursor?: string | undefined;
  /** Place of the first instead: what a list that is scrolled jumps to. */
  readonly first?: number | undefined;
}

export interface ListPage<Item> {
  readonly items: readonly Item[];
  /** Leads to the page after; null on the last. */
  readonly next: string | null;
}

type Key = string | number | null;

function isKey(key: unknown): key is Key {
  return key === null || typeof key === "string" || typeof key === "number";
}

/** Where a page ends, as a word to go on from. */
export function cursorOf(keys: readonly Key[]): string {
  return Buffer.from(JSON.stringify(keys)).toString("base64url");
}

/** The keys of a cursor. Throws `BAD_REQUEST` for what no page has given. */
export function keysOfCursor(cursor: string, count: number): readonly Key[] {
  let keys: unknown;
  try {
    keys = JSON.parse(Buffer.from(cursor, "base64url").toString("utf8"));
  } catch {
    keys = undefined;
  }
  if (Array.isArray(keys) && keys.length === count && keys.every(isKey)) return keys;
  throw new CorbixError("BAD_REQUEST", say().serviceRecords.cannotGoCursorPageList(), {
    where: "cursor",
    advice: say().serviceRecords.takeNextPageBeforeSame(),
  });
}

/**
 * A page of a list that is in memory. With `version` a cursor goes on in the list it came from only. Throws `CHANGED_MEANWHILE` where
 * that is another by now.
 */
export function pageOf<Item>(items: readonly Item[], { limit, cursor }: PageWish, version = ""): ListPage<Item> {
  const [first, of] = cursor === undefined ? [0, version] : keysOfCursor(cursor, 2);
  if (of !== version)
    throw new CorbixError("CHANGED_MEANWHILE", say().serviceRecords.cannotGoListChangedMeanwhile(), {
      where: "cursor",
      advice: say().serviceRecords.beginAgainWithoutCursor(),
    });
  const from = typeof first === "number" ? first : 0;
  const end = from + limit;
  return { items: items.slice(from, end), next: end < items.length ? cursorOf([end, version]) : null };
}

/** A column a list is ordered by; texts of keys are cast back to its type. */
export interface OrderColumn {
  readonly sql: string;
  readonly type: "text" | "bigint" | "int" | "float8" | "timestamptz" | "boolean";
}

/** A condition with `?` where its value stands; without a value it does not count. `?1` and so on are values beside it. */
export type Condition = readonly [sql: string, value: unknown, beside?: readonly unknown[]];

export interface ListQuery {
  readonly select: string;
  readonly from: string;
  readonly where?: readonly Condition[];
  /** The last of them tells rows apart. */
  readonly order: readonly [OrderColumn, ...OrderColumn[]];
  readonly downwards: boolean;
}

/** A page of rows by the keys of the row before: however far one goes, no page costs more than another. */
export async function selectPage<Row extends object>(
  database: Database,
  { select, from, where = [], order, downwards }: ListQuery,
  { limit, cursor, first = 0 }: PageWish,
): Promise<ListPage<Row>> {
  const bind: unknown[] = [];
  const conditions = conditionSql(where, bind);
  if (cursor !== undefined) {
    const keys = keysOfCursor(cursor, order.length).map((key, index) => {
      bind.push(key);
      return `$${bind.length}::${order[index]?.type ?? "text"}`;
    });
    conditions.push(`(${order.map((one) => one.sql).join(", ")}) ${downwards ? "<" : ">"} (${keys.join(", ")})`);
  }
  const keys = order.map((one, index) => `(${one.sql})::text AS page_key_${index}`);
  bind.push(limit + 1, first);
  const found = await database
    .select<Record<string, unknown>>(
      `SELECT ${[select, ...keys].join(", ")} FROM ${from}${conditions.length > 0 ? ` WHERE ${conditions.join(" AND ")}` : ""}
     ORDER BY ${order.map((one) => `${one.sql}${downwards ? " DESC" : ""}`).join(", ")} LIMIT $${bind.length - 1} OFFSET $${bind.length}`,
      bind,
    )
    .catch((error: { code?: string }) => {
      // Keys of another list's page.
      if (cursor !== undefined && /^22/.test(error.code ?? "")) keysOfCursor("", 0);
      throw error;
    });
  const rows = found.slice(0, limit);
  const last = rows.at(-1);
  const next =
    found.length > limit && last ? cursorOf(order.map((_, index) => last[`page_key_${index}`] as Key)) : null;
  return { items: rows.map((row) => withoutKeys(row, order.length)) as Row[], next };
}

/** The field that a list is ordered by, as callers write it: with a sign before it from the last to the first. */
export function readSort<Field extends string>(
  sort: Field | `-${Field}`,
  order: Readonly<Record<Field, unknown>>,
): { readonly field: Field; readonly downwards: boolean } {
  const downwards = sort.startsWith("-");
  const name = downwards ? sort.slice(1) : sort;
  const field = Object.keys(order).find((one): one is Field => one === name);
  return { field: made(field, `an order by ${name}`), downwards };
}

/** How many rows a list has on all its pages. */
export async function countRows(
  database: Database,
  { from, where = [] }: Pick<ListQuery, "from" | "where">,
): Promise<number> {
  const bind: unknown[] = [];
  const conditions = conditionSql(where, bind);
  const { count } = await database.one<{ count: number }>(
    `SELECT count(*)::int AS count FROM ${from}${conditions.length > 0 ? ` WHERE ${conditions.join(" AND ")}` : ""}`,
    bind,
  );
  return count;
}

/** Whether a line of an envelope holds somebody with a pattern in the name or address. The keys of the JSON are no content. */
export function somebodyLike(envelope: string): string {
  return `EXISTS (SELECT 1 FROM json_each(${envelope}) AS line, json_array_elements(line.value) AS one WHERE one->>'address' ILIKE ? OR one->>'name' ILIKE ?)`;
}

/** Whether one of a JSON list of texts is like a pattern. */
export function textLike(list: string): string {
  return `EXISTS (SELECT 1 FROM json_array_elements_text(${list}) AS one WHERE one ILIKE ?)`;
}

/** A pattern for ILIKE that finds a text anywhere; nothing for a blank one. */
export function containing(text: string | undefined): string | undefined {
  return text === undefined || text === "" ? undefined : `%${text.replace(/[\\%_]/g, "\\$&")}%`;
}

function conditionSql(where: readonly Condition[], bind: unknown[]): string[] {
  return where.flatMap(([sql, value, beside = []]) => {
    if (value === undefined) return [];
    const first = bind.push(value, ...beside) - beside.length;
    return [`(${sql.replace(/\?(\d?)/g, (_, at: string) => `$${first + Number(at)}`)})`];
  });
}

function withoutKeys(row: Record<string, unknown>, count: number): object {
  const own = { ...row };
  for (let index = 0; index < count; index++) delete own[`page_key_${index}`];
  return own;
}
