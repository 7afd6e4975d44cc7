/** Lines that went and came between two texts, in their order (by their longest common part). */
export interface ChangedLine {
  readonly kind: "gone" | "added";
  readonly text: string;
}

export function differenceOf(before: string, after: string): ChangedLine[] {
  const [a, b] = [before.split("\n"), after.split("\n")];
  // How many lines are common from each place on.
  const common = Array.from({ length: a.length + 1 }, () => new Uint32Array(b.length + 1));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      common[i][j] = a[i] === b[j] ? common[i + 1][j + 1] + 1 : Math.max(common[i + 1][j], common[i][j + 1]);
  const found: ChangedLine[] = [];
  let [i, j] = [0, 0];
  while (i < a.length || j < b.length) {
    if (i < a.length && j < b.length && a[i] === b[j]) {
      i++;
      j++;
    } else if (i < a.length && (j >= b.length || common[i + 1][j] >= common[i][j + 1]))
      found.push({ kind: "gone", text: a[i++] });
    else found.push({ kind: "added", text: b[j++] });
  }
  return found;
}
