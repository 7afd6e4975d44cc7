import { counted } from "./numbers.js";

export const serviceSchedule = {
  editionDeliveredAlready: ({ number, data }: { number: number; data: string }) =>
    `Edition ${number} of ${data} was delivered already.`,
  timesMissed: ({ report, count, missed }: { report: string; count: number; missed: string }) =>
    missed === "none"
      ? `${report} was not started: ${counted(count, "time", "times")} passed while the service was down, and it makes up for none.`
      : `${report}: ${counted(count, "time", "times")} that passed while the service was down are not made up for.`,
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
