/** Values whose text says what is **strong** and what is *emphasised*, as runs with those properties. */
import { runText } from "../template/run-text.js";

const MARKED = /\*\*(?=\S)([\s\S]*?\S)\*\*|\*(?=[^\s*])([\s\S]*?[^\s*])\*/g;

/** Text for the inside of a text element; changed properties end its run and begin another. */
export function inEmphasis(text: string, prefix: string, runProperties: string): string {
  let written = "";
  let from = 0;
  for (const match of text.matchAll(MARKED)) {
    written += runText(text.slice(from, match.index), prefix);
    const [sign, inner] = match[1] !== undefined ? ["b", match[1]] : ["i", match[2]];
    written +=
      nextRun(prefix, withSign(runProperties, prefix, sign)) + runText(inner, prefix) + nextRun(prefix, runProperties);
    from = match.index + match[0].length;
  }
  return written + runText(text.slice(from), prefix);
}

function nextRun(prefix: string, runProperties: string): string {
  return `</${prefix}t></${prefix}r><${prefix}r>${runProperties}<${prefix}t xml:space="preserve">`;
}

/** Run properties with bold or italic; they stand in the order of 17.3.2.28: style, fonts, bold, italic. */
function withSign(runProperties: string, prefix: string, sign: string): string {
  const element = `<${prefix}${sign}/>`;
  if (runProperties === "") return `<${prefix}rPr>${element}</${prefix}rPr>`;
  const bare = runProperties.replace(new RegExp(`<${prefix}${sign}(?:\\s[^>]*)?/>`), "");
  const before = new RegExp(
    `^<${prefix}rPr[^>]*>(?:<${prefix}rStyle[^>]*/>)?(?:<${prefix}rFonts[^>]*/>)?${sign === "i" ? `(?:<${prefix}bCs?[^>]*/>)*(?:<${prefix}b(?:\\s[^>]*)?/>)?(?:<${prefix}bCs[^>]*/>)?` : ""}`,
  ).exec(bare);
  const at = before?.[0].length ?? 0;
  return at === 0 ? `<${prefix}rPr>${element}</${prefix}rPr>` : bare.slice(0, at) + element + bare.slice(at);
}
