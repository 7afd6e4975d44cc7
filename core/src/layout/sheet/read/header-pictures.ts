/** Pictures in headers and footers: kept in an old kind of drawing (ECMA-376 part 4, 19.1) that names each by its place. */
import type { OoxmlPackage } from "../../../ooxml/index.js";
import type { RasterImage } from "../../../page/index.js";
import { readImage } from "../../../page/index.js";
import type { SheetInfo } from "../../../spreadsheet/index.js";

export interface HeaderPicture {
  readonly image: RasterImage;
  /** In points. */
  readonly width: number;
  readonly height: number;
}

/** By side and part, `LH` for the left of the header to `RF` for the right of the footer; `LHFIRST`, `LHEVEN` likewise. */
export type HeaderPictures = ReadonlyMap<string, HeaderPicture>;

const UNITS: Readonly<Record<string, number>> = { pt: 1, in: 72, cm: 72 / 2.54, mm: 72 / 25.4, px: 0.75 };

export function readHeaderPictures(opened: OoxmlPackage, info: SheetInfo): HeaderPictures {
  const found = new Map<string, HeaderPicture>();
  const relations = opened.relationships(info.part);
  const id = /<(?:\w+:)?legacyDrawingHF\s[^>]*:id=["']([^"']*)["']/.exec(opened.getText(info.part))?.[1];
  const part = relations.find((relation) => relation.id === id)?.target;
  if (part === undefined || !opened.has(part)) return found;
  const targets = new Map(opened.relationships(part).map((relation) => [relation.id, relation.target]));
  for (const match of opened.getText(part).matchAll(/<v:shape\s([^>]*)>([\s\S]*?)<\/v:shape>/g)) {
    const name = /\sid=["']([^"']*)["']/.exec(` ${match[1]}`)?.[1];
    const target = targets.get(/<v:imagedata\s[^>]*o:relid=["']([^"']*)["']/.exec(match[2])?.[1] ?? "");
    const image = target && opened.has(target) ? readImage(opened.getBytes(target)) : "other";
    const size = (side: string): number => {
      const value = new RegExp(`(?:^|[;"'\\s])${side}:\\s*([\\d.]+)(pt|in|cm|mm|px)`).exec(match[1]);
      return value ? Number(value[1]) * UNITS[value[2]] : 0;
    };
    const [width, height] = [size("width"), size("height")];
    if (name && typeof image !== "string" && width > 0 && height > 0) found.set(name, { image, width, height });
  }
  return found;
}
