/** A file of a plain form made of a group's lines: bound to a report's columns once, written for each group. */
import { CorbixError } from "../common/index.js";
import type { Env, Scope } from "../expression/index.js";
import { linesNamed, parseTextTemplate, withPlace } from "../template/index.js";
import { say } from "../words/index.js";
import { bindColumns, type ListColumnSpec } from "./columns.js";
import { type TextSpec, type WrittenText, writeDelimited, writeFixed } from "./delimited.js";
import { bindCards, bindEvents, type CardSpec, type EventSpec } from "./entries.js";
import { writeHtml } from "./html.js";
import { writeJson } from "./json.js";
import { ENDINGS, type ListForm, type ListKind } from "./list-kinds.js";
import { writeOds } from "./ods.js";

export interface ListSpec extends TextSpec {
  readonly form: ListForm;
  readonly ending?: "csv" | "tsv" | "txt" | undefined;
  readonly lines?: string | undefined;
  readonly title?: string | undefined;
  readonly columns?: readonly (string | ListColumnSpec)[] | undefined;
  readonly event?: EventSpec | undefined;
  readonly card?: CardSpec | undefined;
}

export interface BoundList {
  readonly kind: ListKind;
  /** Folded name of the lines it shows. */
  readonly lines: string;
  /** Throws `BAD_DEFINITION` for what cannot be written so without a loss. */
  readonly write: (env: Env) => WrittenText;
}

export function listKind({ form, ending }: Pick<ListSpec, "form" | "ending">): ListKind {
  return form === "delimited" && ending !== undefined ? ending : ENDINGS[form];
}

/** Throws `BAD_DEFINITION`, `BAD_EXPRESSION` or `BAD_MARK` with the place. */
export function bindList(spec: ListSpec, scope: Scope, where: string): BoundList {
  const kind = listKind(spec);
  const lines = linesNamed(spec.lines, scope, `${where}, lines`);
  const { event, card, form } = spec;
  if (form === "icalendar" && event) return { kind, lines, ...bindEvents(event, spec.lines, scope, `${where}, event`) };
  if (form === "vcard" && card) return { kind, lines, ...bindCards(card, spec.lines, scope, `${where}, card`) };
  const shown = bindColumns(spec, scope, where);
  const unsized = form === "fixed-width" ? shown.columns.find((column) => column.width === undefined) : undefined;
  if (unsized)
    throw new CorbixError("BAD_DEFINITION", say().list.needsWidth({ column: unsized.heading }), {
      where: `${where}, columns`,
      advice: say().list.giveEachWidth(),
    });
  const source = spec.title ?? "Rows";
  const title = withPlace(`${where}, title`, () => parseTextTemplate(source, `${where}, title`).bind(scope));
  const write = (env: Env): WrittenText => {
    switch (form) {
      case "fixed-width":
        return writeFixed(shown, env, spec, where);
      case "json":
      case "json-lines":
        return writeJson(shown, env, form === "json-lines");
      case "ods":
        return writeOds(shown, env, title.fill(env));
      case "html":
        return writeHtml(shown, env, title.fill(env));
      default:
        return writeDelimited(shown, env, spec, where);
    }
  };
  return { kind, lines, write };
}
