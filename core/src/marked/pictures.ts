/** Pictures put into a document: their size, and codes drawn from a value. */

import { Buffer } from "node:buffer";
import { crc32, deflateSync } from "node:zlib";
import bwip from "bwip-js/generic";
import { say } from "../words/index.js";

export interface Size {
  readonly width: number;
  readonly height: number;
}

/** The largest size of a picture's shape that fits into a frame. */
export function fitInto(picture: Size, frame: Size): Size {
  const scale = Math.min(frame.width / picture.width, frame.height / picture.height);
  return { width: Math.round(picture.width * scale), height: Math.round(picture.height * scale) };
}

/** Pixels to a module of a code: sharp in print at any usual size. */
const MODULE = 8;
/** Blank around a code, in modules, as its standards ask (ISO/IEC 18004: four; ISO/IEC 15417: ten at the sides). */
const QUIET = { qr: { x: 4, y: 4 }, barcode: { x: 10, y: 1 } } as const;
const BAR_HEIGHT = 24;

/** A QR code (ISO/IEC 18004) or Code 128 bar code (ISO/IEC 15417) of a text, as PNG. Throws where the text cannot be written so. */
export function drawCode(kind: "qr" | "barcode", text: string): Uint8Array {
  // Letters of bars are those of ISO/IEC 8859-1 (ISO/IEC 15417, 4.3.4): others would be read as several of them.
  if (kind === "barcode" && [...text].some((letter) => letter > "\u00ff"))
    throw new RangeError(say().document.signLetterText());
  const options = kind === "qr" ? { bcid: "qrcode", text } : { bcid: "code128", text, binarytext: true };
  const [made] = bwip.raw(options) as unknown as {
    pixs?: number[];
    pixx?: number;
    pixy?: number;
    sbs?: number[];
  }[];
  const rows: boolean[][] = [];
  if (made.pixs && made.pixx && made.pixy)
    for (let row = 0; row < made.pixy; row++)
      rows.push(made.pixs.slice(row * made.pixx, (row + 1) * made.pixx).map((sign) => sign === 1));
  else {
    const bars = (made.sbs ?? []).flatMap((width, index) => Array.from({ length: width }, () => index % 2 === 0));
    for (let row = 0; row < BAR_HEIGHT; row++) rows.push(bars);
  }
  return blackAndWhite(rows, QUIET[kind]);
}

/** A PNG of one bit a pixel (ISO/IEC 15948). */
function blackAndWhite(
  rows: readonly (readonly boolean[])[],
  quiet: { readonly x: number; readonly y: number },
): Uint8Array {
  const width = ((rows[0]?.length ?? 0) + 2 * quiet.x) * MODULE;
  const height = (rows.length + 2 * quiet.y) * MODULE;
  const stride = Math.ceil(width / 8) + 1;
  const pixels = Buffer.alloc(stride * height, 0xff);
  for (let y = 0; y < height; y++) {
    pixels[y * stride] = 0;
    const row = rows[Math.floor(y / MODULE) - quiet.y];
    if (!row) continue;
    row.forEach((isBlack, column) => {
      // A module is as wide as a byte has bits.
      if (isBlack) pixels[y * stride + 1 + quiet.x + column] = 0;
    });
  }
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header[8] = 1;
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk("IHDR", header),
    chunk("IDAT", deflateSync(pixels)),
    chunk("IEND", Buffer.alloc(0)),
  ]);
}

function chunk(type: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(type, "latin1"), data]);
  const out = Buffer.alloc(body.length + 8);
  out.writeUInt32BE(data.length, 0);
  body.copy(out, 4);
  out.writeUInt32BE(crc32(body) >>> 0, body.length + 4);
  return out;
}
