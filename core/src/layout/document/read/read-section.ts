/** Sections: ECMA-376 part 1, 17.6. */

import type { Relationship, XmlElement } from "../../../ooxml/index.js";
import type { Theme } from "../../../spreadsheet/index.js";
import { say } from "../../../words/index.js";
import type { PageSection } from "../../text/blocks.js";
import { readBorders, toggle, twips } from "../model/props.js";

/** Page size where a document names none: ISO 216 A4, in points. */
const PAPER = { width: 595.3, height: 841.9 };

export function readSection(
  element: XmlElement | undefined,
  relations: ReadonlyMap<string, Relationship>,
  theme: Theme,
  missing: (what: string) => void,
): PageSection {
  const size = element?.child("pgSz");
  const margins = element?.child("pgMar");
  const references = (kind: string): Record<string, string> =>
    Object.fromEntries(
      (element?.elements(kind) ?? []).map((reference) => [
        reference.attr("w:type") ?? "default",
        relations.get(reference.attr("r:id") ?? "")?.target ?? "",
      ]),
    );
  const margin = (name: string, standard: number): number => Math.abs(twips(margins?.attr(`w:${name}`)) ?? standard);
  const numbers = element?.child("pgNumType");
  if (element?.child("lnNumType")) missing(say().layout.numbersLines());
  const gutter = twips(margins?.attr("w:gutter")) ?? 0;
  const borders = element?.child("pgBorders");
  return {
    width: twips(size?.attr("w:w")) ?? PAPER.width,
    height: twips(size?.attr("w:h")) ?? PAPER.height,
    top: margin("top", 72),
    bottom: margin("bottom", 72),
    left: margin("left", 72) + gutter,
    right: margin("right", 72),
    header: margin("header", 36),
    footer: margin("footer", 36),
    headers: references("headerReference"),
    footers: references("footerReference"),
    titlePage: element ? (toggle(element, "titlePg") ?? false) : false,
    start: element?.child("type")?.attr("w:val") ?? "nextPage",
    firstPage: numbers?.attr("w:start") === undefined ? undefined : Number(numbers.attr("w:start")),
    numberFormat: numbers?.attr("w:fmt") ?? "decimal",
    columns: readColumns(element?.child("cols"), missing),
    vertical: element?.child("vAlign")?.attr("w:val") ?? "top",
    borders: borders && {
      fromPage: borders.attr("w:offsetFrom") === "page",
      display: borders.attr("w:display") ?? "allPages",
      lines: readBorders(borders, theme),
    },
  };
}

function readColumns(cols: XmlElement | undefined, missing: (what: string) => void): PageSection["columns"] {
  const own = cols?.elements("col") ?? [];
  const isEqual = cols?.attr("w:equalWidth") !== "0" && cols?.attr("w:equalWidth") !== "false";
  const count = Math.max(1, Number(cols?.attr("w:num") ?? (own.length || 1)));
  if (!isEqual && new Set(own.map((one) => one.attr("w:w"))).size > 1)
    missing(say().layout.columnsDifferentWidthsTheyWide());
  const space = isEqual ? cols?.attr("w:space") : own[0]?.attr("w:space");
  return { count, space: twips(space) ?? 36, line: cols ? (toggleAttribute(cols, "w:sep") ?? false) : false };
}

function toggleAttribute(element: XmlElement, name: string): boolean | undefined {
  const value = element.attr(name);
  return value === undefined ? undefined : value === "1" || value === "true" || value === "on";
}
