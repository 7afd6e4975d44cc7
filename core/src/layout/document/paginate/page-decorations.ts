/** What stands around the text of a page. */
import type { PageItem } from "../../../page/index.js";
import { borderLine } from "../../text/fragment.js";
import type { OpenPage } from "./paginator.js";

export function pageBorders({ section, isFirstOfSection }: OpenPage): PageItem[] {
  const { borders } = section;
  if (!borders) return [];
  if (borders.display === "firstPage" && !isFirstOfSection) return [];
  if (borders.display === "notFirstPage" && isFirstOfSection) return [];
  const { lines, fromPage } = borders;
  const place = (side: "left" | "right" | "top" | "bottom"): number => {
    const space = lines[side]?.space ?? 0;
    if (side === "left") return fromPage ? space : section.left - space;
    if (side === "top") return fromPage ? space : section.top - space;
    if (side === "right") return section.width - (fromPage ? space : section.right - space);
    return section.height - (fromPage ? space : section.bottom - space);
  };
  const [left, right, top, bottom] = [place("left"), place("right"), place("top"), place("bottom")];
  return [
    ...(lines.top ? borderLine(lines.top, left, top, right, top) : []),
    ...(lines.bottom ? borderLine(lines.bottom, left, bottom, right, bottom) : []),
    ...(lines.left ? borderLine(lines.left, left, top, left, bottom) : []),
    ...(lines.right ? borderLine(lines.right, right, top, right, bottom) : []),
  ];
}
