export const serviceOutbox = {
  pageAnyMore: () => "This page is not there, or not any more.",
  askOfficeSentYouLink: () => "Ask the office that sent you the link.",
  cannotFindMessage: ({ id }: { id: string }) => `Cannot find message ${id}.`,
  cannotDecideMessageArrivedServer: ({ as, state }: { as: string; state: string }) =>
    as === "arrived" && state === "refused"
      ? "Cannot decide that this message arrived: the server refused it."
      : `Cannot decide this message: it is neither unsure nor refused, but ${state}.`,
  message: ({ id }: { id: string }) => `message ${id}`,
  cannotSendMessageRunNever: ({ state }: { state: string }) =>
    `Cannot send this message: its run was never released, it is ${state}.`,
  releaseRun: ({ state }: { state: string }) =>
    state === "held" ? "Release the run." : "Run again, and release that.",
  cannotSendMessageLeftOut: () =>
    "Cannot send this message: it was left out when the run was released, and two people have to release it.",
  runAgainGroupRelease: () => "Run again for this group, and release that.",
  cannotSendMessageRunBroken: ({ message }: { message: string }) =>
    `Cannot send this message: its run was broken off. ${message}`,
  runAgain: () => "Run again.",
  cannotSendMessageRun: ({ state }: { state: string }) => `Cannot send this message: its run is ${state}.`,
  cannotSendMessageAgain: ({ why }: { why: string }) => `Cannot send this message again: ${why}.`,
  rehearsalS: () => "it is a rehearsal's",
  rehearsalStartedAnew: () => "A rehearsal is started anew.",
  textDeletedWhenTimeOver: () => "its text was deleted when its time was over",
  runAgainGroup: () => "Run again for its group.",
  itIs: ({ state }: { state: string }) => `it is ${state === "unsure" ? "unsure" : "still on its way"}`,
  decideUnsureFirstWayGoes: () => "Decide what is unsure first; what is on its way goes by itself.",
  anotherGroupMessage: ({ id, state }: { id: string; state: string }) =>
    `another of its group, message ${id}, is ${state}`,
  seeBecomesFirst: () => "See what becomes of that one first.",
  cannotSendPlace: ({ to, address, why }: { to: string; address: string; why: string }) =>
    `Cannot send to ${to} in place of ${address}: ${why}.`,
  addressNoneDidReach: () => "that address is none that it did not reach",
  correctOnlyAddressesRefused: () => "Correct only addresses that refused it.",
  correctAddress: () => "Correct the address.",
  addDomainIdentity: () => "Add the domain to the identity.",
  cannotLeaveTheseGroupsOut: () => "Cannot leave these groups out: none of them has a message that waits.",
  cannotRun: ({ paused }: { paused: boolean }) =>
    `Cannot ${paused ? "pause" : "resume"} the run: it is not ${paused ? "delivering" : "paused"}.`,
  cannotReadReportDeliveryDelivery: () => "Cannot read this as a report of delivery: it has no delivery status.",
  handReportCameAttachments: () => "Hand on the report as it came, with its attachments.",
  cannotSendMessageBytesIdentity: ({
    rawCount,
    name,
    maxBytes,
  }: {
    rawCount: number;
    name: string;
    maxBytes: number;
  }) => `Cannot send the message: it has ${rawCount} bytes, and the identity \`${name}\` sends at most ${maxBytes}.`,
  makeFilesSmallerLetIdentity: () => "Make the files smaller, or let the identity send links.",
  cannotSendIdentityMaySend: ({ address, domains }: { address: string; domains: string }) =>
    `Cannot send to ${address}: the identity may send to ${domains} only.`,
  correctAddressAddDomainIdentity: () => "Correct the address, or add the domain to the identity.",
  cannotAttachEmpty: ({ path }: { path: string }) => `Cannot attach "${path}": it is empty.`,
  cannotShowPictureRunSuch: ({ name }: { name: string }) =>
    `Cannot show the picture "${name}": the run has no such file.`,
  cannotSendIdentityMay: ({ wanted, name }: { wanted: string; name: string }) =>
    `Cannot send as ${wanted}: the identity \`${name}\` may not.`,
  addAddressIdentitySSenders: () => "Add the address to the identity's senders, or take it out of the report.",
  cannotAttachMade: ({ path }: { path: string }) => `Cannot attach "${path}": it was not made.`,
  cannotAttachMessageMadeOther: ({ name, label }: { name: string; label: string }) =>
    `Cannot attach "${name}" to the message of "${label}": it was made of other rows or for another group.`,
  runGroup: ({ id, label }: { id: string; label: string }) => `run ${id}, group ${label}`,
  runStoppedNothingWentOut: () =>
    "The run was stopped. Nothing went out with this file. Tell whoever looks after the service.",
  cannotShowMessageDeletedWhen: () => "Cannot show the message: it was deleted when its time was over.",
  reportSaysRetentionHowLong: () => "Its report says in its retention how long messages are kept.",
  notFor: ({ taken, leftCount, left }: { taken: boolean; leftCount: number; left: string }) =>
    taken && leftCount > 0 ? `; not for ${left}` : "",
  decided: ({ by, as, value }: { by: string; as: string; value: string }) =>
    `decided by ${by}: ${as === "arrived" ? "it arrived" : "send it again"}${value}`,
  place: ({ to, address }: { to: string; address: string }) => `${to} in place of ${address}`,
  goAfterAllSaid: ({ value, by, reason }: { value: string; by: string; reason: string }) =>
    `to go after all${value}, said ${by}: ${reason}`,
  leftOut: ({ by, reason }: { by: string; reason: string }) => `left out by ${by}: ${reason}`,
  cameBack: ({ address, words }: { address: string; words: string }) => `came back from ${address}: ${words}`,
  runStopped: () => "the run was stopped",
  somethingWentWrong: ({ error }: { error: string }) => `Something went wrong: ${error}`,
  byRun: ({ run, day }: { run: string; day: string }) => ` by run ${run} on ${day}`,
  rowWentOutGroupAlready: ({ hasRows, when }: { hasRows: boolean; when: string }) =>
    hasRows
      ? "a row of it went out to this group already; run again without it, or say again with a reason"
      : `delivered already${when}; say again with a reason to repeat it`,
  beginningNotHeard: () => "the database wrote down its beginning and could not say so: nothing of it went out",
};
