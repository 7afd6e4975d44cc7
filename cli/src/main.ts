import { Command, CommanderError } from "commander";
import { fill, type FillOptions } from "./commands/fill.js";
import { make, type MakeOptions } from "./commands/make.js";
import { pages } from "./commands/pages.js";
import { makeOutput, type Output, reportError } from "./output.js";

/** Runs the command and gives its exit code. */
export async function main(argv: readonly string[]): Promise<number> {
  const state = { code: 0 };
  const program = new Command("corbix")
    .description("Each their own part of one table: splits, fills, renders, sends, and proves that it adds up.")
    .option("--json", "print one JSON value instead of sentences")
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
    .requiredOption("--out <folder>", "a new folder for everything")
    .addHelpText("after", "\nExample:\n  corbix make demo/files/site-statement.yaml --data visits=demo/files/visits-2026.xlsx \\\n    --recipients demo/files/recipients.csv --for 2026-10 --out october\n")
    .action((report: string, options: MakeOptions) => run((output) => make(report, options, output)));
  program
    .command("fill")
    .summary("fill one template from one record")
    .argument("<template>", "a workbook (.xlsx) or document (.docx) with marks")
    .requiredOption("--record <file>", "the record, JSON or YAML; `lines` holds the lines")
    .requiredOption("--out <file>", "the filled file")
    .option("--pdf", "make a PDF beside it")
    .option("--locale <tag>", "language of months and numbers", "en-GB")
    .addHelpText("after", "\nExample:\n  corbix fill letter.docx --record harbour-house.yaml --out harbour-house.docx --pdf\n")
    .action((template: string, options: FillOptions) => run((output) => fill(template, options, output)));
  program
    .command("pages")
    .summary("render a document or workbook as it is")
    .argument("<file>", "a .docx or .xlsx file")
    .requiredOption("--out <file>", "the PDF")
    .addHelpText("after", "\nExample:\n  corbix pages statement.xlsx --out statement.pdf\n")
    .action((file: string, options: { out: string }) => run((output) => pages(file, options, output)));
}
