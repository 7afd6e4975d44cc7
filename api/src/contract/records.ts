/** Records that come in one by one, and the systems that may send them. */
import { z } from "zod";
import { byName, count, instant, name, page, paging, runId, whole } from "./common.js";
import { endpoint } from "./endpoint.js";

const taken = z
  .strictObject({
    key: z.string().describe("What tells the record from others."),
    run: runId.describe("The run that was made of it."),
    edition: whole.describe("Number of the edition that keeps it: below zero, of its own kind."),
    isNew: z.boolean().describe("Whether it came for the first time."),
  })
  .meta({ id: "TakenRecord" });

const header = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9-]{1,80}$/, "expected the name of a header")
  .refine(
    (one) => !/^(authorization|cookie|host|content-.*|transfer-encoding|connection)$/i.test(one),
    "expected a header of its own",
  );

const sender = z
  .strictObject({
    name,
    way: z.enum(["token", "signature"]),
    header: z.string().nullable(),
    form: z.enum(["hex", "base64"]).nullable(),
    perMinute: count,
    createdBy: z.string(),
    createdAt: instant,
    usedAt: instant.nullable(),
  })
  .meta({ id: "Sender" });

const bySender = z.strictObject({ name, sender: name });

export const recordEndpoints = {
  takeRecords: endpoint("post", "/reports/{name}/occasions", {
    summary:
      "A record comes in, or several: each is kept as an edition of its own kind and has a run of its own, at once, once for its key. JSON, or the fields of a form; by a sign-in, a sender's token, or a sender's signature",
    tag: "Records",
    params: byName,
    query: z.strictObject({
      callback: z
        .url()
        .max(2_000)
        .optional()
        .describe("An address that is told when the run is over, where the report allows it."),
    }),
    body: "bytes",
    answer: z.strictObject({ occasions: z.array(taken) }),
    statuses: [202, 200],
    isOpen: true,
    limit: 5_000_000,
  }),
  listSenders: endpoint("get", "/reports/{name}/senders", {
    summary: "Systems that may send records for a report",
    tag: "Records",
    params: byName,
    query: paging,
    answer: page(sender),
  }),
  saveSender: endpoint("put", "/reports/{name}/senders/{sender}", {
    summary: "Let another system send records for this report and nothing else; its token or secret is told once",
    tag: "Records",
    params: bySender,
    body: z.strictObject({
      way: z.enum(["token", "signature"]).default("token"),
      header: header.default("X-Signature").describe("Of a signature: the header it stands in."),
      form: z.enum(["hex", "base64"]).default("hex"),
      perMinute: z.number().int().min(1).max(100_000).default(120),
      secret: z.string().min(16).max(200).optional().describe("What the sender signs with, where it has its own."),
    }),
    answer: sender.extend({ secret: z.string().describe("Token or secret; it is not shown again.") }),
  }),
  deleteSender: endpoint("delete", "/reports/{name}/senders/{sender}", {
    summary: "Let a system send records no more",
    tag: "Records",
    params: bySender,
    answer: z.strictObject({ ok: z.literal(true) }),
  }),
};
