import { relationshipsName } from "../../ooxml/index.js";
import type { Workbook } from "../../spreadsheet/index.js";

/**
 * The calculation chain lists formula cells in order; where rows moved it goes, and programs make it anew (18.6).
 * Gives the parts that change.
 */
export function dropCalculationChain(workbook: Workbook): Map<string, string | null> {
  const opened = workbook.package;
  const chain = opened.relationships(workbook.part).find((relation) => relation.type === "calcChain");
  if (!chain) return new Map();
  const relations = relationshipsName(workbook.part);
  const override = new RegExp(`<Override\\b[^>]*PartName=["']/${chain.target.replace(/[.]/g, "\\.")}["'][^>]*/>`);
  return new Map([
    [chain.target, null],
    [relations, opened.getText(relations).replace(/<Relationship\b[^>]*\/calcChain["'][^>]*\/>/, "")],
    ["[Content_Types].xml", opened.getText("[Content_Types].xml").replace(override, "")],
  ]);
}
