import { EVERYTHING, gridQuerySchema } from "@corbix/core/grid";
import { intakeRulesSchema } from "@corbix/core/table";
import { z } from "zod";
import {
  byName,
  cell,
  cells,
  column,
  columnType,
  count,
  countedPage,
  digest,
  finding,
  instant,
  name,
  page,
  paging,
  rowId,
  rows,
  truth,
  whole,
} from "./common.js";
import { endpoint } from "./endpoint.js";

const fileName = z.string().min(1).max(255).describe("Name of the file, shown as the edition's origin.");
const password = z.string().min(1).max(255).optional().describe("Of a workbook that asks for one.");
const mode = z.enum(["replace", "append"]);
const wantedMode = mode
  .optional()
  .describe("Whether the file replaces what the dataset shows, or adds to it by the key.");
const key = z.array(z.string()).max(20).optional().describe("Columns that tell rows apart.");
const rules = intakeRulesSchema.meta({ id: "IntakeRules" });
const alias = z.strictObject({ column: z.string().min(1), from: z.string().min(1), to: z.string().min(1) });
const mailbox = z.strictObject({
  name: z.string().regex(/^[a-z0-9][a-z0-9._-]{0,62}$/, "expected the part before the @, such as visits"),
  senders: z.array(z.string().min(3)).min(1).describe("Addresses, or domains as @lifts.example."),
});

/** What was found in a file. */
const reading = {
  rowCount: count,
  columns: z.array(column),
  reading: z.record(z.string(), z.string()).describe("How the bytes were read: kind, sheet, encoding, delimiter."),
  headerRow: whole,
  leftOut: z
    .array(
      z.strictObject({
        reason: z.enum(["title", "header", "total", "blank", "note", "repeated header", "outside", "other table"]),
        count,
        lines: z.array(z.strictObject({ row: z.number(), text: z.string() })),
      }),
    )
    .describe("Lines of the file with content that are no rows, by reason; the first of each."),
  decisions: z
    .array(z.strictObject({ what: z.string(), chosen: z.string(), why: z.string(), corrected: z.boolean() }))
    .describe("What was decided while reading, and why."),
  changes: z
    .array(z.strictObject({ column: z.string(), kind: z.string(), count }))
    .describe("How many cells stand otherwise than in the file."),
  rules: rules.describe("Corrections it was read with."),
  appended: z
    .strictObject({ added: count, replaced: count })
    .nullable()
    .describe("Where it adds to the edition before."),
  findings: z.array(finding),
};

export const edition = z
  .strictObject({
    dataset: name,
    number: whole,
    origin: z.string(),
    sha256: digest,
    ...reading,
    createdBy: z.string(),
    createdAt: instant,
    emptiedAt: instant.nullable().describe("When its rows and its file were deleted; what else is told of it stays."),
  })
  .meta({ id: "Edition" });

const editionSummary = z
  .strictObject({
    dataset: name,
    number: whole,
    origin: z.string(),
    rowCount: count,
    columns: count,
    stops: count.describe("Findings that stop."),
    warnings: count,
    notes: count,
    createdBy: z.string(),
    createdAt: instant,
    emptiedAt: instant.nullable(),
  })
  .meta({ id: "EditionSummary" });

const dataset = z.strictObject({ name, editions: count, newest: edition.nullable() }).meta({ id: "Dataset" });

const rowSample = { count, rowNumbers: z.array(z.number()).describe("The first of them, by number in the origin.") };
const difference = z
  .strictObject({
    rows: z.strictObject({ before: count, after: count }),
    added: z.strictObject(rowSample),
    gone: z.strictObject(rowSample),
    changed: z
      .strictObject({
        ...rowSample,
        columns: z.record(z.string(), count),
        examples: z.array(z.strictObject({ key: z.string(), column: z.string(), before: cell, after: cell })),
      })
      .nullable()
      .describe("Where the dataset has a key."),
    same: count,
    columns: z.strictObject({ added: z.array(z.string()), gone: z.array(z.string()) }),
    groups: z.array(
      z.strictObject({
        column: z.string(),
        before: count,
        after: count,
        added: z.array(z.string()),
        gone: z.array(z.string()),
      }),
    ),
    totals: z
      .array(z.strictObject({ column: z.string(), before: z.string(), after: z.string(), difference: z.string() }))
      .describe("Exact decimals."),
  })
  .meta({ id: "Difference" });

const preview = z
  .strictObject({
    ...reading,
    mode,
    drift: z
      .strictObject({
        added: z.array(z.string()),
        gone: z.array(z.string()),
        isOtherTable: z.boolean(),
        renamed: z.array(z.strictObject({ from: z.string(), to: z.string(), why: z.string() })),
        retyped: z.array(z.strictObject({ name: z.string(), from: columnType, to: columnType })),
      })
      .nullable(),
    difference: difference.nullable().describe("To the edition before."),
    preview: z.strictObject({ rowNumbers: z.array(z.number()), rows: cells }),
  })
  .meta({ id: "Preview" });

const keepMonths = whole
  .min(1)
  .max(1_200)
  .describe("Months after which rows and files of editions before the newest are deleted; for ever without it.");
const settings = z
  .strictObject({
    keepMonths: keepMonths.nullable(),
    rules,
    mode,
    key: z.array(z.string()),
    aliases: z.array(alias),
    mailbox: mailbox.nullable(),
    address: z.string().nullable().describe("Takes files for it by mail."),
    folder: z.string().nullable().describe("Files put into it are taken by themselves."),
    hasPassword: z.boolean(),
  })
  .meta({ id: "DatasetSettings" });

const fromUpload = z.strictObject({
  upload: digest.describe("What an upload gave."),
  file: fileName,
  rules: rules.optional(),
  password,
  mode: wantedMode,
  key,
});

const arrival = z
  .strictObject({
    id: rowId,
    at: instant,
    way: z.enum(["folder", "mail"]),
    sender: z.string(),
    file: z.string(),
    dataset: z.string().nullable(),
    outcome: z.enum(["loaded", "refused"]),
    edition: whole.nullable(),
    message: z.string().nullable(),
  })
  .meta({ id: "Arrival" });

const upload = z.strictObject({ upload: digest, file: z.string(), size: count }).meta({ id: "Upload" });
const byEdition = byName.extend({ number: z.coerce.number().int().min(1) });
const group = z
  .strictObject({
    key: z.string(),
    label: z.string(),
    count,
    spellings: z.array(z.string()),
    isNew: z.boolean(),
    hasRecipients: z.boolean().nullable().describe("Null where there is no list."),
  })
  .meta({ id: "Group" });

const lookedAt = {
  query: gridQuerySchema.default(EVERYTHING),
  report: z.string().optional().describe("Look at what this report's preparation makes of the edition."),
  step: z.number().int().min(0).optional().describe("Up to and with this step, counted from 0; all if not given."),
};

const profile = z
  .strictObject({
    name: z.string(),
    type: columnType,
    unit: z.string().optional(),
    count,
    blanks: count,
    distinct: count,
    min: cell,
    max: cell,
    sum: z.string().nullable().describe("Exact decimal."),
    histogram: z.array(z.strictObject({ from: cell, to: cell, count })),
    frequent: z.array(z.strictObject({ value: cell, count })),
  })
  .meta({ id: "Profile" });

const MAX_ROWS = 2_000;
const rowPaging = paging.extend({
  limit: z.coerce.number().int().min(1).max(MAX_ROWS).default(100).describe("Most rows of one answer."),
});

export const datasetEndpoints = {
  listDatasets: endpoint("get", "/datasets", {
    summary: "Datasets by name, each with its newest edition",
    tag: "Data",
    query: paging.extend({ search: z.string().max(200).optional().describe("Part of a name.") }),
    answer: page(dataset),
  }),
  showDataset: endpoint("get", "/datasets/{name}", {
    summary: "A dataset with its newest edition",
    tag: "Data",
    params: byName,
    answer: dataset,
  }),
  listEditions: endpoint("get", "/datasets/{name}/editions", {
    summary: "A dataset's editions, newest first",
    tag: "Data",
    params: byName,
    query: paging,
    answer: page(editionSummary),
  }),
  showEdition: endpoint("get", "/datasets/{name}/editions/{number}", {
    summary: "An edition with how it was read and what was found",
    tag: "Data",
    params: byEdition,
    answer: edition,
  }),
  emptyEdition: endpoint("delete", "/datasets/{name}/editions/{number}/rows", {
    summary:
      "Delete an edition's rows and its file; its number, digest and counts stay, and so does what went out of it",
    tag: "Data",
    params: byEdition,
    answer: edition,
  }),
  uploadFile: endpoint("post", "/uploads", {
    summary: "Put a file into the store without loading it; the body is the file",
    tag: "Data",
    query: z.strictObject({ file: fileName }),
    body: "stream",
    answer: upload,
    statuses: [201],
  }),
  showUpload: endpoint("get", "/uploads/{upload}", {
    summary: "An uploaded file that nothing was made of yet",
    tag: "Data",
    params: z.strictObject({ upload: digest }),
    answer: upload,
  }),
  previewEdition: endpoint("post", "/datasets/{name}/preview", {
    summary: "Read an uploaded file as it would become the dataset's next edition, and keep nothing",
    tag: "Data",
    params: byName,
    body: fromUpload,
    answer: preview,
  }),
  loadUpload: endpoint("post", "/datasets/{name}/editions/from-upload", {
    summary: "Load an uploaded file as the dataset's next edition",
    tag: "Data",
    params: byName,
    body: fromUpload.extend({
      keep: z.boolean().default(false).describe("Keep the corrections for later editions."),
    }),
    answer: edition,
    statuses: [201],
    isOnce: true,
  }),
  loadFile: endpoint("post", "/datasets/{name}/editions", {
    summary: "Load a workbook, spreadsheet, text or JSON file as the dataset's next edition; the body is the file",
    tag: "Data",
    params: byName,
    query: z.strictObject({
      file: fileName,
      sheet: z.string().optional(),
      table: z.string().optional(),
      headerRow: z.coerce.number().int().min(1).optional(),
      rules: z.string().max(20_000).optional().describe("Corrections as JSON, for this file alone."),
      mode: wantedMode,
      key: z.string().optional().describe("Key columns, with commas between."),
    }),
    body: "stream",
    answer: edition,
    statuses: [201],
    isOnce: true,
  }),
  showDatasetSettings: endpoint("get", "/datasets/{name}/settings", {
    summary: "What is set once for a dataset: corrections, key, aliases, mail address",
    tag: "Data",
    params: byName,
    answer: settings,
    version: "told",
  }),
  changeDatasetSettings: endpoint("put", "/datasets/{name}/settings", {
    summary: "Set what is set once for a dataset; only what is given is changed",
    tag: "Data",
    params: byName,
    body: z.strictObject({
      rules: rules.optional().describe("Corrections, kept for later editions."),
      password: password.nullable().describe("Kept encrypted; null forgets it. It is never given back."),
      mode: wantedMode,
      key,
      aliases: z.array(alias).max(10_000).optional().describe("Spellings that count as another one's group."),
      mailbox: mailbox.nullable().optional().describe("Address that takes files for it by mail; null for none."),
      keepMonths: keepMonths.nullable().optional(),
    }),
    answer: settings,
    version: "matched",
  }),
  listArrivals: endpoint("get", "/arrivals", {
    summary: "Files that came through the watched folder or by mail, newest first",
    tag: "Data",
    query: paging.extend({
      dataset: z.string().max(200).optional(),
      outcome: z.enum(["loaded", "refused"]).optional(),
    }),
    answer: page(arrival),
  }),
  listRows: endpoint("get", "/datasets/{name}/editions/{number}/rows", {
    summary: "Rows of an edition",
    tag: "Data",
    params: byEdition,
    query: rowPaging,
    answer: rows,
  }),
  lookAtRows: endpoint("post", "/datasets/{name}/editions/{number}/look", {
    summary: "Rows of an edition, or of a step of a preparation, that a query finds",
    tag: "Data",
    params: byEdition,
    body: z.strictObject({
      ...lookedAt,
      first: z.number().int().min(0).optional().describe("Begin at this row of those found, for a grid that jumps."),
      rowNumber: z.number().int().optional().describe("Begin at this row of the origin, if it is among them."),
      limit: z.number().int().min(1).max(MAX_ROWS).default(100),
      cursor: z.string().max(2_000).optional().describe("`next` of the answer before."),
    }),
    answer: rows
      .extend({ first: count, of: count.describe("Rows there are; `total` are those found.") })
      .meta({ id: "Look" }),
  }),
  profileColumns: endpoint("post", "/datasets/{name}/editions/{number}/profile", {
    summary: "Columns in a few numbers over the rows a query finds",
    tag: "Data",
    params: byEdition,
    body: z.strictObject({ ...lookedAt, columns: z.array(z.string()).min(1).max(500) }),
    answer: z.strictObject({ columns: z.array(profile) }),
  }),
  listChangedCells: endpoint("get", "/datasets/{name}/editions/{number}/changes", {
    summary: "Cells that stand otherwise than in the file, with what stood there",
    tag: "Data",
    params: byEdition,
    query: rowPaging.extend({
      column: z.string().optional(),
      kind: z.enum(["blanks", "read-as", "unreadable", "ambiguous", "error"]).optional(),
    }),
    answer: countedPage(z.strictObject({ column: z.string(), kind: z.string(), row: z.number(), raw: z.string() })),
  }),
  downloadEdition: endpoint("get", "/datasets/{name}/editions/{number}/file", {
    summary: "The file an edition came from, byte for byte",
    tag: "Data",
    params: byEdition,
    answer: "application/octet-stream",
  }),
  compareEditions: endpoint("get", "/datasets/{name}/editions/{number}/difference", {
    summary: "What is different from another edition",
    tag: "Data",
    params: byEdition,
    query: z.strictObject({
      with: z.coerce.number().int().min(1).optional().describe("The other edition; the one before if not given."),
    }),
    answer: z.strictObject({ before: whole, after: whole, ...difference.shape }).meta({ id: "EditionDifference" }),
  }),
  listPartners: endpoint("get", "/datasets/{name}/partners/{other}", {
    summary: "Columns by which rows of a dataset find rows of another: those that share their values, the best first",
    tag: "Data",
    params: byName.extend({ other: z.string().max(200) }),
    answer: z.strictObject({
      partners: z.array(
        z
          .strictObject({
            column: z.string(),
            partner: z.string(),
            values: count.describe("Different values of the column."),
            found: count.describe("How many of them the partner has."),
            isUnique: z.boolean().describe("Whether each value finds one row only."),
          })
          .meta({ id: "Partners" }),
      ),
    }),
  }),
  listGroups: endpoint("get", "/datasets/{name}/editions/{number}/groups", {
    summary: "Groups by one or several columns, with counts and everything about them that wants a look",
    tag: "Data",
    params: byEdition,
    query: paging.extend({
      by: z.string().optional().describe("Columns, with commas between; those a report splits by if not given."),
      search: z.string().max(200).optional().describe("Part of a group's name."),
      isNew: truth.optional().describe("Only those the edition before had not, or only the others."),
      hasRecipients: truth.optional().describe("Only those with somebody in the recipient list, or without."),
    }),
    answer: countedPage(group).extend({
      by: z.array(z.string()),
      blank: z.strictObject({ count, rowNumbers: z.array(z.number()) }).describe("Rows without a group."),
      gone: z
        .strictObject({ count, labels: z.array(z.string()).describe("The first of them.") })
        .describe("Groups of the edition before that have no rows any more."),
      near: z.array(z.strictObject({ from: z.string(), to: z.string(), why: z.string() })),
      findings: z.array(finding),
    }),
  }),
};
