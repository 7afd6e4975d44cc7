/** Names that a template asks for and no column has, as problems tell them. */
const MISSING = /^Cannot find the (?:column|field|name) `([^`]+)`/;

export function missingNames(problems: readonly string[]): string[] {
  const names = problems.flatMap((one) => MISSING.exec(one)?.slice(1, 2) ?? []);
  // A further name such as `line.kunde` is a column of the rows all the same.
  return [...new Set(names.map((name) => name.replace(/^line\./, "")))];
}
