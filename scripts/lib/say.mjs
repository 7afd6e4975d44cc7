/** What the scripts tell the person at the terminal. */
export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Ends the script with a sentence that says what to do. */
export class Advice extends Error {}
