/** What is filled in to ask a report, field by field. */
import type { Enquiry, Question } from "./client.js";

export interface FieldForm {
  chosen: string[];
  from: string;
  to: string;
  text: string;
}
export type AskForm = Record<string, FieldForm>;
type Values = Question["values"];

/** A form with nothing in it, or with what was asked before. */
export function askForm(fields: Enquiry["fields"], values: Values = {}): AskForm {
  return Object.fromEntries(
    fields.map(({ name, kind }) => {
      const value = values[name];
      const form: FieldForm = { chosen: [], from: "", to: "", text: "" };
      if (kind === "choose")
        form.chosen = value === undefined ? [] : [value].flat().filter((one) => typeof one === "string");
      else if (kind === "search") form.text = typeof value === "string" ? value : "";
      else if (typeof value === "string") [form.from = "", form.to = form.from] = value.split("..", 2);
      else if (value !== undefined && !Array.isArray(value)) Object.assign(form, value);
      return [name, form];
    }),
  );
}

/** What is sent: fields that stay empty ask nothing. */
export function asked(fields: Enquiry["fields"], form: AskForm): Values {
  const filled = fields.flatMap(({ name, kind }): [string, Values[string]][] => {
    const { chosen = [], from = "", to = "", text = "" } = form[name] ?? {};
    if (kind === "choose") return chosen.length === 0 ? [] : [[name, chosen]];
    if (kind === "search") return text.trim() === "" ? [] : [[name, text]];
    return from.trim() === "" && to.trim() === "" ? [] : [[name, { from, to }]];
  });
  return Object.fromEntries(filled);
}
