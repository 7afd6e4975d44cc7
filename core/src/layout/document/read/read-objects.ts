/** Pictures, shapes, text boxes and charts of a document: ECMA-376 part 1, 20.4, and older ones of part 4, 19. */

import { readMeasure } from "../../../common/index.js";
import type { Fonts } from "../../../fonts/index.js";
import type { OoxmlPackage, Relationship, XmlElement } from "../../../ooxml/index.js";
import {
  type Box,
  moveItems,
  type PageItem,
  type RasterImage,
  readImage,
  type StructureNode,
} from "../../../page/index.js";
import type { Theme } from "../../../spreadsheet/index.js";
import { say } from "../../../words/index.js";
import { chartTheme } from "../../chart/chart-theme.js";
import { drawChart } from "../../chart/draw-chart.js";
import { readChart } from "../../chart/read-chart.js";
import { drawShape, EMU_PER_PT, plainerOutline } from "../../drawing/shape.js";
import type { Block, Drawn, Float, FloatPlace, Inline } from "../../text/blocks.js";
import { drawStack, type LayingSite, stackHeight } from "../../text/fragment.js";
import { layBlocks } from "../../text/lay-blocks.js";

export type FoundObject =
  | Omit<Inline & { readonly kind: "object" }, "props">
  | { readonly kind: "float"; readonly float: Float };

/** What reading objects asks of the reader of its part. */
export interface ObjectSite {
  readonly opened: OoxmlPackage;
  readonly relations: ReadonlyMap<string, Relationship>;
  readonly theme: Theme;
  readonly fonts: Fonts;
  readonly blocks: (parent: XmlElement) => Block[];
  readonly laying: () => LayingSite;
  readonly missing: (what: string) => void;
}

/** Content in a box of a given size; text may need more height. */
interface Content {
  readonly width: number;
  readonly height: number;
  readonly isText: boolean;
  readonly node?: StructureNode | undefined;
  readonly draw: Drawn;
}

/** An object, or what stands in its way, as words for a finding. */
export function readObject(element: XmlElement, site: ObjectSite): FoundObject | string {
  if (element.local === "AlternateContent") {
    const chosen = element.child("Choice") ?? element.child("Fallback");
    const inner = chosen?.elements().find((one) => ["drawing", "pict", "object"].includes(one.local));
    return inner ? readObject(inner, site) : "a drawing";
  }
  return element.local === "drawing" ? readDrawing(element, site) : readOld(element, site);
}

function readDrawing(drawing: XmlElement, site: ObjectSite): FoundObject | string {
  const inline = drawing.child("inline");
  const holder = inline ?? drawing.child("anchor");
  const extent = holder?.child("extent");
  const data = holder?.path("graphic", "graphicData");
  if (!holder || !extent || !data) return say().layout.drawingKindCannotDrawn();
  const size = { width: emu(extent.attr("cx")), height: emu(extent.attr("cy")) };
  const content = contentOf(data.elements()[0], size, site);
  if (typeof content === "string") return content;
  const about = holder.child("docPr");
  const description = about?.attr("descr") || about?.attr("title") || "";
  if (inline) return { kind: "object", width: content.width, height: content.height, description, draw: content.draw };
  return { kind: "float", float: floatOf(holder, content, description) };
}

/** A coordinate in points; it may also be written with a unit (20.1.10.16). */
const emu = (value: string | undefined): number => readMeasure(value, EMU_PER_PT) ?? 0;

function floatOf(anchor: XmlElement, content: Content, description: string): Float {
  const wrap = anchor.elements().find((one) => one.local.startsWith("wrap"))?.local ?? "wrapNone";
  const place = (name: string): FloatPlace => {
    const position = anchor.child(name);
    return {
      from: position?.attr("relativeFrom") ?? "page",
      align: position?.child("align")?.text,
      offset: emu(position?.child("posOffset")?.text),
    };
  };
  return {
    width: content.width,
    height: content.height,
    wrap: wrap === "wrapNone" ? "none" : wrap === "wrapTopAndBottom" ? "topAndBottom" : "square",
    behind: anchor.attr("behindDoc") === "1" || anchor.attr("behindDoc") === "true",
    distance: {
      top: emu(anchor.attr("distT")),
      bottom: emu(anchor.attr("distB")),
      left: emu(anchor.attr("distL")),
      right: emu(anchor.attr("distR")),
    },
    horizontal: place("positionH"),
    vertical: place("positionV"),
    description,
    isText: content.isText,
    node: content.node,
    draw: content.draw,
  };
}

function contentOf(
  element: XmlElement | undefined,
  size: { readonly width: number; readonly height: number },
  site: ObjectSite,
): Content | string {
  switch (element?.local) {
    case "pic":
      return pictureOf(element, size, site);
    case "chart":
      return chartOf(element, size, site);
    case "wsp":
      return shapeOf(element, size, site);
    case "wgp":
    case "grpSp":
      return groupOf(element, size, site);
    default:
      return say().layout.diagram({ local: element?.local });
  }
}

function pictureOf(pic: XmlElement, size: { width: number; height: number }, site: ObjectSite): Content | string {
  const blip = pic.descendants("blip")[0];
  const image = imageAt(attributeEnding(blip, "embed"), site);
  if (typeof image === "string") return image;
  const crop = pic.descendants("srcRect")[0];
  const share = (side: string): number => Number(crop?.attr(side) ?? 0) / 100_000;
  const [left, right, top, bottom] = [share("l"), share("r"), share("t"), share("b")];
  const { width, height } = size;
  const whole: Box = {
    width: width / Math.max(0.01, 1 - left - right),
    height: height / Math.max(0.01, 1 - top - bottom),
    x: 0,
    y: 0,
  };
  const item: PageItem = { kind: "image", image, ...whole, x: -left * whole.width, y: -top * whole.height };
  const isCut = left + right + top + bottom > 0.0001;
  const items: PageItem[] = isCut ? [{ kind: "group", clip: { x: 0, y: 0, width, height }, items: [item] }] : [item];
  return { ...size, isText: false, draw: () => items };
}

function imageAt(id: string | undefined, site: ObjectSite): RasterImage | string {
  const relation = site.relations.get(id ?? "");
  if (relation?.external) return say().layout.pictureElsewhere();
  if (!relation || !site.opened.has(relation.target)) return say().layout.pictureMissingFile();
  const image = readImage(site.opened.getBytes(relation.target));
  const ending = relation.target.slice(relation.target.lastIndexOf(".") + 1).toUpperCase();
  if (image === "other") return say().layout.pictureOfKind({ kind: ending });
  return image === "damaged" ? say().layout.damagedPicture() : image;
}

function attributeEnding(element: XmlElement | undefined, name: string): string | undefined {
  return element && [...element.attributes].find(([key]) => key.endsWith(`:${name}`))?.[1];
}

function chartOf(element: XmlElement, size: { width: number; height: number }, site: ObjectSite): Content | string {
  const target = site.relations.get(attributeEnding(element, "id") ?? "")?.target;
  if (target === undefined || !site.opened.has(target)) return say().layout.chartMissingFile();
  const theme = chartTheme(site.opened, target, site.theme);
  const chart = readChart(site.opened.getXml(target), theme, { at: () => undefined });
  const box = { x: 0, y: 0, ...size };
  return { ...size, isText: false, draw: () => drawChart(chart, box, site.fonts, theme) };
}

/** Insets of a text box that says none, in English metric units (21.1.2.1.1). */
const INSET = { l: 91_440, r: 91_440, t: 45_720, b: 45_720 };

function shapeOf(shape: XmlElement, size: { width: number; height: number }, site: ObjectSite): Content {
  const outline = plainerOutline(shape);
  if (outline !== undefined) site.missing(say().layout.outlineRectangleStands({ outline }));
  const body = shape.child("bodyPr");
  const text = shape.child("txbx")?.child("txbxContent");
  const inset = (side: keyof typeof INSET): number => emu(body?.attr(`${side}Ins`) ?? String(INSET[side]));
  const laying = site.laying();
  const laid = text && layBlocks(site.blocks(text), Math.max(4, size.width - inset("l") - inset("r")), laying);
  const needed = laid ? stackHeight(laid) + inset("t") + inset("b") : 0;
  const grows = body?.child("spAutoFit") !== undefined;
  const height = grows && laid ? needed : size.height;
  if (laid && !grows && needed > size.height + 1) site.missing(say().layout.allTextBoxTextLonger());
  const anchor = body?.attr("anchor") ?? "t";
  const box = { x: 0, y: 0, width: size.width, height };
  const ground = drawShape(shape, box, site.fonts, site.theme);
  return {
    width: size.width,
    height,
    isText: laid !== undefined,
    node: laying.node,
    draw: (numbers) => {
      const grounds: PageItem[] = ground.length > 0 ? [{ kind: "tagged", node: undefined, items: ground }] : [];
      if (!laid) return laid === undefined && ground.length > 0 ? ground : [];
      const free = height - needed;
      const top = inset("t") + (anchor === "ctr" ? free / 2 : anchor === "b" ? free : 0);
      const items = drawStack(laid, inset("l"), Math.max(inset("t"), top), numbers);
      return [
        ...grounds,
        needed > height + 1 ? { kind: "group", clip: box, items } : { kind: "group", clip: undefined, items },
      ];
    },
  };
}

/** A group's parts in their places, scaled as the group is (20.1.7.5). */
function groupOf(group: XmlElement, size: { width: number; height: number }, site: ObjectSite): Content | string {
  const frame = group.child("grpSpPr")?.child("xfrm");
  const number = (name: string, attribute: string): number => emu(frame?.child(name)?.attr(attribute));
  const [width, height] = [number("chExt", "cx") || 1, number("chExt", "cy") || 1];
  const parts = group.elements().flatMap((part): { box: Box; content: Content }[] => {
    const own = part.child("spPr")?.child("xfrm") ?? part.child("grpSpPr")?.child("xfrm") ?? part.child("xfrm");
    if (!own) return [];
    const at = (name: string, attribute: string): number => emu(own.child(name)?.attr(attribute));
    const box = {
      x: ((at("off", "x") - number("chOff", "x")) / width) * size.width,
      y: ((at("off", "y") - number("chOff", "y")) / height) * size.height,
      width: (at("ext", "cx") / width) * size.width,
      height: (at("ext", "cy") / height) * size.height,
    };
    const content = contentOf(part, box, site);
    if (typeof content === "string") {
      site.missing(content);
      return [];
    }
    return [{ box, content }];
  });
  if (parts.length === 0) return say().layout.groupDrawings();
  const nodes = parts.flatMap(({ content }) => (content.isText && content.node ? [content.node] : []));
  return {
    ...size,
    isText: nodes.length > 0,
    node: nodes.length > 0 ? { role: "Div", children: nodes } : undefined,
    draw: (numbers) => parts.flatMap(({ box, content }) => moveItems(content.draw(numbers), box.x, box.y)),
  };
}

/** Pictures and text boxes of older files, whose place and size stand in a style. */
function readOld(element: XmlElement, site: ObjectSite): FoundObject | string {
  const shape = element.elements().find((one) => ["shape", "rect", "roundrect", "oval", "group"].includes(one.local));
  if (!shape || shape.local === "group") return say().layout.embeddedObject({ local: element.local });
  const style = new Map(
    (shape.attr("style") ?? "")
      .split(";")
      .map((one) => one.split(":").map((part) => part.trim()))
      .flatMap(([name, value = ""]): [string, string][] => (name === "" ? [] : [[name, value]])),
  );
  const size = { width: cssLength(style.get("width")), height: cssLength(style.get("height")) };
  if (size.width <= 0 || size.height <= 0) return say().layout.oldDrawing();
  const content = oldContent(shape, size, site);
  if (typeof content === "string") return content;
  const description = shape.attr("alt") ?? "";
  if (style.get("position") !== "absolute")
    return { kind: "object", width: size.width, height: content.height, description, draw: content.draw };
  const place = (axis: "horizontal" | "vertical", offset: string): FloatPlace => {
    const align = style.get(`mso-position-${axis}`);
    const from = style.get(`mso-position-${axis}-relative`) ?? "text";
    return {
      from: from === "text" ? (axis === "horizontal" ? "column" : "paragraph") : from,
      align: align === "absolute" ? undefined : align,
      offset: cssLength(style.get(offset)),
    };
  };
  return {
    kind: "float",
    float: {
      width: size.width,
      height: content.height,
      wrap: shape.descendants("wrap")[0]?.attr("type") === "square" ? "square" : "none",
      behind: Number(style.get("z-index") ?? 0) < 0,
      distance: { top: 0, bottom: 0, left: 9, right: 9 },
      horizontal: place("horizontal", "margin-left"),
      vertical: place("vertical", "margin-top"),
      description,
      isText: content.isText,
      node: content.node,
      draw: content.draw,
    },
  };
}

function oldContent(shape: XmlElement, size: { width: number; height: number }, site: ObjectSite): Content | string {
  const data = shape.child("imagedata");
  if (data) {
    const image = imageAt(attributeEnding(data, "id"), site);
    if (typeof image === "string") return image;
    return { ...size, isText: false, draw: () => [{ kind: "image", image, x: 0, y: 0, ...size }] };
  }
  const text = shape.child("textbox")?.child("txbxContent");
  if (!text) return say().layout.oldDrawing();
  const laying = site.laying();
  const laid = layBlocks(site.blocks(text), Math.max(4, size.width - 14.4), laying);
  const height = Math.max(size.height, stackHeight(laid) + 7.2);
  return {
    width: size.width,
    height,
    isText: true,
    node: laying.node,
    draw: (numbers) => drawStack(laid, 7.2, 3.6, numbers),
  };
}

function cssLength(value: string | undefined): number {
  const number = Number.parseFloat(value ?? "0");
  if (!Number.isFinite(number)) return 0;
  if (value?.endsWith("in")) return number * 72;
  if (value?.endsWith("cm")) return (number * 72) / 2.54;
  if (value?.endsWith("mm")) return (number * 72) / 25.4;
  return value?.endsWith("px") ? number * 0.75 : number;
}
