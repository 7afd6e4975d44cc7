import { sha256 } from "../common/index.js";
import type { RasterImage } from "./page.js";

/** Told by its first bytes; kinds that cannot be drawn give `undefined`. */
export function readImage(bytes: Uint8Array): RasterImage | undefined {
  const known = CACHE.get(bytes);
  if (known) return known;
  const format =
    bytes[0] === 0x89 && bytes[1] === 0x50 ? "png" : bytes[0] === 0xff && bytes[1] === 0xd8 ? "jpeg" : undefined;
  if (!format) return undefined;
  const image: RasterImage = { format, bytes, digest: sha256(bytes) };
  CACHE.set(bytes, image);
  return image;
}

const CACHE = new WeakMap<Uint8Array, RasterImage>();
