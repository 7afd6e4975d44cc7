import { thousands } from "./numbers.js";

export const split = {
  rowsCalledRowGroupEach: ({
    rowCount,
    label,
    rows,
    value,
  }: {
    rowCount: number;
    label: string;
    rows: string;
    value: string;
  }) => `${rowCount} rows are called "${label}" (row ${rows}${value}): a group for each row needs a name for each.`,
  nameRowsMoreColumnLeave: () => "Name the rows by one more column, leave doubles out, or split by these columns.",
  split: ({ by }: { by: string }) => `split by ${by}`,
  differentGroupsWouldCalledTheir: ({ ownCount, label, by }: { ownCount: number; label: string; by: string }) =>
    `${ownCount} different groups would be called "${label}": their columns (${by}) hold a " / " of their own. Nobody could be told which of them is whose.`,
  replaceSignPreparationReplaceSplit: () =>
    "Replace the sign in the preparation (replace), or split by a column that tells them apart.",
  alsoWrittenRowsPutTogether: ({ label, spellings }: { label: string; spellings: string }) =>
    `"${label}" is also written ${spellings}; the rows were put together.`,
  nothingDo: () => "Nothing to do.",
  twoGroupsButNearlySame: ({
    label,
    rows,
    label2,
    rows2,
    why,
  }: {
    label: string;
    rows: string;
    label2: string;
    rows2: string;
    why: string;
  }) => `"${label}" (${rows}) and "${label2}" (${rows2}) are two groups, but nearly the same: ${why}.`,
  ifTheyMergeThemDataset: () =>
    "If they are one, merge them in the dataset's groups, or correct the source, before anything is sent.",
  rowNobody: ({ count, by, rowNumbers, value }: { count: number; by: string; rowNumbers: string; value: string }) =>
    `${count === 1 ? "1 row has" : `${thousands(count)} rows have`} no ${by} (row ${rowNumbers}${value}); ${count === 1 ? "it belongs" : "they belong"} to nobody.`,
  fillThemSourceLeaveThem: () => "Fill them in the source, or leave them out on purpose in the report.",
  splitRow: ({ by }: { by: string }) => `split by row, ${by}`,
  theyDifferOnlyAccentsPunctuation: () => "they differ only by accents or punctuation",
  theyDifferLetter: () => "they differ by one letter",
  groups: ({ by }: { by: string }) => `groups by ${by}`,
  nobodyReceive: ({ plural }: { plural: string }) => `Nobody to receive for ${plural}`,
  addThemRecipientListLeave: () => "Add them to the recipient list, or leave them out on purpose.",
  newSinceEditionBefore: ({ plural }: { plural: string }) => `New since the edition before, ${plural}`,
  lookWhetherTheyRightThey: () => "Look whether they are right; they join by themselves.",
  rowsAnyMoreEditionBefore: ({ plural }: { plural: string }) => `No rows any more, ${plural} of the edition before`,
  lookWhetherRight: () => "Look whether that is right.",
};
