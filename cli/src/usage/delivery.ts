import type { Command } from "commander";
import type { SearchOptions } from "../commands/outbox.js";
import { collect, example, type WithService } from "./usage.js";

/** Commands for what is sent: the outbox, what a person decides, and the identities. */
export function addDeliveryCommands(program: Command, run: WithService): void {
  program
    .command("matching")
    .summary("show who would receive for each group of a report now, by which rule, or why nobody")
    .argument("<report>")
    .option("--for <period>", "the period, such as 2026-10; the last one that is over if not given")
    .addHelpText("after", example("corbix matching site-statement"))
    .action((report: string, options: { for?: string }) =>
      run(async (client, output) =>
        (await import("../commands/matching.js")).matching(client, report, options, output),
      ),
    );
  program
    .command("outbox")
    .summary("list messages: to whom, when, in what state, and what the server said; what is in trouble comes first")
    .option("--person <text>", "part of a name or address")
    .option("--group <text>", "part of a group's name")
    .option("--file <text>", "part of an attached file's name")
    .option("--report <name>")
    .option("--for <period>", "such as 2026-10")
    .option("--state <state>", "held, queued, sending, sent, refused, unsure, skipped or returned")
    .option("--since <day>", "first day, such as 2026-11-02")
    .option("--until <day>", "last day")
    .option("--rows <number>", "how many; 50 if not given")
    .addHelpText("after", example("corbix outbox --state unsure\n  corbix outbox --person brandt --since 2026-11-01"))
    .action((options: SearchOptions) =>
      run(async (client, output) => (await import("../commands/outbox.js")).listMessages(client, options, output)),
    );
  program
    .command("message")
    .summary("tell all that is known of a message, or save it as it was sent")
    .argument("<message>", "its number")
    .option("--out <file>", "save it as .eml, byte for byte")
    .addHelpText("after", example("corbix message 17 --out harbour-house.eml"))
    .action((id: string, options: { out?: string }) =>
      run(async (client, output) => (await import("../commands/outbox.js")).tellMessage(client, id, options, output)),
    );
  program
    .command("decide")
    .summary("decide a message nobody can know about: it arrived, or it shall go once more")
    .argument("<message>", "its number")
    .argument("<as>", "arrived, or again; a refused message can only go again")
    .option("--reason <text>", "how it is known")
    .addHelpText("after", example('corbix decide 17 arrived --reason "they called and have it"'))
    .action((id: string, as: string, options: { reason?: string }) =>
      run(async (client, output) => (await import("../commands/outbox.js")).decide(client, id, as, options, output)),
    );
  program
    .command("again")
    .summary("send a message that went out already once more on purpose; its subject says so")
    .argument("<message>", "its number")
    .requiredOption("--reason <text>", "why")
    .addHelpText("after", example('corbix again 17 --reason "their mailbox was emptied"'))
    .action((id: string, options: { reason: string }) =>
      run(async (client, output) => (await import("../commands/outbox.js")).again(client, id, options, output)),
    );
  program
    .command("skip")
    .summary("leave groups out whose messages have not gone yet")
    .argument("<run>")
    .requiredOption("--group <name>", "a group; may be given several times", collect, [])
    .requiredOption("--reason <text>", "why")
    .addHelpText("after", example('corbix skip 7f3a90c1 --group "Alder Court" --reason "contract ended"'))
    .action((id: string, options: { group: string[]; reason: string }) =>
      run(async (client, output) => (await import("../commands/outbox.js")).skip(client, id, options, output)),
    );
  for (const what of ["pause", "resume"] as const)
    program
      .command(what)
      .summary(
        what === "pause"
          ? "let the waiting messages of a run or an identity wait"
          : "let the waiting messages of a run or an identity go on",
      )
      .argument("[run]")
      .option("--identity <name>", "an identity in place of a run")
      .addHelpText("after", example(`corbix ${what} 7f3a90c1\n  corbix ${what} --identity office`))
      .action((id: string | undefined, options: { identity?: string }) =>
        run(async (client, output) =>
          (await import("../commands/outbox.js")).pauseOrResume(client, what, id, options, output),
        ),
      );
  program
    .command("identities")
    .summary("list the sending identities with what waits for them, or set one")
    .argument("[file]", "YAML or JSON: its settings, and beside them its `name`")
    .addHelpText("after", example("corbix identities office.yaml"))
    .addHelpText(
      "after",
      "A password and the private key of DKIM are taken from CORBIX_MAIL_PASSWORD and, its path, CORBIX_DKIM_KEY_FILE;\nwhere these are not set, the ones kept stay.",
    )
    .action((file: string | undefined) =>
      run(async (client, output) => (await import("../commands/identities.js")).identities(client, file, output)),
    );
  program
    .command("ways-out")
    .summary("list the ways out besides mail: folders, WebDAV, SFTP, web services; or set one, try it, take it away")
    .argument("[name]")
    .option("--file <path>", "YAML or JSON: its settings")
    .option("--try", "put a small file there and take it away again")
    .option("--remove", "take it away, where no report needs it")
    .addHelpText("after", example("corbix ways-out archive --file archive.yaml --try"))
    .addHelpText(
      "after",
      "Secrets are taken from CORBIX_WAY_PASSWORD, CORBIX_WAY_TOKEN and, the path of a private key, CORBIX_WAY_KEY_FILE;\nwhere these are not set, the ones kept stay.",
    )
    .action((name: string | undefined, options: { file?: string; try?: boolean; remove?: boolean }) =>
      run(async (client, output) => (await import("../commands/ways.js")).waysOut(client, name, options, output)),
    );
  program
    .command("print")
    .summary("put the PDFs of a run's parcels into one file, to be printed")
    .argument("<run>")
    .requiredOption("--out <file>", "the PDF")
    .option("--group <name>", "only this group")
    .option("--sheets", "each file begins on a sheet of its own, for printing on both sides")
    .addHelpText("after", example("corbix print 7f3a90c1 --sheets --out october.pdf"))
    .action((id: string, options: { out: string; group?: string; sheets?: boolean }) =>
      run(async (client, output) => (await import("../commands/runs.js")).printRun(client, id, options, output)),
    );
  program
    .command("audit")
    .summary("what an auditor asks of a run: who prepared it, who let it go, what went to whom, with digests")
    .argument("<run>")
    .requiredOption("--out <file>", "the PDF")
    .addHelpText("after", example("corbix audit 7f3a90c1 --out october-audit.pdf"))
    .action((id: string, options: { out: string }) =>
      run(async (client, output) => (await import("../commands/runs.js")).auditRun(client, id, options, output)),
    );
}
