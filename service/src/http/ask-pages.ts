/** The page on which colleagues ask: who may ask and change nothing opens it by an address of their own. */
import { scopeOf } from "@corbix/api";
import { CorbixError } from "@corbix/core/common";
import type { Values } from "@corbix/core/enquiry";
import { CONTENT_TYPES } from "@corbix/core/message";
import type { FileKind } from "@corbix/core/run";
import { say } from "@corbix/core/words";
import { parse } from "cookie";
import express, { type Express, type NextFunction, type Request, type Response } from "express";
import { mayAsk, maybeColleague } from "../enquiry/colleagues.js";
import {
  type Asker,
  answerFile,
  answerRow,
  answerRows,
  ask,
  enquiries,
  getEnquiry,
  type ShownField,
  showEnquiry,
} from "../enquiry/enquiries.js";
import type { Context } from "../process/context.js";
import { isByTls } from "../process/site.js";
import { type ColleagueRow, pageOfQuestions, type QuestionRow } from "../records/index.js";
import {
  answerHtml,
  askHtml,
  chosenValues,
  failedHtml,
  formHtml,
  noAskingHtml,
  PAGE_ROWS,
  rowHtml,
} from "./ask-html.js";
import { identify, isOwnOrigin } from "./identify.js";
import { isoRows } from "./resources/show-rows.js";

const COOKIE = "corbix_ask";
const COOKIE_SECONDS = 366 * 86_400;
const FORM_LIMIT = 100_000;
/** Questions that are listed on the first page. */
const LISTED_QUESTIONS = 20;

/** Who asks here, and what they may ask. */
interface Visitor extends Asker {
  readonly allows: (report: string) => boolean;
}

export function serveAsking(app: Express, context: Context): void {
  app.get("/ask/open/:token", async (request, response) => {
    const colleague = await maybeColleague(context, request.params.token);
    if (!colleague) return refuse(response);
    response.cookie(COOKIE, request.params.token, {
      httpOnly: true,
      sameSite: "lax",
      secure: isByTls(context.settings),
      path: "/ask",
      maxAge: COOKIE_SECONDS * 1000,
    });
    // The address holds a secret: it stays nowhere.
    response.setHeader("Referrer-Policy", "no-referrer").redirect(303, "/ask");
  });

  page(app, context, "/ask", async (visitor, _, response) => {
    const known = (await enquiries(context)).filter(({ name }) => visitor.allows(name));
    const { items } = await pageOfQuestions(context.database, filterOf(visitor), { limit: LISTED_QUESTIONS });
    const shown = items.filter(({ report }) => visitor.allows(report));
    response.send(
      askHtml(
        visitor.name,
        known.map(({ name, definition }) => ({ name, title: definition.title })),
        shown,
      ),
    );
  });

  page(app, context, "/ask/:name", async (visitor, request, response) => {
    const enquiry = await showEnquiry(context, allowed(visitor, request));
    response.send(formHtml(enquiry, {}, undefined));
  });

  app.post("/ask/:name", express.urlencoded({ extended: false, limit: FORM_LIMIT }), async (request, response) => {
    const visitor = await visitorOf(context, request);
    if (!visitor) return refuse(response);
    if (!isOwnOrigin(request)) throw new CorbixError("NOT_ALLOWED", say().serviceHttp.cannotTakeCallAnotherSite());
    const name = allowed(visitor, request);
    const enquiry = await showEnquiry(context, name);
    const values = valuesOf(enquiry.fields, request.body as Readonly<Record<string, string | string[]>>);
    try {
      const { question } = await ask(context, name, values, visitor, 1);
      response.redirect(303, `/ask/q/${question.id}`);
    } catch (error) {
      if (!(error instanceof CorbixError)) throw error;
      response
        .status(422)
        .type("html")
        .send(formHtml(enquiry, values, error));
    }
  });

  page(app, context, "/ask/q/:id", async (visitor, request, response) => {
    const pages = Number(request.query["page"] ?? 1);
    const at = Number.isInteger(pages) && pages > 0 ? pages : 1;
    const { question, answer } = await answerRows(context, String(request.params["id"]), visitor, {
      first: (at - 1) * PAGE_ROWS,
      count: PAGE_ROWS,
    });
    const enquiry = await enquiryOf(context, visitor, question);
    const rows = isoRows(answer.columns, answer.rows);
    response.send(answerHtml(enquiry, question, { ...answer, rows }, at));
  });

  page(app, context, "/ask/q/:id/row/:row", async (visitor, request, response) => {
    const { id = "", row = "" } = request.params as Readonly<Record<string, string>>;
    const { question, columns, cells } = await answerRow(context, id, visitor, Number(row));
    const enquiry = await enquiryOf(context, visitor, question);
    response.send(rowHtml(enquiry, question, Number(row), columns, isoRows(columns, [cells])[0] ?? []));
  });

  page(app, context, "/ask/q/:id/file/:form/:kind", async (visitor, request, response) => {
    const { id = "", form = "", kind = "" } = request.params as Readonly<Record<string, string>>;
    const row = request.query["row"] === undefined ? undefined : Number(request.query["row"]);
    await enquiryOf(context, visitor, (await answerRows(context, id, visitor, { first: 0, count: 1 })).question);
    const file = await answerFile(context, id, visitor, { form, kind: kind as FileKind, row });
    response.attachment(file.name).type(CONTENT_TYPES[file.kind]).send(Buffer.from(file.bytes));
  });
}

/** What goes wrong is told as a page. */
export function askingFailed(error: unknown, _: Request, response: Response, next: NextFunction): void {
  if (error instanceof CorbixError && !response.headersSent)
    response.status(error.status).setHeader("Cache-Control", "no-store").type("html").send(failedHtml(error));
  else next(error);
}

/** A page for whoever may ask; all others are told to ask the office. */
function page(
  app: Express,
  context: Context,
  path: string,
  show: (visitor: Visitor, request: Request, response: Response) => Promise<void>,
): void {
  app.get(path, async (request, response) => {
    const visitor = await visitorOf(context, request);
    if (!visitor) return refuse(response);
    // A form tells where it comes from only where it may.
    response.setHeader("Referrer-Policy", "same-origin").setHeader("Cache-Control", "no-store").type("html");
    await show(visitor, request, response);
  });
}

function refuse(response: Response): void {
  response.status(403).setHeader("Cache-Control", "no-store").type("html").send(noAskingHtml());
}

/** A colleague by the address they opened once, or somebody who is signed in to the console. */
async function visitorOf(context: Context, request: Request): Promise<Visitor | undefined> {
  const token = parse(request.headers.cookie ?? "")[COOKIE];
  const colleague: ColleagueRow | undefined = token === undefined ? undefined : await maybeColleague(context, token);
  if (colleague)
    return { name: colleague.name, colleague: colleague.id, allows: (report) => mayAsk(colleague, report) };
  try {
    const { name, grants } = await identify(context, request);
    const scope = scopeOf(grants, ["ask"]);
    if (scope === undefined) return undefined;
    return { name, colleague: null, allows: (report) => scope === "all" || scope.includes(report) };
  } catch (error) {
    if (error instanceof CorbixError && error.code === "NOT_SIGNED_IN") return undefined;
    throw error;
  }
}

function filterOf({ colleague }: Visitor) {
  return colleague === null ? {} : { colleague };
}

function allowed(visitor: Visitor, request: Request): string {
  const name = request.params["name"] ?? "";
  if (visitor.allows(String(name))) return String(name);
  throw new CorbixError("NOT_FOUND", say().enquiry.isNoEnquiry({ name: String(name) }));
}

/** What a question is asked of; a report that may not be asked any more gives no answers either. */
async function enquiryOf(context: Context, visitor: Visitor, { report }: QuestionRow) {
  if (!visitor.allows(report)) throw new CorbixError("NOT_FOUND", say().enquiry.cannotFindQuestion());
  return (await getEnquiry(context, report)).definition;
}

/** What a form holds, by its fields: of a choice always a list, of what lies between its two ends. */
function valuesOf(fields: readonly ShownField[], body: Readonly<Record<string, string | string[]>>): Values {
  const all = (name: string): string[] => {
    const given = body[name];
    return given === undefined ? [] : typeof given === "string" ? [given] : given;
  };
  return Object.fromEntries(
    fields.map(({ name, kind }) => {
      if (kind === "between") return [name, { from: all(`${name}.from`)[0] ?? "", to: all(`${name}.to`)[0] ?? "" }];
      return [name, kind === "choose" ? chosenValues(all(name)) : (all(name)[0] ?? "")];
    }),
  );
}
