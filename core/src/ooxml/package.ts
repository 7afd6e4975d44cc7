/** An Open Packaging Conventions package (ECMA-376 part 2): parts, relationships, content types. */

import { bytesFromText, CorbixError, made, textFromBytes } from "../common/index.js";
import { say } from "../words/index.js";
import { OFFICE_RELATIONS } from "./relationships.js";
import { parseXml, type XmlElement } from "./xml.js";
import { deflateEntry, inflateEntry, readZip, writeZip, type ZipEntry } from "./zip.js";

export interface Relationship {
  readonly id: string;
  /** The last word of the type's address: `worksheet`, `image`, `header`. */
  readonly type: string;
  /** Name of the part it leads to, without a leading slash; for outside targets the address itself. */
  readonly target: string;
  readonly external: boolean;
}

/** Deflating of filled parts: four times as fast as the usual 6, and a seventh larger. */
const FILL_LEVEL = 2;

interface ReadPart {
  readonly entry: ZipEntry | NewPart;
  bytes?: Uint8Array;
  text?: string;
  xml?: XmlElement;
  onlyRead?: XmlElement;
  /** Of a part of relationships: what it says, for the folder of the part it belongs to. */
  relations?: readonly Relationship[];
}

/** What was read of an entry, for as long as it lives: packages filled from one template share their untouched entries. */
const READ = new WeakMap<ZipEntry | NewPart, ReadPart>();

/** A part that was put in: it is made bytes and deflated when they are asked for, and once. */
class NewPart {
  private entry: ZipEntry | undefined;
  private made: Uint8Array | undefined;

  constructor(
    readonly name: string,
    private readonly content: Uint8Array | string,
    private readonly level: number,
  ) {}

  get bytes(): Uint8Array {
    this.made ??= typeof this.content === "string" ? bytesFromText(this.content) : this.content;
    return this.made;
  }

  packed(): ZipEntry {
    this.entry ??= deflateEntry(this.name, this.bytes, this.level);
    return this.entry;
  }
}

/**
 * A package that is edited by making a new one: `with` shares all other entries with the old,
 * compressed bytes included, so an untouched part stays byte for byte and costs nothing.
 */
export class OoxmlPackage {
  private constructor(
    private readonly entries: ReadonlyMap<string, ZipEntry | NewPart>,
    readonly where: string,
  ) {}

  /** Opens a package; `where` names it in errors. Throws `BROKEN_PACKAGE` or `LIMIT_EXCEEDED`. */
  static open(bytes: Uint8Array, where = "file"): OoxmlPackage {
    const entries = new Map<string, ZipEntry>();
    for (const entry of readZip(bytes, where)) if (!entry.name.endsWith("/")) entries.set(entry.name, entry);
    return new OoxmlPackage(entries, where);
  }

  get names(): string[] {
    return [...this.entries.keys()];
  }

  has(name: string): boolean {
    return this.entries.has(name);
  }

  /** A part's bytes. Throws where the part is missing. */
  getBytes(name: string): Uint8Array {
    const read = this.read(name);
    read.bytes ??= read.entry instanceof NewPart ? read.entry.bytes : inflateEntry(read.entry, this.where);
    return read.bytes;
  }

  /** A part's bytes, not kept here afterwards: for parts that are read once and large. */
  takeBytes(name: string): Uint8Array {
    const read = this.read(name);
    if (read.entry instanceof NewPart) return read.entry.bytes;
    return read.bytes ?? inflateEntry(read.entry, this.where);
  }

  /** The inflated size of a part in bytes. */
  sizeOf(name: string): number {
    const { entry } = this.read(name);
    return entry instanceof NewPart ? entry.bytes.length : entry.size;
  }

  getText(name: string): string {
    const read = this.read(name);
    read.text ??= plainNames(name, textFromBytes(this.getBytes(name)));
    return read.text;
  }

  getXml(name: string): XmlElement {
    const read = this.read(name);
    read.xml ??= parseXml(this.getText(name), `${this.where}, ${name}`).root;
    return read.xml;
  }

  /** As `getXml`, for those who only read: cells of tables that are written alike are one node. */
  readXml(name: string): XmlElement {
    const read = this.read(name);
    read.onlyRead ??= parseXml(this.getText(name), `${this.where}, ${name}`, true).root;
    return read.onlyRead;
  }

  private read(name: string): ReadPart {
    const entry = this.entries.get(name);
    if (!entry) {
      throw new CorbixError("BROKEN_PACKAGE", say().ooxml.cannotFindPartPackage({ name }), {
        where: this.where,
      });
    }
    let read = READ.get(entry);
    if (!read) {
      read = { entry };
      READ.set(entry, read);
    }
    return read;
  }

  maybeXml(name: string): XmlElement | undefined {
    return this.has(name) ? this.getXml(name) : undefined;
  }

  /** The relationships of a part, or of the package itself for `""`. */
  relationships(part: string): readonly Relationship[] {
    const name = relationshipsName(part);
    if (!this.has(name)) return [];
    const read = this.read(name);
    read.relations ??= this.readRelationships(part, this.getXml(name));
    return read.relations;
  }

  private readRelationships(part: string, xml: XmlElement): Relationship[] {
    const folder = part.slice(0, part.lastIndexOf("/") + 1);
    return xml.elements().map((element) => {
      const target = element.attr("Target") ?? "";
      const external = element.attr("TargetMode") === "External";
      return {
        id: element.attr("Id") ?? "",
        type: (element.attr("Type") ?? "").split("/").pop() ?? "",
        target: external ? target : resolveTarget(folder, target),
        external,
      };
    });
  }

  /** The name of the main part (workbook, document), found by the package's own relationship. */
  mainPart(): string | undefined {
    return this.has("_rels/.rels")
      ? this.relationships("").find((relation) => relation.type === "officeDocument")?.target
      : undefined;
  }

  /** The main part of what has been opened as a workbook or document, which has one. */
  get main(): string {
    return made(this.mainPart(), "the main part");
  }

  /** Content type of a part from `[Content_Types].xml`. */
  contentType(name: string): string | undefined {
    const types = this.maybeXml("[Content_Types].xml")?.elements() ?? [];
    const own = types.find((element) => element.local === "Override" && element.attr("PartName") === `/${name}`);
    if (own) return own.attr("ContentType");
    const extension = name.slice(name.lastIndexOf(".") + 1).toLowerCase();
    return types
      .find((element) => element.local === "Default" && element.attr("Extension")?.toLowerCase() === extension)
      ?.attr("ContentType");
  }

  /** Whether it is of the strict form, which has namespaces and relationships of its own (ECMA-376 part 1). */
  private get isStrict(): boolean {
    return this.has("_rels/.rels") && this.getText("_rels/.rels").includes("http://purl.oclc.org/ooxml/");
  }

  /**
   * A package with some parts replaced, added (at the end) or, where the value is `null`, left out. What is written as text into a
   * package of the strict form is named as that has it.
   */
  with(changes: ReadonlyMap<string, Uint8Array | string | null>, level = FILL_LEVEL): OoxmlPackage {
    const entries = new Map(this.entries);
    for (const [name, given] of changes) {
      if (given === null) entries.delete(name);
      else {
        const value = typeof given === "string" && this.isStrict ? strictNames(given) : given;
        const entry = new NewPart(name, value, level);
        READ.set(entry, typeof value === "string" ? { entry, text: value } : { entry, bytes: value });
        entries.set(name, entry);
      }
    }
    return new OoxmlPackage(entries, this.where);
  }

  /** The same package in the form of another, transitional or strict, so that its parts can stand among the other's. */
  inFormOf(other: OoxmlPackage): OoxmlPackage {
    if (this.isStrict === other.isStrict) return this;
    const names = this.isStrict ? STRICT_NAMES.map(([plain, strict]) => [strict, plain] as const) : STRICT_NAMES;
    const entries = new Map(this.entries);
    for (const name of this.names.filter((one) => /\.(?:xml|rels)$/i.test(one))) {
      const text = names.reduce((made, [from, to]) => made.replaceAll(from, to), this.getText(name));
      const entry = new NewPart(name, text, FILL_LEVEL);
      READ.set(entry, { entry, text });
      entries.set(name, entry);
    }
    return new OoxmlPackage(entries, this.where);
  }

  toBytes(): Uint8Array {
    return writeZip([...this.entries.values()].map((entry) => (entry instanceof NewPart ? entry.packed() : entry)));
  }
}

/** Names of the transitional form that begin so, and what they begin with in the strict one (ECMA-376 part 1 and part 4). */
const STRICT_NAMES: readonly (readonly [string, string])[] = [
  ["http://schemas.openxmlformats.org/drawingml/2006/", "http://purl.oclc.org/ooxml/drawingml/"],
  ["http://schemas.openxmlformats.org/presentationml/2006/main", "http://purl.oclc.org/ooxml/presentationml/main"],
  ["http://schemas.openxmlformats.org/spreadsheetml/2006/main", "http://purl.oclc.org/ooxml/spreadsheetml/main"],
  ["http://schemas.openxmlformats.org/wordprocessingml/2006/main", "http://purl.oclc.org/ooxml/wordprocessingml/main"],
  [OFFICE_RELATIONS, "http://purl.oclc.org/ooxml/officeDocument/relationships"],
];

function strictNames(text: string): string {
  return STRICT_NAMES.reduce((made, [from, to]) => made.replaceAll(from, to), text);
}

/** `xl/workbook.xml` has its relationships in `xl/_rels/workbook.xml.rels`. */
export function relationshipsName(part: string): string {
  const slash = part.lastIndexOf("/");
  return `${part.slice(0, slash + 1)}_rels/${part.slice(slash + 1)}.rels`;
}

function resolveTarget(folder: string, target: string): string {
  if (target.startsWith("/")) return target.slice(1);
  const parts: string[] = [];
  for (const piece of (folder + target).split("/")) {
    if (piece === "..") parts.pop();
    else if (piece !== "." && piece !== "") parts.push(piece);
  }
  return parts.join("/");
}

/**
 * Lists of relationships and content types with their names written plainly: some writers put a prefix before each, and what is
 * added to such a list has to be named as the rest is.
 */
function plainNames(part: string, text: string): string {
  if (part !== "[Content_Types].xml" && !part.endsWith(".rels")) return text;
  const prefix = /<(\w+):(?:Types|Relationships)\b/.exec(text)?.[1];
  if (prefix === undefined) return text;
  return text
    .replace(new RegExp(`<(/?)${prefix}:`, "g"), "<$1")
    .replace(new RegExp(`\\bxmlns:${prefix}=`, "g"), "xmlns=");
}
