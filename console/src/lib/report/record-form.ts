/** A record as it is sent, made of the lines of a form. */
type Line = Readonly<Record<string, string>>;

/** What all lines have alike belongs to the record, the rest to its lines, under the name the report gives them. */
export function recordOf(lines: readonly Line[], name = "lines"): Record<string, unknown> {
  const filled = lines.map(
    (line) => Object.fromEntries(Object.entries(line).filter(([, value]) => value.trim() !== "")) as Line,
  );
  const [first] = filled;
  if (!first || filled.length === 1) return { ...first };
  const names = [...new Set(filled.flatMap((line) => Object.keys(line)))];
  const shared = names.filter((one) => filled.every((line) => line[one] === first[one]));
  const own = names.filter((one) => !shared.includes(one));
  const pick = (line: Line, wanted: readonly string[]) =>
    Object.fromEntries(wanted.flatMap((one) => (line[one] === undefined ? [] : [[one, line[one]]])));
  return { ...pick(first, shared), [name]: filled.map((line) => pick(line, own)) };
}
