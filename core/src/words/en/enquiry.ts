import { counted, thousands } from "./numbers.js";

/** Reports that are asked, and the page on which colleagues ask them. */
export const enquiry = {
  cannotFindField: ({ name }: { name: string }) => `Cannot find the field \`${name}\`.`,
  needsField: ({ label }: { label: string }) => `Cannot ask without ${label}.`,
  fillIn: () => "Fill it in.",
  expectedText: () => "Cannot read this field: expected a text or a list of them.",
  between: ({ from, to }: { from: string; to: string }) =>
    from === to ? from : to === "" ? `from ${from}` : from === "" ? `until ${to}` : `${from} to ${to}`,
  blank: () => "(blank)",
  cannotRead: ({ label, text }: { label: string; text: string }) => `Cannot read \`${text}\` in ${label}.`,
  writeDay: () => "Write a day as 2026-10-31.",
  writeNumber: () => "Write a number, such as 12.50.",
  noOrder: ({ column }: { column: string }) =>
    `Cannot ask what lies between in the column \`${column}\`: it holds neither dates nor numbers.`,
  chooseInstead: () => "Let people choose from its values, or look for words in it.",
  cannotFindFile: ({ name }: { name: string }) => `Cannot find the file \`${name}\` of the report.`,
  noSuchValue: ({ label, value, near }: { label: string; value: string; near: string | undefined }) =>
    `No row has \`${value}\` in ${label}.${near === undefined ? "" : ` Did you mean \`${near}\`?`}`,
  nothingFound: () => "Cannot make a file: nothing was found.",
  askOtherwise: () => "Ask for more.",
  tooMany: ({ count, most }: { count: number; most: number }) =>
    `Cannot make a file of ${counted(count, "row", "rows")}: ${thousands(most)} are the most.`,
  askMoreNarrowly: () => "Ask more narrowly, or raise `most` of the enquiry.",
  otherRows: () => "not the row that is shown",
  field: () => "Field",
  value: () => "Value",
  rowOf: ({ title, row }: { title: string; row: number }) => `${title}, row ${row}`,
  isNoEnquiry: ({ name }: { name: string }) => `Cannot ask \`${name}\`: it is a report that is run.`,
  isEnquiry: ({ name }: { name: string }) => `Cannot run \`${name}\`: it is a report that is asked.`,
  askIt: ({ name }: { name: string }) => `Ask it: corbix ask ${name}, or in the console, under Enquiries.`,
  cannotFindQuestion: () => "Cannot find this question.",
  cannotFindRow: () => "Cannot find this row among those that were found.",
  cannotFindForm: ({ name }: { name: string }) => `Cannot make \`${name}\` of this answer.`,
  askTitle: () => "Ask",
  everythingToAsk: () => "everything there is to ask",
  whoAsks: ({ name }: { name: string }) => `${name}: choose what you want to know. What you ask is kept.`,
  nothingToAsk: () => "There is nothing to ask yet.",
  askedBefore: () => "What you asked before",
  everything: () => "everything",
  foundAt: ({ found, at }: { found: number; at: string }) => `${counted(found, "row", "rows")}, ${at}`,
  ofData: ({ rows, origin }: { rows: number; origin: string }) =>
    `From ${counted(rows, "row", "rows")} of ${origin}. Fields that stay empty ask nothing.`,
  askButton: () => "Ask",
  askAgain: () => "ask something else",
  neededLabel: ({ label }: { label: string }) => `${label} (needed)`,
  from: () => "from",
  until: () => "until",
  any: () => "any",
  rowHeading: () => "Row",
  before: () => "before",
  after: () => "after",
  pageOf: ({ page, pages }: { page: number; pages: number }) => `Page ${thousands(page)} of ${thousands(pages)}`,
  foundOf: ({ found, of }: { found: number; of: number }) =>
    found === 0 ? "Nothing was found for" : `${thousands(found)} of ${counted(of, "row", "rows")} found for`,
  tooManyForFile: ({ most }: { most: number }) =>
    `Ask more narrowly to get a file: ${counted(most, "row", "rows")} are the most.`,
  asFile: ({ form, kind }: { form: string; kind: string }) => `${form} (${kind})`,
  backToList: () => "back to the list",
  cannotAskHere: () => "You cannot ask here",
  askOffice: () => "Open the address that the office sent you; if it does not work any more, ask for another.",
  cannotFindColleague: ({ name }: { name: string }) => `Cannot find the colleague ${name}.`,
};
