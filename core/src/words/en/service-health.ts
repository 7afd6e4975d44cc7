import { counted, sizeText } from "./numbers.js";

export const serviceHealth = {
  answers: ({ ms }: { ms: number }) => `answers within ${ms} ms`,
  databaseAway: () => "does not answer",
  startDatabase: () => "Start PostgreSQL, and see the log of the service; it goes on by itself.",
  writable: () => "can be written",
  storeUnwritable: () => "cannot be written",
  journalUnwritable: () => "cannot be written: nothing is sent",
  seeStore: () => "See that the disk has room and the data folder is there and can be written; it goes on by itself.",
  live: ({ count }: { count: number }) => `${counted(count, "process lives", "processes live")}`,
  noWorker: () => "no process lives: runs are not made",
  noOutbox: () => "no process lives: nothing is sent",
  seeLog: () => "They are started again by themselves; if they do not come, see the log.",
  clockRight: () => "as the database's",
  clockApart: ({ seconds }: { seconds: number }) =>
    `${counted(seconds, "second", "seconds")} apart from the database's`,
  setClock: () => "Let a time service set the clocks of both machines. Decisions go by the database's.",
  free: ({ free, total }: { free: number; total: number }) => `${sizeText(free)} free of ${sizeText(total)}`,
  makeRoom: () => "Make room before it is full; nothing is lost when it is, but runs wait.",
  roomUnknown: () => "not known",
  halted: () => "halted until somebody goes on",
  notHalted: () => "not halted",
};
