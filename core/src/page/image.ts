import { LRUCache } from "lru-cache";
import { PNG } from "pngjs";
import { sha256 } from "../common/index.js";
import type { RasterImage } from "./page.js";

/** A picture that can be drawn, or why not: its kind is another, or its bytes are not what its kind asks for. */
export type ReadImage = RasterImage | "other" | "damaged";

/** Told by its first bytes, and opened once. */
export function readImage(bytes: Uint8Array): ReadImage {
  const known = READ.get(bytes);
  if (known) return known;
  const image = read(bytes);
  READ.set(bytes, image);
  return image;
}

function read(bytes: Uint8Array): ReadImage {
  const format =
    bytes[0] === 0x89 && bytes[1] === 0x50 ? "png" : bytes[0] === 0xff && bytes[1] === 0xd8 ? "jpeg" : undefined;
  if (!format) return "other";
  const digest = sha256(bytes);
  let known = FRAMES.get(digest);
  if (known === undefined) {
    known = { frame: format === "png" ? pngFrame(bytes) : jpegFrame(bytes) };
    FRAMES.set(digest, known);
  }
  return known.frame ? { format, bytes, digest, ...known.frame } : "damaged";
}

type Frame = Pick<RasterImage, "width" | "height" | "components">;

function pngFrame(bytes: Uint8Array): Frame | undefined {
  try {
    const { width, height } = PNG.sync.read(Buffer.from(bytes));
    return width > 0 && height > 0 ? { width, height, components: 3 } : undefined;
  } catch {
    return undefined;
  }
}

/** From the frame header (ITU-T T.81, B.2.2). */
function jpegFrame(bytes: Uint8Array): Frame | undefined {
  let at = 2;
  while (at + 9 < bytes.length) {
    const marker = bytes[at + 1];
    // Bytes that fill the room before a marker, and markers that have no length (B.1.1.2, B.1.1.3).
    if (bytes[at] !== 0xff || marker === 0xff) at++;
    else if (marker === 0x01 || (marker >= 0xd0 && marker <= 0xd8)) at += 2;
    else if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)) {
      const height = (bytes[at + 5] << 8) | bytes[at + 6];
      const width = (bytes[at + 7] << 8) | bytes[at + 8];
      return width > 0 && height > 0 ? { width, height, components: bytes[at + 9] } : undefined;
    } else at += 2 + ((bytes[at + 2] << 8) | bytes[at + 3]);
  }
  return undefined;
}

const READ = new WeakMap<Uint8Array, ReadImage>();
/** What pictures were found to be, by their digest: the logo of a template stands in all its files. */
const FRAMES = new LRUCache<string, { readonly frame: Frame | undefined }>({ max: 1000 });
