/** What colleagues see who ask: forms, lists and rows as plain HTML. */
import type { CorbixError } from "@corbix/core/common";
import type { FieldValue, Values } from "@corbix/core/enquiry";
import { escapeHtml } from "@corbix/core/message";
import type { Report } from "@corbix/core/report";
import { type AnswerForm, answerForms } from "@corbix/core/run";
import type { Cell, ColumnInfo } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import type { AnswerRows, ShownEnquiry, ShownField } from "../enquiry/enquiries.js";
import type { QuestionRow } from "../records/index.js";
import { plainPage } from "./plain-page.js";

/** Rows on one page of an answer. */
export const PAGE_ROWS = 50;
/** Up to so many values stand below each other to be ticked. */
const TICKED = 12;
/** In a form the value of cells that are blank: an empty one asks nothing. */
const BLANK_CELLS = "\u0001blank";

const STYLE = `body{max-width:70rem}table{border-collapse:collapse;width:100%;font-size:.95rem}caption{text-align:left;padding:.4rem 0}
th,td{text-align:left;padding:.35rem .75rem .35rem 0;border-bottom:1px solid #cfd8d8;vertical-align:top}.n{text-align:right;font-variant-numeric:tabular-nums}
.wide{overflow-x:auto}fieldset{border:0;padding:0;margin:0 0 1.25rem}legend,label.l{font-weight:700;display:block;margin:0 0 .25rem}
input,select,button{font:inherit;padding:.4rem .5rem;border:1px solid #5a6b6b;border-radius:2px;background:#fff;color:inherit;max-width:100%}
input[type=checkbox]{padding:0}button{background:#0f5c5c;color:#fff;border-color:#0f5c5c;padding:.5rem 1.5rem;cursor:pointer}
.tick{display:block;padding:.15rem 0}.wrong{color:#a2191f}.forms a{display:inline-block;margin:0 1rem .4rem 0}nav{margin:0 0 1rem}`;

const text = (value: string): string => escapeHtml(value);

function asked(title: string, content: string): string {
  return plainPage(text(title), content, STYLE);
}

export function noAskingHtml(): string {
  const words = say().enquiry;
  return asked(words.cannotAskHere(), `<p>${text(words.askOffice())}</p>`);
}

export function failedHtml(wrong: CorbixError): string {
  const words = say().enquiry;
  return asked(words.askTitle(), `${wrongHtml(wrong)}<p><a href="/ask">${text(words.everythingToAsk())}</a></p>`);
}

/** The first page: what may be asked, and what was. */
export function askHtml(
  name: string,
  reports: readonly { readonly name: string; readonly title: string }[],
  questions: readonly QuestionRow[],
): string {
  const words = say().enquiry;
  const list = reports.map((one) => `<li><a href="/ask/${text(one.name)}">${text(one.title)}</a></li>`).join("");
  const titles = new Map(reports.map((one) => [one.name, one.title]));
  const before = questions
    .map(
      (one) =>
        `<li><a href="/ask/q/${text(one.id)}">${text(titles.get(one.report) ?? one.report)}</a>: ${text(filledWords(one))} <span>${text(words.foundAt({ found: one.found, at: moment(one.askedAt) }))}</span></li>`,
    )
    .join("");
  return asked(
    words.askTitle(),
    `<p>${text(words.whoAsks({ name }))}</p>${list === "" ? `<p>${text(words.nothingToAsk())}</p>` : `<ul>${list}</ul>`}${
      before === "" ? "" : `<h2>${text(words.askedBefore())}</h2><ul>${before}</ul>`
    }`,
  );
}

function moment(at: Date): string {
  return at.toISOString().slice(0, 16).replace("T", " ");
}

function filledWords({ filled }: QuestionRow): string {
  return filled.length === 0
    ? say().enquiry.everything()
    : filled.map(({ label, value }) => `${label}: ${value}`).join("; ");
}

/** The form of an enquiry, with what was filled in and what is wrong about it. */
export function formHtml(enquiry: ShownEnquiry, values: Values, wrong: CorbixError | undefined): string {
  const words = say().enquiry;
  const fields = enquiry.fields.map((field) => fieldHtml(field, values[field.name], wrong)).join("");
  const general = wrong && !enquiry.fields.some(({ name }) => name === wrong.where) ? wrongHtml(wrong) : "";
  return asked(
    enquiry.title,
    `<nav><a href="/ask">${text(words.everythingToAsk())}</a></nav><p>${text(
      words.ofData({ rows: enquiry.edition.rowCount, origin: enquiry.edition.origin }),
    )}</p>${general}<form method="post" action="/ask/${text(enquiry.name)}">${fields}<button>${text(words.askButton())}</button></form>`,
  );
}

function wrongHtml({ message, advice }: CorbixError): string {
  return `<p class="wrong" role="alert">${text([message, advice].filter(Boolean).join(" "))}</p>`;
}

function fieldHtml(field: ShownField, value: FieldValue | undefined, wrong: CorbixError | undefined): string {
  const id = `f-${field.name}`;
  const label = text(field.needed ? say().enquiry.neededLabel({ label: field.label }) : field.label);
  const said = wrong && wrong.where === field.name ? wrongHtml(wrong) : "";
  if (field.kind === "search") {
    const own = typeof value === "string" ? value : "";
    return `<fieldset><label class="l" for="${id}">${label}</label>${said}<input type="search" id="${id}" name="${field.name}" value="${text(own)}" size="40"></fieldset>`;
  }
  if (field.kind === "between") return betweenHtml(field, label, said, value);
  return chooseHtml(field, label, said, typeof value === "object" && Array.isArray(value) ? value : []);
}

function betweenHtml(field: ShownField, label: string, said: string, value: FieldValue | undefined): string {
  const words = say().enquiry;
  const isDate = field.type === "date" || field.type === "datetime";
  const kind = isDate ? `type="date"` : `inputmode="decimal" size="12"`;
  const ends = typeof value === "object" && !Array.isArray(value) ? value : {};
  const end = (which: "from" | "to", called: string): string =>
    `<label>${text(called)} <input ${kind} name="${field.name}.${which}" value="${text(ends[which] ?? "")}"></label> `;
  return `<fieldset><legend>${label}</legend>${said}${end("from", words.from())}${end("to", words.until())}</fieldset>`;
}

function chooseHtml(field: ShownField, label: string, said: string, chosen: readonly string[]): string {
  const words = say().enquiry;
  const { values, count } = field.choices ?? { values: [], count: 0 };
  const id = `f-${field.name}`;
  const options = values.map((one) => ({
    value: one.value === null ? BLANK_CELLS : String(one.value),
    label: one.value === null ? words.blank() : String(one.value),
    isChosen: chosen.includes(one.value === null ? "" : String(one.value)),
    count: one.count,
  }));
  if (count <= TICKED) {
    const ticks = options.map(
      (one) =>
        `<label class="tick"><input type="checkbox" name="${field.name}" value="${text(one.value)}"${one.isChosen ? " checked" : ""}> ${text(one.label)} <span>${one.count}</span></label>`,
    );
    return `<fieldset><legend>${label}</legend>${said}${ticks.join("")}</fieldset>`;
  }
  if (count > values.length) {
    // Nobody looks through thousands: the value is typed, the most frequent are proposed.
    const listed = options.map((one) => `<option value="${text(one.value)}">`).join("");
    return `<fieldset><label class="l" for="${id}">${label}</label>${said}<input id="${id}" name="${field.name}" list="${id}-l" value="${text(chosen[0] ?? "")}" size="40"><datalist id="${id}-l">${listed}</datalist></fieldset>`;
  }
  const listed = options.map(
    (one) => `<option value="${text(one.value)}"${one.isChosen ? " selected" : ""}>${text(one.label)}</option>`,
  );
  return `<fieldset><label class="l" for="${id}">${label}</label>${said}<select id="${id}" name="${field.name}"><option value="">${text(words.any())}</option>${listed.join("")}</select></fieldset>`;
}

/** What was chosen in a form, as it is asked: an empty choice asks nothing. */
export function chosenValues(given: readonly string[]): string[] {
  return given.filter((one) => one !== "").map((one) => (one === BLANK_CELLS ? "" : one));
}

function shownCell(value: Cell): string {
  return value === null ? "" : text(String(value));
}

function cellHtml(value: Cell, { type }: ColumnInfo, inner = shownCell(value)): string {
  return type === "number" ? `<td class="n">${inner}</td>` : `<td>${inner}</td>`;
}

function formsHtml(forms: readonly AnswerForm[], of: AnswerForm["of"], base: string, row?: number): string {
  const words = say().enquiry;
  const links = forms
    .filter((form) => form.of === of)
    .flatMap(({ name, kinds }) =>
      kinds.map(
        (kind) =>
          `<a href="${base}/file/${text(name)}/${kind}${row === undefined ? "" : `?row=${row}`}">${text(words.asFile({ form: name, kind }))}</a>`,
      ),
    );
  return `<p class="forms">${links.join("")}</p>`;
}

/** A page of the rows that were found, with the files there can be of them. */
export function answerHtml(report: Report, question: QuestionRow, answer: AnswerRows, page: number): string {
  const words = say().enquiry;
  const base = `/ask/q/${text(question.id)}`;
  const { enquiry } = report;
  const heads = answer.columns.map(
    (column) => `<th scope="col"${column.type === "number" ? ` class="n"` : ""}>${text(column.name)}</th>`,
  );
  const rows = answer.rows.map((row, at) => {
    const number = answer.rowNumbers[at] ?? 0;
    return `<tr><td class="n"><a href="${base}/row/${number}">${number}</a></td>${row.map((cell, place) => cellHtml(cell, answer.columns[place] as ColumnInfo)).join("")}</tr>`;
  });
  const pages = Math.max(1, Math.ceil(answer.found / PAGE_ROWS));
  const link = (to: number, called: string): string =>
    to < 1 || to > pages ? "" : `<a href="${base}?page=${to}">${text(called)}</a> `;
  const most = enquiry?.most ?? 0;
  const files =
    answer.found === 0
      ? ""
      : answer.found > most
        ? `<p>${text(words.tooManyForFile({ most }))}</p>`
        : formsHtml(answerForms(report), "list", base);
  const table =
    answer.found === 0
      ? ""
      : `<div class="wide"><table><caption>${text(words.pageOf({ page, pages }))}</caption><thead><tr><th scope="col" class="n">${text(words.rowHeading())}</th>${heads.join("")}</tr></thead><tbody>${rows.join("")}</tbody></table></div><p>${link(page - 1, words.before())}${link(page + 1, words.after())}</p>`;
  return asked(
    report.title,
    `<nav><a href="/ask">${text(words.everythingToAsk())}</a>, <a href="/ask/${text(question.report)}">${text(words.askAgain())}</a></nav><p>${text(
      words.foundOf({ found: answer.found, of: answer.of }),
    )} ${text(filledWords(question))}</p>${files}${table}`,
  );
}

/** All columns of one row, with its page as files. */
export function rowHtml(
  report: Report,
  question: QuestionRow,
  row: number,
  columns: readonly ColumnInfo[],
  cells: readonly Cell[],
): string {
  const words = say().enquiry;
  const base = `/ask/q/${text(question.id)}`;
  const lines = columns.map(
    ({ name }, at) => `<tr><th scope="row">${text(name)}</th><td>${shownCell(cells[at] ?? null)}</td></tr>`,
  );
  return asked(
    words.rowOf({ title: report.title, row }),
    `<nav><a href="/ask">${text(words.everythingToAsk())}</a>, <a href="${base}">${text(words.backToList())}</a></nav>${formsHtml(answerForms(report), "row", base, row)}<table><tbody>${lines.join("")}</tbody></table>`,
  );
}
