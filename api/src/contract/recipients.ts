import { z } from "zod";
import { address, count, countedPage, day, finding, instant, page, paging, rowId, truth, whole } from "./common.js";
import { endpoint } from "./endpoint.js";

const cell = z.string().max(5_000);
const role = z.enum(["to", "copy", "blind"]);
const language = z
  .string()
  .regex(/^(?:[A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)?$/, "expected a language, such as de or de-CH");

export const recipient = z
  .strictObject({
    row: whole,
    group: z.string().describe("`*` stands for all."),
    name: z.string(),
    role,
    to: z.array(address),
    copies: z.array(address),
    blindCopies: z.array(address),
    dataset: z.string().nullable().describe("Only for reports of this dataset."),
    language: z.string().nullable(),
    activeFrom: day.nullable(),
    activeUntil: day.nullable(),
    neverSend: z.boolean(),
    fields: z.record(z.string(), z.string()).describe("Further columns of the list."),
  })
  .meta({ id: "Recipient" });

const entry = z.strictObject({
  group: cell.min(1).describe("Several are parted by semicolons; * stands for all."),
  name: cell.default(""),
  addresses: cell.min(1),
  copies: cell.optional(),
  blindCopies: cell.optional(),
  role: role.default("to"),
  dataset: cell.optional().describe("Only for reports of this dataset."),
  language: language.optional(),
  activeFrom: z.union([day, z.literal("")]).optional(),
  activeUntil: z.union([day, z.literal("")]).optional(),
  neverSend: z.boolean().default(false),
  fields: z.record(z.string().min(1).max(200), cell).default({}),
});

const file = z.strictObject({
  file: z.string().min(1).max(255).describe("Name of the file: .csv, .xlsx, .ods or .vcf."),
  sheet: z.string().max(200).optional(),
  mode: z
    .enum(["replace", "merge"])
    .default("replace")
    .describe("replace: the file is the whole list. merge: who is not in the file stays."),
});

const change = z
  .strictObject({
    kind: z.enum(["added", "changed", "removed"]),
    group: z.string(),
    name: z.string(),
    fields: z.array(z.string()).describe("What is different, in words."),
  })
  .meta({ id: "ListChange" });

const kept = z.strictObject({ count, findings: z.array(finding) }).meta({ id: "KeptList" });
const byRow = z.strictObject({ row: z.coerce.number().int().min(1) });

export const recipientEndpoints = {
  listRecipients: endpoint("get", "/recipients", {
    summary: "The shared recipient list, in its order",
    tag: "Recipients",
    query: paging.extend({
      search: z.string().max(200).optional().describe("Part of a group, name, address or further field."),
      group: z.string().max(1_000).optional().describe("Only entries of this group, and those for all."),
      dataset: z.string().max(200).optional().describe("Only entries for this dataset, and those for all."),
      neverSend: truth.optional(),
    }),
    answer: countedPage(recipient).extend({
      list: z
        .strictObject({
          version: whole,
          origin: z.string(),
          createdAt: instant,
          createdBy: z.string(),
          findings: z.array(finding),
        })
        .nullable()
        .describe("The list's newest version; null as long as there is none."),
    }),
    version: "told",
  }),
  importRecipients: endpoint("put", "/recipients", {
    summary: "Import the shared recipient list from a table or from vCards: replace it, or merge",
    tag: "Recipients",
    query: file,
    body: "stream",
    answer: kept,
    version: "matched",
  }),
  previewRecipients: endpoint("post", "/recipients/preview", {
    summary: "What an import would change; nothing is kept",
    tag: "Recipients",
    query: file,
    body: "stream",
    answer: z
      .strictObject({
        changes: z.array(change).describe("The first 1,000 of them."),
        added: count,
        changed: count,
        removed: count,
        unchanged: count,
        recipients: count.describe("Entries of the list afterwards."),
        findings: z.array(finding),
      })
      .meta({ id: "ListPreview" }),
  }),
  showRecipient: endpoint("get", "/recipients/entries/{row}", {
    summary: "The entries of a row of the list",
    tag: "Recipients",
    params: byRow,
    answer: z.strictObject({ entries: z.array(recipient) }),
    version: "told",
  }),
  addRecipient: endpoint("post", "/recipients/entries", {
    summary: "Add an entry to the list",
    tag: "Recipients",
    body: entry,
    answer: kept,
    statuses: [201],
    isOnce: true,
  }),
  changeRecipient: endpoint("put", "/recipients/entries/{row}", {
    summary: "Change the entry of a row",
    tag: "Recipients",
    params: byRow,
    body: entry,
    answer: kept,
    version: "matched",
  }),
  removeRecipient: endpoint("delete", "/recipients/entries/{row}", {
    summary: "Take the entry of a row out of the list",
    tag: "Recipients",
    params: byRow,
    answer: kept,
    version: "matched",
  }),
  listRecipientVersions: endpoint("get", "/recipients/history", {
    summary: "Who changed the list, when and how, newest first",
    tag: "Recipients",
    query: paging,
    answer: page(
      z
        .strictObject({
          id: rowId,
          origin: z.string(),
          createdAt: instant,
          createdBy: z.string(),
          recipients: count,
          emptiedAt: instant
            .nullable()
            .describe("When its entries were deleted; what changed is not known any more then."),
          added: count,
          changed: count,
          removed: count,
          changes: z.array(change).describe("The first of them; a whole import is told by its counts."),
        })
        .meta({ id: "ListVersion" }),
    ),
  }),
  exportRecipients: endpoint("get", "/recipients/export", {
    summary: "The list as a file that can be imported again",
    tag: "Recipients",
    query: z.strictObject({ as: z.enum(["csv", "xlsx", "vcf"]).default("csv") }),
    answer: "application/octet-stream",
  }),
};
