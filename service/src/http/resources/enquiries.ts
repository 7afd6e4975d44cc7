import { type enquiryEndpoints, scopeOf } from "@corbix/api";
import { isoFromSerial } from "@corbix/core/common";
import { CONTENT_TYPES } from "@corbix/core/message";
import { namesOf } from "../../access/rights.js";
import { removeColleague, setColleague } from "../../enquiry/colleagues.js";
import {
  type AnswerRows,
  answerFile,
  answerRow,
  answerRows,
  ask,
  enquiries,
  fieldLabels,
  showEnquiry,
} from "../../enquiry/enquiries.js";
import {
  type AnswerRow,
  answersOf,
  type ColleagueRow,
  colleagues,
  pageOf,
  pageOfQuestions,
  type QuestionRow,
} from "../../records/index.js";
import { type HandlersOf, iso } from "../handler.js";
import { offsetOf, offsetPage } from "./offsets.js";
import { isoRows } from "./show-rows.js";

export const enquiryHandlers: HandlersOf<typeof enquiryEndpoints> = {
  listEnquiries: async ({ context, query, scope }) => {
    const own = (await enquiries(context)).filter(({ name }) => scope === "all" || scope.includes(name));
    const { items, next } = pageOf(own, query);
    return {
      items: items.map(({ name, definition, enquiry }) => ({
        name,
        title: definition.title,
        data: definition.data,
        fields: fieldLabels(enquiry),
      })),
      next,
    };
  },

  showEnquiry: async ({ context, params }) => {
    const { edition, fields, data, ...found } = await showEnquiry(context, params.name);
    const { number, origin, rowCount, createdAt } = edition;
    return {
      ...found,
      data,
      edition: { number, origin, rowCount, createdAt: iso(createdAt) },
      fields: fields.map(({ choices, ...field }) => ({
        ...field,
        choices: choices?.values ?? [],
        choiceCount: choices?.count ?? 0,
      })),
    };
  },

  ask: async ({ context, params, body, user, created }) => {
    const { question, answer, hints } = await ask(
      context,
      params.name,
      body.values,
      { name: user.name, colleague: null },
      body.limit,
    );
    created(`/questions/${question.id}`);
    return { ...showAnswer(question, [], answer, 0), hints };
  },

  listQuestions: async ({ context, query, scope, user }) => {
    // Who may only ask sees what they asked themselves.
    const by = scopeOf(user.grants, ["look"]) === undefined ? user.name : undefined;
    const filter = { report: query.report, among: namesOf(scope), by };
    const { items, next } = await pageOfQuestions(context.database, filter, query);
    const files = await answersOf(
      context.database,
      items.map(({ id }) => id),
    );
    return {
      items: items.map((question) =>
        showQuestion(
          question,
          files.filter(({ questionId }) => questionId === question.id),
        ),
      ),
      next,
    };
  },

  showQuestion: async ({ context, params, query, user }) => {
    const by = { name: user.name, colleague: null };
    const first = query.first ?? offsetOf(query.cursor);
    const { question, answer } = await answerRows(context, params.id, by, { first, count: query.limit });
    return showAnswer(question, await answersOf(context.database, [question.id]), answer, first);
  },

  showAnswerRow: async ({ context, params, user }) => {
    const { columns, cells } = await answerRow(context, params.id, { name: user.name, colleague: null }, params.row);
    return { columns, rowNumber: params.row, cells: isoRows(columns, [cells])[0] ?? [] };
  },

  downloadAnswer: async ({ context, params, query, user, response }) => {
    const by = { name: user.name, colleague: null };
    const { form, kind } = params;
    const file = await answerFile(context, params.id, by, { form, kind, row: query.row });
    response.attachment(file.name).type(CONTENT_TYPES[file.kind]).send(Buffer.from(file.bytes));
  },

  listColleagues: async ({ context, query }) => {
    const { items, next } = pageOf(await colleagues(context.database), query);
    return { items: items.map(showColleague), next };
  },

  saveColleague: async ({ context, params, body, user }) => {
    const { colleague, address } = await setColleague(context, params.colleague, body.reports, user.name);
    return { ...showColleague(colleague), address };
  },

  deleteColleague: async ({ context, params, user }) => {
    await removeColleague(context, params.colleague, user.name);
    return { ok: true };
  },
};

function showQuestion(question: QuestionRow, files: readonly AnswerRow[]) {
  const { id, report, editions, day, given, filled, found, rows, askedBy, colleagueId, askedAt } = question;
  return {
    id,
    report,
    edition: Object.values(editions)[0] ?? 0,
    day: isoFromSerial(day),
    values: given,
    filled,
    found,
    of: rows,
    askedBy,
    isColleague: colleagueId !== null,
    askedAt: iso(askedAt),
    files: files.map(({ questionId: _, madeAt, ...file }) => ({ ...file, madeAt: iso(madeAt) })),
  };
}

function showAnswer(question: QuestionRow, files: readonly AnswerRow[], answer: AnswerRows, first: number) {
  const { columns, rowNumbers, rows, found } = answer;
  const next = offsetPage(first + rowNumbers.length, found);
  return {
    question: showQuestion(question, files),
    columns,
    rowNumbers,
    rows: isoRows(columns, rows),
    first,
    next,
    hints: [],
  };
}

function showColleague({ name, reports, createdBy, createdAt, usedAt }: ColleagueRow) {
  return { name, reports, createdBy, createdAt: iso(createdAt), usedAt: iso(usedAt) };
}
