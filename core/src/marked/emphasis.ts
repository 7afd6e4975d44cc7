/** Values whose text says what is **strong** and what is *emphasised*, as runs with those properties. */
import type { Dialect } from "./dialect.js";

const MARKED = /\*\*(?=\S)([\s\S]*?\S)\*\*|\*(?=[^\s*])([\s\S]*?[^\s*])\*/g;

/** Text for the inside of a text element; changed properties end its run and begin another. */
export function inEmphasis(text: string, prefix: string, runProperties: string, dialect: Dialect): string {
  const { runText, withSign } = dialect;
  const nextRun = (properties: string): string =>
    `</${prefix}t></${prefix}r><${prefix}r>${properties}${dialect.openText(`${prefix}t`)}`;
  let written = "";
  let from = 0;
  for (const match of text.matchAll(MARKED)) {
    written += runText(text.slice(from, match.index), prefix, runProperties);
    const [sign, inner] = match[1] !== undefined ? (["b", match[1]] as const) : (["i", match[2]] as const);
    const changed = withSign(runProperties, prefix, sign);
    written += nextRun(changed) + runText(inner, prefix, changed) + nextRun(runProperties);
    from = match.index + match[0].length;
  }
  return written + runText(text.slice(from), prefix, runProperties);
}
