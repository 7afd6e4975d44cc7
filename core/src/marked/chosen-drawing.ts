/** Pictures and charts that a mark in their alternative text chooses. */
import type { XmlElement } from "../ooxml/index.js";
import { parseMark } from "../template/index.js";
import { parseChart } from "./charts.js";
import { type ChartPiece, CODES, type PicturePiece } from "./template-nodes.js";

/** A drawing whose alternative text is nothing but a mark. */
export function chosenDrawing(
  drawing: XmlElement,
  description: string | undefined,
  around: string,
): PicturePiece | ChartPiece | undefined {
  const lone = /^\{\{((?:(?!\}\})[\s\S])*)\}\}$/.exec(description?.trim() ?? "");
  if (!lone) return undefined;
  const where = `${around}, picture`;
  const mark = lone[1].trim();
  if (drawing.descendants("chart").length > 0 && /^chart\s+[\p{L}_]/u.test(mark)) {
    return {
      kind: "chart",
      columns: parseChart(mark, where),
      source: mark,
      where,
      xml: drawing.toString(),
    };
  }
  if (drawing.descendants("blip").length === 0) return undefined;
  const code = CODES.find((one) => new RegExp(`^${one}\\s`).test(mark));
  const source = code === undefined ? mark : mark.slice(code.length).trimStart();
  const field = parseMark(source, where);
  return { kind: "picture", code, field, where, xml: drawing.toString() };
}
