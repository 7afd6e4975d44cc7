import type { Command } from "commander";
import type { AskOptions } from "../commands/enquiries.js";
import { collect, example, type WithService } from "./usage.js";

/** Commands for reports that are asked. */
export function addEnquiryCommands(program: Command, run: WithService): void {
  program
    .command("enquiries")
    .summary("list the reports that are asked, or show what one asks")
    .argument("[enquiry]")
    .action((name: string | undefined) =>
      run(async (client, output) => (await import("../commands/enquiries.js")).showEnquiries(client, name, output)),
    );
  program
    .command("ask")
    .summary("ask a report: the rows that match, or a file of them")
    .argument("<enquiry>")
    .argument("[fields...]", 'what is filled in, such as "site=Alder Court" visited=2026-09-01..2026-09-30')
    .option("--rows <number>", "how many rows are shown; 20 if not given")
    .option("--from <number>", "begin with this row of those found")
    .option("--row <number>", "everything about one row, by its number in the list")
    .option("--as <form>", "save the answer as a file, such as list.pdf, text.csv, or the page of a row")
    .option("--out <file>", "where the file goes")
    .addHelpText(
      "after",
      example(
        'corbix ask visit-enquiry "site=Alder Court" visited=2026-09-01..2026-09-30\n  corbix ask visit-enquiry result=fail --as list.pdf --out failed.pdf',
      ),
    )
    .action((name: string, fields: string[], options: AskOptions) =>
      run(async (client, output) =>
        (await import("../commands/enquiries.js")).ask(client, name, fields, options, output),
      ),
    );
  program
    .command("questions")
    .summary("list what was asked, by whom, and what was made of it")
    .option("--report <name>", "only of this report")
    .option("--rows <number>", "how many; 50 if not given")
    .action((options: { report?: string; rows?: string }) =>
      run(async (client, output) => (await import("../commands/enquiries.js")).listQuestions(client, options, output)),
    );
  program
    .command("colleagues")
    .summary("list who may ask without a sign-in, or let somebody ask")
    .argument("[name]")
    .option("--report <name>", "only this report; may be given several times", collect, [])
    .option("--remove", "let them ask no more, at once")
    .addHelpText("after", example('corbix colleagues "Mara Lindqvist" --report visit-enquiry'))
    .action((name: string | undefined, options: { report: string[]; remove?: boolean }) =>
      run(async (client, output) =>
        (await import("../commands/enquiries.js")).colleagues(client, name, options, output),
      ),
    );
}
