export const formula = {
  cell: ({ kind }: { kind: string }) => `CELL of "${kind}"`,
  info: ({ kind }: { kind: string }) => `INFO of "${kind}"`,
  functionText: ({ plainName }: { plainName: string }) => `the function ${plainName}`,
  functionWithoutLambda: ({ name }: { name: string }) => `the function ${name} without a LAMBDA`,
  letWithoutName: () => "a LET without a name",
  functionNamed: ({ name }: { name: string }) => `the function ${name || "without a name"}`,
  operator: ({ operator }: { operator: string }) => `the operator ${operator}`,
  tableReference: ({ value }: { value: string }) => `the table reference ${value}`,
  reference: ({ value }: { value: string }) => `the reference ${value}`,
  referenceAcross: ({ from, to, rest }: { from: string; to: string; rest: string }) =>
    `the reference ${from}:${to}!${rest}`,
  formulaCannotRead: () => "a formula that cannot be read",
  partCannotRead: () => "a part that cannot be read",
};
