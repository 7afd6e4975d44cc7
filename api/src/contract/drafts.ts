import { z } from "zod";
import {
  cells,
  column,
  count,
  fileKind,
  finding,
  matchedPerson,
  period,
  problem,
  scheduledTime,
  step,
  trial,
  whole,
} from "./common.js";
import { endpoint } from "./endpoint.js";

const definition = z.string().max(1_048_576).describe("The definition as it is written now, YAML or JSON.");
const edition = z.number().int().min(1).optional().describe("Of its dataset; the newest if not given.");
const group = z.string().max(1_000).optional().describe("Key or label; one of middling size if not given.");

const draftGroup = z
  .strictObject({
    key: z.string(),
    label: z.string(),
    rows: count,
    people: count,
    nobody: z.string().nullable().describe("Why nobody receives."),
    totals: z.record(z.string(), z.string()),
    isNew: z.boolean().describe("Whether the report has run before, and had it not the last time."),
  })
  .meta({ id: "DraftGroup" });

const draftMessage = z
  .strictObject({
    language: z.string(),
    people: z.array(z.string()),
    subject: z.string(),
    html: z.string(),
    text: z.string(),
    size: count.describe("About how many bytes its words have on their way, without files."),
  })
  .meta({ id: "DraftMessage" });

const look = z
  .strictObject({
    period: z.string().nullable().describe("The period it was looked at for."),
    columns: z.array(column),
    steps: z.array(step),
    rows: z.strictObject({
      master: count,
      made: count,
      inGroups: count,
      leftOut: z.array(z.strictObject({ reason: z.string(), count })),
    }),
    totals: z.array(
      z.strictObject({
        name: z.string(),
        master: z.string(),
        parcels: z.string().nullable(),
        leftOut: z.string(),
        agrees: z.boolean(),
      }),
    ),
    findings: z.array(finding),
    groups: z.array(draftGroup).describe("The first of the groups that were looked for."),
    groupCount: count,
    groupsWithoutPeople: count.describe("Of all groups, whichever are listed."),
    messageCount: count.describe("Messages that would go out."),
    sendingSeconds: z.number().nullable().describe("Until the last of them has gone, at the identity's pace."),
    parcel: z
      .strictObject({
        ...draftGroup.shape,
        number: whole,
        cells,
        rowNumbers: z.array(z.number()),
        files: z.array(z.strictObject({ file: z.string(), kind: fileKind, path: z.string() })),
        attachments: z.array(z.string()),
        recipients: z.array(matchedPerson),
        messages: z.array(draftMessage),
      })
      .nullable()
      .describe("What one group gets."),
    loadedColumns: z.array(column).describe("Columns as they were loaded, which conditions are about."),
    conditions: z
      .array(
        z.strictObject({
          formula: z.string(),
          holds: count,
          leavesOut: count,
          rowNumbers: z.array(z.number()).describe("The first rows it leaves out, by their number in the origin."),
          cells,
          trouble: z.string().nullable().describe("Why it cannot be counted."),
        }),
      )
      .describe("What each condition that was asked for does, over the rows of the period, each for itself."),
    problems: z
      .array(problem.omit({ type: true, status: true }))
      .describe("What keeps parts of it from being looked at."),
    nextTimes: z.array(scheduledTime).describe("The times it would run by itself within a year."),
  })
  .meta({ id: "DraftLook" });

export const draftEndpoints = {
  lookAtDraft: endpoint("post", "/drafts/look", {
    summary: "What a definition makes of the data there are, as far as it goes; nothing is kept and nothing is sent",
    tag: "Reports",
    body: z.strictObject({
      definition,
      group,
      search: z.string().max(200).optional().describe("Part of the names of the groups that are listed."),
      period: period.optional().describe("The last that is over and has rows if not given."),
      edition,
      conditions: z.array(z.string().max(4_000)).max(60).optional().describe("Conditions to be counted."),
    }),
    answer: look,
  }),
  tryDraft: endpoint("post", "/drafts/try", {
    summary: "Make a file of a definition for one group, to look at; nothing is kept and nothing is sent",
    tag: "Reports",
    body: z.strictObject({
      definition,
      file: z.string().describe("Name of the file in the definition."),
      group,
      period: period.optional(),
      edition,
    }),
    answer: trial,
  }),
};
