import { CorbixError, type Finding } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type Client, firstOf } from "../client.js";
import { findingLines, minute, type Output, tableText } from "../output.js";
import { matching } from "./dataset.js";
import { wholeNumber } from "./load.js";
import { findEdition } from "./look.js";

export async function compare(
  client: Client,
  dataset: string,
  options: { readonly edition?: string; readonly with?: string },
  output: Output,
): Promise<number> {
  const edition = await findEdition(client, dataset, options.edition);
  const found = await client.get("/datasets/{name}/editions/{number}/difference", {
    path: { name: dataset, number: edition.number },
    query: options.with === undefined ? {} : { with: wholeNumber(options.with, "--with") },
  });
  const number = (value: number): string => value.toLocaleString("en");
  output.line(`${dataset} edition ${found.after} beside edition ${found.before}`);
  output.line(
    `rows    ${number(found.rows.before)} → ${number(found.rows.after)}: ${number(found.added.count)} added, ${number(found.gone.count)} gone, ${found.changed ? `${number(found.changed.count)} changed, ` : ""}${number(found.same)} the same`,
  );
  const names = (what: string, list: readonly string[]): void => {
    if (list.length > 0)
      output.line(`        ${what}: ${list.slice(0, 20).join(", ")}${list.length > 20 ? ", …" : ""}`);
  };
  names("new columns", found.columns.added);
  names("columns gone", found.columns.gone);
  for (const group of found.groups) {
    output.line(`groups  by ${group.column}: ${number(group.before)} → ${number(group.after)}`);
    names("new", group.added);
    names("gone", group.gone);
  }
  if (found.totals.length > 0) {
    output.line("");
    const amount = (text: string): string => Number(text).toLocaleString("en", { maximumFractionDigits: 6 });
    output.line(
      tableText(
        ["Total", "Before", "After", "Difference"],
        found.totals.map((one) => [one.column, amount(one.before), amount(one.after), amount(one.difference)]),
      ),
    );
  }
  if (found.changed && found.changed.examples.length > 0) {
    output.line("");
    output.line(
      tableText(
        ["Key", "Column", "Before", "After"],
        found.changed.examples
          .slice(0, 20)
          .map((one) => [one.key, one.column, String(one.before ?? ""), String(one.after ?? "")]),
      ),
    );
  }
  output.value(found);
  return 0;
}

export async function groups(
  client: Client,
  dataset: string,
  options: { readonly by?: string; readonly edition?: string },
  output: Output,
): Promise<number> {
  const edition = await findEdition(client, dataset, options.edition);
  const call = {
    path: { name: dataset, number: edition.number },
    query: { limit: 1_000, ...(options.by === undefined ? {} : { by: options.by }) },
  };
  const { items: _, next: __, ...found } = await client.get("/datasets/{name}/editions/{number}/groups", call);
  const list = await firstOf(client.all("/datasets/{name}/editions/{number}/groups", call));
  output.line(
    `${found.total.toLocaleString("en")} groups by ${found.by.join(", ")}, ${found.blank.count.toLocaleString("en")} rows with none\n`,
  );
  output.line(
    tableText(
      ["Group", "Rows", "Remarks"],
      list.map((group) => [
        group.label,
        group.count,
        [
          group.isNew ? "new" : "",
          group.hasRecipients === false ? "nobody to receive" : "",
          group.spellings.length > 1
            ? `also ${group.spellings
                .slice(1)
                .map((one) => JSON.stringify(one))
                .join(", ")}`
            : "",
        ]
          .filter((remark) => remark !== "")
          .join("; "),
      ]),
    ),
  );
  if (found.findings.length > 0) output.line("");
  for (const line of findingLines(found.findings)) output.line(line);
  for (const { from, to } of found.near)
    output.line(`      Merge: corbix merge ${dataset} ${quoted(found.by[0] ?? "")} ${quoted(from)} ${quoted(to)}`);
  output.value({ ...found, groups: list });
  return 0;
}

function quoted(text: string): string {
  return /^[\w.-]+$/.test(text) ? text : JSON.stringify(text);
}

/** Two spellings as one group from now on, or with `undo` as two again. */
export async function merge(
  client: Client,
  dataset: string,
  {
    column,
    from,
    to,
    undo,
  }: { readonly column: string; readonly from: string; readonly to: string | undefined; readonly undo: boolean },
  output: Output,
): Promise<number> {
  const path = { name: dataset };
  const { data, etag } = await client.read("/datasets/{name}/settings", { path });
  const { aliases } = data;
  const others = aliases.filter((alias) => alias.column !== column || alias.from !== from);
  if (!undo && to === undefined)
    throw new CorbixError("BAD_REQUEST", say().command.cannotMergeSpellingCountsMissing(), {
      advice: say().command.corbixMerge({ dataset, quoted: quoted(column), quoted2: quoted(from) }),
    });
  const after = await client.put("/datasets/{name}/settings", {
    path,
    body: { aliases: undo || to === undefined ? others : [...others, { column, from, to }] },
    ...matching(etag),
  });
  output.line(
    undo ? `"${from}" is a group of its own again.` : `"${from}" counts as "${to}" in ${column} from now on.`,
  );
  output.value(after.aliases);
  return 0;
}

export async function steps(
  client: Client,
  report: string,
  options: { readonly edition?: string },
  output: Output,
): Promise<number> {
  const query = options.edition === undefined ? {} : { edition: wholeNumber(options.edition, "--edition") };
  const found = await firstOf(client.all("/reports/{name}/steps", { path: { name: report }, query }));
  if (found.length === 0) output.line("The report takes the rows as they are.");
  else {
    output.line(
      tableText(
        ["", "Step", "What", "Rows in", "Left out", "Made", "Rows out"],
        found.map((step, at) => [
          String(at + 1),
          step.kind,
          step.what.length > 60 ? `${step.what.slice(0, 59)}…` : step.what,
          step.rowsIn,
          step.leftOut.reduce((sum, one) => sum + one.count, 0),
          step.made,
          step.rowsOut,
        ]),
      ),
    );
    const reasons = found.flatMap((step, at) =>
      step.leftOut.map((one) => `step ${at + 1}: ${one.count.toLocaleString("en")} ${one.reason}`),
    );
    if (reasons.length > 0) output.line(`\n${reasons.join("\n")}`);
    const findings: Finding[] = found.flatMap((step) => [...step.findings]);
    for (const line of findingLines(findings)) output.line(line);
    output.line(`\nRows after a step: corbix look DATASET --report ${report} --step 1`);
  }
  output.value(found);
  return 0;
}

/** So many of the newest are told. */
const TOLD_ARRIVALS = 50;

export async function arrivals(client: Client, output: Output): Promise<number> {
  const all = await firstOf(client.all("/arrivals", { query: { limit: TOLD_ARRIVALS } }), TOLD_ARRIVALS);
  output.line(
    all.length === 0
      ? "Nothing came by the watched folder or by mail yet."
      : tableText(
          ["When", "By", "From", "File", "Outcome"],
          all.map((one) => [
            minute(one.at),
            one.way,
            one.sender,
            one.file,
            one.outcome === "loaded" ? `edition ${one.edition} of ${one.dataset}` : `refused: ${one.message}`,
          ]),
        ),
  );
  output.value(all);
  return 0;
}
