/** A report's message as it is edited: its texts in each language, taken out of a definition and put back into it. */

import { isMap, parseDocument } from "yaml";
import { CorbixError } from "../common/index.js";
import { say } from "../words/index.js";
import { parseReport } from "./parse.js";
import type { Report } from "./schema.js";

/** How a body is written. */
export type BodyKind = "html" | "markdown" | "text";

/** A message's texts in one language. */
export interface MessageWords {
  readonly subject: string;
  readonly kind: BodyKind;
  readonly body: string;
  /** Template the body stands in; without one it stands in the definition. */
  readonly template?: string | undefined;
  /** Plain text for those who do not see HTML; `undefined` where it is made from the HTML, or stands in a template. */
  readonly text?: string | undefined;
}

type Written = Pick<NonNullable<Report["message"]>, "subject" | "body" | "text">;

/** What a template's name says about how it is written. */
export function bodyKind(template: string): BodyKind {
  return /\.md$/i.test(template) ? "markdown" : /\.txt$/i.test(template) ? "text" : "html";
}

/** A text as the body of its kind, told by the name of its template. */
export function bodyOf(
  template: string,
  text: string,
): { readonly html: string } | { readonly markdown: string } | { readonly text: string } {
  const kind = bodyKind(template);
  return kind === "markdown" ? { markdown: text } : kind === "text" ? { text } : { html: text };
}

/** The texts by language, `""` for the one everybody gets who reads no other. A report without a message has none. */
export function messageWords(
  report: Report,
  textOf: (template: string) => string,
): Readonly<Record<string, MessageWords>> {
  if (!report.message) return {};
  const words = ({ subject, body, text }: Written): MessageWords => ({
    subject,
    ...("template" in body
      ? { kind: bodyKind(body.template), body: textOf(body.template), template: body.template }
      : "html" in body
        ? { kind: "html" as const, body: body.html }
        : "markdown" in body
          ? { kind: "markdown" as const, body: body.markdown }
          : { kind: "text" as const, body: body.text }),
    ...(typeof text === "string" ? { text } : {}),
  });
  const languages = Object.entries(report.message.languages).map(([language, own]) => [language, words(own)]);
  return { "": words(report.message), ...Object.fromEntries(languages) };
}

export interface EditedMessage {
  /** The definition with the texts in it; comments and the order of everything else stay. */
  readonly source: string;
  /** Texts of the templates that bodies stand in. */
  readonly templates: ReadonlyMap<string, string>;
}

/** Puts texts into a definition. Languages that are not among them are taken out. Throws `BAD_DEFINITION`. */
export function withMessageWords(source: string, words: Readonly<Record<string, MessageWords>>): EditedMessage {
  if (!words[""])
    throw new CorbixError("BAD_DEFINITION", say().report.cannotKeepMessageWithoutText(), {
      where: "message",
      advice: say().report.writeBesideThoseOtherLanguages(),
    });
  const document = parseDocument(source);
  const templates = new Map<string, string>();
  const put = (path: readonly string[], { subject, kind, body, template, text }: MessageWords): void => {
    document.setIn([...path, "subject"], subject);
    if (template === undefined) document.setIn([...path, "body"], document.createNode({ [kind]: body }));
    else {
      const other = templates.get(template);
      if (other !== undefined && other !== body)
        throw new CorbixError("BAD_DEFINITION", say().report.cannotKeepTwoTextsFile({ template }), {
          where: "message",
          advice: say().report.giveEachLanguageFileOwn(),
        });
      templates.set(template, body);
      if (document.getIn([...path, "body", "template"]) !== template)
        document.setIn([...path, "body"], document.createNode({ template }));
    }
    if (text !== undefined && text !== "") document.setIn([...path, "text"], text);
    else if (!isMap(document.getIn([...path, "text"]))) document.deleteIn([...path, "text"]);
  };
  put(["message"], words[""]);
  const known = document.getIn(["message", "languages"]);
  const kept = Object.keys(words).filter((language) => language !== "");
  for (const language of isMap(known) ? known.items.map((item) => String(item.key)) : [])
    if (!kept.includes(language)) document.deleteIn(["message", "languages", language]);
  for (const language of kept) put(["message", "languages", language], words[language]);
  if (kept.length === 0 && isMap(known)) document.deleteIn(["message", "languages"]);
  const edited = document.toString({ lineWidth: 0 });
  parseReport(edited, "report");
  return { source: edited, templates };
}
