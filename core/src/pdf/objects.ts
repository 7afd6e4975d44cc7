/** Objects and file structure of ISO 32000-1, clause 7. */
import { deflateSync } from "node:zlib";
import { sha256 } from "../common/index.js";
import type { PdfCipher } from "./protect.js";

/** A reference to an object of the file. */
export class Ref {
  constructor(readonly number: number) {}

  toString(): string {
    return `${this.number} 0 R`;
  }
}

/** Twice as fast as the usual 6, and a tenth larger. */
const LEVEL = 3;
/** Streams up to this size fit a small window, which takes less time to set up. */
const SMALL = 8192;
const SMALL_WINDOW = { windowBits: 13, memLevel: 7 };

type PdfObject = string | { readonly dictionary: string; readonly data: Uint8Array };

/** An object with its strings, and its stream if it is one, encrypted. All strings are written in hexadecimal digits. */
function encrypted(object: PdfObject, cipher: PdfCipher): PdfObject {
  const hide = (source: string): string =>
    source.replace(
      /(?<!<)<([0-9A-Fa-f]*)>(?!>)/g,
      (_, digits: string) => `<${cipher.encrypt(Buffer.from(digits, "hex")).toString("hex")}>`,
    );
  if (typeof object === "string") return hide(object);
  const data = cipher.encrypt(object.data);
  return { dictionary: hide(object.dictionary).replace(/\/Length \d+ >>$/, `/Length ${data.length} >>`), data };
}

/** Collects objects and writes the file. The same objects give the same bytes. */
export class PdfFile {
  private readonly objects: PdfObject[] = [];

  /** Reserves a number for an object that is set later. */
  reserve(): Ref {
    this.objects.push("null");
    return new Ref(this.objects.length);
  }

  set(ref: Ref, content: string): void {
    this.objects[ref.number - 1] = content;
  }

  /** Sets an object as another file had it: its dictionary, and its stream's bytes as they are. */
  put(ref: Ref, dictionary: string, data: Uint8Array | undefined): void {
    this.objects[ref.number - 1] = data ? { dictionary, data } : dictionary;
  }

  add(content: string): Ref {
    const ref = this.reserve();
    this.set(ref, content);
    return ref;
  }

  /** Adds a stream; `entries` are further dictionary entries. Data that is deflated already comes with its filter in `entries`. */
  stream(data: Uint8Array | string, entries = "", isDeflated = false): Ref {
    const bytes = typeof data === "string" ? Buffer.from(data, "latin1") : data;
    const packed = isDeflated
      ? bytes
      : deflateSync(bytes, bytes.length > SMALL ? { level: LEVEL } : { level: LEVEL, ...SMALL_WINDOW });
    const ref = this.reserve();
    this.objects[ref.number - 1] = {
      dictionary: `<< ${entries} /Filter /FlateDecode /Length ${packed.length} >>`,
      data: packed,
    };
    return ref;
  }

  /** A stream whose bytes are kept as they are, such as a JPEG. */
  rawStream(data: Uint8Array, entries: string): Ref {
    const ref = this.reserve();
    this.objects[ref.number - 1] = { dictionary: `<< ${entries} /Length ${data.length} >>`, data };
    return ref;
  }

  /** `cipher` encrypts every string and stream. */
  toBytes(root: Ref, info: Ref, cipher?: PdfCipher): Uint8Array {
    const lock = cipher && this.add(cipher.dictionary);
    const parts: Buffer[] = [];
    let length = 0;
    // All that is no stream is latin text: joined, so that there are few pieces.
    let text = "%PDF-1.7\n%\xe2\xe3\xcf\xd3\n";
    const flush = (): void => {
      parts.push(Buffer.from(text, "latin1"));
      length += text.length;
      text = "";
    };
    const offsets = this.objects.map((plain, index) => {
      const offset = length + text.length;
      const object = cipher && index + 1 !== lock?.number ? encrypted(plain, cipher) : plain;
      if (typeof object === "string") text += `${index + 1} 0 obj\n${object}\nendobj\n`;
      else {
        text += `${index + 1} 0 obj\n${object.dictionary}\nstream\n`;
        flush();
        parts.push(Buffer.from(object.data.buffer, object.data.byteOffset, object.data.byteLength));
        length += object.data.byteLength;
        text = "\nendstream\nendobj\n";
      }
      return offset;
    });
    flush();
    const start = length;
    const id = sha256(...parts).slice(0, 32);
    const table = offsets.map((offset) => `${String(offset).padStart(10, "0")} 00000 n \n`).join("");
    parts.push(Buffer.from(`xref\n0 ${offsets.length + 1}\n0000000000 65535 f \n${table}`, "latin1"));
    parts.push(
      Buffer.from(
        `trailer\n<< /Size ${offsets.length + 1} /Root ${root} /Info ${info} /ID [<${id}> <${id}>]${lock ? ` /Encrypt ${lock}` : ""} >>\nstartxref\n${start}\n%%EOF\n`,
        "latin1",
      ),
    );
    return Buffer.concat(parts);
  }
}

/** A text string (7.9.2.2): as UTF-16 with a byte-order mark. */
export function pdfText(text: string): string {
  const swapped = Buffer.from(`\ufeff${text}`, "utf16le").swap16();
  return `<${swapped.toString("hex").toUpperCase()}>`;
}

/** A number as short as it can be at a thousandth of a point. */
export function pdfNumber(value: number): string {
  const rounded = Math.round(value * 1000) / 1000;
  return Object.is(rounded, -0) ? "0" : String(rounded);
}

/** A name object; characters that a name cannot hold are written by number (7.3.5). */
export function pdfName(text: string): string {
  return `/${text.replace(/[^A-Za-z0-9_.+-]/g, (char) => `#${char.charCodeAt(0).toString(16).padStart(2, "0")}`)}`;
}
