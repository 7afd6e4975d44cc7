import type { Database } from "./database/database.js";

export interface Counts {
  readonly datasets: number;
  readonly templates: number;
  readonly reports: number;
  readonly runs: number;
  readonly held: number;
  readonly onTheWay: number;
  readonly sent: number;
  readonly troubled: number;
  readonly letters: number;
}

/** How many of everything there are. */
export async function countEverything(database: Database): Promise<Counts> {
  return database.one<Counts>(
    `SELECT (SELECT count(*)::int FROM datasets) AS datasets, (SELECT count(DISTINCT name)::int FROM template_versions) AS templates,
       (SELECT count(DISTINCT name)::int FROM report_versions) AS reports, (SELECT count(*)::int FROM runs) AS runs, (SELECT count(*)::int FROM runs WHERE state = 'held') AS held,
       (SELECT count(*)::int FROM messages WHERE state IN ('queued', 'sending')) AS "onTheWay", (SELECT count(*)::int FROM messages WHERE state = 'sent') AS sent,
       (SELECT count(*)::int FROM messages WHERE state IN ('refused', 'unsure', 'returned')) AS troubled, (SELECT count(*)::int FROM letters) AS letters`,
  );
}

/** Whether the database answers; throws what keeps it from that. */
export async function isAnswering(database: Database): Promise<boolean> {
  return (await database.select("SELECT 1")).length === 1;
}
