/** What is known of a person who asks: found, exported, erased. */
import { z } from "zod";
import { count, instant } from "./common.js";
import { endpoint } from "./endpoint.js";

const bySearch = z.strictObject({ id: z.uuid() });
const search = z
  .strictObject({
    id: z.uuid(),
    words: z.array(z.string()),
    state: z.enum(["looking", "found", "erasing", "erased", "failed"]),
    places: z
      .array(
        z.strictObject({
          place: z.string(),
          title: z.string(),
          count,
          erasable: count.describe("How many of them go when the person is erased."),
          kept: z.array(z.strictObject({ why: z.string(), count })).describe("Why others stay."),
          examples: z.array(z.string()).describe("The first of them."),
        }),
      )
      .describe("Where something stands: as it was found, or as it is after erasing."),
    before: z
      .array(z.strictObject({ at: instant, by: z.string(), reason: z.string() }))
      .describe("When the person was erased."),
    error: z.string().nullable(),
  })
  .meta({ id: "PersonSearch" });

export const personEndpoints = {
  searchPerson: endpoint("post", "/person-searches", {
    summary: "Look through everything for a person; it goes on behind the answer",
    tag: "People",
    body: z.strictObject({
      words: z
        .array(z.string().trim().min(3).max(300))
        .min(1)
        .max(5)
        .describe("Addresses and names of one person; the first stands for all."),
    }),
    answer: search,
    statuses: [202],
  }),
  showPersonSearch: endpoint("get", "/person-searches/{id}", {
    summary: "How far a search is, and what it found",
    tag: "People",
    params: bySearch,
    answer: search,
  }),
  exportPerson: endpoint("get", "/person-searches/{id}/export.zip", {
    summary: "Everything that is known of the person: a JSON object a line, and the files",
    tag: "People",
    params: bySearch,
    answer: "application/zip",
  }),
  erasePerson: endpoint("post", "/person-searches/{id}/erase", {
    summary:
      "Erase the person where no duty to keep stands against it; it goes on behind the answer, and is written down",
    tag: "People",
    params: bySearch,
    body: z.strictObject({
      reason: z.string().trim().min(1).max(500).describe("Such as who asked when; the person is not named in it."),
      leave: z.array(z.string().max(50)).max(50).default([]).describe("Places that stay as they are."),
    }),
    answer: search,
    statuses: [202],
  }),
};
