/** What `corbix make` reads: tables, recipients and attachments. */

import { existsSync } from "node:fs";
import { readdir, readFile } from "node:fs/promises";
import { basename, join } from "node:path";
import { type Calendar, calendarSchema } from "@corbix/core/calendar";
import { CorbixError, textFromBytes } from "@corbix/core/common";
import { type Recipient, readRecipients } from "@corbix/core/recipients";
import { describeProblems, parseYaml } from "@corbix/core/report";
import type { AttachmentSource } from "@corbix/core/run";
import { type IntakeRules, intakeRulesSchema, loadTable, splitPart, type Table } from "@corbix/core/table";
import { say } from "@corbix/core/words";
import { z } from "zod";
import { readInput } from "../../files.js";
import { findingLines, type Output } from "../../output.js";

export interface MakeOptions {
  readonly data: readonly string[];
  readonly recipients?: string;
  readonly for?: string;
  readonly out: string;
  readonly date?: string;
  readonly templates?: string;
  readonly fonts?: string;
  readonly attachments?: string;
  readonly from?: string;
  readonly soFar?: string;
  readonly password?: readonly string[];
  readonly sheet?: readonly string[];
  readonly corrections?: string;
  readonly calendar?: string;
}

/** Fixed attachments and pictures lie with the templates, found ones in a folder of their own. */
export function attachmentSource(templates: ReadonlyMap<string, Uint8Array>, root: string): AttachmentSource {
  return {
    fixed: async (name) => {
      const bytes = templates.get(name);
      if (bytes) return bytes;
      throw new CorbixError("FILE_MISSING", say().command.cannotAttachFolderTemplates({ name }), {
        where: name,
        advice: say().command.putNameAnotherFolderTemplates(),
      });
    },
    list: async (folder) => {
      const entries = await readdir(join(root, folder), { withFileTypes: true }).catch(() => []);
      return entries.filter((entry) => entry.isFile()).map((entry) => entry.name);
    },
    read: (path) => readFile(join(root, path)).catch(() => undefined),
  };
}

export async function loadTables(options: MakeOptions): Promise<Map<string, Table>> {
  const tables = new Map<string, Table>();
  const passwords = named(options.password ?? [], "--password", "PASSWORD");
  const sheets = named(options.sheet ?? [], "--sheet", "SHEET");
  const corrections = options.corrections === undefined ? new Map() : await readCorrections(options.corrections);
  const files = named(options.data, "--data", "FILE");
  for (const [list, option] of [
    [passwords, "--password"],
    [sheets, "--sheet"],
    [corrections, "--corrections"],
  ] as const)
    for (const name of list.keys())
      if (!files.has(name))
        throw new CorbixError("BAD_REQUEST", say().command.cannotUseDataCalledSo({ option, name }), {
          where: option,
        });
  for (const [name, path] of files) {
    // A file may be called with a # itself.
    const { name: file, part } = existsSync(path) ? { name: path, part: undefined } : splitPart(path);
    const password = passwords.get(name) ?? process.env.CORBIX_FILE_PASSWORD;
    const sheet = sheets.get(name);
    const { table } = loadTable(await readInput(file), basename(file), {
      ...corrections.get(name),
      ...(sheet === undefined ? {} : { sheet }),
      ...(part === undefined ? {} : { part }),
      ...(password === undefined ? {} : { password }),
    });
    tables.set(name, table);
  }
  return tables;
}

/** `NAME=VALUE`, several times. */
function named(specs: readonly string[], option: string, value: string): Map<string, string> {
  return new Map(
    specs.map((spec) => {
      const [name, ...rest] = spec.split("=");
      if (!name || rest.join("=") === "")
        throw new CorbixError("BAD_REQUEST", say().command.cannotReadExpectedName({ spec, option, value }), {
          where: option,
        });
      return [name, rest.join("=")];
    }),
  );
}

/** The calendar that says how a report's periods fall. */
export async function readCalendar(path: string): Promise<Calendar> {
  const source = parseYaml(textFromBytes(await readInput(path)), basename(path), "BAD_DEFINITION");
  const checked = calendarSchema.safeParse(source);
  if (checked.success) return checked.data;
  throw new CorbixError(
    "BAD_DEFINITION",
    say().command.cannotUseCalendar({ problems: describeProblems(checked.error) }),
    { where: basename(path) },
  );
}

const correctionsSchema = z.record(z.string(), intakeRulesSchema);

/** How the files of datasets are read, by the dataset's name: what the service keeps with each. */
async function readCorrections(path: string): Promise<Map<string, IntakeRules>> {
  const source = parseYaml(textFromBytes(await readInput(path)), basename(path), "BAD_RULE");
  const checked = correctionsSchema.safeParse(source);
  if (checked.success) return new Map(Object.entries(checked.data));
  throw new CorbixError(
    "BAD_RULE",
    say().command.cannotUseCorrections({ describeProblems: describeProblems(checked.error) }),
    {
      where: basename(path),
      advice: say().command.giveCorrectionsDatasetSuchVisits(),
    },
  );
}

export async function loadRecipients(path: string, output: Output): Promise<readonly Recipient[]> {
  const { recipients, findings } = readRecipients(
    loadTable(await readInput(path), basename(path)).table,
    basename(path),
  );
  for (const line of findingLines(findings)) output.line(line);
  return recipients;
}
