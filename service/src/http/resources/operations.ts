import { statfs } from "node:fs/promises";
import type { operationEndpoints } from "@corbix/api";
import type { Ready } from "../../health/ready.js";
import { VERSION } from "../../process/version.js";
import { queues, recentProcesses, roomFacts, slowSteps } from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";

/** Slow steps that are shown. */
const SLOW = 10;

export function operationHandlers(ready: Ready): HandlersOf<typeof operationEndpoints> {
  return {
    showOperations: async ({ context: { database, settings } }) => {
      const [readiness, processes, queued, slow, { server, migration, ...room }, disk] = await Promise.all([
        ready.look(),
        recentProcesses(database),
        queues(database),
        slowSteps(database, SLOW),
        roomFacts(database),
        statfs(settings.data),
      ]);
      return {
        ok: readiness.ok,
        checks: readiness.checks.map((one) => ({ ...one })),
        versions: { corbix: VERSION, node: process.version, database: server, structure: migration },
        processes: processes.map((one) => ({
          ...one,
          startedAt: iso(one.startedAt),
          seenAt: iso(one.seenAt),
          endedAt: one.endedAt && iso(one.endedAt),
        })),
        queues: [...queued],
        slow: slow.map((one) => ({ ...one, at: iso(one.at) })),
        room: {
          ...room,
          tables: [...room.tables],
          free: disk.bavail * disk.bsize,
          total: disk.blocks * disk.bsize,
        },
      };
    },
  };
}
