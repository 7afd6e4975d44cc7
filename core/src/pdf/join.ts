/** Several files of ours behind each other as one, for printing: ISO 32000-1, 7.5 and 7.7.3. */

import { CorbixError, known } from "../common/index.js";
import { say } from "../words/index.js";
import { PdfFile, pdfText, type Ref } from "./objects.js";

export interface JoinedPart {
  readonly bytes: Uint8Array;
  /** Names it in errors. */
  readonly where: string;
}

export interface JoinOptions {
  readonly title: string;
  /** Whether a blank page follows where a part ends on the front of a sheet, so that the next begins on another. */
  readonly sheets?: boolean;
}

interface PartObject {
  readonly dictionary: string;
  readonly data: Uint8Array | undefined;
}

/**
 * Pages of all parts in order. Their outlines and structures are left out: they belong to the parts by themselves. Throws
 * `BROKEN_PACKAGE` for a file that this program did not write, or that a password protects.
 */
export function joinPdfs(parts: readonly JoinedPart[], { title, sheets = false }: JoinOptions): Uint8Array {
  const pdf = new PdfFile();
  const catalog = pdf.reserve();
  const root = pdf.reserve();
  const kids: Ref[] = [];
  let pages = 0;
  /** Fonts and pictures that several parts share are written once. */
  const streams = new Map<string, Ref>();
  for (const { bytes, where } of parts) {
    const { objects, tree } = readObjects(bytes, where);
    const refs = new Map<number, Ref>();
    for (const [number, object] of objects) {
      const key =
        object.data && !/\d+ 0 R/.test(object.dictionary) ? streamKey(object.dictionary, object.data) : undefined;
      const shared = key === undefined ? undefined : streams.get(key);
      const ref = shared ?? pdf.reserve();
      if (key !== undefined && !shared) streams.set(key, ref);
      refs.set(number, ref);
    }
    const moved = (text: string): string =>
      text.replace(/\b(\d+) 0 R\b/g, (_, number: string) => String(refs.get(Number(number)) ?? "null"));
    for (const [number, { dictionary, data }] of objects) {
      const ref = known(refs, number);
      // The root is no part's object, so its reference is put in after the others are moved.
      const text = number === tree ? moved(dictionary).replace(/^<< /, `<< /Parent ${root} `) : moved(dictionary);
      pdf.put(ref, text, data);
    }
    kids.push(known(refs, tree));
    const count = Number(/\/Count (\d+)/.exec(objects.get(tree)?.dictionary ?? "")?.[1] ?? 0);
    pages += count;
    if (sheets && count % 2 === 1) {
      const box = lastBox(objects) ?? "[0 0 595.276 841.89]";
      kids.push(pdf.add(`<< /Type /Page /Parent ${root} /MediaBox ${box} /Resources << >> >>`));
      pages++;
    }
  }
  pdf.set(root, `<< /Type /Pages /Count ${pages} /Kids [${kids.join(" ")}] >>`);
  pdf.set(catalog, `<< /Type /Catalog /Pages ${root} /ViewerPreferences << /DisplayDocTitle true >> >>`);
  const info = pdf.add(`<< /Title ${pdfText(title)} /Producer ${pdfText("Corbix")} >>`);
  return pdf.toBytes(catalog, info);
}

function streamKey(dictionary: string, data: Uint8Array): string {
  return `${dictionary}\n${Buffer.from(data).toString("latin1")}`;
}

function lastBox(objects: ReadonlyMap<number, PartObject>): string | undefined {
  const boxes = [...objects.values()].flatMap(({ dictionary }) =>
    /\/Type \/Page\b(?!s)/.test(dictionary) ? (/\/MediaBox (\[[^\]]*\])/.exec(dictionary)?.slice(1) ?? []) : [],
  );
  return boxes[boxes.length - 1];
}

/** The objects that the pages need, by their numbers; links lead nowhere in a printed file, and go with the rest. */
function readObjects(bytes: Uint8Array, where: string): { objects: Map<number, PartObject>; tree: number } {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("latin1");
  const broken = (why: string): CorbixError =>
    new CorbixError("BROKEN_PACKAGE", say().pdf.cannotPutPdfOthers({ why }), {
      where,
      advice: say().pdf.printItself(),
    });
  const start = Number(/startxref\n(\d+)\n%%EOF\n?$/.exec(text)?.[1] ?? Number.NaN);
  const head = /^xref\n0 (\d+)\n/.exec(text.slice(start, start + 40));
  const trailer = text.slice(text.lastIndexOf("trailer\n"));
  if (!head) throw broken(say().pdf.writtenHere());
  if (trailer.includes("/Encrypt")) throw broken(say().pdf.passwordProtects());
  const all = new Map<number, PartObject>();
  const first = start + head[0].length;
  for (let number = 1; number < Number(head[1]); number++) {
    const offset = Number(text.slice(first + number * 20, first + number * 20 + 10));
    all.set(number, objectAt(bytes, text, offset, broken));
  }
  const catalog = all.get(Number(/\/Root (\d+) 0 R/.exec(trailer)?.[1]));
  const tree = Number(/\/Pages (\d+) 0 R/.exec(catalog?.dictionary ?? "")?.[1]);
  const objects = new Map<number, PartObject>();
  const take = (number: number): void => {
    const object = all.get(number);
    if (!object || objects.has(number)) return;
    const dictionary = object.dictionary.replace(/ \/Annots \[[^\]]*\]| \/StructParents \d+| \/Tabs \/S/g, "");
    objects.set(number, { ...object, dictionary });
    for (const [, inner] of dictionary.matchAll(/\b(\d+) 0 R\b/g)) take(Number(inner));
  };
  take(tree);
  return { objects, tree };
}

function objectAt(bytes: Uint8Array, text: string, offset: number, broken: (why: string) => CorbixError): PartObject {
  const begin = text.indexOf(" obj\n", offset) + 5;
  const end = text.indexOf("\nendobj\n", begin);
  const stream = text.indexOf("\nstream\n", begin);
  if (begin < 5 || end < 0) throw broken(say().pdf.objectBroken());
  if (stream < 0 || stream > end) return { dictionary: text.slice(begin, end), data: undefined };
  const dictionary = text.slice(begin, stream);
  const length = Number(/\/Length (\d+) >>$/.exec(dictionary)?.[1] ?? Number.NaN);
  if (!Number.isInteger(length)) throw broken(say().pdf.streamLength());
  return { dictionary, data: bytes.subarray(stream + 8, stream + 8 + length) };
}
