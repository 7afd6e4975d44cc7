export const pdf = {
  cannotPutPdfOthers: ({ why }: { why: string }) => `Cannot put the PDF with others: ${why}.`,
  printItself: () => "Print it by itself.",
  writtenHere: () => "it was not written here",
  passwordProtects: () => "a password protects it",
  objectBroken: () => "an object of it is broken",
  streamLength: () => "a stream of it has no length",
};
