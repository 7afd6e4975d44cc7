/** The outline that readers show beside the pages: ISO 32000-1, 12.3.3. */
import type { OutlineEntry } from "../page/index.js";
import { type PdfFile, pdfNumber, pdfText, type Ref } from "./objects.js";

interface Entry {
  readonly entry: OutlineEntry;
  readonly level: number;
  readonly children: Entry[];
}

/** Entries nested by their levels; a single one is none. */
export function writeOutline(
  pdf: PdfFile,
  entries: readonly OutlineEntry[],
  refs: readonly Ref[],
  /** Of the pages, in points. */
  heights: readonly number[],
): Ref | undefined {
  if (entries.length < 2) return undefined;
  const top: Entry[] = [];
  const open: Entry[] = [];
  for (const entry of entries) {
    const made: Entry = { entry, level: entry.level ?? 0, children: [] };
    while (open.length > 0 && open[open.length - 1].level >= made.level) open.pop();
    (open[open.length - 1]?.children ?? top).push(made);
    open.push(made);
  }
  const root = pdf.reserve();
  const destination = ({ page, y }: OutlineEntry): string =>
    y === undefined ? `[${refs[page]} /Fit]` : `[${refs[page]} /XYZ 0 ${pdfNumber(heights[page] - y)} null]`;
  const write = (siblings: readonly Entry[], parent: Ref): { first: Ref; last: Ref } => {
    const own = siblings.map(() => pdf.reserve());
    siblings.forEach(({ entry, children }, index) => {
      const previous = index > 0 ? ` /Prev ${own[index - 1]}` : "";
      const next = index + 1 < own.length ? ` /Next ${own[index + 1]}` : "";
      const inner = children.length > 0 ? write(children, own[index]) : undefined;
      // Closed at first: a negative count.
      const below = inner ? ` /First ${inner.first} /Last ${inner.last} /Count -${children.length}` : "";
      pdf.set(
        own[index],
        `<< /Title ${pdfText(entry.title)} /Parent ${parent}${previous}${next}${below} /Dest ${destination(entry)} >>`,
      );
    });
    return { first: own[0], last: own[own.length - 1] };
  };
  const { first, last } = write(top, root);
  pdf.set(root, `<< /Type /Outlines /First ${first} /Last ${last} /Count ${top.length} >>`);
  return root;
}
