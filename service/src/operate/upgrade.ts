/** Brings the database to this version, with a backup before and everything counted before and after. */
import { statfs } from "node:fs/promises";
import { CorbixError } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Settings } from "../process/settings.js";
import {
  countTables,
  livingProcesses,
  migrationsOf,
  openAsking,
  openDatabase,
  pendingMigrations,
  serverFacts,
} from "../records/index.js";
import { takeBackup } from "./backup.js";

export interface UpgradeOptions {
  readonly settings: Settings;
  readonly databaseUrl: string;
  /** Folder for the backup that is taken first; none is taken without. */
  readonly out?: string | undefined;
  readonly version: string;
  readonly progress?: (done: number, total: number) => void;
}

export interface Upgraded {
  /** Changes that were made, in order; none where the database was of this version already. */
  readonly done: readonly string[];
  readonly backup: string | null;
  /** Tables whose number of rows is another one: those that were packed or split otherwise. */
  readonly tables: readonly { readonly name: string; readonly before: number; readonly after: number }[];
  readonly rows: number;
}

/** Throws `CONFLICT` while the service runs, `NO_SPACE` where there is no room, and whatever a change fails with: the database is as it was then. */
export async function upgrade(options: UpgradeOptions): Promise<Upgraded> {
  const { databaseUrl } = options;
  const asking = await openAsking(databaseUrl);
  try {
    const known = await migrationsOf(asking);
    const pending = pendingMigrations(known);
    const before = await countTables(asking);
    if (known.length > 0 && pending.length > 0) await refuseRunning(asking);
    await refuseNoRoom(options, asking, pending.length);
    const backup =
      pending.length > 0 && known.length > 0 && options.out !== undefined
        ? (await takeBackup({ ...options, out: options.out })).name
        : null;
    await (await openDatabase(databaseUrl, { migrate: true })).close();
    const after = await countTables(asking);
    return {
      done: pending,
      backup,
      tables: Object.entries(before).flatMap(([name, rows]) =>
        (after[name] ?? 0) === rows || name === "migrations" ? [] : [{ name, before: rows, after: after[name] ?? 0 }],
      ),
      rows: Object.values(after).reduce((sum, rows) => sum + rows, 0),
    };
  } finally {
    await asking.close();
  }
}

async function refuseRunning(asking: Awaited<ReturnType<typeof openAsking>>): Promise<void> {
  const count = await livingProcesses(asking);
  if (count > 0)
    throw new CorbixError("CONFLICT", say().serviceOperate.stillRuns({ count }), {
      where: "database",
      advice: say().serviceOperate.endFirst(),
    });
}

/** Changes write tables anew beside the old ones: at most once more of all. Of a database elsewhere its own server says so. */
async function refuseNoRoom(
  { settings }: UpgradeOptions,
  asking: Awaited<ReturnType<typeof openAsking>>,
  pending: number,
): Promise<void> {
  if (pending === 0 || settings.databaseUrl !== undefined) return;
  const { size } = await serverFacts(asking);
  const { bavail, bsize } = await statfs(settings.data);
  if (bavail * bsize < size)
    throw new CorbixError("NO_SPACE", say().serviceOperate.noRoom({ needed: size, free: bavail * bsize }), {
      where: settings.data,
      advice: say().serviceOperate.makeRoom(),
    });
}
