/** What states of runs and messages are called. */
import { word } from "./format.js";

const WORDS: Readonly<Record<string, string>> = {
  planning: word("planning"),
  making: word("making"),
  made: word("made"),
  proving: word("proving"),
  held: word("held"),
  delivering: word("delivering"),
  done: word("done"),
  failed: word("failed"),
  stopped: word("stopped"),
  paused: word("paused"),
  waiting: word("waiting"),
  queued: word("queued"),
  sending: word("sending"),
  sent: word("sent"),
  taken: word("taken"),
  later: word("later"),
  refused: word("refused"),
  returned: word("returned"),
  delayed: word("delayed"),
  delivered: word("delivered"),
  unsure: word("unsure"),
  skipped: word("skipped"),
  "no-recipient": "no recipient",
  "on-its-way": "on its way",
};

export const stateWord = (state: string): string => WORDS[state] ?? state;
