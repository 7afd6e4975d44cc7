import { CorbixError, suggestName } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import type { Client, Schemas } from "../client.js";
import { firstOf } from "../client.js";
import { saveDownload } from "../files.js";
import { minute, type Output, short, tableText } from "../output.js";
import { wholeNumber } from "./load.js";
import { rowsTable } from "./look.js";

export interface AskOptions {
  readonly rows?: string;
  readonly from?: string;
  readonly row?: string;
  readonly as?: string;
  readonly out?: string;
}

/** Lists the reports that are asked, or shows what one asks. */
export async function showEnquiries(client: Client, name: string | undefined, output: Output): Promise<number> {
  if (name !== undefined) return showEnquiry(client, name, output);
  const all = await firstOf(client.all("/enquiries"));
  output.line(
    all.length === 0
      ? "No report is asked yet: give one an enquiry. See docs/enquiries.md."
      : tableText(
          ["Enquiry", "Title", "Asks for"],
          all.map((one) => [one.name, one.title, one.fields.join("; ")]),
        ),
  );
  output.value(all);
  return 0;
}

async function showEnquiry(client: Client, name: string, output: Output): Promise<number> {
  const found = await client.get("/enquiries/{name}", { path: { name } });
  output.line(`${found.title}, from ${found.edition.rowCount.toLocaleString("en")} rows of ${found.edition.origin}\n`);
  output.line(
    tableText(
      ["Field", "Called", "Takes", ""],
      found.fields.map((field) => [field.name, field.label, takes(field), field.needed ? "needed" : ""]),
    ),
  );
  const forms = found.forms.map((form) => `${form.kinds.map((kind) => `${form.name}.${kind}`).join(", ")}`);
  output.line(`\nAsk: corbix ask ${name} ${found.fields[0]?.name ?? "field"}=…   As a file: --as ${forms.join(", ")}`);
  output.value(found);
  return 0;
}

function takes({ kind, type, choices, choiceCount }: Schemas["Enquiry"]["fields"][number]): string {
  if (kind === "search") return "words";
  if (kind === "between") return type === "number" ? "numbers: 10..20" : "days: 2026-10-01..2026-10-31";
  const shown = choices.slice(0, 4).map(({ value }) => String(value ?? "(blank)"));
  return short(`${shown.join(", ")}${choiceCount > shown.length ? ` and ${choiceCount - shown.length} more` : ""}`, 70);
}

/** Asks, shows the rows that were found, and saves the answer as a file where one is wanted. */
export async function ask(
  client: Client,
  name: string,
  given: readonly string[],
  options: AskOptions,
  output: Output,
): Promise<number> {
  const wanted = options.rows === undefined ? 20 : wholeNumber(options.rows, "--rows");
  const asked = await client.post("/enquiries/{name}/questions", {
    path: { name },
    body: { values: valuesOf(given), limit: Math.min(wanted, 1_000) },
  });
  const { id, found, of, filled } = asked.question;
  const first = options.from === undefined ? 0 : wholeNumber(options.from, "--from") - 1;
  const answer =
    first === 0
      ? asked
      : await client.get("/questions/{id}", { path: { id }, query: { first, limit: Math.min(wanted, 1_000) } });
  const what = filled.map(({ label, value }) => `${label}: ${value}`).join("; ");
  if (options.as === undefined && options.row !== undefined) return showRow(client, id, options.row, output);
  if (options.as !== undefined) {
    output.line(
      `${found.toLocaleString("en")} of ${of.toLocaleString("en")} rows found${what === "" ? "" : `: ${what}`}`,
    );
    return saveAnswer(client, name, id, options, output);
  }
  output.line(
    `${found.toLocaleString("en")} of ${of.toLocaleString("en")} rows found${what === "" ? "" : `: ${what}`}\n`,
  );
  if (answer.rows.length > 0) output.line(rowsTable(answer));
  for (const hint of asked.hints) output.line(hint);
  const left = found - answer.first - answer.rows.length;
  if (left > 0)
    output.line(`\n${left.toLocaleString("en")} more: --rows, --from; all of them as a file: --as list.pdf`);
  output.value(answer);
  return 0;
}

async function showRow(client: Client, id: string, number: string, output: Output): Promise<number> {
  const row = await client.get("/questions/{id}/rows/{row}", { path: { id, row: wholeNumber(number, "--row") } });
  output.line(
    tableText(
      ["Field", "Value"],
      row.columns.map((column, at) => [column.name, String(row.cells[at] ?? "")]),
    ),
  );
  output.value(row);
  return 0;
}

async function saveAnswer(
  client: Client,
  name: string,
  id: string,
  options: AskOptions,
  output: Output,
): Promise<number> {
  const { forms } = await client.get("/enquiries/{name}", { path: { name } });
  const [form = "", kind = ""] = (options.as ?? "").split(".", 2);
  const known = forms.find((one) => one.name === form);
  const all = forms.flatMap((one) => one.kinds.map((each) => `${one.name}.${each}`));
  const found = known?.kinds.find((one) => one === kind);
  if (!known || !found)
    throw new CorbixError("BAD_REQUEST", say().enquiry.cannotFindForm({ name: options.as ?? "" }), {
      where: "--as",
      advice: suggestName(options.as ?? "", all, "forms"),
    });
  if (known.of === "row" && options.row === undefined)
    throw new CorbixError("BAD_REQUEST", say().command.pageOfOneRow({ form: options.as ?? "" }), {
      where: "--row",
      advice: say().command.nameTheRow(),
    });
  const query = known.of === "row" && options.row !== undefined ? { row: wholeNumber(options.row, "--row") } : {};
  const file = client.get("/questions/{id}/files/{form}/{kind}", { path: { id, form, kind: found }, query });
  return saveDownload(file, options.out ?? `${name}.${kind}`, output);
}

/** `site=Alder Court`, several times for several values; `visited=2026-09-01..2026-09-30`. */
function valuesOf(given: readonly string[]): Record<string, string | string[]> {
  const values: Record<string, string | string[]> = {};
  for (const one of given) {
    const at = one.indexOf("=");
    if (at < 1)
      throw new CorbixError("BAD_REQUEST", say().command.cannotReadField({ text: one }), {
        where: "fields",
        advice: say().command.writeField(),
      });
    const [name, value] = [one.slice(0, at), one.slice(at + 1)];
    const known = values[name];
    values[name] = known === undefined ? value : [...(typeof known === "string" ? [known] : known), value];
  }
  return values;
}

/** What was asked, the newest first. */
export async function listQuestions(
  client: Client,
  options: { readonly report?: string; readonly rows?: string },
  output: Output,
): Promise<number> {
  const most = options.rows === undefined ? 50 : wholeNumber(options.rows, "--rows");
  const query = options.report === undefined ? {} : { report: options.report };
  const all = await firstOf(client.all("/questions", { query }), most);
  output.line(
    all.length === 0
      ? "Nothing was asked yet."
      : tableText(
          ["Asked", "By", "Enquiry", "What", "Found", "Files"],
          all.map((one) => [
            minute(one.askedAt),
            one.askedBy,
            one.report,
            short(one.filled.map(({ label, value }) => `${label}: ${value}`).join("; ") || "everything", 50),
            one.found,
            one.files.map((file) => `${file.form}.${file.kind}`).join(", "),
          ]),
        ),
  );
  output.value(all);
  return 0;
}

/** Lists who may ask without a sign-in, lets somebody ask, or takes them out. */
export async function colleagues(
  client: Client,
  name: string | undefined,
  options: { readonly report: readonly string[]; readonly remove?: boolean },
  output: Output,
): Promise<number> {
  if (name === undefined) {
    const all = await firstOf(client.all("/colleagues"));
    output.line(
      all.length === 0
        ? "Nobody may ask without a sign-in yet: corbix colleagues NAME"
        : tableText(
            ["Colleague", "May ask", "Asked last"],
            all.map((one) => [one.name, one.reports?.join(", ") ?? "everything", one.usedAt ? minute(one.usedAt) : ""]),
          ),
    );
    output.value(all);
    return 0;
  }
  if (options.remove) {
    const gone = await client.delete("/colleagues/{colleague}", { path: { colleague: name } });
    output.line(`${name} may ask no more`);
    output.value(gone);
    return 0;
  }
  const kept = await client.put("/colleagues/{colleague}", {
    path: { colleague: name },
    body: { reports: options.report.length === 0 ? null : [...options.report] },
  });
  output.line(
    `${name} may ask ${kept.reports?.join(", ") ?? "everything there is to ask"}, at this address; it is not shown again:`,
  );
  output.line(kept.address);
  output.value(kept);
  return 0;
}
