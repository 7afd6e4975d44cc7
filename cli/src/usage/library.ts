import type { Command } from "commander";
import type { ListOptions } from "../commands/library.js";
import type { TryOptions } from "../commands/try.js";
import { example, type WithService } from "./usage.js";

/** Commands for the recipient list, templates and reports. */
export function addLibraryCommands(program: Command, run: WithService): void {
  program
    .command("datasets")
    .summary("list the datasets")
    .action(() => run(async (client, output) => (await import("../commands/library.js")).datasets(client, output)));
  program
    .command("recipients")
    .summary("show the shared recipient list, replace it by a file, or merge one into it")
    .argument("[file]", "a table (.csv, .xlsx, .ods) with group, name, addresses, copies, or vCards (.vcf)")
    .option("--merge", "who is not in the file stays")
    .option("--look", "only say what it would change, and keep nothing")
    .option("--out <file>", "save the list, as .csv, .xlsx or .vcf")
    .addHelpText("after", example("corbix recipients recipients.csv --look"))
    .action((file: string | undefined, options: ListOptions) =>
      run(async (client, output) => (await import("../commands/library.js")).recipients(client, file, options, output)),
    );
  program
    .command("templates")
    .summary("list the templates, or add a version of one")
    .argument("[file]", "a .xlsx, .docx or .html file")
    .addHelpText("after", example("corbix templates statement.xlsx"))
    .action((file: string | undefined) =>
      run(async (client, output) => (await import("../commands/library.js")).templates(client, file, output)),
    );
  program
    .command("reports")
    .summary("list the reports, or save one")
    .argument("[file]", "a definition, YAML or JSON")
    .addHelpText("after", example("corbix reports site-statement.yaml"))
    .action((file: string | undefined) =>
      run(async (client, output) => (await import("../commands/library.js")).reports(client, file, output)),
    );
  const keep = () => import("../commands/keep.js");
  program
    .command("hanging")
    .summary("tell what hangs on a report, a dataset or a template, before it is renamed, archived or deleted")
    .argument("<kind>", "report, dataset or template")
    .argument("<name>")
    .addHelpText("after", example("corbix hanging dataset visits"))
    .action((kind: string, name: string) =>
      run(async (client, output) => (await keep()).hanging(client, kind, name, output)),
    );
  program
    .command("rename")
    .summary("give a report, a dataset or a template another name; what refers to it follows")
    .argument("<kind>", "report, dataset or template")
    .argument("<name>")
    .argument("<new-name>")
    .option("--title <title>", "of a report, its title too")
    .addHelpText("after", example("corbix rename dataset visits inspections"))
    .action((kind: string, name: string, to: string, options: { title?: string }) =>
      run(async (client, output) => (await keep()).underName(client, "rename", [kind, name, to], options, output)),
    );
  program
    .command("copy")
    .summary("make a copy; of a report it starts nothing by itself")
    .argument("<kind>", "report, dataset or template")
    .argument("<name>")
    .argument("<new-name>")
    .option("--title <title>", "of a report, the copy's title")
    .addHelpText("after", example("corbix copy report site-statement quarter-statement"))
    .action((kind: string, name: string, to: string, options: { title?: string }) =>
      run(async (client, output) => (await keep()).underName(client, "copy", [kind, name, to], options, output)),
    );
  program
    .command("archive")
    .summary("put a report, a dataset or a template away, or bring it back")
    .argument("<kind>", "report, dataset or template")
    .argument("<name>")
    .option("--back", "bring it back")
    .addHelpText("after", example("corbix archive report site-statement"))
    .action((kind: string, name: string, options: { back?: boolean }) =>
      run(async (client, output) => (await keep()).archive(client, kind, name, options, output)),
    );
  program
    .command("delete")
    .summary("delete a report, a dataset or a template; what its runs were made with stays for them")
    .argument("<kind>", "report, dataset or template")
    .argument("<name>")
    .option("--yes", "delete it; without this it is only told what hangs on it")
    .addHelpText("after", example("corbix delete template old-letter.docx --yes"))
    .action((kind: string, name: string, options: { yes?: boolean }) =>
      run(async (client, output) => (await keep()).remove(client, kind, name, options, output)),
    );
  program
    .command("try")
    .summary("fill a report's template for one group, to look at; nothing is kept or sent")
    .argument("<report>")
    .argument("<file>", "name of the file in the report")
    .option("--group <group>", "key or label; one of middling size if left out")
    .option("--for <period>", "such as 2026-10; the last that is over and has rows if left out")
    .requiredOption("--out <folder>", "a new folder")
    .addHelpText("after", example('corbix try site-statement statement --group "Harbour House" --out trial'))
    .action((report: string, file: string, options: TryOptions) =>
      run(async (client, output) =>
        (await import("../commands/try.js")).tryTemplate(client, report, file, options, output),
      ),
    );
  program
    .command("calendars")
    .summary("list calendars, or show one with its days off of a year")
    .argument("[name]")
    .option("--year <year>", "which year; this one if not given")
    .addHelpText("after", example("corbix calendars office --year 2027"))
    .action((name: string | undefined, options: { year?: string }) =>
      run(async (client, output) =>
        (await import("../commands/calendars.js")).calendars(client, name, options, output),
      ),
    );
  program
    .command("calendar")
    .summary("set a calendar from a file of its text (.yaml), or add days off (.ics) and periods (tables) to it")
    .argument("<name>")
    .argument("<file>")
    .addHelpText("after", example("corbix calendar office office.yaml\n  corbix calendar office holidays-2027.ics"))
    .action((name: string, file: string) =>
      run(async (client, output) => (await import("../commands/calendars.js")).setCalendar(client, name, file, output)),
    );
  program
    .command("times")
    .summary("show the times of a year at which a report runs by itself, and the days off it was moved from")
    .argument("<report>")
    .addHelpText("after", example("corbix times site-statement"))
    .action((report: string) =>
      run(async (client, output) => (await import("../commands/library.js")).times(client, report, output)),
    );
}
