/** A table of the lines as a page of HTML that stands alone. */
import { bytesFromText } from "../common/index.js";
import type { Env } from "../expression/index.js";
import { escapeXml } from "../ooxml/index.js";
import type { Cell } from "../table/index.js";
import { type ListColumn, readableText, rowsOf, type ShownLines } from "./columns.js";
import type { WrittenText } from "./delimited.js";

export function writeHtml(shown: ShownLines, env: Env, title: string): WrittenText {
  const { columns } = shown;
  const cell = (value: Cell, column: ListColumn): string =>
    `<td${typeof value === "number" && column.info.type === "number" ? ' class="n"' : ""}>${escapeXml(readableText(value, column, env.locale))}</td>`;
  const rows: string[] = [];
  for (const { cells } of rowsOf(shown, env))
    rows.push(`<tr>${cells.map((value, at) => cell(value, columns[at])).join("")}</tr>`);
  const heads = columns.map((one) => `<th scope="col">${escapeXml(one.heading)}</th>`).join("");
  const text = `<!doctype html>
<html lang="${escapeXml(env.locale)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${escapeXml(title)}</title>
<style>
body { font: 14px/1.45 system-ui, sans-serif; margin: 1.5rem; color: #1c2321; }
table { border-collapse: collapse; }
caption { text-align: left; font-weight: 600; font-size: 1.1rem; padding-bottom: 0.5rem; }
th { text-align: left; background: #2f6b57; color: #fff; }
th, td { border: 1px solid #c9cfcc; padding: 0.25rem 0.6rem; vertical-align: top; }
.n { text-align: right; font-variant-numeric: tabular-nums; }
@media print { thead { display: table-header-group; } tr { break-inside: avoid; } }
</style>
</head>
<body>
<table>
<caption>${escapeXml(title)}</caption>
<thead><tr>${heads}</tr></thead>
<tbody>
${rows.join("\n")}
</tbody>
</table>
</body>
</html>
`;
  return { bytes: bytesFromText(text), text, findings: [] };
}
