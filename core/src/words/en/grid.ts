export const grid = {
  cannotFindColumn: ({ name }: { name: string }) => `Cannot find the column \`${name}\`.`,
  cannotCompare: ({ column, value }: { column: string; value: string }) =>
    `Cannot compare ${column} with \`${value}\`.`,
  writeDate: ({ isDate }: { isDate: boolean }) =>
    isDate ? "Write the date as 2026-10-31." : "Write a number, such as 12.50.",
};
