/** Pictures and charts of a document that a mark in their alternative text chooses. */
import type { XmlElement } from "../../ooxml/index.js";
import { parseMark } from "../../template/index.js";
import { parseChart } from "../fill/charts.js";
import { CODES, type TemplateNode } from "./template-nodes.js";

export type PictureNode = Extract<TemplateNode, { readonly kind: "picture" | "chart" }>;

/** A picture whose alternative text is nothing but a mark. */
export function pictureNode(drawing: XmlElement, around: string): PictureNode | undefined {
  const about = drawing.descendants("docPr")[0];
  const text = about?.attr("descr")?.trim() ?? "";
  const lone = /^\{\{((?:(?!\}\})[\s\S])*)\}\}$/.exec(text);
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
