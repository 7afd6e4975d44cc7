/** The trail: what was done by whom, when and from where. */
import { z } from "zod";
import { day, digest, instant, page, paging, rowId } from "./common.js";
import { endpoint } from "./endpoint.js";

const filter = z.strictObject({
  who: z.string().max(200).optional().describe("Name of the person, or of what did it by itself."),
  what: z.string().max(200).optional(),
  subject: z.string().max(1_000).optional().describe("Name or id of the thing."),
  hash: digest
    .optional()
    .describe("An entry by its digest: one that was kept elsewhere and is not found tells of an end that was cut off."),
  since: day.optional(),
  until: day.optional(),
});

const entry = z
  .strictObject({
    id: rowId,
    at: instant,
    who: z.string(),
    from: z.string().nullable().describe("The address it was called from; null for what the service did by itself."),
    what: z.string(),
    subject: z.string(),
    facts: z.record(z.string(), z.unknown()).describe("What it was before and after, and what else belongs to it."),
    hash: digest.describe("Of this entry and the hash of the one before: SHA-256."),
    isErased: z.boolean().describe("Whether it named somebody who was erased since; the digest is of what it told."),
  })
  .meta({ id: "TrailEntry" });

export const trailEndpoints = {
  listTrail: endpoint("get", "/trail", {
    summary: "What was done, by person, thing and time, the newest first",
    tag: "Trail",
    query: paging.extend(filter.shape),
    answer: page(entry),
  }),
  listTrailWords: endpoint("get", "/trail-words", {
    summary: "Everything that can be looked for in the trail as what was done",
    tag: "Trail",
    answer: z.strictObject({ words: z.array(z.string()) }),
  }),
  downloadTrail: endpoint("get", "/trail.jsonl", {
    summary: "The whole trail in its order, one JSON object a line",
    tag: "Trail",
    answer: "application/jsonl",
  }),
};
