import type { OoxmlPackage, XmlElement } from "../../../ooxml/index.js";
import type { Note } from "../../text/blocks.js";

export interface FoundNote {
  readonly part: string;
  readonly element: XmlElement;
  /** How notes of its kind are numbered, and from where (17.11.11, 17.11.17). */
  readonly format: string;
  readonly start: number;
}

/** A foot- or endnote by its id. */
export function findNote(
  { opened, documentPart }: { readonly opened: OoxmlPackage; readonly documentPart: string },
  kind: Note["kind"],
  id: string,
): FoundNote | undefined {
  const relations = opened.relationships(documentPart);
  const part = relations.find((relation) => relation.type === `${kind}s`)?.target;
  const notes = part === undefined ? [] : (opened.maybeXml(part)?.elements(kind) ?? []);
  const element = notes.find((one) => one.attr("w:id") === id);
  if (part === undefined || !element) return undefined;
  const settings = relations.find((relation) => relation.type === "settings")?.target;
  const own = settings ? opened.maybeXml(settings)?.child(`${kind}Pr`) : undefined;
  return {
    part,
    element,
    format: own?.child("numFmt")?.attr("w:val") ?? (kind === "footnote" ? "decimal" : "lowerRoman"),
    start: Number(own?.child("numStart")?.attr("w:val") ?? 1),
  };
}
