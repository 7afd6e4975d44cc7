/** What an operator does on the machine that the service runs on: it needs its settings and its data folder. */
import { spawn } from "node:child_process";
import { existsSync } from "node:fs";
import { resolve } from "node:path";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";
import { CorbixError, type ErrorCode } from "@corbix/core/common";
import { say } from "@corbix/core/words";
import { type Output, tableText } from "../output.js";

const PROGRAM = fileURLToPath(new URL("../../../scripts/operate.mjs", import.meta.url));

interface Line<Result> {
  readonly progress?: { readonly done: number; readonly total: number };
  readonly result?: Result;
  readonly error?: {
    readonly code: ErrorCode;
    readonly message: string;
    readonly where?: string;
    readonly advice?: string;
  };
}

/** Does it in a process of its own, since it may start the private database, and gives what came of it. */
async function operate<Result>(output: Output, what: string, asked: object, verb: string): Promise<Result> {
  if (!existsSync(PROGRAM))
    throw new CorbixError("NOT_FOUND", say().command.onTheMachine(), {
      where: PROGRAM,
      advice: say().command.doItThere(),
    });
  const child = spawn(process.execPath, [PROGRAM, what, JSON.stringify(asked)], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  let bar: ReturnType<Output["progress"]> | undefined;
  let end: Line<Result> | undefined;
  for await (const text of createInterface({ input: child.stdout })) {
    const line = JSON.parse(text) as Line<Result>;
    if (line.progress) {
      bar ??= output.progress(verb, Math.max(1, line.progress.total));
      bar.step(line.progress.done);
    } else end = line;
  }
  bar?.stop();
  if (end?.result !== undefined) return end.result;
  const { code = "FAILED", message = say().command.endedWithoutWord(), ...more } = end?.error ?? {};
  throw new CorbixError(code, message, more);
}

const many = (count: number, one: string, more: string): string =>
  `${count.toLocaleString("en")} ${count === 1 ? one : more}`;

function sizeText(bytes: number): string {
  const [unit, step] =
    bytes < 1_048_576
      ? (["kB", 1_024] as const)
      : bytes < 1_073_741_824
        ? (["MB", 1_048_576] as const)
        : (["GB", 1_073_741_824] as const);
  return `${(bytes / step).toFixed(unit === "GB" ? 1 : 0)} ${unit}`;
}

interface Manifest {
  readonly takenAt: string;
  readonly corbix: string;
  readonly database: {
    readonly size: number;
    readonly server: string;
    readonly tables: Readonly<Record<string, number>>;
  };
  readonly files: { readonly count: number; readonly bytes: number; readonly missing: readonly string[] };
  readonly folders: readonly unknown[];
}

export async function backup(options: { out: string; keep?: string }, output: Output): Promise<number> {
  const out = resolve(options.out);
  const asked = { out, ...(options.keep === undefined ? {} : { keep: Number(options.keep) }) };
  const taken = await operate<{ name: string; manifest: Manifest; copied: number; deleted: readonly string[] }>(
    output,
    "backup",
    asked,
    "copied",
  );
  output.value(taken);
  const { database, files, folders } = taken.manifest;
  const rows = Object.values(database.tables).reduce((sum, one) => sum + one, 0);
  output.line(`Backup ${taken.name}, of ${taken.manifest.takenAt}:`);
  output.line(
    `  database  ${many(rows, "row", "rows")} in ${Object.keys(database.tables).length} tables, ${sizeText(database.size)}`,
  );
  output.line(
    `  store     ${many(files.count, "file", "files")}, ${sizeText(files.bytes)}; ${taken.copied.toLocaleString("en")} copied now${taken.copied < files.count ? ", the others lie there from backups before" : ""}`,
  );
  if (folders.length > 0)
    output.line(`  besides   ${many(folders.length, "file", "files")} of fonts, attachments and the inbox`);
  output.line("  not in it the key that secrets are sealed with: keep it elsewhere (docs/backup.md)");
  if (taken.deleted.length > 0)
    output.line(`  deleted   ${many(taken.deleted.length, "older backup", "older backups")}`);
  output.line(`\nCheck it: corbix verify ${out}   Restore it: corbix restore ${out}`);
  if (files.missing.length === 0) return 0;
  output.line(
    `\n${many(files.missing.length, "stored file is", "stored files are")} damaged or missing, and not in the backup: see corbix verify.`,
  );
  return 3;
}

export async function verifyBackup(folder: string, options: { from?: string }, output: Output): Promise<number> {
  const checked = await operate<{
    name: string;
    manifest: Manifest;
    files: number;
    faults: readonly { file: string; what: string }[];
  }>(output, "check", { folder: resolve(folder), ...options }, "read");
  output.value(checked);
  output.line(`Backup ${checked.name}, of ${checked.manifest.takenAt}, by Corbix ${checked.manifest.corbix}:`);
  output.line(`${many(checked.files, "file", "files")} read.`);
  if (checked.manifest.files.missing.length > 0)
    output.line(
      `${many(checked.manifest.files.missing.length, "stored file was", "stored files were")} damaged or missing already when it was taken.`,
    );
  if (checked.faults.length === 0) {
    output.line("Everything is as it was taken.");
    return 0;
  }
  output.line(
    `\n${tableText(
      ["File", ""],
      checked.faults.map(({ file, what }) => [file, what]),
    )}`,
  );
  output.line("\nThis backup cannot be restored whole. Use another, and take a new one.");
  return 3;
}

export async function restore(
  folder: string,
  options: { from?: string; journal?: string },
  output: Output,
): Promise<number> {
  const { journal, ...rest } = options;
  const asked = { folder: resolve(folder), ...rest, ...(journal === undefined ? {} : { journal: resolve(journal) }) };
  const done = await operate<{
    name: string;
    takenAt: string;
    tables: number;
    rows: number;
    files: number;
    journal: number;
    isKeyRight: boolean;
    missing: number;
  }>(output, "restore", asked, "read");
  output.value(done);
  output.line(`Restored ${done.name}, of ${done.takenAt}:`);
  output.line(`  database  ${many(done.rows, "row", "rows")} in ${done.tables} tables, as many as were taken`);
  output.line(`  store     ${many(done.files, "file", "files")}, each compared with its digest`);
  output.line(
    done.journal > 0
      ? `  journal   goes on behind the backup in ${many(done.journal, "file", "files")}`
      : "  journal   as at the backup: what left after it is not known here (--journal)",
  );
  if (!done.isKeyRight)
    output.line(
      "\nThe key here is not the one that secrets were sealed with: set CORBIX_SECRET_KEY, or put secret.key into the data folder, before starting.",
    );
  output.line(
    "\nNothing will be sent until somebody has looked. Start Corbix, look under Operations in the console or by corbix halts, then go on.",
  );
  return done.isKeyRight ? 0 : 10;
}

const MARKS = { ok: "well", warn: "look", fail: "WRONG" } as const;

export async function doctor(output: Output): Promise<number> {
  const { examined } = await operate<{
    examined: readonly { name: string; state: keyof typeof MARKS; what: string; advice: string | null }[];
  }>(output, "doctor", {}, "looked at");
  output.value(examined);
  for (const { name, state, what, advice } of examined) {
    output.line(`${MARKS[state].padEnd(6)}${name}: ${what}`);
    if (advice !== null) output.line(`      ${advice}`);
  }
  const wrong = examined.filter(({ state }) => state === "fail").length;
  const looks = examined.filter(({ state }) => state === "warn").length;
  output.line(
    `\n${many(examined.length, "thing", "things")} looked at: ${wrong === 0 ? "none is wrong" : many(wrong, "is wrong", "are wrong")}, ${many(looks, "is worth a look", "are worth a look")}.`,
  );
  return wrong === 0 ? 0 : 10;
}

export async function settings(output: Output): Promise<number> {
  const done = await operate<{ settings: Readonly<Record<string, string>> }>(output, "settings", {}, "read");
  output.value(done.settings);
  output.line(tableText(["Setting", "Value"], Object.entries(done.settings)));
  output.line("\nThese settings can be used. See what they lead to: corbix doctor");
  return 0;
}

export async function rekey(
  options: { keyFile?: string; forget?: boolean; endLinks?: boolean },
  output: Output,
): Promise<number> {
  const { keyFile, ...rest } = options;
  const asked = { ...rest, ...(keyFile === undefined ? {} : { keyFile: resolve(keyFile) }) };
  const done = await operate<{ secrets: number; mark: string; keptIn: "file" | "setting" }>(
    output,
    "rekey",
    asked,
    "sealed",
  );
  output.value(done);
  output.line(
    options.forget
      ? `${many(done.secrets, "secret was", "secrets were")} taken out: set passwords of identities, ways out and files anew; people add their authenticators anew.`
      : `${many(done.secrets, "secret is", "secrets are")} sealed under the other key now.`,
  );
  output.line(
    done.keptIn === "file"
      ? "The key lies in secret.key in the data folder: keep a copy elsewhere, and start Corbix."
      : "Set CORBIX_SECRET_KEY to the other key, and start Corbix.",
  );
  return 0;
}

export async function upgrade(options: { out?: string; withoutBackup?: boolean }, output: Output): Promise<number> {
  if (options.out === undefined && !options.withoutBackup)
    throw new CorbixError("BAD_REQUEST", say().command.backupOrNot(), {
      where: "--out",
      advice: say().command.nameFolderOrSay(),
    });
  const done = await operate<{
    done: readonly string[];
    backup: string | null;
    rows: number;
    tables: readonly { name: string; before: number; after: number }[];
  }>(output, "upgrade", options.out === undefined ? {} : { out: resolve(options.out) }, "copied");
  output.value(done);
  if (done.done.length === 0) {
    output.line("The database is of this version already. Nothing was changed.");
    return 0;
  }
  if (done.backup !== null) output.line(`Backup ${done.backup} was taken first.`);
  output.line(`${many(done.done.length, "change was", "changes were")} made: ${done.done.join(", ")}.`);
  output.line(`The database has ${many(done.rows, "row", "rows")} now.`);
  if (done.tables.length > 0)
    output.line(
      `\n${tableText(
        ["Table", "Rows before", "After"],
        done.tables.map((one) => [one.name, one.before.toLocaleString("en"), one.after.toLocaleString("en")]),
      )}`,
    );
  output.line("\nStart Corbix.");
  return 0;
}
