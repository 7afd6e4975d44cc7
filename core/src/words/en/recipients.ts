export const recipients = {
  mailAddress: ({ written, why }: { written: string; why: string }) => `"${written}" is no mail address: ${why}.`,
  correctWriteSeveralSemicolonBetween: () => "Correct it; write several with a semicolon between them.",
  holdsColon: () => "it holds a colon",
  standsRowAlready: ({ address, group, row }: { address: string; group: string; row: number }) =>
    `${address} stands for "${group}" in row ${row} already.`,
  getsMessageAllSameStronger: () => "It gets one message all the same, in the stronger of its roles. Take one out.",
  domainMixesLettersTwoAlphabets: ({ address }: { address: string }) =>
    `The domain of ${address} mixes letters of two alphabets, as forged ones do.`,
  askOwnerTypeAnew: () => "Ask its owner, and type it anew.",
  domainLooksLikeListUses: ({ address, model }: { address: string; model: string }) =>
    `The domain of ${address} looks like ${model}, which the list uses more often.`,
  seeWhetherSpelledRight: () => "See whether it is spelled right.",
  onlyDomainOthersWhoReceive: ({ address, group, home }: { address: string; group: string; home: string }) =>
    `${address} is the only one of its domain; the others who receive for "${group}" are at ${home}.`,
  seeWhetherPersonMeantReceive: () => "See whether this person is meant to receive.",
  listColumn: ({ kind }: { kind: string }) =>
    `The list has no column for the ${kind === "group" ? "group" : "addresses"}.`,
  callLike: ({ listColumns }: { listColumns: string }) => `Call it ${listColumns} or the like.`,
  standsGroup: ({ who }: { who: string }) => `"${who}" stands for no group.`,
  fillGroupAll: () => "Fill in the group, or * for all.",
  addressCanUsed: ({ cell }: { cell: string }) => `"${cell}" has no address that can be used.`,
  fillAddress: () => "Fill in an address.",
  roleLeftOut: ({ cell, who }: { cell: string; who: string }) => `"${cell}" is no role; "${who}" is left out.`,
  writeCopyBlindCopy: () => "Write to, copy or blind copy.",
  dateRowCountsActive: ({ value }: { value: string }) => `"${value}" is no date; the row counts as active.`,
  write: () => "Write it as 2026-11-02.",
  fileCannotReadVcards: ({ wordsOf }: { wordsOf: string }) => `The file cannot be read as vCards: ${wordsOf}.`,
  exportPeopleAgainVcards: () => "Export the people again as vCards.",
  noAddressFor: ({ addresses, person, group }: { addresses: number; person: string; group: string }) =>
    addresses === 0 ? `"${person}" has no address that can be used.` : `"${group}" stands for no group.`,
  giveCardEmail: ({ toCount }: { toCount: number }) =>
    toCount === 0 ? "Give the card an EMAIL." : "Give the card the group as a category, or add it in the list.",
  rowsLookUpList: ({ by }: { by: string }) => `its rows have no ${by} to look up in the list`,
  groupColumn: ({ label, by }: { label: string; by: string }) => `group ${label}, column ${by}`,
  rowsValuesPeopleFoundThem: ({
    label,
    valueCount,
    by,
    shownFew,
  }: {
    label: string;
    valueCount: number;
    by: string;
    shownFew: string;
  }) =>
    `The rows of "${label}" have ${valueCount} values of ${by}: ${shownFew}. People found by one of them would get rows of the others.`,
  splitWellLookPeopleUp: ({ by }: { by: string }) => `Split by ${by} as well, or look the people up by the group.`,
  rowsSeveralValues: ({ by }: { by: string }) => `its rows have several values of ${by}`,
  deliveryInstead: () => "delivery, instead",
  somebodyReceivesPlaceListRows: ({ group }: { group: string }) =>
    `Somebody receives in place of the list for "${group}", which has no rows this time.`,
  nobodyReceivesSinceFilesMade: ({ label, rowCount, why }: { label: string; rowCount: number; why: string }) =>
    `Nobody receives for "${label}" (${rowCount} ${rowCount === 1 ? "row" : "rows"}), since ${why}: its files are made, but nothing is sent.`,
  addRecipientListThenPlan: () => "Add a recipient for it to the list, then plan again.",
  recipientListRow: ({ row }: { row: number }) => `recipient list, row ${row}`,
  receivesRowsTime: ({ name, group }: { name: string; group: string }) =>
    `"${name}" receives for "${group}", which has no rows this time.`,
  nothingSentIfShouldRows: ({ near }: { near: undefined | string }) =>
    near === undefined
      ? "Nothing is sent. If there should be rows, look at the spelling."
      : `Nothing is sent. Nobody receives for "${near}": if it is the same, correct the list or merge the spellings.`,
  standsTwiceGetsMessage: ({ address, label, names }: { address: string; label: string; names: string }) =>
    `${address} stands twice for "${label}" (${names}). It gets one message.`,
  takeEntriesOutList: () => "Take one of the entries out of the list.",
  reportNamesAddressCanUsed: () => "the report names no address that can be used for it",
  reportNamesNone: () => "the report names no address that can be used",
  rowListStandsAllGroups: ({
    key,
    allGroups,
    row,
    group,
    column,
  }: {
    key: string;
    allGroups: string;
    row: number;
    group: string;
    column: undefined | string;
  }) =>
    key === allGroups
      ? `row ${row} of the list stands for all groups`
      : `row ${row} of the list stands for "${group}"${column === undefined ? "" : `, the ${column} of its rows`}`,
  rowListNames: ({
    missing,
    reasonCount,
    reasons,
    value,
    column,
  }: {
    missing: string;
    reasonCount: number;
    reasons: string;
    value: undefined | string;
    column: undefined | string;
  }) =>
    `${missing}${reasonCount > 0 ? reasons : `no row of the list names ${value === undefined ? "it" : `"${value}", the ${column} of its rows`}`}`,
  rowsNameAddressesAllThem: ({
    label,
    differentCount,
    to,
    value,
  }: {
    label: string;
    differentCount: number;
    to: string;
    value: string;
  }) => `The rows of "${label}" name ${differentCount} addresses: ${to}${value}. All of them get its rows.`,
  ifTheyDifferentPeopleS: () =>
    "If they are different people's rows, split by the person; if one is wrong, correct it.",
  nameBefore: () => "it has no @ with a name before it",
  nameMailbox: ({ local }: { local: string }) => `"${local}" is no name of a mailbox`,
  nameLongerBytes: ({ longestLocal }: { longestLocal: number }) => `its name is longer than ${longestLocal} bytes`,
  domain: () => "it has no domain",
  namesMachineDomain: () => "it names a machine, not a domain",
  noDomain: ({ domain }: { domain: string }) => `"${domain}" is no domain`,
  dot: ({ domain }: { domain: string }) => `"${domain}" has no dot`,
  endsNumber: ({ domain }: { domain: string }) => `"${domain}" ends with a number`,
  longerBytes: ({ longest }: { longest: number }) => `it is longer than ${longest} bytes`,
  twoAddressesStandTogether: () => "two addresses stand together",
  card: ({ where, index }: { where: string; index: number }) => `${where}, card ${index}`,
  onlyPeopleWhoGetCopies: () => "there are only people who get copies",
  and: ({ before, name }: { before: string; name: string }) => (before === name ? name : `${before} and ${name}`),
  rowNamed: ({ row, name }: { row: number; name: string }) => `row ${row} ("${name}")`,
  datasetOnly: ({ row, dataset }: { row: string; dataset: string }) => `${row} is for the dataset ${dataset} only`,
  neverSent: () => "is never to be sent to",
  active: ({ isoFromSerial }: { isoFromSerial: string }) => `is active from ${isoFromSerial} on`,
  activeUntil: ({ isoFromSerial }: { isoFromSerial: string }) => `was active until ${isoFromSerial}`,
  has: ({ row, own, field }: { row: string; own: string; field: string }) =>
    `${row} has ${own === "" ? "no" : `"${own}" as`} ${field}`,
  reportInstead: ({ label }: { label: string }) => `report, instead for ${label}`,
  groupAndColumn: ({ label, column }: { label: string; column: string }) => `group ${label}, column ${column}`,
  columnForCopies: ({ column }: { column: string }) => `the column ${column} of its rows holds the address for a copy`,
  columnHoldsAddress: ({ column }: { column: string }) => `the column ${column} holds no address for it and `,
};
