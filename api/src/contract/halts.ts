/** Halts, during which nothing leaves by itself; and what the journal of what left told that the database did not know. */
import { z } from "zod";
import { byRowId, count, instant, page, paging, reason, rowId, truth } from "./common.js";
import { endpoint } from "./endpoint.js";

const halt = z
  .strictObject({
    id: rowId,
    at: instant,
    why: z
      .enum(["by-hand", "restored", "gone-back", "other-journal", "damaged-journal"])
      .describe(
        "`gone-back`: the journal tells of messages that the database does not know as begun. `restored`: from a backup. `other-journal`: it is another database's.",
      ),
    what: z.string().describe("The same in words."),
    by: z.string(),
    endedAt: instant.nullable(),
    endedBy: z.string().nullable(),
    words: z.string().nullable().describe("What who ended it said."),
    sent: count.describe("Messages that were found to have been sent."),
    unsure: count.describe("Messages that were found begun, and nobody knows whether they arrived."),
    open: count.describe("Those of them that wait for a person's word."),
  })
  .meta({ id: "Halt" });

const found = z
  .strictObject({
    id: rowId,
    at: instant,
    run: z.string(),
    report: z.string(),
    occasion: z.string().describe("What it was delivered for: a period, an edition, a row."),
    label: z.string().describe("Its group."),
    part: z.string(),
    addresses: z.array(z.string()),
    became: z.enum(["sent", "unsure"]),
    message: rowId
      .nullable()
      .describe("The message that it is in the outbox; null where only the journal knows of it."),
    state: z.string().nullable().describe("How that message stands now."),
    decided: z.enum(["arrived", "due"]).nullable(),
    decidedBy: z.string().nullable(),
  })
  .meta({ id: "FoundMessage" });

export const haltEndpoints = {
  listHalts: endpoint("get", "/halts", {
    summary: "When nothing left by itself, and why; the newest first",
    tag: "Outbox",
    query: paging.extend({ open: truth.optional().describe("Only those that are not over, or that are.") }),
    answer: page(halt),
  }),
  haltSending: endpoint("post", "/halts", {
    summary: "Halt all sending: no message begins, no schedule starts, nobody is told, until somebody goes on",
    tag: "Outbox",
    body: z.strictObject({ reason }),
    answer: z.strictObject({ id: rowId }),
    statuses: [201],
  }),
  goOnSending: endpoint("post", "/halts/end", {
    summary: "Go on sending: all halts that are open end",
    tag: "Outbox",
    body: z.strictObject({ reason }),
    answer: z.strictObject({ ended: count }),
  }),
  listFoundMessages: endpoint("get", "/halts/{id}/messages", {
    summary: "Messages that left and the database did not know of, in the order they left",
    tag: "Outbox",
    params: byRowId,
    query: paging.extend({
      open: truth.optional().describe("Only those that wait for a person's word, or the others."),
    }),
    answer: page(found),
  }),
  decideFoundMessage: endpoint("post", "/found-messages/{id}/decide", {
    summary: "Say of a message of which only the journal knows whether it arrived, or is due again",
    tag: "Outbox",
    params: byRowId,
    body: z.strictObject({ as: z.enum(["arrived", "due"]) }),
    answer: z.strictObject({ as: z.enum(["arrived", "due"]) }),
  }),
};
