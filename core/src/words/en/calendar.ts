export const calendar = {
  cannotReadExpectedSomethingLike: ({ key, kind, examples }: { key: string; kind: string; examples: string }) =>
    `Cannot read \`${key}\` as a ${kind}, expected something like ${examples}.`,
  cannotReadExpectedTime: ({ at }: { at: string }) => `Cannot read \`${at}\` for \`at\`, expected a time.`,
  writeTime: () => "Write it as 07:15.",
  cannotFindTimeZone: ({ zone }: { zone: string }) => `Cannot find the time zone \`${zone}\`.`,
  writeNameIanaListSuch: () => "Write a name of the IANA list, such as Europe/Zurich.",
  cannotReadExpectedDate: ({ from }: { from: string }) => `Cannot read \`${from}\` for \`from\`, expected a date.`,
  writeDate: () => "Write it as 2026-01-31.",
  cannotReadRecurrenceRule: ({ rule, wordsOf }: { rule: string; wordsOf: string }) =>
    `Cannot read the recurrence rule \`${rule}\`: ${wordsOf}.`,
  writeIcalendarRfcSuchFreq: () => "Write it as in iCalendar (RFC 5545), such as FREQ=WEEKLY;BYDAY=TH.",
};
