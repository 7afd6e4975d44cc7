/** A report's message as it is written in the console: its texts, a preview of any group, and keeping them. */

import { bytesFromText, textFromBytes } from "@corbix/core/common";
import { type EditedMessage, type MessageWords, messageWords, withMessageWords } from "@corbix/core/report";
import type { TriedMessage } from "@corbix/core/run";
import type { ColumnInfo } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import type { Context } from "../process/context.js";
import {
  addReport,
  addTemplate,
  checkReportAgainstStore,
  getReport,
  getTemplate,
  preparedColumnsOf,
  readDefinition,
  templateBytes,
} from "./definitions.js";
import { checkExpected } from "./expected.js";
import { trialInput } from "./template-preview.js";

export type WordsByLanguage = Readonly<Record<string, MessageWords>>;

export interface EditableMessage {
  readonly version: number;
  readonly words: WordsByLanguage;
  /** What marks can be filled from: columns whose value the group shares or each line has, by their names in marks. */
  readonly columns: readonly Pick<ColumnInfo, "name" | "type">[];
}

export async function editableMessage(context: Context, name: string): Promise<EditableMessage> {
  const { definition, number } = await getReport(context, name);
  const templates = await templateBytes(context);
  const words = messageWords(definition, (template) => textFromBytes(templates.get(template) ?? new Uint8Array()));
  const columns = await preparedColumnsOf(context, definition);
  return { version: number, words, columns: columns.map((column) => ({ name: column.name, type: column.type })) };
}

/** One group's messages as these texts would make them; nothing is kept. */
export async function previewMessage(
  context: Context,
  name: string,
  words: WordsByLanguage,
  group: string | undefined,
  period: string | undefined,
): Promise<TriedMessage & { readonly period: string | null }> {
  const { source, templates } = await editedSource(context, name, words);
  const all = new Map(await templateBytes(context));
  for (const [template, text] of templates) all.set(template, bytesFromText(text));
  const input = await trialInput(context, await readDefinition(context, source, name), { period }, all);
  const tried = await context.threads.preview("tryMessages", { input, group });
  return { ...tried, period: input.facts.period?.key ?? null };
}

/**
 * Keeps the texts: those of templates as their next version, the others in the report's next version. All are checked first.
 * Throws `CHANGED_MEANWHILE` where somebody saved the report since the expected version was read.
 */
export async function saveMessage(
  context: Context,
  name: string,
  words: WordsByLanguage,
  by: string,
  expected: string | undefined,
): Promise<{ readonly version: number; readonly templates: readonly string[] }> {
  const before = await getReport(context, name);
  checkExpected(expected, before.number, say().place.report({ name }), before.createdBy);
  const { source, templates } = await editedSource(context, name, words);
  const texts = new Map([...templates].map(([template, text]) => [template, bytesFromText(text)]));
  await checkReportAgainstStore(context, await readDefinition(context, source, name), texts);
  const changed: string[] = [];
  for (const [template, bytes] of texts) {
    const { number } = await getTemplate(context, template);
    if ((await addTemplate(context, template, bytes, by)).number !== number) changed.push(template);
  }
  const kept =
    source === before.source ? before : await addReport(context, source, by, name, { expected: String(before.number) });
  return { version: kept.number, templates: changed };
}

async function editedSource(context: Context, name: string, words: WordsByLanguage): Promise<EditedMessage> {
  return withMessageWords((await getReport(context, name)).source, words);
}
