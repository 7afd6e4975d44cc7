/** Templates and reports, each in versions that are never changed. */

import type { Report } from "@corbix/core/report";
import type { Transaction } from "sequelize";
import type { Database } from "./database/database.js";
import { findRow, getRow } from "./database/find.js";
import { containing, type ListPage, type PageWish, selectPage } from "./database/page.js";
import type { ReportVersionRow, TemplateVersionRow } from "./database/row-types.js";
import { isThere, type Kind, nameNow } from "./keeping.js";

const NEWEST_TEMPLATES = `(SELECT DISTINCT ON (name) id, name, number, sha256, size, created_by AS "createdBy", created_at AS "createdAt"
  FROM template_versions WHERE ${isThere("templates", "template_versions.name")} ORDER BY name, number DESC) AS newest`;
const NEWEST_REPORTS = `(SELECT DISTINCT ON (name) id, name, number, source, definition, note, created_by AS "createdBy", created_at AS "createdAt"
  FROM report_versions WHERE ${isThere("reports", "report_versions.name")} ORDER BY name, number DESC) AS newest`;

export function pageOfTemplates(
  database: Database,
  { search, among }: { readonly search?: string | undefined; readonly among?: readonly string[] | undefined },
  wish: PageWish,
): Promise<ListPage<TemplateVersionRow>> {
  return selectPage<TemplateVersionRow>(
    database,
    {
      select: "newest.*",
      from: NEWEST_TEMPLATES,
      where: [
        ["newest.name ILIKE ?", containing(search)],
        ["newest.name = ANY(?)", among],
      ],
      order: [{ sql: "newest.name", type: "text" }],
      downwards: false,
    },
    wish,
  );
}

export function pageOfReports(
  database: Database,
  filter: {
    readonly search?: string | undefined;
    readonly data?: string | undefined;
    readonly among?: readonly string[] | undefined;
  },
  wish: PageWish,
): Promise<ListPage<ReportVersionRow>> {
  return selectPage<ReportVersionRow>(
    database,
    {
      select: "newest.*",
      from: NEWEST_REPORTS,
      where: [
        ["newest.name ILIKE ? OR newest.definition->>'title' ILIKE ?", containing(filter.search)],
        ["newest.definition->>'data' = ?", filter.data],
        ["newest.name = ANY(?)", filter.among],
      ],
      order: [{ sql: "newest.name", type: "text" }],
      downwards: false,
    },
    wish,
  );
}

/** The newest version of each template that is not put away, by name. */
export function newestTemplates(database: Database): Promise<TemplateVersionRow[]> {
  return database.select<TemplateVersionRow>(`SELECT * FROM ${NEWEST_TEMPLATES} ORDER BY name`);
}

/** The newest version of a template by its name, or by one it had before; whatever was put away too. */
export async function maybeTemplate(database: Database, name: string): Promise<TemplateVersionRow | undefined> {
  return byNameNow(database, "templates", name, (called) =>
    findRow(database.models.TemplateVersion, { where: { name: called }, order: [["number", "DESC"]] }),
  );
}

/** What is found by a name, or else by what that is called now. */
export async function byNameNow<Found>(
  database: Database,
  kind: Kind,
  name: string,
  find: (name: string) => Promise<Found | undefined>,
): Promise<Found | undefined> {
  const found = await find(name);
  if (found !== undefined) return found;
  const now = await nameNow(database, kind, name);
  return now === undefined ? undefined : find(now);
}

/** The newest version of each report that is not put away, by name. */
export function newestReports(database: Database): Promise<ReportVersionRow[]> {
  return database.select<ReportVersionRow>(`SELECT * FROM ${NEWEST_REPORTS} ORDER BY name`);
}

/** The newest version of a report by its name, or by one it had before; whatever was put away too. */
export async function maybeReport(
  database: Database,
  name: string,
  transaction?: Transaction,
): Promise<ReportVersionRow | undefined> {
  return byNameNow(database, "reports", name, (called) =>
    findRow(database.models.ReportVersion, {
      where: { name: called },
      order: [["number", "DESC"]],
      ...(transaction ? { transaction } : {}),
    }),
  );
}

/** All versions of a report, the newest first; their texts are asked for one by one. */
export function pageOfReportVersions(
  database: Database,
  name: string,
  wish: PageWish,
): Promise<ListPage<Pick<ReportVersionRow, "number" | "note" | "createdBy" | "createdAt">>> {
  return selectPage(
    database,
    {
      select: 'number, note, created_by AS "createdBy", created_at AS "createdAt"',
      from: "report_versions",
      where: [["name = ?", name]],
      order: [{ sql: "number", type: "int" }],
      downwards: true,
    },
    wish,
  );
}

export async function maybeReportVersion(
  database: Database,
  name: string,
  number: number,
): Promise<ReportVersionRow | undefined> {
  return byNameNow(database, "reports", name, (called) =>
    findRow(database.models.ReportVersion, { where: { name: called, number } }),
  );
}

export async function reportVersion(database: Database, name: string, number: number): Promise<ReportVersionRow> {
  const found = await maybeReportVersion(database, name, number);
  return found ?? getRow(database.models.ReportVersion, { where: { name, number } });
}

/** Keeps a version; `undefined` where its number is taken, since somebody else saved meanwhile. */
export async function addReportVersion(
  database: Database,
  version: Omit<ReportVersionRow, "id" | "createdAt">,
  transaction: Transaction,
): Promise<ReportVersionRow | undefined> {
  const created = await unlessTaken(() => database.models.ReportVersion.create(version, { transaction }));
  return created?.get({ plain: true });
}

/** Keeps a version; `undefined` where its number is taken, since somebody else saved meanwhile. */
export async function addTemplateVersion(
  database: Database,
  version: Omit<TemplateVersionRow, "id" | "createdAt">,
  transaction: Transaction,
): Promise<TemplateVersionRow | undefined> {
  const created = await unlessTaken(() => database.models.TemplateVersion.create(version, { transaction }));
  return created?.get({ plain: true });
}

/** PostgreSQL's word for a key that is there already. */
const UNIQUE_VIOLATION = "23505";

/** What was made; `undefined` where the database has one of that number already. */
export async function unlessTaken<Made>(make: () => Promise<Made>): Promise<Made | undefined> {
  try {
    return await make();
  } catch (error) {
    const { name, code } = error as Error & { readonly code?: string };
    if (name === "SequelizeUniqueConstraintError" || code === UNIQUE_VIOLATION) return undefined;
    throw error;
  }
}

/** Reports whose newest version sends files by each way out. */
export function reportsWithWay(database: Database): Promise<{ readonly report: string; readonly way: string }[]> {
  return database.select<{ report: string; way: string }>(
    `SELECT newest.name AS report, way FROM ${NEWEST_REPORTS}, LATERAL json_object_keys(coalesce(newest.definition->'waysOut', '{}')) AS way ORDER BY newest.name`,
  );
}

/** Versions of reports that were last read by another form of definitions than this. */
export function definitionsOfOtherForm(
  database: Database,
  form: string,
  most: number,
): Promise<{ readonly id: number; readonly name: string; readonly source: string }[]> {
  return database.select<{ id: number; name: string; source: string }>(
    "SELECT id, name, source FROM report_versions WHERE form IS DISTINCT FROM $1 ORDER BY id LIMIT $2",
    [form, most],
  );
}

/** Keeps a version as this form reads its text; without a definition it stays as it was read before. */
export async function setDefinitionForm(
  database: Database,
  id: number,
  form: string,
  definition: Report | undefined,
): Promise<void> {
  await database.execute(
    "UPDATE report_versions SET form = $2, definition = coalesce($3::json, definition) WHERE id = $1",
    [id, form, definition === undefined ? null : JSON.stringify(definition)],
  );
}
