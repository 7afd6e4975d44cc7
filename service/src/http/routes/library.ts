import { nextTimes, printedAt } from "@corbix/core/calendar";
import { reportSchema } from "@corbix/core/report";
import { z } from "zod";
import { addFont, fontFolder } from "../../library/custom-fonts.js";
import {
  addReport,
  addTemplate,
  getReport,
  getTemplate,
  newestReports,
  newestTemplates,
} from "../../library/definitions.js";
import { editableMessage, previewMessage, saveMessage } from "../../library/message-editor.js";
import { marksOfTemplate, tryTemplate, usesOfTemplate } from "../../library/template-preview.js";
import type { Context } from "../../process/context.js";
import type { ReportVersionRow } from "../../records/index.js";
import { type Route, route } from "../route.js";
import { anything, cell, column, finding, named } from "../shapes.js";

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

/** Texts of a message by language; the empty name is the one everybody gets who reads no other. */
const words = z.record(
  z.string().regex(/^(?:[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)?$/, "expected a language, such as de or de-CH"),
  z.strictObject({
    subject: z.string().max(2_000),
    kind: z.enum(["html", "markdown", "text"]),
    body: z.string().max(200_000),
    template: z.string().max(200).optional().describe("File among the templates it stands in."),
    text: z.string().max(200_000).optional().describe("Plain text; made from the HTML if left out."),
  }),
);

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
      summary: "A template with the reports that use it; of an HTML body also its marks",
      tag: "Templates",
      params: fileNamed,
      answer: template.extend({
        marks: z.array(z.string()),
        uses: z.array(z.object({ report: z.string(), file: z.string(), title: z.string() })),
      }),
      handle: async ({ context, params }) => {
        const found = await getTemplate(context, params.file);
        const marks = await marksInHtml(context, found.name, found.sha256);
        return { ...found, marks, uses: await usesOfTemplate(context, found.name) };
      },
    }),
    route("get", "/api/templates/{file}/marks", {
      summary: "Every mark with its place and what it is filled from; with a report each is checked against it",
      tag: "Templates",
      params: fileNamed,
      query: z.object({ report: z.string().optional() }),
      answer: z.array(
        z.object({
          where: z.string(),
          mark: z.string(),
          from: z.string(),
          problem: z.object({ what: z.string(), advice: z.string().optional() }).optional(),
        }),
      ),
      handle: ({ context, params, query }) => marksOfTemplate(context, params.file, query.report),
    }),
    route("post", "/api/reports/{name}/try", {
      summary: "Make a file of the report for one group, to look at; nothing is kept and nothing is sent",
      tag: "Reports",
      params: named,
      body: z.strictObject({
        file: z.string().describe("Name of the file in the report."),
        group: z.string().optional().describe("Key or label; one of middling size if not given."),
        period: z.string().optional().describe("Such as 2026-10; the last that is over if not given."),
      }),
      answer: z.object({
        id: z.string(),
        period: z.string().nullable(),
        group: z.string(),
        groups: z.array(z.object({ key: z.string(), label: z.string(), rows: z.number().int() })),
        files: z.array(z.object({ kind: z.string(), size: z.number().int(), pages: z.number().int().optional() })),
        findings: z.array(finding),
        columns: z.array(column),
        rowNumbers: z.array(z.number()),
        rows: z.array(z.array(cell)).describe("Dates are serial numbers: days since 1899-12-30."),
      }),
      handle: ({ context, params, body }) =>
        tryTemplate(context, { report: params.name, file: body.file, group: body.group, period: body.period }),
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
        const fonts = fontFolder(context.settings);
        const pages = await context.threads.quick("pagesOf", {
          bytes,
          name: found.name,
          fonts,
          printed: printedAt(context.now(), context.settings.zone),
        });
        response.type("application/pdf").send(Buffer.from(pages));
      },
    }),
    route("get", "/api/fonts", {
      summary: "All font families there are",
      tag: "Templates",
      answer: z.array(z.object({ family: z.string(), own: z.boolean().describe("Whether somebody brought it.") })),
      handle: ({ context }) => Promise.resolve(context.fonts().list()),
    }),
    route("put", "/api/fonts/{file}", {
      summary: "Add a font (.ttf, .woff); the body is the file",
      tag: "Templates",
      params: fileNamed,
      body: "bytes",
      answer: z.object({ family: z.string(), bold: z.boolean(), italic: z.boolean() }),
      handle: ({ context, params, body, user }) =>
        addFont(context, params.file, Buffer.isBuffer(body) ? body : Buffer.alloc(0), user.name),
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
    route("get", "/api/reports/{name}/message", {
      summary: "A report's message as it is edited: subject and body in each language",
      tag: "Reports",
      params: named,
      answer: z.object({
        version: z.number().int(),
        words,
        columns: z.array(z.object({ name: z.string(), type: z.string() })),
      }),
      handle: ({ context, params }) => editableMessage(context, params.name),
    }),
    route("post", "/api/reports/{name}/message/preview", {
      summary: "One group's messages as these texts would make them; nothing is kept and nothing is sent",
      tag: "Reports",
      params: named,
      body: z.strictObject({ words, group: z.string().max(300).optional(), period: z.string().max(60).optional() }),
      answer: z.object({
        period: z.string().nullable(),
        group: z.string(),
        groups: z.array(z.object({ key: z.string(), label: z.string(), rows: z.number().int() })),
        messages: z.array(
          z.object({
            language: z.string(),
            people: z.array(z.string()),
            subject: z.string(),
            html: z.string(),
            text: z.string(),
          }),
        ),
      }),
      handle: ({ context, params, body }) => previewMessage(context, params.name, body.words, body.group, body.period),
    }),
    route("put", "/api/reports/{name}/message", {
      summary: "Keep a report's message: templates as their next version, the rest in the report's next version",
      tag: "Reports",
      params: named,
      body: z.strictObject({
        words,
        version: z.number().int().min(1).describe("Version of the report it was read from."),
      }),
      answer: z.object({ version: z.number().int(), templates: z.array(z.string()) }),
      handle: ({ context, params, body, user }) =>
        saveMessage(context, params.name, body.words, body.version, user.name),
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

/** Marks of an HTML body, as they stand. */
async function marksInHtml(context: Context, name: string, digest: string): Promise<string[]> {
  if (!name.endsWith(".html")) return [];
  const text = Buffer.from(await context.store.get(digest)).toString("utf8");
  return [...new Set([...text.matchAll(/\{\{([\s\S]*?)\}\}/g)].map((match) => match[1].trim()))];
}
