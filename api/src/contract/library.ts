import { z } from "zod";
import {
  byFile,
  byName,
  columnType,
  count,
  countedPage,
  digest,
  instant,
  matchedPerson,
  name,
  page,
  paging,
  period,
  scheduledTime,
  step,
  trial,
  triedGroup,
  truth,
  whole,
} from "./common.js";
import { endpoint } from "./endpoint.js";

const template = z
  .strictObject({
    name: z.string(),
    number: whole,
    sha256: digest,
    size: count,
    createdBy: z.string(),
    createdAt: instant,
  })
  .meta({ id: "Template" });

const report = z
  .strictObject({
    name,
    number: whole,
    title: z.string(),
    data: z.string(),
    every: z.string().nullable().describe("Its kind of period, if it has one."),
    schedule: z
      .strictObject({
        says: z.string().describe("When it comes due, in words."),
        rule: z.string().nullable(),
        day: z.record(z.string(), z.unknown()).nullable().describe("In place of a rule: a day counted in each period."),
        at: z.string(),
        zone: z.string(),
      })
      .nullable(),
    hasMessage: z.boolean(),
    isAsked: z.boolean().describe("Whether people ask it; it is not run."),
    nextTimes: z.array(scheduledTime).describe("The next times it runs by itself; of a single report those of a year."),
    createdBy: z.string(),
    createdAt: instant,
  })
  .meta({ id: "ReportSummary" });

const wholeReport = z
  .strictObject({
    ...report.shape,
    source: z.string().describe("The definition as it was written, YAML or JSON."),
    note: z.string().nullable().describe("Why this version was saved."),
    definition: z
      .record(z.string(), z.unknown())
      .describe("What it says, with what it leaves out filled in; /report-schema tells the shape."),
  })
  .meta({ id: "Report" });

/** Texts of a message by language; the empty name is the one everybody gets who reads no other. */
const words = z
  .record(
    z.string().regex(/^(?:[a-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)?$/, "expected a language, such as de or de-CH"),
    z.strictObject({
      subject: z.string().max(2_000),
      kind: z.enum(["html", "markdown", "text"]),
      body: z.string().max(200_000),
      template: z.string().max(200).optional().describe("File among the templates it stands in."),
      text: z.string().max(200_000).optional().describe("Plain text; made from the HTML if left out."),
    }),
  )
  .meta({ id: "MessageWords" });

const mark = z
  .strictObject({
    where: z.string(),
    mark: z.string(),
    from: z.string(),
    problem: z.strictObject({ what: z.string(), advice: z.string().optional() }).optional(),
  })
  .meta({ id: "Mark" });
const place = z
  .strictObject({
    kind: z.enum(["table", "area", "cell", "sheet", "bookmark"]),
    name: z.string().describe("As a definition names it; a cell with its sheet, as in Summary!B2."),
    where: z.string(),
    headings: z.array(z.string()).describe("Of a table."),
  })
  .meta({ id: "TemplatePlace" });
const person = matchedPerson.meta({ id: "MatchedPerson" });

const editionNumber = z.coerce.number().int().min(1).optional().describe("Of its dataset; the newest if not given.");
const prospectSays = z
  .enum(["go", "some", "had", "none"])
  .describe("`some` have not had it yet; `had` all of them; `none` has nobody who receives.");

export const libraryEndpoints = {
  listTemplates: endpoint("get", "/templates", {
    summary: "Templates by name, each in its newest version",
    tag: "Templates",
    query: paging.extend({ search: z.string().max(200).optional().describe("Part of a name.") }),
    answer: page(template),
  }),
  saveTemplate: endpoint("put", "/templates/{file}", {
    summary: "Add a version of a template; the body is the file. The same bytes make no new version",
    tag: "Templates",
    params: byFile,
    body: "bytes",
    answer: template,
    statuses: [200, 201],
    version: "matched",
  }),
  showTemplate: endpoint("get", "/templates/{file}", {
    summary: "A template with the reports that use it; of an HTML body also its marks",
    tag: "Templates",
    params: byFile,
    answer: template
      .extend({
        marks: z.array(z.string()),
        uses: z.array(z.strictObject({ report: z.string(), file: z.string(), title: z.string() })),
      })
      .meta({ id: "TemplateUsed" }),
    version: "told",
  }),
  listMarks: endpoint("get", "/templates/{file}/marks", {
    summary: "Every mark with its place and what it is filled from; with a report each is checked against it",
    tag: "Templates",
    params: byFile,
    query: paging.extend({ report: z.string().optional() }),
    answer: page(mark),
  }),
  listPlaces: endpoint("get", "/templates/{file}/places", {
    summary: "What a definition can name in a template: its tables, areas, cells, sheets and bookmarks",
    tag: "Templates",
    params: byFile,
    query: paging,
    answer: page(place),
  }),
  downloadTemplate: endpoint("get", "/templates/{file}/content", {
    summary: "The template's file",
    tag: "Templates",
    params: byFile,
    answer: "application/octet-stream",
  }),
  printTemplate: endpoint("get", "/templates/{file}/pages.pdf", {
    summary: "The template as it is, as pages",
    tag: "Templates",
    params: byFile,
    answer: "application/pdf",
  }),
  listFonts: endpoint("get", "/fonts", {
    summary: "All font families there are",
    tag: "Templates",
    query: paging,
    answer: page(
      z
        .strictObject({ family: z.string(), own: z.boolean().describe("Whether somebody brought it.") })
        .meta({ id: "Font" }),
    ),
  }),
  addFont: endpoint("put", "/fonts/{file}", {
    summary: "Add a font (.ttf, .woff); the body is the file",
    tag: "Templates",
    params: byFile,
    body: "bytes",
    answer: z.strictObject({ family: z.string(), bold: z.boolean(), italic: z.boolean() }),
  }),
  listReports: endpoint("get", "/reports", {
    summary: "Reports by name, each in its newest version, with the next times they run by themselves",
    tag: "Reports",
    query: paging.extend({
      search: z.string().max(200).optional().describe("Part of a name or title."),
      data: z.string().max(200).optional().describe("Only those of a dataset."),
    }),
    answer: page(report),
  }),
  showReport: endpoint("get", "/reports/{name}", {
    summary: "A report with its definition",
    tag: "Reports",
    params: byName,
    answer: wholeReport,
    version: "told",
  }),
  saveReport: endpoint("put", "/reports/{name}", {
    summary: "Save a report's definition, YAML or JSON; it is checked against data and templates first",
    tag: "Reports",
    params: byName,
    query: z.strictObject({ note: z.string().max(500).optional().describe("Why it is saved.") }),
    body: "text",
    answer: wholeReport,
    statuses: [200, 201],
    version: "matched",
  }),
  listReportVersions: endpoint("get", "/reports/{name}/versions", {
    summary: "All versions of a report, the newest first",
    tag: "Reports",
    params: byName,
    query: paging,
    answer: page(
      z
        .strictObject({ number: whole, note: z.string().nullable(), createdBy: z.string(), createdAt: instant })
        .meta({ id: "ReportVersion" }),
    ),
  }),
  showReportVersion: endpoint("get", "/reports/{name}/versions/{number}", {
    summary: "A version of a report as it was saved",
    tag: "Reports",
    params: byName.extend({ number: z.coerce.number().int().min(1) }),
    answer: wholeReport,
  }),
  listSteps: endpoint("get", "/reports/{name}/steps", {
    summary: "Every step of a report's preparation with rows in, rows out and reasons",
    tag: "Reports",
    params: byName,
    query: paging.extend({ edition: editionNumber }),
    answer: page(step),
  }),
  listMatching: endpoint("get", "/reports/{name}/matching", {
    summary: "Who would receive for each group of a report now, by which rule, or why nobody",
    tag: "Recipients",
    params: byName,
    query: paging.extend({
      period: period.optional(),
      search: z.string().max(200).optional().describe("Part of a group's name."),
      nobody: truth.optional().describe("Only groups nobody receives for, or only the others."),
    }),
    answer: page(
      z
        .strictObject({
          number: whole,
          group: z.string(),
          rows: count,
          nobody: z.string().nullable().describe("Why nobody receives."),
          people: z.array(person),
        })
        .meta({ id: "GroupMatching" }),
    ),
  }),
  listPeriods: endpoint("get", "/reports/{name}/periods", {
    summary: "The periods its data have rows of, and those it was run for, the newest first, with what became of each",
    tag: "Reports",
    params: byName,
    query: paging.extend({ edition: editionNumber }),
    answer: page(
      z
        .strictObject({
          key: z.string(),
          label: z.string(),
          state: z
            .enum(["open", "under way", "delivered", "early", "running"])
            .describe("`early` was over before the schedule began; `running` is not over."),
          isNext: z.boolean().describe("A run that names no period is for this one."),
          rows: count,
          run: z
            .strictObject({ id: z.string(), state: z.string(), releasedAt: instant.nullable() })
            .nullable()
            .describe("Over all its groups and rows: the one that was released, or is under way."),
        })
        .meta({ id: "PeriodOfReport" }),
    ),
  }),
  listProspect: endpoint("get", "/reports/{name}/prospect", {
    summary: "What a run would do, before it is started: each group with its people, and who has had theirs",
    tag: "Reports",
    params: byName,
    query: paging.extend({
      period: period.optional().describe("The last that is over and has rows if not given."),
      edition: editionNumber,
      search: z.string().max(200).optional().describe("Part of a group's name."),
      says: prospectSays.optional(),
    }),
    answer: countedPage(
      z
        .strictObject({
          key: z.string(),
          group: z.string(),
          rows: count,
          people: z.array(z.string()).describe("Their names, or addresses where they have none."),
          says: prospectSays,
          why: z.string().nullable().describe("Why nobody receives."),
          day: z.string().nullable().describe("When it was had last."),
          run: z.string().nullable(),
        })
        .meta({ id: "GroupProspect" }),
    ).extend({
      period: z.string().nullable(),
      rows: count,
      leftOut: z.array(z.strictObject({ reason: z.string(), count })),
      madeUpFor: z
        .array(z.string())
        .describe("Earlier periods that the files which grow go on without: the run makes up for them."),
      counts: z.strictObject({ groups: count, go: count, some: count, had: count, none: count }),
      onceSentence: z.string().describe("What may happen once, as a sentence."),
      holds: z.boolean().describe("Whether a run waits for a release."),
      sends: z
        .boolean()
        .describe("Whether the report has a message; without one its files are made and nothing is sent."),
    }),
  }),
  tryReport: endpoint("post", "/reports/{name}/try", {
    summary: "Make a file of the report for one group, to look at; nothing is kept and nothing is sent",
    tag: "Reports",
    params: byName,
    body: z.strictObject({
      file: z.string().describe("Name of the file in the report."),
      group: z.string().optional().describe("Key or label; one of middling size if not given."),
      period: z.string().optional().describe("Such as 2026-10; the last that is over and has rows if not given."),
    }),
    answer: trial,
  }),
  showMessageWords: endpoint("get", "/reports/{name}/message", {
    summary: "A report's message as it is edited: subject and body in each language",
    tag: "Reports",
    params: byName,
    answer: z
      .strictObject({
        version: whole,
        words,
        columns: z.array(z.strictObject({ name: z.string(), type: columnType })),
      })
      .meta({ id: "EditableMessage" }),
    version: "told",
  }),
  previewMessage: endpoint("post", "/reports/{name}/message/preview", {
    summary: "One group's messages as these texts would make them; nothing is kept and nothing is sent",
    tag: "Reports",
    params: byName,
    body: z.strictObject({ words, group: z.string().max(300).optional(), period: period.optional() }),
    answer: z
      .strictObject({
        period: z.string().nullable(),
        group: z.string(),
        groups: z.array(triedGroup),
        messages: z.array(
          z.strictObject({
            language: z.string(),
            people: z.array(z.string()),
            subject: z.string(),
            html: z.string(),
            text: z.string(),
          }),
        ),
      })
      .meta({ id: "TriedMessage" }),
  }),
  saveMessageWords: endpoint("put", "/reports/{name}/message", {
    summary: "Keep a report's message: templates as their next version, the rest in the report's next version",
    tag: "Reports",
    params: byName,
    body: z.strictObject({ words }),
    answer: z.strictObject({ version: whole, templates: z.array(z.string()) }),
    version: "matched",
  }),
  showReportSchema: endpoint("get", "/report-schema", {
    summary: "The JSON Schema of a report's definition",
    tag: "Reports",
    answer: z.record(z.string(), z.unknown()).meta({ id: "JsonSchema" }),
  }),
};
