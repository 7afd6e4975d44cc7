import { escapeXml } from "../../ooxml/index.js";

/** Line ends and tabs inside a value become breaks and tabs of the run. */
export function runText(text: string, prefix: string): string {
  if (!/[\r\n\t]/.test(text)) return escapeXml(text);
  const close = `</${prefix}t>`;
  const open = `<${prefix}t xml:space="preserve">`;
  return escapeXml(text.replace(/\r\n?/g, "\n"))
    .replaceAll("\n", `${close}<${prefix}br/>${open}`)
    .replaceAll("\t", `${close}<${prefix}tab/>${open}`);
}
