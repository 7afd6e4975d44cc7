import { CorbixError } from "../common/index.js";
import { OoxmlPackage, unescapeXml, type XmlElement } from "../ooxml/index.js";
import { say } from "../words/index.js";
import { isTrue, readStyles, type Styles } from "./styles.js";
import { readTheme, type Theme } from "./theme.js";

export interface SheetInfo {
  readonly name: string;
  /** Name of the sheet's part in the package. */
  readonly part: string;
  readonly hidden: boolean;
  /** `chartsheet` and others have no cells. */
  readonly kind: "worksheet" | "other";
}

export interface DefinedName {
  readonly name: string;
  /** Index of the sheet it belongs to, or `undefined` for the whole workbook. */
  readonly sheet: number | undefined;
  readonly formula: string;
}

/** A workbook package with what all readers need; sheets are read when asked for. */
export interface Workbook {
  readonly package: OoxmlPackage;
  readonly part: string;
  readonly xml: XmlElement;
  readonly sheets: readonly SheetInfo[];
  readonly names: readonly DefinedName[];
  readonly date1904: boolean;
  readonly theme: Theme;
  readonly styles: Styles;
  readonly sharedStrings: readonly string[];
}

/** Opens a workbook. Throws `NOT_A_WORKBOOK`, `BROKEN_PACKAGE` or `LIMIT_EXCEEDED`. */
export function openWorkbook(bytes: Uint8Array, where = "workbook"): Workbook {
  refuseOtherFiles(bytes, where);
  return workbookFromPackage(OoxmlPackage.open(bytes, where));
}

export function workbookFromPackage(opened: OoxmlPackage): Workbook {
  const part = opened.mainPart();
  const xml = part && opened.has(part) ? opened.getXml(part) : undefined;
  if (!part || !xml || xml.local !== "workbook") {
    throw new CorbixError("NOT_A_WORKBOOK", say().spreadsheet.cannotReadFileWorkbookPackage(), {
      where: opened.where,
      advice: say().spreadsheet.giveXlsxXlsmFile(),
    });
  }
  const relations = opened.relationships(part);
  const partOf = (type: string): string | undefined => relations.find((relation) => relation.type === type)?.target;
  const theme = cached(opened, partOf("theme"), "theme", readTheme) ?? readTheme(undefined);
  const sheets = (xml.child("sheets")?.elements("sheet") ?? []).map((sheet): SheetInfo => {
    const id = [...sheet.attributes].find(([name]) => name.endsWith(":id"))?.[1];
    const relation = relations.find((candidate) => candidate.id === id);
    const state = sheet.attr("state");
    return {
      name: sheet.attr("name") ?? "",
      part: relation?.target ?? "",
      hidden: state === "hidden" || state === "veryHidden",
      kind: relation?.type === "worksheet" ? "worksheet" : "other",
    };
  });
  return {
    package: opened,
    part,
    xml,
    sheets,
    names: (xml.child("definedNames")?.elements("definedName") ?? []).map((name) => ({
      name: name.attr("name") ?? "",
      sheet: name.attr("localSheetId") === undefined ? undefined : Number(name.attr("localSheetId")),
      formula: name.text,
    })),
    date1904: isTrue(xml.child("workbookPr")?.attr("date1904")),
    theme,
    styles:
      cached(opened, partOf("styles"), "styles", (root) => readStyles(root, theme)) ?? readStyles(undefined, theme),
    sharedStrings: readSharedStrings(opened, partOf("sharedStrings")),
  };
}

/**
 * What was read from a part, kept while its bytes live: files filled from one template share these parts,
 * so their styles are read once.
 */
const CACHE = new WeakMap<Uint8Array, Map<string, unknown>>();

function cached<T>(
  opened: OoxmlPackage,
  part: string | undefined,
  kind: string,
  read: (xml: XmlElement) => T,
): T | undefined {
  if (!part || !opened.has(part)) return undefined;
  const bytes = opened.getBytes(part);
  const known = CACHE.get(bytes) ?? new Map<string, unknown>();
  CACHE.set(bytes, known);
  if (!known.has(kind)) known.set(kind, read(opened.getXml(part)));
  return known.get(kind) as T;
}

function refuseOtherFiles(bytes: Uint8Array, where: string): void {
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return;
  const [what, advice] =
    bytes.length === 0
      ? [say().spreadsheet.empty(), say().spreadsheet.exportAgain()]
      : bytes[0] === 0xd0 && bytes[1] === 0xcf
        ? [say().spreadsheet.encryptedWorkbookOlderBinaryKind(), say().spreadsheet.saveXlsxWithoutPassword()]
        : [say().spreadsheet.zipPackage(), say().spreadsheet.giveXlsxFileLoadCsv()];
  throw new CorbixError("NOT_A_WORKBOOK", say().spreadsheet.cannotReadFileWorkbook({ what }), { where, advice });
}

/** Strings by index; of rich text the words, without phonetic guides. */
function readSharedStrings(opened: OoxmlPackage, part: string | undefined): readonly string[] {
  if (!part || !opened.has(part)) return [];
  const bytes = opened.getBytes(part);
  const known = CACHE.get(bytes)?.get("strings");
  if (known) return known as readonly string[];
  const strings: string[] = [];

  const source = opened.getText(part);
  for (const match of source.matchAll(/<(?:\w+:)?si(?:\s[^>]*)?(?:\/>|>([\s\S]*?)<\/(?:\w+:)?si>)/g))
    strings.push(stringItemText(match[1] ?? ""));
  CACHE.set(bytes, (CACHE.get(bytes) ?? new Map()).set("strings", strings));
  return strings;
}

const READINGS = new WeakMap<Workbook, ReadonlyMap<string, string>>();

/** By text its reading, where the workbook stores one (phonetic runs, 18.4.6): what has none of its own stays as it is. */
export function phoneticReadings(workbook: Workbook): ReadonlyMap<string, string> {
  const known = READINGS.get(workbook);
  if (known) return known;
  const found = new Map<string, string>();
  READINGS.set(workbook, found);
  const part = workbook.package.relationships(workbook.part).find((one) => one.type === "sharedStrings")?.target;
  if (!part || !workbook.package.has(part)) return found;
  const items = /<(?:\w+:)?si(?:\s[^>]*)?>((?:(?!<\/(?:\w+:)?si>)[\s\S])*?<(?:\w+:)?rPh[\s>][\s\S]*?)<\/(?:\w+:)?si>/g;
  for (const [, inner] of workbook.package.getText(part).matchAll(items)) {
    const text = stringItemText(inner);
    let [reading, at] = ["", 0];
    for (const [, attributes, run] of inner.matchAll(/<(?:\w+:)?rPh\s([^>]*)>([\s\S]*?)<\/(?:\w+:)?rPh>/g)) {
      const end = (name: string): number => Number(new RegExp(`\\b${name}="(\\d+)"`).exec(attributes)?.[1] ?? at);
      reading += text.slice(at, end("sb")) + stringItemText(run);
      at = Math.max(at, end("eb"));
    }
    if (!found.has(text)) found.set(text, reading + text.slice(at));
  }
  return found;
}

function stringItemText(inner: string): string {
  let text = "";
  const plain = inner.replace(/<(?:\w+:)?rPh[\s>][\s\S]*?<\/(?:\w+:)?rPh>/g, "");
  for (const match of plain.matchAll(/<(?:\w+:)?t(?:\s[^>]*)?>([^<]*)</g)) text += match[1];
  return text.includes("&") || text.includes("_x") ? unescapeString(text) : text;
}

/** Entities of XML and the `_x000D_` escapes of 22.9.2.19. */
function unescapeString(text: string): string {
  return unescapeXml(text).replace(/_x([0-9a-fA-F]{4})_/g, (_, hex: string) =>
    String.fromCharCode(Number.parseInt(hex, 16)),
  );
}
