/** Rows of a table that stand for lines. */

import { CorbixError } from "../common/index.js";
import type { Field } from "../expression/index.js";
import { unescapeXml, type XmlElement } from "../ooxml/index.js";
import { cutMarks, hasMarks, parseMark } from "../template/index.js";
import { say } from "../words/index.js";
import type { MarkedPart } from "./marked-part.js";

/** The lines for which a row stands: those of the fields in its own paragraphs, not in tables inside it. Throws `BAD_MARK` for two. */
export function linesOfRow(
  row: XmlElement,
  around: string,
  part: MarkedPart,
  missing: (field: Field) => readonly string[],
): string | undefined {
  // Lines of which columns repeat are current in their cells.
  const inColumns = new Set<string>();
  const visit = (element: XmlElement, where: string): string[] =>
    element.elements().flatMap((child) => {
      if (element === row && child.local === "corbix") {
        const { structure } = part.structure(child);
        if (structure.kind === "end") inColumns.clear();
        else if (structure.kind === "repeat" && structure.by === undefined) inColumns.add(structure.lines);
        return [];
      }
      if (child.local === "tbl" || !part.isTouched(child)) return [];
      const place = part.placeOf(child) ?? where;
      const marks =
        child.local === "t"
          ? child.text
          : child.local === "docPr" || child.local === "cNvPr"
            ? unescapeXml(child.attr("descr") ?? "")
            : "";
      const own = hasMarks(marks)
        ? cutMarks(marks, place).flatMap((piece) =>
            piece.kind === "mark" && !/^chart\s/.test(piece.source)
              ? missing(parseMark(piece.source.replace(/^(?:qr|barcode)\s+/, ""), place))
              : [],
          )
        : [];
      // What a structure inside the row repeats is no reason to repeat the row.
      const repeated = repeatedLines(child, part);
      return [...own, ...visit(child, place).filter((name) => !repeated.has(name))].filter(
        (name) => !inColumns.has(name),
      );
    });
  const [lines, other] = new Set(visit(row, around));
  if (other !== undefined)
    throw new CorbixError("BAD_MARK", say().document.cannotRepeatRowOnce({ lines, other }), {
      where: around,
      advice: say().document.giveEachRowOwnPut({ other }),
    });
  return lines;
}

function repeatedLines(element: XmlElement, part: MarkedPart): ReadonlySet<string> {
  return new Set(
    element.descendants("corbix").flatMap((marker) => {
      const { structure } = part.structure(marker);
      return structure.kind === "repeat" && structure.by === undefined ? [structure.lines] : [];
    }),
  );
}
