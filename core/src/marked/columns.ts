/** Columns of a table that repeat: a mark in one of their cells stands for all rows and for the grid. */
import { CorbixError } from "../common/index.js";
import { XmlElement, type XmlNode } from "../ooxml/index.js";
import { say } from "../words/index.js";
import type { PlacedStructure, PreparedPart } from "./prepare-part.js";
import { unended } from "./unmatched-marks.js";

/** The part with the marks of its tables' columns put around the cells of each row. Throws `BAD_MARK`. */
export function withColumns(part: PreparedPart): PreparedPart {
  return { ...part, root: new Columns(part).element(part.root) };
}

interface Repeated {
  readonly opening: XmlElement;
  readonly ending: XmlElement;
  readonly from: number;
  readonly to: number;
}

class Columns {
  constructor(private readonly part: PreparedPart) {}

  element(element: XmlElement): XmlElement {
    if (element.local === "tbl") return this.table(element);
    let changed = false;
    const children = element.children.map((child): XmlNode => {
      if (child.kind !== "element") return child;
      const made = this.element(child);
      if (made !== child) changed = true;
      return made;
    });
    return changed ? this.like(element, children) : element;
  }

  private like(element: XmlElement, children: readonly XmlNode[]): XmlElement {
    const made = element.withChildren(children);
    const place = this.part.places.get(element);
    if (place !== undefined) this.part.places.set(made, place);
    return made;
  }

  private placed(marker: XmlElement): PlacedStructure | undefined {
    return this.part.structures.get(marker);
  }

  private table(table: XmlElement): XmlElement {
    const found = table.elements("tr").flatMap((row) => this.inRow(row));
    if (found.length === 0) return table;
    if (found.length > 1) {
      const second = this.placed(found[1].opening);
      throw new CorbixError(
        "BAD_MARK",
        say().document.cannotRepeatColumnsTwice({ source: second?.structure.source ?? "" }),
        {
          where: second?.where ?? "",
          advice: say().document.repeatColumnsOnceTable(),
        },
      );
    }
    const [one] = found;
    const gone = new Set([one.opening, one.ending]);
    return this.like(
      table,
      table.children.map((child) => {
        if (child.kind !== "element") return child;
        if (child.local === "tblGrid") return this.around(child, "gridCol", one);
        return child.local === "tr" ? this.around(this.without(child, gone), "tc", one) : child;
      }),
    );
  }

  /** The marks of a row's cells that say that columns repeat, with the columns from the one to the other. */
  private inRow(row: XmlElement): Repeated[] {
    const open: { marker: XmlElement; column: number }[] = [];
    const found: Repeated[] = [];
    row.elements("tc").forEach((cell, column) => {
      for (const marker of cell.descendants("corbix")) {
        const kind = this.placed(marker)?.structure.kind;
        if (kind === "repeat" || kind === "when") open.push({ marker, column });
        if (kind !== "end") continue;
        const last = open.pop();
        const structure = last && this.placed(last.marker)?.structure;
        if (last && structure?.kind === "repeat" && structure.across)
          found.push({ opening: last.marker, ending: marker, from: last.column, to: column });
      }
    });
    for (const { marker } of open) {
      const placed = this.placed(marker);
      if (placed?.structure.kind === "repeat" && placed.structure.across) throw unended(placed);
    }
    return found;
  }

  private without(element: XmlElement, gone: ReadonlySet<XmlElement>): XmlElement {
    if (!element.descendants("corbix").some((marker) => gone.has(marker))) return element;
    return this.like(
      element,
      element.children.flatMap((child): XmlNode[] =>
        child.kind !== "element" ? [child] : gone.has(child) ? [] : [this.without(child, gone)],
      ),
    );
  }

  private around(parent: XmlElement, kind: string, { opening, ending, from, to }: Repeated): XmlElement {
    let column = -1;
    return this.like(
      parent,
      parent.children.flatMap((child): XmlNode[] => {
        if (child.kind !== "element" || child.local !== kind) return [child];
        column++;
        return [...(column === from ? [this.sign(opening)] : []), child, ...(column === to ? [this.sign(ending)] : [])];
      }),
    );
  }

  private sign(like: XmlElement): XmlElement {
    const marker = new XmlElement("corbix", "<corbix/>", []);
    const placed = this.placed(like);
    if (placed) this.part.structures.set(marker, { ...placed, isColumns: true });
    return marker;
  }
}
