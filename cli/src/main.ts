import { Command, CommanderError } from "commander";
import type { Client } from "./client.js";
import type { Output } from "./output.js";
import { addDatasetCommands } from "./usage/datasets.js";
import { addDeliveryCommands } from "./usage/delivery.js";
import { addEnquiryCommands } from "./usage/enquiries.js";
import { addLibraryCommands } from "./usage/library.js";
import { addLocalCommands } from "./usage/local.js";
import { addOperatingCommands } from "./usage/operating.js";
import { addPeopleCommands } from "./usage/people.js";
import { addRunCommands } from "./usage/runs.js";

/** Runs the command and gives its exit code. What a command works with is loaded when it runs, so that help is there at once. */
export async function main(argv: readonly string[], version: string): Promise<number> {
  const state = { code: 0 };
  const program = new Command("corbix")
    .description("Each their own part of one table: splits, fills, renders, sends, and proves that it adds up.")
    .version(version, "--version", "print the version")
    .option("--json", "print one JSON value instead of sentences")
    .option("--url <address>", "address of the service; CORBIX_URL, or this machine's, if not given")
    .option("--token <token>", "token of the service; CORBIX_TOKEN, or the one in its data folder, if not given")
    .addHelpText("after", EXIT_CODES)
    .showHelpAfterError("Add --help for the options and examples.")
    .exitOverride();
  const run = async (work: (output: Output) => Promise<number>): Promise<void> => {
    const json = program.opts<{ json?: boolean }>().json === true;
    const { makeOutput, reportError } = await import("./output.js");
    state.code = await work(makeOutput(json)).catch((error) => reportError(error, json));
  };
  const withService = (work: (client: Client, output: Output) => Promise<number>): Promise<void> =>
    run(async (output) => {
      const { knownError, makeClient } = await import("./client.js");
      return work(makeClient(program.opts<{ url?: string; token?: string }>()), output).catch((error: unknown) => {
        throw knownError(error);
      });
    });
  addDatasetCommands(program, withService);
  addLibraryCommands(program, withService);
  addRunCommands(program, withService);
  addEnquiryCommands(program, withService);
  addPeopleCommands(program, withService);
  addDeliveryCommands(program, withService);
  addOperatingCommands(program, run, withService);
  addLocalCommands(program, run);
  try {
    await program.parseAsync([...argv]);
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    throw error;
  }
  return state.code;
}

/** Exit codes as docs/operating.md tells them. */
const EXIT_CODES = `
Exit codes: 0 done, 1 something unforeseen, 2 wrong use of the command, 3 a file that cannot be read,
4 a definition, template or value that cannot work, 5 not signed in, 6 not found, 7 not possible in this state,
8 stopped by a finding, 9 service or database unreachable, 10 wrong setting or port taken.`;
