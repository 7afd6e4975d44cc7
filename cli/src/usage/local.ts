import { DECK_PAGES } from "@corbix/core/common";
import { type Command, Option } from "commander";
import type { FillOptions } from "../commands/local/fill.js";
import type { MakeOptions } from "../commands/local/make-inputs.js";
import type { ReplaceOptions } from "../commands/local/workbooks.js";
import { collect, example, type Work } from "./usage.js";

/** Commands that need no service. */
export function addLocalCommands(program: Command, run: Work): void {
  program
    .command("make")
    .summary("make all files, messages and the proof of a report, without a service")
    .argument("<report>", "definition of the report, YAML or JSON; templates lie in the folder `templates` beside it")
    .option(
      "--data <name=file>",
      "a dataset and the file it is read from, of a workbook with its sheet, table or range behind a # (visits=book.xlsx#October); may be given several times",
      collect,
      [],
    )
    .option("--recipients <file>", "the recipient list, CSV or XLSX")
    .option("--for <period>", "the period, such as 2026-10")
    .option("--date <date>", "the day of the run, such as 2026-11-02; today if not given")
    .option("--templates <folder>", "folder of the templates")
    .option("--fonts <folder>", "folder of fonts of one's own")
    .option(
      "--attachments <folder>",
      "folder of attachments that are found by name; `attachments` beside the report if not given",
    )
    .option(
      "--so-far <folder>",
      "what `make` wrote for the period before: documents and decks that grow go on from there",
    )
    .option("--from <address>", "the messages' sender")
    .option("--sheet <name=sheet>", "the sheet of a dataset's workbook; may be given several times", collect, [])
    .option(
      "--password <name=password>",
      "what a dataset's file opens with; CORBIX_FILE_PASSWORD if not given; may be given several times",
      collect,
      [],
    )
    .option("--calendar <file>", "how fiscal periods or periods of its own fall: YAML of a calendar")
    .option("--corrections <file>", "how files are read, by dataset: YAML of what `corbix correct` sets")
    .requiredOption("--out <folder>", "a new folder for everything")
    .addHelpText(
      "after",
      "\nExample:\n  corbix make demo/files/site-statement.yaml --data visits=demo/files/visits-2026.xlsx \\\n    --recipients demo/files/recipients.csv --for 2026-10 --out october\n",
    )
    .action((report: string, options: MakeOptions) =>
      run(async (output) => (await import("../commands/local/make.js")).make(report, options, output)),
    );
  program
    .command("fill")
    .summary("fill one template from one record")
    .argument("<template>", "a workbook (.xlsx), document (.docx) or slide deck (.pptx) with marks")
    .requiredOption("--record <file>", "the record, JSON or YAML; `lines` holds the lines")
    .requiredOption("--out <file>", "the filled file")
    .option("--pdf", "make a PDF beside it")
    .option("--locale <tag>", "language of months and numbers", "en-GB")
    .option("--fonts <folder>", "folder of fonts of one's own")
    .addHelpText(
      "after",
      "\nExample:\n  corbix fill letter.docx --record harbour-house.yaml --out harbour-house.docx --pdf\n",
    )
    .action((template: string, options: FillOptions) =>
      run(async (output) => (await import("../commands/local/fill.js")).fill(template, options, output)),
    );
  program
    .command("recalc")
    .summary("evaluate every formula of a workbook again and say which stored values differ")
    .argument("<file>", "a .xlsx or .xlsm file")
    .option("--check", "end with 8 where a stored value differs")
    .option("--out <file>", "store the evaluated values in a new file")
    .option("--date <date>", "the day that TODAY gives; today if not given")
    .addHelpText("after", example("corbix recalc statement.xlsx --check"))
    .action((file: string, options: { check?: boolean; out?: string; date?: string }) =>
      run(async (output) => (await import("../commands/local/recalc.js")).recalc(file, options, output)),
    );
  program
    .command("sheets")
    .summary("make each visible sheet a workbook of its own, with its looks and values only")
    .argument("<file>", "a .xlsx or .xlsm file")
    .requiredOption("--out <folder>", "a new folder")
    .addHelpText("after", example("corbix sheets year.xlsx --out months"))
    .action((file: string, options: { out: string }) =>
      run(async (output) => (await import("../commands/local/workbooks.js")).sheets(file, options, output)),
    );
  program
    .command("replace")
    .summary("replace words in the cells of many workbooks, and say where")
    .usage(
      '"<from>" "<to>" <files or folders...> --out <folder>\n       corbix replace --list <file> <files or folders...> --out <folder>',
    )
    .argument(
      "<what...>",
      "the word, what stands in its place, and workbooks or folders of them; they are not touched, all go into the new folder",
    )
    .requiredOption("--out <folder>", "a new folder; one folder that was named is mirrored in it, other files too")
    .option(
      "--list <file>",
      "a table of two columns instead of one word: what is looked for, and what stands in its place",
    )
    .option("--whole", "only whole words")
    .option("--any-case", "without regard to capitals")
    .addHelpText("after", example('corbix replace "Brandt" "Brandt-Okoro" forms/*.xlsx --whole --out changed'))
    .action((what: string[], options: ReplaceOptions) =>
      run(async (output) => (await import("../commands/local/workbooks.js")).replace(what, options, output)),
    );
  program
    .command("differ")
    .summary("compare two workbooks cell by cell, or two slide decks slide by slide and shape by shape")
    .argument("<first>", "a .xlsx, .xlsm or .pptx file")
    .argument("<second>", "another one of its kind")
    .addHelpText("after", example("corbix differ october.xlsx november.xlsx\nEnds with 8 where they differ."))
    .action((first: string, second: string) =>
      run(async (output) => (await import("../commands/local/differ.js")).differ(first, second, output)),
    );
  program
    .command("pages")
    .summary("render a document, workbook or slide deck as it is")
    .argument("<file>", "a .docx, .xlsx or .pptx file")
    .requiredOption("--out <file>", "the PDF")
    .option("--password <password>", "what the file opens with; CORBIX_FILE_PASSWORD if not given")
    .option("--fonts <folder>", "folder of fonts of one's own")
    .addOption(new Option("--each <what>", "of a deck: what a page holds").choices(DECK_PAGES))
    .option("--hidden", "of a deck: its hidden slides too")
    .addHelpText(
      "after",
      example(
        "corbix pages statement.xlsx --out statement.pdf\n  corbix pages quarter.pptx --each notes --out notes.pdf",
      ),
    )
    .action((file: string, options: Parameters<typeof import("../commands/local/pages.js").pages>[1]) =>
      run(async (output) => (await import("../commands/local/pages.js")).pages(file, options, output)),
    );
}
