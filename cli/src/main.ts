import { Command, CommanderError } from "commander";
import { type Client, makeClient } from "./client.js";
import { arrivals, compare, groups, merge, steps } from "./commands/compare.js";
import { type CorrectOptions, correct, receive } from "./commands/dataset.js";
import { differ } from "./commands/differ.js";
import { type FillOptions, fill } from "./commands/fill.js";
import { datasets, recipients, reports, templates, times } from "./commands/library.js";
import { type LoadFileOptions, load } from "./commands/load.js";
import { type LookOptions, look } from "./commands/look.js";
import { type MakeOptions, make } from "./commands/make.js";
import { pages } from "./commands/pages.js";
import { recalc } from "./commands/recalc.js";
import {
  fetchFiles,
  listRuns,
  type RunOptions,
  releaseRun,
  showRun,
  startRun,
  stopRun,
  watchRun,
} from "./commands/runs.js";
import { type TryOptions, tryTemplate } from "./commands/try.js";
import { replace, sheets } from "./commands/workbooks.js";
import { makeOutput, type Output, reportError } from "./output.js";

/** Runs the command and gives its exit code. */
export async function main(argv: readonly string[]): Promise<number> {
  const state = { code: 0 };
  const program = new Command("corbix")
    .description("Each their own part of one table: splits, fills, renders, sends, and proves that it adds up.")
    .option("--json", "print one JSON value instead of sentences")
    .option("--url <address>", "address of the service; CORBIX_URL, or this machine's, if not given")
    .option("--token <token>", "token of the service; CORBIX_TOKEN, or the one in its data folder, if not given")
    .addHelpText("after", EXIT_CODES)
    .showHelpAfterError("Add --help for the options and examples.")
    .exitOverride();
  const run = (work: (output: Output) => Promise<number>): Promise<void> => {
    const json = program.opts<{ json?: boolean }>().json === true;
    return work(makeOutput(json)).then(
      (code) => {
        state.code = code;
      },
      (error) => {
        state.code = reportError(error, json);
      },
    );
  };
  const client = (): Client => makeClient(program.opts<{ url?: string; token?: string }>());
  addServiceCommands(program, run, client);
  addLocalCommands(program, run);
  try {
    await program.parseAsync([...argv]);
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    throw error;
  }
  return state.code;
}

export type Run = (work: (output: Output) => Promise<number>) => Promise<void>;

/** Exit codes as docs/operating.md tells them. */
const EXIT_CODES = `
Exit codes: 0 done, 1 something unforeseen, 2 wrong use of the command, 3 a file that cannot be read,
4 a definition, template or value that cannot work, 5 not signed in, 6 not found, 7 not possible in this state,
8 stopped by a finding, 9 service or database unreachable, 10 wrong setting or port taken.`;

const collect = (value: string, all: readonly string[]): string[] => [...all, value];

function addLocalCommands(program: Command, run: Run): void {
  program
    .command("make")
    .summary("make all files, messages and the proof of a report, without a service")
    .argument("<report>", "definition of the report, YAML or JSON; templates lie in the folder `templates` beside it")
    .option("--data <name=file>", "a dataset and the file it is read from; may be given several times", collect, [])
    .option("--recipients <file>", "the recipient list, CSV or XLSX")
    .option("--for <period>", "the period, such as 2026-10")
    .option("--date <date>", "the day of the run, such as 2026-11-02; today if not given")
    .option("--templates <folder>", "folder of the templates")
    .option("--fonts <folder>", "folder of fonts of one's own")
    .requiredOption("--out <folder>", "a new folder for everything")
    .addHelpText(
      "after",
      "\nExample:\n  corbix make demo/files/site-statement.yaml --data visits=demo/files/visits-2026.xlsx \\\n    --recipients demo/files/recipients.csv --for 2026-10 --out october\n",
    )
    .action((report: string, options: MakeOptions) => run((output) => make(report, options, output)));
  program
    .command("fill")
    .summary("fill one template from one record")
    .argument("<template>", "a workbook (.xlsx) or document (.docx) with marks")
    .requiredOption("--record <file>", "the record, JSON or YAML; `lines` holds the lines")
    .requiredOption("--out <file>", "the filled file")
    .option("--pdf", "make a PDF beside it")
    .option("--locale <tag>", "language of months and numbers", "en-GB")
    .option("--fonts <folder>", "folder of fonts of one's own")
    .addHelpText(
      "after",
      "\nExample:\n  corbix fill letter.docx --record harbour-house.yaml --out harbour-house.docx --pdf\n",
    )
    .action((template: string, options: FillOptions) => run((output) => fill(template, options, output)));
  program
    .command("recalc")
    .summary("evaluate every formula of a workbook again and say which stored values differ")
    .argument("<file>", "a .xlsx or .xlsm file")
    .option("--check", "end with 8 where a stored value differs")
    .option("--out <file>", "store the evaluated values in a new file")
    .option("--date <date>", "the day that TODAY gives; today if not given")
    .addHelpText("after", "\nExample:\n  corbix recalc statement.xlsx --check\n")
    .action((file: string, options: { check?: boolean; out?: string; date?: string }) =>
      run((output) => recalc(file, options, output)),
    );
  program
    .command("sheets")
    .summary("make each visible sheet a workbook of its own, with its looks and values only")
    .argument("<file>", "a .xlsx or .xlsm file")
    .requiredOption("--out <folder>", "a new folder")
    .addHelpText("after", "\nExample:\n  corbix sheets year.xlsx --out months\n")
    .action((file: string, options: { out: string }) => run((output) => sheets(file, options, output)));
  program
    .command("replace")
    .summary("replace a word in the cells of many workbooks, and say where")
    .argument("<from>")
    .argument("<to>")
    .argument("<files...>", "workbooks; they are not touched, the changed ones go into the folder")
    .requiredOption("--out <folder>", "a new folder")
    .option("--whole", "only whole words")
    .option("--any-case", "without regard to capitals")
    .addHelpText("after", '\nExample:\n  corbix replace "Brandt" "Brandt-Okoro" forms/*.xlsx --whole --out changed\n')
    .action((from: string, to: string, files: string[], options: { out: string; whole?: boolean; anyCase?: boolean }) =>
      run((output) => replace(from, to, files, options, output)),
    );
  program
    .command("differ")
    .summary("compare two workbooks cell by cell: values, formulas, number formats")
    .argument("<first>", "a .xlsx or .xlsm file")
    .argument("<second>", "another one")
    .addHelpText("after", "\nExample:\n  corbix differ october.xlsx november.xlsx\nEnds with 8 where they differ.\n")
    .action((first: string, second: string) => run((output) => differ(first, second, output)));
  program
    .command("pages")
    .summary("render a document or workbook as it is")
    .argument("<file>", "a .docx or .xlsx file")
    .requiredOption("--out <file>", "the PDF")
    .option("--fonts <folder>", "folder of fonts of one's own")
    .addHelpText("after", "\nExample:\n  corbix pages statement.xlsx --out statement.pdf\n")
    .action((file: string, options: { out: string; fonts?: string }) => run((output) => pages(file, options, output)));
}

function addDataCommands(program: Command, run: Run, client: () => Client): void {
  const example = (text: string): string => `\nExample:\n  ${text}\n`;
  program
    .command("load")
    .summary("load a file as the next edition of a dataset")
    .argument("<dataset>", "name of the dataset; it is made if it is new")
    .argument("<file>", "a workbook (.xlsx), spreadsheet (.ods), text (.csv) or JSON file")
    .option("--sheet <name>", "sheet to read; the largest visible one if not given")
    .option("--table <name>", "defined table or named range to read")
    .option("--header-row <number>", "row of the header; found if not given")
    .option("--append", "add to the edition before, by the key")
    .option("--key <columns>", "columns that tell rows apart, with commas between")
    .option("--look", "only say how it would be read, and keep nothing")
    .addHelpText("after", example("corbix load visits visits-2026.xlsx --look"))
    .addHelpText("after", "The password of a protected workbook is taken from CORBIX_FILE_PASSWORD.")
    .action((dataset: string, file: string, options: LoadFileOptions) =>
      run((output) => load(client(), dataset, file, options, output)),
    );
  program
    .command("look")
    .summary("look at an edition: rows, columns in figures, how it was read, changed cells")
    .argument("<dataset>")
    .option("--edition <number>", "the newest if not given")
    .option(
      "--where <filter>",
      'such as "Fee >= 9", "Site = Dock", "Remarks has oil", "Result is blank"; several must all hold',
      collect,
      [],
    )
    .option("--search <text>", "text in any column, or a number or date")
    .option("--sort <columns>", "with commas between; a leading - sorts downwards")
    .option("--rows <number>", "how many; 20 if not given")
    .option("--from <number>", "first of the rows found")
    .option("--columns", "each column in figures instead of rows")
    .option("--decisions", "how the file was read, and why")
    .option("--changes", "cells that stand otherwise than in the file")
    .option("--report <name>", "what this report's preparation makes of it")
    .option("--step <number>", "up to this step of the preparation")
    .addHelpText(
      "after",
      example('corbix look visits --where "Site = Harbour House" --sort -fee --report site-statement'),
    )
    .action((dataset: string, options: LookOptions) => run((output) => look(client(), dataset, options, output)));
  program
    .command("correct")
    .summary("show or set how a dataset's files are read")
    .argument("<dataset>")
    .option("--sheet <name>", "sheet to read")
    .option("--table <name>", "defined table or named range")
    .option("--header-row <number>", "row of the header")
    .option("--header-lines <number>", "lines of the header")
    .option("--first-column <letters>", "first column of the table")
    .option("--last-column <letters>", "last column of the table")
    .option("--end <rule>", "found, blank-row, last-row, or a row's number")
    .option("--type <column=type>", 'such as "Due=date day-first", "Fee=number comma", "Code=text"', collect, [])
    .option("--append", "from now on a file adds to the edition before, by the key")
    .option("--replace", "from now on a file replaces what the dataset shows")
    .option("--key <columns>", "columns that tell rows apart, with commas between")
    .option("--reset", "forget all corrections made before")
    .addHelpText("after", example('corbix correct visits --header-row 4 --type "Next due=date day-first"'))
    .action((dataset: string, options: CorrectOptions) => run((output) => correct(client(), dataset, options, output)));
  program
    .command("compare")
    .summary("show what is different between two editions")
    .argument("<dataset>")
    .option("--edition <number>", "the newest if not given")
    .option("--with <number>", "the one before it if not given")
    .action((dataset: string, options: { edition?: string; with?: string }) =>
      run((output) => compare(client(), dataset, options, output)),
    );
  program
    .command("groups")
    .summary("list the groups of a dataset with counts and what wants a look")
    .argument("<dataset>")
    .option("--by <columns>", "columns, with commas between; those its report splits by if not given")
    .option("--edition <number>", "the newest if not given")
    .addHelpText("after", example("corbix groups visits --by Site"))
    .action((dataset: string, options: { by?: string; edition?: string }) =>
      run((output) => groups(client(), dataset, options, output)),
    );
  program
    .command("merge")
    .summary("let one spelling of a group count as another")
    .argument("<dataset>")
    .argument("<column>")
    .argument("<from>", "the spelling that is meant otherwise")
    .argument("[to]", "the spelling it counts as")
    .option("--undo", "let it be a group of its own again")
    .addHelpText("after", example('corbix merge visits Site "Sjostad Quay" "Sjöstad Quay"'))
    .action((dataset: string, column: string, from: string, to: string | undefined, options: { undo?: boolean }) =>
      run((output) => merge(client(), dataset, column, from, to, options, output)),
    );
  program
    .command("steps")
    .summary("show each step of a report's preparation with rows in, out and reasons")
    .argument("<report>")
    .option("--edition <number>", "the newest if not given")
    .action((report: string, options: { edition?: string }) =>
      run((output) => steps(client(), report, options, output)),
    );
  program
    .command("receive")
    .summary("take files for a dataset by mail")
    .argument("<dataset>")
    .option("--at <name>", "part before the @; the dataset's name if not given")
    .option(
      "--from <address>",
      "who may send: an address, or a domain as @lifts.example; may be given several times",
      collect,
      [],
    )
    .option("--stop", "take no more files by mail")
    .addHelpText("after", example("corbix receive visits --from system@lifts.example"))
    .action((dataset: string, options: { at?: string; from: string[]; stop?: boolean }) =>
      run((output) => receive(client(), dataset, options, output)),
    );
  program
    .command("arrivals")
    .summary("list files that came by the watched folder or by mail")
    .action(() => run((output) => arrivals(client(), output)));
}

function addServiceCommands(program: Command, run: Run, client: () => Client): void {
  const example = (text: string): string => `\nExample:\n  ${text}\n`;
  addDataCommands(program, run, client);
  program
    .command("datasets")
    .summary("list the datasets")
    .action(() => run((output) => datasets(client(), output)));
  program
    .command("recipients")
    .summary("show the shared recipient list, or replace it by a file")
    .argument("[file]", "a CSV or XLSX file with group, name, addresses, copies")
    .addHelpText("after", example("corbix recipients recipients.csv"))
    .action((file: string | undefined) => run((output) => recipients(client(), file, output)));
  program
    .command("templates")
    .summary("list the templates, or add a version of one")
    .argument("[file]", "a .xlsx, .docx or .html file")
    .addHelpText("after", example("corbix templates statement.xlsx"))
    .action((file: string | undefined) => run((output) => templates(client(), file, output)));
  program
    .command("reports")
    .summary("list the reports, or save one")
    .argument("[file]", "a definition, YAML or JSON")
    .addHelpText("after", example("corbix reports site-statement.yaml"))
    .action((file: string | undefined) => run((output) => reports(client(), file, output)));
  program
    .command("try")
    .summary("fill a report's template for one group, to look at; nothing is kept or sent")
    .argument("<report>")
    .argument("<file>", "name of the file in the report")
    .option("--group <group>", "key or label; one of middling size if left out")
    .option("--for <period>", "such as 2026-10; the last that is over if left out")
    .requiredOption("--out <folder>", "a new folder")
    .addHelpText("after", example('corbix try site-statement statement --group "Harbour House" --out trial'))
    .action((report: string, file: string, options: TryOptions) =>
      run((output) => tryTemplate(client(), report, file, options, output)),
    );
  program
    .command("times")
    .summary("show the next five times a report runs by itself")
    .argument("<report>")
    .addHelpText("after", example("corbix times site-statement"))
    .action((report: string) => run((output) => times(client(), report, output)));
  program
    .command("run")
    .summary("make a report's files and messages, prove them, and hold them for release")
    .argument("<report>")
    .option("--for <period>", "the period, such as 2026-10; the last one that is over if not given")
    .option("--edition <number>", "edition of the dataset; the newest if not given")
    .option("--rehearse <address>", "send everything to this address only, marked with who would have got it")
    .option("--group <name>", "only this group; may be given several times", collect, [])
    .option(
      "--where <filter>",
      'only rows of the edition that pass, such as "Site = Dock": a run of its own',
      collect,
      [],
    )
    .option("--search <text>", "only rows of the edition that this search finds: a run of its own")
    .option("--again <reason>", "deliver again to groups that were delivered already, and why")
    .option("--no-wait", "do not wait until it holds")
    .addHelpText(
      "after",
      example(
        "corbix run site-statement --for 2026-10\n  corbix run site-statement --for 2026-10 --rehearse me@lifts.example",
      ),
    )
    .action((report: string, options: RunOptions) => run((output) => startRun(client(), report, options, output)));
  program
    .command("runs")
    .summary("list the runs")
    .action(() => run((output) => listRuns(client(), output)));
  program
    .command("watch")
    .summary("follow a run until it holds or ends")
    .argument("<run>")
    .action((id: string) => run((output) => watchRun(client(), id, output)));
  program
    .command("show")
    .summary("show a run's proof and parcels")
    .argument("<run>")
    .action((id: string) => run((output) => showRun(client(), id, output)));
  program
    .command("release")
    .summary("let a held run's messages go")
    .argument("<run>")
    .option("--group <name>", "only this group; may be given several times", collect, [])
    .option("--no-wait", "do not wait until all are sent")
    .addHelpText("after", example("corbix release 7f3a90c1"))
    .action((id: string, options: { group: string[]; wait: boolean }) =>
      run((output) => releaseRun(client(), id, options, output)),
    );
  program
    .command("stop")
    .summary("stop a run where it stands")
    .argument("<run>")
    .action((id: string) => run((output) => stopRun(client(), id, output)));
  program
    .command("fetch")
    .summary("put all files of a run into a folder")
    .argument("<run>")
    .requiredOption("--out <folder>", "a new folder")
    .addHelpText("after", example("corbix fetch 7f3a90c1 --out october"))
    .action((id: string, options: { out: string }) => run((output) => fetchFiles(client(), id, options, output)));
}
