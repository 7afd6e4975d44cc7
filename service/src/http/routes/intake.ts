import { join } from "node:path";
import type { Readable } from "node:stream";
import { CorbixError, cleanKey, foldName, suggestName } from "@corbix/core/common";
import { nameSchema } from "@corbix/core/report";
import { type IntakeRules, intakeRulesSchema } from "@corbix/core/table";
import { z } from "zod";
import { noteAction } from "../../audit/audit.js";
import { announce } from "../../events/events.js";
import { listArrivals } from "../../intake/arrivals.js";
import { previewFile, takeIn } from "../../intake/take-in.js";
import { inboxFolder } from "../../intake/watch-folder.js";
import type { Context } from "../../process/context.js";
import { type DatasetRow, type DatasetSettings, getDataset, getEdition, readEdition } from "../../records/index.js";
import { type Route, route } from "../route.js";
import { anything, cell, column, edition, finding, named } from "../shapes.js";
import { showEdition } from "./data.js";

const fileName = z.string().min(1).max(255).describe("Name of the file, shown as the edition's origin.");
const password = z.string().min(1).max(255).optional().describe("Of a workbook that asks for one.");
const mode = z
  .enum(["replace", "append"])
  .optional()
  .describe("Whether the file replaces what the dataset shows, or adds to it by the key.");
const key = z.array(z.string()).max(20).optional().describe("Columns that tell rows apart.");

/** Corrections out of a query. Throws `BAD_REQUEST`. */
function rulesOf(text: string): IntakeRules {
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch {
    given = undefined;
  }
  const read = intakeRulesSchema.safeParse(given);
  if (read.success) return read.data;
  throw new CorbixError("BAD_REQUEST", `Cannot read the corrections: ${read.error.issues[0]?.message ?? "no JSON"}.`, {
    where: `rules${read.error.issues[0]?.path.map((one) => `.${String(one)}`).join("") ?? ""}`,
    advice: 'Give them as JSON, such as {"header":"none","names":["Site","Fee"]}.',
  });
}

const alias = z.strictObject({ column: z.string().min(1), from: z.string().min(1), to: z.string().min(1) });

const settingsShape = z.strictObject({
  rules: intakeRulesSchema.optional().describe("Corrections, kept for later editions."),
  password: password.nullable().describe("Kept encrypted; null forgets it. It is never given back."),
  mode,
  key,
  aliases: z.array(alias).max(10_000).optional().describe("Spellings that count as another one's group."),
  mailbox: z
    .strictObject({
      name: z.string().regex(/^[a-z0-9][a-z0-9._-]{0,62}$/, "expected the part before the @, such as visits"),
      senders: z.array(z.string().min(3)).min(1).describe("Addresses, or domains as @lifts.example."),
    })
    .nullable()
    .optional()
    .describe("Address that takes files for it by mail; null for none."),
});

const fromUpload = z.strictObject({
  upload: z.string().regex(/^[0-9a-f]{64}$/, "expected what an upload gave"),
  file: fileName,
  rules: intakeRulesSchema.optional(),
  password,
  mode,
  key,
});

const preview = z.object({
  columns: z.array(column),
  rowCount: z.number().int(),
  headerRow: z.number().int(),
  reading: z.record(z.string(), z.string()),
  leftOut: edition.shape.leftOut,
  decisions: edition.shape.decisions,
  changes: edition.shape.changes,
  findings: z.array(finding),
  rules: intakeRulesSchema,
  mode: z.enum(["replace", "append"]),
  appended: edition.shape.appended,
  drift: anything.nullable(),
  difference: anything.nullable().describe("To the edition before."),
  preview: z.object({ rowNumbers: z.array(z.number()), rows: z.array(z.array(cell)) }),
});

export function intakeRoutes(): Route[] {
  return [
    route("post", "/api/uploads", {
      summary: "Put a file into the store without loading it; the body is the file",
      tag: "Data",
      query: z.object({ file: fileName }),
      body: "stream",
      answer: z.object({ upload: z.string(), file: z.string(), size: z.number() }),
      handle: async ({ context, query, request, user }) => {
        const { sha256, size } = await keepBody(context, request);
        await context.database.execute(
          "INSERT INTO uploads (sha256, file, size, created_by) VALUES ($1, $2, $3, $4) ON CONFLICT (sha256) DO UPDATE SET created_at = now()",
          [sha256, query.file, size, user.name],
        );
        return { upload: sha256, file: query.file, size };
      },
    }),
    route("post", "/api/datasets/{name}/preview", {
      summary: "Read an uploaded file as it would become the dataset's next edition, and keep nothing",
      tag: "Data",
      params: named,
      body: fromUpload,
      answer: preview,
      handle: async ({ context, params, body }) => previewFile(context, await incoming(context, params.name, body)),
    }),
    route("post", "/api/datasets/{name}/editions/from-upload", {
      summary: "Load an uploaded file as the dataset's next edition",
      tag: "Data",
      params: named,
      body: fromUpload.extend({
        keep: z.boolean().default(false).describe("Keep the corrections for later editions."),
      }),
      answer: edition,
      handle: async ({ context, params, body, user }) => {
        const { keep, ...request } = body;
        const added = await takeIn(context, await incoming(context, params.name, request), user.name);
        if (keep) await keepCorrections(context, params.name, request, user.name);
        return showEdition(params.name, added);
      },
    }),
    route("post", "/api/datasets/{name}/editions", {
      summary: "Load a workbook, spreadsheet, text or JSON file as the dataset's next edition; the body is the file",
      tag: "Data",
      params: named,
      query: z.object({
        file: fileName,
        sheet: z.string().optional(),
        table: z.string().optional(),
        headerRow: z.coerce.number().int().min(1).optional(),
        rules: z.string().max(20_000).optional().describe("Corrections as JSON, for this file alone."),
        mode,
        key: z.string().optional().describe("Key columns, with commas between."),
      }),
      body: "stream",
      answer: edition,
      handle: async ({ context, params, query, request, user }) => {
        const { sha256 } = await keepBody(context, request);
        const { file, sheet, table, headerRow, key: columns } = query;
        const rules = {
          ...(sheet === undefined ? {} : { sheet }),
          ...(table === undefined ? {} : { table }),
          ...(headerRow === undefined ? {} : { headerRow }),
          ...(query.rules === undefined ? {} : rulesOf(query.rules)),
        };
        const secret = request.headers["corbix-file-password"];
        const added = await takeIn(
          context,
          {
            dataset: params.name,
            file,
            sha256,
            rules,
            ...(query.mode ? { mode: query.mode } : {}),
            ...(columns ? { key: columns.split(",").map((one) => one.trim()) } : {}),
            ...(typeof secret === "string" ? { password: decodeURIComponent(secret) } : {}),
          },
          user.name,
        );
        return showEdition(params.name, added);
      },
    }),
    route("get", "/api/datasets/{name}/settings", {
      summary: "What is set once for a dataset: corrections, key, aliases, mail address",
      tag: "Data",
      params: named,
      answer: anything,
      handle: async ({ context, params }) => showSettings(context, await getDataset(context.database, params.name)),
    }),
    route("put", "/api/datasets/{name}/settings", {
      summary: "Set what is set once for a dataset; only what is given is changed",
      tag: "Data",
      params: named,
      body: settingsShape,
      answer: anything,
      handle: async ({ context, params, body, user }) => {
        await changeSettings(context, params.name, body, user.name);
        return showSettings(context, await getDataset(context.database, params.name));
      },
    }),
    route("get", "/api/arrivals", {
      summary: "Files that came through the watched folder or by mail, newest first",
      tag: "Data",
      query: z.object({ count: z.coerce.number().int().min(1).max(500).default(50) }),
      answer: z.array(anything),
      handle: async ({ context, query }) => listArrivals(context, query.count),
    }),
  ];
}

function keepBody(context: Context, request: Readable): Promise<{ sha256: string; size: number }> {
  return context.store.putStream(request, context.settings.uploadLimit);
}

async function incoming(context: Context, dataset: string, body: z.output<typeof fromUpload>) {
  if (!(await context.store.has(body.upload))) {
    throw new CorbixError("NOT_FOUND", "Cannot find the uploaded file any more.", {
      where: "upload",
      advice: "Upload it again.",
    });
  }
  const { upload, ...rest } = body;
  return { dataset, sha256: upload, ...rest } as Parameters<typeof takeIn>[1];
}

async function keepCorrections(
  context: Context,
  dataset: string,
  body: Pick<z.output<typeof fromUpload>, "rules" | "password" | "mode" | "key">,
  by: string,
): Promise<void> {
  const { rules, password: secret, mode: how, key: columns } = body;
  await changeSettings(
    context,
    dataset,
    {
      ...(rules ? { rules } : {}),
      ...(secret ? { password: secret } : {}),
      ...(how ? { mode: how } : {}),
      ...(columns ? { key: columns } : {}),
    },
    by,
  );
}

/** Changes what is given, checked against the newest edition. Throws `BAD_REQUEST` or `CONFLICT`. */
async function changeSettings(
  context: Context,
  name: string,
  change: z.output<typeof settingsShape>,
  by: string,
): Promise<void> {
  nameSchema.parse(name);
  const { database } = context;
  const dataset = await getDataset(database, name);
  await checkColumns(context, name, change);
  await checkAliases(context, name, change.aliases ?? [], dataset.settings.aliases ?? []);
  if (change.mailbox) await checkMailbox(context, dataset, change.mailbox.name);
  const { password: secret, mailbox, ...plain } = change;
  const { password: oldSecret, mailbox: oldMailbox, ...old } = dataset.settings;
  const sealed = secret === undefined ? oldSecret : secret === null ? undefined : context.secrets.seal(secret);
  const box = mailbox === undefined ? oldMailbox : (mailbox ?? undefined);
  const settings = {
    ...old,
    ...plain,
    ...(sealed === undefined ? {} : { password: sealed }),
    ...(box === undefined ? {} : { mailbox: box }),
  } as DatasetSettings;
  await database.models.Dataset.update({ settings }, { where: { id: dataset.id } });
  await noteAction(database, by, "dataset settings changed", name, { what: Object.keys(change) });
  await announce(database, { kind: "dataset", subject: name });
}

async function checkColumns(context: Context, name: string, change: z.output<typeof settingsShape>): Promise<void> {
  const wanted = [...(change.key ?? []), ...(change.aliases ?? []).map((one) => one.column)];
  if (wanted.length === 0) return;
  const { columns } = await getEdition(context.database, name);
  for (const one of wanted) {
    if (columns.some((known) => foldName(known.name) === foldName(one))) continue;
    throw new CorbixError("BAD_REQUEST", `Cannot find the column \`${one}\` in ${name}.`, {
      where: "settings",
      advice: suggestName(
        one,
        columns.map((known) => known.name),
        "columns",
      ),
    });
  }
}

/** Two spellings are made one group only where both are there, or were made one before. Throws `UNKNOWN_NAME` with the nearest. */
async function checkAliases(
  context: Context,
  name: string,
  aliases: readonly z.output<typeof alias>[],
  before: DatasetSettings["aliases"] & object,
): Promise<void> {
  const isKnown = (one: z.output<typeof alias>): boolean =>
    before.some((old) => old.column === one.column && old.from === one.from && old.to === one.to);
  const fresh = aliases.filter((one) => !isKnown(one));
  if (fresh.length === 0) return;
  const edition = await getEdition(context.database, name);
  const values = new Map<string, readonly string[]>();
  for (const column of new Set(fresh.map((one) => foldName(one.column)))) {
    const own = edition.columns.filter((one) => foldName(one.name) === column).map((one) => one.name);
    const table = await readEdition(context.database, edition, { columns: own });
    values.set(column, [...new Set(table.columns.flatMap((one) => one.values.map((value) => String(value ?? ""))))]);
  }
  for (const one of fresh) {
    const there = values.get(foldName(one.column)) ?? [];
    for (const [what, spelling] of [
      ["from", one.from],
      ["to", one.to],
    ] as const) {
      const isChain = what === "to" && before.some((old) => cleanKey(old.to) === cleanKey(spelling));
      if (isChain || there.some((value) => cleanKey(value) === cleanKey(spelling))) continue;
      throw new CorbixError(
        "UNKNOWN_NAME",
        `Cannot merge ${what === "from" ? "" : "into "}\`${spelling}\`: no row of ${name} has it as ${one.column}. Nothing was changed.`,
        { where: "settings, aliases", advice: suggestName(spelling, there.filter(Boolean), "values") },
      );
    }
  }
}

async function checkMailbox(context: Context, dataset: DatasetRow, box: string): Promise<void> {
  const all = (await context.database.models.Dataset.findAll({ raw: true })) as unknown as DatasetRow[];
  const taken = all.find((other) => other.id !== dataset.id && other.settings.mailbox?.name === box);
  if (!taken) return;
  throw new CorbixError("CONFLICT", `Cannot use the address \`${box}\`: it takes files for ${taken.name}.`, {
    where: "mailbox",
    advice: "Choose another name.",
  });
}

function showSettings(context: Context, { name, settings }: DatasetRow): object {
  const { password: sealed, ...shown } = settings;
  const { intakeMailDomain, intakeMailPort } = context.settings;
  return {
    rules: {},
    mode: "replace",
    key: [],
    aliases: [],
    mailbox: null,
    ...shown,
    folder: context.settings.inbox === "none" ? null : join(inboxFolder(context.settings), name),
    hasPassword: sealed !== undefined,
    address: shown.mailbox && intakeMailPort > 0 ? `${shown.mailbox.name}@${intakeMailDomain}` : null,
  };
}
