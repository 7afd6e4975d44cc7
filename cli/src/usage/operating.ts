import type { Command } from "commander";
import { example, type WithService, type Work } from "./usage.js";

/** What an operator does: backups and upgrades on the machine itself, halts by way of the service. */
export function addOperatingCommands(program: Command, run: Work, withService: WithService): void {
  program
    .command("backup")
    .summary("take a backup of database and files, of one moment, while the service runs")
    .requiredOption(
      "--out <folder>",
      "folder of backups, on another disk; bytes that an earlier one has are not copied again",
    )
    .option("--keep <count>", "delete all but the newest so many")
    .addHelpText("after", example("corbix backup --out /srv/backups/corbix --keep 14"))
    .action((options: { out: string; keep?: string }) =>
      run(async (output) => (await import("../commands/operate.js")).backup(options, output)),
    );
  program
    .command("restore")
    .summary("put a backup into a data folder and a database that are empty; nothing is sent until somebody has looked")
    .argument("<folder>", "folder of backups, of which the newest is taken, or one of them")
    .option("--from <name>", "which of them, such as 2026-11-02T073000Z")
    .option(
      "--journal <folder>",
      "data folder that the backup was taken from, if it is still there: it tells what left since",
    )
    .addHelpText(
      "after",
      example("CORBIX_DATA=/srv/corbix corbix restore /srv/backups/corbix --journal /srv/corbix-before"),
    )
    .action((folder: string, options: { from?: string; journal?: string }) =>
      run(async (output) => (await import("../commands/operate.js")).restore(folder, options, output)),
    );
  program
    .command("upgrade")
    .summary("bring the database to this version, with a backup before")
    .option("--out <folder>", "folder of backups for the one that is taken first")
    .option("--without-backup", "take none")
    .addHelpText("after", example("corbix upgrade --out /srv/backups/corbix"))
    .action((options: { out?: string; withoutBackup?: boolean }) =>
      run(async (output) => (await import("../commands/operate.js")).upgrade(options, output)),
    );
  program
    .command("doctor")
    .summary("look a setup through: database, store, key, fonts, mail servers, and what the DNS says of senders")
    .addHelpText("after", example("corbix doctor"))
    .action(() => run(async (output) => (await import("../commands/operate.js")).doctor(output)));
  program
    .command("settings")
    .summary("check the settings of this machine and show how they count; secrets are not shown")
    .addHelpText("after", example("CORBIX_SETTINGS=/etc/corbix/corbix.yaml corbix settings"))
    .action(() => run(async (output) => (await import("../commands/operate.js")).settings(output)));
  program
    .command("rekey")
    .summary("seal everything that is kept sealed under another key")
    .option("--key-file <file>", "the other key, at least 16 signs; one is made if not given")
    .option("--forget", "the key before is lost: take out what was sealed with it")
    .option("--end-links", "addresses of files that were sent end: where the key before became known")
    .addHelpText("after", example("corbix rekey\n  corbix rekey --key-file /run/secrets/corbix-key-2027"))
    .action((options: { keyFile?: string; forget?: boolean; endLinks?: boolean }) =>
      run(async (output) => (await import("../commands/operate.js")).rekey(options, output)),
    );
  program
    .command("verify")
    .summary("read the whole file store, or a backup, against its records and tell what is damaged or missing")
    .argument(
      "[folder]",
      "folder of backups, of which the newest is read, or one of them; the running service if not given",
    )
    .option("--from <name>", "which of them")
    .addHelpText("after", example("corbix verify\n  corbix verify /srv/backups/corbix"))
    .action((folder: string | undefined, options: { from?: string }) =>
      folder === undefined
        ? withService(async (client, output) => (await import("../commands/verify.js")).verify(client, output))
        : run(async (output) => (await import("../commands/operate.js")).verifyBackup(folder, options, output)),
    );
  program
    .command("halts")
    .summary("list when nothing left by itself, and what was found then; or what was found in one of them")
    .argument("[halt]", "number of one")
    .option("--open", "of it only what waits for a person's word")
    .addHelpText("after", example("corbix halts\n  corbix halts 3 --open"))
    .action((halt: string | undefined, options: { open?: boolean }) =>
      withService(async (client, output) =>
        (await import("../commands/halts.js")).halts(client, halt, options, output),
      ),
    );
  program
    .command("halt")
    .summary("halt all sending: no message begins, no schedule starts, until somebody goes on")
    .requiredOption("--reason <words>", "why")
    .addHelpText("after", example('corbix halt --reason "the mail server is being moved"'))
    .action((options: { reason: string }) =>
      withService(async (client, output) => (await import("../commands/halts.js")).halt(client, options, output)),
    );
  program
    .command("go-on")
    .summary("go on sending after a halt")
    .requiredOption("--reason <words>", "what was looked at")
    .addHelpText("after", example('corbix go-on --reason "compared with the mail server\'s log"'))
    .action((options: { reason: string }) =>
      withService(async (client, output) => (await import("../commands/halts.js")).goOn(client, options, output)),
    );
  program
    .command("found")
    .summary("say of a message of which only the journal knows whether it arrived, or is due again")
    .argument("<id>")
    .argument("<as>", "arrived or due")
    .addHelpText("after", example("corbix found 12 arrived"))
    .action((id: string, as: string) =>
      withService(async (client, output) => (await import("../commands/halts.js")).found(client, id, as, output)),
    );
}
