import { join } from "node:path";
import type { datasetEndpoints } from "@corbix/api";
import { CorbixError, suggestName } from "@corbix/core/common";
import type { EditionDifference } from "@corbix/core/edition";
import { type ColumnProfile, isoCell } from "@corbix/core/grid";
import { type ColumnInfo, type IntakeRules, intakeRulesSchema } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { reachOf } from "../../access/rights.js";
import { type Incoming, previewFile, takeIn } from "../../intake/take-in.js";
import { inboxFolder } from "../../intake/watch-folder.js";
import { groupsOfEdition, partnersOf, splitColumnsOf } from "../../library/dataset-groups.js";
import { changeSettings } from "../../library/dataset-settings.js";
import { deleteRowsOf } from "../../library/empty-edition.js";
import type { Context } from "../../process/context.js";
import {
  addUpload,
  allDatasets,
  checkFull,
  type DatasetRow,
  getDataset,
  getEdition,
  maybeListedDataset,
  maybeUpload,
  packedEdition,
  pageOf,
  pageOfArrivals,
  pageOfDatasets,
  pageOfEditions,
  readChanges,
  readEdition,
  type ShownEdition,
  versionOf,
} from "../../records/index.js";
import { type GridSource, lookAt, placeOf, profileOf } from "../../threads/look.js";
import { type HandlersOf, iso } from "../handler.js";
import { offsetOf, offsetPage } from "./offsets.js";
import { isoRows } from "./show-rows.js";

/** Groups that have gone, named one by one. */
const NAMED_GONE = 200;

export const datasetHandlers: HandlersOf<typeof datasetEndpoints> = {
  listDatasets: async ({ context, query: { search, ...wish }, scope }) => {
    const among = (await reachOf(context, scope))?.datasets;
    const page = await pageOfDatasets(context.database, { search, among }, wish);
    return { items: page.items.map(showDataset), next: page.next };
  },

  showDataset: async ({ context, params }) => {
    const found = await maybeListedDataset(context.database, params.name);
    if (found) return showDataset(found);
    const names = (await allDatasets(context.database)).map((one) => one.name);
    throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindDataset({ name: params.name }), {
      where: "datasets",
      advice: suggestName(params.name, names, "datasets"),
    });
  },

  listEditions: async ({ context, params, query }) => {
    const { id } = await getDataset(context.database, params.name);
    const page = await pageOfEditions(context.database, id, query);
    return {
      items: page.items.map((one) => ({
        dataset: params.name,
        ...one,
        createdAt: iso(one.createdAt),
        emptiedAt: iso(one.emptiedAt),
      })),
      next: page.next,
    };
  },

  showEdition: async ({ context, params }) =>
    showEdition(params.name, await getEdition(context.database, params.name, params.number)),

  uploadFile: async ({ context, query, request, user, created }) => {
    const { sha256, size } = await context.store.putStream(request, context.settings.uploadLimit);
    await addUpload(context.database, { sha256, file: query.file, size }, user.name);
    created(`/uploads/${sha256}`);
    return { upload: sha256, file: query.file, size };
  },

  showUpload: async ({ context, params }) => {
    const found = await maybeUpload(context.database, params.upload);
    if (!found) throw noUpload();
    return { upload: found.sha256, file: found.file, size: found.size };
  },

  previewEdition: async ({ context, params, body }) => {
    const read = await previewFile(context, await incoming(context, params.name, body));
    const { columns } = read;
    return {
      rowCount: read.rowCount,
      columns,
      reading: read.reading,
      headerRow: read.headerRow,
      leftOut: read.leftOut,
      decisions: read.decisions,
      changes: read.changes,
      rules: read.rules,
      appended: read.appended,
      findings: read.findings,
      mode: read.mode,
      drift: read.drift,
      difference: read.difference && isoDifference(read.difference, columns),
      preview: { rowNumbers: read.preview.rowNumbers, rows: isoRows(columns, read.preview.rows) },
    };
  },

  loadUpload: async ({ context, params, body, user, created }) => {
    const { keep, ...request } = body;
    const added = await takeIn(context, await incoming(context, params.name, request), user.name);
    if (keep) {
      const { rules, password, mode, key } = request;
      await changeSettings(
        context,
        params.name,
        {
          ...(rules ? { rules } : {}),
          ...(password ? { password } : {}),
          ...(mode ? { mode } : {}),
          ...(key ? { key } : {}),
        },
        user.name,
      );
    }
    created(`/datasets/${params.name}/editions/${added.number}`);
    return showEdition(params.name, added);
  },

  loadFile: async ({ context, params, query, request, user, created }) => {
    const { sha256 } = await context.store.putStream(request, context.settings.uploadLimit);
    const { file, sheet, table, headerRow, mode, key } = query;
    const secret = request.headers["corbix-file-password"];
    const rules = {
      ...(sheet === undefined ? {} : { sheet }),
      ...(table === undefined ? {} : { table }),
      ...(headerRow === undefined ? {} : { headerRow }),
      ...(query.rules === undefined ? {} : rulesOf(query.rules)),
    };
    const added = await takeIn(
      context,
      {
        dataset: params.name,
        file,
        sha256,
        rules,
        ...(mode ? { mode } : {}),
        ...(key ? { key: key.split(",").map((one) => one.trim()) } : {}),
        ...(typeof secret === "string" ? { password: decodeURIComponent(secret) } : {}),
      },
      user.name,
    );
    created(`/datasets/${params.name}/editions/${added.number}`);
    return showEdition(params.name, added);
  },

  showDatasetSettings: async ({ context, params, tell }) => {
    const dataset = await getDataset(context.database, params.name);
    tell(versionOf(dataset.settings));
    return showSettings(context, dataset);
  },

  changeDatasetSettings: async ({ context, params, body, user, expected, tell }) => {
    await changeSettings(context, params.name, body, user.name, expected);
    const dataset = await getDataset(context.database, params.name);
    tell(versionOf(dataset.settings));
    return showSettings(context, dataset);
  },

  listArrivals: async ({ context, query: { dataset, outcome, ...wish }, scope }) => {
    const among = (await reachOf(context, scope))?.datasets;
    const page = await pageOfArrivals(context.database, { dataset, outcome, among }, wish);
    return { items: page.items.map((one) => ({ ...one, at: iso(one.at) })), next: page.next };
  },

  listRows: async ({ context, params, query: { limit, cursor } }) => {
    const edition = await getEdition(context.database, params.name, params.number);
    const first = offsetOf(cursor);
    const table = await readEdition(context.database, edition, { first, count: limit });
    const columns = edition.columns;
    return {
      columns,
      rowNumbers: table.rowNumbers,
      rows: isoRows(
        columns,
        table.rowNumbers.map((_, row) => table.columns.map((column) => column.values[row] ?? null)),
      ),
      total: edition.rowCount,
      next: offsetPage(first + table.rowNumbers.length, edition.rowCount),
    };
  },

  lookAtRows: async ({ context, params, body }) => {
    const seen = sourceOf(params, body);
    const at = body.rowNumber === undefined ? -1 : await placeOf(context, seen, body.query, body.rowNumber);
    const first = at >= 0 ? at : (body.first ?? offsetOf(body.cursor));
    const { columns, rowNumbers, rows, total, of } = await lookAt(context, seen, body.query, first, body.limit);
    const next = offsetPage(first + rowNumbers.length, total);
    return { columns, rowNumbers, rows: isoRows(columns, rows), total, next, first, of };
  },

  profileColumns: async ({ context, params, body }) => {
    const found = await profileOf(context, sourceOf(params, body), body.query, body.columns);
    return { columns: found.map(showProfile) };
  },

  listChangedCells: async ({ context, params, query: { column, kind, limit, cursor } }) => {
    const edition = await getEdition(context.database, params.name, params.number);
    const first = offsetOf(cursor);
    const { total, cells } = await readChanges(context.database, edition, {
      first,
      count: limit,
      ...(column === undefined ? {} : { column }),
      ...(kind === undefined ? {} : { kind }),
    });
    return { items: cells, total, next: offsetPage(first + cells.length, total) };
  },

  downloadEdition: async ({ context, params, response }) => {
    const found = await getEdition(context.database, params.name, params.number);
    checkFull(found);
    if (found.stored === null)
      throw new CorbixError("NOT_FOUND", say().serviceRecords.fileErased({ number: found.number }), {
        where: say().place.dataset({ name: params.name }),
        advice: say().serviceRecords.rowsAreThere(),
      });
    response.attachment(found.origin).send(Buffer.from(await context.store.get(found.sha256)));
  },

  emptyEdition: async ({ context, params, user }) =>
    showEdition(params.name, await deleteRowsOf(context, params.name, params.number, user.name)),

  compareEditions: async ({ context, params, query }) => {
    const { database } = context;
    const after = await getEdition(database, params.name, params.number);
    const other = query.with ?? params.number - 1;
    if (other < 1)
      throw new CorbixError("BAD_REQUEST", say().serviceHttp.cannotCompareFirstEditionNone(), {
        where: "with",
        advice: say().serviceHttp.nameAnotherEdition(),
      });
    const before = await getEdition(database, params.name, other);
    const { settings } = await getDataset(database, params.name);
    const difference = await context.threads.isolated("compare", {
      before: await packedEdition(database, before),
      after: await packedEdition(database, after),
      key: settings.key ?? [],
      groupColumns: await splitColumnsOf(context, params.name, after),
    });
    return { before: before.number, after: after.number, ...isoDifference(difference, after.columns) };
  },

  listPartners: async ({ context, params }) => ({ partners: await partnersOf(context, params.name, params.other) }),

  listGroups: async ({ context, params, query: { by, search, isNew, hasRecipients, ...wish } }) => {
    const edition = await getEdition(context.database, params.name, params.number);
    const named = by?.split(",").map((one) => one.trim());
    const list = await groupsOfEdition(context, params.name, edition, named);
    const wanted = search?.toLowerCase();
    const found = list.groups.filter(
      (one) =>
        (wanted === undefined || one.label.toLowerCase().includes(wanted)) &&
        (isNew === undefined || one.isNew === isNew) &&
        (hasRecipients === undefined || one.hasRecipients === hasRecipients),
    );
    const page = pageOf(found, wish);
    return {
      items: page.items,
      next: page.next,
      total: found.length,
      by: list.by,
      blank: list.blank,
      gone: { count: list.gone.length, labels: list.gone.slice(0, NAMED_GONE) },
      near: list.near,
      findings: list.findings,
    };
  },
};

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
  throw new CorbixError(
    "BAD_REQUEST",
    say().serviceHttp.cannotReadCorrections({ message: read.error.issues[0]?.message }),
    {
      where: `rules${read.error.issues[0]?.path.map((one) => `.${String(one)}`).join("") ?? ""}`,
      advice: say().serviceHttp.giveThemJsonSuchHeader(),
    },
  );
}

function noUpload(): CorbixError {
  return new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindUploadedFileAny(), {
    where: "upload",
    advice: say().serviceHttp.uploadAgain(),
  });
}

async function incoming(
  context: Context,
  dataset: string,
  body: {
    readonly upload: string;
    readonly file: string;
    readonly rules?: IntakeRules | undefined;
    readonly password?: string | undefined;
    readonly mode?: "replace" | "append" | undefined;
    readonly key?: readonly string[] | undefined;
  },
): Promise<Incoming> {
  if (!(await context.store.has(body.upload))) throw noUpload();
  const { upload, file, rules, password, mode, key } = body;
  return {
    dataset,
    sha256: upload,
    file,
    ...(rules ? { rules } : {}),
    ...(password === undefined ? {} : { password }),
    ...(mode ? { mode } : {}),
    ...(key ? { key } : {}),
  };
}

function sourceOf(
  params: { readonly name: string; readonly number: number },
  body: { readonly report?: string | undefined; readonly step?: number | undefined },
): GridSource {
  return {
    dataset: params.name,
    edition: params.number,
    ...(body.report === undefined ? {} : { report: { name: body.report, step: body.step ?? Number.MAX_SAFE_INTEGER } }),
  };
}

function showDataset({ name, editions, newest }: { name: string; editions: number; newest: ShownEdition | null }) {
  return { name, editions, newest: newest && showEdition(name, newest) };
}

export function showEdition(dataset: string, edition: ShownEdition) {
  return {
    dataset,
    number: edition.number,
    origin: edition.origin,
    sha256: edition.sha256,
    rowCount: edition.rowCount,
    columns: edition.columns,
    reading: edition.reading,
    headerRow: edition.headerRow,
    leftOut: edition.leftOut,
    decisions: edition.decisions,
    changes: edition.changes,
    rules: edition.rules,
    appended: edition.appended,
    findings: edition.findings,
    createdBy: edition.createdBy,
    createdAt: iso(edition.createdAt),
    emptiedAt: iso(edition.emptiedAt),
  };
}

function isoDifference(difference: EditionDifference, columns: readonly ColumnInfo[]): EditionDifference {
  const { changed } = difference;
  if (!changed) return difference;
  const types = new Map(columns.map((column) => [column.name, column.type]));
  const examples = changed.examples.map((one) => {
    const type = types.get(one.column) ?? "text";
    return { ...one, before: isoCell(type, one.before), after: isoCell(type, one.after) };
  });
  return { ...difference, changed: { ...changed, examples } };
}

function showProfile({ histogram, frequent, ...profile }: ColumnProfile) {
  const spell = (value: string | number | boolean | null) => isoCell(profile.type, value);
  return {
    ...profile,
    min: spell(profile.min),
    max: spell(profile.max),
    histogram: histogram.map((bar) => ({ ...bar, from: spell(bar.from), to: spell(bar.to) })),
    frequent: frequent.map((one) => ({ ...one, value: spell(one.value) })),
  };
}

function showSettings(context: Context, { name, settings }: DatasetRow) {
  const { intakeMailDomain, intakeMailPort } = context.settings;
  const mailbox = settings.mailbox ?? null;
  return {
    rules: settings.rules ?? {},
    mode: settings.mode ?? "replace",
    key: settings.key ?? [],
    aliases: settings.aliases ?? [],
    keepMonths: settings.keepMonths ?? null,
    mailbox,
    folder: context.settings.inbox === "none" ? null : join(inboxFolder(context.settings), name),
    hasPassword: settings.password !== undefined,
    address: mailbox && intakeMailPort > 0 ? `${mailbox.name}@${intakeMailDomain}` : null,
  } as const;
}
