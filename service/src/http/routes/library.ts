import { nextTimes } from "@corbix/core/calendar";
import { DocumentTemplate, openDocument } from "@corbix/core/document";
import { layDocument, layWorkbook } from "@corbix/core/layout";
import { writePdf } from "@corbix/core/pdf";
import { reportSchema } from "@corbix/core/report";
import { openWorkbook } from "@corbix/core/spreadsheet";
import { WorkbookTemplate } from "@corbix/core/workbook";
import { z } from "zod";
import type { Context } from "../../context.js";
import { addReport, addTemplate, getReport, getTemplate, newestReports, newestTemplates } from "../../library.js";
import type { ReportVersionRow } from "../../records/index.js";
import { type Route, route } from "../route.js";
import { anything, named } from "../shapes.js";

const fileNamed = z.object({ file: z.string().min(1).max(255) });
const template = z.object({
  name: z.string(),
  number: z.number(),
  sha256: z.string(),
  size: z.number(),
  createdBy: z.string(),
  createdAt: z.string(),
});
const report = z.object({
  name: z.string(),
  number: z.number(),
  source: z.string(),
  definition: anything,
  nextTimes: z.array(z.string()),
  createdBy: z.string(),
  createdAt: z.string(),
});
/** How many coming times of a schedule are shown. */
const SHOWN_TIMES = 5;

export function libraryRoutes(): Route[] {
  return [
    route("get", "/api/templates", {
      summary: "All templates in their newest version",
      tag: "Templates",
      answer: z.array(template),
      handle: ({ context }) => newestTemplates(context),
    }),
    route("put", "/api/templates/{file}", {
      summary: "Add a version of a template; the body is the file",
      tag: "Templates",
      params: fileNamed,
      body: "bytes",
      answer: template,
      handle: ({ context, params, body, user }) =>
        addTemplate(context, params.file, Buffer.isBuffer(body) ? body : Buffer.alloc(0), user.name),
    }),
    route("get", "/api/templates/{file}", {
      summary: "A template with its marks",
      tag: "Templates",
      params: fileNamed,
      answer: template.extend({ marks: z.array(z.string()) }),
      handle: async ({ context, params }) => {
        const found = await getTemplate(context, params.file);
        return { ...found, marks: await marksOf(context, found.name, found.sha256) };
      },
    }),
    route("get", "/api/templates/{file}/content", {
      summary: "The template's file",
      tag: "Templates",
      params: fileNamed,
      answer: "application/octet-stream",
      handle: async ({ context, params, response }) => {
        const found = await getTemplate(context, params.file);
        response.attachment(found.name).send(Buffer.from(await context.store.get(found.sha256)));
      },
    }),
    route("get", "/api/templates/{file}/pages.pdf", {
      summary: "The template as it is, as pages",
      tag: "Templates",
      params: fileNamed,
      answer: "application/pdf",
      handle: async ({ context, params, response }) => {
        const found = await getTemplate(context, params.file);
        const bytes = await context.store.get(found.sha256);
        const laid = found.name.endsWith(".docx")
          ? layDocument(openDocument(bytes, found.name), context.fonts())
          : layWorkbook(openWorkbook(bytes, found.name), context.fonts(), { file: found.name, date: "", time: "" });
        response.type("application/pdf").send(Buffer.from(writePdf(laid.pages, { title: found.name })));
      },
    }),
    route("get", "/api/reports", {
      summary: "All reports in their newest version, with the next times they run by themselves",
      tag: "Reports",
      answer: z.array(report),
      handle: async ({ context }) => (await newestReports(context)).map((version) => showReport(context, version)),
    }),
    route("get", "/api/reports/{name}", {
      summary: "A report",
      tag: "Reports",
      params: named,
      answer: report,
      handle: async ({ context, params }) => showReport(context, await getReport(context, params.name)),
    }),
    route("put", "/api/reports/{name}", {
      summary: "Save a report's definition, YAML or JSON; it is checked against data and templates first",
      tag: "Reports",
      params: named,
      body: "text",
      answer: report,
      handle: async ({ context, params, body, user }) =>
        showReport(context, await addReport(context, typeof body === "string" ? body : "", user.name, params.name)),
    }),
    route("get", "/api/report-schema", {
      summary: "The JSON Schema of a report's definition",
      tag: "Reports",
      answer: anything,
      handle: async () => z.toJSONSchema(reportSchema, { io: "input" }),
    }),
  ];
}

function showReport(context: Context, version: ReportVersionRow): object {
  const { schedule } = version.definition;
  const times = schedule ? nextTimes(schedule, context.now(), SHOWN_TIMES) : [];
  return {
    name: version.name,
    number: version.number,
    source: version.source,
    definition: version.definition,
    createdBy: version.createdBy,
    createdAt: version.createdAt,
    nextTimes: times.map((time) => time.toISOString()),
  };
}

async function marksOf(context: Context, name: string, digest: string): Promise<string[]> {
  const bytes = await context.store.get(digest);
  const fields = /\.xls[xm]$/.test(name)
    ? WorkbookTemplate.read(bytes, name).fields
    : name.endsWith(".docx")
      ? DocumentTemplate.read(bytes, name).fields
      : [];
  const inHtml = name.endsWith(".html")
    ? [
        ...Buffer.from(bytes)
          .toString("utf8")
          .matchAll(/\{\{([\s\S]*?)\}\}/g),
      ].map((match) => match[1].trim())
    : [];
  return [...new Set([...fields.map((field) => field.source), ...inHtml])];
}
