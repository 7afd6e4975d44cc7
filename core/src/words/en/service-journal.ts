import { counted } from "./numbers.js";

const found = ({ sent, unsure }: { sent: number; unsure: number }): string =>
  sent + unsure === 0
    ? "no message left that it does not know of"
    : `${counted(sent + unsure, "message", "messages")} left: ${sent} sent, which will not go again${unsure > 0 ? `, and ${unsure} of which nobody can know whether they arrived` : ""}`;

export const serviceJournal = {
  haltedByHand: ({ reason }: { reason: string }) => `Sending was halted by hand: ${reason}`,
  goneBack: ({ sent, unsure }: { sent: number; unsure: number }) =>
    `The database was set back. Since where it stands now ${found({ sent, unsure })}. What it does not know besides, such as runs that were stopped or people who were changed meanwhile, nobody can tell: look before going on.`,
  restored: ({ taken, sent, unsure, journal }: { taken: string; sent: number; unsure: number; journal: number }) =>
    `This was restored from the backup of ${taken}. ${
      journal > 0
        ? `As the journal that came along tells, ${found({ sent, unsure })}.`
        : `No journal came along that goes on behind it: besides ${sent + unsure} messages that the backup itself tells of, nobody here knows what left after it. Compare with the mail server's log.`
    } See that the Corbix it was taken from sends no more before going on.`,
  otherJournal: ({ files }: { files: string }) =>
    `The journal beside the store is another database's (${files}). If this should be that database, restore it; going on leaves what the journal tells out of account.`,
  damagedJournal: ({ files }: { files: string }) =>
    `Lines of the journal of what left are damaged (${files}): messages may have left that nothing tells of. Compare with the mail server's log before going on.`,
  halted: ({ sent, unsure }: { sent: number; unsure: number }) =>
    sent + unsure === 0
      ? "Nothing is sent until somebody has looked: journal and database do not tell the same."
      : `Nothing is sent until somebody has looked: the database stands where it stood before ${counted(sent + unsure, "message", "messages")} left, as the journal tells${unsure > 0 ? `; of ${unsure} of them nobody can know whether they arrived` : ""}.`,
  lookThenGoOn: () =>
    "See under Operations what was found, decide what is unsure, and go on there, or by corbix go-on.",
  toldByJournal: ({ response }: { response: string }) => `${response} (told by the journal of what left)`.trim(),
  endUnknown: () =>
    "The journal of what left has it as begun, and nothing of what became of it: nobody can know whether it arrived.",
  cannotWrite: ({ why }: { why: string }) => `Cannot write down what is about to leave, so nothing leaves: ${why}.`,
  makeWritable: () => "See that the disk has room and that the folder can be written; it goes on by itself.",
  notHalted: () => "Cannot go on: nothing is halted.",
  foundNotOpen: ({ id }: { id: string }) =>
    `Cannot decide ${id}: it was decided before, or it is a message of the outbox and decided there.`,
};
