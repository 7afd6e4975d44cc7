import type { libraryEndpoints } from "@corbix/api";
import { dayInZone, printedAt, type ScheduledTime, scheduleSentence, timesWithin } from "@corbix/core/calendar";
import { CorbixError, made, maybeSerialFromIso } from "@corbix/core/common";
import { onceOf, onceSentence } from "@corbix/core/delivery";
import { reportSchema } from "@corbix/core/report";
import { say } from "@corbix/core/words";
import { z } from "zod";
import { checkSources, namesOf, reachOf } from "../../access/rights.js";
import { calendarsOf } from "../../library/calendars.js";
import { addFont, fontFolder } from "../../library/custom-fonts.js";
import { addReport, addTemplate, getReport, getTemplate, readDefinition } from "../../library/definitions.js";
import { SHOWN_TIMES } from "../../library/drafts.js";
import { editableMessage, previewMessage, saveMessage } from "../../library/message-editor.js";
import { marksOfTemplate, tryTemplate, usesOfTemplate } from "../../library/template-preview.js";
import type { Context } from "../../process/context.js";
import {
  getEdition,
  maybeReportVersion,
  maybeTemplate,
  pageOf,
  pageOfReports,
  pageOfReportVersions,
  pageOfTemplates,
  type ReportVersionRow,
  type TemplateVersionRow,
} from "../../records/index.js";
import { nextPeriod, periodsOf } from "../../run/open-periods.js";
import { labelOfPeriod } from "../../run/period-label.js";
import { countsOf, type GroupProspect, matchingOf, prospectOf } from "../../run/prospect.js";
import { stepsOf } from "../../threads/look.js";
import { type HandlersOf, iso } from "../handler.js";
import { isoRows } from "./show-rows.js";

/** How many coming times of a schedule are shown: those of two weeks, of one that runs every day. */
const LISTED_TIMES = { days: 366, most: 14 } as const;

export const libraryHandlers: HandlersOf<typeof libraryEndpoints> = {
  listTemplates: async ({ context, query: { search, ...wish }, scope }) => {
    const among = (await reachOf(context, scope))?.templates;
    const page = await pageOfTemplates(context.database, { search, among }, wish);
    return { items: page.items.map(showTemplate), next: page.next };
  },

  saveTemplate: async ({ context, params, body, user, expected, created, tell }) => {
    const known = await maybeTemplate(context.database, params.file);
    const kept = await addTemplate(context, params.file, body, user.name, expected);
    tell(kept.number);
    if (!known) created(`/templates/${encodeURIComponent(kept.name)}`);
    return showTemplate(kept);
  },

  showTemplate: async ({ context, params, tell }) => {
    const found = await getTemplate(context, params.file);
    tell(found.number);
    const marks = await marksInHtml(context, found.name, found.sha256);
    return { ...showTemplate(found), marks, uses: await usesOfTemplate(context, found.name) };
  },

  listMarks: async ({ context, params, query: { report, ...wish } }) => {
    const page = pageOf(await marksOfTemplate(context, params.file, report), wish);
    return {
      items: page.items.map(({ problem, ...mark }) => ({
        ...mark,
        ...(problem
          ? { problem: { what: problem.what, ...(problem.advice === undefined ? {} : { advice: problem.advice }) } }
          : {}),
      })),
      next: page.next,
    };
  },

  listPlaces: async ({ context, params, query }) => {
    const { name, sha256 } = await getTemplate(context, params.file);
    const places = await context.threads.quick("placesOf", { name, bytes: await context.store.get(sha256) });
    return pageOf(
      places.map((place) => ({ ...place, headings: [...place.headings] })),
      query,
    );
  },

  downloadTemplate: async ({ context, params, response }) => {
    const found = await getTemplate(context, params.file);
    response.attachment(found.name).send(Buffer.from(await context.store.get(found.sha256)));
  },

  printTemplate: async ({ context, params, response }) => {
    const found = await getTemplate(context, params.file);
    const pages = await context.threads.quick("pagesOf", {
      bytes: await context.store.get(found.sha256),
      name: found.name,
      fonts: fontFolder(context.settings),
      printed: printedAt(context.now(), context.settings.zone),
    });
    response.type("application/pdf").send(Buffer.from(pages));
  },

  listFonts: async ({ context, query }) => pageOf(context.fonts().list(), query),

  addFont: ({ context, params, body, user }) => addFont(context, params.file, body, user.name),

  listReports: async ({ context, query: { search, data, ...wish }, scope }) => {
    const page = await pageOfReports(context.database, { search, data, among: namesOf(scope) }, wish);
    const items = await Promise.all(page.items.map((one) => reportSummary(context, one, LISTED_TIMES)));
    return { items, next: page.next };
  },

  showReport: async ({ context, params, tell }) => {
    const found = await getReport(context, params.name);
    tell(found.number);
    return showReport(context, found);
  },

  listReportVersions: async ({ context, params, query }) => {
    await getReport(context, params.name);
    const { items, next } = await pageOfReportVersions(context.database, params.name, query);
    return { items: items.map((one) => ({ ...one, createdAt: iso(one.createdAt) })), next };
  },

  showReportVersion: async ({ context, params: { name, number } }) => {
    await getReport(context, name);
    const found = await maybeReportVersion(context.database, name, number);
    if (!found)
      throw new CorbixError("NOT_FOUND", say().serviceHttp.cannotFindVersion({ number, name }), {
        where: "versions",
        advice: say().serviceHttp.seeListVersions(),
      });
    return showReport(context, found);
  },

  saveReport: async ({ context, params, query, body, user, scope, expected, created, tell }) => {
    if (scope !== "all") await checkSources(context, scope, await readDefinition(context, body, params.name));
    const kept = await addReport(context, body, user.name, params.name, { expected, note: query.note });
    tell(kept.number);
    if (kept.number === 1) created(`/reports/${kept.name}`);
    return showReport(context, kept);
  },

  listSteps: async ({ context, params, query: { edition, ...wish } }) =>
    pageOf(await stepsOf(context, params.name, edition), wish),

  listMatching: async ({ context, params, query: { period, search, nobody, ...wish } }) => {
    const wanted = search?.toLowerCase();
    const found = (await matchingOf(context, params.name, period)).filter(
      (one) =>
        (wanted === undefined || one.group.toLowerCase().includes(wanted)) &&
        (nobody === undefined || (one.nobody !== null) === nobody),
    );
    return pageOf(
      found.map(({ key: _key, messages: _messages, ...one }) => one),
      wish,
    );
  },

  listPeriods: async ({ context, params, query: { edition, ...wish } }) => {
    const { definition: report } = await getReport(context, params.name);
    const day = dayInZone(context.now(), report.schedule?.zone ?? context.settings.zone);
    const data = await getEdition(context.database, report.data, edition);
    if (!report.period) return pageOf([], wish);
    const { period: calendar } = await calendarsOf(context, { period: report.period, schedule: undefined });
    const found = await periodsOf(context, report, data, made(maybeSerialFromIso(day), "the day"));
    const choice = nextPeriod(report, found);
    const { items, next } = pageOf(found, wish);
    return {
      items: items.map(({ key, run, ...one }) => ({
        key,
        isNext: key === choice?.chosen,
        label: labelOfPeriod(key, report, calendar ?? null),
        ...one,
        run: run ? { id: run.id, state: run.state, releasedAt: iso(run.releasedAt) } : null,
      })),
      next,
    };
  },

  listProspect: async ({ context, params, query: { period, edition, search, says, ...wish } }) => {
    const { definition: report } = await getReport(context, params.name);
    const { groups, ...prospect } = await prospectOf(context, params.name, { period, edition });
    const wanted = search?.toLowerCase();
    const found = groups.filter(
      (one) =>
        (wanted === undefined || one.group.toLowerCase().includes(wanted)) && (says === undefined || one.what === says),
    );
    const { items, next } = pageOf(found, wish);
    return {
      ...prospect,
      leftOut: prospect.leftOut.map((one) => ({ ...one })),
      items: items.map(showProspect),
      next,
      total: found.length,
      counts: shownCounts(groups),
      onceSentence: onceSentence(onceOf(report)),
      holds: report.delivery.hold,
    };
  },

  tryReport: async ({ context, params, body }) => {
    const tried = await tryTemplate(context, {
      report: params.name,
      file: body.file,
      group: body.group,
      period: body.period,
    });
    return { ...tried, rows: isoRows(tried.columns, tried.rows) };
  },

  showMessageWords: async ({ context, params, tell }) => {
    const words = await editableMessage(context, params.name);
    tell(words.version);
    return words;
  },

  previewMessage: ({ context, params, body }) =>
    previewMessage(context, params.name, body.words, body.group, body.period),

  saveMessageWords: async ({ context, params, body, user, expected, tell }) => {
    const kept = await saveMessage(context, params.name, body.words, user.name, expected);
    tell(kept.version);
    return kept;
  },

  showReportSchema: async () =>
    z.toJSONSchema(reportSchema, {
      io: "input",
      override: ({ jsonSchema }) => {
        const { description } = jsonSchema;
        if (description !== undefined) jsonSchema.description = say().definition.field({ text: description });
      },
    }) as Record<string, unknown>,
};

function showProspect({ key, group, rows, people, what, nobody, day, run }: GroupProspect) {
  const called = people.map(({ name, to }) => name || (to[0]?.address ?? ""));
  return { key, group, rows, people: called, says: told(what), why: nobody, day: day ?? null, run: run ?? null };
}

/** Nothing goes again before somebody says so. */
const told = (what: GroupProspect["what"]) => (what === "again" ? "some" : what);

function shownCounts(all: readonly GroupProspect[]) {
  const { groups, go, some, again, had, none } = countsOf(all);
  return { groups, go, some: some + again, had, none };
}

function showTemplate({ name, number, sha256, size, createdBy, createdAt }: TemplateVersionRow) {
  return { name, number, sha256, size, createdBy, createdAt: iso(createdAt) };
}

async function reportSummary(
  context: Context,
  version: ReportVersionRow,
  shown: { readonly days: number; readonly most: number },
) {
  const { title, data, period, schedule, message } = version.definition;
  const calendar = schedule && (await calendarsOf(context, { schedule, period: undefined })).schedule;
  const times = schedule ? timesWithin(schedule, context.now(), shown, calendar) : [];
  return {
    name: version.name,
    number: version.number,
    title,
    data,
    every: period?.every ?? null,
    schedule: schedule
      ? {
          says: scheduleSentence(schedule),
          rule: schedule.rule ?? null,
          day: schedule.day ?? null,
          at: schedule.at,
          zone: schedule.zone,
        }
      : null,
    hasMessage: message !== undefined,
    isAsked: version.definition.enquiry !== undefined,
    nextTimes: times.map(showTime),
    createdBy: version.createdBy,
    createdAt: iso(version.createdAt),
  };
}

/** A time with the day off that it was moved from. */
export function showTime({ at, movedFrom }: ScheduledTime) {
  return { at: iso(at), movedFrom: movedFrom ? { day: movedFrom.day, name: movedFrom.name ?? null } : null };
}

async function showReport(context: Context, version: ReportVersionRow) {
  const { source, definition, note } = version;
  return { ...(await reportSummary(context, version, SHOWN_TIMES)), source, note, definition: { ...definition } };
}

/** Marks of an HTML body, as they stand. */
async function marksInHtml(context: Context, name: string, digest: string): Promise<string[]> {
  if (!name.endsWith(".html")) return [];
  const text = Buffer.from(await context.store.get(digest)).toString("utf8");
  return [...new Set([...text.matchAll(/\{\{([\s\S]*?)\}\}/g)].map((match) => (match[1] ?? "").trim()))];
}
