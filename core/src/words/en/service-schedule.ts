import { counted } from "./numbers.js";

export const serviceSchedule = {
  editionDeliveredAlready: ({ number, data }: { number: number; data: string }) =>
    `Edition ${number} of ${data} was delivered already.`,
  timesMissed: ({ report, count, missed }: { report: string; count: number; missed: string }) =>
    missed === "none"
      ? `${report} was not started: ${counted(count, "time", "times")} passed while the service was down, and it makes up for none.`
      : `${report}: ${counted(count, "time", "times")} that passed while the service was down are not made up for.`,
  noticesSubject: ({ count }: { count: number }) => `Corbix: ${counted(count, "notice", "notices")}`,
  waitsForRelease: (one: { report: string; period: string; messages: number; files: number }) => {
    const files = counted(one.files, "file for the ways out", "files for the ways out");
    const mails = counted(one.messages, "message", "messages");
    const what = one.files === 0 ? mails : one.messages === 0 ? files : `${mails}, ${files}`;
    return `${one.report}, ${one.period}, waits for its release: ${what}.`;
  },
  lookAndRelease: () => "Look at the proof, then release it.",
  stoppedByFinding: ({ report, period, what }: { report: string; period: string; what: string }) =>
    `${report}, ${period}, cannot be released: ${what}`,
  runFailed: ({ report, why }: { report: string; why: string }) => `A run of ${report} failed. ${why}`,
  messagesRefused: ({ report, count }: { report: string; count: number }) =>
    `${report}: ${counted(count, "message was", "messages were")} refused or came back.`,
  correctInOutbox: () => "Correct the addresses in the outbox, and send again.",
  startByHand: () => "Start it by hand if it is wanted.",
  nothingCame: ({
    report,
    datasets,
    since,
    until,
  }: {
    report: string;
    datasets: string;
    since: string;
    until: string | null;
  }) =>
    `${report} was due at ${since} and was not started: nothing new came for ${datasets}${until === null ? " until the next time" : ` until ${until}`}.`,
  loadAndStartByHand: () => "Ask for the file, load it, and start the report by hand.",
  notStarted: ({ report, why }: { report: string; why: string }) => `${report} was not started. ${why}`,
  loadNewerSayReportMay: () => "Load a newer one, or say in the report what may happen once.",
};
