import { CorbixError, cleanKey, foldName } from "@corbix/core/common";
import { EVERYTHING, gridQuerySchema } from "@corbix/core/grid";
import { splitColumns } from "@corbix/core/report";
import { z } from "zod";
import { newestReports } from "../../library/definitions.js";
import type { Context } from "../../process/context.js";
import {
  type EditionRow,
  getDataset,
  getEdition,
  newestRecipients,
  packedEdition,
  readChanges,
} from "../../records/index.js";
import { type GridSource, lookAt, placeOf, profileOf, stepsOf } from "../../threads/look.js";
import { type Route, route } from "../route.js";
import { anything, cell, column, finding, named, numbered } from "../shapes.js";

const MAX_ROWS = 2_000;

const source = {
  query: gridQuerySchema.default(EVERYTHING),
  report: z.string().optional().describe("Look at what this report's preparation makes of the edition."),
  step: z.number().int().min(0).optional().describe("Up to and with this step, counted from 0; all if not given."),
};

const profile = z.object({
  name: z.string(),
  type: z.string(),
  unit: z.string().optional(),
  count: z.number(),
  blanks: z.number(),
  distinct: z.number(),
  min: cell,
  max: cell,
  sum: z.string().nullable().describe("Exact decimal."),
  histogram: z.array(z.object({ from: z.number(), to: z.number(), count: z.number() })),
  frequent: z.array(z.object({ value: cell, count: z.number() })),
});

export function lookRoutes(): Route[] {
  return [
    route("post", "/api/datasets/{name}/editions/{number}/look", {
      summary: "Rows of an edition, or of a step of a preparation, that a query finds",
      tag: "Data",
      params: numbered,
      body: z.strictObject({
        ...source,
        first: z.number().int().min(0).default(0),
        count: z.number().int().min(1).max(MAX_ROWS).default(100),
        rowNumber: z.number().int().optional().describe("Begin at this row of the origin, if it is among them."),
      }),
      answer: z.object({
        columns: z.array(column),
        rowNumbers: z.array(z.number()),
        rows: z.array(z.array(cell)).describe("Dates are serial numbers: days since 1899-12-30."),
        first: z.number().int(),
        total: z.number().int().describe("Rows found."),
        of: z.number().int().describe("Rows there are."),
      }),
      handle: async ({ context, params, body }) => {
        const seen = sightOf(params, body);
        const at = body.rowNumber === undefined ? -1 : await placeOf(context, seen, body.query, body.rowNumber);
        const first = at >= 0 ? at : body.first;
        return { ...(await lookAt(context, seen, body.query, first, body.count)), first };
      },
    }),
    route("post", "/api/datasets/{name}/editions/{number}/profile", {
      summary: "Columns in a few numbers over the rows a query finds",
      tag: "Data",
      params: numbered,
      body: z.strictObject({ ...source, columns: z.array(z.string()).min(1).max(500) }),
      answer: z.array(profile),
      handle: ({ context, params, body }) => profileOf(context, sightOf(params, body), body.query, body.columns),
    }),
    route("get", "/api/datasets/{name}/editions/{number}/changes", {
      summary: "Cells that stand otherwise than in the file, with what stood there",
      tag: "Data",
      params: numbered,
      query: z.object({
        column: z.string().optional(),
        kind: z.enum(["blanks", "read-as", "unreadable", "ambiguous", "error"]).optional(),
        first: z.coerce.number().int().min(0).default(0),
        count: z.coerce.number().int().min(1).max(MAX_ROWS).default(100),
      }),
      answer: z.object({
        total: z.number().int(),
        cells: z.array(z.object({ column: z.string(), kind: z.string(), row: z.number(), raw: z.string() })),
      }),
      handle: async ({ context, params, query }) => {
        const { column: name, kind, first, count } = query;
        const found = await getEdition(context.database, params.name, params.number);
        return readChanges(context.database, found, {
          first,
          count,
          ...(name === undefined ? {} : { column: name }),
          ...(kind === undefined ? {} : { kind }),
        });
      },
    }),
    route("get", "/api/datasets/{name}/editions/{number}/file", {
      summary: "The file an edition came from, byte for byte",
      tag: "Data",
      params: numbered,
      answer: "application/octet-stream",
      handle: async ({ context, params, response }) => {
        const found = await getEdition(context.database, params.name, params.number);
        response.attachment(found.origin).send(Buffer.from(await context.store.get(found.sha256)));
      },
    }),
    route("get", "/api/datasets/{name}/editions/{number}/difference", {
      summary: "What is different from another edition",
      tag: "Data",
      params: numbered,
      query: z.object({
        with: z.coerce.number().int().min(1).optional().describe("The other edition; the one before if not given."),
      }),
      answer: anything,
      handle: async ({ context, params, query }) => {
        const { database } = context;
        const after = await getEdition(database, params.name, params.number);
        const other = query.with ?? params.number - 1;
        if (other < 1)
          throw new CorbixError("BAD_REQUEST", "Cannot compare the first edition: there is none before it.", {
            where: "with",
            advice: "Name another edition.",
          });
        const before = await getEdition(database, params.name, other);
        const { settings } = await getDataset(database, params.name);
        return {
          before: before.number,
          after: after.number,
          ...(await context.threads.isolated("compare", {
            before: await packedEdition(database, before),
            after: await packedEdition(database, after),
            key: settings.key ?? [],
            groupColumns: await groupColumns(context, params.name),
          })),
        };
      },
    }),
    route("get", "/api/datasets/{name}/editions/{number}/groups", {
      summary: "Groups by one or several columns, with counts and everything about them that wants a look",
      tag: "Data",
      params: numbered,
      query: z.object({
        by: z.string().optional().describe("Columns, with commas between; those a report splits by if not given."),
      }),
      answer: z.object({
        by: z.array(z.string()),
        groups: z.array(
          z.object({
            key: z.string(),
            label: z.string(),
            count: z.number().int(),
            spellings: z.array(z.string()),
            isNew: z.boolean(),
            hasRecipients: z.boolean().nullable(),
          }),
        ),
        blank: z.object({ count: z.number().int(), rowNumbers: z.array(z.number()) }),
        gone: z.array(z.string()),
        near: z.array(z.object({ from: z.string(), to: z.string(), why: z.string() })),
        findings: z.array(finding),
      }),
      handle: async ({ context, params, query }) => {
        const edition = await getEdition(context.database, params.name, params.number);
        const by =
          query.by === undefined
            ? await groupColumns(context, params.name)
            : query.by.split(",").map((one) => one.trim());
        return groupsOf(context, params.name, edition, by.length > 0 ? by : [edition.columns[0].name]);
      },
    }),
    route("get", "/api/reports/{name}/steps", {
      summary: "Every step of a report's preparation with rows in, rows out and reasons",
      tag: "Reports",
      params: named,
      query: z.object({ edition: z.coerce.number().int().min(1).optional() }),
      answer: z.array(anything),
      handle: ({ context, params, query }) => stepsOf(context, params.name, query.edition),
    }),
  ];
}

function sightOf(
  params: { readonly name: string; readonly number: number },
  body: { readonly report?: string | undefined; readonly step?: number | undefined },
): GridSource {
  return {
    dataset: params.name,
    edition: params.number,
    ...(body.report === undefined ? {} : { report: { name: body.report, step: body.step ?? Number.MAX_SAFE_INTEGER } }),
  };
}

/** Columns that the reports of a dataset split by; of the first report, where they differ. */
async function groupColumns(context: Context, dataset: string): Promise<string[]> {
  const own = (await newestReports(context)).find((report) => report.definition.data === dataset);
  return own ? [...splitColumns(own.definition)] : [];
}

async function groupsOf(
  context: Context,
  dataset: string,
  edition: EditionRow,
  by: readonly string[],
): Promise<object> {
  const { database } = context;
  const { settings } = await getDataset(database, dataset);
  const before =
    edition.number > 1 ? await getEdition(database, dataset, edition.number - 1).catch(() => undefined) : undefined;
  const names = namesOf(edition, by);
  const list = await newestRecipients(context.database);
  const old = before ? namesOf(before, by) : [];
  return context.threads.isolated("groups", {
    table: await packedEdition(database, edition, { columns: names }),
    by,
    aliases: settings.aliases ?? [],
    ...(before && old.length === by.length ? { before: await packedEdition(database, before, { columns: old }) } : {}),
    ...(list ? { recipientKeys: list.recipients.map((recipient) => cleanKey(recipient.group)) } : {}),
  });
}

/** Only the columns that make the groups are read. */
function namesOf(edition: EditionRow, by: readonly string[]): string[] {
  return edition.columns
    .filter((one) => by.some((name) => foldName(name) === foldName(one.name)))
    .map((one) => one.name);
}
