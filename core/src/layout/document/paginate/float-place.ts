import type { Float, PageSection } from "../../text/blocks.js";

/** Where a floating thing stands on its page: 20.4.3.1 to 20.4.3.5. */
export function floatBox(
  float: Float,
  section: PageSection,
  text: { readonly x: number; readonly width: number; readonly y: number },
): { x: number; y: number } {
  const { width, height } = section;
  const across: Readonly<Record<string, readonly [number, number]>> = {
    page: [0, width],
    margin: [section.left, width - section.right],
    leftMargin: [0, section.left],
    rightMargin: [width - section.right, width],
    insideMargin: [0, section.left],
    outsideMargin: [width - section.right, width],
  };
  const down: Readonly<Record<string, readonly [number, number]>> = {
    page: [0, height],
    margin: [section.top, height - section.bottom],
    topMargin: [0, section.top],
    bottomMargin: [height - section.bottom, height],
  };
  const [left, right] = across[float.horizontal.from] ?? [text.x, text.x + text.width];
  const isOfText = down[float.vertical.from] === undefined;
  const [top, bottom] = down[float.vertical.from] ?? [text.y, height - section.bottom];
  const along = (align: string | undefined, from: number, to: number, size: number, offset: number): number => {
    if (align === "right" || align === "bottom" || align === "outside") return to - size;
    if (align === "center") return from + (to - from - size) / 2;
    return align === undefined ? from + offset : from;
  };
  const x = along(float.horizontal.align, left, right, float.width, float.horizontal.offset);
  const y = along(isOfText ? undefined : float.vertical.align, top, bottom, float.height, float.vertical.offset);
  // What would hang over the page's foot is moved up, as far as it fits.
  return { x, y: isOfText ? Math.max(0, Math.min(y, height - float.height)) : y };
}
