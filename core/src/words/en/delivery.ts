import { thousands } from "./numbers.js";

export const delivery = {
  edition: ({ edition }: { edition: number }) => `edition ${edition}`,
  rowsRun: ({ run }: { run: string }) => `rows of run ${run}`,
  ofRows: ({ whole, run }: { whole: string; run: string }) => `${whole}, rows of run ${run}`,
  eachGroupGetsOncePeriod: () => "Each group gets it once for a period.",
  eachGroupGetsOnceEdition: () => "Each group gets it once for an edition of the data.",
  eachRowGoesOutOnce: ({ per }: { per: string }) => `Each row goes out once, told apart by ${per}.`,
  goesOutWheneverPersonRuns: () => "It goes out whenever a person runs it: each run is a delivery of its own.",
  deliveredAlready: ({ day }: { day: string }) => `delivered already on ${day}`,
  on: ({ allCount, shown }: { allCount: number; shown: string }) =>
    allCount === 0 ? "" : `, on ${shown}${allCount > 3 ? " and other days" : ""}`,
  groupsAlreadySkipped: ({ hadCount, total, days }: { hadCount: number; total: string; days: string }) =>
    `${thousands(hadCount)} of ${total} groups ${hadCount === 1 ? "has its" : "have theirs"} already${days}; ${hadCount === 1 ? "it is" : "they are"} skipped.`,
  onlyWhereDidArriveBefore: ({ someCount, named }: { someCount: number; named: string }) =>
    `${thousands(someCount)} ${someCount === 1 ? "group gets" : "groups get"} it only where it did not arrive before: ${named}.`,
  againMarkedSentAgain: ({ againCount, days }: { againCount: number; days: string }) =>
    `${thousands(againCount)} ${againCount === 1 ? "group gets its" : "groups get theirs"} again, marked as sent again${days}.`,
};
