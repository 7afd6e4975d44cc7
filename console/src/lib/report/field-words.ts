/** What fields of a definition are called, in the words of those who fill them in. */
import { STEP_KINDS, STEP_WORDS } from "./row-steps.js";

const WORDS: Readonly<Record<string, string>> = {
  // A step has one name, wherever it is named.
  ...Object.fromEntries(STEP_KINDS.map((kind) => [kind, STEP_WORDS[kind].title])),
  data: "Dataset",
  report: "Name in addresses",
  title: "Title",
  every: "Every",
  from: "From",
  match: "Matching columns",
  columns: "Columns",
  partner: "Rows without a partner",
  into: "Into the column",
  where: "Where",
  show: "Shown as",
  blanks: "Blank values",
  list: "Values and what they become",
  take: "Its column of new values",
  per: "For each",
  by: "By",
  prepare: "Steps",
  split: "Group by",
  totals: "Control totals",
  files: "Files",
  lines: "Further lines",
  once: "What may happen once",
  locale: "Language of months and numbers",
  sealed: "Search files for names of other groups",
  startOnData: "Start when data arrives",
  retention: "How long things are kept",
  pdf: "PDF",
  sheetPer: "A sheet for each value",
  followedBy: "Documents behind it",
  grows: "Grows with each period",
  values: "Values only",
  replyTo: "Reply to",
  blindCopies: "Blind copies",
  hold: "Wait for a release",
  approvals: "Releases needed",
  at: "At",
  zone: "Time zone",
  rule: "Recurrence",
  until: "Until",
  forAll: "For everybody",
  linkDays: "Days that links work",
  lineTotal: "A column with each line's sum",
  totalColour: "Colour of totals",
  sheetPassword: "Password of the sheets",
  readOnly: "Suggest to open for reading only",
  instead: "Other people for single groups",
  narrow: "Only people with",
};

/** What a field is called where it stands inside of another. */
const INSIDE: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  table: { lines: "Rows it shows", title: "Line above the table", sheet: "Name of the sheet" },
  tables: { lines: "Rows it shows" },
  message: { text: "Plain text of its own", each: "One message for each", attach: "Attachments" },
};

/** `replyTo` is "Reply to", `total colour` "Total colour"; `path` is where the field stands. */
export function wordsFor(name: string, path: readonly (string | number)[] = []): string {
  const own = path.map((part) => INSIDE[String(part)]?.[name]).findLast(Boolean) ?? WORDS[name];
  if (own !== undefined) return own;
  const words = name
    .replace(/([a-z])([A-Z])/g, (_, before: string, after: string) => `${before} ${after.toLowerCase()}`)
    .replace(/[-_]/g, " ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}
