import type { Command } from "commander";
import type { KnownOptions } from "../commands/known.js";
import type { PeopleOptions, TokenOptions, TrailOptions } from "../commands/people.js";
import { collect, example, type WithService } from "./usage.js";

const MAY = "a role: look, prepare, release, operate or ask, for all reports or for one (release:site-statement)";

/** Commands for people, tokens and the trail. */
export function addPeopleCommands(program: Command, run: WithService): void {
  program
    .command("people")
    .summary("list who may sign in; invite somebody, change what they may do, switch them off")
    .argument("[name]", "what they sign in with")
    .option("--invite", "add them, with a link by which they come in once")
    .option("--may <role>", `${MAY}; several are given one by one`, collect, [])
    .option("--shown <name>", "what they are called")
    .option("--address <mail>", "their mail address")
    .option("--link", "another link, such as for a forgotten password")
    .option("--mail", "the link goes to their address too")
    .option("--off", "switch them off: sessions, tokens and links end at once")
    .option("--on", "let them in again")
    .addHelpText(
      "after",
      example(
        "corbix people mara.lindqvist --invite --may prepare --may release:site-statement\n  corbix people mara.lindqvist --off",
      ),
    )
    .action((name: string | undefined, options: PeopleOptions) =>
      run(async (client, output) => (await import("../commands/people.js")).people(client, name, options, output)),
    );
  program
    .command("tokens")
    .summary("list tokens for scripts; make one, give it another secret, end it")
    .argument("[name]")
    .option("--may <role>", `${MAY}; all that you may if not given`, collect, [])
    .option("--days <number>", "how long it works; 366 if not given")
    .option("--per-minute <number>", "how many calls a minute it may make; 600 if not given")
    .option("--rotate", "another secret; the one before ends")
    .option("--revoke", "end it")
    .addHelpText("after", example("corbix tokens nightly-load --may prepare --days 90"))
    .action((name: string | undefined, options: TokenOptions) =>
      run(async (client, output) => (await import("../commands/people.js")).tokens(client, name, options, output)),
    );
  program
    .command("trail")
    .summary("what was done, by whom, when and from where")
    .option("--by <name>", "only by this person")
    .option("--of <thing>", "only of this report, run, person")
    .option("--what <deed>", 'only this, such as "run released"')
    .option("--digest <digest>", "the entry of this digest, such as one that the log has")
    .option("--since <day>", "such as 2026-11-01")
    .option("--until <day>")
    .option("--rows <number>", "how many; 50 if not given")
    .addHelpText("after", example("corbix trail --by mara.lindqvist --since 2026-11-01"))
    .action((options: TrailOptions) =>
      run(async (client, output) => (await import("../commands/people.js")).trail(client, options, output)),
    );
  program
    .command("known")
    .summary("what is known of a person who asks: found, saved, erased where no duty to keep stands against it")
    .argument("<words...>", "addresses and names of one person")
    .option("--out <file>", "save all of it: a zip file with a JSON object a line, and the files")
    .option("--erase", "erase the person; --reason says why, without their name")
    .option("--reason <text>", "such as who asked when")
    .option("--leave <place>", "a place that stays as it is; may be given several times", collect, [])
    .addHelpText(
      "after",
      example(
        'corbix known ruth.penhallow@canal.example "Ruth Penhallow" --out ruth.zip\n  corbix known ruth.penhallow@canal.example "Ruth Penhallow" --erase --reason "asked by letter of 30 November"',
      ),
    )
    .action((words: string[], options: KnownOptions) =>
      run(async (client, output) => (await import("../commands/known.js")).known(client, words, options, output)),
    );
}
