/** Files that came by themselves, and those that were uploaded. */
import type { Database } from "./database/database.js";
import { type ListPage, type PageWish, selectPage } from "./database/page.js";

/** A file that came through the watched folder or by mail. */
export interface Arrival {
  readonly way: "folder" | "mail";
  readonly sender: string;
  readonly file: string;
  readonly dataset: string | null;
  readonly outcome: "loaded" | "refused";
  readonly edition: number | null;
  readonly message: string | null;
}

export interface ArrivalRow extends Arrival {
  readonly id: string;
  readonly at: Date;
}

export async function addArrival(database: Database, at: Date, arrival: Arrival): Promise<void> {
  const { way, sender, file, dataset, outcome, edition, message } = arrival;
  await database.execute(
    "INSERT INTO arrivals (at, way, sender, file, dataset, outcome, edition, message) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)",
    [at, way, sender, file, dataset, outcome, edition, message],
  );
}

export function pageOfArrivals(
  database: Database,
  filter: {
    readonly dataset?: string | undefined;
    readonly outcome?: Arrival["outcome"] | undefined;
    readonly among?: readonly string[] | undefined;
  },
  wish: PageWish,
): Promise<ListPage<ArrivalRow>> {
  return selectPage<ArrivalRow>(
    database,
    {
      select: "id::text, at, way, sender, file, dataset, outcome, edition, message",
      from: "arrivals",
      where: [
        ["dataset = ?", filter.dataset],
        ["outcome = ?", filter.outcome],
        ["dataset = ANY(?)", filter.among],
      ],
      order: [{ sql: "arrivals.id", type: "bigint" }],
      downwards: true,
    },
    wish,
  );
}

export interface Upload {
  readonly sha256: string;
  readonly file: string;
  readonly size: number;
}

export async function addUpload(database: Database, { sha256, file, size }: Upload, by: string): Promise<void> {
  await database.execute(
    "INSERT INTO uploads (sha256, file, size, created_by) VALUES ($1, $2, $3, $4) ON CONFLICT (sha256) DO UPDATE SET created_at = now(), file = excluded.file",
    [sha256, file, size, by],
  );
}

export async function maybeUpload(database: Database, digest: string): Promise<Upload | undefined> {
  const [found] = await database.select<{ sha256: string; file: string; size: string }>(
    "SELECT sha256, file, size FROM uploads WHERE sha256 = $1",
    [digest],
  );
  return found && { ...found, size: Number(found.size) };
}

/** Uploads that nothing was made of for so long. Gives their digests. */
export async function removeOldUploads(database: Database, now: Date, hours: number): Promise<string[]> {
  const gone = await database.select<{ sha256: string }>(
    "DELETE FROM uploads WHERE created_at < $1::timestamptz - $2 * interval '1 hour' RETURNING sha256",
    [now, hours],
  );
  return gone.map((one) => one.sha256);
}
