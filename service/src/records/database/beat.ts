/** One connection that shows that a process lives, apart from the pool: it works in a thread, while the process computes. */
import { Client } from "pg";

export interface Beater {
  /** Shows that the process lives. `gone`: it was declared dead meanwhile, and owns nothing any more. Throws where the database is away. */
  readonly beat: () => Promise<"alive" | "gone">;
  readonly close: () => Promise<void>;
}

/** A statement that the database does not answer within this time counts as failed; the next is asked over a new connection. */
const ANSWER_MS = 4_000;

/** What operators see of a process. */
export interface ProcessFacts {
  readonly kind: "worker" | "outbox";
  readonly host: string;
  readonly pid: number;
  readonly version: string;
}

/** `memory` gives what the process takes of it, in bytes. */
export function openBeater(
  url: string,
  { id, startedAs, facts }: { readonly id: string; readonly startedAs: string; readonly facts: ProcessFacts },
  memory: () => number,
): Beater {
  let client: Client | undefined;
  let isKnown = false;
  const connected = async (): Promise<Client> => {
    if (client) return client;
    const made = new Client({
      connectionString: url,
      connectionTimeoutMillis: ANSWER_MS,
      query_timeout: ANSWER_MS,
      application_name: "corbix beat",
    });
    made.on("error", () => {
      if (client === made) client = undefined;
    });
    await made.connect();
    client = made;
    return made;
  };
  return {
    beat: async () => {
      try {
        const open = await connected();
        if (!isKnown) {
          await open.query(
            "INSERT INTO workers (id, started_as, kind, host, pid, version) VALUES ($1, $2, $3, $4, $5, $6) ON CONFLICT (id) DO NOTHING",
            [id, startedAs, facts.kind, facts.host, facts.pid, facts.version],
          );
          isKnown = true;
        }
        const { rowCount } = await open.query(
          "UPDATE workers SET beat = beat + 1, seen_at = now(), memory = $2 WHERE id = $1 AND ended_at IS NULL",
          [id, memory()],
        );
        return rowCount === 1 ? "alive" : "gone";
      } catch (error) {
        client?.end().catch(() => {});
        client = undefined;
        throw error;
      }
    },
    close: async () => {
      if (client) await client.query("UPDATE workers SET ended_at = now() WHERE id = $1", [id]).catch(() => {});
      await client?.end().catch(() => {});
      client = undefined;
    },
  };
}
