import { z } from "zod";
import { count, instant, page, paging } from "./common.js";
import { endpoint } from "./endpoint.js";

const kind = z.enum(["reports", "datasets", "templates"]);
const byKind = z.strictObject({ kind });
const byThing = byKind.extend({ name: z.string().min(1).max(255) });
const deed = z.enum(["rename", "archive", "delete"]);

const newName = z.strictObject({
  to: z.string().min(1).max(255),
  title: z.string().min(1).max(2_000).optional().describe("Of a report."),
});

const hanging = z
  .strictObject({
    what: z
      .enum([
        "versions",
        "editions",
        "runs",
        "running",
        "deliveries",
        "schedule",
        "reports",
        "archivedReports",
        "texts",
        "mailbox",
      ])
      .describe("`running` are runs that are not over; `texts` show a file by its name."),
    count,
    names: z
      .array(z.string())
      .describe(
        "Titles of reports, ids of runs, the reports and bodies in whose text a name stands; the first of them.",
      ),
    stops: z.array(deed).describe("What cannot be done as long as it is so."),
  })
  .meta({ id: "Hanging" });

const kept = z
  .strictObject({
    kind,
    name: z.string(),
    formerNames: z.array(z.string()).describe("What it was called before, the newest first; each still leads to it."),
    archivedAt: instant.nullable(),
    archivedBy: z.string().nullable(),
    hanging: z.array(hanging),
    keptForRuns: z
      .boolean()
      .describe("Whether, once deleted, it is still there for the runs that were made with it, in no list any more."),
  })
  .meta({ id: "Kept" });

export const keepingEndpoints = {
  listArchived: endpoint("get", "/library/{kind}", {
    summary: "What is archived, by name",
    tag: "Library",
    params: byKind,
    query: paging,
    answer: page(
      z
        .strictObject({ name: z.string(), title: z.string(), archivedAt: instant, archivedBy: z.string() })
        .meta({ id: "Archived" }),
    ),
  }),
  showKept: endpoint("get", "/library/{kind}/{name}", {
    summary: "What hangs on a report, a dataset or a template, and what that keeps from being done to it",
    tag: "Library",
    params: byThing,
    answer: kept,
  }),
  renameKept: endpoint("post", "/library/{kind}/{name}/rename", {
    summary: "Give it another name; reports that refer to it follow, and the old name leads to it",
    tag: "Library",
    params: byThing,
    body: newName,
    answer: kept,
  }),
  copyKept: endpoint("post", "/library/{kind}/{name}/copy", {
    summary: "Make a copy of it; a report's starts nothing by itself, a dataset's has the newest edition",
    tag: "Library",
    params: byThing,
    body: newName,
    answer: kept,
    statuses: [201],
    isOnce: true,
  }),
  archiveKept: endpoint("post", "/library/{kind}/{name}/archive", {
    summary: "Put it away: in no list, started by nothing, and there as it was when it is brought back",
    tag: "Library",
    params: byThing,
    answer: kept,
  }),
  bringBackKept: endpoint("post", "/library/{kind}/{name}/bring-back", {
    summary: "Take it out of the archive",
    tag: "Library",
    params: byThing,
    answer: kept,
  }),
  deleteKept: endpoint("delete", "/library/{kind}/{name}", {
    summary: "Delete it; what runs were made with stays for them alone",
    tag: "Library",
    params: byThing,
    answer: z.strictObject({ name: z.string(), keptForRuns: z.boolean() }),
  }),
};
