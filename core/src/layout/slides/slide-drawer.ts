/** Draws what stands on a slide, from its master up (ECMA-376 part 1, 19.3.1.43). */
import type { Finding } from "../../common/index.js";
import type { Fonts } from "../../fonts/index.js";
import type { XmlElement } from "../../ooxml/index.js";
import {
  type Box,
  boxIn,
  moveItems,
  type PageItem,
  type RasterImage,
  readImage,
  rectangle,
  type StructureNode,
  untagged,
} from "../../page/index.js";
import {
  aboutShape,
  type Deck,
  frameIn,
  isTitle,
  type Placeholder,
  placeholderOf,
  relationOf,
} from "../../slides/index.js";
import { say } from "../../words/index.js";
import { chartTheme } from "../chart/chart-theme.js";
import { drawChart } from "../chart/draw-chart.js";
import { readChart } from "../chart/read-chart.js";
import { paintIn } from "../drawing/colors.js";
import { type FillSite, fillItems, pictureFill } from "../drawing/fill-items.js";
import { geometryOf, outlinesOf } from "../drawing/geometry.js";
import { type Fill, fillOf, styleFill } from "../drawing/paint.js";
import { inGroup, type Placement, placementOf } from "../drawing/placement.js";
import { paintedOutline, paintOf, textRoom, turned, turnOf } from "../drawing/shape.js";
import { hasText, layBody, type TextSite, type TextSources } from "../drawing/text-body.js";
import { familyOf, kept } from "../drawing/text-looks.js";
import { child } from "../text/fragment.js";
import type { RunProps } from "../text/props.js";
import type { LookPart, SlideLooks } from "./slide-looks.js";
import { drawSlideTable } from "./slide-table.js";

/** What all slides of a deck are drawn with. */
export interface DeckSite {
  readonly deck: Deck;
  readonly fonts: Fonts;
  readonly tableStyles: ReadonlyMap<string, XmlElement>;
  /** The text of a field such as `slidenum`, on the slide that is drawn. */
  readonly field: (type: string, stored: string) => string;
  /** Where a slide's page is, by its part. */
  readonly placeOf: (part: string) => string | undefined;
  /** On a page of notes: the slide, drawn small into a box. */
  readonly image?: ((box: Box) => readonly PageItem[]) | undefined;
  readonly tell: (finding: Omit<Finding, "where">, shape: string) => void;
}

export class SlideDrawer {
  /** The part that is drawn from: 0 for the slide's own. */
  private from = 0;
  private images = new Map<string, RasterImage | string>();
  private shape = "";

  constructor(
    private readonly site: DeckSite,
    private readonly looks: SlideLooks,
    /** What the slide's content belongs to. */
    private node: StructureNode,
  ) {}

  private get part(): LookPart {
    return this.looks.parts[this.from];
  }

  draw(): PageItem[] {
    const { parts } = this.looks;
    const items: PageItem[] = [decoration(this.background())];
    const showsMaster = (at: number): boolean => {
      const shown = parts[at]?.root.attr("showMasterSp");
      return shown !== "0" && shown !== "false";
    };
    // What the master and the layout show decorates the slide, and belongs to nothing.
    const own = this.node;
    this.node = { role: "Artifact", children: [] };
    const behind = showsMaster(0) ? (showsMaster(1) ? [2, 1] : [1]) : [];
    for (const at of behind) {
      if (!parts[at]) continue;
      this.from = at;
      items.push(decoration(untagged(this.tree())));
    }
    this.from = 0;
    this.node = own;
    return [...items, ...this.tree()];
  }

  private tree(): PageItem[] {
    const tree = this.part.root.path("cSld", "spTree");
    return tree ? this.members(tree, (one) => one, undefined) : [];
  }

  private background(): PageItem[] {
    const { deck } = this.site;
    const box = { x: 0, y: 0, width: deck.width, height: deck.height };
    for (const [at, part] of this.looks.parts.entries()) {
      const ground = part.root.path("cSld", "bg");
      if (!ground) continue;
      this.from = at;
      const fill = fillOf(ground.child("bgPr"), part.theme) ?? styleFill(ground.child("bgRef"), part.theme);
      const items = fill && fill !== "none" ? fillItems(rectangle(box), box, fill, this.fillSite) : [];
      this.from = 0;
      return items;
    }
    return [];
  }

  private get fillSite(): FillSite {
    return { theme: this.part.theme, image: (id) => this.image(id), missing: (what) => this.missing(what) };
  }

  private image(id: string): RasterImage | string {
    const { opened } = this.site.deck;
    const key = `${this.part.part} ${id}`;
    let image = this.images.get(key);
    if (image === undefined) {
      const relation = opened.relationships(this.part.part).find((one) => one.id === id);
      if (relation?.external) image = say().layout.pictureElsewhere();
      else if (!relation || !opened.has(relation.target)) image = say().layout.pictureMissingFile();
      else {
        const read = readImage(opened.getBytes(relation.target));
        const kind = relation.target.slice(relation.target.lastIndexOf(".") + 1).toUpperCase();
        image =
          read === "other"
            ? say().layout.pictureOfKind({ kind })
            : read === "damaged"
              ? say().layout.damagedPicture()
              : read;
      }
      this.images.set(key, image);
    }
    return image;
  }

  /** The picture of a bullet, from the part that names it: the slide, or the layout or master whose list it is. */
  private bulletPicture(blip: XmlElement): RasterImage | undefined {
    const own = this.from;
    const at = this.looks.parts.findIndex(({ root }) => root.descendants("blip").includes(blip));
    this.from = at < 0 ? own : at;
    const image = this.image(relationOf(blip, "embed") ?? "");
    this.from = own;
    return typeof image === "string" ? undefined : image;
  }

  private missing(what: string): void {
    this.site.tell(
      {
        code: "not-drawn",
        severity: "warn",
        what: say().layout.pdfDoesShow({ name: this.shape, kind: what }),
        advice: say().layout.lookDeckItself(),
      },
      this.shape,
    );
  }

  private members(
    parent: XmlElement,
    place: (own: Placement) => Placement,
    groupFill: Fill | "none" | undefined,
  ): PageItem[] {
    return parent.elements().flatMap((element) => {
      const outer = this.shape;
      this.shape = aboutShape(element)?.attr("name") ?? outer;
      const items = this.member(element, place, groupFill);
      this.shape = outer;
      return items;
    });
  }

  private member(
    element: XmlElement,
    place: (own: Placement) => Placement,
    groupFill: Fill | "none" | undefined,
  ): PageItem[] {
    if (element.local === "AlternateContent") return this.alternatives(element, place, groupFill);
    const holder = placeholderOf(element);
    if (holder && this.from > 0) return [];
    if (aboutShape(element)?.attr("hidden") === "1") return [];
    switch (element.local) {
      case "sp":
      case "cxnSp":
        return this.withLink(element, this.drawShape(element, place, groupFill));
      case "pic":
        return this.withLink(element, this.drawPicture(element, place));
      case "graphicFrame":
        return this.withLink(element, this.drawFrame(element, place));
      case "grpSp":
        return this.drawGroup(element, place, groupFill);
      case "contentPart":
        this.missing(say().layout.drawingKindCannotDrawn());
        return [];
      default:
        return [];
    }
  }

  /** Of a choice what every reader knows; where that is empty, the newer way. */
  private alternatives(
    element: XmlElement,
    place: (own: Placement) => Placement,
    groupFill: Fill | "none" | undefined,
  ): PageItem[] {
    const fallback = element.child("Fallback");
    if (fallback && fallback.elements().length > 0) return this.members(fallback, place, groupFill);
    const choice = element.child("Choice");
    return choice ? this.members(choice, place, groupFill) : [];
  }

  /** Where a shape stands: as it says, or as the placeholder it stands for. */
  private placeOf(element: XmlElement, place: (own: Placement) => Placement): Placement | undefined {
    const own = frameIn(element);
    if (own?.child("ext")) return place(placementOf(own));
    const origins = this.looks.origins(element, this.from);
    for (let at = origins.length - 1; at >= 0; at--) {
      const frame = frameIn(origins[at]);
      if (frame?.child("ext")) return placementOf(frame);
    }
    return undefined;
  }

  private drawGroup(
    group: XmlElement,
    place: (own: Placement) => Placement,
    groupFill: Fill | "none" | undefined,
  ): PageItem[] {
    const properties = group.child("grpSpPr");
    const frame = properties?.child("xfrm");
    const own = frame?.child("ext") ? place(placementOf(frame)) : undefined;
    const fill = properties?.child("grpFill") ? groupFill : fillOf(properties, this.part.theme);
    if (!own) return this.members(group, place, fill);
    // Turned as a whole; mirrored by each of its members, so that text is not.
    const items = this.members(group, (member) => inGroup(frame, own)(member), fill);
    if (own.degrees === 0 || items.length === 0) return items;
    const { box } = own;
    const matrix = turnOf({ degrees: own.degrees, flipX: false, flipY: false }, box)?.ground;
    return moveItems(turned(moveItems(items, -box.x, -box.y), matrix), box.x, box.y);
  }

  private drawShape(
    shape: XmlElement,
    place: (own: Placement) => Placement,
    groupFill: Fill | "none" | undefined,
  ): PageItem[] {
    const placement = this.placeOf(shape, place);
    const body = shape.child("txBody");
    const isEmpty = !body || !hasText(body);
    const holder = placeholderOf(shape);
    // An empty placeholder shows nothing but what asks for text, and that in no print.
    if (
      !placement ||
      (holder &&
        holder.type !== "sldImg" &&
        isEmpty &&
        !shape
          .child("spPr")
          ?.elements()
          .some((one) => /Fill$|^ln$/.test(one.local)))
    )
      return [];
    const { box } = placement;
    if (holder?.type === "sldImg") {
      const image = this.site.image?.(box) ?? [];
      return image.length === 0 ? [] : [this.figure(aboutShape(shape)?.attr("name") ?? "", placement, image)];
    }
    const { theme } = this.part;
    const origins = this.looks.origins(shape, this.from);
    const properties = this.ownOrInherited(shape, origins);
    const { geometry, unknown } = geometryOf(properties.geometry, shape.local === "cxnSp" ? "line" : "rect");
    if (unknown !== undefined) this.plainer(say().layout.rectangleInsteadOutline({ outline: unknown }));
    const { paths, room } = outlinesOf(geometry, box.width, box.height);
    const style = shape.child("style") ?? origins[origins.length - 1]?.child("style");
    const paint = paintOf(properties.paint, style, theme, groupFill);
    const ground = turned(paintedOutline(paths, box, paint, this.fillSite), turnOf(placement, box)?.ground);
    const about = aboutShape(shape);
    const description = about?.attr("descr") ?? "";
    const items: PageItem[] = [];
    const shown = moveItems(ground, box.x, box.y);
    if (shown.length > 0)
      items.push(isEmpty && description !== "" ? this.figure(description, placement, shown) : decoration(shown));
    if (isEmpty) return items;
    const sources = this.looks.text(shape, this.from);
    const reference = style?.child("fontRef");
    const styled = reference
      ? kept(styledSources, sources, reference.toString(), () => ({ ...sources, over: fontOf(reference, theme) }))
      : sources;
    const laid = this.layText(body, room, styled, holder);
    if (laid.over > OVERFLOW) this.overflows(laid.over);
    const at = textRoom(room, placement, box.width);
    const text = turned(moveItems(laid.items, at.x, at.y), turnOf(placement, box)?.text);
    return [...items, ...moveItems(text, box.x, box.y)];
  }

  /** A placeholder has the outline and the paint of the one it stands for, as far as it says nothing. */
  private ownOrInherited(
    shape: XmlElement,
    origins: readonly XmlElement[],
  ): { geometry: XmlElement | undefined; paint: XmlElement | undefined } {
    const own = shape.child("spPr");
    const all = [...origins.map((origin) => origin.child("spPr")), own].filter((one) => one !== undefined);
    const last = (test: (name: string) => boolean): XmlElement | undefined => {
      for (let at = all.length - 1; at >= 0; at--)
        if (all[at].elements().some(({ local }) => test(local))) return all[at];
      return undefined;
    };
    if (!own || origins.length === 0) return { geometry: own, paint: own };
    const fill = last((name) => /Fill$/.test(name));
    const line = last((name) => name === "ln");
    const parts = [
      ...(fill?.elements().filter((one) => /Fill$/.test(one.local)) ?? []),
      ...(line?.elements("ln") ?? []),
      ...(last((name) => name === "effectLst")?.elements("effectLst") ?? []),
    ];
    return { geometry: last((name) => /Geom$/.test(name)) ?? own, paint: own.withChildren(parts) };
  }

  private layText(
    body: XmlElement,
    room: Pick<Box, "width" | "height">,
    sources: TextSources,
    holder: Placeholder | undefined,
  ): ReturnType<typeof layBody> {
    const site: TextSite = {
      fonts: this.site.fonts,
      theme: this.part.theme,
      node: this.node,
      isTitle: isTitle(holder),
      link: (element) => this.target(element),
      picture: (element) => this.bulletPicture(element),
      field: this.site.field,
    };
    return layBody(body, room, sources, site);
  }

  private overflows(over: number): void {
    this.site.tell(
      {
        code: "text-overflows",
        severity: "warn",
        what: say().layout.textLongerFrame({ shape: this.shape, points: Math.ceil(over) }),
        advice: say().layout.makeFrameLargerOrShrink(),
      },
      this.shape,
    );
  }

  private plainer(what: string): void {
    this.site.tell(
      {
        code: "drawn-plainer",
        severity: "note",
        what: say().layout.pdfShows({ name: this.shape, what }),
        advice: say().layout.lookDeckItself(),
      },
      this.shape,
    );
  }

  private figure(description: string, placement: Placement, items: readonly PageItem[]): PageItem {
    const { box } = placement;
    const matrix = turnOf(placement, box)?.ground;
    const around = matrix ? boxIn(matrix, { ...box, x: 0, y: 0 }) : { ...box, x: 0, y: 0 };
    const seen = { ...around, x: around.x + box.x, y: around.y + box.y };
    return {
      kind: "tagged",
      node: child(this.node, "P"),
      items: [{ kind: "figure", ...seen, description, items: untagged(items) }],
    };
  }

  private drawPicture(picture: XmlElement, place: (own: Placement) => Placement): PageItem[] {
    const placement = this.placeOf(picture, place);
    const fill = picture.child("blipFill");
    if (!placement || !fill) return [];
    const { box } = placement;
    const properties = picture.child("spPr");
    const { paths } = outlinesOf(geometryOf(properties).geometry, box.width, box.height);
    const paint = paintOf(properties, picture.child("style"), this.part.theme);
    const image = pictureFill(fill, { ...box, x: 0, y: 0 }, this.fillSite);
    const isRectangle =
      /^(?:rect)?$/.test(properties?.child("prstGeom")?.attr("prst") ?? "") && !properties?.child("custGeom");
    const cut: PageItem[] =
      image && !isRectangle
        ? paths.map((path) => ({ kind: "group", clip: undefined, outline: path.commands, items: image }))
        : (image ?? []);
    const under = paintedOutline(paths, box, { ...paint, line: "none" }, this.fillSite);
    const line = paintedOutline(paths, box, { ...paint, fill: undefined, shadow: undefined }, this.fillSite);
    const items = turned([...under, ...cut, ...line], turnOf(placement, box)?.ground);
    if (items.length === 0) return [];
    const description = aboutShape(picture)?.attr("descr") ?? "";
    return [this.figure(description, placement, moveItems(items, box.x, box.y))];
  }

  private drawFrame(frame: XmlElement, place: (own: Placement) => Placement): PageItem[] {
    const placement = this.placeOf(frame, place);
    const data = frame.path("graphic", "graphicData");
    const content = data?.elements()[0];
    if (!placement || !content) return [];
    switch (content.local) {
      case "tbl":
        return this.drawTable(content, placement);
      case "chart":
        return this.drawChart(content, frame, placement);
      case "relIds":
        return this.drawDiagram(content, placement);
      default: {
        // An embedded object shows the picture that was kept of it.
        const picture = content.descendants("pic")[0];
        if (picture) return this.drawPicture(withFrame(picture, frame), place);
        this.missing(say().layout.drawingKindCannotDrawn());
        return [];
      }
    }
  }

  private drawTable(table: XmlElement, { box }: Placement): PageItem[] {
    const { theme } = this.part;
    const drawn = drawSlideTable(table, box, {
      fonts: this.site.fonts,
      theme,
      node: child(this.node, "Table"),
      style: this.site.tableStyles.get(table.path("tblPr", "tableStyleId")?.text ?? ""),
      sources: this.looks.text(table, this.from),
      fill: this.fillSite,
      link: (element) => this.target(element),
      picture: (element) => this.bulletPicture(element),
      field: this.site.field,
    });
    const below = box.y + drawn.height - this.site.deck.height;
    if (below > OVERFLOW)
      this.site.tell(
        {
          code: "table-overflows",
          severity: "warn",
          what: say().layout.tableReachesBelow({ shape: this.shape, points: Math.ceil(below) }),
          advice: say().layout.letTableGoOn(),
        },
        this.shape,
      );
    return moveItems(drawn.items, box.x, box.y);
  }

  private drawChart(element: XmlElement, frame: XmlElement, placement: Placement): PageItem[] {
    const { opened } = this.site.deck;
    const id = relationOf(element);
    const target = opened.relationships(this.part.part).find((one) => one.id === id)?.target;
    if (target === undefined || !opened.has(target)) {
      this.missing(say().layout.chartMissingFile());
      return [];
    }
    const theme = chartTheme(opened, target, this.part.theme);
    const chart = readChart(opened.getXml(target), theme, { at: () => undefined });
    if (chart.unknown.length > 0) {
      this.missing(say().layout.chartKind({ unknown: chart.unknown.join(", ") }));
      if (chart.plots.length === 0) return [];
    }
    const items = drawChart(chart, placement.box, this.site.fonts, theme);
    const description = aboutShape(frame)?.attr("descr") || chart.title?.text || aboutShape(frame)?.attr("name") || "";
    return [this.figure(description, placement, moveItems(items, placement.box.x, placement.box.y))];
  }

  /** A diagram as it was drawn when it was last edited ([MS-ODRAWXML] 2.4.1). */
  private drawDiagram(ids: XmlElement, { box }: Placement): PageItem[] {
    const { opened } = this.site.deck;
    const relations = opened.relationships(this.part.part);
    const data = relations.find((one) => one.id === relationOf(ids, "dm"))?.target;
    const model = data === undefined ? undefined : opened.maybeXml(data);
    const drawing = model?.descendants("dataModelExt")[0]?.attr("relId");
    const target = relations.find((one) => one.id === drawing)?.target;
    const tree = target === undefined ? undefined : opened.maybeXml(target)?.child("spTree");
    if (!tree || target === undefined) {
      this.missing(say().layout.diagram({ local: "relIds" }));
      return [];
    }
    const move = (member: Placement): Placement => ({
      ...member,
      box: { ...member.box, x: member.box.x + box.x, y: member.box.y + box.y },
    });
    return this.members(tree, move, undefined);
  }

  /** A shape that leads somewhere as a whole. */
  private withLink(shape: XmlElement, items: PageItem[]): PageItem[] {
    const click = aboutShape(shape)?.child("hlinkClick");
    const target = click && this.target(click);
    const placement = target === undefined ? undefined : this.placeOf(shape, (one) => one);
    if (target === undefined || !placement || items.length === 0) return items;
    return [
      ...items,
      {
        kind: "tagged",
        node: child(this.node, "P"),
        items: [{ kind: "group", clip: undefined, items: [{ kind: "link", ...placement.box, target }] }],
      },
    ];
  }

  /** Where a link leads: outside, or to another slide (21.1.2.3.5). */
  private target(click: XmlElement): string | undefined {
    const action = click.attr("action") ?? "";
    const id = relationOf(click);
    const relation = this.site.deck.opened.relationships(this.part.part).find((one) => one.id === id);
    const jump = /^ppaction:\/\/hlinkshowjump\?jump=(\w+)/.exec(action)?.[1];
    if (jump) {
      const parts = this.site.deck.slides.map((slide) => slide.part);
      const at = parts.indexOf(this.looks.parts[0].part);
      const wanted = { firstslide: 0, lastslide: parts.length - 1, nextslide: at + 1, previousslide: at - 1 }[jump];
      return wanted === undefined ? undefined : this.site.placeOf(parts[wanted] ?? "");
    }
    if (!relation) return undefined;
    return relation.external ? relation.target : this.site.placeOf(relation.target);
  }
}

/** Text that is higher than its frame by more than this is told. */
const OVERFLOW = 3;

function decoration(items: readonly PageItem[]): PageItem {
  return { kind: "tagged", node: undefined, items };
}

/** What text takes its looks from in shapes with a style. */
const styledSources = new WeakMap<TextSources, Map<string, TextSources>>();

/** The font and colour that a shape's style asks for (20.1.4.1.17). */
function fontOf(reference: XmlElement, theme: LookPart["theme"]): RunProps {
  const color = paintIn(reference, theme)?.color;
  const index = reference.attr("idx");
  const font =
    index === "major" || index === "minor" ? familyOf(index === "major" ? "+mj-lt" : "+mn-lt", theme) : undefined;
  return { ...(color === undefined ? {} : { color }), ...(font === undefined ? {} : { font }) };
}

/** A picture inside a frame stands where the frame does. */
function withFrame(picture: XmlElement, frame: XmlElement): XmlElement {
  const place = frame.child("xfrm");
  const properties = picture.child("spPr");
  if (!place || !properties) return picture;
  const moved = properties.withChildren([place, ...properties.elements().filter((one) => one.local !== "xfrm")]);
  return picture.withChildren(picture.children.map((one) => (one === properties ? moved : one)));
}
