import type { Command } from "commander";
import type { CorrectOptions } from "../commands/dataset.js";
import type { LoadFileOptions } from "../commands/load.js";
import type { LookOptions } from "../commands/look.js";
import { collect, example, type WithService } from "./usage.js";

/** Commands for datasets and what is looked at in them. */
export function addDatasetCommands(program: Command, run: WithService): void {
  program
    .command("load")
    .summary("load a file as the next edition of a dataset")
    .argument("<dataset>", "name of the dataset; it is made if it is new")
    .argument("<file>", "a workbook (.xlsx), spreadsheet (.ods), text (.csv) or JSON file")
    .option("--sheet <name>", "sheet to read; the one with the largest table if not given")
    .option("--table <name>", "defined table, named range or range (Visits!A4:H200) to read")
    .option("--header-row <number>", "row of the header, or none; found if not given")
    .option("--names <names>", "of a file without a header: what its columns are called, with commas between")
    .option("--encoding <name>", "of a text file, such as UTF-8, windows-1250, KOI8-R; found if not given")
    .option("--delimiter <sign>", "of a text file: comma, semicolon, tabulator, bar or one sign; found if not given")
    .option("--list <name>", "of JSON with several lists: the one whose entries are the rows")
    .option("--append", "add to the edition before, by the key")
    .option("--key <columns>", "columns that tell rows apart, with commas between")
    .option("--look", "only say how it would be read, and keep nothing")
    .addHelpText("after", example("corbix load visits visits-2026.xlsx --look"))
    .addHelpText("after", "The password of a protected workbook is taken from CORBIX_FILE_PASSWORD.")
    .action((dataset: string, file: string, options: LoadFileOptions) =>
      run(async (client, output) => (await import("../commands/load.js")).load(client, dataset, file, options, output)),
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
    .action((dataset: string, options: LookOptions) =>
      run(async (client, output) => (await import("../commands/look.js")).look(client, dataset, options, output)),
    );
  program
    .command("correct")
    .summary("show or set how a dataset's files are read")
    .argument("<dataset>")
    .option("--sheet <name>", "sheet to read")
    .option("--table <name>", "defined table, named range or range (Visits!A4:H200)")
    .option("--header-row <number>", "row of the header, or none")
    .option("--names <names>", "of files without a header: what their columns are called, with commas between")
    .option("--encoding <name>", "of text files, such as UTF-8, windows-1250, KOI8-R")
    .option("--delimiter <sign>", "of text files: comma, semicolon, tabulator, bar or one sign")
    .option("--quote <sign>", 'what cells of text files are wrapped in: "quotation mark", apostrophe or none')
    .option("--list <name>", "of JSON with several lists: the one whose entries are the rows")
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
    .action((dataset: string, options: CorrectOptions) =>
      run(async (client, output) => (await import("../commands/dataset.js")).correct(client, dataset, options, output)),
    );
  program
    .command("compare")
    .summary("show what is different between two editions")
    .argument("<dataset>")
    .option("--edition <number>", "the newest if not given")
    .option("--with <number>", "the one before it if not given")
    .action((dataset: string, options: { edition?: string; with?: string }) =>
      run(async (client, output) => (await import("../commands/compare.js")).compare(client, dataset, options, output)),
    );
  program
    .command("groups")
    .summary("list the groups of a dataset with counts and what wants a look")
    .argument("<dataset>")
    .option("--by <columns>", "columns, with commas between; those its report splits by if not given")
    .option("--edition <number>", "the newest if not given")
    .addHelpText("after", example("corbix groups visits --by Site"))
    .action((dataset: string, options: { by?: string; edition?: string }) =>
      run(async (client, output) => (await import("../commands/compare.js")).groups(client, dataset, options, output)),
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
      run(async (client, output) =>
        (await import("../commands/compare.js")).merge(
          client,
          dataset,
          { column, from, to, undo: options.undo === true },
          output,
        ),
      ),
    );
  program
    .command("steps")
    .summary("show each step of a report's preparation with rows in, out and reasons")
    .argument("<report>")
    .option("--edition <number>", "the newest if not given")
    .action((report: string, options: { edition?: string }) =>
      run(async (client, output) => (await import("../commands/compare.js")).steps(client, report, options, output)),
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
      run(async (client, output) => (await import("../commands/dataset.js")).receive(client, dataset, options, output)),
    );
  program
    .command("arrivals")
    .summary("list files that came by the watched folder or by mail")
    .action(() => run(async (client, output) => (await import("../commands/compare.js")).arrivals(client, output)));
}
