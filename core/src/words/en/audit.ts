export const audit = {
  title: ({ run, title, period }: { run: string; title: string; period: string }) => `Run ${run}: ${title}, ${period}`,
  madeAt: ({ at, by }: { at: string; by: string }) => `Made ${at} for ${by}. All times are UTC; digests are SHA-256.`,
  madeFrom: () => "What it was made from",
  report: () => "Report",
  versionBy: ({ name, number, by, at }: { name: string; number: number; by: string; at: string }) =>
    `${name}, version ${number}, saved by ${by}, ${at}`,
  savedNote: ({ note }: { note: string }) => `Why: ${note}`,
  data: () => "Data",
  editionBy: (one: {
    name: string;
    number: number;
    origin: string;
    rows: number;
    by: string;
    at: string;
    sha256: string;
  }) =>
    `${one.name}, edition ${one.number}: ${one.origin}, ${one.rows} ${one.rows === 1 ? "row" : "rows"}, loaded by ${one.by}, ${one.at}\n${one.sha256}`,
  recipients: () => "Recipients",
  listBy: (one: { origin: string; by: string; at: string; sha256: string }) =>
    `${one.origin}, by ${one.by}, ${one.at}\n${one.sha256}`,
  template: ({ name }: { name: string }) => `Template ${name}`,
  templateBy: (one: { number: number; by: string; at: string; sha256: string }) =>
    `version ${one.number}, by ${one.by}, ${one.at}\n${one.sha256}`,
  who: () => "Who prepared it and who let it go",
  started: () => "Started",
  released: () => "Released",
  finished: () => "Finished",
  notYet: () => "not yet",
  byAt: ({ by, at }: { by: string; at: string }) => `by ${by}, ${at}`,
  rehearsal: ({ to }: { to: string }) => `A rehearsal: everything went to ${to} only.`,
  approvalBy: () => "Approval",
  approvalOf: (one: { by: string; at: string; groups: number | null; digest: string | null }) =>
    `by ${one.by}, ${one.at}, ${one.groups === null ? "for all groups" : `for ${one.groups} ${one.groups === 1 ? "group" : "groups"}`}${one.digest === null ? "" : `\nof ${one.digest}`}`,
  approvalsWanted: ({ count, apart }: { count: number; apart: boolean }) =>
    `${count === 1 ? "One person lets it go" : `${count} different people let it go`}${apart ? ", none of whom started it or saved the report last" : ""}.`,
  held: () => "Approvals wanted",
  proof: () => "What was proved",
  noProof: () => "Nothing was proved: the run has not come so far.",
  proofDigest: () => "Digest of the proof",
  severity: ({ severity }: { severity: string }) => severity,
  finding: () => "Finding",
  kind: () => "Kind",
  where: () => "Where",
  deeds: () => "What was done, as the trail has it",
  at: () => "When",
  by: () => "Who",
  deed: () => "What",
  entry: () => "Entry and its digest",
  trailWhole: ({ entries, head }: { entries: number; head: string }) =>
    `The trail was gone through: all ${entries} entries are what was written, up to ${head}.`,
  trailBroken: ({ at }: { at: string }) =>
    `The trail was gone through: entry ${at} is not what was written, and what stands behind it is not to be relied upon.`,
  whatWent: () => "What went to whom",
  counted: ({ messages, delivered }: { messages: number; delivered: number }) =>
    `${messages} ${messages === 1 ? "message" : "messages"}, of which ${delivered} ${delivered === 1 ? "was" : "were"} handed over.`,
  number: () => "No.",
  group: () => "Group",
  to: () => "To",
  became: () => "What became of it",
  files: () => "Message and files with their digests",
  state: ({ state }: { state: string }) => state,
  cc: ({ addresses }: { addresses: string }) => `copy: ${addresses}`,
  bcc: ({ addresses }: { addresses: string }) => `blind copy: ${addresses}`,
  way: ({ way }: { way: string }) => `by ${way}`,
  message: () => "the message",
  leftOut: () => "left out",
  noMessage: () => "no message",
  again: ({ number, why }: { number: number; why: string }) => `sent again (${number}): ${why}`,
};
