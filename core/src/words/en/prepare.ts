export const prepare = {
  cannotFindColumn: ({ name }: { name: string }) => `Cannot find the column \`${name}\`.`,
  cannotAddColumnNameAlready: ({ name }: { name: string }) =>
    `Cannot add the column \`${name}\`: there is one of this name already.`,
  chooseAnotherName: () => "Choose another name.",
  cannotFindDataset: ({ name }: { name: string }) => `Cannot find the dataset \`${name}\`.`,
  keysPartner: ({
    missingCount,
    from,
    listed,
    partner,
  }: {
    missingCount: number;
    from: string;
    listed: string;
    partner: string;
  }) =>
    `${missingCount} keys have no partner in ${from}: ${listed}. ${partner === "needed" ? "Their rows were left out." : "Their brought columns stay blank."}`,
  addThemCorrectKey: ({ from }: { from: string }) => `Add them to ${from}, or correct the key.`,
  keysStandMoreOnceFirst: ({ doubleCount, from, listed }: { doubleCount: number; from: string; listed: string }) =>
    `${doubleCount} keys stand more than once in ${from}: ${listed}. The first was taken.`,
  makeKeyUnique: ({ from }: { from: string }) => `Make the key unique in ${from}.`,
  replace: ({ name }: { name: string }) => `replace in ${name}`,
  listedValuesDoOccur: ({ unusedCount, listed }: { unusedCount: number; listed: string }) =>
    `${unusedCount} of the listed values do not occur: ${listed}.`,
  nothingDoUnlessTheyExpected: () => "Nothing to do, unless they were expected.",
  cannotReplaceMissing: ({ from, field }: { from: undefined | string; field: string }) =>
    `Cannot replace from \`${from}\`: \`${field}\` is missing.`,
  replaceColumn: ({ column }: { column: string }) => `replace, ${column}`,
  nameColumnValuesTheyStand: () =>
    "Name the column of the values as they stand (match) and of what they become (take).",
  cannotReplaceValuesList: () => "Cannot replace values: there is no list.",
  giveListDatasetMatchTake: () => "Give a list, or a dataset (from, match, take).",
  step: ({ at, where }: { at: number; where: string }) => `step ${at}, ${where}`,
  bringMatch: ({ from }: { from: string }) => `bring from ${from}, match`,
  bringColumns: ({ from }: { from: string }) => `bring from ${from}, columns`,
  withoutPartner: ({ from }: { from: string }) => `without a partner in ${from}`,
  bring: ({ from }: { from: string }) => `bring from ${from}`,
  replaceMatch: ({ from }: { from: string }) => `replace from ${from}, match`,
  replaceTake: ({ from }: { from: string }) => `replace from ${from}, take`,
  replaceFrom: ({ from }: { from: string }) => `replace from ${from}`,
  without: ({ name }: { name: string }) => `without ${name}`,
  is: ({ name, text }: { name: string; text: string }) => `${name} is "${text}"`,
  isNot: ({ name, text }: { name: string; text: string }) => `${name} is not "${text}"`,
  not: ({ name, op, text }: { name: string; op: string; text: string }) => `${name} not ${op} ${text}`,
  isOneOf: ({
    isNegated,
    name,
    wanted,
    wantedCount,
  }: {
    isNegated: boolean;
    name: string;
    wanted: string;
    wantedCount: number;
  }) => (isNegated ? `${name} is one of ${wanted}` : `${name} is ${wantedCount === 1 ? "not" : "none of"} ${wanted}`),
  notTrue: ({ writeExpression }: { writeExpression: string }) => `not ${writeExpression}`,
  nothingStack: () => "nothing to stack",
  notThePer: ({ which, per }: { which: string; per: string }) => `not the ${which} per ${per}`,
  sameRowStandsAbove: ({ specCount, spec }: { specCount: number; spec: string }) =>
    specCount === 0 ? "the same row stands above" : `a double by ${spec}`,
  from: ({ columns, from }: { columns: string; from: string }) => `${columns} from ${from}`,
  asAnd: ({ columns, name, value }: { columns: string; name: string; value: string }) =>
    `${columns} as ${name} and ${value}`,
  values: ({ from, keyCount, column }: { from: undefined | string; keyCount: number; column: string }) =>
    from === undefined ? `${keyCount} values of ${column}` : `values of ${column} by ${from}`,
  wholeRows: () => "whole rows",
  perBy: ({ per, by }: { per: string; by: string | undefined }) => `per ${per}${by === undefined ? "" : `, by ${by}`}`,
};
