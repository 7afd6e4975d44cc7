/** The service's API as the console uses it, with its shapes by their names. */
import { type Answer, type components, connect, Problem, problemOf } from "@corbix/api/client";

export { type Answer, Problem };
export const api = connect({ url: "" });

export type Schemas = components["schemas"];
export type Arrival = Schemas["Arrival"];
export type Cell = Schemas["Cell"];
export type Column = Schemas["Column"];
export type Dataset = Schemas["Dataset"];
export type DatasetSettings = Schemas["DatasetSettings"];
export type DraftLook = Schemas["DraftLook"];
export type DraftGroup = Schemas["DraftGroup"];
export type Difference = Schemas["Difference"];
export type Edition = Schemas["Edition"];
export type EditionDifference = Schemas["EditionDifference"];
export type EditionSummary = Schemas["EditionSummary"];
export type AnswerRows = Schemas["Answer"];
export type Colleague = Schemas["Colleague"];
export type Enquiry = Schemas["Enquiry"];
export type Question = Schemas["Question"];
export type EditableMessage = Schemas["EditableMessage"];
export type Finding = Schemas["Finding"];
export type Font = Schemas["Font"];
export type GroupMatching = Schemas["GroupMatching"];
export type Identity = Schemas["Identity"];
export type IntakeRules = Schemas["IntakeRules"];
export type Invitation = Schemas["Invitation"];
export type Letter = Schemas["Letter"];
export type LetterSummary = Schemas["LetterSummary"];
export type LetterboxRule = Schemas["LetterboxRule"];
export type ListPreview = Schemas["ListPreview"];
export type ListVersion = Schemas["ListVersion"];
export type Look = Schemas["Look"];
export type Mark = Schemas["Mark"];
export type PeriodFiles = Schemas["PeriodFiles"];
export type PeriodOfReport = Schemas["PeriodOfReport"];
export type GroupProspect = Schemas["GroupProspect"];
/** What a run of a report would do. */
export type Prospect = Answer<"get", "/reports/{name}/prospect">;
export type TemplatePlace = Schemas["TemplatePlace"];
export type MessageWords = Schemas["MessageWords"][string];
export type OutboxEntry = Schemas["OutboxEntry"];
export type Overview = Schemas["Overview"];
export type Parcel = Schemas["Parcel"];
export type ParcelSummary = Schemas["ParcelSummary"];
export type Passkey = Schemas["Passkey"];
export type PersonSearch = Schemas["PersonSearch"];
export type Person = Schemas["Address"];
export type Preview = Schemas["Preview"];
export type Profile = Schemas["Profile"];
export type Recipient = Schemas["Recipient"];
export type ScheduledTime = Schemas["ScheduledTime"];
export type Notice = Schemas["Notice"];
export type Self = Schemas["Self"];
export type Staff = Schemas["Person"];
export type SignInSession = Schemas["SignInSession"];
export type TrailEntry = Schemas["TrailEntry"];
export type Token = Schemas["Token"];
export type Report = Schemas["Report"];
export type ReportSummary = Schemas["ReportSummary"];
export type Rows = Schemas["Rows"];
export type Run = Schemas["Run"];
export type RunSummary = Schemas["RunSummary"];
export type Step = Schemas["Step"];
export type Template = Schemas["Template"];
export type TemplateUsed = Schemas["TemplateUsed"];
export type WayOut = Schemas["WayOut"];
export type Trial = Schemas["Trial"];
export type TriedMessage = Schemas["TriedMessage"];
export type ColumnRule = NonNullable<IntakeRules["types"]>[string];
export type GroupPage = Answer<"get", "/datasets/{name}/editions/{number}/groups">;
/** How a file was read: an edition, or a file that is looked at before it becomes one. */
export type Reading = Pick<
  Edition,
  "rowCount" | "columns" | "reading" | "headerRow" | "leftOut" | "decisions" | "changes" | "rules" | "appended"
>;

/** What of a table is looked at, and in which order. */
export type Query = { search: string; filters: Filter[]; sort: string[] };
export type Comparison =
  | "equal"
  | "not-equal"
  | "containing"
  | "beginning"
  | "at-least"
  | "at-most"
  | "blank"
  | "filled";
export type Filter = { column: string; is: Comparison; value: string };
/** What a grid looks at: an edition, or what a report's preparation makes of it up to a step. */
export type Sight = { dataset: string; edition: number; report?: string; step?: number };

/** Nothing is written where somebody else has written since. */
export function matching(etag: string | undefined): { headers?: Record<string, string> } {
  return etag === undefined ? {} : { headers: { "If-Match": etag } };
}

/** A key for a call that starts something: pressed twice, it is done once. */
export function once(): { headers: Record<string, string> } {
  return { headers: { "Idempotency-Key": crypto.randomUUID() } };
}

/** All items of a list that is short by its nature. */
export async function allOf<Item>(items: AsyncIterable<Item>): Promise<Item[]> {
  const found: Item[] = [];
  for await (const item of items) found.push(item);
  return found;
}

/** Where a file of the API lies, for links and pictures. */
export function at(path: string): string {
  return `/api/v1${path}`;
}

/** The bytes at an address of the API. */
export async function bytesAt(address: string): Promise<ArrayBuffer> {
  const response = await fetch(address);
  if (response.ok) return response.arrayBuffer();
  throw await problemOf(response);
}
