/** Cutting of texts at marks, any of several. */

/** Where marks stand in a text, each behind the one before: begin and end. */
export function marksIn(text: string, marks: readonly string[], ignoresCase = false): { from: number; to: number }[] {
  const fold = (value: string): string => (ignoresCase ? value.toLowerCase() : value);
  const source = fold(text);
  const wanted = marks.map(fold).sort((a, b) => b.length - a.length);
  const found: { from: number; to: number }[] = [];
  for (let at = 0; at < source.length; ) {
    const mark = wanted.find((one) => source.startsWith(one, at));
    if (mark === undefined) at++;
    else {
      found.push({ from: at, to: at + mark.length });
      at += mark.length;
    }
  }
  return found;
}

export function cutByMarks(text: string, marks: readonly string[], ignoresCase = false): string[] {
  if (marks.length === 0) return [text];
  const parts: string[] = [];
  let from = 0;
  for (const mark of marksIn(text, marks, ignoresCase)) {
    parts.push(text.slice(from, mark.from));
    from = mark.to;
  }
  parts.push(text.slice(from));
  return parts;
}
