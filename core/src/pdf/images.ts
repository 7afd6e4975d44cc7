/** Pictures as image XObjects: ISO 32000-1, 8.9.5. */

import { deflateSync } from "node:zlib";
import { LRUCache } from "lru-cache";
import { PNG } from "pngjs";
import type { RasterImage } from "../page/index.js";
import type { PdfFile, Ref } from "./objects.js";

interface Samples {
  readonly width: number;
  readonly height: number;
  readonly color: Uint8Array;
  readonly alpha: Uint8Array | undefined;
}

/** Decoded and packed once per picture: the logo of a template stands in all its files. */
const CACHE = new LRUCache<string, Samples>({ max: 50 });

/** A picture; `changed` is the colour space that its samples are read in, where it is not their own. */
export function writeImage(pdf: PdfFile, image: RasterImage, changed?: string): Ref {
  if (image.format === "jpeg") {
    const { width, height, components } = image;
    const space =
      changed ??
      (components === 1 ? "/DeviceGray" : components === 4 ? "/DeviceCMYK /Decode [1 0 1 0 1 0 1 0]" : "/DeviceRGB");
    return pdf.rawStream(
      image.bytes,
      `/Type /XObject /Subtype /Image /Width ${width} /Height ${height} /ColorSpace ${space} /BitsPerComponent 8 /Filter /DCTDecode`,
    );
  }
  const samples = decodePng(image);
  const size = `/Type /XObject /Subtype /Image /Width ${samples.width} /Height ${samples.height} /BitsPerComponent 8`;
  const mask = samples.alpha ? pdf.stream(samples.alpha, `${size} /ColorSpace /DeviceGray`, true) : undefined;
  return pdf.stream(
    samples.color,
    `${size} /ColorSpace ${changed ?? "/DeviceRGB"}${mask ? ` /SMask ${mask}` : ""}`,
    true,
  );
}

function decodePng(image: RasterImage): Samples {
  const known = CACHE.get(image.digest);
  if (known) return known;
  const png = PNG.sync.read(Buffer.from(image.bytes));
  const count = png.width * png.height;
  const color = new Uint8Array(count * 3);
  const alpha = new Uint8Array(count);
  let opaque = true;
  for (let index = 0; index < count; index++) {
    color.set(png.data.subarray(index * 4, index * 4 + 3), index * 3);
    alpha[index] = png.data[index * 4 + 3];
    if (alpha[index] !== 255) opaque = false;
  }
  const samples = {
    width: png.width,
    height: png.height,
    color: deflateSync(color),
    alpha: opaque ? undefined : deflateSync(alpha),
  };
  CACHE.set(image.digest, samples);
  return samples;
}
