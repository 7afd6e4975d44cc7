import type { Command } from "commander";
import type { RunOptions, ShowOptions } from "../commands/runs.js";
import { collect, example, type WithService } from "./usage.js";

/** Commands for runs. */
export function addRunCommands(program: Command, run: WithService): void {
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
    .option("--row <number>", "only this row of the edition; may be given several times: a run of its own", collect, [])
    .option("--look", "of picked rows only tell to whom each would go, and whether it went out before")
    .option("--again <reason>", "deliver again to groups that were delivered already, and why")
    .option("--no-wait", "do not wait until it holds")
    .addHelpText(
      "after",
      example(
        "corbix run site-statement --for 2026-10\n  corbix run site-statement --for 2026-10 --rehearse me@lifts.example",
      ),
    )
    .action((report: string, options: RunOptions) =>
      run(async (client, output) => (await import("../commands/runs.js")).startRun(client, report, options, output)),
    );
  program
    .command("runs")
    .summary("list the runs, newest first")
    .option("--rows <number>", "how many; 50 if not given")
    .action((options: { rows?: string }) =>
      run(async (client, output) => (await import("../commands/runs.js")).listRuns(client, options, output)),
    );
  program
    .command("watch")
    .summary("follow a run until it holds or ends")
    .argument("<run>")
    .action((id: string) =>
      run(async (client, output) => (await import("../commands/runs.js")).watchRun(client, id, output)),
    );
  program
    .command("show")
    .summary("show a run's proof and parcels")
    .argument("<run>")
    .option("--rows <number>", "how many parcels; 50 if not given")
    .option("--search <text>", "only parcels with this in their group, an address or a file's name")
    .option("--message <state>", "only parcels whose message is sent, refused, unsure, …, or none")
    .addHelpText("after", example("corbix show 7f3a90c1 --message refused"))
    .action((id: string, options: ShowOptions) =>
      run(async (client, output) => (await import("../commands/runs.js")).showRun(client, id, options, output)),
    );
  program
    .command("release")
    .summary("let a held run's messages go")
    .argument("<run>")
    .option("--group <name>", "only this group; may be given several times", collect, [])
    .option("--at <time>", "not now but then, such as 2026-11-03T07:30; never takes a time back")
    .option("--no-wait", "do not wait until all are sent")
    .addHelpText("after", example("corbix release 7f3a90c1"))
    .action((id: string, options: { group: string[]; at?: string; wait: boolean }) =>
      run(async (client, output) => (await import("../commands/runs.js")).releaseRun(client, id, options, output)),
    );
  program
    .command("stop")
    .summary("stop a run where it stands")
    .argument("<run>")
    .action((id: string) =>
      run(async (client, output) => (await import("../commands/runs.js")).stopRun(client, id, output)),
    );
  program
    .command("fetch")
    .summary("put all files of a run into a folder")
    .argument("<run>")
    .requiredOption("--out <folder>", "a new folder")
    .addHelpText("after", example("corbix fetch 7f3a90c1 --out october"))
    .action((id: string, options: { out: string }) =>
      run(async (client, output) => (await import("../commands/runs.js")).fetchFiles(client, id, options, output)),
    );
  program
    .command("figures")
    .summary("make data of a released run's figures: a row for each group, for a summary that goes by them")
    .argument("<run>")
    .option("--dataset <name>", "a dataset of their own; what the report says, or its name with -figures, if not given")
    .addHelpText("after", example("corbix figures 7f3a90c1"))
    .action((id: string, options: { dataset?: string }) =>
      run(async (client, output) => (await import("../commands/runs.js")).keepFigures(client, id, options, output)),
    );
}
