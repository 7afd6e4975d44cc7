import type { Call } from "@corbix/api/client";
import { CorbixError } from "@corbix/core/common";
import { type IntakeRules, mergeRules } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import type { Client } from "../client.js";
import { type Output, tableText } from "../output.js";
import { type ReadingOptions, readingRules, wholeNumber } from "./load.js";

export interface CorrectOptions extends ReadingOptions {
  readonly quote?: string;
  readonly headerLines?: string;
  readonly firstColumn?: string;
  readonly lastColumn?: string;
  readonly end?: string;
  readonly type: readonly string[];
  readonly append?: boolean;
  readonly replace?: boolean;
  readonly key?: string;
  readonly reset?: boolean;
}

/** Shows what is set for a dataset, or changes how its files are read. */
export async function correct(
  client: Client,
  dataset: string,
  options: CorrectOptions,
  output: Output,
): Promise<number> {
  const path = { name: dataset };
  const { data: before, etag } = await client.read("/datasets/{name}/settings", { path });
  const change = changeOf(before.rules, options);
  const after =
    Object.keys(change).length === 0
      ? before
      : await client.put("/datasets/{name}/settings", { path, body: change, ...matching(etag) });
  const rules = Object.entries(after.rules).map(([name, rule]) => [
    name,
    typeof rule === "string" ? rule : JSON.stringify(rule),
  ]);
  output.line(
    tableText(
      ["Setting", "Value"],
      [
        ["a new file", after.mode === "append" ? "adds to the edition before" : "replaces what is shown"],
        ["key", after.key.join(", ") || "none"],
        ["password", after.hasPassword ? "kept" : "none"],
        [
          "by mail",
          after.address ?? (after.mailbox ? `${after.mailbox.name}@… (intakeMailPort is not set)` : "not taken"),
        ],
        ["watched folder", after.folder ?? "none"],
        ["aliases", String(after.aliases.length)],
        ...rules,
      ],
    ),
  );
  if (rules.length === 0) output.line("\nNo corrections: everything is found by itself.");
  else if (after !== before) output.line("\nCorrections hold from the next load on.");
  output.value(after);
  return 0;
}

type SettingsChange = Call<"put", "/datasets/{name}/settings">["body"];

/** Nothing is written where somebody else has written since. */
export function matching(etag: string | undefined): { readonly headers?: Readonly<Record<string, string>> } {
  return etag === undefined ? {} : { headers: { "If-Match": etag } };
}

function changeOf(rules: IntakeRules, options: CorrectOptions): SettingsChange {
  const end = options.end;
  const given: Record<string, unknown> = {
    ...readingRules(options),
    ...(options.quote === undefined ? {} : { quote: options.quote }),
    ...(options.headerLines === undefined ? {} : { headerLines: wholeNumber(options.headerLines, "--header-lines") }),
    ...(options.firstColumn === undefined ? {} : { firstColumn: options.firstColumn }),
    ...(options.lastColumn === undefined ? {} : { lastColumn: options.lastColumn }),
    ...(end === undefined ? {} : { end: /^\d+$/.test(end) ? { row: Number(end) } : end }),
  };
  if (options.type.length > 0)
    given.types = { ...(options.reset ? {} : rules.types), ...Object.fromEntries(options.type.map(parseType)) };
  const hasRules = options.reset || Object.keys(given).length > 0;
  return {
    ...(hasRules ? { rules: mergeRules(options.reset ? {} : rules, given) } : {}),
    ...(options.append ? { mode: "append" as const } : options.replace ? { mode: "replace" as const } : {}),
    ...(options.key === undefined ? {} : { key: options.key.split(",").map((one) => one.trim()) }),
  };
}

/** `Due=date day-first`, `Fee=number comma`. */
function parseType(text: string): [string, Record<string, string>] {
  const found = /^(.+)=\s*(\w+)(?:\s+(day-first|month-first|point|comma))?$/.exec(text);
  if (!found) {
    throw new CorbixError("BAD_REQUEST", say().command.cannotUnderstandType({ text }), {
      where: "--type",
      advice: say().command.writeDueDateDayFirst(),
    });
  }
  const [, column = "", type = "", detail] = found;
  const name = detail?.endsWith("first") ? "order" : "decimal";
  return [column.trim(), { type, ...(detail === undefined ? {} : { [name]: detail }) }];
}

/** Takes files for a dataset by mail, or with no sender stops it. */
export async function receive(
  client: Client,
  dataset: string,
  options: { readonly at?: string; readonly from: readonly string[]; readonly stop?: boolean },
  output: Output,
): Promise<number> {
  if (!options.stop && options.from.length === 0)
    throw new CorbixError("BAD_REQUEST", say().command.cannotTakeFilesAnybodySender(), {
      where: "--from",
      advice: say().command.nameAddressDomainLiftsExample(),
    });
  const mailbox = options.stop ? null : { name: options.at ?? dataset, senders: [...options.from] };
  const after = await client.put("/datasets/{name}/settings", { path: { name: dataset }, body: { mailbox } });
  output.line(
    after.mailbox === null
      ? `${dataset} takes no files by mail.`
      : `${dataset} takes files at ${after.address ?? `${after.mailbox.name}@… once intakeMailPort is set`} from ${after.mailbox.senders.join(", ")}.`,
  );
  output.value(after);
  return 0;
}
