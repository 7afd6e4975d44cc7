/** What operators look at: whether everything is there, which processes live, what waits, what was slow, how much room there is. */
import { z } from "zod";
import { count, instant } from "./common.js";
import { endpoint } from "./endpoint.js";

const amount = z.number().min(0);

export const operationEndpoints = {
  showOperations: endpoint("get", "/operations", {
    summary: "Everything an operator looks at, as it is now",
    tag: "Service",
    answer: z
      .strictObject({
        ok: z.boolean().describe("Whether the service can do its work."),
        checks: z.array(
          z.strictObject({
            name: z.enum(["database", "store", "journal", "workers", "outbox", "clock", "room", "sending"]),
            state: z.enum(["ok", "warn", "fail"]),
            what: z.string(),
            advice: z.string().nullable(),
          }),
        ),
        versions: z.strictObject({
          corbix: z.string(),
          node: z.string(),
          database: z.string(),
          structure: z.string().describe("The last change of the database's structure."),
        }),
        processes: z.array(
          z.strictObject({
            id: z.string(),
            kind: z.string().nullable(),
            host: z.string().nullable(),
            pid: count.nullable(),
            version: z.string().nullable(),
            memory: amount.nullable().describe("Bytes."),
            startedAt: instant,
            seenAt: instant,
            endedAt: instant.nullable(),
          }),
        ),
        queues: z.array(
          z.strictObject({
            queue: z.enum(["plan", "make", "prove", "messages", "notices", "callbacks"]),
            waiting: count,
            oldest: amount.describe("Seconds since when the longest waits."),
          }),
        ),
        slow: z
          .array(
            z.strictObject({ run: z.string(), report: z.string(), step: z.string(), seconds: amount, at: instant }),
          )
          .describe("Steps of runs that took longest within the last week."),
        room: z.strictObject({
          free: amount.describe("Bytes, where the data folder is."),
          total: amount,
          files: count,
          fileBytes: amount,
          database: amount,
          tables: z.array(z.strictObject({ name: z.string(), bytes: amount, rows: amount })),
          connections: count,
          mostConnections: count,
        }),
      })
      .meta({ id: "Operations" }),
  }),
};
