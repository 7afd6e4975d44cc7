import { z } from "zod";
import { count, digest, instant, whole } from "./common.js";
import { endpoint } from "./endpoint.js";

const verification = z
  .strictObject({
    state: z.enum(["running", "done", "failed"]),
    total: count.describe("Files that are there or should be."),
    checked: count,
    whole: count,
    faults: z.array(
      z.strictObject({ sha256: digest, what: z.enum(["damaged", "missing"]), uses: z.array(z.string()) }),
    ),
    nobodys: count.describe("Files that nothing refers to; they are taken away when they are old enough."),
    trail: z
      .strictObject({
        entries: count,
        head: digest.nullable().describe("Of the last entry, which stands for all before it."),
        brokenAt: z.string().nullable().describe("The first entry that is not what was written."),
        erased: count.describe("Entries that name nobody any more, each told by an entry of its own."),
      })
      .nullable()
      .describe("The trail, once it was gone through."),
    startedAt: instant,
    error: z.string().nullable(),
  })
  .meta({ id: "Verification" });

export const serviceEndpoints = {
  showHealth: endpoint("get", "/health", {
    summary: "Whether the service and its database are well",
    tag: "Service",
    answer: z.strictObject({ ok: z.boolean() }),
    isOpen: true,
  }),
  showOverview: endpoint("get", "/overview", {
    summary: "How many of everything there are, and how many want a look",
    tag: "Service",
    answer: z
      .strictObject({
        datasets: count,
        templates: count,
        reports: count,
        runs: count,
        held: count,
        onTheWay: count,
        sent: count,
        troubled: count.describe("Messages that were refused, came back or are unsure."),
        letters: count,
        troubles: z
          .array(
            z.strictObject({
              run: z.string(),
              report: z.string(),
              title: z.string(),
              periodLabel: z.string(),
              state: z.enum(["refused", "returned", "unsure"]),
              count,
              groups: z.array(z.string()).describe("The first of them."),
              response: z.string().nullable().describe("What the mail server said last."),
            }),
          )
          .describe(
            "Messages of the last thirty days that did not get through, by run and state; settled ones are left out.",
          ),
      })
      .meta({ id: "Overview" }),
  }),
  search: endpoint("get", "/search", {
    summary: "What has a name like a text: reports, data, templates, people, groups, files and runs, the first of each",
    tag: "Service",
    query: z.strictObject({ text: z.string().trim().min(2).max(200) }),
    answer: z
      .strictObject({
        found: z.array(
          z.strictObject({
            kind: z.enum(["report", "dataset", "template", "person", "group", "file", "run"]),
            title: z.string(),
            what: z.string().describe("What tells it apart."),
            name: z.string().describe("Its own: a report's, dataset's, template's or person's name; a run's id."),
            parcel: whole.nullable().describe("Of a group or file: the number of its parcel in the run."),
          }),
        ),
      })
      .meta({ id: "SearchAnswer" }),
  }),
  verifyStore: endpoint("post", "/verification", {
    summary: "Read the whole file store against the records; it goes on behind the answer",
    tag: "Service",
    answer: verification,
    statuses: [202],
  }),
  showVerification: endpoint("get", "/verification", {
    summary: "How far the last verification is, and what it found",
    tag: "Service",
    answer: verification,
  }),
};
