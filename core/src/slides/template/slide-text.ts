/** How a slide writes text: what marks in it are looked for by, and what becomes of values (ECMA-376 part 1, 21.1.2). */
import { chosenDrawing, type Dialect } from "../../marked/index.js";
import { escapeXml, XmlElement } from "../../ooxml/index.js";
import { hasMarks, parseStructure } from "../../template/index.js";
import { say } from "../../words/index.js";
import { aboutShape, placeholderOf, relationOf } from "../deck.js";
import { parseSlideStructure } from "./slide-structures.js";

/** Elements that show something by being there. */
const SHOWN: ReadonlySet<string> = new Set([
  "br",
  "fld",
  "pic",
  "graphicFrame",
  "cxnSp",
  "style",
  "oMath",
  "contentPart",
]);
const FILLS: ReadonlySet<string> = new Set(["solidFill", "gradFill", "pattFill", "blipFill"]);

const SHAPES: ReadonlySet<string> = new Set(["sp", "pic", "graphicFrame", "cxnSp", "grpSp"]);

export interface SlideTextSite {
  /** Addresses with marks in them, by the relationships that lead there. */
  readonly links: ReadonlyMap<string, string>;
  /** The frame of a shape as it is there or inherited. */
  readonly frameOf: (shape: XmlElement) => XmlElement | undefined;
}

const NOTHING: SlideTextSite = { links: new Map(), frameOf: () => undefined };

export function slideText({ links, frameOf }: SlideTextSite = NOTHING): Dialect {
  return {
    texts: new Set(["t"]),
    cells: new Set(["txBody", "rich"]),
    ofParagraphs: new Set(["p", "r", "fld", "txBody", "sp"]),
    isShown,
    placeOf,
    paragraphPlace: (where) => where,
    paragraph: (paragraph) => paragraph,
    structure: parseSlideStructure,
    tableAt: () => undefined,
    tableIn: (element) =>
      element.local === "graphicFrame" ? element.path("graphic", "graphicData", "tbl") : undefined,
    drawing: (element, where) => {
      if (!SHAPES.has(element.local) || element.local === "grpSp") return undefined;
      const description = aboutShape(element)?.attr("descr");
      if (!description || !hasMarks(description)) return undefined;
      return chosenDrawing(withFrame(asPicture(element), frameOf(element)), description, where);
    },
    linkIn: (element) => {
      if (element.local !== "hlinkClick" && element.local !== "hlinkHover") return undefined;
      const address = links.get(relationOf(element) ?? "");
      const attribute = [...element.attributes.keys()].find((name) => name.endsWith(":id"));
      return address === undefined || attribute === undefined ? undefined : { attribute, address };
    },
    hasBookmarks: false,
    goesAcross: true,
    openText: (name) => `<${name}>`,
    runText,
    withSign,
  };
}

/** Text of charts: values of their caches stand in elements of their own. */
export function chartText(): Dialect {
  return { ...slideText(), texts: new Set(["t", "v"]), structure: parseStructure, runText: (text) => escapeXml(text) };
}

function isShown(element: XmlElement): boolean {
  if (element.local !== "spPr") return SHOWN.has(element.local);
  const line = element.child("ln");
  return (
    element.elements().some((one) => FILLS.has(one.local)) ||
    (line?.elements().some((one) => FILLS.has(one.local)) ?? false)
  );
}

/** A shape's name is a place, and so is a table's row. */
function placeOf(element: XmlElement, where: string): string | undefined {
  if (!SHAPES.has(element.local)) return undefined;
  const name = aboutShape(element)?.attr("name") ?? "";
  return name === "" ? undefined : say().layout.shapeIn({ where, shape: name });
}

/** A value's line ends are breaks, which stand between runs; tabs stand in the text. */
function runText(text: string, prefix: string, runProperties: string): string {
  if (!/[\r\n]/.test(text)) return escapeXml(text);
  const between = `</${prefix}t></${prefix}r><${prefix}br>${runProperties}</${prefix}br><${prefix}r>${runProperties}<${prefix}t>`;
  return escapeXml(text.replace(/\r\n?/g, "\n")).replaceAll("\n", between);
}

/** Looks are attributes here. */
function withSign(runProperties: string, prefix: string, sign: "b" | "i"): string {
  if (runProperties === "") return `<${prefix}rPr ${sign}="1"/>`;
  return runProperties.replace(/^<[^>]*?(\/?)>/, (open) => {
    const bare = open.replace(new RegExp(`\\s${sign}="[^"]*"`), "");
    return bare.replace(/\s*(\/?)>$/, ` ${sign}="1"$1>`);
  });
}

/** An empty placeholder for a picture as the picture it asks for. */
function asPicture(shape: XmlElement): XmlElement {
  if (shape.local !== "sp" || placeholderOf(shape)?.type !== "pic" || shape.descendants("blip").length > 0)
    return shape;
  const prefix = shape.prefix;
  const named = shape.child("nvSpPr");
  const [about, , more] = named?.elements() ?? [];
  const properties = shape.child("spPr");
  if (!named || !about || !more || !properties) return shape;
  const element = (name: string, children: readonly XmlElement[], open = `<${name}>`): XmlElement =>
    new XmlElement(name, open, children);
  const blip = element("a:blip", [], '<a:blip r:embed=""/>');
  return element(`${prefix}pic`, [
    element(`${prefix}nvPicPr`, [about, element(`${prefix}cNvPicPr`, [], `<${prefix}cNvPicPr/>`), more]),
    element(`${prefix}blipFill`, [
      blip,
      element("a:srcRect", [], "<a:srcRect/>"),
      element("a:stretch", [element("a:fillRect", [], "<a:fillRect/>")]),
    ]),
    properties,
  ]);
}

/** A picture's frame written into it, where it only inherits one: what is put in has to be fitted. */
function withFrame(picture: XmlElement, frame: XmlElement | undefined): XmlElement {
  const properties = picture.child("spPr");
  if (picture.local !== "pic" || !frame || !properties || properties.child("xfrm")) return picture;
  const own = properties.withChildren([frame, ...properties.children]);
  return picture.withChildren(picture.children.map((child) => (child === properties ? own : child)));
}
